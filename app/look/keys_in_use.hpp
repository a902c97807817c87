#pragma once
/// \file Whether a person goes by keys or by the mouse just now: only keys need to be shown where they are.

namespace gc::app {

/// Begins to watch what the application is told.
void watchKeys();

/// Was the last thing pressed a key?
bool keysInUse();

} // namespace gc::app

#pragma once
/// \file Whether the stand can be drawn here.

#include <QString>

namespace gc::app {

/// Why the stand cannot be drawn, in a sentence; empty when it can. Needs a QGuiApplication.
QString graphicsTrouble();

/// Starts the program anew with the software renderer, once: returns only when that was tried already, or
/// cannot be.
void retryInSoftware(char** arguments);

} // namespace gc::app

#pragma once
/// \file For hard tests: a worker whose words are garbled on their way to the window.

#include <QByteArray>

#include <string>

namespace gc::test {

/// Writes a program to that path that runs the real worker and garbles what it says, always alike for a seed.
QByteArray garblingForge(const std::string& path, unsigned seed);
/// What that program does, in this one.
int garble(unsigned seed);

} // namespace gc::test

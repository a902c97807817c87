#pragma once
/// \file Whether the stand can be drawn here.

#include <QString>

namespace gc::app {

/// While it lives, an application that finds no screen ends with a sentence instead of the toolkit's abort.
class NeedsScreen {
  public:
    NeedsScreen();
    ~NeedsScreen();
    NeedsScreen(const NeedsScreen&) = delete;
    NeedsScreen& operator=(const NeedsScreen&) = delete;

  private:
    QtMessageHandler m_before;
};

/// Why the stand cannot be drawn, in a sentence; empty when it can. Needs a QGuiApplication.
QString graphicsTrouble();

/// Starts the program anew with the software renderer, once: returns only when that was tried already, or
/// cannot be.
void retryInSoftware(char** arguments);

} // namespace gc::app

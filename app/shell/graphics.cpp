#include "app/shell/graphics.hpp"

#include <QCoreApplication>
#include <QOffscreenSurface>
#include <QOpenGLContext>

#include <cstdio>
#include <cstdlib>
#include <fcntl.h>
#include <filesystem>
#include <sys/stat.h>
#include <unistd.h>

namespace gc::app {

namespace {

/// The toolkit says why in several lines for people who build it, and aborts.
void withoutScreen(QtMsgType type, const QMessageLogContext&, const QString&) {
    if (type != QtFatalMsg) return;
    std::fputs("Good Curve needs a screen, and there is none here that it can use. Start it on a desktop, "
               "or, to try it without one, with a virtual screen: xvfb-run -a good-curve (package xvfb).\n",
               stderr);
    std::_Exit(1);
}

/// Keeps the talk with the screen open over the change of program: a virtual screen whose last window goes
/// starts anew, and refuses whoever asks while it does.
void holdScreen() {
    std::error_code none;
    for (const auto& entry : std::filesystem::directory_iterator("/proc/self/fd", none)) {
        const int open = std::atoi(entry.path().filename().c_str());
        struct stat what = {};
        if (fstat(open, &what) == 0 && S_ISSOCK(what.st_mode)) fcntl(open, F_SETFD, 0);
    }
}

} // namespace

NeedsScreen::NeedsScreen() : m_before(qInstallMessageHandler(withoutScreen)) {}

NeedsScreen::~NeedsScreen() {
    qInstallMessageHandler(m_before);
}

QString graphicsTrouble() {
    const auto sentence = [](const QString& what) {
        return QCoreApplication::translate(
                   "main", "Good Curve needs OpenGL 3.3 to draw its parts, and %1. Update the "
                           "graphics driver, or install the package libgl1-mesa-dri.")
            .arg(what);
    };
    QOpenGLContext context;
    if (!context.create()) return sentence(QCoreApplication::translate("main", "there is none here"));
    QOffscreenSurface surface;
    surface.setFormat(context.format());
    surface.create();
    if (!surface.isValid() || !context.makeCurrent(&surface))
        return sentence(QCoreApplication::translate("main", "it cannot be used here"));
    const QSurfaceFormat got = context.format();
    context.doneCurrent();
    if (got.majorVersion() * 10 + got.minorVersion() < 33)
        return sentence(QCoreApplication::translate("main", "only %1.%2 is here")
                            .arg(got.majorVersion())
                            .arg(got.minorVersion()));
    return {};
}

void retryInSoftware(char** arguments) {
    if (std::getenv("LIBGL_ALWAYS_SOFTWARE")) return;
    ::setenv("LIBGL_ALWAYS_SOFTWARE", "1", 1);
    holdScreen();
    ::execv("/proc/self/exe", arguments);
}

} // namespace gc::app

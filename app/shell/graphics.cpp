#include "app/shell/graphics.hpp"

#include <QCoreApplication>
#include <QOffscreenSurface>
#include <QOpenGLContext>

#include <cstdio>
#include <cstdlib>
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
    ::execv("/proc/self/exe", arguments);
}

} // namespace gc::app

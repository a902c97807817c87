#include "app/shell/start.hpp"

#include "app/look/keys_in_use.hpp"
#include "app/look/theme.hpp"

#include <QApplication>
#include <QSurfaceFormat>

#include <malloc.h>

namespace gc::app {

void setSurfaceFormat() {
    QSurfaceFormat format;
    format.setVersion(3, 3);
    format.setProfile(QSurfaceFormat::CoreProfile);
    format.setDepthBufferSize(24);
    format.setStencilBufferSize(8);
    QSurfaceFormat::setDefaultFormat(format);
}

void dressApplication() {
    // The software renderer works with many threads; an arena of memory for each would only keep more of it.
    ::mallopt(M_ARENA_MAX, 4);
    QApplication::setApplicationName(QStringLiteral("Good Curve"));
    QApplication::setOrganizationName(QStringLiteral("good-curve"));
    QApplication::setApplicationVersion(QStringLiteral(GC_VERSION));
    QApplication::setStyle(QStringLiteral("Fusion"));
    loadFonts();
    QApplication::setFont(textFont(13));
    watchKeys();
}

} // namespace gc::app

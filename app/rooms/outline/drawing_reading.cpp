#include "app/rooms/outline/drawing_reading.hpp"

#include "core/base/file.hpp"
#include "core/document/limits.hpp"

namespace gc::app {

namespace {

Result<ImportedDrawing> readWhole(const std::string& path) {
    const auto content = readFile(path, kMostAttachedBytes);
    if (!content) return content.error();
    return readDrawingFile(path, *content);
}

} // namespace

DrawingReading::DrawingReading(QObject* parent) : QObject(parent) {
    m_beside.setMaxThreadCount(1);
}

DrawingReading::~DrawingReading() {
    m_beside.waitForDone();
}

void DrawingReading::start(const QString& path) {
    const int asked = ++m_asked;
    m_running = true;
    m_beside.start([this, asked, path] {
        auto read = std::make_shared<Result<ImportedDrawing>>(readWhole(path.toStdString()));
        QMetaObject::invokeMethod(
            this,
            [this, asked, path, read] {
                if (asked != m_asked) return;
                m_running = false;
                Q_EMIT done(path, read);
            },
            Qt::QueuedConnection);
    });
}

bool DrawingReading::cancel() {
    ++m_asked;
    return std::exchange(m_running, false);
}

} // namespace gc::app

#pragma once
/// \file A drawing file is read beside the window's thread, and can be let go of meanwhile.

#include "core/exchange/drawings/drawing_files.hpp"

#include <QObject>
#include <QThreadPool>

#include <memory>

namespace gc::app {

class DrawingReading : public QObject {
    Q_OBJECT
  public:
    explicit DrawingReading(QObject* parent);
    /// Waits for a reader that is still under way.
    ~DrawingReading() override;

    /// A reading that is under way is let go of.
    void start(const QString& path);
    /// What comes of it is not wanted any more. \return whether there was one under way
    bool cancel();
    bool running() const { return m_running; }

  Q_SIGNALS:
    void done(const QString& path, std::shared_ptr<gc::Result<gc::ImportedDrawing>> read);

  private:
    QThreadPool m_beside;
    int m_asked = 0;
    bool m_running = false;
};

} // namespace gc::app

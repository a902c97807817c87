#pragma once
/// \file Threads between the sections of a loft, whose ends are pulled from one place of a section to
/// another. Knows no widget: it is told where the pointer is, and paints where it is told to.

#include "app/link/scene.hpp"
#include "app/stand/camera.hpp"

#include <QPainter>

namespace gc::app {

class Threads {
  public:
    struct Scene {
        const Camera& camera;
        QSize size;
    };

    void set(std::vector<ThreadView> threads) { m_threads = std::move(threads); }
    bool empty() const { return m_threads.empty(); }
    const std::vector<ThreadView>& all() const { return m_threads; }

    /// A thread and one of its ends.
    struct Grip {
        int thread = -1; ///< -1: none
        bool end = true; ///< else its beginning
        friend bool operator==(const Grip&, const Grip&) = default;
    };
    Grip at(QPointF pointer, const Scene& s) const;
    QPointF gripAt(const Grip& grip, const Scene& s) const;

    // ---- pulling
    void take(const Grip& grip);
    bool pulling() const { return m_taken.thread >= 0; }
    /// To the place that is nearest to the pointer. \return whether that is another than before
    bool pullTo(QPointF pointer, const Scene& s);
    const ThreadView& taken() const { return m_held; }
    /// Where it is now; nothing where it was let go at once.
    const ThreadView::Place* place() const;
    void letGo() { m_taken = {}; }

    void paint(QPainter& p, const Scene& s, const Grip& hot) const;
    /// Does one run through a place of the screen?
    bool meet(const QRectF& place, const Scene& s) const;

  private:
    const std::vector<ThreadView::Place>& places() const { return m_taken.end ? m_held.ends : m_held.starts; }

    std::vector<ThreadView> m_threads;
    Grip m_taken;
    ThreadView m_held;
    int m_place = -1;
};

} // namespace gc::app

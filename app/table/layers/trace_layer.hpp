#pragma once
/// \file What of the part can be followed by what is drawn.

#include "app/table/drawing_model.hpp"
#include "app/table/table_view.hpp"

class QPainter;

namespace gc::app {

class TraceLayer {
  public:
    /// With its curves; none for a point.
    struct Seen {
        Trace trace;
        std::vector<Curve2> curves;
        bool isMeeting() const { return trace.source.starts_with("meeting "); }
        bool isCut() const { return trace.source.starts_with("cut "); }
    };

    void set(const std::vector<Trace>& traces);
    std::size_t size() const { return m_all.size(); }
    /// Meetings first, they are small; then cuts, then edges. Nothing when none is in reach.
    const Seen* under(QPointF pointer, const TableView& view) const;
    /// The nearest place where an edge of the part runs through the table.
    const Seen* nearestMeeting(Vec2 at) const;
    void paint(QPainter& p, const TableView& view, QPointF pointer) const;
    static void paintWords(QPainter& p, const QString& words, const TableView& view, QPointF pointer);

  private:
    std::vector<Seen> m_all;
};

} // namespace gc::app

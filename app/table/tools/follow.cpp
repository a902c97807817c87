// Strokes and points that stay with the part.

#include "app/table/drawing_table.hpp"
#include "app/table/tools/tool.hpp"
#include "core/document/trace_source.hpp"

namespace gc::app {

namespace {

class FollowTool : public TableTool {
  public:
    using TableTool::TableTool;

    void look(QPointF pointer, Qt::KeyboardModifiers) override {
        m_pointer = pointer;
        table().setHover(0);
    }
    void click(QPointF pointer, bool) override;
    void paintUnder(QPainter& p) override { table().traces().paint(p, table().view(), m_pointer); }
    void paint(QPainter& p) override {
        if (const auto* under = table().traces().under(m_pointer, table().view()))
            TraceLayer::paintWords(p, table().model().sourceWords(under->trace.source), table().view(),
                                   m_pointer);
    }

  private:
    QPointF m_pointer;
};

void FollowTool::click(QPointF pointer, bool) {
    const TraceLayer& traces = table().traces();
    const TraceLayer::Seen* under = traces.under(pointer, table().view());
    if (!under)
        return table().say(
            traces.size() == 0
                ? QObject::tr("▲ No body stands before this drawing yet, so there is nothing to follow.")
                : QObject::tr("Point at an edge or a cut of the part; what would be followed lights up."));
    const Trace trace = under->trace; // the list is made anew by the edit
    const bool point = under->curves.empty() && under->isMeeting();
    const bool taken = table().model().edit(QObject::tr("followed"), [&](Drawing& d) {
        if (!point) {
            followTrace(d, trace);
            return;
        }
        const int drawn = d.draw(StrokeKind::Point, {trace.at[0]});
        holdPoint(d, d.findStroke(drawn)->points[0], trace);
    });
    if (taken) table().say(QObject::tr("✓ It stays with %1.").arg(table().model().sourceWords(trace.source)));
}

} // namespace

ToolKind followTool() {
    return {QStringLiteral("follow"), QObject::tr("Follow"),
            QObject::tr("Click an edge or a cut of the part: a stroke that stays with it"), drawAndSize(),
            [](DrawingTable& t) { return std::make_unique<FollowTool>(t); }};
}

} // namespace gc::app

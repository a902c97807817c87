// A chain of lines and tangent arcs.

#include "app/look/theme.hpp"
#include "app/table/drawing_table.hpp"
#include "app/table/tools/placing_tool.hpp"
#include "core/sketch/arcs.hpp"
#include "core/sketch/drawing_words.hpp"

#include <QPainter>

#include <algorithm>
#include <utility>

namespace gc::app {

namespace {

class LineTool : public PlacingTool {
  public:
    using PlacingTool::PlacingTool;

    void click(QPointF, bool) override;
    void tab(bool) override;
    void finish() override { dropDraft(); }
    bool dropDraft() override;
    std::optional<Vec2> lastPlace() const override {
        return m_end ? std::optional(drawing().at(m_end)) : PlacingTool::lastPlace();
    }
    void paint(QPainter& p) override;
    bool chainOpen() const override { return m_end != 0; }

  protected:
    OfferQuestion question() const override;

  private:
    /// The ends of a stroke that was drawn from one place on.
    struct Ends {
        int start = 0, end = 0;
    };
    static Ends endsFrom(const Drawing& d, const Stroke& s, Vec2 from);
    const Drawing& drawing() const { return table().model().drawing(); }

    int m_last = 0;  ///< stroke of the chain
    int m_end = 0;   ///< point where the chain goes on
    int m_start = 0; ///< point where it began
    bool m_arcNext = false;
};

OfferQuestion LineTool::question() const {
    OfferQuestion q;
    if (m_end) {
        if (!m_arcNext) q.from = drawing().at(m_end);
        q.lastLine = m_last;
        q.notPoints = joinedPoints(drawing(), m_end);
    } else if (!m_draft.empty()) {
        q.from = m_draft.front().at;
    }
    return q;
}

bool LineTool::dropDraft() {
    const bool any = PlacingTool::dropDraft() || m_end;
    m_end = m_start = m_last = 0;
    m_arcNext = false;
    return any;
}

void LineTool::tab(bool) {
    if (!m_end || !m_last) return;
    m_arcNext = !m_arcNext;
    table().lookAgain();
}

LineTool::Ends LineTool::endsFrom(const Drawing& d, const Stroke& s, Vec2 from) {
    const bool forward = length(d.at(s.points[0]) - from) < length(d.at(s.points[1]) - from);
    return forward ? Ends{s.points[0], s.points[1]} : Ends{s.points[1], s.points[0]};
}

void LineTool::click(QPointF, bool) {
    if (!m_end && m_draft.empty()) {
        m_draft.push_back(m_offer);
        return;
    }
    const Offer offer = m_offer;
    const Vec2 from = m_end ? drawing().at(m_end) : m_draft.front().at;
    if (length(offer.at - from) < 1e-6) return;
    int joined = 0, stroke = 0;
    Ends ends;
    const bool arc = m_arcNext && m_last;
    const std::string typed = std::exchange(m_typedLength, {});
    const bool taken =
        table().model().edit(arc ? QObject::tr("tangent arc") : QObject::tr("line"), [&](Drawing& d) {
            stroke =
                arc ? drawTangentArc(d, m_last, m_end, offer.at) : d.draw(StrokeKind::Line, {from, offer.at});
            if (!stroke) return;
            ends = endsFrom(d, *d.findStroke(stroke), from);
            if (m_end)
                d.relate(RelationKind::Coincident, {ends.start, m_end});
            else
                landed(d, ends.start, 0, m_draft.front());
            if (arc) d.relate(RelationKind::Tangent, {m_last, stroke});
            joined = landed(d, ends.end, arc ? 0 : stroke, offer);
            if (!arc && !typed.empty()) { // a typed length is a size
                d.relate(RelationKind::Distance, {stroke}, typed);
                d.sized = true;
            }
        });
    if (!stroke) return table().say(QObject::tr("■ A tangent arc cannot get there. Press Tab for a line."));
    if (!taken) return; // it goes on from where it was
    if (!m_start) m_start = ends.start;
    m_draft.clear();
    m_end = ends.end;
    m_last = stroke;
    m_arcNext = false;
    // Back where it began: the chain is a ring, and done.
    const auto ring = joinedPoints(drawing(), m_start);
    if (joined && std::find(ring.begin(), ring.end(), joined) != ring.end()) dropDraft();
}

void LineTool::paint(QPainter& p) {
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().accent, 1.8));
    if (m_end || !m_draft.empty()) {
        const Vec2 from = m_end ? drawing().at(m_end) : m_draft.front().at;
        Drawing sketch = m_arcNext ? drawing() : Drawing();
        const int arc = m_arcNext ? drawTangentArc(sketch, m_last, m_end, m_offer.at) : 0;
        const TableView& view = table().view();
        if (arc)
            p.drawPath(view.pathOf(sketch, *sketch.findStroke(arc)));
        else
            p.drawLine(view.toScreen(from), view.toScreen(m_offer.at));
    }
    paintOffer(p);
}

} // namespace

ToolKind lineTool() {
    return {QStringLiteral("line"), QObject::tr("Line"),
            QObject::tr("A chain of lines. Tab: the next piece is a tangent arc. Alt: free of relations"),
            drawAndSize(), [](DrawingTable& t) { return std::make_unique<LineTool>(t); }};
}

} // namespace gc::app

// Trim, extend and split act on the stroke under the pointer.

#include "core/sketch/edit/cut.hpp"
#include "app/look/theme.hpp"
#include "app/table/drawing_table.hpp"
#include "app/table/tools/tool.hpp"
#include "core/sketch/offer.hpp"

#include <QPainter>

namespace gc::app {

namespace {

class CuttingTool : public TableTool {
  public:
    using TableTool::TableTool;

    void look(QPointF pointer, Qt::KeyboardModifiers) override {
        m_place = table().view().toDrawing(pointer);
        m_stroke = strokeAt(table().model().drawing(), m_place, table().view().reach());
        table().setHover(m_stroke);
    }
    void click(QPointF pointer, bool) override;
    /// What a click would do.
    void paint(QPainter& p) override {
        if (const Stroke* s = table().model().drawing().findStroke(m_stroke)) paintOn(p, *s, m_place);
    }

  protected:
    virtual EditOutcome cut(Drawing& d, int stroke, Vec2 place) const = 0;
    virtual QString done() const = 0;
    virtual void paintOn(QPainter& p, const Stroke& s, Vec2 place) const = 0;

  private:
    Vec2 m_place;
    int m_stroke = 0;
};

void CuttingTool::click(QPointF pointer, bool) {
    const Vec2 place = table().view().toDrawing(pointer);
    const int stroke = strokeAt(table().model().drawing(), place, table().view().reach());
    if (!stroke) return table().say(QObject::tr("Point at a line or curve; what would happen is shown."));
    Drawing trial = table().model().drawing();
    const EditOutcome out = cut(trial, stroke, place);
    if (!out.done()) return table().sayWhyNot(out);
    table().model().edit(done(), [&](Drawing& d) { d = trial; });
    table().sayLost(out);
}

class TrimTool : public CuttingTool {
    using CuttingTool::CuttingTool;
    EditOutcome cut(Drawing& d, int stroke, Vec2 place) const override { return trim(d, stroke, place); }
    QString done() const override { return QObject::tr("trimmed"); }
    void paintOn(QPainter& p, const Stroke& s, Vec2 place) const override {
        const Drawing& d = table().model().drawing();
        const auto piece = trimPiece(d, s.id, place);
        if (!piece) return;
        Drawing sketch;
        drawShape(sketch, piece->whole ? shapeOf(d, s) : partOf(d, s, piece->from, piece->to));
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(theme().fail, 4, Qt::DotLine));
        for (const Stroke& part : sketch.strokes) p.drawPath(table().view().pathOf(sketch, part));
    }
};

class ExtendTool : public CuttingTool {
    using CuttingTool::CuttingTool;
    EditOutcome cut(Drawing& d, int stroke, Vec2 place) const override { return extend(d, stroke, place); }
    QString done() const override { return QObject::tr("extended"); }
    void paintOn(QPainter& p, const Stroke& s, Vec2 place) const override {
        std::string why;
        const auto more = extension(table().model().drawing(), s.id, place, why);
        if (!more) return;
        p.setBrush(Qt::NoBrush);
        p.setPen(QPen(theme().accent, 2.2));
        p.drawPath(table().view().pathThrough({more->added}));
        p.drawEllipse(table().view().toScreen(more->to), 5, 5);
    }
};

class SplitTool : public CuttingTool {
    using CuttingTool::CuttingTool;
    EditOutcome cut(Drawing& d, int stroke, Vec2 place) const override { return split(d, stroke, place); }
    QString done() const override { return QObject::tr("split"); }
    void paintOn(QPainter& p, const Stroke& s, Vec2 place) const override {
        const StrokeRun run(table().model().drawing(), s);
        if (run.empty()) return;
        const double u = run.nearest(place);
        const QPointF at = table().view().toScreen(run.at(u));
        const Vec2 ahead = unit(run.slope(u));
        const QPointF n(ahead.y, ahead.x);
        p.setPen(QPen(theme().accent, 2.4));
        p.drawLine(at - n * 8, at + n * 8);
    }
};

template <class Cutting>
ToolKind kind(const char* key, const QString& label, const QString& tip) {
    return {QLatin1String(key), label, tip, change(),
            [](DrawingTable& t) { return std::make_unique<Cutting>(t); }};
}

} // namespace

QList<ToolKind> cuttingTools() {
    return {
        kind<TrimTool>("trim", QObject::tr("Trim"),
                       QObject::tr("Click a piece between two meetings: it goes")),
        kind<ExtendTool>("extend", QObject::tr("Extend"),
                         QObject::tr("Click a line or an arc near an end: it runs on to the next stroke")),
        kind<SplitTool>("split", QObject::tr("Split"), QObject::tr("Click a stroke: it becomes two there"))};
}

} // namespace gc::app

// Sizes: what they measure, then where the figure goes.

#include "app/table/drawing_table.hpp"
#include "app/table/tools/tool.hpp"
#include "core/sketch/offer.hpp"

#include <algorithm>
#include <utility>

namespace gc::app {

namespace {

class DimensionTool : public TableTool {
  public:
    using TableTool::TableTool;

    void look(QPointF pointer, Qt::KeyboardModifiers) override {
        const TableView& view = table().view();
        table().setHover(thingAt(table().model().drawing(), view.toDrawing(pointer), view.reach()));
    }
    void click(QPointF pointer, bool) override;
    void tab(bool back) override { table().walk(back); }
    bool dropDraft() override {
        const bool had = !std::exchange(m_measured, {}).empty();
        table().rebuildButtons();
        return had;
    }
    void paint(QPainter& p) override;
    std::vector<int> picked() const override { return m_measured; }
    void addButtons() override;

  private:
    std::optional<Relation> wanted(Vec2 place) const {
        return dimensionFor(table().model().drawing(), m_measured, place, m_overAll);
    }
    void addWidth(int stroke, Vec2 place);
    int curveWithWidth(const Drawing& d) const;

    std::vector<int> m_measured;
    bool m_overAll = false; ///< to the outermost places of circles and arcs
};

void DimensionTool::addButtons() {
    if (!hasOverAll(table().model().drawing(), m_measured)) return;
    const auto take = [this](bool overAll) {
        m_overAll = overAll;
        table().rebuildButtons();
        table().update();
    };
    table().addButton(
        QObject::tr("From the centres"), 0, [take] { take(false); }, !m_overAll);
    table().addButton(
        QObject::tr("Over all"), 0, [take] { take(true); }, m_overAll);
}

/// The size as it would be, with its figure at the pointer.
void DimensionTool::paint(QPainter& p) {
    if (m_measured.empty()) return;
    const auto size = wanted(table().view().toDrawing(table().pointer()));
    if (size) table().figures().paintDraft(p, *size);
}

void DimensionTool::click(QPointF pointer, bool) {
    if (const int figure = m_measured.empty() ? table().figures().under(pointer) : 0)
        return table().figures().open(figure);
    const Drawing& d = table().model().drawing();
    const Vec2 place = table().view().toDrawing(pointer);
    const int thing = thingAt(d, place, table().view().reach());
    if (thing && std::find(m_measured.begin(), m_measured.end(), thing) == m_measured.end() &&
        m_measured.size() < 2) {
        m_measured.push_back(thing);
        table().rebuildButtons();
        // A figure is always put down by a click beside things, so that two things can be measured.
        return table().update();
    }
    if (m_measured.empty()) return;
    const auto size = wanted(place);
    const int curve = curveWithWidth(d);
    m_measured.clear();
    table().rebuildButtons();
    if (!size && curve) return addWidth(curve, place);
    if (!size)
        return table().say(
            QObject::tr("■ These have no size between them. Choose a line, a circle, two things, or "
                        "a curve, with the axis or without, and the height for its width there."));
    table().addDimension(*size);
}

/// The curve that is measured by itself, or with the axis in either order; 0: none.
int DimensionTool::curveWithWidth(const Drawing& d) const {
    int curve = 0;
    for (const int id : m_measured) {
        if (id == kAxisLine) continue;
        if (curve || !hasWidths(d, id)) return 0;
        curve = id;
    }
    return curve;
}

/// How wide a curve is about the axis at the height that was clicked: both figures are open to typing.
void DimensionTool::addWidth(int stroke, Vec2 place) {
    CurveWidth width;
    table().model().edit(QObject::tr("width at a height"),
                         [&](Drawing& d) { width = widthAt(d, stroke, place, table().model().units()); });
    if (width.diameter) table().figures().open(width.diameter);
}

} // namespace

ToolKind dimensionTool() {
    return {
        QStringLiteral("dimension"), QObject::tr("Dimension"),
        QObject::tr(
            "A size: what it measures, then where its figure goes; a curve and a height: its width there"),
        drawAndSize(), [](DrawingTable& t) { return std::make_unique<DimensionTool>(t); }};
}

} // namespace gc::app

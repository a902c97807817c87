// Choosing, dragging, relating: what the pointer does when nothing is drawn.

#include "app/look/theme.hpp"
#include "app/table/choice_buttons.hpp"
#include "app/table/drawing_table.hpp"
#include "app/table/tools/tool.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/offer.hpp"

#include <QPainter>
#include <QPolygonF>

#include <algorithm>
#include <utility>

namespace gc::app {

namespace {

class ChooseTool : public TableTool {
  public:
    using TableTool::TableTool;

    void look(QPointF pointer, Qt::KeyboardModifiers) override {
        const TableView& view = table().view();
        m_hover = thingAt(drawing(), view.toDrawing(pointer), view.reach());
        table().setHover(m_hover);
    }
    void press(QPointF at, Qt::KeyboardModifiers keys) override;
    bool drag(QPointF at) override;
    bool drop(QPointF at, bool still, Qt::KeyboardModifiers keys) override;
    void click(QPointF pointer, bool more) override;
    void tab(bool back) override { table().walk(back); }
    void paint(QPainter& p) override;
    void addButtons() override { addChoiceButtons(table()); }
    Qt::CursorShape cursor() const override { return Qt::ArrowCursor; }

  private:
    const Drawing& drawing() const { return table().model().drawing(); }
    std::vector<int> groupOf(int stroke) const;
    void chooseArea(Vec2 place, bool more);
    void beginDrag();
    void endBox(bool more);

    int m_hover = 0;
    QPointF m_pressedAt;
    bool m_mayDrag = false;
    int m_sizeDragged = 0; ///< the circle whose rim is dragged
    QPolygonF m_loop;      ///< of a box or a lasso, on the screen
    bool m_lasso = false;
};

void ChooseTool::press(QPointF at, Qt::KeyboardModifiers keys) {
    m_pressedAt = at;
    if (const int figure = table().figures().under(at)) return table().figures().take(figure);
    m_mayDrag = m_hover > 0;
    if (m_hover || table().marks().at(at)) return;
    m_lasso = keys.testFlag(Qt::ControlModifier);
    m_loop << at;
}

void ChooseTool::beginDrag() {
    DrawingModel& model = table().model();
    if (const Stroke* s = drawing().findStroke(m_hover)) {
        const bool circle = s->kind == StrokeKind::Circle;
        m_sizeDragged = circle ? s->id : 0;
        circle ? model.beginDragSize(s->id) : model.beginDrag(s->points);
    } else if (m_hover > 0) {
        model.beginDrag({m_hover});
    }
}

bool ChooseTool::drag(QPointF at) {
    const bool far = (at - m_pressedAt).manhattanLength() > 4;
    DrawingModel& model = table().model();
    const TableView& view = table().view();
    if (table().figures().held()) {
        if (far) table().figures().dragTo(at);
        return true;
    }
    if (!m_loop.isEmpty()) {
        m_lasso ? void(m_loop << at) : void(m_loop = QPolygonF(QRectF(m_pressedAt, at).normalized()));
        return true;
    }
    if (m_mayDrag && far && !model.dragging()) beginDrag();
    if (!model.dragging()) return false;
    if (const Stroke* circle = drawing().findStroke(m_sizeDragged))
        model.dragSizeTo(length(view.toDrawing(at) - drawing().at(centrePoint(*circle))));
    else
        model.dragTo(view.toDrawing(at) - view.toDrawing(m_pressedAt));
    return true;
}

bool ChooseTool::drop(QPointF, bool still, Qt::KeyboardModifiers keys) {
    m_mayDrag = false;
    if (!m_loop.isEmpty() && !still) {
        endBox(keys.testFlag(Qt::ShiftModifier));
        return true;
    }
    m_loop.clear();
    if (table().figures().held()) {
        table().figures().letGo();
        return true;
    }
    if (!table().model().dragging()) return false;
    m_sizeDragged = 0;
    table().model().endDrag(QObject::tr("dragged"));
    return true;
}

void ChooseTool::endBox(bool more) {
    std::vector<Vec2> loop;
    for (const QPointF& p : m_loop) loop.push_back(table().view().toDrawing(p));
    m_loop.clear();
    std::vector<int> chosen = more ? table().chosen() : std::vector<int>();
    for (const int id : strokesWithin(drawing(), loop))
        if (std::find(chosen.begin(), chosen.end(), id) == chosen.end()) chosen.push_back(id);
    table().choose(std::move(chosen));
}

void ChooseTool::click(QPointF pointer, bool more) {
    if (const int mark = table().marks().at(pointer)) { // a relation: it is read out, and can be removed
        table().choose({mark});
        return table().say(table().model().sentence(*drawing().findRelation(mark)));
    }
    std::vector<int> chosen = table().chosen();
    std::erase_if(chosen, [this](int id) { return drawing().findRelation(id) != nullptr; });
    const Vec2 place = table().view().toDrawing(pointer);
    const int thing = thingAt(drawing(), place, table().view().reach());
    if (const auto group = groupOf(thing); !group.empty()) {
        // What moves as one is chosen as one; a second click takes the stroke alone.
        if (table().chosen() == group) return table().choose({thing});
        std::erase_if(chosen,
                      [&](int id) { return std::find(group.begin(), group.end(), id) != group.end(); });
        chosen.insert(chosen.end(), group.begin(), group.end());
        return table().choose(std::move(chosen));
    }
    const auto at = std::find(chosen.begin(), chosen.end(), thing);
    if (!thing) {
        if (more && !chosen.empty()) return table().choose(std::move(chosen));
        if (!more) table().choose({});
        return chooseArea(place, more);
    }
    if (at != chosen.end())
        chosen.erase(at);
    else
        chosen.push_back(thing); // choosing adds: what belongs together is clicked in turn
    table().choose(std::move(chosen));
}

/// The strokes that move as one with a stroke; none for one by itself.
std::vector<int> ChooseTool::groupOf(int stroke) const {
    for (const Relation& r : drawing().relations)
        if (r.kind == RelationKind::Together && std::find(r.of.begin(), r.of.end(), stroke) != r.of.end())
            return r.of;
    return {};
}

/// The innermost area about a place.
void ChooseTool::chooseArea(Vec2 place, bool more) {
    const Region* found = nullptr;
    for (const Region& r : table().model().closedness().regions)
        if (r.contains(place) && (!found || r.area() < found->area())) found = &r;
    if (!found) return;
    table().chooseArea(found->marks, more);
    double round = 0;
    for (const Side& s : found->outer.sides) round += s.curve.length();
    const UnitSystem& u = table().model().units();
    const double mm = u.factorFor(kLength);
    table().say(QObject::tr("This area: %1 %2, %3 round.")
                    .arg(found->area() / (mm * mm), 0, 'f', 1)
                    .arg(QString::fromStdString(u.symbolFor(kLength)) + QStringLiteral("²"),
                         QString::fromStdString(sizeInWords(round, kLength, u))));
}

void ChooseTool::paint(QPainter& p) {
    if (m_loop.size() < 2) return;
    QColor soft = theme().accent;
    soft.setAlphaF(0.10f);
    p.setPen(QPen(theme().accent, 1.2, Qt::DashLine));
    p.setBrush(soft);
    p.drawPolygon(m_loop);
}

} // namespace

ToolKind chooseTool() {
    return {QStringLiteral("choose"), QObject::tr("Choose"),
            QObject::tr("Choose, drag, relate. A drag on empty paper draws a box; with Ctrl, a loop"),
            drawAndSize(), [](DrawingTable& t) { return std::make_unique<ChooseTool>(t); }};
}

} // namespace gc::app

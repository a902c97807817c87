// All that is drawn by a few places: arcs, circles, rectangles, splines and their like.

#include "app/look/theme.hpp"
#include "app/table/drawing_table.hpp"
#include "app/table/tools/placing_tool.hpp"
#include "core/sketch/edit/draw_by_clicks.hpp"

#include <QPainter>

#include <algorithm>
#include <utility>

namespace gc::app {

namespace {

/// One way to draw it; its label is empty where there is only one.
struct Manner {
    Clicked what;
    QString label;
};

class DrawTool : public PlacingTool {
  public:
    DrawTool(DrawingTable& table, QString verb, QList<Manner> manners)
        : PlacingTool(table), m_verb(std::move(verb)), m_manners(std::move(manners)) {}

    QStringList ways() const override;
    void click(QPointF, bool) override;
    void finish() override;
    void paint(QPainter& p) override;
    void addButtons() override;

  private:
    Clicked clicked() const { return m_manners[way()].what; }
    void draw();
    static void landOnRim(Drawing& d, int circle, const Offer& offer, const std::string& typed);
    QString tooFew() const;

    QString m_verb;
    QList<Manner> m_manners;
    int m_sides = 6; ///< of a polygon
};

QStringList DrawTool::ways() const {
    QStringList out;
    for (const Manner& m : m_manners)
        if (!m.label.isEmpty()) out << m.label;
    return out;
}

void DrawTool::click(QPointF, bool) {
    m_draft.push_back(m_offer);
    if (!takesMore(clicked()) && static_cast<int>(m_draft.size()) >= placesFor(clicked())) draw();
}

void DrawTool::finish() {
    if (takesMore(clicked())) draw();
    dropDraft();
}

QString DrawTool::tooFew() const {
    switch (clicked()) {
    case Clicked::Poles:
        return QObject::tr("■ A spline led by poles needs at least four of them.");
    case Clicked::Fair:
        return QObject::tr("■ A fair curve needs at least three stations.");
    default:
        return QObject::tr("■ A spline needs at least two points.");
    }
}

void DrawTool::draw() {
    const auto draft = std::exchange(m_draft, {});
    const std::string typed = std::exchange(m_typedLength, {});
    if (draft.empty()) return;
    if (static_cast<int>(draft.size()) < placesFor(clicked())) return table().say(tooFew());
    std::vector<Vec2> places;
    for (const Offer& o : draft) places.push_back(o.at);
    Drawing with = table().model().drawing();
    const DrawnByClicks drawn = drawByClicks(with, clicked(), places, m_sides);
    if (drawn.strokes.empty())
        return table().say(
            clicked() == Clicked::ArcOnFrom
                ? QObject::tr("■ Click the end of a line or curve first, then a place to the side of it.")
                : QObject::tr("■ The places lie on one line or on one spot. Click the last one beside it."));
    for (std::size_t i = 0; i < drawn.points.size() && i < draft.size(); ++i)
        if (drawn.points[i]) landed(with, drawn.points[i], 0, draft[i]);
    if (drawn.rim) landOnRim(with, drawn.rim, draft.back(), typed);
    table().model().edit(m_verb, [&](Drawing& d) { d = std::move(with); });
}

/// A circle keeps the radius that was typed, or goes through the point that was clicked.
void DrawTool::landOnRim(Drawing& d, int circle, const Offer& offer, const std::string& typed) {
    if (!typed.empty()) {
        d.relate(RelationKind::Radius, {circle}, typed);
        d.sized = true;
        return;
    }
    for (const Relation& offered : offer.relations)
        if (offered.kind == RelationKind::Coincident)
            d.relate(RelationKind::OnStroke, {offered.of[1], circle});
}

/// What it would make with the pointer's place as its last.
void DrawTool::paint(QPainter& p) {
    const TableView& view = table().view();
    p.setBrush(Qt::NoBrush);
    p.setPen(QPen(theme().accent, 1.8));
    std::vector<Vec2> places;
    for (const Offer& o : m_draft) places.push_back(o.at);
    if (places.empty()) return paintOffer(p);
    if (length(places.back() - m_offer.at) > 1e-6) places.push_back(m_offer.at);
    Drawing sketch = clicked() == Clicked::ArcOnFrom ? table().model().drawing() : Drawing();
    const int before = sketch.nextId;
    const bool drawn = !drawByClicks(sketch, clicked(), places, m_sides).strokes.empty();
    if (!drawn || clicked() == Clicked::Poles) // the places so far, one after the other
        for (std::size_t i = 1; i < places.size(); ++i)
            p.drawLine(view.toScreen(places[i - 1]), view.toScreen(places[i]));
    if (drawn)
        for (const Stroke& s : sketch.strokes)
            if (s.id >= before) p.drawPath(view.pathOf(sketch, s));
    paintOffer(p);
}

void DrawTool::addButtons() {
    PlacingTool::addButtons();
    if (clicked() != Clicked::Polygon) return;
    static constexpr int kMostSides = 60;
    const auto sides = [this](int by) {
        m_sides = std::clamp(m_sides + by, 3, kMostSides);
        table().rebuildButtons();
        table().update();
    };
    table().addButton(QObject::tr("fewer sides"), 0, [sides] { sides(-1); });
    table().addButton(
        QObject::tr("%1 sides").arg(m_sides), 0, [] {}, true);
    table().addButton(QObject::tr("more sides"), 0, [sides] { sides(1); });
}

ToolKind kind(const char* key, const QString& label, const QString& tip, const QList<Manner>& manners) {
    return {QLatin1String(key), label, tip, drawAndSize(),
            [verb = label.toLower(), manners](DrawingTable& t) {
                return std::make_unique<DrawTool>(t, verb, manners);
            }};
}

} // namespace

QList<ToolKind> drawingTools() {
    return {kind("arc", QObject::tr("Arc"), QObject::tr("An arc: its two ends, then a point on it"),
                 {{Clicked::ArcThrough, QObject::tr("through a point")},
                  {Clicked::ArcAbout, QObject::tr("about a centre")},
                  {Clicked::ArcOnFrom, QObject::tr("on from an end")}}),
            kind("circle", QObject::tr("Circle"), QObject::tr("A circle: its centre, then its rim"),
                 {{Clicked::CircleAbout, QObject::tr("about a centre")},
                  {Clicked::CircleThrough, QObject::tr("through three points")}}),
            kind("ellipse", QObject::tr("Ellipse"),
                 QObject::tr("An ellipse: its centre, an end of one axis, then how wide the other is"),
                 {{Clicked::Ellipse, {}}}),
            kind("rectangle", QObject::tr("Rectangle"), QObject::tr("A rectangle by two corners"),
                 {{Clicked::Rectangle, QObject::tr("by two corners")},
                  {Clicked::RectangleAbout, QObject::tr("about a centre")},
                  {Clicked::RectangleRound, QObject::tr("with round corners")}}),
            kind("polygon", QObject::tr("Polygon"),
                 QObject::tr("A regular polygon: its centre, then a corner"), {{Clicked::Polygon, {}}}),
            kind("slot", QObject::tr("Slot"),
                 QObject::tr("A slot: the centres of its two ends, then how wide"), {{Clicked::Slot, {}}}),
            kind("conic", QObject::tr("Conic"),
                 QObject::tr("A conic arc: its two ends, then where the tangents there meet"),
                 {{Clicked::Conic, {}}}),
            kind("spline", QObject::tr("Spline"), QObject::tr("A spline: point after point, then Enter"),
                 {{Clicked::Spline, QObject::tr("through points")},
                  {Clicked::Poles, QObject::tr("led by poles")},
                  {Clicked::Fair, QObject::tr("fair, near stations")}}),
            kind("point", QObject::tr("Point"), QObject::tr("A point by itself"), {{Clicked::Point, {}}})};
}

} // namespace gc::app

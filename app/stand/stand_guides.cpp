#include "app/link/forge_link.hpp"
#include "app/look/points.hpp"
#include "app/look/theme.hpp"
#include "app/stand/stand.hpp"

#include <QPainter>
#include <QPainterPath>

#include <algorithm>
#include <cmath>

// Planes and drawings as they lie in space: painted over the part, picked, and planes dragged.

namespace gc::app {

namespace {

constexpr double kReach = 11; // pixels

double distanceTo(QPointF a, QPointF b, QPointF p) {
    const QPointF u = b - a, v = p - a;
    const double l2 = QPointF::dotProduct(u, u);
    const double t = l2 > 0 ? std::clamp(QPointF::dotProduct(u, v) / l2, 0.0, 1.0) : 0;
    const QPointF d = v - u * t;
    return std::hypot(d.x(), d.y());
}

bool isFixed(const QString& name) {
    return name == QLatin1String("front") || name == QLatin1String("ground") || name == QLatin1String("side");
}

} // namespace

void Stand::showGuides(bool on) {
    m_guides = on;
    update();
}

void Stand::setPicking(Picking picking) {
    if (picking != m_picking) m_keyAt = {};
    m_picking = picking;
    forgetBeneath();
    m_boxed.clear();
    m_under = {};
    m_idsStale = true;
    update();
}

/// A square of the plane about the foot of the part's middle, a little larger than the part.
QPolygonF Stand::planeOutline(const PlaneView& view) const {
    const auto& e = m_renderer.extent();
    const float reach = e.empty() ? 60.f : std::max(20.f, e.size() * 0.38f);
    const QVector3D middle = e.empty() ? QVector3D() : e.centre();
    const Vec2 foot = view.plane.foot({double(middle.x()), double(middle.y()), double(middle.z())});
    QPolygonF out;
    for (const Vec2 k : {Vec2{-1, -1}, {1, -1}, {1, 1}, {-1, 1}})
        out << screenOf(toQt(view.plane.at(foot + k * static_cast<double>(reach))));
    return out;
}

QPointF Stand::planeLabel(const QString& name) const {
    for (const PlaneView& p : m_forge->planes())
        if (p.name == name) {
            // Made planes are named at another corner than the fixed ones, which they often lie upon. Where a
            // size, a thread or a button is there, it is the next that is free.
            const QPolygonF square = planeOutline(p);
            const auto at = [&](int k) {
                const QPointF inward = (square[0] + square[2]) / 2 - square[k];
                const double in = k % 2 == 0 ? 70 : 26; // px: the corners beside are narrow
                return square[k] + inward * (in / std::max(in, lengthOf(inward)));
            };
            const auto isTaken = [&](const QRectF& room) {
                return m_handles.meet(room, handleScene()) || m_threads.meet(room, threadScene()) ||
                       childAt(room.topLeft().toPoint()) || childAt(room.center().toPoint()) ||
                       childAt(room.topRight().toPoint());
            };
            const int usual = isFixed(name) ? 3 : 1;
            for (const int k : {usual, (usual + 2) % 4, 2, 0})
                if (!isTaken(QRectF(at(k) - QPointF(45, 12), QSizeF(90, 24)))) return at(k);
            return at(usual);
        }
    return {};
}

bool Stand::planeShown(const PlaneView& p) const {
    if (m_picking == Picking::Planes) return true;
    return (m_guides && !isFixed(p.name)) || p.name == m_plane;
}

/// The place on a face under the pointer, in words of the file; empty where nothing is.
QString Stand::spotUnder(QPoint at, const QString& face) {
    const float depth = m_renderer.depthAt(at);
    if (depth >= 1) return {};
    const QVector3D p = m_camera.unproject(at, depth, size());
    return QStringLiteral("spot %1 %2 %3 on %4")
        .arg(double(p.x()), 0, 'f', 2)
        .arg(double(p.y()), 0, 'f', 2)
        .arg(double(p.z()), 0, 'f', 2)
        .arg(face);
}

/// Edges and strokes are wanted: rules that take in more are left out. Else the nearest drawn stroke in
/// reach; where several may be chosen, with all that goes on from it. Then strokes come before edges: what is
/// swept along them lies about them.
QStringList Stand::curvesUnder(QPointF at, const QStringList& edge) const {
    QStringList refs;
    for (const QString& r : edge)
        if (r.startsWith(QLatin1String("where "))) refs << r;
    if (!refs.isEmpty() && !m_several) return refs;
    if (const StrokeView* s = strokeUnder(at))
        refs = m_several ? QStringList{s->chain, s->ref} : QStringList{s->ref};
    return refs;
}

/// The stroke of a drawing that is nearest to a place, within reach. \param nearest gets where it is that
const StrokeView* Stand::strokeUnder(QPointF at, QVector3D* nearest) const {
    double least = kReach;
    const StrokeView* found = nullptr;
    for (const auto& [step, d] : m_forge->drawings())
        for (const StrokeView& s : d.strokes)
            for (std::size_t i = 1; i < s.points.size(); ++i) {
                const QPointF a = screenOf(s.points[i - 1]), b = screenOf(s.points[i]);
                const double away = distanceTo(a, b, at);
                if (away >= least) continue;
                least = away;
                found = &s;
                if (!nearest) continue;
                const QPointF way = b - a;
                const double whole = QPointF::dotProduct(way, way),
                             along = whole > 0 ? QPointF::dotProduct(at - a, way) / whole : 0;
                *nearest = s.points[i - 1] +
                           (s.points[i] - s.points[i - 1]) * static_cast<float>(std::clamp(along, 0.0, 1.0));
            }
    return found;
}

/// A closed line of a drawing, a point that is on none, the rim of a face.
QStringList Stand::sectionsUnder(QPointF at, const QStringList& face) const {
    QStringList refs;
    if (const StrokeView* s = strokeUnder(at)) refs = {s->chain};
    if (refs.isEmpty()) refs = placesUnder(at);
    for (const QString& r : face)
        if (refs.isEmpty() && isItsOwn(r, false)) refs = {QStringLiteral("rim of ") + r};
    return refs;
}

/// Nothing of the part lies before it.
bool Stand::isSeen(const QVector3D& place) const {
    constexpr float kDeep = 0.6f; // mm: it lies on the part itself
    const QPoint at = screenOf(place).toPoint();
    const float depth = m_renderer.depthAt(at);
    if (depth >= 1) return true;
    const QVector3D front = m_camera.unproject(at, depth, size());
    return QVector3D::dotProduct(front - place, m_camera.direction()) <
           kDeep + m_camera.mmPerPixel(size()) * 3;
}

QStringList Stand::placesUnder(QPointF at) const {
    QStringList refs;
    double least = kReach;
    for (const PlaceView& p : m_forge->places()) {
        const QPointF d = screenOf(p.at) - at;
        const double away = std::hypot(d.x(), d.y());
        if (away >= least || (m_picking == Picking::Anything && !isSeen(p.at))) continue;
        least = away;
        refs = p.refs;
    }
    return refs;
}

/// A point where there is one, else an edge, a drawn line that nothing covers, or a face.
void Stand::pickAnything(QPointF at, bool face, const QStringList& refs, Pick& pick) const {
    pick.refs = placesUnder(at);
    pick.kind = Picking::Points;
    if (!pick.refs.isEmpty()) {
        pick.pending = false;
        return;
    }
    const bool edge = !face && !refs.isEmpty();
    QVector3D nearest;
    const StrokeView* s = edge || (pick.pending && !face) ? nullptr : strokeUnder(at, &nearest);
    if (s && isSeen(nearest)) {
        pick.kind = Picking::Curves;
        pick.refs = {s->ref};
        pick.pending = false;
        return;
    }
    pick.kind = face ? Picking::Faces : Picking::Edges;
    // Just this one: a rule would take in more.
    for (const QString& r : refs)
        if (isItsOwn(r, !face)) pick.refs = {r};
}

Pick Stand::pickAt(QPoint at) {
    refreshIds();
    Pick pick;
    pick.kind = m_picking;
    const std::uint32_t id = idUnder(at);
    const bool face = id && !(id & kEdgeBit);
    QStringList refs;
    if (id && m_picking != Picking::Bodies && m_picking != Picking::Areas) {
        const QStringList* known = m_forge->namesOf(m_renderer.itemOf(id));
        pick.pending = known == nullptr;
        if (known) refs = *known;
    }
    if (face && !refs.isEmpty()) pick.spot = spotUnder(at, refs.first());
    switch (m_picking) {
    case Picking::Nothing:
        break;
    case Picking::Faces:
        if (face) pick.refs = refs;
        break;
    case Picking::Edges:
        if (id & kEdgeBit) pick.refs = refs;
        break;
    case Picking::Curves:
        pick.refs = curvesUnder(at, id & kEdgeBit ? refs : QStringList());
        break;
    case Picking::Sections:
        pick.refs = sectionsUnder(at, face ? refs : QStringList());
        pick.pending = pick.pending && pick.refs.isEmpty();
        break;
    case Picking::Points:
        pick.refs = placesUnder(at);
        if (pick.refs.isEmpty() && !pick.spot.isEmpty()) pick.refs = {pick.spot};
        break;
    case Picking::Axes:
        pick.refs = axisUnder(at);
        if (pick.refs.isEmpty()) pick.refs = curvesUnder(at, id & kEdgeBit ? refs : QStringList());
        if (pick.refs.isEmpty() && face && !m_renderer.isFlat(id)) pick.refs = refs;
        break;
    case Picking::Planes:
        if (face && m_renderer.isFlat(id)) pick.refs = refs;
        if (pick.refs.isEmpty()) pick.refs = planeUnder(at, face);
        pick.pending = pick.pending && pick.refs.isEmpty();
        break;
    case Picking::Bodies:
        if (id) pick.refs = {nameOf(m_renderer.itemOf(id).body)};
        break;
    case Picking::Anything:
        pickAnything(at, face, refs, pick);
        break;
    case Picking::Areas:
        if (const AreaView* a = areaUnder(at, pick.drawing)) pick.refs = {a->area};
        break;
    }
    return pick;
}

/// An axis that a step made.
QStringList Stand::axisUnder(QPointF at) const {
    for (const AxisView& a : m_forge->axes())
        if (distanceTo(screenOf(a.from), screenOf(a.to), at) < kReach) return {a.name};
    return {};
}

void Stand::paintAxes(QPainter& p) const {
    const Theme& t = theme();
    for (const AxisView& a : m_forge->axes()) {
        const bool hot = m_under.refs.contains(a.name), held = m_chosen.contains(a.name);
        if (!m_guides && m_picking != Picking::Axes && !held) continue;
        const QPointF from = screenOf(a.from), to = screenOf(a.to);
        QPen pen(hot ? t.halo : held ? t.accent : t.ink, hot || held ? 2.4 : 1.2);
        pen.setDashPattern({9, 3, 1.5, 3}); // as axes are drawn in drawings
        p.setPen(pen);
        p.drawLine(from, to);
        p.setFont(textFont(12, QFont::DemiBold));
        p.setPen(held ? t.accent : t.ink);
        p.drawText(QRectF((from.y() < to.y() ? from : to) + QPointF(6, -18), QSizeF(140, 18)),
                   Qt::AlignLeft | Qt::AlignVCenter, a.name);
    }
}

/// A plane's label, or the border of its square; the square itself where no face is in the way.
QStringList Stand::planeUnder(QPointF at, bool behindFace) const {
    QString inside;
    for (const PlaneView& p : m_forge->planes()) {
        const QPolygonF square = planeOutline(p);
        for (int i = 0; i < 4; ++i)
            if (distanceTo(square[i], square[(i + 1) % 4], at) < 5) return {p.name};
        const QPointF label = planeLabel(p.name);
        if (QRectF(label - QPointF(45, 12), QSizeF(90, 24)).contains(at)) return {p.name};
        if (square.containsPoint(at, Qt::OddEvenFill)) inside = p.name; // made last lies on top
    }
    return inside.isEmpty() || behindFace ? QStringList() : QStringList{inside};
}

void Stand::paintGuides(QPainter& p) {
    const Theme& t = theme();
    const auto isUnder = [&](const QString& ref) { return m_under.refs.contains(ref); };
    for (const PlaneView& view : m_forge->planes()) {
        if (!planeShown(view)) continue;
        const bool hot = isUnder(view.name), held = m_chosen.contains(view.name);
        const QPolygonF square = planeOutline(view);
        QColor fill = hot ? t.halo : held ? t.accent : t.band;
        fill.setAlphaF(hot || held ? 0.2f : 0.07f);
        p.setBrush(fill);
        p.setPen(QPen(hot ? t.halo : held ? t.accent : t.inkSoft, hot || held ? 2 : 1.2));
        p.drawPolygon(square);
        p.setFont(textFont(12, QFont::DemiBold));
        p.setPen(held ? t.accent : t.ink);
        p.drawText(QRectF(planeLabel(view.name) - QPointF(60, 10), QSizeF(120, 20)), Qt::AlignCenter,
                   view.name);
    }
    paintAxes(p);
    paintAreas(p);
    const bool curves = m_picking == Picking::Curves || m_picking == Picking::Points ||
                        m_picking == Picking::Axes || m_picking == Picking::Sections;
    if (m_guides || curves || m_picking == Picking::Anything)
        for (const auto& [step, d] : m_forge->drawings())
            for (const StrokeView& s : d.strokes) {
                QPolygonF line;
                for (const QVector3D& v : s.points) line << screenOf(v);
                const bool hot = isUnder(s.ref) || isUnder(s.chain);
                const bool held = m_chosen.contains(s.ref) || m_chosen.contains(s.chain);
                if (!m_guides && !curves && !hot && !held) continue; // measuring: one among many things
                if (hot || held) {
                    QColor halo = hot ? t.halo : t.accent;
                    halo.setAlphaF(0.5f);
                    p.setPen(QPen(halo, 7, Qt::SolidLine, Qt::RoundCap));
                    p.drawPolyline(line);
                }
                p.setPen(QPen(t.accent, curves ? 1.8 : 1.2));
                p.drawPolyline(line);
            }
    if (m_picking == Picking::Points || m_picking == Picking::Sections || m_picking == Picking::Anything)
        for (const PlaceView& place : m_forge->places()) {
            constexpr double kNear = 110; // pixels: where anything can be picked, points are not all there is
            if (m_picking != Picking::Points) {
                const QPointF d = screenOf(place.at) - m_pointer;
                if (std::hypot(d.x(), d.y()) > kNear || !isSeen(place.at)) continue;
            }
            const bool hot = !place.refs.isEmpty() && isUnder(place.refs.first());
            const bool held = !place.refs.isEmpty() && m_chosen.contains(place.refs.first());
            p.setPen(QPen(held ? t.accent : t.ink, 1.4));
            p.setBrush(hot ? t.halo : held ? t.accent : t.card);
            p.drawEllipse(screenOf(place.at), hot || held ? 5.5 : 3.2, hot || held ? 5.5 : 3.2);
        }
}

/// The area that a place lies in: of the drawing that is asked for first, then of any.
const AreaView* Stand::areaUnder(QPointF at, int& step) const {
    const AreaView* found = nullptr;
    for (const auto& [id, d] : m_forge->drawings())
        for (const AreaView& a : d.areas) {
            if (found && id != m_areasOf) continue;
            QPainterPath path; // what lies in a hole is not in it
            for (const auto& loop : a.loops) {
                QPolygonF line;
                for (const QVector3D& v : loop) line << screenOf(v);
                path.addPolygon(line);
            }
            if (!path.contains(at)) continue;
            found = &a;
            step = id;
        }
    return found;
}

void Stand::paintAreas(QPainter& p) const {
    const Theme& t = theme();
    const bool picked = m_picking == Picking::Areas;
    for (const auto& [id, d] : m_forge->drawings())
        for (const AreaView& a : d.areas) {
            if (!picked && id != m_areasOf) continue; // where the sentence takes it from
            const bool hot = m_under.drawing == id && m_under.refs.contains(a.area);
            const bool held = id == m_areasOf && m_areas.contains(a.area);
            QPainterPath path;
            for (const auto& loop : a.loops) {
                QPolygonF line;
                for (const QVector3D& v : loop) line << screenOf(v);
                path.addPolygon(line);
                path.closeSubpath();
            }
            QColor fill = hot ? t.halo : held ? t.accent : t.band;
            fill.setAlphaF(hot || held ? 0.38f : 0.12f);
            if (picked || held) p.fillPath(path, fill);
            p.strokePath(path, QPen(hot ? t.halo : t.accent, hot || held ? 2.2 : 1.2));
        }
}

void Stand::setAreas(int step, const QStringList& areas) {
    m_areasOf = step;
    m_areas = areas;
    update();
}

} // namespace gc::app

#include "core/steps/shared/lean_half.hpp"

#include "core/base/tolerance.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRep_Builder.hxx>
#include <Geom2d_Line.hxx>
#include <Geom_Plane.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <array>
#include <cmath>

namespace gc {

LeanHalfBuilder::LeanHalfBuilder(const LeanHalf& half, std::size_t row, Inset inset, const LeanFoot& foot)
    : m_half(half), m_inset(std::move(inset)), m_foot(&foot) {
    for (std::size_t l = 0; l < m_inset.loops.size(); ++l) {
        const InsetLoop& loop = m_inset.loops[l];
        m_faces.emplace_back();
        for (std::size_t i = 0; i < loop.sides.size(); ++i) {
            const auto& rows = foot.rows[l][i];
            m_faces.back().emplace_back(loop.sides[i], half, rows ? &*rows : nullptr, row);
        }
        m_vertices.emplace_back();
        for (std::size_t k = 0; k < loop.nodes.size(); ++k)
            m_vertices.back().push_back(k < foot.corners[l].size() ? foot.corners[l][k]
                                                                   : vertexAt(loop.nodes[k]));
    }
}

bool LeanHalfBuilder::makeEdges() {
    for (std::size_t l = 0; l < m_inset.loops.size(); ++l) {
        m_ways.emplace_back();
        for (const InsetCorner& c : m_inset.loops[l].corners) {
            const auto edge = c.from == c.to ? std::optional<TopoDS_Edge>(TopoDS_Edge()) : wayOf(l, c);
            if (!edge) return false;
            m_ways.back().push_back(*edge);
        }
        m_tops.emplace_back();
        for (std::size_t i = 0; i < m_inset.loops[l].sides.size(); ++i) {
            const auto edge = topOf(l, static_cast<int>(i));
            if (!edge) return false;
            m_tops.back().push_back(*edge);
        }
    }
    return true;
}

TopoDS_Face LeanHalfBuilder::sideFace(std::size_t l, std::size_t i) const {
    const InsetLoop& loop = m_inset.loops[l];
    const int side = static_cast<int>(i);
    BRep_Builder builder;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    builder.Add(wire, m_foot->edges[l][i]);
    for (const InsetCorner* c : loop.cornersAfter(side))
        if (c->from != c->to) builder.Add(wire, m_ways[l][indexOf(loop, c)]);
    if (!loop.vanished[i])
        builder.Add(wire, m_tops[l][i].Reversed());
    else if (const auto apex = apexOf(l, i))
        builder.Add(wire, *apex);
    auto back = loop.cornersBefore(side);
    std::reverse(back.begin(), back.end());
    for (const InsetCorner* c : back)
        if (c->from != c->to) builder.Add(wire, m_ways[l][indexOf(loop, c)].Reversed());
    wire.Closed(true);
    const LeanFace& shape = m_faces[l][i];
    TopoDS_Face face;
    builder.MakeFace(face, shape.surface(), kKernelPoint);
    // Seen from before it the walk is counter-clockwise about the outward normal.
    TopoDS_Shape turned = runsBackward(shape) ? wire.Reversed() : TopoDS_Shape(wire);
    builder.Add(face, turned);
    if (shape.looksIn()) face.Reverse();
    return face;
}

TopoDS_Face LeanHalfBuilder::cap() const {
    std::vector<std::vector<TopoDS_Edge>> loops;
    for (std::size_t l = 0; l < m_tops.size(); ++l) {
        loops.emplace_back();
        for (std::size_t i = 0; i < m_tops[l].size(); ++i)
            if (!m_inset.loops[l].vanished[i]) loops.back().push_back(m_tops[l][i]);
    }
    return flatFace(loops, m_half.sense * m_half.height, m_half.sense > 0);
}

TopoDS_Face LeanHalfBuilder::flatFace(const std::vector<std::vector<TopoDS_Edge>>& loops, double z,
                                      bool looksUp) {
    BRep_Builder builder;
    TopoDS_Face face;
    builder.MakeFace(face, new Geom_Plane(gp_Pnt(0, 0, z), gp::DZ()), kKernelPoint);
    for (const auto& loop : loops) {
        TopoDS_Wire wire;
        builder.MakeWire(wire);
        for (const TopoDS_Edge& e : loop) builder.Add(wire, e);
        wire.Closed(true);
        builder.Add(face, wire);
    }
    if (!looksUp) face.Reverse();
    return face;
}

TopoDS_Vertex LeanHalfBuilder::vertexAt(const InsetNode& node) const {
    return BRepBuilderAPI_MakeVertex(inFrame(node.at, m_half.sense * heightOf(node.by)));
}

std::size_t LeanHalfBuilder::indexOf(const InsetLoop& loop, const InsetCorner* corner) {
    return static_cast<std::size_t>(corner - loop.corners.data());
}

std::optional<TopoDS_Edge> LeanHalfBuilder::wayOf(std::size_t l, const InsetCorner& c) const {
    const auto& vertices = m_vertices[l];
    const TopoDS_Vertex &a = vertices[static_cast<std::size_t>(c.from)],
                        &b = vertices[static_cast<std::size_t>(c.to)];
    return c.straight ? straightWay(l, c, a, b) : curvedWay(l, c, a, b);
}

const LeanFace& LeanHalfBuilder::before(std::size_t l, const InsetCorner& c) const {
    return m_faces[l][static_cast<std::size_t>(c.before)];
}

const LeanFace& LeanHalfBuilder::after(std::size_t l, const InsetCorner& c) const {
    return m_faces[l][static_cast<std::size_t>(c.after)];
}

void LeanHalfBuilder::lay(std::size_t l, const InsetCorner& c, const TopoDS_Edge& edge,
                          const Handle(Geom2d_Curve) & onBefore, const Handle(Geom2d_Curve) & onAfter) const {
    BRep_Builder builder;
    const LeanFace &a = before(l, c), &b = after(l, c);
    if (c.before == c.after) {
        if (a.flat()) return;
        const bool backward = runsBackward(a);
        builder.UpdateEdge(edge, backward ? onAfter : onBefore, backward ? onBefore : onAfter, a.surface(),
                           TopLoc_Location(), kKernelPoint);
        return;
    }
    if (!a.flat()) builder.UpdateEdge(edge, onBefore, a.surface(), TopLoc_Location(), kKernelPoint);
    if (!b.flat()) builder.UpdateEdge(edge, onAfter, b.surface(), TopLoc_Location(), kKernelPoint);
}

std::optional<TopoDS_Edge> LeanHalfBuilder::straightWay(std::size_t l, const InsetCorner& c,
                                                        const TopoDS_Vertex& a,
                                                        const TopoDS_Vertex& b) const {
    BRepBuilderAPI_MakeEdge made(a, b);
    if (!made.IsDone()) return std::nullopt;
    const double from = heightOf(c.path.front().by), to = heightOf(c.path.back().by);
    // Along rulings all three have the length for their parameter.
    const auto ruling = [&](const LeanFace& face, double t) {
        const gp_Pnt2d begin = face.at(t, from), end = face.at(t, to);
        return Handle(Geom2d_Curve)(new Geom2d_Line(begin, gp_Dir2d(end.XY() - begin.XY())));
    };
    lay(l, c, made.Edge(), ruling(before(l, c), c.path.front().onBefore),
        ruling(after(l, c), c.path.front().onAfter));
    return made.Edge();
}

std::optional<TopoDS_Edge> LeanHalfBuilder::curvedWay(std::size_t l, const InsetCorner& c,
                                                      const TopoDS_Vertex& a, const TopoDS_Vertex& b) const {
    constexpr std::size_t kWidth = 7;
    constexpr int kMost = 400; // poles
    const double from = heightOf(c.path.front().by), to = heightOf(c.path.back().by);
    const auto sample = [&](double height) -> std::array<double, kWidth> {
        const InsetLoop& loop = m_inset.loops[l];
        const auto place = loop.placeOf(c, movedAt(height));
        const Vec2 p = loop.sides[static_cast<std::size_t>(c.before)].moved(place.onBefore, movedAt(height));
        const gp_Pnt2d u = before(l, c).at(place.onBefore, height), v = after(l, c).at(place.onAfter, height);
        return {p.x, p.y, m_half.sense * height, u.X(), u.Y(), v.X(), v.Y()};
    };
    FitDirection direction({from, to}, {0, 0});
    for (;;) {
        direction.refine();
        if (direction.poles() > kMost) return std::nullopt;
        std::vector<double> values;
        for (const double h : direction.points()) {
            const auto row = sample(h);
            values.insert(values.end(), row.begin(), row.end());
        }
        if (!direction.solve(values, kWidth)) return std::nullopt;
        const int n = direction.poles();
        TColgp_Array1OfPnt poles(1, n);
        TColgp_Array1OfPnt2d first(1, n), second(1, n);
        for (int i = 1; i <= n; ++i) {
            const double* v = &values[static_cast<std::size_t>(i - 1) * kWidth];
            poles(i) = gp_Pnt(v[0], v[1], v[2]);
            first(i) = gp_Pnt2d(v[3], v[4]), second(i) = gp_Pnt2d(v[5], v[6]);
        }
        const auto plane = [&](const TColgp_Array1OfPnt2d& p) {
            return Handle(Geom2d_Curve)(new Geom2d_BSplineCurve(
                p, direction.knots(), direction.multiplicities(), FitDirection::kDegree));
        };
        const Handle(Geom_BSplineCurve) curve = new Geom_BSplineCurve(
            poles, direction.knots(), direction.multiplicities(), FitDirection::kDegree);
        const Handle(Geom2d_Curve) onBefore = plane(first), onAfter = plane(second);
        double worst = 0;
        for (const double h : direction.middles()) {
            const auto v = sample(h);
            const gp_Pnt exact(v[0], v[1], v[2]);
            worst = std::max(worst, curve->Value(h).Distance(exact));
            for (const auto& [face, pcurve] :
                 {std::pair{&before(l, c), onBefore}, std::pair{&after(l, c), onAfter}}) {
                if (face->flat()) continue;
                const gp_Pnt2d q = pcurve->Value(h);
                worst = std::max(worst, face->surface()->Value(q.X(), q.Y()).Distance(exact));
            }
        }
        if (worst > 2 * kSurfaceFit) continue;
        const TopoDS_Edge edge = edgeOn(curve, a, b, from, to);
        lay(l, c, edge, onBefore, onAfter);
        return edge;
    }
}

std::optional<TopoDS_Edge> LeanHalfBuilder::topOf(std::size_t l, int side) const {
    const InsetLoop& loop = m_inset.loops[l];
    const auto i = static_cast<std::size_t>(side);
    if (loop.vanished[i]) return TopoDS_Edge();
    const InsetCorner *left = loop.cornersBefore(side).back(), *right = loop.cornersAfter(side).back();
    return m_faces[l][i].level(left->path.back().onAfter, right->path.back().onBefore,
                               m_vertices[l][static_cast<std::size_t>(left->to)],
                               m_vertices[l][static_cast<std::size_t>(right->to)], m_half.height);
}

std::optional<TopoDS_Edge> LeanHalfBuilder::apexOf(std::size_t l, std::size_t i) const {
    constexpr double kPoint = 1e-6; // mm, of the radius that is left
    const InsetLoop& loop = m_inset.loops[l];
    const InsetSide& side = loop.sides[i];
    if (side.kind() != InsetSide::Kind::Arc) return std::nullopt;
    const double by = *loop.vanished[i], left = side.turn() > 0 ? side.radius() - by : side.radius() + by;
    const InsetCorner *begin = loop.cornersBefore(static_cast<int>(i)).back(),
                      *end = loop.cornersAfter(static_cast<int>(i)).back();
    const double from = begin->path.back().onAfter, to = end->path.back().onBefore;
    if (std::fabs(left) > kPoint || to - from < kPoint) return std::nullopt;
    const LeanFace& face = m_faces[l][i];
    const gp_Pnt2d a = face.at(from, heightOf(by)), b = face.at(to, heightOf(by));
    const bool grows = b.X() > a.X();
    const TopoDS_Vertex& apex = m_vertices[l][static_cast<std::size_t>(end->to)];
    BRep_Builder builder;
    TopoDS_Edge edge;
    builder.MakeEdge(edge);
    builder.UpdateEdge(edge, new Geom2d_Line(gp_Pnt2d(0, a.Y()), gp_Dir2d(1, 0)), face.surface(),
                       TopLoc_Location(), kKernelPoint);
    builder.Add(edge, apex.Oriented(TopAbs_FORWARD));
    builder.Add(edge, apex.Oriented(TopAbs_REVERSED));
    builder.Range(edge, std::min(a.X(), b.X()), std::max(a.X(), b.X()));
    builder.Degenerated(edge, true);
    return TopoDS::Edge(edge.Oriented(grows ? TopAbs_REVERSED : TopAbs_FORWARD));
}

} // namespace gc

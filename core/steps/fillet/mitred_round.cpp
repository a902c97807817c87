#include "core/steps/fillet/mitred_round.hpp"

#include "core/steps/fillet/full_round.hpp"
#include "core/steps/fillet/places_on_face.hpp"
#include "core/steps/fillet/sliver_piece.hpp"
#include "core/steps/fillet/strip_sides.hpp"
#include "core/steps/fillet/swept_section.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/without_seam.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRep_Tool.hxx>
#include <GC_MakeArcOfCircle.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kSame = 1e-6; // mm: a round goes on over a mitre

/// What of the face lies between two corners: an edge of each side of it.
struct MitredStretch {
    TopoDS_Edge edges[2];
    TopoDS_Face walls[2];
    std::optional<SectionPlane> across;
    gp_XY edge[2], touch[2], top,
        up;            ///< in its section: the edges, where the ball touches the walls and the face
    double radius = 0; ///< mm
};

/// A wall in the section: straight, through its edge.
std::optional<gp_XY> wallNormal(const MitredStretch& m, int side) {
    const bool straight = isStraightAcross(BRepAdaptor_Surface(m.walls[side], false), *m.across);
    const auto n = straight ? normalBeside(m.edges[side], m.walls[side]) : std::nullopt;
    if (!n) return std::nullopt;
    if (!m.across->circle) return m.across->flat(*n).Normalized();
    // The other edge's middle may lie elsewhere round the axis: away from that, and along it.
    const BRepAdaptor_Curve curve(m.edges[side]);
    const gp_Pnt at = curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter()));
    const gp_Vec axis(m.across->y);
    gp_Vec away(m.across->circle->Location(), at);
    away -= axis * away.Dot(axis);
    return gp_XY(n->Dot(away.Normalized()), n->Dot(axis)).Normalized();
}

/// Where the other edge goes through the section; nothing where it does not run beside the first.
std::optional<gp_XY> otherPlace(const MitredStretch& m) {
    const BRepAdaptor_Curve a(m.edges[0]), b(m.edges[1]);
    if (a.GetType() != b.GetType()) return std::nullopt;
    if (a.GetType() == GeomAbs_Line) {
        if (!b.Line().Direction().IsParallel(a.Line().Direction(), kSame)) return std::nullopt;
        return m.across->flat(b.Line().Location());
    }
    const gp_Vec apart(a.Circle().Location(), b.Circle().Location());
    if (!b.Circle().Axis().IsParallel(a.Circle().Axis(), kSame) ||
        apart.Crossed(gp_Vec(m.across->y)).Magnitude() > kSame)
        return std::nullopt;
    return gp_XY(b.Circle().Radius() - a.Circle().Radius(), apart.Dot(gp_Vec(m.across->y)));
}

std::optional<MitredStretch> mitredStretch(const TopoDS_Face& over, const std::array<TopoDS_Edge, 2>& edges,
                                           const std::array<TopoDS_Face, 2>& walls) {
    MitredStretch m{{edges[0], edges[1]},
                    {walls[0], walls[1]},
                    sectionPlaneOf(BRepAdaptor_Curve(edges[0])),
                    {},
                    {},
                    {},
                    {},
                    0};
    const auto out = normalBeside(edges[0], over);
    if (!m.across || !out) return std::nullopt;
    const auto other = otherPlace(m);
    const auto a = wallNormal(m, 0), b = wallNormal(m, 1);
    if (!other || !a || !b) return std::nullopt;
    m.up = m.across->flat(*out).Normalized();
    m.edge[1] = *other;
    // The ball's middle is c, a radius within the face and both walls: linear in c and the radius.
    const gp_XY side(-m.up.Y(), m.up.X());
    const double p = a->Dot(side), q = b->Dot(side), rp = 1 - a->Dot(m.up), rq = 1 - b->Dot(m.up);
    // c = side * x - up * r; a: p x + r rp = 0; b: q x + r rq = b . other
    const double det = p * rq - q * rp;
    if (std::fabs(det) < kSame) return std::nullopt;
    const double to = b->Dot(*other), x = -to * rp / det;
    m.radius = to * p / det;
    if (m.radius < kSame) return std::nullopt;
    const gp_XY centre = side * x - m.up * m.radius;
    m.top = centre + m.up * m.radius;
    m.touch[0] = centre + *a * m.radius;
    m.touch[1] = centre + *b * m.radius;
    return m;
}

/// What lies over the round, and a little more: nothing is there.
SliverPiece sliverOver(const MitredStretch& m, NamePtr round, NamePtr gone) {
    const SectionPlane& across = *m.across;
    const gp_XY raised[2] = {m.edge[0] + m.up * m.radius, m.edge[1] + m.up * m.radius};
    const std::vector<gp_XY> corners{m.touch[0], m.edge[0], raised[0], raised[1], m.edge[1], m.touch[1]};
    std::vector<TopoDS_Vertex> v;
    for (const gp_XY& c : corners) v.push_back(BRepBuilderAPI_MakeVertex(across.inSpace(c)).Vertex());
    std::vector<TopoDS_Edge> border;
    for (std::size_t i = 0; i + 1 < v.size(); ++i)
        border.push_back(BRepBuilderAPI_MakeEdge(v[i], v[i + 1]).Edge());
    border.push_back(
        BRepBuilderAPI_MakeEdge(
            GC_MakeArcOfCircle(across.inSpace(m.touch[1]), across.inSpace(m.top), across.inSpace(m.touch[0]))
                .Value(),
            v.back(), v.front())
            .Edge());
    const SweptSection swept = sweptAlong(m.edges[0], across, border, 8 * m.radius);
    SliverPiece out{swept.solid, {}, {swept.ends.begin(), swept.ends.end()}, {}};
    for (std::size_t i = 0; i < border.size(); ++i)
        out.called.emplace_back(swept.made[i], NameList{i + 1 == border.size() ? round : gone});
    return out;
}

/// The plane between two stretches, through the corners of both sides and the edges that go down from these.
std::optional<gp_Pln> mitreOf(const SideJoint& a, const SideJoint& b) {
    if (a.down.IsNull() || b.down.IsNull()) return std::nullopt;
    const BRepAdaptor_Curve one(a.down), other(b.down);
    if (one.GetType() != GeomAbs_Line || other.GetType() != GeomAbs_Line) return std::nullopt;
    const gp_Pnt p = BRep_Tool::Pnt(a.corner), q = BRep_Tool::Pnt(b.corner);
    const gp_Vec square = gp_Vec(p, q).Crossed(gp_Vec(one.Line().Direction()));
    if (square.Magnitude() < kSame) return std::nullopt;
    const gp_Pln out(p, gp_Dir(square));
    if (std::fabs(gp_Vec(other.Line().Direction()).Dot(gp_Vec(out.Axis().Direction()))) > kSame)
        return std::nullopt;
    return out;
}

/// Where a place of the section comes to a mitre.
gp_Pnt atMitre(const MitredStretch& m, const gp_XY& place, const gp_Pln& mitre, const gp_Pnt& near) {
    const gp_Pnt p = m.across->inSpace(place);
    const gp_Vec n(mitre.Axis().Direction());
    if (!m.across->circle) {
        const gp_Vec along(m.across->along);
        return p.Translated(along * (gp_Vec(p, mitre.Location()).Dot(n) / along.Dot(n)));
    }
    // The mitre goes through the axis, else the place is off it and will not be the same on both sides.
    gp_Ax1 axis = m.across->circle->Axis();
    gp_Pnt on =
        axis.Location().Translated(gp_Vec(m.across->y) * gp_Vec(axis.Location(), p).Dot(gp_Vec(m.across->y)));
    gp_Vec out(axis.Location(), near);
    out -= gp_Vec(m.across->y) * out.Dot(gp_Vec(m.across->y));
    return on.Translated(out.Normalized() * on.Distance(p));
}

bool goesOnOver(const MitredStretch& a, const MitredStretch& b, const gp_Pln& mitre, const gp_Pnt& near) {
    const std::pair<gp_XY, gp_XY> places[] = {
        {a.touch[0], b.touch[0]}, {a.touch[1], b.touch[1]}, {a.top, b.top}};
    return std::all_of(std::begin(places), std::end(places), [&](const auto& p) {
        return atMitre(a, p.first, mitre, near).Distance(atMitre(b, p.second, mitre, near)) < 1e-4;
    });
}

/// The place of a wall that the ball touches, beside a place of its edge.
gp_Pnt touchBeside(const MitredStretch& m, int side, const gp_Pnt& at) {
    const gp_XY down = m.touch[side] - m.edge[side];
    gp_Vec x(m.across->x);
    const gp_Vec y(m.across->y);
    if (m.across->circle) {
        x = gp_Vec(m.across->circle->Location(), at);
        x = (x - y * x.Dot(y)).Normalized();
    }
    return at.Translated(x * down.X() + y * down.Y());
}

/// Both walls are as high as the ball touches them, all along.
std::optional<gp_Pnt> lowPlace(const MitredStretch& m) {
    for (int side : {0, 1}) {
        const PlacesOnFace wall(m.walls[side]);
        const BRepAdaptor_Curve edge(m.edges[side]);
        for (const double share : {0.1, 0.3, 0.5, 0.7, 0.9}) {
            const double t = edge.FirstParameter() + share * (edge.LastParameter() - edge.FirstParameter());
            if (const gp_Pnt p = touchBeside(m, side, edge.Value(t)); !wall.holds(p)) return p;
        }
    }
    return std::nullopt;
}

/// The two sides of a face, edge by edge and corner by corner.
struct MitredSides {
    std::vector<TopoDS_Edge> edges[2];
    std::vector<TopoDS_Vertex> corners[2]; ///< before each edge, and after the last
    bool closed = false;
    TopoDS_Edge ends[2]; ///< of an open one
};

/// Edges of a wire from one on, the other way round if need be.
void addSide(MitredSides& out, int side, const std::vector<TopoDS_Edge>& wire, std::size_t from,
             std::size_t count, bool backward) {
    for (std::size_t k = 0; k < count; ++k) {
        TopoDS_Edge e = wire[(from + (backward ? count - 1 - k : k)) % wire.size()];
        if (backward) e.Reverse();
        out.edges[side].push_back(e);
        out.corners[side].push_back(TopExp::FirstVertex(e, true));
        if (k + 1 == count) out.corners[side].push_back(TopExp::LastVertex(e, true));
    }
}

double apartOf(const MitredSides& m) {
    double out = 0;
    for (std::size_t k = 0; k < m.corners[0].size(); ++k)
        out += BRep_Tool::Pnt(m.corners[0][k]).Distance(BRep_Tool::Pnt(m.corners[1][k]));
    return out;
}

/// Of all ways to pair the edges of both sides the one with the nearest corners.
std::optional<MitredSides> mitredSides(const TopoDS_Face& face) {
    const auto wires = loopsOf({face});
    std::optional<MitredSides> best;
    const auto offer = [&](MitredSides m) {
        if (!best || apartOf(m) < apartOf(*best)) best = std::move(m);
    };
    if (wires.size() == 2 && wires[0].size() == wires[1].size() && wires[0].size() > 1) {
        const std::size_t n = wires[0].size();
        for (std::size_t shift = 0; shift < n; ++shift) {
            MitredSides m;
            m.closed = true;
            addSide(m, 0, wires[0], 0, n, false);
            addSide(m, 1, wires[1], shift, n, true);
            offer(std::move(m));
        }
    } else if (wires.size() == 1 && wires[0].size() % 2 == 0 && wires[0].size() >= 6) {
        const std::size_t n = wires[0].size() / 2 - 1;
        for (std::size_t end = 0; end <= n; ++end) {
            MitredSides m;
            m.ends[0] = wires[0][end], m.ends[1] = wires[0][end + n + 1];
            addSide(m, 0, wires[0], end + 1, n, false);
            addSide(m, 1, wires[0], end + n + 2, n, true);
            offer(std::move(m));
        }
    }
    return best;
}

/// The edge that goes down from a corner of the face.
SideJoint jointAt(const NamedShape& s, const TopoDS_Face& face, const TopoDS_Vertex& corner) {
    TopTools_IndexedMapOfShape own;
    TopExp::MapShapes(face, TopAbs_EDGE, own);
    auto down = edgesAround(s, corner);
    std::erase_if(down, [&](const TopoDS_Edge& e) { return own.Contains(e); });
    return {corner, down.size() == 1 ? down.front() : TopoDS_Edge()};
}

/// The stretches, and what parts each from what comes before and after it.
struct MitredRound {
    std::vector<MitredStretch> stretches;
    std::vector<std::array<SliverParting, 2>> ends;
};

std::optional<MitredRound> mitredRound(const NamedShape& s, const TopoDS_Face& over, int step) {
    const auto sides = mitredSides(over);
    if (!sides) return std::nullopt;
    MitredRound out;
    const std::size_t n = sides->edges[0].size();
    double size = 0;
    for (std::size_t k = 0; k < n; ++k) {
        const std::array<TopoDS_Edge, 2> edges{sides->edges[0][k], sides->edges[1][k]};
        const std::array<TopoDS_Face, 2> walls{faceAcross(s, edges[0], over), faceAcross(s, edges[1], over)};
        if (walls[0].IsNull() || walls[1].IsNull()) return std::nullopt;
        auto stretch = mitredStretch(over, edges, walls);
        if (!stretch) return std::nullopt;
        size = std::max(size, 20 * stretch->radius);
        out.stretches.push_back(std::move(*stretch));
    }
    out.ends.resize(n);
    for (std::size_t k = sides->closed ? 0 : 1; k < n; ++k) {
        const std::size_t before = (k + n - 1) % n;
        const auto mitre =
            mitreOf(jointAt(s, over, sides->corners[0][k]), jointAt(s, over, sides->corners[1][k]));
        if (!mitre || !goesOnOver(out.stretches[before], out.stretches[k], *mitre,
                                  BRep_Tool::Pnt(sides->corners[0][k])))
            return std::nullopt;
        const SliverParting parting{BRepBuilderAPI_MakeFace(*mitre, -size, size, -size, size).Face(),
                                    {sliverJoint(step)}};
        out.ends[before][1] = out.ends[k][0] = parting;
    }
    if (sides->closed) return out;
    const auto begin = continuedFace(s, faceAcross(s, sides->ends[0], over), size),
               end = continuedFace(s, faceAcross(s, sides->ends[1], over), size);
    if (!begin || !end) return std::nullopt;
    out.ends.front()[0] = *begin;
    out.ends.back()[1] = *end;
    return out;
}

/// The part of what lies over a stretch that its ends leave.
std::optional<NamedTool> toolOver(const MitredStretch& m, const std::array<SliverParting, 2>& ends,
                                  NamePtr round, NamePtr gone, int step) {
    const gp_Pnt within = m.across->inSpace((m.edge[0] + m.edge[1]) * 0.5 + m.up * (0.5 * m.radius));
    for (const SliverPiece& p : partedSliver(sliverOver(m, round, gone), {ends[0], ends[1]}))
        if (holdsAny(p.solid, {within}))
            return p.ends.empty() ? std::optional(sliverTool(p, step)) : std::nullopt;
    return std::nullopt;
}

} // namespace

std::optional<Result<Body>> roundedMitred(const Body& body, int face, int step) {
    const NamedShape& s = body.shape();
    const TopoDS_Face over = TopoDS::Face(s.faces(face + 1));
    if (BRepAdaptor_Surface(over, false).GetType() != GeomAbs_Plane) return std::nullopt;
    const auto all = mitredRound(s, over, step);
    if (!all) return std::nullopt;
    for (const MitredStretch& m : all->stretches)
        if (const auto low = lowPlace(m)) return Result<Body>(fullRoundLow(m.radius, *low));
    const NamePtr gone = firstName(s, over),
                  round = internName(step, "full round", gone ? NameList{gone} : NameList{});
    Body now = body;
    for (std::size_t k = 0; k < all->stretches.size(); ++k) {
        const auto tool = toolOver(all->stretches[k], all->ends[k], round, sliverJoint(step), step);
        if (!tool) return std::nullopt;
        auto made = combine(now, *tool, Combine::Take);
        if (!made) return std::nullopt;
        now = std::move(*made);
    }
    if (auto merged = withoutNewEdges(now, body, step)) now = std::move(*merged);
    const BodyCheck check = checkBody(now);
    if (!check.faults.empty() || check.solids != solidsIn(s.shape) ||
        facesNamed(now, sliverJoint(step)) > 0 || facesNamed(now, gone) != facesNamed(body, gone) - 1)
        return std::nullopt;
    return Result<Body>(std::move(now));
}

} // namespace gc

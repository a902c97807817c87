#include "core/steps/shell/eased_rounds.hpp"

#include "core/steps/shared/defeatured.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/lifted_rounds.hpp"
#include "core/steps/shared/rounded.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <GeomLProp_SLProps.hxx>
#include <TColgp_Array1OfPnt2d.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The tightest radius of a surface where it is nearest to a place, mm; nothing where it is flat.
std::optional<double> radiusAt(const Handle(Geom_Surface) & surface, const gp_Pnt& place) {
    const GeomAPI_ProjectPointOnSurf foot(place, surface);
    if (foot.NbPoints() == 0) return std::nullopt;
    double u = 0, v = 0;
    foot.LowerDistanceParameters(u, v);
    GeomLProp_SLProps of(surface, u, v, 2, 1e-9);
    if (!of.IsCurvatureDefined()) return std::nullopt;
    const double bend = std::max(std::fabs(of.MaxCurvature()), std::fabs(of.MinCurvature()));
    return bend > 1e-6 ? std::optional(1 / bend) : std::nullopt;
}

/// With those onto which they run on over an edge that is bent alike on both sides; empty where that leads to
/// an opened face.
TopTools_IndexedMapOfShape chainOf(const ShellPlan& plan, const TopTools_IndexedMapOfShape& tight) {
    constexpr double kAlike = 1.25;
    TopTools_IndexedMapOfShape out = tight;
    for (int i = 1; i <= out.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(out(i));
        for (TopExp_Explorer e(face, TopAbs_EDGE); e.More(); e.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(e.Current());
            const TopoDS_Face beyond = faceAcross(*plan.before, edge, face);
            if (beyond.IsNull() || out.Contains(beyond) || !isSmooth(*plan.before, edge)) continue;
            const BRepAdaptor_Curve curve(edge);
            const gp_Pnt middle = curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2);
            const auto here = radiusAt(BRep_Tool::Surface(face), middle),
                       there = radiusAt(BRep_Tool::Surface(beyond), middle);
            if (!here || !there || std::max(*here / *there, *there / *here) > kAlike) continue;
            if (plan.opened.Contains(beyond)) return {};
            out.Add(beyond);
        }
    }
    return out;
}

/// Empty where one of them is between more, or fewer: but corners between nothing but rounds.
std::vector<RoundedEdge> roundedEdges(const NamedShape& before, const TopTools_IndexedMapOfShape& rounds) {
    std::vector<RoundedEdge> out;
    for (int i = 1; i <= rounds.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(rounds(i));
        TopTools_IndexedMapOfShape beside;
        for (TopExp_Explorer e(face, TopAbs_EDGE); e.More(); e.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(e.Current());
            const TopoDS_Face f = faceAcross(before, edge, face);
            if (!f.IsNull() && !rounds.Contains(f) && isSmooth(before, edge)) beside.Add(f);
        }
        if (beside.IsEmpty()) continue;
        if (beside.Extent() != 2) return {};
        out.push_back({face, {TopoDS::Face(beside(1)), TopoDS::Face(beside(2))}, {}});
    }
    return out;
}

/// Finds the edges on the body without rounds. False where one of them is not there.
bool findEdges(std::vector<RoundedEdge>& rounded, const NamedShape& before, const NamedShape& sharp) {
    for (RoundedEdge& r : rounded) {
        const NameList &one = before.namesOf(r.beside[0]), &other = before.namesOf(r.beside[1]);
        const Handle(Geom_Surface) surface = BRep_Tool::Surface(r.round);
        double nearest = 1e300;
        for (int k = 1; k <= sharp.edges.Extent(); ++k) {
            const TopoDS_Edge e = TopoDS::Edge(sharp.edges(k));
            const auto faces = facesBeside(sharp, e);
            if (faces.size() != 2) continue;
            const NameList &a = sharp.namesOf(faces[0]), &b = sharp.namesOf(faces[1]);
            if (!(a == one && b == other) && !(a == other && b == one)) continue;
            const BRepAdaptor_Curve curve(e);
            const GeomAPI_ProjectPointOnSurf foot(
                curve.Value((curve.FirstParameter() + curve.LastParameter()) / 2), surface);
            if (foot.NbPoints() == 0 || foot.LowerDistance() >= nearest) continue;
            nearest = foot.LowerDistance();
            r.edge = e;
        }
        if (r.edge.IsNull()) return false;
    }
    return true;
}

/// How wide the rounds along an edge were, from its beginning in its chain to its end, at even steps.
std::vector<double> radiiAlong(const RoundedEdge& rounded, bool reversed) {
    constexpr int kSteps = 8;
    const BRepAdaptor_Curve curve(rounded.edge);
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    std::vector<double> out;
    for (int k = 0; k <= kSteps; ++k) {
        const double t = double(reversed ? kSteps - k : k) / kSteps;
        const auto r = radiusAt(BRep_Tool::Surface(rounded.round), curve.Value(from + (to - from) * t));
        if (!r) return {};
        out.push_back(*r);
    }
    return out;
}

/// Named as what it was made from.
std::optional<Body> namedRounds(const Body& sharp, BRepFilletAPI_MakeFillet& fillet,
                                const std::vector<RoundedEdge>& edges, const NamedShape& before) {
    NameBuilder names(onlySolid(fillet.Shape()));
    names.carry(sharp.shape(), fillet);
    for (const RoundedEdge& e : edges)
        for (const TopoDS_Shape& f : toVector(fillet.Generated(e.edge)))
            if (names.has(f)) names.add(f, before.namesOf(e.round));
    for (int i = 1; i <= names.faces().Extent(); ++i)
        if (!names.named(names.faces()(i))) names.add(names.faces()(i), before.namesOf(edges.front().round));
    auto body = names.finish();
    return body ? std::optional(std::move(*body)) : std::nullopt;
}

/// Radii along each edge: by its chain, and its place in that.
using RoundLaws = std::map<std::pair<int, int>, std::vector<double>>;
/// Empty where one is not known, or a chain has more edges.
RoundLaws lawsOf(const BRepFilletAPI_MakeFillet& fillet, const std::vector<RoundedEdge>& edges) {
    RoundLaws out;
    for (const RoundedEdge& e : edges) {
        const int chain = fillet.Contour(e.edge);
        for (int k = 1; chain > 0 && k <= fillet.NbEdges(chain); ++k) {
            if (!fillet.Edge(chain, k).IsSame(e.edge)) continue;
            auto radii = radiiAlong(e, fillet.Edge(chain, k).Orientation() == TopAbs_REVERSED);
            if (radii.empty()) return {};
            out[{chain, k}] = std::move(radii);
        }
    }
    std::size_t all = 0;
    for (int chain = 1; chain <= fillet.NbContours(); ++chain)
        all += static_cast<std::size_t>(fillet.NbEdges(chain));
    return out.size() == edges.size() && all == edges.size() ? out : RoundLaws();
}

} // namespace

std::optional<SharpBody> sharpBody(const ShellPlan& plan, const Body& body,
                                   const TopTools_IndexedMapOfShape& tight) {
    constexpr int kMostRounds = 300;
    const auto rounds = chainOf(plan, tight);
    if (rounds.IsEmpty() || rounds.Extent() > kMostRounds) return std::nullopt;
    SharpBody out;
    out.edges = roundedEdges(body.shape(), rounds);
    if (out.edges.empty()) return std::nullopt;
    auto sharp = withoutFaces(body, rounds, patienceOf(plan)->Start());
    if (!sharp || !findEdges(out.edges, body.shape(), sharp->shape())) return std::nullopt;
    out.body = std::move(*sharp);
    return out;
}

std::optional<Body> roundedBack(const ShellPlan& plan, const SharpBody& sharp, const Body& wall, int step) {
    auto edges = sharp.edges;
    if (!findEdges(edges, *plan.before, wall.shape())) return std::nullopt;
    std::vector<EdgeChain> chains;
    for (const RoundedEdge& e : edges) {
        const auto radius = rolledRadius(e.round);
        if (!radius) return std::nullopt;
        EdgeChain& chain = chains.emplace_back();
        chain.edges = {e.edge};
        chain.first = chain.second = *radius;
        chain.called = firstName(*plan.before, e.round);
    }
    auto made = rounded(wall, chains, step);
    return made ? std::optional(std::move(*made)) : std::nullopt;
}

std::optional<EasedBody> easedRounds(const ShellPlan& plan, const SharpBody& sharp, bool evenly) {
    constexpr double kWider = 0.15, kWithin = 0.02; // of the wall: than it; than they were
    constexpr double kAtCorner = 0.45;              // of a difference of radii at a right angle
    const double wall = std::fabs(plan.offset);
    BRepFilletAPI_MakeFillet fillet(sharp.body.shape().shape);
    for (const RoundedEdge& e : sharp.edges)
        if (fillet.Contour(e.edge) == 0) fillet.Add(e.edge);
    const RoundLaws laws = lawsOf(fillet, sharp.edges);
    if (laws.empty()) return std::nullopt;
    double widest = wall * (1 + kWider);
    for (const auto& [place, radii] : laws)
        widest = std::max(widest, *std::max_element(radii.begin(), radii.end()) + kWithin * wall);
    EasedBody out;
    for (const auto& [place, radii] : laws) {
        TColgp_Array1OfPnt2d law(1, static_cast<int>(radii.size()));
        for (std::size_t k = 0; k < radii.size(); ++k) {
            const double r = evenly ? widest : std::max(radii[k] + kWithin * wall, (1 + kWider) * wall);
            law(static_cast<int>(k) + 1) = {double(k) / static_cast<double>(radii.size() - 1), r};
            out.fills = std::max(out.fills, kAtCorner * (r - radii[k]));
        }
        fillet.SetRadius(law, place.first, place.second);
    }
    fillet.Build();
    if (!fillet.IsDone()) return std::nullopt;
    auto made = namedRounds(sharp.body, fillet, sharp.edges, *plan.before);
    if (!made) return std::nullopt;
    out.body = std::move(*made);
    out.least = evenly ? widest - wall : kWider * wall;
    return out;
}

} // namespace gc

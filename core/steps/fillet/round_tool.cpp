#include "core/steps/fillet/round_tool.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/fillet/places_on_face.hpp"
#include "core/steps/fillet/round_section.hpp"
#include "core/steps/fillet/sliver_piece.hpp"
#include "core/steps/shared/face_normal.hpp"
#include "core/steps/shared/without_seam.hpp"
#include "core/steps/shared/worked_names.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

double extentOf(const TopoDS_Shape& shape, Bnd_Box* out = nullptr) {
    Bnd_Box box;
    BRepBndLib::Add(shape, box, false);
    if (out) *out = box;
    return std::sqrt(box.SquareExtent());
}

/// Places of a face with its outward normals.
std::vector<std::pair<gp_Pnt, gp_Vec>> placesWithNormals(const TopoDS_Face& face, int each) {
    const BRepAdaptor_Surface surface(face, false);
    BRepTopAdaptor_FClass2d inside(face, kKernelPoint);
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    std::vector<std::pair<gp_Pnt, gp_Vec>> out;
    for (int i = 0; i < each; ++i)
        for (int j = 0; j < each; ++j) {
            const gp_Pnt2d uv(u0 + (u1 - u0) * (i + 0.5) / each, v0 + (v1 - v0) * (j + 0.5) / each);
            if (inside.Perform(uv) != TopAbs_IN) continue;
            gp_Pnt p;
            if (const auto n = outwardNormal(surface, face.Orientation() == TopAbs_REVERSED, uv, p))
                out.emplace_back(p, *n);
        }
    return out;
}

/// Does a solid hold a sliver's own places beside the edge, at these shares of its way?
bool holdsSliver(const TopoDS_Shape& solid, const RoundSliver& sliver, const std::vector<double>& shares) {
    return std::all_of(shares.begin(), shares.end(),
                       [&](double share) { return holdsAny(solid, {sliver.withinAt(share)}); });
}

bool touchesEdge(const TopoDS_Shape& solid, const RoundSliver& sliver) {
    constexpr int kPlaces = 24;
    std::vector<gp_Pnt> places;
    for (int k = 0; k < kPlaces; ++k) places.push_back(sliver.withinAt((k + 0.5) / kPlaces));
    return holdsAny(solid, places);
}

bool haveFaceInCommon(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(a, TopAbs_FACE, faces);
    for (TopExp_Explorer x(b, TopAbs_FACE); x.More(); x.Next())
        if (faces.Contains(x.Current())) return true;
    return false;
}

/// What is said of a chain as a whole.
struct RoundedChain {
    const NamedShape& first;
    const EdgeChain& chain;
    const std::vector<EdgeChain>& all;
    bool hollow;
    int step;

    bool holds(const TopoDS_Shape& edge) const { return holdsEdge(chain, edge); }
    static bool holdsEdge(const EdgeChain& c, const TopoDS_Shape& edge) {
        return std::any_of(c.edges.begin(), c.edges.end(), [&](const auto& e) { return e.IsSame(edge); });
    }
    bool isRounded(const TopoDS_Shape& edge) const {
        return std::any_of(all.begin(), all.end(), [&](const auto& c) { return holdsEdge(c, edge); });
    }
};

/// How a round ends in a corner: it just ends; it goes on round a corner that bends the other way, into the
/// round of another edge there; or it would need a face of its own between three.
struct CornerEnd {
    enum { Plain, GoesRound, Other } kind = Other;
    TopoDS_Edge into{}; ///< the other edge, where it goes round
};

CornerEnd cornerEnd(const RoundedChain& c, const TopoDS_Shape& corner, const TopoDS_Edge& own) {
    const auto around = edgesAround(c.first, corner);
    std::size_t rounded = 0;
    bool otherWay = false;
    TopoDS_Edge other;
    for (const TopoDS_Edge& e : around) {
        rounded += c.isRounded(e);
        if (c.isRounded(e) && !e.IsSame(own)) other = e;
        otherWay = otherWay || (!c.isRounded(e) && !isSmooth(c.first, e) && isHollow(c.first, e) != c.hollow);
    }
    if (rounded == 1) return {CornerEnd::Plain, {}};
    if (rounded != 2 || around.size() != 3) return {};
    if (!otherWay) return {CornerEnd::Plain, {}};
    return isHollow(c.first, other) == c.hollow ? CornerEnd{CornerEnd::GoesRound, other} : CornerEnd();
}

/// What a sliver ends at: the faces that its edge runs into, and where its chain goes on a plane square to
/// it. Nothing where it does not end plainly.
std::optional<std::vector<SliverParting>> sliverEnds(const RoundedChain& c, const RoundSliver& sliver) {
    const double size = extentOf(sliver.solid);
    const auto beside = facesBeside(c.first, sliver.edge);
    std::vector<SliverParting> out;
    TopoDS_Vertex corners[2];
    TopExp::Vertices(sliver.edge, corners[0], corners[1]);
    if (corners[0].IsSame(corners[1])) return out;
    const BRepAdaptor_Curve curve(sliver.edge);
    for (const TopoDS_Vertex& v : corners) {
        const bool goesOn =
            std::any_of(c.chain.edges.begin(), c.chain.edges.end(),
                        [&](const TopoDS_Edge& e) { return !e.IsSame(sliver.edge) && endsIn(e, v); });
        if (goesOn) {
            gp_Pnt p;
            gp_Vec along;
            curve.D1(BRep_Tool::Parameter(v, sliver.edge), p, along);
            out.push_back({BRepBuilderAPI_MakeFace(gp_Pln(p, gp_Dir(along)), -size, size, -size, size).Face(),
                           {sliverJoint(c.step)}});
            continue;
        }
        if (cornerEnd(c, v, sliver.edge).kind == CornerEnd::Other) return std::nullopt;
        for (const TopoDS_Shape& f : toVector(c.first.facesOfVertex.FindFromKey(v))) {
            if (f.IsSame(beside[0]) || f.IsSame(beside[1])) continue;
            auto end = continuedFace(c.first, f, size);
            if (!end) return std::nullopt;
            out.push_back(std::move(*end));
        }
    }
    return out;
}

/// The faces that rise from those beside the edge within the sliver, or fall off from them where it is put
/// on.
std::optional<std::vector<SliverParting>> sliverObstacles(const RoundedChain& c, const RoundSliver& sliver,
                                                          const SliverPiece& piece) {
    Bnd_Box room;
    const double size = extentOf(piece.solid, &room);
    TopTools_IndexedMapOfShape met;
    for (const TopoDS_Shape& beside : facesBeside(c.first, sliver.edge))
        for (TopExp_Explorer x(beside, TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge e = TopoDS::Edge(x.Current());
            Bnd_Box box;
            BRepBndLib::Add(e, box, false);
            if (c.holds(e) || room.IsOut(box) || isHollow(c.first, e) == c.hollow) continue;
            const TopoDS_Face other = faceAcross(c.first, e, TopoDS::Face(beside));
            if (!other.IsNull()) met.Add(other);
        }
    std::vector<SliverParting> out;
    for (int i = 1; i <= met.Extent(); ++i) {
        auto wall = continuedFace(c.first, met(i), size);
        if (!wall) return std::nullopt;
        out.push_back(std::move(*wall));
    }
    return out;
}

/// How a piece lies along the faces: free, or under what stands on them or over where they are cut.
enum class SliverLay { Free, Covered, Unknown };
SliverLay layOf(const RoundedChain& c, const SliverPiece& piece) {
    constexpr int kNet = 4;
    constexpr double kOff = 0.005; // mm
    BRepClass3d_SolidClassifier inside(c.first.shape);
    bool known = false, free = true;
    for (const auto& walls : piece.walls)
        for (const TopoDS_Shape& wall : walls) {
            int in = 0, all = 0;
            for (const auto& [p, out] : placesWithNormals(TopoDS::Face(wall), kNet)) {
                // A sliver that is taken lies within the body: out of it is out of the body.
                inside.Perform(p.Translated(out * kOff), kKernelPoint);
                in += inside.State() == TopAbs_IN;
                ++all;
            }
            if (all == 0) continue;
            if (in != 0 && in != all) return SliverLay::Unknown;
            known = true;
            // Beside what is put on there must be material; beside what is taken there must be none.
            free = free && (in == all) == c.hollow;
        }
    return !known ? SliverLay::Unknown : free ? SliverLay::Free : SliverLay::Covered;
}

/// Over how much of the way along it both faces reach as far as the ball touches them.
double reachedShare(const RoundedChain& c, const RoundSliver& sliver) {
    constexpr int kPlaces = 24;
    std::vector<PlacesOnFace> beside;
    for (const TopoDS_Shape& f : facesBeside(c.first, sliver.edge)) beside.emplace_back(TopoDS::Face(f));
    int reached = 0;
    for (int k = 0; k < kPlaces; ++k) {
        const auto places = sliver.across((k + 0.5) / kPlaces);
        bool all = true;
        for (std::size_t i = 0; i < 2 && all; ++i)
            all = std::all_of(places[i].begin(), places[i].end(),
                              [&](const gp_Pnt& p) { return beside[i].holds(p); });
        reached += all;
    }
    return double(reached) / kPlaces;
}

/// A sliver with what its faces are called.
SliverPiece wholeSliver(const RoundedChain& c, const RoundSliver& sliver) {
    SliverPiece whole{sliver.solid, {}, {sliver.ends.begin(), sliver.ends.end()}, {}};
    const auto beside = facesBeside(c.first, sliver.edge);
    whole.called.emplace_back(sliver.round,
                              NameList{nameAlong(c.first, sliver.edge, c.step, "fillet", c.all)});
    for (std::size_t i = 0; i < 2; ++i) {
        whole.walls[i].push_back(sliver.walls[i]);
        whole.called.emplace_back(sliver.walls[i], c.first.namesOf(beside[i]));
    }
    for (const TopoDS_Face& end : sliver.ends) whole.called.emplace_back(end, NameList{sliverJoint(c.step)});
    return whole;
}

/// The part of a sliver between its ends; nothing where these do not cut it off.
std::optional<SliverPiece> betweenEnds(const RoundedChain& c, const RoundSliver& sliver) {
    const auto ends = sliverEnds(c, sliver);
    if (!ends) return std::nullopt;
    const SliverPiece whole = wholeSliver(c, sliver);
    const auto pieces = partedSliver(whole, *ends);
    if (!ends->empty() && pieces.size() < 2) return std::nullopt;
    for (const SliverPiece& p : pieces)
        if (holdsSliver(p.solid, sliver, {0.1, 0.5, 0.9}))
            return p.ends.empty() ? std::optional(p) : std::nullopt;
    return std::nullopt;
}

/// Those that lie free and hang together from the edge on; nothing where one cannot be told.
std::optional<std::vector<SliverPiece>> freePieces(const RoundedChain& c, const RoundSliver& sliver,
                                                   std::vector<SliverPiece> pieces) {
    std::vector<SliverPiece> rest, out;
    for (SliverPiece& p : pieces) switch (layOf(c, p)) {
        case SliverLay::Unknown:
            return std::nullopt;
        case SliverLay::Free:
            (touchesEdge(p.solid, sliver) ? out : rest).push_back(std::move(p));
            break;
        case SliverLay::Covered:
            break;
        }
    for (std::size_t i = 0; i < out.size(); ++i)
        for (auto it = rest.begin(); it != rest.end();) {
            if (haveFaceInCommon(out[i].solid, it->solid)) {
                out.push_back(std::move(*it));
                it = rest.erase(it);
            } else
                ++it;
        }
    return out;
}

double radiusAt(const RoundedChain& c, const TopoDS_Edge& edge) {
    for (const EdgeChain& other : c.all)
        if (c.holdsEdge(other, edge))
            return other.first == other.second && other.via.empty() ? other.first : 0;
    return 0;
}

/// Round a corner that bends the other way two rounds go on until they meet: what both would take beyond it.
/// \return false where that cannot be made
bool addCorners(const RoundedChain& c, const RoundSliver& sliver, std::vector<NamedTool>& out) {
    TopoDS_Vertex corners[2];
    TopExp::Vertices(sliver.edge, corners[0], corners[1]);
    for (const TopoDS_Vertex& v : corners) {
        const CornerEnd end = cornerEnd(c, v, sliver.edge);
        if (corners[0].IsSame(corners[1]) || end.kind != CornerEnd::GoesRound) continue;
        const double radius = radiusAt(c, end.into);
        const auto other = radius > 0 ? roundSliver(c.first, end.into, radius) : std::nullopt;
        if (!other) return false;
        const auto own = bodyOf(sliverTool(wholeSliver(c, sliver), c.step));
        if (!own) return false;
        auto both = combine(*own, sliverTool(wholeSliver(c, *other), c.step), Combine::Common);
        if (!both) return false;
        NamedTool all = toolOf(*both, c.step);
        for (TopExp_Explorer x(both->shape().shape, TopAbs_SOLID); x.More(); x.Next()) {
            TopTools_IndexedMapOfShape around;
            TopExp::MapShapes(x.Current(), TopAbs_VERTEX, around);
            bool here = false;
            for (int i = 1; i <= around.Extent(); ++i)
                here = here ||
                       BRep_Tool::Pnt(TopoDS::Vertex(around(i))).Distance(BRep_Tool::Pnt(v)) < kKernelPoint;
            if (!here) continue;
            all.shape = x.Current();
            out.push_back(all);
        }
    }
    return true;
}

std::optional<Body> workedBy(const RoundedChain& c, Body body, const RoundSliver& sliver) {
    const auto piece = betweenEnds(c, sliver);
    if (!piece) return std::nullopt;
    const auto obstacles = sliverObstacles(c, sliver, *piece);
    if (!obstacles) return std::nullopt;
    const auto pieces = freePieces(c, sliver, partedSliver(*piece, *obstacles));
    if (!pieces || pieces->empty()) return std::nullopt;
    std::vector<NamedTool> tools;
    for (const SliverPiece& p : *pieces) tools.push_back(sliverTool(p, c.step));
    if (!addCorners(c, sliver, tools)) return std::nullopt;
    for (const NamedTool& tool : tools) {
        auto made = combine(body, tool, c.hollow ? Combine::Add : Combine::Take);
        if (!made && made.error().code == "combine.apart") continue; // all of it is cut away already
        if (!made) return std::nullopt;
        body = std::move(*made);
    }
    return body;
}

} // namespace

std::optional<Body> roundedByTool(const Body& first, const Body& now, const EdgeChain& chain,
                                  const std::vector<EdgeChain>& all, int step) {
    constexpr double kLeastReached = 0.5;
    if (chain.first != chain.second || !chain.via.empty()) return std::nullopt;
    const NamedShape& s = first.shape();
    const RoundedChain c{s, chain, all, isHollow(s, chain.edges.front()), step};
    auto made = guarded("fillet.tool", "This edge cannot be rounded.", [&]() -> Result<Body> {
        const Error no = errorOf("fillet.tool", "This edge cannot be rounded.");
        Body body = now;
        for (const TopoDS_Edge& e : chain.edges) {
            const auto sliver = roundSliver(s, e, chain.first);
            if (!sliver || isHollow(s, e) != c.hollow || reachedShare(c, *sliver) < kLeastReached) return no;
            auto next = workedBy(c, body, *sliver);
            if (!next || facesNamed(*next, nameAlong(s, e, step, "fillet", all)) == 0) return no;
            body = std::move(*next);
        }
        if (facesNamed(body, sliverJoint(step)) > 0) return no;
        if (auto merged = withoutNewEdges(body, first, step)) body = std::move(*merged);
        const BodyCheck check = checkBody(body);
        if (!check.faults.empty() || check.solids != solidsIn(s.shape)) return no;
        return body;
    });
    return made ? std::optional(std::move(*made)) : std::nullopt;
}

} // namespace gc

#include "core/steps/shared/rooting.hpp"
#include "core/steps/shared/worked_names.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel_clock.hpp"
#include "core/steps/shared/facing.hpp"
#include "core/steps/shared/over_face.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_BooleanOperation.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Lin.hxx>
#include <gp_Pln.hxx>

#include <algorithm>

namespace gc {

namespace {

constexpr double kInto = 0.05; // mm: further than the widest gap, so that the wall is met all over

/// The tool with a prism on one of its faces, in one piece; its new sides are called like what they go on.
/// \param others whose faces are found again on the result
NamedTool carriedOn(const NamedTool& tool, const Gap& gap, double by, std::vector<Gap>& others) {
    BRepPrimAPI_MakePrism more(gap.face, gp_Vec(gap.way) * by);
    TopTools_IndexedDataMapOfShapeListOfShape around;
    TopExp::MapShapesAndAncestors(tool.shape, TopAbs_EDGE, TopAbs_FACE, around);
    std::vector<std::pair<TopoDS_Shape, NamePtr>> added;
    for (const NamePtr n : namesIn(tool, gap.face)) added.emplace_back(more.LastShape(), n);
    for (TopExp_Explorer x(gap.face, TopAbs_EDGE); x.More(); x.Next())
        for (const TopoDS_Shape& beside : around.FindFromKey(x.Current())) {
            if (beside.IsSame(gap.face)) continue;
            for (const TopoDS_Shape& side : toVector(more.Generated(x.Current())))
                for (const NamePtr n : namesIn(tool, beside)) added.emplace_back(side, n);
        }
    KernelOwned<BRepAlgoAPI_Fuse> owned(tool.shape, more.Shape());
    BRepAlgoAPI_Fuse& fuse = *owned;
    NamedTool out = tool;
    out.names.clear();
    KernelOwned<ShapeUpgrade_UnifySameDomain> unifying(onlySolid(fuse.Shape()), true, true, false);
    ShapeUpgrade_UnifySameDomain& unify = *unifying;
    inKernel([&] { unify.Build(); });
    out.shape = unify.Shape();
    const auto now = [&](const TopoDS_Shape& face) {
        auto list = toVector(fuse.Modified(face));
        if (list.empty() && !fuse.IsDeleted(face)) list.push_back(face);
        std::vector<TopoDS_Shape> all;
        for (const TopoDS_Shape& f : list) {
            const auto merged = toVector(unify.History()->Modified(f));
            if (merged.empty())
                all.push_back(f);
            else
                all.insert(all.end(), merged.begin(), merged.end());
        }
        return all;
    };
    added.insert(added.begin(), tool.names.begin(), tool.names.end());
    for (const auto& [face, name] : added)
        for (const TopoDS_Shape& f : now(face)) out.names.emplace_back(f, name);
    for (Gap& other : others)
        if (const auto is = now(other.face); is.size() == 1) other.face = TopoDS::Face(is.front());
    return out;
}

/// Places spread over the edges of a shape and the middles of its faces.
std::vector<gp_Pnt> placesOn(const TopoDS_Shape& shape) {
    constexpr int kEach = 5; // on an edge
    std::vector<gp_Pnt> out;
    for (TopExp_Explorer x(shape, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge& e = TopoDS::Edge(x.Current());
        if (BRep_Tool::Degenerated(e)) continue;
        const BRepAdaptor_Curve c(e);
        for (int k = 0; k < kEach; ++k)
            out.push_back(
                c.Value(c.FirstParameter() + (c.LastParameter() - c.FirstParameter()) * k / (kEach - 1)));
    }
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next())
        for (const gp_Pnt& p : placesOver(TopoDS::Face(x.Current()), 3)) out.push_back(p);
    return out;
}

/// Tells of places whether they lie over a flat face, square to it.
class FlatFace {
  public:
    explicit FlatFace(const TopoDS_Face& face)
        : m_plane(BRepAdaptor_Surface(face, false).Plane()), m_within(face, kKernelPoint) {}
    bool hasUnder(const gp_Pnt& p, double tolerance) {
        double u = 0, v = 0;
        ElSLib::Parameters(m_plane, p, u, v);
        return m_within.TestOnRestriction(gp_Pnt2d(u, v), tolerance) != TopAbs_OUT;
    }

  private:
    gp_Pln m_plane;
    BRepTopAdaptor_FClass2d m_within;
};

/// Does all of a piece lie before a flat face, over that face?
bool liesOver(const TopoDS_Shape& piece, const Gap& gap) {
    const gp_Pnt on = BRepAdaptor_Surface(gap.face, false).Plane().Location();
    FlatFace face(gap.face);
    const auto places = placesOn(piece);
    return std::all_of(places.begin(), places.end(), [&](const gp_Pnt& p) {
        return gp_Vec(on, p).Dot(gap.way) > -kMatters && face.hasUnder(p, kMatters);
    });
}

/// A corner of a flat face that came out of a wall.
struct Corner {
    Gap gap;
    std::vector<gp_Pnt> places; ///< on the face
    double by = 0;
};

/// Places of a flat face that have come out of the body's wall by less than that wall is thick, and by how
/// much; nothing where none have, or where one has come out further.
std::optional<Corner> comeOut(const Gap& gap, Ahead& body) {
    constexpr int kLooks = 9;
    constexpr double kBorder = 1e-3; // of the width: as near to the face's border
    const double far = widthOf(gap.face);
    Corner out{gap, {}, 0};
    for (const gp_Pnt& p : placesOver(gap.face, kLooks, kBorder)) {
        if (body.holds(p, true) || body.crossing(p, gap.way, far)) continue;
        const auto back = body.crossing(p, gap.way.Reversed(), far);
        if (!back || *back < kMatters) continue; // beside the body, or on its wall
        const gp_Pnt wall = p.Translated(gp_Vec(gap.way) * -(*back + kMatters));
        const auto thick = body.crossing(wall, gap.way.Reversed(), 10 * far);
        if (!thick || *thick + kMatters < *back) return std::nullopt; // meant to, or from within the body
        out.places.push_back(p);
        out.by = std::max(out.by, *back);
    }
    return out.places.empty() ? std::nullopt : std::optional(out);
}

/// Is one of the corner's places on what became of the face, in this piece?
bool isOf(const Corner& corner, const TopoDS_Shape& piece, BRepAlgoAPI_BooleanOperation& cut) {
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(piece, TopAbs_FACE, faces);
    for (const TopoDS_Shape& f : whatBecameOf(corner.gap.face, cut)) {
        if (!faces.Contains(f)) continue;
        FlatFace face(TopoDS::Face(f));
        for (const gp_Pnt& p : corner.places)
            if (face.hasUnder(p, kKernelPoint)) return true;
    }
    return false;
}

/// The pieces of a tool less the body that are kept, with their names; what they have of the body's walls is
/// called like the face that ends there.
std::optional<NamedTool> keptOf(const NamedTool& tool, const std::vector<NamePtr>& onWall,
                                BRepAlgoAPI_BooleanOperation& cut,
                                const std::function<bool(const TopoDS_Shape& piece)>& keeps) {
    NamedTool out = tool;
    out.names.clear();
    TopoDS_Compound kept;
    BRep_Builder().MakeCompound(kept);
    for (TopExp_Explorer x(cut.Shape(), TopAbs_SOLID); x.More(); x.Next())
        if (keeps(x.Current())) BRep_Builder().Add(kept, x.Current());
    out.shape = onlySolid(kept);
    TopTools_IndexedMapOfShape faces, named;
    TopExp::MapShapes(kept, TopAbs_FACE, faces);
    if (faces.IsEmpty()) return std::nullopt;
    for (const auto& [face, name] : tool.names)
        for (const TopoDS_Shape& f : whatBecameOf(face, cut))
            if (faces.Contains(f)) {
                named.Add(f);
                out.names.emplace_back(f, name);
            }
    for (int i = 1; i <= faces.Extent(); ++i) // on the wall: they vanish when both are joined
        if (!named.Contains(faces(i)))
            for (const NamePtr n : onWall) out.names.emplace_back(faces(i), n);
    return out;
}

} // namespace

std::optional<Rooted> rooted(const Body& body, const NamedTool& tool, std::vector<Gap> gaps) {
    Rooted out{tool, {}};
    std::vector<Gap> carried;
    std::vector<NamePtr> onWall;
    for (std::size_t i = 0; i < gaps.size(); ++i) {
        const Gap gap = gaps[i];
        if (!gap.everywhere || gap.least > kTouches || gap.most < kMatters) continue;
        out.ends.push_back({wordsFor(out.tool, gap.face), gap.most, false});
        const auto names = namesIn(out.tool, gap.face);
        onWall.insert(onWall.end(), names.begin(), names.end());
        out.tool = carriedOn(out.tool, gap, gap.most + kInto, gaps);
        carried.push_back(gap);
    }
    std::vector<Corner> corners;
    for (const Gap& gap : gaps) {
        if (!gap.within || !gap.without) continue;
        auto corner = comeOut(gap, Ahead::of(body));
        if (!corner) continue;
        out.ends.push_back({wordsFor(out.tool, gap.face), corner->by, true});
        const auto names = namesIn(out.tool, gap.face);
        onWall.insert(onWall.end(), names.begin(), names.end());
        corners.push_back(std::move(*corner));
    }
    if (out.ends.empty()) return std::nullopt;
    KernelOwned<NearOnly<BRepAlgoAPI_BooleanOperation>> owned;
    auto& cut = *owned;
    cut.SetOperation(BOPAlgo_CUT);
    cut.setUp(out.tool.shape, {body.shape().shape});
    inKernel([&] { cut.build(); });
    if (!cut.IsDone() || cut.HasErrors()) return std::nullopt;
    // What came out on the other side of a wall is left away.
    auto kept = keptOf(out.tool, onWall, cut, [&](const TopoDS_Shape& piece) {
        return std::none_of(carried.begin(), carried.end(),
                            [&](const Gap& g) { return liesOver(piece, g); }) &&
               std::none_of(corners.begin(), corners.end(),
                            [&](const Corner& c) { return isOf(c, piece, cut); });
    });
    if (!kept) return std::nullopt;
    out.tool = std::move(*kept);
    return out;
}

std::optional<Lacking> lacking(const NamedTool& tool, const std::vector<Gap>& gaps) {
    std::optional<Lacking> least;
    for (const Gap& gap : gaps)
        if (gap.everywhere && gap.least > kMatters && (!least || gap.least < least->by))
            least = Lacking{gap.least, gap.middle, wordsFor(tool, gap.face)};
    return least;
}

} // namespace gc

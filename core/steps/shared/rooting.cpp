#include "core/steps/shared/rooting.hpp"
#include "core/steps/shared/worked_names.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extremes.hpp"
#include "core/steps/shared/facing.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
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
NamedTool carriedOn(const NamedTool& tool, const Gap& gap, double by) {
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
    BRepAlgoAPI_Fuse fuse(tool.shape, more.Shape());
    NamedTool out = tool;
    out.names.clear();
    ShapeUpgrade_UnifySameDomain unify(onlySolid(fuse.Shape()), true, true, false);
    unify.Build();
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
    return out;
}

/// Places within the tool and outside the body.
std::vector<gp_Pnt> placesOutside(const NamedTool& tool, Ahead& body) {
    constexpr int kLooks = 9; // each way
    const Box box = extentOf(tool.shape);
    std::vector<gp_Pnt> out;
    BRepClass3d_SolidClassifier inside(tool.shape);
    const auto at = [](double low, double high, int k) { return low + (high - low) * (k + 0.47) / kLooks; };
    for (int i = 0; i < kLooks; ++i)
        for (int j = 0; j < kLooks; ++j)
            for (int k = 0; k < kLooks; ++k) {
                const gp_Pnt p(at(box.low.x, box.high.x, i), at(box.low.y, box.high.y, j),
                               at(box.low.z, box.high.z, k));
                inside.Perform(p, kKernelPoint);
                if (inside.State() == TopAbs_IN && !body.holds(p)) out.push_back(p);
            }
    return out;
}

/// The tool less the body; of the pieces those that the tool was before it was carried on: what came out on
/// the other side of a wall is left away.
std::optional<NamedTool> trimmed(const NamedTool& longer, const NamedTool& before, const Body& body,
                                 const Gap& gap) {
    Ahead ahead(body.shape().shape);
    const auto places = placesOutside(before, ahead);
    TopTools_ListOfShape arguments, tools;
    arguments.Append(longer.shape);
    tools.Append(body.shape().shape);
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(arguments);
    cut.SetTools(tools);
    cut.SetNonDestructive(true);
    cut.SetRunParallel(false);
    cut.Build();
    if (!cut.IsDone() || cut.HasErrors()) return std::nullopt;
    NamedTool out = longer;
    out.names.clear();
    TopoDS_Compound kept;
    BRep_Builder().MakeCompound(kept);
    int count = 0;
    for (TopExp_Explorer x(cut.Shape(), TopAbs_SOLID); x.More(); x.Next()) {
        if (!holdsAny(x.Current(), places)) continue;
        BRep_Builder().Add(kept, x.Current());
        ++count;
    }
    if (count == 0) return std::nullopt;
    out.shape = onlySolid(kept);
    TopTools_IndexedMapOfShape faces, named;
    TopExp::MapShapes(out.shape, TopAbs_FACE, faces);
    for (const auto& [face, name] : longer.names) {
        for (const TopoDS_Shape& f : whatBecameOf(face, cut))
            if (faces.Contains(f)) {
                named.Add(f);
                out.names.emplace_back(f, name);
            }
    }
    for (int i = 1; i <= faces.Extent(); ++i) // on the wall: they vanish when both are joined
        if (!named.Contains(faces(i)))
            for (const NamePtr n : namesIn(before, gap.face)) out.names.emplace_back(faces(i), n);
    return out;
}

} // namespace

std::optional<Rooted> rooted(const Body& body, const NamedTool& tool, const std::vector<Gap>& gaps) {
    for (const Gap& gap : gaps) {
        if (gap.least > kTouches || gap.most < kMatters) continue;
        auto ends = trimmed(carriedOn(tool, gap, gap.most + kInto), tool, body, gap);
        if (!ends) continue;
        return Rooted{std::move(*ends), gap.most, wordsFor(tool, gap.face)};
    }
    return std::nullopt;
}

std::optional<Lacking> lacking(const NamedTool& tool, const std::vector<Gap>& gaps) {
    std::optional<Lacking> least;
    for (const Gap& gap : gaps)
        if (gap.least > kMatters && (!least || gap.least < least->by))
            least = Lacking{gap.least, gap.middle, wordsFor(tool, gap.face)};
    return least;
}

} // namespace gc

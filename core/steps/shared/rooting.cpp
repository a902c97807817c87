#include "core/steps/shared/rooting.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extremes.hpp"
#include "core/steps/shared/over_face.hpp"

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

constexpr double kTouches = 1e-3; // mm: what is drawn up to a silhouette meets the wall there
constexpr double kMatters = 1e-4; // mm: a gap that would stay
constexpr double kInto = 0.05;    // mm: further than the widest gap, so that the wall is met all over
constexpr double kNear = 0.5;     // of a face's width: a wall further away is another matter

/// How far a flat face is from a body, square to it.
struct Gap {
    TopoDS_Face face;
    gp_Dir way; ///< out of the tool
    double least = 1e300, most = 0;
    bool everywhere = true; ///< the body lies ahead of all of it, near enough
    Vec3 middle;
};

class Ahead {
  public:
    explicit Ahead(const TopoDS_Shape& body) : m_inside(body) { m_crossing.Load(body, kKernelPoint); }

    /// From a place along a way to where the body begins; 0 within it, nothing where it is not met.
    std::optional<double> distance(const gp_Pnt& from, const gp_Dir& way, double far) {
        m_inside.Perform(from, kKernelPoint);
        if (m_inside.State() != TopAbs_OUT) return 0;
        m_crossing.PerformNearest(gp_Lin(from, way), 0, far);
        if (!m_crossing.IsDone() || m_crossing.NbPnt() == 0) return std::nullopt;
        return m_crossing.WParameter(1);
    }
    bool holds(const gp_Pnt& p) {
        m_inside.Perform(p, kKernelPoint);
        return m_inside.State() == TopAbs_IN;
    }

  private:
    IntCurvesFace_ShapeIntersector m_crossing;
    BRepClass3d_SolidClassifier m_inside;
};

/// Looks from a few places first, which settles most faces: the body is far from one of them, or the face
/// lies within it. Odd, so that the middle is among them: where something is symmetric to a silhouette it is
/// met there.
Gap gapOf(const TopoDS_Face& face, Ahead& body) {
    constexpr double kBorder = 1e-4; // of the width: as near to its border as that
    Gap g;
    g.face = face;
    const BRepAdaptor_Surface surface(face);
    g.way = surface.Plane().Axis().Direction();
    if (!surface.Plane().Direct()) g.way.Reverse();
    if (face.Orientation() == TopAbs_REVERSED) g.way.Reverse();
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    const double far = kNear * std::min(u1 - u0, v1 - v0);
    for (const int looks : {3, 15}) {
        const auto places = placesOver(face, looks, kBorder);
        g.everywhere = !places.empty() && std::all_of(places.begin(), places.end(), [&](const gp_Pnt& p) {
            const auto away = body.distance(p, g.way, far);
            g.least = std::min(g.least, away.value_or(g.least));
            g.most = std::max(g.most, away.value_or(g.most));
            return away.has_value();
        });
        if (!g.everywhere || g.most == 0) break;
        const gp_Pnt m = places[places.size() / 2];
        g.middle = {m.X(), m.Y(), m.Z()};
    }
    return g;
}

std::vector<Gap> gapsOf(const Body& body, const NamedTool& tool) {
    Ahead ahead(body.shape().shape);
    std::vector<Gap> out;
    for (TopExp_Explorer x(tool.shape, TopAbs_FACE); x.More(); x.Next()) {
        const TopoDS_Face face = TopoDS::Face(x.Current());
        if (BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Plane) continue;
        Gap g = gapOf(face, ahead);
        if (g.everywhere) out.push_back(std::move(g));
    }
    return out;
}

/// What a face of the tool is called.
std::vector<NamePtr> namesIn(const NamedTool& tool, const TopoDS_Shape& face) {
    std::vector<NamePtr> out;
    for (const auto& [f, name] : tool.names)
        if (f.IsSame(face)) out.push_back(name);
    return out;
}

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
        auto now = toVector(cut.Modified(face));
        if (now.empty()) now.push_back(face);
        for (const TopoDS_Shape& f : now)
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

std::optional<Rooted> rooted(const Body& body, const NamedTool& tool) {
    for (const Gap& gap : gapsOf(body, tool)) {
        if (gap.least > kTouches || gap.most < kMatters) continue;
        auto ends = trimmed(carriedOn(tool, gap, gap.most + kInto), tool, body, gap);
        if (!ends) continue;
        const auto names = namesIn(tool, gap.face);
        const auto ref = names.empty() ? nullptr : referenceTo(*names.front());
        return Rooted{std::move(*ends), gap.most, ref ? toText(*ref) : std::string()};
    }
    return std::nullopt;
}

std::optional<Lacking> lacking(const Body& body, const NamedTool& tool) {
    std::optional<Lacking> least;
    for (const Gap& gap : gapsOf(body, tool))
        if (gap.least > kMatters && (!least || gap.least < least->by)) least = Lacking{gap.least, gap.middle};
    return least;
}

} // namespace gc

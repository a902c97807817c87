#include "core/steps/shared/copied_detail.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/area_of.hpp"
#include "core/steps/shared/defeatured.hpp"
#include "core/steps/shared/near_filler.hpp"
#include "core/steps/shared/worked_names.hpp"

#include <BRepAlgoAPI_BooleanOperation.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepGProp.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <Geom2d_Curve.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopTools_IndexedDataMapOfShapeListOfShape.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>
#include <cmath>
#include <set>

namespace gc {

namespace {

/// A piece of a detail as a solid: its faces, closed by what its mouths leave of the faces that it stands in.
struct DetailSolid {
    TopoDS_Shape shape;
    bool takes = false; ///< it is a hollow
};

/// Borders of the islands that lie in what fills a mouth, taken forward.
std::vector<TopoDS_Wire> islandsWithin(const TopoDS_Face& lid, const Detail& detail) {
    std::vector<TopoDS_Wire> out;
    const BRepTopAdaptor_FClass2d inside(lid, kKernelPoint);
    for (const TopoDS_Face& f : detail.islands) {
        const TopoDS_Face island = TopoDS::Face(f.Oriented(TopAbs_FORWARD));
        const TopoDS_Wire border = BRepTools::OuterWire(island);
        double a = 0, b = 0;
        const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(
            TopoDS::Edge(TopExp_Explorer(border, TopAbs_EDGE).Current()), lid, a, b);
        if (!on.IsNull() && inside.Perform(on->Value(0.5 * (a + b))) == TopAbs_IN) out.push_back(border);
    }
    return out;
}

/// Faces that share edges, from one to the next: the letters of a word are as many pieces.
std::vector<std::vector<TopoDS_Shape>> piecesOf(const std::vector<TopoDS_Shape>& faces) {
    TopTools_IndexedDataMapOfShapeListOfShape beside;
    for (const TopoDS_Shape& f : faces) TopExp::MapShapesAndAncestors(f, TopAbs_EDGE, TopAbs_FACE, beside);
    TopTools_IndexedMapOfShape known;
    std::vector<std::vector<TopoDS_Shape>> out;
    for (const TopoDS_Shape& first : faces) {
        if (known.Contains(first)) continue;
        std::vector<TopoDS_Shape>& piece = out.emplace_back();
        const auto take = [&](const TopoDS_Shape& f) {
            if (known.Contains(f)) return;
            known.Add(f);
            piece.push_back(f);
        };
        take(first);
        for (std::size_t k = 0; k < piece.size(); ++k)
            for (TopExp_Explorer x(TopoDS_Shape(piece[k]), TopAbs_EDGE); x.More(); x.Next())
                for (const TopoDS_Shape& f : beside.FindFromKey(x.Current())) take(f);
    }
    return out;
}

DetailSolid closedBy(const std::vector<TopoDS_Shape>& faces) {
    const BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    for (const TopoDS_Shape& f : faces) builder.Add(shell, f);
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    GProp_GProps props;
    BRepGProp::VolumeProperties(solid, props);
    // A boss closed below by lids that look down is a solid that looks outward; of a hollow all faces look
    // inward.
    if (props.Mass() > 0) return {solid, false};
    return {solid.Reversed(), true};
}

std::vector<DetailSolid> solidsOf(const Detail& detail) {
    const BRep_Builder builder;
    std::vector<TopoDS_Shape> faces;
    TopTools_IndexedMapOfShape islands;
    for (const TopoDS_Face& f : detail.islands) islands.Add(f);
    for (const TopoDS_Face& f : detail.faces)
        if (!islands.Contains(f)) faces.push_back(f);
    for (const Mouth& m : detail.mouths) {
        // Within the host the loop is a hole: run the other way it is the border of what fills it.
        TopoDS_Face lid = TopoDS::Face(m.host.EmptyCopied().Oriented(TopAbs_FORWARD));
        builder.Add(lid, m.loop.Reversed());
        for (const TopoDS_Wire& hole : islandsWithin(lid, detail)) builder.Add(lid, hole.Reversed());
        // The lid looks the other way than the host: towards the detail.
        faces.push_back(lid.Oriented(TopAbs::Reverse(m.host.Orientation())));
    }
    std::vector<DetailSolid> out;
    for (const auto& piece : piecesOf(faces)) out.push_back(closedBy(piece));
    return out;
}

/// A solid that copies are made of, and what its faces are called.
struct CopiedSolid {
    TopoDS_Shape shape;
    bool takes = false;
    std::vector<std::pair<TopoDS_Shape, NameList>> faces;
};

/// All copies, by one boolean for what adds and one for what takes.
Result<Body> copiesWorkedIn(Body body, const std::vector<CopiedSolid>& solids,
                            const std::vector<Placement>& placements, int step) {
    for (const bool takes : {false, true}) {
        std::vector<NamedTool> tools;
        for (const Placement& p : placements)
            for (const CopiedSolid& solid : solids) {
                if (solid.takes != takes) continue;
                BRepBuilderAPI_Transform copy(solid.shape, p.by, true);
                NamedTool& tool = tools.emplace_back();
                tool.shape = copy.Shape();
                for (const auto& [f, called] : solid.faces)
                    for (const NamePtr n : copyNames(called, p, step))
                        tool.names.emplace_back(copy.ModifiedShape(f), n);
            }
        if (tools.empty()) continue;
        auto now = workedIn(body.shape(), tools, takes);
        if (!now) return now.error();
        body = std::move(*now);
    }
    return body;
}

constexpr double kSame = 1e-4; // of an area

/// Is there as much of the copies' faces as of the detail's own? By areas: the kernel's volumes of free forms
/// are not good enough to tell.
bool areAlike(const NamedShape& before, const TopTools_IndexedMapOfShape& faces, const NamedShape& made,
              const std::vector<Placement>& placements, int step) {
    double should = 0, is = 0;
    std::set<NamePtr> names;
    for (int k = 1; k <= faces.Extent(); ++k) {
        should += areaOf(faces(k)) * static_cast<double>(placements.size());
        for (const Placement& p : placements)
            for (const NamePtr n : copyNames(before.namesOf(faces(k)), p, step)) names.insert(n);
    }
    for (int i = 1; i <= made.faces.Extent(); ++i) {
        const NameList called = made.namesOf(made.faces(i));
        if (std::any_of(called.begin(), called.end(), [&](NamePtr n) { return names.count(n) > 0; }))
            is += areaOf(made.faces(i));
    }
    return std::fabs(is - should) < kSame * should;
}

int freeBeside(const NamedShape& s, const TopTools_IndexedMapOfShape& faces) {
    const TopTools_IndexedMapOfShape beside = besideOf(s, faces);
    return static_cast<int>(
        std::count_if(beside.cbegin(), beside.cend(), [](const TopoDS_Shape& f) { return isFreeFace(f); }));
}

} // namespace

NameList copyNames(const NameList& of, const Placement& placement, int step) {
    const std::string role = placement.place.empty() ? "image of" : "copy at " + placement.place;
    NameList out;
    for (const NamePtr name : of) out.push_back(internName(step, role, {name}));
    return out;
}

Result<Body> workedIn(const NamedShape& shape, const std::vector<NamedTool>& tools, bool takes) {
    std::vector<TopoDS_Shape> solids;
    for (const NamedTool& t : tools) solids.push_back(t.shape);
    NearOnly<BRepAlgoAPI_BooleanOperation> operation;
    operation.SetOperation(takes ? BOPAlgo_CUT : BOPAlgo_FUSE);
    operation.setUp(shape.shape, solids);
    operation.build();
    if (operation.HasErrors())
        return errorOf("repeat.failed",
                       "The copies cannot be worked into the body there. Move them a little, or take fewer.");
    NameBuilder names(onlySolid(operation.Shape()));
    names.carry(shape, operation);
    for (const NamedTool& t : tools)
        for (const auto& [face, name] : t.names)
            for (const TopoDS_Shape& now : whatBecameOf(face, operation))
                if (names.has(now)) names.add(now, name);
    return names.finish();
}

bool takesAway(const Detail& detail) {
    const auto solids = solidsOf(detail);
    return std::any_of(solids.begin(), solids.end(), [](const DetailSolid& s) { return s.takes; });
}

Result<Body> addedOrTaken(const Body& body, const Detail& detail, const std::vector<Placement>& placements,
                          int step) {
    std::vector<CopiedSolid> solids;
    for (const DetailSolid& made : solidsOf(detail)) {
        CopiedSolid& solid = solids.emplace_back(CopiedSolid{made.shape, made.takes, {}});
        TopTools_IndexedMapOfShape own;
        TopExp::MapShapes(made.shape, TopAbs_FACE, own);
        for (const TopoDS_Face& f : detail.faces)
            if (own.Contains(f)) solid.faces.emplace_back(f, body.shape().namesOf(f));
    }
    return copiesWorkedIn(body, solids, placements, step);
}

std::optional<TopoDS_Shape> AtBorder::whole() const {
    if (solids.empty()) return std::nullopt;
    BRep_Builder builder;
    TopoDS_Compound out;
    builder.MakeCompound(out);
    for (const auto& s : solids) builder.Add(out, s.body.shape().shape);
    return out;
}

AtBorder atBorder(const Body& body, const TopTools_IndexedMapOfShape& faces, int step) {
    constexpr int kMostFree = 6; // walls that the kernel is asked to go on with over where the detail was
    AtBorder out;
    if (freeBeside(body.shape(), faces) > kMostFree) return out;
    const auto without = withoutFaces(body, faces);
    if (!without) return out;
    if (auto added = combine(body, toolOf(*without, step), Combine::Take))
        out.solids.push_back({std::move(*added), false});
    if (auto taken = combine(*without, toolOf(body, step), Combine::Take))
        out.solids.push_back({std::move(*taken), true});
    return out;
}

Result<CopiedAtBorder> copiedAtBorder(const Body& body, const TopTools_IndexedMapOfShape& faces,
                                      const AtBorder& detail, const std::vector<Placement>& placements,
                                      int step) {
    std::vector<CopiedSolid> solids;
    for (const AtBorder::Solid& s : detail.solids) {
        const NamedShape& shape = s.body.shape();
        CopiedSolid& solid = solids.emplace_back(CopiedSolid{shape.shape, s.takes, {}});
        for (int i = 1; i <= shape.faces.Extent(); ++i)
            solid.faces.emplace_back(shape.faces(i), shape.namesOf(shape.faces(i)));
    }
    auto made = copiesWorkedIn(body, solids, placements, step);
    if (!made) return made.error();
    const bool alike = areAlike(body.shape(), faces, made->shape(), placements, step);
    return CopiedAtBorder{std::move(*made), alike};
}

Result<CopiedAtBorder> detailCopied(const Body& body, const std::vector<int>& faces,
                                    const std::vector<Placement>& placements, int step) {
    const NamedShape& shape = body.shape();
    const TopTools_IndexedMapOfShape own = withWhatBelongs(shape, faces);
    const auto detail = detailOf(shape, faces);
    if (!detail) {
        const AtBorder border = atBorder(body, own, step);
        if (detail.error().code != "repeat.border" || border.solids.empty()) return detail.error();
        return copiedAtBorder(body, own, border, placements, step);
    }
    auto made = addedOrTaken(body, *detail, placements, step);
    if (!made) return made.error();
    const bool alike = areAlike(shape, own, made->shape(), placements, step);
    return CopiedAtBorder{std::move(*made), alike};
}

} // namespace gc

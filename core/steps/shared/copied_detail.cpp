#include "core/steps/shared/copied_detail.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/defeatured.hpp"
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
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

namespace gc {

namespace {

/// A detail as a solid: its faces, closed by what its mouths leave of the faces that it stands in.
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

DetailSolid solidOf(const Detail& detail) {
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    TopTools_IndexedMapOfShape islands;
    for (const TopoDS_Face& f : detail.islands) islands.Add(f);
    for (const TopoDS_Face& f : detail.faces)
        if (!islands.Contains(f)) builder.Add(shell, f);
    for (const Mouth& m : detail.mouths) {
        // Within the host the loop is a hole: run the other way it is the border of what fills it.
        TopoDS_Face lid = TopoDS::Face(m.host.EmptyCopied().Oriented(TopAbs_FORWARD));
        builder.Add(lid, m.loop.Reversed());
        for (const TopoDS_Wire& hole : islandsWithin(lid, detail)) builder.Add(lid, hole.Reversed());
        // The lid looks the other way than the host: towards the detail.
        builder.Add(shell, lid.Oriented(TopAbs::Reverse(m.host.Orientation())));
    }
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

/// A solid that copies are made of, and what its faces are called.
struct CopiedSolid {
    TopoDS_Shape shape;
    bool takes = false;
    std::vector<std::pair<TopoDS_Shape, NameList>> faces;
};

/// All copies by one boolean.
Result<Body> copiesWorkedIn(const NamedShape& shape, const CopiedSolid& solid,
                            const std::vector<Placement>& placements, int step) {
    std::vector<NamedTool> tools;
    for (const Placement& p : placements) {
        BRepBuilderAPI_Transform copy(solid.shape, p.by, true);
        NamedTool& tool = tools.emplace_back();
        tool.shape = copy.Shape();
        for (const auto& [f, called] : solid.faces)
            for (const NamePtr n : copyNames(called, p, step))
                tool.names.emplace_back(copy.ModifiedShape(f), n);
    }
    return workedIn(shape, tools, solid.takes);
}

constexpr double kSame = 1e-5; // of a volume

double volumeOf(const TopoDS_Shape& shape) {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape, props);
    return props.Mass();
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
    return solidOf(detail).takes;
}

Result<Body> addedOrTaken(const NamedShape& shape, const Detail& detail,
                          const std::vector<Placement>& placements, int step) {
    const DetailSolid made = solidOf(detail);
    CopiedSolid solid{made.shape, made.takes, {}};
    for (const TopoDS_Face& f : detail.faces) solid.faces.emplace_back(f, shape.namesOf(f));
    return copiesWorkedIn(shape, solid, placements, step);
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
    AtBorder out;
    const auto without = withoutFaces(body, faces);
    if (!without) return out;
    if (auto added = combine(body, toolOf(*without, step), Combine::Take))
        out.solids.push_back({std::move(*added), false});
    if (auto taken = combine(*without, toolOf(body, step), Combine::Take))
        out.solids.push_back({std::move(*taken), true});
    return out;
}

Result<CopiedAtBorder> copiedAtBorder(const Body& body, const AtBorder& detail,
                                      const std::vector<Placement>& placements, int step) {
    CopiedAtBorder out{body, true};
    double should = volumeOf(body.shape().shape);
    for (const AtBorder::Solid& s : detail.solids) {
        CopiedSolid solid{s.body.shape().shape, s.takes, {}};
        const NamedShape& shape = s.body.shape();
        for (int i = 1; i <= shape.faces.Extent(); ++i)
            solid.faces.emplace_back(shape.faces(i), shape.namesOf(shape.faces(i)));
        auto now = copiesWorkedIn(out.body.shape(), solid, placements, step);
        if (!now) return now.error();
        out.body = std::move(*now);
        should += (s.takes ? -1 : 1) * volumeOf(solid.shape) * static_cast<double>(placements.size());
    }
    out.alike = std::fabs(volumeOf(out.body.shape().shape) / should - 1) < kSame;
    return out;
}

Result<CopiedAtBorder> detailCopied(const Body& body, const std::vector<int>& faces,
                                    const std::vector<Placement>& placements, int step) {
    const NamedShape& shape = body.shape();
    const auto detail = detailOf(shape, faces);
    if (!detail) {
        const AtBorder border = atBorder(body, withRounds(shape, faces), step);
        if (detail.error().code != "repeat.border" || border.solids.empty()) return detail.error();
        return copiedAtBorder(body, border, placements, step);
    }
    auto made = addedOrTaken(shape, *detail, placements, step);
    if (!made) return made.error();
    const DetailSolid solid = solidOf(*detail);
    const double one = volumeOf(solid.shape) * (solid.takes ? -1 : 1);
    const double should = volumeOf(shape.shape) + one * static_cast<double>(placements.size());
    return CopiedAtBorder{*made, std::fabs(volumeOf(made->shape().shape) / should - 1) < kSame};
}

} // namespace gc

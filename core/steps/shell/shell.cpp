#include "core/base/triangle.hpp"
#include "core/shape/mesher/body_mesher.hpp"
#include "core/steps/shared/find_items.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_MakeOffsetShape.hxx>
#include <BRepOffsetAPI_MakeThickSolid.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <GeomLProp_SLProps.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <cmath>
#include <set>

namespace gc {

namespace {

constexpr double kFitTolerance = 1e-6; // mm, of the offset profiles

struct Plan {
    const NamedShape* before = nullptr;
    TopTools_IndexedMapOfShape opened;
    double offset = 0; ///< along the outward normals: negative inward
};

/// min(1 - t k) over sampled principal curvatures of the kept faces: at or below zero the offset folds over.
/// Foretells every collapse that was seen and never cried wolf (docs/kernel.md).
std::optional<Error> foldsOver(const Plan& plan, const Body& body) {
    for (int i = 1; i <= plan.before->faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(plan.before->faces(i));
        if (plan.opened.Contains(face)) continue;
        const BRepAdaptor_Surface kind(face, false);
        if (kind.GetType() == GeomAbs_Plane) continue;
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(face, u0, u1, v0, v1);
        const double side = face.Orientation() == TopAbs_REVERSED ? -1 : 1;
        const bool turned = kind.GetType() == GeomAbs_SurfaceOfRevolution ||
                            kind.GetType() == GeomAbs_Torus || kind.GetType() == GeomAbs_Cylinder ||
                            kind.GetType() == GeomAbs_Cone;
        const int nu = turned ? 1 : 24, nv = 40; // all meridians of a turned face are alike
        GeomLProp_SLProps props(BRep_Tool::Surface(face), 2, 1e-9);
        for (int a = 0; a < nu; ++a)
            for (int b = 0; b <= nv; ++b) {
                props.SetParameters(u0 + (u1 - u0) * (a + 0.5) / nu, v0 + (v1 - v0) * b / nv);
                if (!props.IsCurvatureDefined()) continue;
                for (const double k : {props.MaxCurvature(), props.MinCurvature()})
                    if (1 - side * plan.offset * k <= 1e-6) {
                        Error e;
                        e.code = "shell.too-thick";
                        const auto refs = referencesForFace(body, i - 1);
                        const std::string name = refs.empty() ? "a face" : refs.front();
                        e.culprits = {name};
                        e.sentence = "The wall is too thick for " + name + ": its tightest radius is " +
                                     formatAmount(1 / std::fabs(k), "mm", 2) + ", so a wall of " +
                                     formatAmount(std::fabs(plan.offset), "mm", 2) + " would fold over.";
                        return e;
                    }
            }
    }
    return std::nullopt;
}

/// A few points of every new face must lie at least 0.98 of the wall from the kept faces. Their distance is
/// taken from triangles that stand off the faces by far less than the rest.
std::optional<Error> tooThinSomewhere(const Plan& plan, const std::vector<TopoDS_Shape>& insides) {
    const double wall = std::fabs(plan.offset), deviation = 0.004 * wall;
    MeshedBody meshed;
    std::pair<int, std::string> fault;
    if (!meshBody(*plan.before, {deviation, 0.3, 0.6}, meshed, fault)) return std::nullopt;
    const auto distance = [&](Vec3 p) {
        double least = 1e300;
        for (std::size_t f = 0; f < meshed.faces.size(); ++f) {
            if (plan.opened.Contains(plan.before->faces(static_cast<int>(f) + 1))) continue;
            const auto& points = meshed.faces[f].points;
            for (const auto& t : meshed.faces[f].triangles) {
                const auto at = [&](std::size_t k) { return points[static_cast<std::size_t>(t[k])]; };
                least = std::min(least, length(nearestOnTriangle(p, at(0), at(1), at(2)) - p));
            }
        }
        return least;
    };
    for (const TopoDS_Shape& shape : insides) {
        const TopoDS_Face face = TopoDS::Face(shape);
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(face, u0, u1, v0, v1);
        const BRepAdaptor_Surface surface(face);
        for (const double f : {0.15, 0.5, 0.85}) {
            const double found = distance(toVec(surface.Value(u0 + (u1 - u0) * 0.37, v0 + (v1 - v0) * f)));
            if (found >= 0.98 * wall - 2 * deviation) continue;
            Error e;
            e.code = "shell.thin";
            e.sentence = "The wall came out at " + formatAmount(found, "mm", 2) + " instead of " +
                         formatAmount(wall, "mm", 2) + " somewhere, so it is not used.";
            return e;
        }
    }
    return std::nullopt;
}

/// The result of the kernel's operation with what became of each old face.
struct Hollow {
    TopoDS_Shape shape;
    std::vector<std::pair<TopoDS_Shape, NamePtr>> names; ///< faces of shape
    std::vector<TopoDS_Shape> insides;
};

void nameOpened(const Plan& plan, int step, BRepOffsetAPI_MakeThickSolid& solid, Hollow& hollow) {
    const NamedShape& before = *plan.before;
    for (int i = 1; i <= before.faces.Extent(); ++i) {
        const TopoDS_Shape& face = before.faces(i);
        const bool opened = plan.opened.Contains(face);
        const auto changed = toVector(solid.Modified(face));
        const auto made = toVector(solid.Generated(face));
        for (const NamePtr n : before.namesOf(face)) {
            for (const TopoDS_Shape& f : changed)
                hollow.names.emplace_back(f, opened ? internName(step, "rim of", {n}) : n);
            if (changed.empty() && !opened) hollow.names.emplace_back(face, n);
            if (!opened)
                for (const TopoDS_Shape& f : made)
                    hollow.names.emplace_back(f, internName(step, "inside of", {n}));
        }
        if (!opened) hollow.insides.insert(hollow.insides.end(), made.begin(), made.end());
    }
    for (int i = 1; i <= before.facesOfEdge.Extent(); ++i) {
        std::set<NamePtr> parents;
        for (const TopoDS_Shape& f : toVector(before.facesOfEdge(i)))
            if (!before.namesOf(f).empty()) parents.insert(before.namesOf(f).front());
        for (const TopoDS_Shape& f : toVector(solid.Generated(before.facesOfEdge.FindKey(i))))
            if (f.ShapeType() == TopAbs_FACE)
                hollow.names.emplace_back(
                    f, internName(step, "inside fillet", {parents.begin(), parents.end()}));
    }
}

Result<Hollow> openShell(const Plan& plan, int step) {
    TopTools_ListOfShape opened;
    for (int i = 1; i <= plan.opened.Extent(); ++i) opened.Append(plan.opened(i));
    BRepOffsetAPI_MakeThickSolid solid;
    solid.MakeThickSolidByJoin(plan.before->shape, opened, plan.offset, 1e-4, BRepOffset_Skin, false, false,
                               plan.offset < 0 ? GeomAbs_Intersection : GeomAbs_Arc);
    if (!solid.IsDone()) {
        Error e;
        e.code = "shell.failed";
        e.sentence = "A wall of " + formatAmount(std::fabs(plan.offset), "mm", 2) + " cannot be made here.";
        return e;
    }
    Hollow hollow;
    hollow.shape = solid.Shape();
    nameOpened(plan, step, solid, hollow);
    return hollow;
}

/// Without an opening the kernel's thick solid is just the offset: make the inner solid and cut it out.
Result<Hollow> closedShell(const Plan& plan, int step) {
    BRepOffsetAPI_MakeOffsetShape offset;
    offset.PerformByJoin(plan.before->shape, plan.offset, 1e-4, BRepOffset_Skin, false, false, GeomAbs_Arc);
    Error e;
    e.code = "shell.failed";
    e.sentence =
        "A closed wall of " + formatAmount(std::fabs(plan.offset), "mm", 2) + " cannot be made here.";
    if (!offset.IsDone()) return e;
    TopoDS_Shape other = offset.Shape();
    if (other.ShapeType() != TopAbs_SOLID) {
        TopExp_Explorer shell(other, TopAbs_SHELL);
        if (!shell.More()) return e;
        other = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shell.Current())).Solid();
    }
    TopoDS_Solid solid = TopoDS::Solid(other);
    BRepLib::OrientClosedSolid(solid);
    const bool inward = plan.offset < 0;
    BRepAlgoAPI_Cut cut(inward ? plan.before->shape : solid,
                        inward ? TopoDS_Shape(solid) : plan.before->shape);
    if (cut.HasErrors()) return e;
    Hollow hollow;
    hollow.shape = onlySolid(cut.Shape());
    auto afterCut = [&](const TopoDS_Shape& f) {
        auto now = toVector(cut.Modified(f));
        if (now.empty()) now.push_back(f);
        return now;
    };
    for (int i = 1; i <= plan.before->faces.Extent(); ++i)
        for (const NamePtr n : plan.before->namesOf(plan.before->faces(i))) {
            for (const TopoDS_Shape& f : afterCut(plan.before->faces(i))) hollow.names.emplace_back(f, n);
            for (const TopoDS_Shape& made : toVector(offset.Generated(plan.before->faces(i))))
                for (const TopoDS_Shape& f : afterCut(made)) {
                    hollow.names.emplace_back(f, internName(step, "inside of", {n}));
                    hollow.insides.push_back(f);
                }
        }
    return hollow;
}

} // namespace

Result<StepChange> runShell(const Arguments& args, ModelReader& model, const Progress&) {
    Error e;
    const auto id = model.bodyIn("body");
    const Body* hollowed = id ? model.body(*id) : nullptr;
    if (!hollowed) {
        e.code = "shell.body";
        e.sentence = "There is no body called \"" + args.label("body") + "\" before this step.";
        return e;
    }
    Plan plan;
    plan.before = &hollowed->shape();
    plan.offset = args.number("wall") * (args.text("side") == "outward" ? 1 : -1);
    StepChange change;
    if (!args.references("open").empty()) {
        auto found = findFacesOn(*id, args.references("open"), model);
        if (!found) return found.error();
        for (const int i : found->items) plan.opened.Add(plan.before->faces(i + 1));
        change.notes = found->notes;
    }
    return guarded(
        "shell.failed", "A wall of " + formatAmount(args.number("wall"), "mm", 2) + " cannot be made here.",
        [&]() -> Result<StepChange> {
            if (auto fault = foldsOver(plan, *hollowed)) return *fault;
            auto hollow = plan.opened.IsEmpty() ? closedShell(plan, args.id()) : openShell(plan, args.id());
            if (!hollow) return hollow.error();
            std::vector<std::pair<TopoDS_Shape, TopoDS_Shape>> swapped;
            const TopoDS_Shape clean =
                withoutOffsetSurfaces(onlySolid(hollow->shape), kFitTolerance, swapped);
            NCollection_DataMap<TopoDS_Shape, TopoDS_Shape, TopTools_ShapeMapHasher> now;
            for (const auto& [old, fresh] : swapped) now.Bind(old, fresh);
            NameBuilder names(clean);
            for (const auto& [face, name] : hollow->names)
                if (const TopoDS_Shape* f = now.Seek(face)) names.add(*f, name);
            if (auto fault = tooThinSomewhere(plan, hollow->insides)) return *fault;
            auto body = names.finish();
            if (!body) return body.error();
            change.list.push_back(ChangedBody{*id, *body});
            return change;
        });
}

} // namespace gc

#include "core/base/tolerance.hpp"
#include "core/base/triangle.hpp"
#include "core/shape/mesher/body_mesher.hpp"
#include "core/steps/shared/find_items.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
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

#include <algorithm>
#include <cmath>
#include <set>

namespace gc {

namespace {

struct Plan {
    const NamedShape* before = nullptr;
    TopTools_IndexedMapOfShape opened;
    double offset = 0; ///< along the outward normals: negative inward
};

/// How the offsets of neighbouring faces are joined. The quick way is right where nothing is used up; the
/// thorough one also where a round is tighter than the wall, in three times the time (docs/kernel.md).
enum class Joining { Quick, Thorough };

/// min(1 - t k) over sampled principal curvatures of the kept faces: at or below zero the offset of a face
/// folds over. It may still have an answer, where the face is used up and its neighbours meet; when it has
/// none, this is the culprit.
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
                        const std::string words = body.shape().wordsFor(body.shape().faces(i));
                        const std::string name = words.empty() ? "a face" : marked(words);
                        e.culprits = {words};
                        e.sentence = phrase("The wall is too thick for %1: its tightest radius is %2, so a "
                                            "wall of %3 would fold over.",
                                            name, formatAmount(1 / std::fabs(k), "mm", 2),
                                            formatAmount(std::fabs(plan.offset), "mm", 2));
                        return e;
                    }
            }
    }
    return std::nullopt;
}

/// Middles of a few of the largest triangles of a face: within it, however it is trimmed.
std::vector<Vec3> pointsWithin(const Patch& patch) {
    constexpr std::size_t kPoints = 6;
    std::vector<std::pair<double, Vec3>> middles;
    for (const auto& t : patch.triangles) {
        const auto at = [&](std::size_t k) { return patch.points[static_cast<std::size_t>(t[k])]; };
        middles.emplace_back(length(cross(at(1) - at(0), at(2) - at(0))),
                             (at(0) + at(1) + at(2)) * (1.0 / 3));
    }
    std::sort(middles.begin(), middles.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<Vec3> out;
    for (std::size_t i = 0; i < std::min(kPoints, middles.size()); ++i) out.push_back(middles[i].second);
    return out;
}

/// A few points of every new face must lie at least 0.98 of the wall from the kept faces. Their distance is
/// taken from triangles that stand off the faces by far less than the rest.
std::optional<Error> tooThinSomewhere(const Plan& plan, const NamedShape& now,
                                      const std::vector<TopoDS_Shape>& insides) {
    const double wall = std::fabs(plan.offset), deviation = 0.004 * wall;
    MeshedBody before, after;
    std::pair<int, std::string> fault;
    if (!meshBody(*plan.before, {deviation, 0.3, 0.6}, before, fault)) return std::nullopt;
    if (!meshBody(now, {deviation, 0.3, 0.6}, after, fault)) return std::nullopt;
    const auto distance = [&](Vec3 p) {
        double least = 1e300;
        for (std::size_t f = 0; f < before.faces.size(); ++f) {
            if (plan.opened.Contains(plan.before->faces(static_cast<int>(f) + 1))) continue;
            const auto& points = before.faces[f].points;
            for (const auto& t : before.faces[f].triangles) {
                const auto at = [&](std::size_t k) { return points[static_cast<std::size_t>(t[k])]; };
                least = std::min(least, length(nearestOnTriangle(p, at(0), at(1), at(2)) - p));
            }
        }
        return least;
    };
    for (const TopoDS_Shape& face : insides) {
        const int number = now.faces.FindIndex(face);
        if (number < 1) continue; // it was used up
        for (const Vec3 p : pointsWithin(after.faces[static_cast<std::size_t>(number) - 1])) {
            const double found = distance(p);
            if (found >= 0.98 * wall - 3 * deviation) continue;
            return errorOf("shell.thin",
                           phrase("The wall came out at %1 instead of %2 somewhere, so it is not used.",
                                  formatAmount(found, "mm", 2), formatAmount(wall, "mm", 2)));
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

Result<Hollow> openShell(const Plan& plan, int step, Joining joining) {
    TopTools_ListOfShape opened;
    for (int i = 1; i <= plan.opened.Extent(); ++i) opened.Append(plan.opened(i));
    BRepOffsetAPI_MakeThickSolid solid;
    const bool thorough = joining == Joining::Thorough;
    solid.MakeThickSolidByJoin(plan.before->shape, opened, plan.offset, 1e-4, BRepOffset_Skin, thorough,
                               false, plan.offset < 0 && !thorough ? GeomAbs_Intersection : GeomAbs_Arc);
    if (!solid.IsDone()) {
        Error e;
        e.code = "shell.failed";
        e.sentence =
            phrase("A wall of %1 cannot be made here.", formatAmount(std::fabs(plan.offset), "mm", 2));
        return e;
    }
    Hollow hollow;
    hollow.shape = solid.Shape();
    nameOpened(plan, step, solid, hollow);
    return hollow;
}

/// Without an opening the kernel's thick solid is just the offset: make the inner solid and cut it out.
Result<Hollow> closedShell(const Plan& plan, int step, Joining joining) {
    BRepOffsetAPI_MakeOffsetShape offset;
    offset.PerformByJoin(plan.before->shape, plan.offset, 1e-4, BRepOffset_Skin, joining == Joining::Thorough,
                         false, GeomAbs_Arc);
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

using FaceMap = NCollection_DataMap<TopoDS_Shape, TopoDS_Shape, TopTools_ShapeMapHasher>;

/// The kernel leaves the rims of an outward shell with wires that run the wrong way, and a shell that is open
/// at two ends inside out: the body is sound, but every later round on it fails. Sewn anew it is right. Where
/// the faces do not sew into one closed shell, the shape stays what it is. \param now what became of each
/// face
TopoDS_Shape sewnAnew(const TopoDS_Shape& shape, FaceMap& now) {
    constexpr double kTolerance = 1e-3; // mm: what the kernel gives the edges of a thick solid
    BRepBuilderAPI_Sewing sewing(kTolerance);
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) sewing.Add(x.Current());
    sewing.Perform();
    TopExp_Explorer shells(sewing.SewedShape(), TopAbs_SHELL);
    if (!shells.More()) return shape;
    const TopoDS_Shell shell = TopoDS::Shell(shells.Current());
    shells.Next();
    if (shells.More() || !BRep_Tool::IsClosed(shell)) return shape;
    TopoDS_Solid solid = BRepBuilderAPI_MakeSolid(shell).Solid();
    BRepLib::OrientClosedSolid(solid);
    for (FaceMap::Iterator it(now); it.More(); it.Next())
        if (sewing.IsModified(it.Value())) it.ChangeValue() = sewing.Modified(it.Value());
    return solid;
}

Result<Body> hollowed(const Plan& plan, int step, Joining joining) {
    const Error failed = errorOf("shell.failed", phrase("A wall of %1 cannot be made here.",
                                                        formatAmount(std::fabs(plan.offset), "mm", 2)));
    return guarded("shell.failed", failed.sentence, [&]() -> Result<Body> {
        auto hollow =
            plan.opened.IsEmpty() ? closedShell(plan, step, joining) : openShell(plan, step, joining);
        if (!hollow) return hollow.error();
        std::vector<std::pair<TopoDS_Shape, TopoDS_Shape>> swapped;
        TopoDS_Shape clean = withoutOffsetSurfaces(onlySolid(hollow->shape), kSurfaceFit, swapped);
        FaceMap now;
        for (const auto& [old, fresh] : swapped) now.Bind(old, fresh);
        if (plan.offset > 0 && !plan.opened.IsEmpty()) clean = sewnAnew(clean, now);
        NameBuilder names(clean);
        names.inherit(*plan.before);
        for (const auto& [face, name] : hollow->names)
            if (const TopoDS_Shape* f = now.Seek(face)) names.add(*f, name);
        auto body = names.finish();
        if (!body) return body.error();
        const BodyCheck check = checkBody(*body);
        if (!check.faults.empty() || check.solids != 1) return failed;
        std::vector<TopoDS_Shape> insides;
        for (const TopoDS_Shape& face : hollow->insides)
            if (const TopoDS_Shape* f = now.Seek(face)) insides.push_back(*f);
        if (auto fault = tooThinSomewhere(plan, body->shape(), insides)) return *fault;
        return body;
    });
}

} // namespace

Result<StepChange> runShell(const Arguments& args, ModelReader& model, const Progress& progress) {
    Error e;
    const auto id = model.bodyIn("body");
    const Body* before = id ? model.body(*id) : nullptr;
    if (!before) {
        e.code = "shell.body";
        e.sentence = phrase("There is no body called \"%1\" before this step.", args.label("body"));
        return e;
    }
    Plan plan;
    plan.before = &before->shape();
    plan.offset = args.number("wall") * (args.text("side") == "outward" ? 1 : -1);
    StepChange change;
    if (!args.references("open").empty()) {
        auto found = findFacesOn(*id, args.references("open"), model);
        if (!found) return found.error();
        for (const int i : found->items) plan.opened.Add(plan.before->faces(i + 1));
        change.notes = found->notes;
    }
    const auto folds = foldsOver(plan, *before);
    // Where a face folds over the quick way may come out wrong without a word.
    const Joining order[] = {folds ? Joining::Thorough : Joining::Quick,
                             folds ? Joining::Quick : Joining::Thorough};
    std::optional<Error> fault = folds;
    for (const Joining joining : order) {
        if (progress.stopped()) return stoppedError();
        auto body = hollowed(plan, args.id(), joining);
        if (body) {
            change.list.push_back(ChangedBody{*id, *body});
            change.checked = true;
            return change;
        }
        if (!fault) fault = body.error();
    }
    return *fault;
}

} // namespace gc

#include "core/steps/shell/hollow.hpp"
#include "core/steps/shared/worked_names.hpp"

#include "core/model/arguments.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/lean_of.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBndLib.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRepLib.hxx>
#include <BRepOffsetAPI_MakeThickSolid.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <chrono>
#include <cmath>
#include <functional>
#include <optional>
#include <set>

namespace gc {

namespace {

constexpr double kOffsetPoint = 1e-4; // mm: what the kernel takes for one point there

using After = std::function<std::vector<TopoDS_Shape>(const TopoDS_Shape&)>;

/// What fills the wall where faces that meet in an edge or a corner draw apart.
void nameBetween(const ShellPlan& plan, int step, BRepBuilderAPI_MakeShape& made, const After& after,
                 Hollow& hollow) {
    const NamedShape& before = *plan.before;
    const auto name = [&](const TopoDS_Shape& item, const TopTools_ListOfShape& faces, const char* role) {
        std::set<NamePtr> parents;
        for (const TopoDS_Shape& f : toVector(faces))
            if (!before.namesOf(f).empty()) parents.insert(before.namesOf(f).front());
        for (const TopoDS_Shape& g : toVector(made.Generated(item)))
            if (g.ShapeType() == TopAbs_FACE)
                for (const TopoDS_Shape& f : after(g))
                    hollow.names.emplace_back(f, internName(step, role, {parents.begin(), parents.end()}));
    };
    for (int i = 1; i <= before.facesOfEdge.Extent(); ++i)
        name(before.facesOfEdge.FindKey(i), before.facesOfEdge(i), "inside fillet");
    for (int i = 1; i <= before.facesOfVertex.Extent(); ++i)
        name(before.facesOfVertex.FindKey(i), before.facesOfVertex(i), "inside corner");
}

void nameOpened(const ShellPlan& plan, int step, BRepOffsetAPI_MakeThickSolid& solid, Hollow& hollow) {
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
    nameBetween(
        plan, step, solid, [](const TopoDS_Shape& f) { return std::vector{f}; }, hollow);
}

/// Are there kept faces that draw apart when they are moved inward? Where there are none, their corners are
/// sharp either way, and with arcs the kernel takes a half to a fifth of the time.
bool drawApart(const ShellPlan& plan) {
    const NamedShape& s = *plan.before;
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i));
        if (!s.isRealEdge(edge)) continue;
        const auto faces = facesBeside(s, edge);
        const bool kept = std::none_of(faces.begin(), faces.end(),
                                       [&](const TopoDS_Shape& f) { return plan.opened.Contains(f); });
        if (kept && isHollow(s, edge) && !isSmooth(s, edge)) return true;
    }
    return false;
}

/// The kernel's operation, with faces that get a wall of their own; its interface has no words for those.
class Offsetting : public BRepOffsetAPI_MakeThickSolid {
  public:
    /// With faces opened a thick solid, else the other surface alone.
    /// \param opened where the opened faces go instead of being left out, mm, in their order
    void make(const ShellPlan& plan, Joining joining, const std::vector<double>& opened = {}) {
        const bool open = !plan.opened.IsEmpty() && opened.empty();
        const bool sharp = joining == Joining::Sharp ||
                           (open && joining == Joining::Quick && plan.offset < 0 && drawApart(plan));
        NotDone();
        myLastUsedAlgo = OffsetAlgo_JOIN;
        myOffsetShape.Initialize(plan.before->shape, plan.offset, kOffsetPoint, BRepOffset_Skin,
                                 joining != Joining::Quick, false, sharp ? GeomAbs_Intersection : GeomAbs_Arc,
                                 false);
        for (int i = 1; i <= plan.opened.Extent(); ++i)
            if (!opened.empty())
                myOffsetShape.SetOffsetOnFace(TopoDS::Face(plan.opened(i)),
                                              opened[static_cast<std::size_t>(i) - 1]);
            else
                myOffsetShape.AddFace(TopoDS::Face(plan.opened(i)));
        for (const auto& [face, offset] : plan.others)
            myOffsetShape.SetOffsetOnFace(TopoDS::Face(plan.before->faces(face)), offset);
        const Handle(Patience) patience = patienceOf(plan);
        if (open)
            myOffsetShape.MakeThickSolid(patience->Start());
        else
            myOffsetShape.MakeOffsetShape(patience->Start());
        if (!myOffsetShape.IsDone()) return;
        myShape = myOffsetShape.Shape();
        Done();
    }
};

} // namespace

Error noWall(double offset) {
    return errorOf("shell.failed",
                   phrase("A wall of %1 cannot be made here.", formatAmount(std::fabs(offset), "mm", 2)));
}

Result<Hollow> openShell(const ShellPlan& plan, int step, Joining joining) {
    Offsetting solid;
    solid.make(plan, joining);
    if (!solid.IsDone()) return noWall(plan.offset);
    Hollow hollow;
    hollow.shape = solid.Shape();
    nameOpened(plan, step, solid, hollow);
    return hollow;
}

namespace {

std::vector<TopoDS_Shape> nowOf(BRepBuilderAPI_MakeShape& operation, const TopoDS_Shape& f) {
    if (operation.IsDeleted(f)) return {};
    return whatBecameOf(f, operation);
}

/// What an offset encloses; nothing where it is no closed surface.
TopoDS_Shape solidOf(const TopoDS_Shape& offset) {
    TopoDS_Shape out = offset;
    if (out.IsNull()) return {};
    if (out.ShapeType() != TopAbs_SOLID) {
        TopExp_Explorer shell(out, TopAbs_SHELL);
        if (!shell.More()) return {};
        out = BRepBuilderAPI_MakeSolid(TopoDS::Shell(shell.Current())).Solid();
    }
    TopoDS_Solid solid = TopoDS::Solid(out);
    BRepLib::OrientClosedSolid(solid);
    return solid;
}

/// Names of a wall between a body and an offset of it.
void nameWall(const ShellPlan& plan, int step, BRepBuilderAPI_MakeShape& offset, const After& after,
              Hollow& hollow) {
    for (int i = 1; i <= plan.before->faces.Extent(); ++i) {
        const TopoDS_Shape& face = plan.before->faces(i);
        const bool opened = plan.opened.Contains(face);
        for (const NamePtr n : plan.before->namesOf(face)) {
            for (const TopoDS_Shape& f : after(face))
                hollow.names.emplace_back(f, opened ? internName(step, "rim of", {n}) : n);
            if (opened) continue;
            for (const TopoDS_Shape& made : toVector(offset.Generated(face)))
                for (const TopoDS_Shape& f : after(made)) {
                    hollow.names.emplace_back(f, internName(step, "inside of", {n}));
                    hollow.insides.push_back(f);
                }
        }
    }
    nameBetween(plan, step, offset, after, hollow);
}

} // namespace

Result<Hollow> closedShell(const ShellPlan& plan, int step, Joining joining) {
    const Error e = errorOf("shell.failed", phrase("A closed wall of %1 cannot be made here.",
                                                   formatAmount(std::fabs(plan.offset), "mm", 2)));
    Offsetting offset;
    offset.make(plan, joining);
    if (!offset.IsDone()) return e;
    const TopoDS_Shape solid = solidOf(offset.Shape());
    if (solid.IsNull()) return e;
    const bool inward = plan.offset < 0;
    BRepAlgoAPI_Cut cut(inward ? plan.before->shape : solid, inward ? solid : plan.before->shape);
    if (cut.HasErrors()) return e;
    Hollow hollow;
    hollow.shape = onlySolid(cut.Shape());
    nameWall(
        plan, step, offset, [&](const TopoDS_Shape& f) { return nowOf(cut, f); }, hollow);
    return hollow;
}

namespace {

/// Faces moved square to a flat opening, outward. None where it is not flat.
std::vector<TopoDS_Shape> outOf(const TopoDS_Face& opening, const std::vector<TopoDS_Shape>& faces,
                                double reach) {
    gp_Pnt on;
    const auto out = outwardIn(opening, on);
    if (!out || BRepAdaptor_Surface(opening, false).GetType() != GeomAbs_Plane) return {};
    std::vector<TopoDS_Shape> made;
    for (const TopoDS_Shape& f : faces)
        if (f.ShapeType() == TopAbs_FACE) made.push_back(BRepPrimAPI_MakePrism(f, *out * reach).Shape());
    return made;
}

/// The part of a solid's cut in the plane of a flat opening that covers it.
std::vector<TopoDS_Shape> cutAlong(const TopoDS_Face& opening, const TopoDS_Shape& solid) {
    const BRepAdaptor_Surface s(opening, false);
    gp_Pnt on;
    if (s.GetType() != GeomAbs_Plane || !outwardIn(opening, on)) return {};
    Bnd_Box box;
    BRepBndLib::Add(solid, box);
    const double far = std::sqrt(box.SquareExtent());
    BRepAlgoAPI_Common section(BRepBuilderAPI_MakeFace(s.Plane(), -far, far, -far, far).Face(), solid);
    if (section.HasErrors()) return {};
    for (TopExp_Explorer x(section.Shape(), TopAbs_FACE); x.More(); x.Next()) {
        BRepClass_FaceClassifier at(TopoDS::Face(x.Current()), on, kOffsetPoint);
        if (at.State() == TopAbs_IN || at.State() == TopAbs_ON) return {x.Current()};
    }
    return {};
}

/// Does a kept face run on from an opened one without an edge between them? Then no wall of it can end there.
bool runsOn(const ShellPlan& plan, const TopoDS_Shape& opened) {
    for (TopExp_Explorer x(opened, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge edge = TopoDS::Edge(x.Current());
        for (const TopoDS_Shape& f : facesBeside(*plan.before, edge))
            if (!f.IsSame(opened) && !plan.opened.Contains(f) && isSmooth(*plan.before, edge)) return true;
    }
    return false;
}

} // namespace

Result<Hollow> wholeShell(const ShellPlan& plan, int step, Joining joining) {
    const Error e = noWall(plan.offset);
    const bool inward = plan.offset < 0;
    const double wall = std::fabs(plan.offset);
    std::vector<double> goes;
    for (int i = 1; i <= plan.opened.Extent(); ++i)
        goes.push_back(inward && runsOn(plan, plan.opened(i)) ? -wall : wall);
    Offsetting offset;
    offset.make(plan, joining, goes);
    if (!offset.IsDone()) return e;
    const TopoDS_Shape solid = solidOf(offset.Shape());
    if (solid.IsNull()) return e;
    TopTools_ListOfShape whole, tools;
    whole.Append(inward ? plan.before->shape : solid);
    tools.Append(inward ? solid : plan.before->shape);
    std::vector<std::pair<TopoDS_Shape, NameList>> rims;
    for (int i = 1; i <= plan.opened.Extent(); ++i) {
        if (inward && goes[static_cast<std::size_t>(i) - 1] > 0) continue; // it is reached through already
        const TopoDS_Face opening = TopoDS::Face(plan.opened(i));
        const auto prisms =
            outOf(opening, inward ? toVector(offset.Generated(opening)) : cutAlong(opening, solid), 3 * wall);
        if (prisms.empty()) return e;
        for (const TopoDS_Shape& prism : prisms) {
            tools.Append(prism);
            for (TopExp_Explorer x(prism, TopAbs_FACE); x.More(); x.Next())
                rims.emplace_back(x.Current(), plan.before->namesOf(opening));
        }
    }
    BRepAlgoAPI_Cut cut;
    cut.SetArguments(whole);
    cut.SetTools(tools);
    cut.Build();
    if (cut.HasErrors()) return e;
    Hollow hollow;
    hollow.shape = onlySolid(cut.Shape());
    nameWall(
        plan, step, offset, [&](const TopoDS_Shape& f) { return nowOf(cut, f); }, hollow);
    for (const auto& [face, names] : rims)
        for (const TopoDS_Shape& f : nowOf(cut, face))
            for (const NamePtr n : names) hollow.names.emplace_back(f, internName(step, "rim of", {n}));
    return hollow;
}

} // namespace gc

#include "core/steps/shell/checked_wall.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/runs_through_itself.hpp"

#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

namespace gc {

namespace {

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

} // namespace

Result<Body> checkedWall(const ShellPlan& plan, const std::function<Result<Hollow>()>& make, bool sewing) {
    const Error failed = noWall(plan.offset);
    return guarded("shell.failed", failed.sentence, [&]() -> Result<Body> {
        auto hollow = make();
        if (!hollow) return hollow.error();
        std::vector<std::pair<TopoDS_Shape, TopoDS_Shape>> swapped;
        TopoDS_Shape clean = withoutOffsetSurfaces(onlySolid(hollow->shape), kSurfaceFit, swapped);
        FaceMap now;
        for (const auto& [old, fresh] : swapped) now.Bind(old, fresh);
        if (sewing) clean = sewnAnew(clean, now);
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
        if (auto fault = wallFault(plan, body->shape(), insides, hollow->round)) return *fault;
        if (runsThroughItself(*body)) return failed;
        return body;
    });
}

bool isTheWall(const ShellPlan& plan, const Body& made, double filled) {
    const BodyCheck check = checkBody(made);
    return check.faults.empty() && check.solids == 1 && !runsThroughItself(made) &&
           !wallFault(plan, made.shape(), {}, filled);
}

Result<Body> plainWall(const ShellPlan& plan, int step, Joining joining) {
    const bool open = !plan.opened.IsEmpty();
    return checkedWall(
        plan, [&] { return open ? openShell(plan, step, joining) : closedShell(plan, step, joining); },
        open && plan.offset > 0);
}

} // namespace gc

#include "core/steps/fillet/swept_section.hpp"

#include "core/base/tolerance.hpp"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRep_Tool.hxx>
#include <ShapeAnalysis_Surface.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Lin.hxx>

namespace gc {

namespace {

/// Does the face's surface go through a place?
bool surfaceGoesThrough(const TopoDS_Face& face, const gp_Pnt& p) {
    const Handle(ShapeAnalysis_Surface) s = new ShapeAnalysis_Surface(BRep_Tool::Surface(face));
    return s->Value(s->ValueOfUV(p, kKernelPoint)).Distance(p) < kKernelPoint;
}

} // namespace

std::optional<SectionPlane> sectionPlaneOf(const BRepAdaptor_Curve& curve) {
    const double middle = 0.5 * (curve.FirstParameter() + curve.LastParameter());
    gp_Pnt at;
    gp_Vec along;
    curve.D1(middle, at, along);
    if (curve.GetType() == GeomAbs_Line) {
        const gp_Ax2 square(at, gp_Dir(along));
        return SectionPlane{at, square.XDirection(), square.YDirection(), gp_Dir(along), {}};
    }
    if (curve.GetType() != GeomAbs_Circle) return std::nullopt;
    const gp_Circ circle = curve.Circle();
    return SectionPlane{at, gp_Dir(gp_Vec(circle.Location(), at)), circle.Axis().Direction(), gp_Dir(along),
                        circle};
}

bool isAboutCircle(const gp_Ax1& axis, const gp_Circ& circle) {
    return axis.IsParallel(circle.Axis(), kAlongEdge) &&
           gp_Lin(axis).Distance(circle.Location()) < kAlongEdge;
}

bool isStraightAcross(const BRepAdaptor_Surface& wall, const SectionPlane& across) {
    if (wall.GetType() == GeomAbs_Plane) return true;
    if (!across.circle) return false;
    return (wall.GetType() == GeomAbs_Cylinder && isAboutCircle(wall.Cylinder().Axis(), *across.circle)) ||
           (wall.GetType() == GeomAbs_Cone && isAboutCircle(wall.Cone().Axis(), *across.circle));
}

gp_Trsf alongEdge(const TopoDS_Edge& edge, double share) {
    const BRepAdaptor_Curve curve(edge);
    const double on = (share - 0.5) * (curve.LastParameter() - curve.FirstParameter());
    gp_Trsf move;
    if (curve.GetType() == GeomAbs_Circle)
        move.SetRotation(curve.Circle().Axis(), on);
    else
        move.SetTranslation(gp_Vec(curve.Line().Direction()) * on);
    return move;
}

SweptSection sweptAlong(const TopoDS_Edge& edge, const SectionPlane& across,
                        const std::vector<TopoDS_Edge>& border, double beyond) {
    BRepBuilderAPI_MakeWire wire;
    for (const TopoDS_Edge& e : border) wire.Add(e);
    TopoDS_Shape face = BRepBuilderAPI_MakeFace(wire.Wire(), true).Face();
    SweptSection out;
    if (across.circle) {
        out.solid = BRepPrimAPI_MakeRevol(face, across.circle->Axis()).Shape();
    } else {
        const BRepAdaptor_Curve curve(edge);
        const double length = curve.LastParameter() - curve.FirstParameter();
        const gp_Vec along(across.along);
        gp_Trsf back;
        back.SetTranslation(along * -(0.5 * length + beyond));
        face.Move(TopLoc_Location(back));
        BRepPrimAPI_MakePrism prism(face, along * (length + 2 * beyond));
        out.solid = prism.Shape();
        out.ends = {TopoDS::Face(prism.FirstShape()), TopoDS::Face(prism.LastShape())};
    }
    for (const TopoDS_Edge& by : border) {
        const BRepAdaptor_Curve curve(by);
        const gp_Pnt middle = curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter()));
        TopExp_Explorer x(out.solid, TopAbs_FACE);
        while (x.More() && !surfaceGoesThrough(TopoDS::Face(x.Current()), middle)) x.Next();
        out.made.push_back(TopoDS::Face(x.Current()));
    }
    return out;
}

} // namespace gc

#pragma once
/// \file Bodies straight from the kernel, for what works on any body, and edges of theirs by where they are.

#include "core/inspect/mass.hpp"
#include "tests/support/kernel_bodies.hpp"
#include "tests/support/wound.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopoDS.hxx>

#include <functional>
#include <numbers>

namespace gc::test {

// ---- bodies; boxes stand centred on their foot

inline TopoDS_Shape boxAt(double x, double y, double z, double a, double b, double h) {
    return BRepPrimAPI_MakeBox(gp_Pnt(x - a / 2, y - b / 2, z), a, b, h).Shape();
}
inline TopoDS_Shape cylinderAt(double x, double y, double z, double r, double h) {
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(x, y, z), gp::DZ()), r, h).Shape();
}
inline TopoDS_Shape cylinderAlong(Vec3 from, Vec3 way, double r, double length) {
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(from.x, from.y, from.z), gp_Dir(way.x, way.y, way.z)), r,
                                    length)
        .Shape();
}
inline TopoDS_Shape ballAt(double x, double y, double z, double r) {
    return BRepPrimAPI_MakeSphere(gp_Pnt(x, y, z), r).Shape();
}
inline TopoDS_Shape prismOf(const std::vector<Vec2>& corners, double height) {
    BRepBuilderAPI_MakePolygon wire;
    for (const Vec2 c : corners) wire.Add(gp_Pnt(c.x, c.y, 0));
    wire.Close();
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(wire.Wire(), true).Face(), gp_Vec(0, 0, height))
        .Shape();
}
inline std::vector<Vec2> star(int points, double far, double near) {
    std::vector<Vec2> out;
    for (int i = 0; i < 2 * points; ++i) {
        const double a = i * std::numbers::pi / points, r = i % 2 ? near : far;
        out.push_back({r * std::cos(a), r * std::sin(a)});
    }
    return out;
}
/// Faces in one plane become one, as the program's own steps leave them.
inline TopoDS_Shape unifiedRaw(const TopoDS_Shape& shape) {
    ShapeUpgrade_UnifySameDomain unify(onlySolid(shape), true, true, false);
    try {
        unify.Build();
    } catch (const Standard_Failure&) {
        return onlySolid(shape); // it cannot around some freeform faces
    }
    return onlySolid(unify.Shape());
}
inline TopoDS_Shape joinedRaw(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    return unifiedRaw(BRepAlgoAPI_Fuse(a, b).Shape());
}
inline TopoDS_Shape cutRaw(const TopoDS_Shape& a, const TopoDS_Shape& b) {
    return unifiedRaw(BRepAlgoAPI_Cut(a, b).Shape());
}

// ---- edges

using RawEdges = std::vector<TopoDS_Edge>;
/// By the middle of an edge, its curve and the faces beside it.
using EdgePick = std::function<bool(const gp_Pnt& middle, const TopoDS_Edge& edge,
                                    const std::vector<TopoDS_Shape>& faces)>;

inline RawEdges edgesOf(const TopoDS_Shape& shape, const EdgePick& pick) {
    const Body body = bodyOf(shape);
    const NamedShape& s = body.shape();
    RawEdges out;
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge e = TopoDS::Edge(s.edges(i));
        if (BRep_Tool::Degenerated(e) || !s.isRealEdge(e)) continue;
        const BRepAdaptor_Curve c(e);
        const gp_Pnt middle = c.Value(0.5 * (c.FirstParameter() + c.LastParameter()));
        if (pick(middle, e, toVector(s.facesOfEdge.FindFromKey(e)))) out.push_back(e);
    }
    return out;
}
inline EdgePick anyEdge() {
    return [](const gp_Pnt&, const TopoDS_Edge&, const auto&) { return true; };
}
inline EdgePick atLevel(double z) {
    return [z](const gp_Pnt& p, const TopoDS_Edge&, const auto&) { return std::fabs(p.Z() - z) < 1e-3; };
}
inline EdgePick near(Vec3 at, double by) {
    return [=](const gp_Pnt& p, const TopoDS_Edge&, const auto&) {
        return std::hypot(p.X() - at.x, 0) < by && std::fabs(p.Z() - at.z) < by;
    };
}
/// Of those that another pick takes, the ones with their middle within a distance of the upright axis.
inline EdgePick within(const EdgePick& pick, double radius) {
    return [=](const gp_Pnt& p, const TopoDS_Edge& e, const std::vector<TopoDS_Shape>& f) {
        return std::hypot(p.X(), p.Y()) < radius && pick(p, e, f);
    };
}
inline EdgePick curvedEdges() {
    return [](const gp_Pnt&, const TopoDS_Edge& e, const auto&) {
        return BRepAdaptor_Curve(e).GetType() != GeomAbs_Line;
    };
}
inline EdgePick betweenCurved() {
    return [](const gp_Pnt&, const TopoDS_Edge&, const std::vector<TopoDS_Shape>& faces) {
        for (const TopoDS_Shape& f : faces)
            if (BRepAdaptor_Surface(TopoDS::Face(f)).GetType() == GeomAbs_Plane) return false;
        return true;
    };
}

// ---- an independent look

/// The mesh is closed, runs through itself nowhere, and holds the volume of the exact faces, within what its
/// deviation allows.
inline double volumeOfRaw(const TopoDS_Shape& shape) {
    GProp_GProps of;
    BRepGProp::VolumeProperties(shape, of);
    return of.Mass();
}
/// Its number, from 1, of the face whose middle is highest.
inline int highestFace(const Body& body) {
    int out = 0;
    double high = -1e300;
    for (int i = 1; i <= body.shape().faces.Extent(); ++i) {
        GProp_GProps of;
        BRepGProp::SurfaceProperties(body.shape().faces(i), of);
        if (of.CentreOfMass().Z() > high) high = of.CentreOfMass().Z(), out = i;
    }
    return out;
}
inline bool meshAgrees(const Body& body) {
    const auto exact = massProperties(body, Density(1e-3));
    if (!exact) return false;
    const double deviation = 0.004 * length(looseEnvelope(body).size()),
                 allowed = 1.5 * deviation * exact->area;
    const auto [volume, wrong] = meshOf(body, deviation);
    return std::fabs(volume - exact->volume) < allowed && wrong < 0.05 * allowed;
}

} // namespace gc::test

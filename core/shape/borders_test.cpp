#include "core/shape/borders.hpp"

#include "core/shape/kernel.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepTools_ReShape.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <GC_MakeSegment.hxx>
#include <GeomConvert_CompCurveToBSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Circle.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;

namespace {

Body borderedBody(const TopoDS_Shape& solid) {
    NameBuilder names(solid);
    for (int i = 1; i <= names.faces().Extent(); ++i)
        names.add(names.faces()(i), internName(1, "side " + std::to_string(i)));
    const auto body = names.finish();
    REQUIRE(body.ok());
    return *body;
}

/// The same face with one edge of its border the wrong way round.
TopoDS_Face miswound(const TopoDS_Face& face, int which) {
    BRep_Builder builder;
    TopoDS_Face out;
    builder.MakeFace(out, BRep_Tool::Surface(face), 1e-7);
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    for (TopExp_Explorer x(face.Oriented(TopAbs_FORWARD), TopAbs_EDGE); x.More(); x.Next()) {
        builder.Add(wire, which-- == 0 ? x.Current().Reversed() : x.Current());
    }
    builder.Add(out, wire);
    return TopoDS::Face(out.Oriented(face.Orientation()));
}

/// Round a rectangle with tight corners, as one edge: what a loft ends at.
TopoDS_Edge roundTight(double a, double b, double r) {
    GeomConvert_CompCurveToBSplineCurve all;
    const gp_Pnt middles[4] = {{a / 2 - r, b / 2 - r, 0},
                               {r - a / 2, b / 2 - r, 0},
                               {r - a / 2, r - b / 2, 0},
                               {a / 2 - r, r - b / 2, 0}};
    for (int k = 0; k < 4; ++k) {
        const double from = k * std::numbers::pi / 2;
        const Handle(Geom_Curve) circle = new Geom_Circle(gp_Ax2(middles[k], gp::DZ()), r);
        const Handle(Geom_TrimmedCurve) arc =
            new Geom_TrimmedCurve(circle, from, from + std::numbers::pi / 2);
        REQUIRE(all.Add(arc, 1e-6));
        const Handle(Geom_Curve) next = new Geom_Circle(gp_Ax2(middles[(k + 1) % 4], gp::DZ()), r);
        REQUIRE(
            all.Add(GC_MakeSegment(arc->EndPoint(), next->Value(from + std::numbers::pi / 2)).Value(), 1e-6));
    }
    return BRepBuilderAPI_MakeEdge(all.BSplineCurve()).Edge();
}

} // namespace

TEST_CASE("A flat face within one edge with tight rounds is as large as its triangles") {
    constexpr double kA = 49, kB = 47, kR = 0.9; // mm
    const TopoDS_Face base =
        BRepBuilderAPI_MakeFace(BRepBuilderAPI_MakeWire(roundTight(kA, kB, kR)).Wire(), true).Face();
    const Body body = borderedBody(BRepPrimAPI_MakePrism(base, gp_Vec(0, 0, 10)).Shape());
    MeshOptions fine;
    fine.deviation = 1e-3;
    const auto mesh = makeMesh(body, fine);
    REQUIRE(mesh.ok());
    const double closed = 10 * (kA * kB - (4 - std::numbers::pi) * kR * kR);
    CHECK(meshVolume(*mesh) == Approx(closed).epsilon(1e-4));
    CHECK_FALSE(wrongBorder(body, *mesh));
}

TEST_CASE("A border that runs the wrong way round is found; sound ones are let be") {
    const TopoDS_Shape box = BRepPrimAPI_MakeBox(40, 30, 20).Shape();
    const Body good = borderedBody(box);
    const auto mesh = makeMesh(good);
    REQUIRE(mesh.ok());
    CHECK_FALSE(wrongBorder(good, *mesh));
    const TopoDS_Face third = TopoDS::Face(good.shape().faces(3));
    // An edge along u, or one at u = 0, adds nothing to an integral along the border, whichever way it runs.
    int told = 0;
    for (int edge = 0; edge < 4; ++edge) {
        BRepTools_ReShape reshape;
        reshape.Replace(third, miswound(third, edge));
        const auto found = wrongBorder(borderedBody(reshape.Apply(box)), *mesh); // triangles of the sound one
        CHECK((!found || *found == 2));
        told += found.has_value();
    }
    CHECK(told >= 1);
}

// Faces that our mesher cannot do: they alone are left to the kernel's, and what nobody can do is named.

#include "core/base/angles.hpp"
#include "core/shape/mesh.hpp"
#include "tests/support/kernel_bodies.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <catch2/catch.hpp>

using namespace gc;

namespace {

/// All edges of a face in one wire, as some files have it: its edges do not follow one another.
TopoDS_Face inOneWire(const TopoDS_Face& face) {
    BRep_Builder builder;
    TopoDS_Wire all;
    builder.MakeWire(all);
    for (TopoDS_Iterator wire(face.Oriented(TopAbs_FORWARD)); wire.More(); wire.Next())
        for (TopoDS_Iterator edge(wire.Value()); edge.More(); edge.Next()) builder.Add(all, edge.Value());
    TopoDS_Shape out = face.EmptyCopied().Oriented(TopAbs_FORWARD);
    builder.Add(out, all);
    return TopoDS::Face(out.Oriented(face.Orientation()));
}

} // namespace

TEST_CASE("A face whose loops are in one wire is left to the kernel, its neighbours meet it and stay ours") {
    const TopoDS_Shape drilled =
        BRepAlgoAPI_Cut(BRepPrimAPI_MakeBox(20, 20, 30).Shape(),
                        BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(10, 10, -1), gp::DZ()), 5, 40).Shape())
            .Shape();
    BRep_Builder builder;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    int ends = 0;
    for (TopExp_Explorer x(drilled, TopAbs_FACE); x.More(); x.Next()) {
        const TopoDS_Face face = TopoDS::Face(x.Current());
        const bool first = face.NbChildren() == 2 && ++ends == 1;
        builder.Add(shell, first ? inOneWire(face) : face);
    }
    REQUIRE(ends == 2);
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    constexpr double kDeviation = 0.02;
    const auto mesh = makeMesh(bodyOf(solid), {kDeviation, 0.3});
    REQUIRE(mesh.ok());
    CHECK(mesh->byKernel == 1);
    CHECK(mesh->missing.empty());
    CHECK(mesh->deviation == kDeviation);
    CHECK(openMeshEdges(*mesh) == 0);
    CHECK(meshVolume(*mesh) == Approx((400 - kPi * 25) * 30).epsilon(1e-3));
}

TEST_CASE("Faces that nobody can do are left out and named, the rest is there") {
    // A prism over an outline that crosses itself: its two ends.
    BRepBuilderAPI_MakePolygon bow(gp_Pnt(0, 0, 0), gp_Pnt(10, 10, 0), gp_Pnt(10, 0, 0), gp_Pnt(0, 10, 0),
                                   true);
    const auto mesh = makeMesh(bodyOf(
        BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(bow.Wire(), true).Face(), gp_Vec(0, 0, 5)).Shape()));
    REQUIRE(mesh.ok());
    REQUIRE(mesh->missing.size() == 2);
    CHECK(meshArea(*mesh) == Approx(5 * (2 * 10 + 2 * std::sqrt(200))));
    CHECK(missingIn(*mesh, "bow").text().find("2 of 6 faces of bow cannot be cut into triangles") == 0);
}

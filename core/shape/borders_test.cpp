#include "core/shape/borders.hpp"

#include "core/shape/kernel.hpp"

#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepTools_ReShape.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>

#include <catch2/catch.hpp>

using namespace gc;

namespace {

Body bodyOf(const TopoDS_Shape& solid) {
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

} // namespace

TEST_CASE("A border that runs the wrong way round is found; sound ones are let be") {
    const TopoDS_Shape box = BRepPrimAPI_MakeBox(40, 30, 20).Shape();
    const Body good = bodyOf(box);
    const auto mesh = makeMesh(good);
    REQUIRE(mesh.ok());
    CHECK_FALSE(wrongBorder(good, *mesh));
    const TopoDS_Face third = TopoDS::Face(good.shape().faces(3));
    // An edge along u, or one at u = 0, adds nothing to an integral along the border, whichever way it runs.
    int told = 0;
    for (int edge = 0; edge < 4; ++edge) {
        BRepTools_ReShape reshape;
        reshape.Replace(third, miswound(third, edge));
        const auto found = wrongBorder(bodyOf(reshape.Apply(box)), *mesh); // triangles of the sound one
        CHECK((!found || *found == 2));
        told += found.has_value();
    }
    CHECK(told >= 1);
}

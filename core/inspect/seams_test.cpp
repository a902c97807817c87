#include "core/inspect/seams.hpp"
#include "tests/support/kernel_bodies.hpp"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;

namespace {

Body prism(const std::vector<Vec2>& corners, double height) {
    BRepBuilderAPI_MakePolygon line;
    for (const Vec2& c : corners) line.Add(gp_Pnt(c.x, c.y, 0));
    line.Close();
    return bodyOf(
        BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(line.Wire()).Face(), gp_Vec(0, 0, height)).Shape());
}

} // namespace

TEST_CASE("The sharpest edge is the one with the least material; hollow ones do not count") {
    // A wedge of 30 degrees, with a notch.
    const double rise = 40 * std::tan(std::numbers::pi / 6);
    const SeamField f = seamsOf(prism({{0, 0}, {40, 0}, {40, rise}, {30, 5}}, 10));
    REQUIRE(f.sharpest);
    const double notch = std::atan2(5, 30), top = std::atan2(10, rise - 5);
    CHECK(f.sharpest->angle == Approx(std::min(notch, top)).margin(1e-9));
    CHECK_FALSE(f.worst);
}

TEST_CASE("A ring has no edges, and what is stopped is left") {
    const SeamField ring = seamsOf(bodyOf(BRepPrimAPI_MakeTorus(20, 5).Shape()));
    CHECK_FALSE(ring.sharpest);
    CHECK_FALSE(ring.worst);
    CHECK_FALSE(seamsOf(prism({{0, 0}, {10, 0}, {0, 10}}, 10), [] { return true; }).sharpest);
}

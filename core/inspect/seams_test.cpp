#include "core/inspect/seams.hpp"
#include "tests/support/kernel_bodies.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
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

TEST_CASE("An edge is looked at all along it: a stud cut off aslant is sharpest at its upper end") {
    for (const double lean : {10.0, 30.0, 50.0}) {
        const double a = lean * std::numbers::pi / 180;
        const gp_Ax2 over(gp_Pnt(-50 * std::cos(a), -50, 30 + 50 * std::sin(a)),
                          gp_Dir(std::sin(a), 0, std::cos(a)), gp_Dir(std::cos(a), 0, -std::sin(a)));
        const TopoDS_Shape stud = BRepAlgoAPI_Cut(BRepPrimAPI_MakeCylinder(10, 60).Shape(),
                                                  BRepPrimAPI_MakeBox(over, 100, 100, 100).Shape())
                                      .Shape();
        const SeamField f = seamsOf(bodyOf(stud));
        REQUIRE(f.sharpest);
        CHECK(f.sharpest->angle == Approx(std::numbers::pi / 2 - a).margin(1e-6));
        CHECK(f.sharpest->at.x == Approx(-10).margin(1e-2));
        CHECK(f.sharpest->at.z == Approx(30 + 10 * std::tan(a)).margin(1e-2));
    }
}

TEST_CASE("The sharpest point is as sharp as the round cone with as much material") {
    const auto degrees = [](const TopoDS_Shape& s) {
        const auto p = seamsOf(bodyOf(s)).point;
        return p ? p->angle * 180 / std::numbers::pi : 180;
    };
    // An eighth of the space: 1 - cos of half the cone is a quarter.
    CHECK(degrees(BRepPrimAPI_MakeBox(10, 20, 30).Shape()) ==
          Approx(2 * std::acos(0.75) * 180 / std::numbers::pi).epsilon(1e-9));
    // The corner of a wedge of 30 degrees, square to the ends: half of what the wedge has of the space.
    const double rise = 40 * std::tan(std::numbers::pi / 6);
    const auto wedge = seamsOf(prism({{0, 0}, {40, 0}, {40, rise}}, 10)).point;
    REQUIRE(wedge);
    CHECK(wedge->angle == Approx(2 * std::acos(1 - 1.0 / 12)).epsilon(1e-9));
    CHECK(std::hypot(wedge->at.x, wedge->at.y) < 1e-9);
    CHECK_FALSE(wedge->face.empty());
    // Tips of turned bodies; a hollow one does not count, nor does a rim.
    CHECK(degrees(BRepPrimAPI_MakeCone(5, 0, 20).Shape()) ==
          Approx(2 * std::atan2(5, 20) * 180 / std::numbers::pi).epsilon(1e-6));
    CHECK(degrees(BRepPrimAPI_MakeCylinder(5, 20).Shape()) == 180);
    CHECK(degrees(BRepPrimAPI_MakeSphere(5).Shape()) == 180);
    CHECK(degrees(
              BRepAlgoAPI_Cut(BRepPrimAPI_MakeCylinder(9, 20).Shape(), BRepPrimAPI_MakeCone(5, 0, 10).Shape())
                  .Shape()) == 180);
}

TEST_CASE("A ring has no edges, and what is stopped is left") {
    const SeamField ring = seamsOf(bodyOf(BRepPrimAPI_MakeTorus(20, 5).Shape()));
    CHECK_FALSE(ring.sharpest);
    CHECK_FALSE(ring.worst);
    CHECK_FALSE(seamsOf(prism({{0, 0}, {10, 0}, {0, 10}}, 10), [] { return true; }).sharpest);
}

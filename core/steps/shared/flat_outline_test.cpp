#include "core/steps/shared/flat_outline.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Wire.hxx>
#include <catch2/catch.hpp>
#include <gp_Circ.hxx>
#include <gp_Elips.hxx>

#include <cmath>
#include <random>

using namespace gc;

TEST_CASE("Places of a flat face with a hole are told by their distance from its borders") {
    // A ring about a place off the origin, in a leaning plane: an ellipse outside, a circle within.
    const gp_Ax2 frame(gp_Pnt(3, -2, 5), gp_Dir(0.3, -0.2, 0.9), gp_Dir(0.9, 0.1, -0.2777777777777778));
    BRepBuilderAPI_MakeFace made(
        gp_Pln(gp_Ax3(frame)),
        BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(gp_Elips(frame, 20, 12)).Edge()).Wire(), true);
    made.Add(TopoDS::Wire(
        BRepBuilderAPI_MakeWire(BRepBuilderAPI_MakeEdge(gp_Circ(frame, 7)).Edge()).Wire().Reversed()));
    const FlatOutline outline(made.Face());
    std::mt19937 random(5);
    std::uniform_real_distribution<double> any(-22, 22);
    int near = 0;
    constexpr int kPlaces = 5000;
    for (int i = 0; i < kPlaces; ++i) {
        // In rows through the middles of both curves, too, where chords end.
        const double x = any(random), y = i % 5 == 0 ? 0 : any(random);
        const gp_Pnt p =
            frame.Location().Translated(gp_Vec(frame.XDirection()) * x + gp_Vec(frame.YDirection()) * y);
        const bool within = std::hypot(x / 20, y / 12) < 1 && std::hypot(x, y) > 7;
        const auto told = outline.where(p);
        near += told == FlatOutline::Where::Near;
        if (told != FlatOutline::Where::Near) CHECK((told == FlatOutline::Where::In) == within);
    }
    CHECK(near < kPlaces / 25);
}

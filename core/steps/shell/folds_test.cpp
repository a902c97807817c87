// What folds over of a surface that is moved, by closed forms.

#include "core/steps/shell/fold_crease.hpp"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Ax3.hxx>

#include <catch2/catch.hpp>

#include <cmath>

using namespace gc;

namespace {

constexpr double kHalf = 12, kLong = 30; // mm

/// z = x^2 / (2 p) for x from -12 to 12, along y, 30 mm long: a Bezier parabola. Its u is (x + 12) / 24.
Handle(Geom_BSplineSurface) trough(double p) {
    const double end = kHalf * kHalf / (2 * p);
    TColgp_Array2OfPnt poles(1, 3, 1, 2);
    for (int j = 1; j <= 2; ++j) {
        const double y = j == 1 ? 0 : kLong;
        poles(1, j) = gp_Pnt(-kHalf, y, end);
        poles(2, j) = gp_Pnt(0, y, -end);
        poles(3, j) = gp_Pnt(kHalf, y, end);
    }
    TColStd_Array1OfReal knots(1, 2);
    knots(1) = 0, knots(2) = 1;
    TColStd_Array1OfInteger u(1, 2), v(1, 2);
    u.Init(3);
    v.Init(2);
    return new Geom_BSplineSurface(poles, knots, knots, u, v, 2, 1);
}

/// Moved to its hollow side: its normal du x dv is (-z', 0, 1), about.
Sheet troughSheet(double p, double by) {
    return {trough(p), by};
}

} // namespace

TEST_CASE("A cylinder that is moved by more than its radius folds over by the share of it") {
    const Handle(Geom_Surface) s = new Geom_CylindricalSurface(gp_Ax3(), 3);
    const auto inward = foldAt(Sheet{s, -4}, {0.3, 2}), outward = foldAt(Sheet{s, 4}, {0.3, 2});
    REQUIRE((inward && outward));
    CHECK(inward->excess == Approx(1.0 / 3));
    CHECK(inward->radius == Approx(3));
    CHECK(std::fabs(inward->across.X()) == Approx(1.0 / 3)); // 1 mm of the circle
    CHECK(inward->across.Y() == Approx(0).margin(1e-12));
    CHECK(outward->excess < 0);
    const auto moved = Sheet{s, -1}.moved({0, 5});
    REQUIRE(moved);
    CHECK(moved->at.Distance(gp_Pnt(2, 0, 5)) < 1e-12);
    CHECK((moved->du - gp_Vec(0, 2, 0)).Magnitude() < 1e-12);
}

TEST_CASE("The crease of a parabola is on its axis, where its normals have the length of the move") {
    constexpr double p = 1; // its radius at the apex
    const Sheet wall = troughSheet(p, 2);
    const FoldSheets sheets = foldSheets(wall, 0.25);
    CHECK(sheets.radius() == Approx(0.5));
    const auto crease = creaseFrom(sheets, {0.52, 0.4});
    REQUIRE(crease);
    CHECK_FALSE(crease->within[0]);
    CHECK_FALSE(crease->within[1]);
    // From (x, x^2 / 2 p) the normal meets the axis p above it, sqrt(x^2 + p^2) away.
    const double x = std::sqrt(2.5 * 2.5 - p * p), z = x * x / (2 * p) + p;
    double low = 1e9, high = -1e9;
    for (const CreasePlace& c : crease->places) {
        CHECK(std::hypot(c.at.X(), c.at.Z() - z) < 1e-8);
        for (const int side : {0, 1})
            CHECK(std::fabs(std::fabs((c.uv[side].X() - 0.5) * 2 * kHalf) - x) < 1e-8);
        CHECK(c.excess == Approx(1).margin(0.05)); // 2 / p - 1 in the middle, looked at in steps
        low = std::min(low, c.at.Y());
        high = std::max(high, c.at.Y());
    }
    CHECK(low == Approx(0).margin(0.01));
    CHECK(high == Approx(kLong).margin(0.01));
}

TEST_CASE("Where nothing folds over there is no crease") {
    CHECK_FALSE(creaseFrom(foldSheets(troughSheet(4, 2), 0.25), {0.5, 0.5}));
    const auto fold = foldAt(troughSheet(4, 2), {0.5, 0.5});
    REQUIRE(fold);
    CHECK(fold->excess == Approx(-0.5));
}

TEST_CASE("A bend that is much narrower than the looks at a face is found by climbing to it") {
    constexpr double p = 0.05; // its looks are 0.24 mm apart
    const TopoDS_Face face = BRepBuilderAPI_MakeFace(trough(p), 1e-7).Face();
    const auto radius = foldsOver(face, 0.06);
    REQUIRE(radius);
    CHECK(*radius == Approx(p).epsilon(0.01));
    CHECK_FALSE(foldsOver(face, 0.04));
    CHECK_FALSE(foldsOver(face, -0.06));
    const auto places = foldedPlaces(face, 0.06);
    REQUIRE_FALSE(places.empty());
    CHECK(places.front().X() == Approx(0.5).margin(1e-3));
}

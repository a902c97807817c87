// Faces continued beyond their borders.

#include "core/shape/extended_face.hpp"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRep_Tool.hxx>
#include <Geom_BSplineSurface.hxx>
#include <catch2/catch.hpp>
#include <gp_Pnt.hxx>
#include <gp_Vec.hxx>

#include <cmath>

namespace {

/// x + 0.3 x y / 10, y, and a height that bends both ways: degree 3 each way, not rational. Along x it runs
/// on faster the farther along y.
Handle(Geom_BSplineSurface) bent() {
    TColgp_Array2OfPnt poles(1, 5, 1, 5);
    for (int i = 0; i < 5; ++i)
        for (int k = 0; k < 5; ++k) {
            const double x = 5 * i, y = 5 * k;
            poles(i + 1, k + 1) = gp_Pnt(x + 0.03 * x * y, y, 3 * std::sin(x / 6) + std::cos(y / 5));
        }
    TColStd_Array1OfReal knots(1, 3);
    knots(1) = 0, knots(2) = 1, knots(3) = 2;
    TColStd_Array1OfInteger times(1, 3);
    times(1) = 4, times(2) = 1, times(3) = 4;
    return new Geom_BSplineSurface(poles, knots, knots, times, times, 3, 3);
}

} // namespace

TEST_CASE("A spline goes on straight beyond its borders, and stays what it is within them") {
    constexpr double kBy = 4; // mm
    const auto before = bent();
    const TopoDS_Face face = BRepBuilderAPI_MakeFace(before, 1e-7).Face();
    const auto after = BRep_Tool::Surface(gc::extendedFace(face, kBy));
    double u[2], v[2];
    after->Bounds(u[0], u[1], v[0], v[1]);
    for (int i = 0; i <= 20; ++i)
        for (int k = 0; k <= 20; ++k)
            CHECK(after->Value(i / 10.0, k / 10.0).Distance(before->Value(i / 10.0, k / 10.0)) < 1e-9);
    const auto isStraightOn = [&](bool alongU, double border, double end) {
        for (int k = 1; k < 20; ++k) {
            const double other = k / 10.0;
            const auto at = [&](double t) {
                return alongU ? after->Value(t, other) : after->Value(other, t);
            };
            gp_Pnt p;
            gp_Vec du, dv;
            alongU ? before->D1(border, other, p, du, dv) : before->D1(other, border, p, du, dv);
            const gp_Vec way = (alongU ? du : dv) * (end - border);
            for (const double share : {0.25, 0.5, 1.0})
                CHECK(at(border + share * (end - border)).Distance(p.Translated(way * share)) < 1e-8);
            CHECK(way.Magnitude() >
                  0.99 * kBy); // none of these runs on at less than a third of the others' speed
        }
    };
    isStraightOn(true, 0, u[0]);
    isStraightOn(true, 2, u[1]);
    isStraightOn(false, 0, v[0]);
    isStraightOn(false, 2, v[1]);
}

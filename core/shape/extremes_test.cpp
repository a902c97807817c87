#include "core/shape/body.hpp"
#include "core/shape/mesh.hpp"
#include "tests/support/kernel_bodies.hpp"
#include "tests/support/seeded.hpp"
#include "tests/support/turned.hpp"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>

#include <cmath>
#include <utility>

using namespace gc;

namespace {

/// A turn about a random axis through the origin, and a move.
gp_Trsf anyPlace(std::mt19937& random) {
    std::uniform_real_distribution<double> share(-1, 1);
    gp_Trsf turn, move;
    turn.SetRotation(gp_Ax1(gp::Origin(), gp_Dir(share(random), share(random), share(random) + 1.5)),
                     3 * share(random));
    move.SetTranslation(gp_Vec(50 * share(random), 50 * share(random), 50 * share(random)));
    return move * turn;
}

/// How far a body reaches to both sides of its middle along each axis, when a body of revolution about z with
/// this half extent along a direction at an angle (cosine) to its axis lies in some place.
template <class Half>
void checkTurned(const TopoDS_Shape& shape, const Half& half, unsigned seed) {
    auto random = test::seeded(seed);
    for (int k = 0; k < test::rounds(12); ++k) {
        const gp_Trsf place = anyPlace(random);
        for (const bool splines : {false, true}) {
            TopoDS_Shape s = BRepBuilderAPI_Transform(shape, place, true).Shape();
            if (splines) s = BRepBuilderAPI_NurbsConvert(s, true).Shape();
            const Box box = envelope(bodyOf(s));
            const gp_Dir axis = gp::DZ().Transformed(place);
            const gp_Pnt middle = gp::Origin().Transformed(place);
            const double low[] = {box.low.x, box.low.y, box.low.z},
                         high[] = {box.high.x, box.high.y, box.high.z};
            for (int i = 0; i < 3; ++i) {
                const double h = half(std::fabs(axis.Coord(i + 1)));
                INFO("round " << k << ", axis " << i << (splines ? ", as splines" : ""));
                CHECK(high[i] == Approx(middle.Coord(i + 1) + h).margin(1e-7));
                CHECK(low[i] == Approx(middle.Coord(i + 1) - h).margin(1e-7));
            }
        }
    }
}

double across(double cosine) {
    return std::sqrt(std::max(0.0, 1 - cosine * cosine));
}

/// A vase about z: its radius waves between 20 and 48 mm over 90 mm.
TopoDS_Shape vase() {
    return test::turned(test::profileNear({30, 44, 36, 25, 38, 47, 20}, 15));
}

} // namespace

TEST_CASE("The envelope of turned bodies agrees with closed forms in any place, as splines too") {
    checkTurned(
        BRepPrimAPI_MakeSphere(17).Shape(), [](double) { return 17.0; }, 21);
    checkTurned(
        BRepPrimAPI_MakeTorus(30, 6).Shape(), [](double c) { return 30 * across(c) + 6; }, 22);
    checkTurned(
        BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, 0, -20), gp::DZ()), 9, 40).Shape(),
        [](double c) { return 20 * c + 9 * across(c); }, 23);
    checkTurned(
        BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, 0, -0.05), gp::DZ()), 60, 0.1).Shape(),
        [](double c) { return 0.05 * c + 60 * across(c); }, 24);
}

TEST_CASE("A round edge reaches as far as it does, wherever its ends lie") {
    // A thin disc, its seam turned about its axis in small steps: the highest place passes over the seam.
    for (int k = 0; k < 72; ++k) {
        const double seam = k * 5.0 * 3.14159265358979323846 / 180;
        const gp_Ax2 place(gp::Origin(), gp_Dir(0.3, 0.2, 1), gp_Dir(std::cos(seam), std::sin(seam), 0));
        const gp_Vec n(place.Direction());
        const Box box = envelope(bodyOf(BRepPrimAPI_MakeCylinder(place, 60, 0.1).Shape()));
        INFO("seam at " << 5 * k << " degrees");
        CHECK(box.low.x == Approx(-60 * across(n.X())).margin(1e-9));
        CHECK(box.low.y == Approx(-60 * across(n.Y())).margin(1e-9));
        CHECK(box.high.x == Approx(60 * across(n.X()) + 0.1 * n.X()).margin(1e-9));
    }
}

TEST_CASE("The envelope of a freeform body holds every point of it, and touches it on all six sides") {
    auto random = test::seeded(25U);
    const TopoDS_Shape body = vase();
    for (int k = 0; k < test::rounds(4); ++k) {
        TopoDS_Shape s = BRepBuilderAPI_Transform(body, anyPlace(random), true).Shape();
        if (k % 2) // trimmed: much of what reaches far is gone
            s = BRepAlgoAPI_Cut(s, BRepPrimAPI_MakeSphere(gp_Pnt(20, 10, 30), 45).Shape()).Shape();
        const Body whole = bodyOf(s);
        const Box box = envelope(whole);
        constexpr double kDeviation = 0.002;
        const auto mesh = makeMesh(whole, {kDeviation, 0.1});
        REQUIRE(mesh.ok());
        Box seen;
        for (const Vec3& p : mesh->points) seen.add(p);
        INFO("round " << k);
        // No vertex lies outside, and none of the six sides is further than the triangles may deviate.
        CHECK(box.low.x < seen.low.x + 1e-6);
        CHECK(box.low.y < seen.low.y + 1e-6);
        CHECK(box.low.z < seen.low.z + 1e-6);
        CHECK(box.high.x > seen.high.x - 1e-6);
        CHECK(box.high.y > seen.high.y - 1e-6);
        CHECK(box.high.z > seen.high.z - 1e-6);
        CHECK(length(box.low - seen.low) < 3 * kDeviation);
        CHECK(length(box.high - seen.high) < 3 * kDeviation);
    }
}

TEST_CASE("A part of a face reaches only as far as it is there") {
    // The cap of a sphere above z = 10, and the slice of it between x = 3 and x = 5.
    const TopoDS_Shape ball = BRepPrimAPI_MakeSphere(20).Shape();
    const Box cap = envelope(
        bodyOf(BRepAlgoAPI_Common(ball, BRepPrimAPI_MakeBox(gp_Pnt(-50, -50, 10), gp_Pnt(50, 50, 50)).Shape())
                   .Shape()));
    CHECK(cap.high.z == Approx(20).margin(1e-9));
    CHECK(cap.low.z == Approx(10).margin(1e-9));
    CHECK(cap.high.x == Approx(std::sqrt(300.0)).margin(1e-7));
    const Box slice = envelope(
        bodyOf(BRepAlgoAPI_Common(ball, BRepPrimAPI_MakeBox(gp_Pnt(3, -50, -50), gp_Pnt(5, 50, 50)).Shape())
                   .Shape()));
    CHECK(slice.low.x == Approx(3).margin(1e-9));
    CHECK(slice.high.x == Approx(5).margin(1e-9));
    CHECK(slice.high.z == Approx(std::sqrt(391.0)).margin(1e-7));
    CHECK(slice.low.y == Approx(-std::sqrt(391.0)).margin(1e-7));
}

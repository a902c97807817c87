#include "core/base/angles.hpp"
#include "core/base/tolerance.hpp"
#include "core/inspect/fill.hpp"
#include "core/inspect/lean.hpp"
#include "core/inspect/mass.hpp"
#include "core/inspect/wall.hpp"
#include "tests/support/kernel_bodies.hpp"
#include "tests/support/turned.hpp"

#include <catch2/catch.hpp>

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakePolygon.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <Geom_BSplineCurve.hxx>
#include <gp_Ax2.hxx>

#include <algorithm>
#include <numeric>

using namespace gc;

namespace {

TopoDS_Shape cylinder(double r, double h, double z = 0) {
    return BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(0, 0, z), gp::DZ()), r, h).Shape();
}

TopoDS_Shape prism(const std::vector<std::pair<double, double>>& outline, double h) {
    BRepBuilderAPI_MakePolygon polygon;
    for (const auto& [x, y] : outline) polygon.Add(gp_Pnt(x, y, 0));
    polygon.Close();
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_MakeFace(polygon.Wire()).Face(), gp_Vec(0, 0, h)).Shape();
}

/// A body with everything that measures on its surface need.
struct Bench {
    Body body;
    TriangleMesh mesh;
    RayScene scene;
    SampledSurface surface;
    explicit Bench(const TopoDS_Shape& shape, double deviation = 0.01, double edge = 1.5,
                   std::size_t most = 4'000'000)
        : body(bodyOf(shape)), mesh(*makeMesh(body, {deviation, 0.3})), scene(mesh),
          surface(sampleSurface(mesh, edge, most)) {}
};

} // namespace

TEST_CASE("Mass properties agree with closed forms to a millionth") {
    const Density water(1e-3);
    SECTION("frustum shell") {
        const auto shape =
            BRepAlgoAPI_Cut(BRepPrimAPI_MakeCone(40, 55, 100).Shape(),
                            BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(0, 0, 3), gp::DZ()), 37, 52, 97).Shape())
                .Shape();
        const auto frustum = [](double a, double b, double h) {
            return kPi * h / 3 * (a * a + a * b + b * b);
        };
        const auto rise = [](double a, double b, double h) {
            return h / 4 * (a * a + 2 * a * b + 3 * b * b) / (a * a + a * b + b * b);
        };
        const double v1 = frustum(40, 55, 100), v2 = frustum(37, 52, 97), v = v1 - v2;
        const auto m = massProperties(bodyOf(shape), water);
        REQUIRE(m.ok());
        CHECK(m->volume == Approx(v).epsilon(1e-9));
        CHECK(m->mass == Approx(v * 1e-3).epsilon(1e-9));
        CHECK(m->centre.z ==
              Approx((v1 * rise(40, 55, 100) - v2 * (3 + rise(37, 52, 97))) / v).epsilon(1e-9));
        CHECK(m->centre.x == Approx(0).margin(1e-9));
    }
    SECTION("torus") {
        const double R = 30, r = 8, v = 2 * kPi * kPi * R * r * r;
        const auto m = massProperties(bodyOf(BRepPrimAPI_MakeTorus(R, r).Shape()), water);
        REQUIRE(m.ok());
        CHECK(m->volume == Approx(v).epsilon(1e-9));
        CHECK(m->area == Approx(4 * kPi * kPi * R * r).epsilon(1e-9));
        CHECK(m->moments[2] == Approx(v * 1e-3 * (R * R + 0.75 * r * r)).epsilon(1e-9));
        CHECK(m->moments[0] == Approx(v * 1e-3 * (R * R / 2 + 5.0 / 8 * r * r)).epsilon(1e-9));
    }
    SECTION("sphere shell") {
        const auto shape =
            BRepAlgoAPI_Cut(BRepPrimAPI_MakeSphere(25).Shape(), BRepPrimAPI_MakeSphere(22).Shape()).Shape();
        const auto m = massProperties(bodyOf(shape), water);
        REQUIRE(m.ok());
        const double v = 4.0 / 3 * kPi * (std::pow(25, 3) - std::pow(22, 3));
        CHECK(m->volume == Approx(v).epsilon(1e-9));
        const double i = 2.0 / 5 * 1e-3 * 4.0 / 3 * kPi * (std::pow(25, 5) - std::pow(22, 5));
        for (const double moment : m->moments) CHECK(moment == Approx(i).epsilon(1e-9));
    }
    SECTION("cylinder with holes") {
        TopoDS_Shape shape = cylinder(40, 5);
        for (int k = 0; k < 6; ++k)
            shape =
                BRepAlgoAPI_Cut(shape, BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(24 * std::cos(k * kPi / 3),
                                                                              24 * std::sin(k * kPi / 3), 0),
                                                                       gp::DZ()),
                                                                4.5, 5)
                                           .Shape())
                    .Shape();
        const auto m = massProperties(bodyOf(shape), water);
        REQUIRE(m.ok());
        CHECK(m->volume == Approx(kPi * 5 * (1600 - 6 * 20.25)).epsilon(1e-9));
        const double axial = 1e-3 * 5 * kPi * (std::pow(40, 4) / 2 - 6 * (20.25 * 20.25 / 2 + 20.25 * 576));
        CHECK(m->moments[2] == Approx(axial).epsilon(1e-9));
    }
}

TEST_CASE("Bodies turned from a spline agree with the integrals of their profile, in any place") {
    const Handle(Geom_BSplineCurve) curve = test::profileNear({30, 41, 36, 33, 45, 48}, 18);
    const TopoDS_Shape turned = test::turned(curve);
    // Simpson's rule on discs: volume, first and second moments along the axis, and fourth powers of the
    // radius.
    double v = 0, z1 = 0, z2 = 0, r4 = 0;
    constexpr int kParts = 20000;
    const double from = curve->FirstParameter(), width = (curve->LastParameter() - from) / kParts;
    for (int i = 0; i <= kParts; ++i) {
        gp_Pnt q;
        gp_Vec d;
        curve->D1(from + width * i, q, d);
        const double w = (i == 0 || i == kParts ? 1 : i % 2 ? 4 : 2) * width / 3 * d.Z() * kPi;
        const double r = q.X() * q.X(), z = q.Z();
        v += w * r, z1 += w * r * z, z2 += w * r * z * z, r4 += w * r * r;
    }
    const double centre = z1 / v, across = r4 / 4 + z2 - v * centre * centre, along = r4 / 2;
    gp_Trsf turn, move;
    turn.SetRotation(gp_Ax1(gp_Pnt(5, 6, 7), gp_Dir(1, 2, 3)), 1.1);
    move.SetTranslation(gp_Vec(300, -200, 100));
    for (const gp_Trsf& place : {gp_Trsf(), turn, move * turn}) {
        const auto m = massProperties(bodyOf(BRepBuilderAPI_Transform(turned, place).Shape()), Density(1e-3));
        REQUIRE(m.ok());
        CHECK(m->volume == Approx(v).epsilon(1e-9));
        const gp_Pnt c = gp_Pnt(0, 0, centre).Transformed(place);
        CHECK(length(m->centre - toVec(c)) < 1e-8);
        std::array<double, 3> expected{across * 1e-3, across * 1e-3, along * 1e-3};
        std::sort(expected.begin(), expected.end());
        for (std::size_t i = 0; i < 3; ++i) CHECK(m->moments[i] == Approx(expected[i]).epsilon(1e-8));
    }
    SECTION("a slanted cut leaves trimmed faces: the two parts add up to the whole") {
        gp_Trsf slant;
        slant.SetRotation(gp_Ax1(gp_Pnt(0, 0, 45), gp_Dir(1, 0.3, 0)), 0.5);
        const TopoDS_Shape half =
            BRepBuilderAPI_Transform(
                BRepPrimAPI_MakeBox(gp_Pnt(-200, -200, 45), gp_Pnt(200, 200, 300)).Shape(), slant)
                .Shape();
        const auto above = massProperties(bodyOf(BRepAlgoAPI_Common(turned, half).Shape()), Density(1e-3));
        const auto below = massProperties(bodyOf(BRepAlgoAPI_Cut(turned, half).Shape()), Density(1e-3));
        CHECK(above->volume + below->volume == Approx(v).epsilon(1e-6));
        const Vec3 both = (above->centre * above->volume + below->centre * below->volume) / v;
        CHECK(length(both - Vec3{0, 0, centre}) < 1e-4);
    }
}

TEST_CASE("A ray through the wall is right to a micrometre on cylinders, spheres and slabs") {
    struct Row {
        const char* name;
        TopoDS_Shape shape;
        double least;
    };
    const Row rows[] = {
        {"tube", BRepAlgoAPI_Cut(cylinder(30, 60), cylinder(27.7, 60)).Shape(), 2.3},
        {"ball",
         BRepAlgoAPI_Cut(BRepPrimAPI_MakeSphere(25).Shape(), BRepPrimAPI_MakeSphere(22.5).Shape()).Shape(),
         2.5},
        {"slab", BRepPrimAPI_MakeBox(60, 40, 3.25).Shape(), 3.25},
    };
    for (const Row& row : rows) {
        INFO(row.name);
        const Bench b(row.shape);
        const auto f = wallByRay(b.body, b.surface, b.scene);
        REQUIRE(f.any);
        CHECK(std::fabs(f.thinnest.value - row.least) < 1e-3);
    }
}

TEST_CASE("A vessel of metres is looked at in no more places than were asked for, and its wall is as exact") {
    const double diagonal = 2 * 3000 * std::sqrt(2.0);
    CHECK(deviationFor(0.02, 400) == 0.02);
    CHECK(deviationFor(0.02, 2 * kLargeBody) == Approx(0.04));
    const TopoDS_Shape tube = BRepAlgoAPI_Cut(cylinder(3000, 4000), cylinder(2988, 4000)).Shape();
    const Bench b(tube, deviationFor(0.02, diagonal), 6, kMostSamples);
    REQUIRE(b.surface.coarse);
    CHECK(b.surface.mesh.points.size() < 1.5 * kMostSamples);
    CHECK(b.surface.apart > 6);
    const double area = std::accumulate(b.surface.areas.begin(), b.surface.areas.end(), 0.0);
    CHECK(
        area ==
        Approx(2 * M_PI * (3000 + 2988.0) * 4000 + 2 * M_PI * (3000.0 * 3000 - 2988.0 * 2988)).epsilon(1e-3));
    const auto f = wallByRay(b.body, b.surface, b.scene);
    REQUIRE(f.any);
    CHECK(std::fabs(f.thinnest.value - 12) < 1e-3);
    // No edge is longer than said, no triangle is turned, and neighbours keep the same points.
    double longest = 0, turned = 0;
    for (const auto& t : b.surface.mesh.triangles) {
        for (std::size_t k = 0; k < 3; ++k)
            longest = std::max(longest,
                               length(b.surface.mesh.points[t[k]] - b.surface.mesh.points[t[(k + 1) % 3]]));
        const Vec3 across = cross(b.surface.mesh.points[t[1]] - b.surface.mesh.points[t[0]],
                                  b.surface.mesh.points[t[2]] - b.surface.mesh.points[t[0]]);
        turned += dot(across, b.surface.mesh.normals[t[0]]) < -1e-9;
    }
    CHECK(longest < 1.5 * b.surface.apart);
    CHECK(turned == 0);
    CHECK(meshVolume(b.surface.mesh) == Approx(meshVolume(b.mesh)).epsilon(1e-9));
    // What is small keeps to the length that was asked for.
    CHECK_FALSE(Bench(cylinder(30, 60), 0.02, 1.5, kMostSamples).surface.coarse);
}

TEST_CASE("The ball school agrees within one in a hundred and knows corners and bosses") {
    SECTION("tube and slab") {
        const Bench tube(BRepAlgoAPI_Cut(cylinder(30, 60), cylinder(27.7, 60)).Shape(), 0.004);
        const auto f = wallByBall(tube.body, tube.surface, tube.scene);
        REQUIRE(f.any);
        CHECK(f.thinnest.value == Approx(2.3).epsilon(0.01));
        const Bench slab(BRepPrimAPI_MakeBox(60, 40, 3.25).Shape(), 0.004);
        const auto g = wallByBall(slab.body, slab.surface, slab.scene);
        CHECK(g.thinnest.value == Approx(3.25).epsilon(0.01));
        CHECK(g.thickest.value == Approx(3.25).epsilon(0.01));
    }
    SECTION("the corner of an L is thicker by the factor 2 sqrt 2 / (1 + sqrt 2)") {
        const double t = 4;
        const Bench b(prism({{0, 0}, {40, 0}, {40, t}, {t, t}, {t, 40}, {0, 40}}, 60), 0.004, 0.4);
        const auto f = wallByBall(b.body, b.surface, b.scene);
        CHECK(f.thickest.value == Approx(t * 2 * std::sqrt(2) / (1 + std::sqrt(2))).epsilon(0.01));
        CHECK(f.thinnest.value == Approx(t).epsilon(0.01));
    }
    SECTION("under a boss as wide as the wall the ball is a quarter larger") {
        const double t = 4;
        const Bench b(prism({{0, 0}, {60, 0}, {60, t}, {32, t}, {32, 30}, {28, 30}, {28, t}, {0, t}}, 60),
                      0.004, 0.4);
        const auto f = wallByBall(b.body, b.surface, b.scene);
        CHECK(f.thickest.value == Approx(1.25 * t).epsilon(0.01));
    }
}

TEST_CASE("Lean is the angle between wall and pull, and undercuts are negative") {
    const double lean = std::atan2(10, 100) * 180 / kPi;
    const Bench cup(
        BRepAlgoAPI_Cut(BRepPrimAPI_MakeCone(40, 50, 100).Shape(),
                        BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(0, 0, 3), gp::DZ()), 37.3, 47, 97).Shape())
            .Shape(),
        0.02, 4);
    const auto f = leanOf(cup.surface, cup.scene, {0, 0, 1});
    REQUIRE(f.any);
    CHECK(f.least.value == Approx(std::atan2(9.7, 97) * 180 / kPi).margin(0.02));
    CHECK(f.least.value <= lean + 0.02);
    CHECK(f.undercutArea == Approx(0).margin(1));
    // Upside down is all right too; a groove around the outside is not.
    const Bench grooved(
        BRepAlgoAPI_Cut(cylinder(30, 60),
                        BRepPrimAPI_MakeTorus(gp_Ax2(gp_Pnt(0, 0, 30), gp::DZ()), 30, 8).Shape())
            .Shape(),
        0.02, 2);
    const auto g = leanOf(grooved.surface, grooved.scene, {0, 0, 1});
    CHECK(g.least.value < -40);
    CHECK(g.undercutArea > 100);
}

TEST_CASE("Fill volumes agree with closed forms to one in ten thousand") {
    SECTION("a cup with a leaning wall, to the brim and to a line, with holes in its floor") {
        TopoDS_Shape cup =
            BRepAlgoAPI_Cut(BRepPrimAPI_MakeCone(40, 50, 100).Shape(),
                            BRepPrimAPI_MakeCone(gp_Ax2(gp_Pnt(0, 0, 4), gp::DZ()), 37, 47, 96).Shape())
                .Shape();
        for (const double x : {-15.0, 15.0})
            cup = BRepAlgoAPI_Cut(cup,
                                  BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(x, 0, -1), gp::DZ()), 4, 10).Shape())
                      .Shape();
        const Bench b(cup, 0.02);
        const auto frustum = [](double a, double c, double h) {
            return kPi * h / 3 * (a * a + a * c + c * c);
        };
        const auto brim = fillVolume(b.mesh, b.scene, envelope(b.body), std::nullopt);
        CHECK(brim.level == Approx(100));
        CHECK(brim.volume == Approx(frustum(37, 47, 96)).epsilon(1e-4));
        CHECK_THAT(brim.note, Catch::Matchers::Contains("2 holes"));
        const auto line = fillVolume(b.mesh, b.scene, envelope(b.body), 52.0);
        CHECK(line.volume == Approx(frustum(37, 42, 48)).epsilon(1e-4));
    }
    SECTION("a round flask with a neck") {
        TopoDS_Shape outside =
            BRepAlgoAPI_Fuse(BRepPrimAPI_MakeSphere(gp_Pnt(0, 0, 40), 40).Shape(), cylinder(12, 60, 40))
                .Shape();
        TopoDS_Shape inside =
            BRepAlgoAPI_Fuse(BRepPrimAPI_MakeSphere(gp_Pnt(0, 0, 40), 37).Shape(), cylinder(9, 70, 40))
                .Shape();
        const Bench b(BRepAlgoAPI_Cut(outside, inside).Shape(), 0.02);
        const auto brim = fillVolume(b.mesh, b.scene, envelope(b.body), std::nullopt);
        const double half = std::sqrt(37.0 * 37 - 81),
                     cap = kPi * (37 - half) * (37 - half) * (3 * 37 - (37 - half)) / 3;
        CHECK(brim.volume ==
              Approx(4.0 / 3 * kPi * 37 * 37 * 37 - cap + kPi * 81 * (60 - half)).epsilon(1e-4));
    }
    SECTION("a tube and a funnel hold nothing") {
        const Bench tube(BRepAlgoAPI_Cut(cylinder(30, 60), cylinder(27, 60)).Shape(), 0.05);
        CHECK_FALSE(fillVolume(tube.mesh, tube.scene, envelope(tube.body), std::nullopt).holdsAnything);
        const Bench funnel(
            BRepAlgoAPI_Cut(BRepPrimAPI_MakeCone(8, 50, 60).Shape(), BRepPrimAPI_MakeCone(5, 47, 60).Shape())
                .Shape(),
            0.05);
        CHECK_FALSE(fillVolume(funnel.mesh, funnel.scene, envelope(funnel.body), std::nullopt).holdsAnything);
        const Bench block(BRepPrimAPI_MakeBox(10, 10, 10).Shape(), 0.05);
        CHECK_FALSE(fillVolume(block.mesh, block.scene, envelope(block.body), std::nullopt).holdsAnything);
    }
}

TEST_CASE("Meshes are watertight and enclose the exact volume within their deviation") {
    for (const TopoDS_Shape& shape :
         {BRepPrimAPI_MakeTorus(30, 8).Shape(), BRepPrimAPI_MakeSphere(20).Shape(),
          BRepPrimAPI_MakeCone(20, 0, 40).Shape(),
          BRepAlgoAPI_Cut(cylinder(30, 60), cylinder(27, 60, 3)).Shape()}) {
        const Bench b(shape, 0.02);
        CHECK(openMeshEdges(b.mesh) == 0);
        const auto m = massProperties(b.body, Density(1e-3));
        CHECK(std::fabs(meshVolume(b.mesh) - m->volume) <= 0.02 * m->area);
    }
}

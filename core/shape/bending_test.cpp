#include "core/base/angles.hpp"
#include "core/shape/bending.hpp"
#include "core/shape/kernel.hpp"

#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <catch2/catch.hpp>

using namespace gc;

namespace {

TriangleMesh meshOf(const TopoDS_Shape& shape) {
    NameBuilder names(shape);
    for (int i = 1; i <= names.faces().Extent(); ++i)
        names.add(names.faces()(i), internName(1, "side " + std::to_string(i)));
    const auto body = names.finish();
    REQUIRE(body.ok());
    const auto mesh = makeMesh(*body, {0.02, 0.2});
    REQUIRE(mesh.ok());
    return *mesh;
}

/// Of the vertices of triangles: the mesher may leave some that none has, at poles.
std::vector<float> bendsOf(const TriangleMesh& mesh) {
    const std::vector<float> all = bendingOf(mesh);
    std::vector<float> out;
    for (const auto& t : mesh.triangles)
        for (const std::uint32_t v : t) out.push_back(all[v]);
    return out;
}

} // namespace

TEST_CASE("Spheres, cylinders, planes and tori bend as their radii say, inside and outside") {
    for (const float k : bendsOf(meshOf(BRepPrimAPI_MakeSphere(8).Shape())))
        CHECK(k == Approx(1 / 8.).epsilon(0.03));
    int round = 0;
    for (const float k : bendsOf(meshOf(BRepPrimAPI_MakeCylinder(5, 20).Shape()))) {
        if (std::fabs(k) > 1e-6f) ++round; // its ends are flat
        CHECK((std::fabs(k) < 1e-6f || k == Approx(1 / 5.).epsilon(0.02)));
    }
    CHECK(round > 20);
    for (const float k : bendsOf(meshOf(BRepPrimAPI_MakeBox(3, 4, 5).Shape()))) CHECK(k == 0.f);
    // On a torus the tube bends more than anything else, everywhere.
    const TriangleMesh ring = meshOf(BRepPrimAPI_MakeTorus(20, 4).Shape());
    for (const float k : bendsOf(ring)) CHECK(k == Approx(1 / 4.).epsilon(0.06));
    // Seen from inside it is hollow.
    TriangleMesh inside = ring;
    for (auto& t : inside.triangles) std::swap(t[1], t[2]);
    for (Vec3& n : inside.normals) n = -n;
    for (const float k : bendsOf(inside)) CHECK(k == Approx(-1 / 4.).epsilon(0.06));
}

TEST_CASE("A polyline bends towards the centre of its circle; a straight one does not") {
    std::vector<Vec3> circle;
    for (int i = 0; i <= 40; ++i) {
        const double a = 2 * kPi * (i % 40) / 40;
        circle.push_back({3 * std::cos(a), 3 * std::sin(a), 7});
    }
    const auto bends = bendingAlong(circle);
    for (std::size_t i = 0; i < circle.size(); ++i) {
        const Vec3 to = Vec3{0, 0, 7} - circle[i];
        CHECK(length(bends[i] - unit(to) * (1 / 3.)) < 1e-9);
    }
    circle.resize(17); // open now, and unevenly divided
    circle.erase(circle.begin() + 5);
    for (const Vec3& b : bendingAlong(circle)) CHECK(length(b) == Approx(1 / 3.));
    for (const Vec3& b : bendingAlong({{0, 0, 0}, {1, 2, 3}, {3, 6, 9}})) CHECK(length(b) == 0);
    CHECK(bendingAlong({{0, 0, 0}, {1, 0, 0}}).size() == 2);
    CHECK(bendingAlong({}).empty());
}

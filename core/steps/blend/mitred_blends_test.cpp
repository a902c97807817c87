/// \file Blends that meet in corners: a place is left by all of them exactly where each by itself leaves it.

#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/seeded.hpp"
#include "tests/support/wound.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepClass3d_SolidClassifier.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <TopExp_Explorer.hxx>

#include <catch2/catch.hpp>

#include <random>

using namespace gc;
using namespace gc::test;

namespace {

Part withBlend(Part p, const References& edges) {
    add(p, "blend", {{"edges", edges}, {"radius", std::string("6 mm")}, {"tension", std::string("1.1")}});
    return p;
}
const NamedShape& shapeOf(const RegenResult& r) {
    return r.state.bodies.rbegin()->second.value.shape();
}

/// Random places of a box: within the one where they are within all the others, those near a face left out.
void checkLeftByAll(const Part& all, const std::vector<Part>& alone, Vec3 low, Vec3 high) {
    const auto whole = built(all);
    std::vector<RegenResult> others;
    for (const Part& p : alone) others.push_back(built(p));
    std::mt19937 random = seeded(283);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const TopoDS_Shape skin = TopExp_Explorer(shapeOf(whole).shape, TopAbs_SHELL).Current();
    int inside = 0, outside = 0;
    for (int i = 0; i < rounds(80); ++i) {
        const gp_Pnt p(between(low.x, high.x), between(low.y, high.y), between(low.z, high.z));
        if (BRepExtrema_DistShapeShape(BRepBuilderAPI_MakeVertex(p).Vertex(), skin).Value() < 1e-3) continue;
        const auto within = [&](const RegenResult& r) {
            return BRepClass3d_SolidClassifier(shapeOf(r).shape, p, 1e-6).State() == TopAbs_IN;
        };
        const bool wanted = std::all_of(others.begin(), others.end(), within);
        INFO(p.X() << " " << p.Y() << " " << p.Z());
        CHECK(within(whole) == wanted);
        ++(wanted ? inside : outside);
    }
    CHECK(inside > 10);
    CHECK(outside > 3);
}

} // namespace

TEST_CASE("Blends along the rim of a box meet in its corners") {
    const Part box = block(rectangle({0, 0}, {60, 40}), "30 mm");
    References rim;
    std::vector<Part> alone;
    for (std::size_t i = 0; i < 4; ++i) {
        rim.push_back("where end of step 2 meets " + side(box, i));
        alone.push_back(withBlend(box, {rim.back()}));
    }
    const Part all = withBlend(box, {"rim of end of step 2"});
    const auto r = built(all);
    REQUIRE(r.steps.back().notes.size() == 1);
    CHECK(r.steps.back().notes.front().text() ==
          "Where blends meet in a corner, an edge stays between them.");
    CHECK_FALSE(r.steps.back().doubt);
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(1e-4));
    const Box room = envelope(r.state.bodies.rbegin()->second.value);
    checkLeftByAll(all, alone, {room.low.x, room.low.y, room.high.z - 8},
                   {room.low.x + 9, room.low.y + 9, room.high.z});
    // One by one they are called as they would be by themselves.
    for (std::size_t i = 0; i < 4; ++i) {
        const auto one = resolveFaces(r.state.bodies.rbegin()->second.value,
                                      **parseFaceRef("blend between " + side(box, i) + " and end of step 2"));
        REQUIRE(one.ok());
        CHECK(one->items.size() == 1);
    }
}

TEST_CASE("Three blends meet in the corner of a box") {
    const Part box = block(rectangle({0, 0}, {60, 40}), "30 mm");
    const References three{"where end of step 2 meets " + side(box, 0),
                           "where end of step 2 meets " + side(box, 1),
                           "where " + side(box, 0) + " meets " + side(box, 1)};
    std::vector<Part> alone;
    for (const std::string& edge : three) alone.push_back(withBlend(box, {edge}));
    const Part all = withBlend(box, three);
    const auto r = built(all);
    CHECK_FALSE(r.steps.back().doubt);
    const Box room = envelope(r.state.bodies.rbegin()->second.value);
    checkLeftByAll(all, alone, {room.high.x - 7, room.low.y, room.high.z - 7},
                   {room.high.x, room.low.y + 7, room.high.z});
    double taken = 0;
    for (const Part& p : alone) taken += volumeOf(built(box)) - volumeOf(built(p));
    const double both = volumeOf(built(box)) - volumeOf(r);
    CHECK(both < taken);
    CHECK(both > 0.8 * taken);
}

TEST_CASE("Blends that meet round a corner which bends the other way are still refused with it") {
    const Part ell = block(closedLine({{0, 0}, {60, 0}, {60, 20}, {20, 20}, {20, 60}, {0, 60}}), "20 mm");
    const Error e = faultOf(withBlend(ell, {"rim of end of step 2"}));
    CHECK(e.code == "blend.corner");
    CHECK(e.place.has_value());
}

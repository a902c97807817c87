// The sizes of rounds, walls, leans, turns and helices that can be dragged lie where these are to be seen.

#include "core/base/angles.hpp"
#include "tests/support/block.hpp"
#include "tests/support/handle_looks.hpp"

using namespace gc;
using namespace gc::test;

namespace {

std::string topEdge(const Part& p) {
    return "where end of step 2 meets " + side(p, 0);
}

} // namespace

TEST_CASE("A round's arrow ends where the round does, on a square edge and on a blunt one") {
    Part p = brick();
    add(p, "fillet", {{"edges", References{topEdge(p)}}, {"radius", std::string("3 mm")}});
    const auto square = built(p);
    REQUIRE(square.steps.back().ok);
    const Handle& h = handleOf(square, "radius");
    CHECK(length(tipOf(h) - h.from) == Approx(3));
    // The block leans by 30° below its top: walls and top meet at 60° or 120°.
    p.steps[1].slots["sides"] = std::string("leaning inward by");
    p.steps[1].slots["lean"] = std::string("30°");
    const auto blunt = built(p);
    REQUIRE(blunt.steps.back().ok);
    CHECK(length(tipOf(handleOf(blunt, "radius")) - handleOf(blunt, "radius").from) ==
          Approx(3 / std::tan(kPi / 3)));
    // It is there where the size does not fit, too.
    p.steps.back().slots["radius"] = std::string("300 mm");
    const auto fails = Engine().regenerate(p);
    CHECK_FALSE(fails.steps.back().ok);
    CHECK(handleOf(fails, "radius").value == Approx(300));
}

TEST_CASE("The lengths of a chamfer lie on the faces that they are measured on") {
    Part p = brick();
    add(p, "chamfer",
        {{"edges", References{topEdge(p)}},
         {"how", std::string("by two lengths,")},
         {"size", std::string("1 mm")},
         {"second", std::string("4 mm")},
         {"face", References{"end of step 2"}}});
    const auto r = built(p);
    REQUIRE(r.steps.back().ok);
    CHECK(tipOf(handleOf(r, "size")).z == Approx(20));
    CHECK(tipOf(handleOf(r, "second")).z == Approx(16));
    p.steps.back().slots["where"] = std::string("beside");
    const auto turned = built(p);
    CHECK(tipOf(handleOf(turned, "size")).z == Approx(19));
    CHECK(tipOf(handleOf(turned, "second")).z == Approx(20));
}

TEST_CASE("A wall is dragged at the border of its opening, inward and outward") {
    Part p = brick(); // from 0, 0 to 40, 30
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    const auto inside = [](Vec3 v) { return v.x > 0 && v.x < 40 && v.y > 0 && v.y < 30; };
    const auto r = built(p);
    REQUIRE(r.steps.back().ok);
    CHECK(inside(tipOf(handleOf(r, "wall"))));
    CHECK(length(tipOf(handleOf(r, "wall")) - handleOf(r, "wall").from) == Approx(2));
    CHECK(tipOf(handleOf(r, "wall")).z == Approx(20));
    p.steps.back().slots["side"] = std::string("outward");
    CHECK_FALSE(inside(tipOf(handleOf(built(p), "wall"))));
}

TEST_CASE("The arc of a lean goes where the wall goes, above its level and below it") {
    Part p = brick();
    const std::string wall = side(p, 0);
    add(p, "draft",
        {{"faces", References{wall}}, {"plane", std::string("ground")}, {"angle", std::string("5°")}});
    for (const char* sense : {"narrowing", "widening"}) {
        p.steps.back().slots["sense"] = std::string(sense);
        const auto r = built(p);
        INFO(faults(r));
        REQUIRE(r.steps.back().ok);
        const Vec3 at = tipOf(handleOf(r, "angle")), from = handleOf(r, "angle").from;
        const double away = std::hypot(at.x - 20, at.y - 15) - std::hypot(from.x - 20, from.y - 15);
        CHECK(away == Approx(std::sin(5 * kPi / 180) * 10 * (sense[0] == 'n' ? -1 : 1)).epsilon(1e-6));
    }
}

TEST_CASE("A twist is dragged at its end, a helix at its height, pitch and radius") {
    Part p = brick();
    add(p, "twist", {{"axis", std::string("upright axis")}, {"angle", std::string("30°")}});
    const Handle twist = handleOf(built(p), "angle");
    CHECK(twist.from.z == Approx(20));
    CHECK(std::fabs(twist.direction.z) == Approx(1));
    Part q;
    add(q, "curve",
        {{"about", std::string("upright axis")},
         {"sized", std::string("by height and pitch")},
         {"radius", std::string("12 mm")},
         {"height", std::string("18 mm")},
         {"pitch", std::string("6 mm")}});
    const auto r = built(q);
    INFO(faults(r));
    REQUIRE(r.steps.back().ok);
    CHECK(tipOf(handleOf(r, "height")).z == Approx(18));
    CHECK(tipOf(handleOf(r, "pitch")).z == Approx(6));
    CHECK(std::hypot(tipOf(handleOf(r, "radius")).x, tipOf(handleOf(r, "radius")).y) == Approx(12));
}

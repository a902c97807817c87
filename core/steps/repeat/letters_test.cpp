// Details that go round a piece of the wall that they stand in, as letters go round their counters.

#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/letters.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// A ring as of a letter on the front of a body, 20 above the ground, and its step.
struct Lettered {
    Part part;
    int step = 0;
    std::string wall;
};
Lettered lettered(Part p, const char* does) {
    add(p, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("60 mm")}});
    const Body body = lastBody(built(p));
    const NamedShape& s = body.shape();
    double most = 1e300;
    std::string wall;
    for (int i = 0; i < s.faces.Extent(); ++i)
        if (const Vec3 m = s.middleOf({i}, false); m.z > 1 && m.z < 39 && m.y < most)
            most = m.y, wall = s.wordsFor(s.faces(i + 1));
    Drawing d;
    addRound(d, {0, 20}, 2, 2.5);
    addRound(d, {0, 20}, 1.1, 1.6);
    add(p, "draw",
        {{"name", std::string("o")}, {"plane", std::string("before")}, {"drawing", DrawingSlot(d)}});
    const int step = add(p, "emboss",
                         {{"outline", std::string("o")},
                          {"wall", References{wall}},
                          {"lay", std::string("wrapped")},
                          {"way", std::string("back")},
                          {"does", std::string(does)}})
                         .id;
    return {p, step, wall};
}
Part around(Lettered on, int count) {
    add(on.part, "repeat",
        {{"what", References{"everything of step " + std::to_string(on.step)}},
         {"way", std::string("around")},
         {"count", std::to_string(count)}});
    return on.part;
}

} // namespace

TEST_CASE("Letters go round an axis with their counters: each as large as the first") {
    for (const Part& host : {block(circleLine(30), "40 mm"), vase()})
        for (const char* does : {"raised", "sunk"}) {
            const Lettered one = lettered(host, does);
            const double whole = volumeOf(built(host)), each = volumeOf(built(one.part)) - whole;
            const auto r = built(around(one, 12));
            CHECK(volumeOf(r) - whole == Approx(12 * each).epsilon(1e-6));
            const Body& body = lastBody(r);
            CHECK(checkBody(body).faults.empty());
            // Two sides, the far end and the counter's ground each.
            CHECK(faceCount(body) == faceCount(lastBody(built(host))) + 12 * 4);
            const auto ground = resolveFaces(body, **parseFaceRef("copy at place 5 of " + one.wall));
            REQUIRE(ground.ok());
            CHECK(ground->items.size() == 1);
        }
}

TEST_CASE("On free forms the sides of letters become longer or shorter, so that they end on the wall") {
    for (const Part& host : {loftedWall(), block(ellipseLine(40, 25), "50 mm")})
        for (const char* does : {"raised", "sunk"}) {
            Lettered one = lettered(host, does);
            const double whole = volumeOf(built(host)), each = volumeOf(built(one.part)) - whole;
            add(one.part, "repeat",
                {{"what", References{"everything of step " + std::to_string(one.step)}},
                 {"line", std::string("upright axis")},
                 {"pitch", std::string("7 mm")},
                 {"count", std::string("3")}});
            INFO(faults(Engine().regenerate(one.part)));
            const auto r = built(one.part);
            const Body& body = lastBody(r);
            CHECK(checkBody(body).faults.empty());
            CHECK(faceCount(body) == faceCount(lastBody(built(host))) + 3 * 4);
            CHECK(volumeOf(r) - whole == Approx(3 * each).epsilon(0.02));
        }
}

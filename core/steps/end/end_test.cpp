#include "tests/support/two_bodies.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf endProbe("end", [] {
    Probe p{twoBlocks({15, 0}), 0};
    p.step = add(p.part, "end", {{"body", std::string("right")}}).id;
    p.shows = {{"body", text("body", "left")}};
    return p;
});

} // namespace

TEST_CASE("A body that ends is there for the steps before and for none after") {
    Part p = twoBlocks({15, 0});
    add(p, "combine",
        {{"body", std::string("left")},
         {"how", std::string("less")},
         {"tool", std::string("right")},
         {"keep", std::string("keeping it")}});
    add(p, "end", {{"body", std::string("right")}});
    const auto r = built(p);
    REQUIRE(r.state.bodies.size() == 1);
    CHECK(volumeOf(r, "left") == Approx(3000));
    add(p, "end", {{"body", std::string("right")}});
    CHECK(faultOf(p).code == "body.lost");
}

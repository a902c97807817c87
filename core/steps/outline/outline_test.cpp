#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf probe("outline", [] {
    return Probe{cup(),
                 1,
                 {{"tolerance", text("tolerance", "0.2 mm")},
                  {"stations", {{"stations", Stations{{"0", "50", false, ""}, {"61", "58", false, ""}}}}}},
                 {{"wall of inside rows, where there are none", text("wall", "3 mm")}}};
});

} // namespace

TEST_CASE("A curve that would cross the axis is refused with the height of the place") {
    Part p;
    add(p, "outline",
        {{"stations", Stations{{"0", "60", false, ""}, {"20", "0.2", false, ""}, {"24", "60", false, ""}}},
         {"tolerance", std::string("0")}});
    const auto r = Engine().regenerate(p);
    REQUIRE(r.steps[0].error);
    CHECK(r.steps[0].error->code == "outline.axis");
    CHECK(r.steps[0].error->sentence.text().find("mm") != std::string::npos);
}

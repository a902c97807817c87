#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf outlineProbe("outline", [] {
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

TEST_CASE("A profile that crosses itself, or comes back to a point, is no solid and is told") {
    const auto outcome = [](Stations rows) {
        Part p;
        add(p, "outline", {{"stations", std::move(rows)}, {"tolerance", std::string("0.1 mm")}});
        const auto r = Engine().regenerate(p);
        return r.steps[0].error;
    };
    const StationRow a{"0", "30", false, ""}, b{"20", "32", false, ""}, c{"40", "36", false, ""};
    const auto twice = outcome({a, b, c, a, b, c});
    REQUIRE(twice);
    CHECK(twice->sentence.text().find("pasted twice") != std::string::npos);
    // A loop: up on the inside, over, and down across its own way.
    const auto loop = outcome({{"0", "60", false, ""},
                               {"30", "40", false, ""},
                               {"50", "70", false, ""},
                               {"40", "90", false, ""},
                               {"25", "60", false, ""},
                               {"35", "20", false, ""},
                               {"80", "30", false, ""}});
    REQUIRE(loop);
    CHECK(loop->sentence.text().find("crosses itself") != std::string::npos);
    // An overhang is none.
    CHECK_FALSE(outcome({{"0", "60", false, ""},
                         {"40", "80", false, ""},
                         {"38", "90", false, ""},
                         {"60", "100", false, ""}}));
}

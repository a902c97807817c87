#include "tests/support/measured.hpp"

#include <numbers>

using namespace gc;
using namespace gc::test;

TEST_CASE("Mass and volume add up over bodies, each in its own material, or are of one") {
    Part p;
    addPeg(p, "low", 10, 20);
    addPeg(p, "high", 5, 40, 60);
    setLook(p, {ThingId{4, 0}, {}, "ABS", {}, false});
    const double low = std::numbers::pi * 100 * 20, high = std::numbers::pi * 25 * 40;
    const auto t = measuredTargets(
        p,
        {{"mass", "≤ 100 g"}, {"volume", "≤ 100 cm³"}, {"mass", "≤ 1 g", "high"}, {"mass", "≤ 1 g", "gone"}},
        false);
    CHECK(*t[0].value == Approx(low * 0.905e-3 + high * 1.05e-3).epsilon(1e-9));
    CHECK(*t[1].value == Approx(low + high).epsilon(1e-9));
    CHECK(*t[2].value == Approx(high * 1.05e-3).epsilon(1e-9));
    CHECK(t[2].verdict == Verdict::Fails);
    CHECK(t[2].label == "Mass of high");
    CHECK_FALSE(t[3].value.has_value());
    CHECK(t[3].note.text().find("no body called \"gone\"") != std::string::npos);
}

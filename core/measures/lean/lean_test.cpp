#include "tests/support/measured.hpp"

#include <numbers>

using namespace gc;
using namespace gc::test;

TEST_CASE("A cup's walls lean by its own slope; a straight peg does not lean at all") {
    Part p;
    addCup(p, 60, "cup");
    const auto lean = measuredTargets(p, {{"lean", "≥ 1°"}});
    CHECK(*lean[0].value == Approx(std::atan(4.0 / 60)).margin(1e-3));
    CHECK(lean[0].verdict == Verdict::Holds);
    addPeg(p, "peg", 4, 30, 100);
    const auto both = measuredTargets(p, {{"lean", "≥ 1°"}, {"lean", "≥ 1°", "cup"}});
    CHECK(*both[0].value == Approx(0).margin(1e-6));
    CHECK(both[0].body == "peg");
    CHECK(both[0].verdict == Verdict::Fails);
    CHECK(both[1].verdict == Verdict::Holds);
}

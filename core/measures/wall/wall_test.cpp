#include "tests/support/measured.hpp"

using namespace gc;
using namespace gc::test;

TEST_CASE("The thinnest and the thickest wall of several bodies say whose they are and where") {
    Part p;
    addCup(p, 60, "cup"); // a wall of 2 mm all over
    addPeg(p, "peg", 4, 30, 100);
    const auto t = measuredTargets(p, {{"thinnest wall", "≥ 1.9 mm"},
                                       {"thickest wall", "≤ 9 mm"},
                                       {"thinnest wall, ball", "≥ 1.9 mm"},
                                       {"thickest wall, ray", "≤ 9 mm"},
                                       {"thickest wall", "≤ 2.5 mm", "cup"}});
    const Step* shell = nullptr;
    for (const Step& s : p.steps)
        if (s.kind == "shell") shell = &s;
    const double wall = *evaluateSlot(*shell, "wall", p, {});
    CHECK(*t[0].value == Approx(wall).margin(0.02));
    CHECK(t[0].body == "cup");
    CHECK_FALSE(t[0].where.empty());
    // The largest ball in a peg of 8 across and 30 long is as wide as the peg.
    CHECK(*t[1].value == Approx(8).margin(0.05));
    CHECK(t[1].body == "peg");
    REQUIRE(t[1].at.has_value());
    CHECK(t[1].at->x > 90);
    CHECK(*t[2].value == Approx(wall).margin(0.03));
    CHECK(*t[3].value > 8 - 0.05);
    CHECK(*t[4].value < 1.6 * wall); // balls grow in the corners
}

TEST_CASE("Before walls are looked at their targets are being measured") {
    Part p;
    addPeg(p, "peg", 4, 30);
    const auto t = measuredTargets(p, {{"thinnest wall", "≥ 2 mm"}}, false);
    CHECK(t[0].verdict == Verdict::Measuring);
    CHECK_FALSE(t[0].value.has_value());
}

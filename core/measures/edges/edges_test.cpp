#include "core/base/angles.hpp"
#include "tests/support/measured.hpp"
#include "tests/support/sections.hpp"

using namespace gc;
using namespace gc::test;

namespace {

Part slab() {
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(roundedLine(60, 40, 12))}});
    add(p, "extrude", {{"length", std::string("30 mm")}});
    return p;
}
const std::vector<Target> kBoth{{"sharpest edge", "≥ 100°"}, {"seams", "≥ 2"}};

} // namespace

TEST_CASE("A block's edges are sharp to a right angle, and where its bends begin the curvature jumps") {
    const auto t = measuredTargets(slab(), kBoth);
    CHECK(*t[0].value == Approx(kPi / 2).margin(1e-9));
    CHECK(t[0].verdict == Verdict::Fails);
    REQUIRE(t[0].at);
    CHECK_FALSE(t[0].where.empty());
    // Plane to cylinder: tangent; the curvature jumps from 0 to 1 by 12.
    CHECK(*t[1].value == 1);
    CHECK(t[1].verdict == Verdict::Fails);
    CHECK(t[1].note.text().find("0.0833") != std::string::npos);
}

TEST_CASE("Rounded all over nothing is sharp; hollow corners do not count") {
    Part p = slab();
    add(p, "fillet",
        {{"edges", References{"rim of end of step 2", "rim of start of step 2"}},
         {"radius", std::string("4 mm")}});
    auto t = measuredTargets(p, kBoth);
    CHECK(*t[0].value == Approx(kPi).margin(1e-9));
    CHECK(t[0].verdict == Verdict::Holds);
    CHECK(*t[1].value == 1);
    CHECK(t[1].note.text().find("0.25") != std::string::npos);
    // A tube from below: its inside corner is a hollow one, the edges of its rim are not.
    Part cup;
    add(cup, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(circleLine(20))}});
    add(cup, "extrude",
        {{"length", std::string("30 mm")},
         {"sides", std::string("leaning outward by")},
         {"lean", std::string("10°")}});
    t = measuredTargets(cup, kBoth);
    // The outward lean makes the upper edge acute and the lower one obtuse.
    CHECK(*t[0].value == Approx(80 * kPi / 180).margin(1e-6));
}

TEST_CASE("A blended rim runs on with its curvature; a fillet's does not") {
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(circleLine(20))}});
    add(p, "extrude", {{"length", std::string("30 mm")}});
    Part round = p;
    add(round, "fillet", {{"edges", References{"rim of end of step 2"}}, {"radius", std::string("5 mm")}});
    add(p, "blend", {{"edges", References{"rim of end of step 2"}}, {"radius", std::string("5 mm")}});
    const auto smooth = measuredTargets(p, kBoth), plain = measuredTargets(round, kBoth);
    CHECK(*smooth[1].value == 2);
    CHECK(smooth[1].verdict == Verdict::Holds);
    CHECK(*plain[1].value == 1);
}

TEST_CASE("A wall that goes on aslant by a degree is a kink") {
    Part p;
    const double up = std::tan(1 * kPi / 180);
    add(p, "draw",
        {{"plane", std::string("front")},
         {"drawing", DrawingSlot(closedLine({{0, 0}, {40, 0}, {40, 20 + 20 * up}, {20, 20}, {0, 20}}))}});
    add(p, "extrude", {{"length", std::string("30 mm")}});
    const auto t = measuredTargets(p, {{"seams", "≥ 1"}});
    CHECK(*t[0].value == 0);
    CHECK(t[0].verdict == Verdict::Fails);
    CHECK(t[0].note.text().find("1°") != std::string::npos);
    REQUIRE(t[0].at);
    CHECK(t[0].at->x == Approx(20).margin(1e-6));
}

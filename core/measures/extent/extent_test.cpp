#include "tests/support/measured.hpp"

using namespace gc;
using namespace gc::test;

TEST_CASE("Width, depth and height are those of all bodies together, or of one") {
    Part p;
    addPeg(p, "low", 10, 20);
    addPeg(p, "high", 5, 40, 60);
    const auto t = measuredTargets(p,
                                   {{"width", "75 mm"},
                                    {"depth", "20 mm"},
                                    {"height", "40 mm"},
                                    {"width", "10 mm", "high"},
                                    {"height", "≤ 19 mm", "low"}},
                                   false);
    CHECK(*t[0].value == Approx(75).margin(1e-6));
    CHECK(*t[1].value == Approx(20).margin(1e-6));
    CHECK(*t[2].value == Approx(40).margin(1e-6));
    CHECK(*t[3].value == Approx(10).margin(1e-6));
    for (int k = 0; k < 4; ++k) CHECK(t[static_cast<std::size_t>(k)].verdict == Verdict::Holds);
    CHECK(t[4].verdict == Verdict::Fails);
}

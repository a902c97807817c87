#include "tests/support/measured.hpp"

using namespace gc;
using namespace gc::test;

TEST_CASE("Pieces are counted over all bodies, and a closed body has no open edges") {
    Part p;
    addPeg(p, "low", 10, 20);
    addPeg(p, "high", 5, 40, 60);
    const auto t = measuredTargets(
        p, {{"pieces", "2"}, {"pieces", "1", "low"}, {"open edges", "0"}, {"pieces", "1"}}, false);
    CHECK(*t[0].value == 2);
    CHECK(*t[1].value == 1);
    CHECK(*t[2].value == 0);
    CHECK(t[0].verdict == Verdict::Holds);
    CHECK(t[3].verdict == Verdict::Fails);
}

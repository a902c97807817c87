#pragma once
/// \file What every drawing with a known answer must be once it is settled.

#include "core/sketch/solve/clash.hpp"
#include "tests/support/pen.hpp"
#include "tests/support/rank.hpp"

#include <catch2/catch.hpp>

namespace gc::test {

/// Solved to 1e-9 mm, with as many freedoms as the numeric Jacobian leaves, and without a clash.
inline void checkSettled(Pen& p, int freedoms) {
    const Settlement s = p.settle();
    CHECK(s.solved);
    CHECK(s.residual < kGood);
    CHECK(countFreedoms(p.d, p.v) == freedoms);
    CHECK(freedomsByDifferences(p.d, p.v) == freedoms);
    CHECK(diagnose(p.d, p.v).clashes.empty());
}

} // namespace gc::test

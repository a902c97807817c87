#pragma once
/// \file A part that is built, or why it is not.

#include "core/inspect/mass.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

namespace gc::test {

/// All steps are fine.
inline RegenResult built(const Part& p) {
    auto r = Engine().regenerate(p);
    INFO(faults(r));
    REQUIRE(allFine(r));
    return r;
}

/// Of the body of that name; of the one that was made last where none is named. mm³
inline double volumeOf(const RegenResult& r, const std::string& body = {}) {
    REQUIRE(!r.state.bodies.empty());
    const Body& b = body.empty() ? r.state.bodies.rbegin()->second.value : r.state.body(body);
    const auto m = massProperties(b, Density(1e-3));
    INFO((m ? std::string() : m.error().sentence.text()));
    REQUIRE(m.ok());
    return m->volume;
}

/// Why the last step fails.
inline Error faultOf(const Part& p) {
    const auto r = Engine().regenerate(p);
    REQUIRE(r.steps.back().error);
    return *r.steps.back().error;
}

} // namespace gc::test

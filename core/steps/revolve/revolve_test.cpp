#include "core/inspect/mass.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

#include <numbers>

namespace {

const ProbeOf probe("revolve", [] { return Probe{cup(), 2, {{"angle", text("angle", "300°")}}}; });

} // namespace

TEST_CASE("A part of a turn has its share of the whole, and its two flat ends are named") {
    Part p = cup();
    p.steps.pop_back();
    const auto whole = Engine().regenerate(p);
    p.findStep(2)->slots["angle"] = std::string("75°");
    const auto part = Engine().regenerate(p);
    INFO(faults(part));
    REQUIRE(allFine(part));
    const auto volume = [](const RegenResult& r) {
        return massProperties(r.state.body("cup"), Density(1e-3))->volume;
    };
    CHECK(volume(part) == Approx(volume(whole) * 75 / 360).epsilon(1e-9));
    for (const char* end : {"start of step 2", "end of step 2"})
        CHECK(resolveFaces(part.state.body("cup"), **parseFaceRef(end))->items.size() == 1);
}

#include "core/inspect/mass.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

#include <numbers>

namespace {

const ProbeOf holeProbe("hole", [] {
    Probe p{cup(), 0};
    p.step = add(p.part, "hole", {{"face", References{"floor of step 2"}}}).id;
    p.shows = {{"diameter", text("diameter", "7 mm")},
               {"lean", text("lean", "2°")},
               {"count", {{"count", std::string("4")}, {"circle", std::string("20 mm")}}}};
    p.hides = {{"circle of a single hole", text("circle", "30 mm")}};
    return p;
});

} // namespace

TEST_CASE("A hole through a floor takes away a cylinder as deep as the wall") {
    Part p = cup();
    const auto before = Engine().regenerate(p);
    add(p, "hole", {{"face", References{"floor of step 2"}}, {"diameter", std::string("9 mm")}});
    const auto after = Engine().regenerate(p);
    INFO(faults(after));
    REQUIRE(allFine(after));
    const auto volume = [](const RegenResult& r) {
        return massProperties(r.state.body("cup"), Density(1e-3))->volume;
    };
    CHECK(volume(before) - volume(after) == Approx(std::numbers::pi * 4.5 * 4.5 * 2.4).epsilon(1e-7));
}

TEST_CASE("A hole on a curved face says that it cannot") {
    Part p = cup();
    add(p, "hole", {{"face", References{"wall of step 2"}}});
    const auto r = Engine().regenerate(p);
    REQUIRE(r.steps.back().error);
    CHECK(r.steps.back().error->code == "hole.flat");
}

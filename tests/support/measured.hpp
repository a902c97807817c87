#pragma once
/// \file For tests: a part built and measured, and its targets by their measure.

#include "core/regen/measure.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

namespace gc::test {

/// A cylinder of that radius and height as a body, standing on the ground at x.
inline void addPeg(Part& p, const std::string& body, double radius, double height, double x = 0) {
    Drawing d;
    d.draw(StrokeKind::Circle, {{x, 0}}, {radius});
    add(p, "draw",
        {{"plane", std::string("ground")}, {"name", "ring of " + body}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude",
        {{"outline", "ring of " + body},
         {"length", formatNumber(height) + " mm"},
         {"does", std::string("as new body")},
         {"body", body}});
}

/// Asks for each of these of all bodies, or of one, and measures. \param walls without: the quick pass alone
inline std::vector<MeasuredTarget> measuredTargets(Part p, const std::vector<Target>& targets,
                                                   bool walls = true) {
    p.brief.targets = targets;
    const auto r = Engine().regenerate(p);
    INFO(faults(r));
    REQUIRE(allFine(r));
    const auto materials = loadMaterials();
    REQUIRE(materials.ok());
    Measurer measurer;
    const auto m = measurer.measure(p, r.state, *materials, {walls, {}});
    REQUIRE(m.ok());
    return m->targets;
}

} // namespace gc::test

#pragma once
/// \file A disc with holes to refer to, and what a reference means on it.

#include "core/steps/shared/find_items.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

namespace gc::test {

/// A disc 60 across and 5 thick with six holes of 8 on a circle of 40: steps 1 to 3.
inline Part discWithHoles() {
    Part p;
    Drawing d;
    d.draw(StrokeKind::Circle, {{0, 0}}, {30});
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude", text("length", "5 mm"));
    add(p, "hole",
        {{"face", References{"start of step 2"}},
         {"count", std::string("6")},
         {"circle", std::string("40 mm")},
         {"diameter", std::string("8 mm")}});
    return p;
}

inline Body bodyOf(const Part& p) {
    const auto r = Engine().regenerate(p);
    INFO(faults(r));
    REQUIRE(allFine(r));
    return r.state.bodies.begin()->second.value;
}

inline std::vector<int> edges(const Body& body, const std::string& text) {
    const auto ref = parseEdgeRef(text);
    INFO(text);
    REQUIRE(ref.ok());
    const auto r = resolveEdges(body, *ref);
    return r ? r->items : std::vector<int>();
}

} // namespace gc::test

#pragma once
/// \file Two blocks, for what is done to bodies.

#include "tests/support/built.hpp"

namespace gc::test {

/// Blocks of 20 by 20, 10 high, on the ground: "left" at the origin, "right" shifted. Steps 1 to 4.
inline Part twoBlocks(Vec2 shift) {
    Part p;
    for (const auto& [name, at] : {std::pair{"left", Vec2{}}, {"right", shift}}) {
        add(p, "draw",
            {{"name", std::string("foot of ") + name},
             {"plane", std::string("ground")},
             {"drawing", DrawingSlot(rectangle(at, at + Vec2{20, 20}))}});
        add(p, "extrude",
            {{"outline", std::string("foot of ") + name},
             {"length", std::string("10 mm")},
             {"does", std::string("as new body")},
             {"body", std::string(name)}});
    }
    return p;
}

} // namespace gc::test

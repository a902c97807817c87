#pragma once
/// \file For tests: an open box that is hollow, and a plane in it to draw on: what bosses and ribs stand in.

#include "tests/support/block.hpp"

namespace gc::test {

/// 60 x 40 and 25 high about the upright axis, walls of 2 mm, open at its top: steps 1 to 3. A plane "tops"
/// 15 mm over the ground: step 4. So the floor is 13 mm below that plane.
inline Part tub() {
    Part p = block(rectangle({-30, -20}, {30, 20}), "25 mm");
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    add(p, "plane", {{"name", std::string("tops")}, {"distance", std::string("15 mm")}});
    return p;
}
/// A drawing in a plane of it, called "places".
inline int drawIn(Part& p, const Drawing& drawing, const std::string& plane = "tops") {
    return add(p, "draw",
               {{"plane", plane}, {"name", std::string("places")}, {"drawing", DrawingSlot(drawing)}})
        .id;
}
/// The one body of a part.
inline const Body& onlyBody(const RegenResult& r) {
    return r.state.bodies.begin()->second.value;
}
inline double tubVolume() {
    return volumeOf(built(tub()));
}
inline constexpr double kTubDepth = 13; // mm, from the plane to the floor

} // namespace gc::test

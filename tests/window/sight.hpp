#pragma once
/// \file A digit turns the stand only while the pointer is over it, so a hand brings it there first.

#include "app/stand/stand.hpp"
#include "tests/window/hand.hpp"

#include <catch2/catch.hpp>

namespace gc::test {

/// Looks at the part from one of the sights 1 to 6, and waits until the stand has turned.
inline void look(Hand& hand, app::Stand* stand, int sight) {
    hand.moveTo(stand, QPointF(stand->width() / 2.0, 40));
    REQUIRE(Hand::wait([&] { return stand->underMouse(); }, 5000));
    hand.press(std::to_string(sight).c_str());
    const float pitch = sight == 5 ? 90.f : sight == 6 ? -90.f : 0.f;
    REQUIRE(Hand::wait([&] { return stand->camera().pitch == pitch; }, 5000));
}

} // namespace gc::test

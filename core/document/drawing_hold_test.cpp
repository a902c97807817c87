#include "core/document/drawing_hold.hpp"

#include <catch2/catch.hpp>

using namespace gc;

TEST_CASE("Holding a point is a text, and back") {
    PointHold hold;
    hold.point = 12;
    hold.trace = {"meeting of stroke 3 of step 1", 1, 2, StrokeKind::Point, {{12.5, -0.125}}, {}};
    const auto back = parsePointHold(toText(hold));
    REQUIRE(back);
    CHECK(back->point == 12);
    CHECK(back->trace == hold.trace);
    for (const char* text :
         {"", "hold", "hold point 3 at 1 2", "hold point x at 1 2 piece 0 of 1 of meeting of a",
          "hold point 3 at nan 2 piece 0 of 1 of meeting of a", "hold point 3 at 1 2 piece 0 of 1 of ",
          "let point 3 at 1 2 piece 0 of 1 of a"})
        CHECK_FALSE(parsePointHold(text));
}

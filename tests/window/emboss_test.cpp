/// \file Letters on walls, by hand in the stage Finish.

#include "tests/support/letters.hpp"
#include "tests/window/finish_hand.hpp"

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

/// A stud of 20, 40 high, and letters on a plane before it.
void lettered(Part& p) {
    test::add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(test::circleLine(20))}});
    test::add(p, "extrude", {{"length", std::string("40 mm")}, {"body", std::string("stud")}});
    test::add(p, "plane",
              {{"name", std::string("before")},
               {"from", std::string("front")},
               {"distance", std::string("40 mm")}});
    test::add(p, "draw",
              {{"name", std::string("label")},
               {"plane", std::string("before")},
               {"drawing", DrawingSlot(test::letters(4, -9, 17))}});
}

} // namespace

TEST_CASE(
    "Letters are wrapped around a stud by hand: the way back is offered for a click, a key sinks them") {
    FinishBench t(lettered);
    t.begin("emb");
    CHECK(t.draft().text("outline") == "label"); // what was drawn last
    t.pick("wall", {0, -20, 8}, 1);
    // The stud lies behind the drawing.
    SentenceBar* bar = t.window.bar();
    REQUIRE(Hand::wait([&] { return !bar->fault().isEmpty() && !bar->wayRect().isEmpty(); }, 60000));
    REQUIRE(Hand::steady([&] { return QPointF(bar->wayRect().topLeft()); }));
    t.hand->click(bar, bar->wayRect().center());
    REQUIRE(Hand::wait([&] { return t.draft().text("way") == "back"; }, 10000));
    t.click("lay");
    REQUIRE(Hand::wait([&] { return t.draft().text("lay") == "wrapped"; }, 5000));
    t.figure("height", "1 mm");
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("does") == "sunk"; }, 5000));
    t.keep();
    CHECK(t.last().ok);
    CHECK(t.change() == Approx(-inkOf(test::letters(4, -9, 17)) * (1 - 1 / 40.0)).epsilon(1e-5));
}

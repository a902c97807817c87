/// \file Details repeated, threads and twists, by hand in the stage Finish.

#include "core/base/angles.hpp"
#include "tests/support/sections.hpp"
#include "tests/window/finish_hand.hpp"

#include <cmath>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

/// The large block with a round pocket of 4 mm, 5 deep, near its upper left corner.
void pocketed(Part& p) {
    largeBlock(p);
    Drawing d;
    d.draw(StrokeKind::Circle, {{-20, -10}}, {4});
    test::add(p, "draw",
              {{"plane", "end of step " + std::to_string(p.steps.back().id)}, {"drawing", DrawingSlot(d)}});
    test::add(p, "extrude",
              {{"length", std::string("5 mm")},
               {"way", std::string("backward")},
               {"does", std::string("taking from")}});
}
constexpr double kPocket = kPi * 16 * 5;

/// Three of it in the open sentence.
void beginRow(FinishBench& t, const char* pitch) {
    t.begin("rep");
    t.figure("count", "3");
    t.figure("pitch", pitch);
    REQUIRE(t.quiet());
}

} // namespace

TEST_CASE("A pocket is repeated in rows by hand; too many say how many fit, for a click") {
    FinishBench t(pocketed);
    t.begin("rep");
    // What was made last is meant.
    CHECK(t.draft().references("what").size() == 1);
    t.figure("count", "4");
    t.figure("pitch", "13 mm");
    t.choose("way", 1);
    REQUIRE(Hand::wait([&] { return t.draft().text("way") == "in rows along"; }, 5000));
    t.figure("count 2", "2");
    t.figure("pitch 2", "20 mm");
    REQUIRE(t.quiet());
    CHECK(t.window.bar()->fault().toStdString().empty());
    t.figure("count", "9");
    SentenceBar* bar = t.window.bar();
    REQUIRE(Hand::wait([&] { return !bar->fault().isEmpty() && !bar->wayRect().isEmpty(); }, 60000));
    REQUIRE(Hand::steady([&] { return QPointF(bar->wayRect().topLeft()); }));
    t.hand->click(bar, bar->wayRect().center());
    REQUIRE(Hand::wait([&] { return t.draft().text("count") == "4"; }, 10000));
    t.keep();
    CHECK(t.change() == Approx(-7 * kPocket).epsilon(1e-6));
    CHECK(t.said() ==
          "Repeat everything that step 4 made in rows along the cross axis onward, 4 times every 13 mm, and "
          "along the depth axis onward, 2 times every 20 mm, in line.");
}

TEST_CASE("The distance from copy to copy is dragged by its arrow in the stand") {
    FinishBench t(pocketed);
    beginRow(t, "12 mm");
    Stand* stand = t.window.stand();
    const QPointF from = t.at({-8, -10, 27.5}), to = t.at({-4, -10, 27.5});
    t.hand->moveTo(stand, from);
    t.hand->drag(stand, from, to);
    REQUIRE(Hand::wait([&] { return t.draft().text("pitch") != "12 mm"; }, 5000));
    CHECK(std::atof(t.draft().text("pitch").c_str()) == Approx(16).margin(1.5));
    t.keep();
    CHECK(t.change() == Approx(-2 * kPocket).epsilon(1e-6));
}

TEST_CASE("How many there are is pulled at the last of them, and follows while it is pulled") {
    FinishBench t(pocketed);
    beginRow(t, "9 mm");
    Stand* stand = t.window.stand();
    REQUIRE(Hand::wait([&] { return !stand->handleTip(QStringLiteral("count")).isNull(); }, 5000));
    const QPointF from = stand->handleTip(QStringLiteral("count"));
    const QPointF to = from + t.at({16, -10, 27.5}) - t.at({-2, -10, 27.5});
    t.hand->moveTo(stand, from);
    t.hand->drag(stand, from, to);
    Hand::wait([&] { return t.draft().text("count") != "3"; }, 5000);
    CHECK(t.draft().text("count") == "5");
    t.keep();
    CHECK(t.change() == Approx(-4 * kPocket).epsilon(1e-6));
}

TEST_CASE("A thread is raised on a stud, then turned left by a key") {
    FinishBench t([](Part& p) {
        test::add(p, "draw",
                  {{"plane", std::string("ground")}, {"drawing", DrawingSlot(test::circleLine(12))}});
        test::add(p, "extrude", {{"length", std::string("24 mm")}, {"body", std::string("stud")}});
    });
    t.begin("thr");
    t.pick("wall", {0, -12, 12}, 1);
    REQUIRE(t.quiet());
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("hand") == "left-handed"; }, 5000));
    t.figure("turns", "2");
    t.keep();
    CHECK(t.change() > 50);
    CHECK(t.last().ok);
}

TEST_CASE("A block is twisted as a whole, by hand") {
    FinishBench t(largeBlock);
    t.begin("twi");
    t.figure("angle", "40");
    t.keep();
    CHECK(t.last().ok);
    CHECK(std::fabs(t.change()) < 0.1);
    CHECK(t.said() == "Twist block round by 40° along the upright axis from end to end.");
}

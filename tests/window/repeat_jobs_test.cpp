/// \file Whole jobs with details that come again and again, by hand in the window.

#include "core/base/angles.hpp"
#include "tests/support/sections.hpp"
#include "tests/window/finish_hand.hpp"

#include <cmath>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

/// What the sentence offers in its stead.
void takeWay(FinishHand& t) {
    SentenceBar* bar = t.window.bar();
    REQUIRE(Hand::wait([&] { return !bar->fault().isEmpty() && !bar->wayRect().isEmpty(); }, 60000));
    REQUIRE(Hand::steady([&] { return QPointF(bar->wayRect().topLeft()); }));
    t.hand->click(bar, bar->wayRect().center());
    REQUIRE(Hand::wait([&] { return bar->fault().isEmpty(); }, 60000));
    REQUIRE(t.quiet());
}

double changeOf(FinishHand& t, int id) {
    const auto& view = t.window.forge()->steps().at(id);
    REQUIRE(view.volumeChange);
    return *view.volumeChange;
}

/// A leaning block of 100 by 72, its top at 25, and a pocket of 12 by 12 in it near its left front corner.
void trayBlock(Part& p) {
    test::add(p, "draw",
              {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({-50, -36}, {50, 36}))}});
    test::add(p, "extrude",
              {{"length", std::string("25 mm")},
               {"body", std::string("former")},
               {"sides", std::string("leaning inward by")},
               {"lean", std::string("5°")}});
    test::add(p, "draw",
              {{"plane", "end of step " + std::to_string(p.steps.back().id)},
               {"drawing", DrawingSlot(rectangle({-43.5, -28.5}, {-31.5, -16.5}))}});
    test::add(p, "extrude",
              {{"length", std::string("18 mm")},
               {"way", std::string("backward")},
               {"does", std::string("taking from")},
               {"sides", std::string("leaning inward by")},
               {"lean", std::string("5°")}});
}

} // namespace

TEST_CASE(
    "Job: a seedling tray, its pocket rounded, repeated 6 by 4 with 3 mm between, and a skin round it") {
    FinishBench t(trayBlock);
    const int pocket = t.window.session()->part().steps.back().id;
    look(*t.hand, t.window.stand(), 5);
    t.begin("fil");
    // The floor's rim: its four edges are 18 below the top, 9 from the pocket's middle less the lean.
    const auto side = static_cast<float>(6 - 18 * std::tan(5 * kPi / 180));
    t.pick("edges", {-37.5f, -22.5f + side, 7}, 1);
    t.pick("edges", {-37.5f, -22.5f - side, 7}, 2);
    t.pick("edges", {-37.5f + side, -22.5f, 7}, 3);
    t.pick("edges", {-37.5f - side, -22.5f, 7}, 4);
    t.figure("radius", "2 mm");
    t.keep();
    const int rounds = t.window.session()->part().steps.back().id;

    t.begin("rep");
    chosen(t, "way", 1, "in rows along");
    chosen(t, "spacing", 2, "leaving");
    t.figure("gap", "3 mm");
    chosen(t, "spacing 2", 2, "leaving");
    t.figure("gap 2", "3 mm");
    t.figure("count 2", "4");
    t.figure("count", "9"); // the last three would hang over the border
    takeWay(t);
    CHECK(t.draft().text("count") == "6");
    t.keep();
    CHECK(t.change() == Approx(23 * (changeOf(t, pocket) + changeOf(t, rounds))).epsilon(1e-6));

    t.beginSkin();
    t.figure("wall", "0.8 mm");
    other(t, "becomes", "as new body");
    t.keep();
    REQUIRE(Hand::wait([&] { return t.window.forge()->meshes().size() == 2; }, 30000));
    CHECK(t.last().ok);
}

TEST_CASE(
    "Job: a hose reel ring, tabs inside, treads wrapped round it, mirrored and repeated all the way round") {
    FinishBench t([](Part& p) {
        Drawing ring = circleLine(40);
        ring.draw(StrokeKind::Circle, {{0, 0}}, {32});
        test::add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(ring)}});
        test::add(p, "extrude", {{"length", std::string("20 mm")}, {"body", std::string("ring")}});
        test::add(p, "draw",
                  {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({24, -4}, {33, 4}))}});
        test::add(p, "extrude", {{"length", std::string("5 mm")}, {"does", std::string("adding to")}});
        test::add(p, "plane",
                  {{"name", std::string("middle")},
                   {"from", std::string("ground")},
                   {"distance", std::string("10 mm")}});
        test::add(p, "plane",
                  {{"name", std::string("before")},
                   {"from", std::string("front")},
                   {"distance", std::string("60 mm")}});
        test::add(p, "draw",
                  {{"name", std::string("tread")},
                   {"plane", std::string("before")},
                   {"drawing", DrawingSlot(closedLine({{-1.2, 2}, {1.2, 2}, {0.4, 8}, {-0.4, 8}}))}});
    });
    const auto steps = [&]() -> const std::vector<Step>& { return t.window.session()->part().steps; };
    const int tab = steps()[3].id;
    t.begin("rep");
    chosen(t, "way", 2, "around");
    t.figure("count", "6");
    t.keep();
    CHECK(t.change() == Approx(5 * changeOf(t, tab)).epsilon(1e-6));

    look(*t.hand, t.window.stand(), 1);
    t.begin("emb");
    CHECK(t.draft().text("outline") == "tread");
    t.pick("wall", {8, -39.19f, 4}, 1);
    takeWay(t); // the ring lies behind the drawing
    other(t, "lay", "wrapped");
    t.figure("height", "0.25 mm");
    t.keep();
    const int tread = steps().back().id;
    // A prism that widens with the radius: its area is that of the drawing on the wall.
    CHECK(t.change() == Approx((2.4 + 0.8) / 2 * 6 * 0.25 * (1 + 0.125 / 40)).epsilon(1e-5));

    t.begin("mir");
    other(t, "subject", "the detail");
    chosen(t, "plane", 3, "middle"); // after the three that are always there
    t.keep();
    CHECK(t.change() == Approx(changeOf(t, tread)).epsilon(1e-6));

    t.begin("rep");
    chosen(t, "way", 2, "around");
    t.figure("count", "200");
    takeWay(t);
    // Of the widest places, 2.4 wide on the wall, so many have room.
    CHECK(std::atoi(t.draft().text("count").c_str()) == static_cast<int>(2 * kPi * 40 / 2.4));
    t.figure("count", "45");
    t.keep();
    CHECK(t.last().ok);
    CHECK(t.change() == Approx(44 * changeOf(t, tread)).epsilon(1e-5));
}

namespace {

constexpr double kDomeRadius = 60, kDomeMiddle = -40, kRoseWall = 2;

/// A dome over the ground, its top at 20, with a ring drawn over it, a spot and an arc drawn on the ground.
void roseDome(Part& p) {
    const double foot = std::sqrt(kDomeRadius * kDomeRadius - kDomeMiddle * kDomeMiddle);
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 0}, {foot, 0}});
    d.draw(StrokeKind::Arc, {{foot, 0}, {0, 20}, {0, kDomeMiddle}}, {kDomeRadius});
    d.draw(StrokeKind::Line, {{0, 20}, {0, 0}});
    test::add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(d)}});
    test::add(p, "revolve", {{"body", std::string("rose")}});
    Drawing spot;
    spot.draw(StrokeKind::Circle, {{-25, 0}}, {1.5});
    test::add(
        p, "draw",
        {{"name", std::string("drain")}, {"plane", std::string("ground")}, {"drawing", DrawingSlot(spot)}});
    Drawing arc;
    arc.draw(StrokeKind::Arc, {{-25, 0}, {25, 0}, {0, 0}}, {25});
    test::add(
        p, "draw",
        {{"name", std::string("gutter")}, {"plane", std::string("ground")}, {"drawing", DrawingSlot(arc)}});
    test::add(
        p, "plane",
        {{"name", std::string("over")}, {"from", std::string("ground")}, {"distance", std::string("30 mm")}});
    test::add(p, "draw",
              {{"name", std::string("spray")},
               {"plane", std::string("over")},
               {"drawing", DrawingSlot(circleLine(18))}});
}

/// What an upright hole takes of the dome's wall, a way out from its axis.
double holeThroughDome(double out, double radius) {
    constexpr int kRings = 60, kTurns = 60;
    double sum = 0;
    for (int i = 0; i < kRings; ++i)
        for (int k = 0; k < kTurns; ++k) {
            const double r = radius * (i + 0.5) / kRings, a = 2 * kPi * k / kTurns;
            const double x = out + r * std::cos(a), y = r * std::sin(a), q = x * x + y * y,
                         in = kDomeRadius - kRoseWall;
            sum += (std::sqrt(kDomeRadius * kDomeRadius - q) - std::sqrt(in * in - q)) * r;
        }
    return sum * radius / kRings * 2 * kPi / kTurns;
}

} // namespace

TEST_CASE("Job: a rose, hollow, with round holes in rings through its dome and drain holes along an arc") {
    FinishBench t(roseDome);
    t.begin("shell");
    t.figure("wall", "2 mm");
    t.keep();

    t.begin("vent");
    chosen(t, "shape", 2, "rings");
    t.figure("width", "1.6 mm");
    t.figure("bar", "2.4 mm");
    t.figure("rim", "0 mm");
    t.keep();
    double taken = holeThroughDome(0, 0.8);
    int holes = 1;
    for (const double ring : {4., 8., 12., 16.}) {
        const int count = static_cast<int>(kPi / std::asin(2 / ring) + 1e-9); // chords of 4 mm
        taken += count * holeThroughDome(ring, 0.8);
        holes += count;
    }
    CHECK(holes == 62);
    CHECK(t.change() == Approx(-taken).epsilon(1e-5));

    look(*t.hand, t.window.stand(), 6);
    t.begin("extr");
    chosen(t, "outline", 1, "drain");
    t.figure("length", "2 mm");
    t.hand->alt("r");
    t.keep();
    const double drain = t.change();
    CHECK(drain == Approx(-kPi * 1.5 * 1.5 * 2).epsilon(1e-6));

    t.begin("rep");
    chosen(t, "way", 4, "along");
    t.click("curve");
    t.pick("curve", {0, -25, 0}, 1);
    chosen(t, "spread", 2, "filling");
    t.figure("gap", "5 mm");
    t.keep();
    CHECK(t.change() == Approx(std::floor(25 * kPi / (3 + 5)) * drain).epsilon(1e-6));
}

TEST_CASE(
    "Job: a dibber, turned, one flute swept along an arc, its edge rounded, all round, hollow and twisted") {
    FinishBench t([](Part& p) {
        test::add(p, "draw",
                  {{"plane", std::string("front")},
                   {"drawing", DrawingSlot(closedLine({{0, 0}, {16, 0}, {12, 80}, {0, 80}}))}});
        test::add(p, "revolve", {{"body", std::string("dibber")}});
        Drawing bore;
        bore.draw(StrokeKind::Circle, {{0, 0}}, {6});
        test::add(p, "draw",
                  {{"name", std::string("bore")},
                   {"plane", std::string("ground")},
                   {"drawing", DrawingSlot(bore)}});
        Drawing arc; // it bends towards the axis, and leaves the wall at both ends
        const Vec2 low{19, 8}, high{17, 72}, way = high - low;
        const double half = length(way) / 2, deep = 3.5, radius = (half * half / deep + deep) / 2;
        const Vec2 middle = (low + high) * 0.5 + Vec2{way.y, -way.x} * ((radius - deep) / (2 * half));
        arc.draw(StrokeKind::Arc, {high, low, middle}, {radius});
        test::add(
            p, "draw",
            {{"name", std::string("path")}, {"plane", std::string("front")}, {"drawing", DrawingSlot(arc)}});
        Drawing flute;
        flute.draw(StrokeKind::Circle, {{0, 0}}, {2.5});
        test::add(p, "draw",
                  {{"name", std::string("flute")},
                   {"plane", std::string("ground")},
                   {"drawing", DrawingSlot(flute)}});
    });
    t.begin("swe");
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("does") == "taking from"; }, 5000));
    t.keep();
    const double cut = t.change();
    look(*t.hand, t.window.stand(), 4);
    t.begin("fil");
    t.pick("edges", {13.79f, 2.405f, 40}, 1); // where flute and wall meet: one edge all round
    t.figure("radius", "0.5 mm");
    t.keep();
    const double rounded = t.change();
    CHECK(rounded < 0);

    t.begin("rep");
    CHECK(t.draft().references("what").size() == 1);
    chosen(t, "way", 2, "around");
    t.figure("count", "12");
    t.keep();
    CHECK(t.change() == Approx(11 * (cut + rounded)).epsilon(1e-5));

    t.begin("extr");
    chosen(t, "outline", 1, "bore");
    t.figure("length", "65 mm");
    t.hand->alt("r");
    t.keep();
    CHECK(t.change() == Approx(-kPi * 36 * 65).epsilon(1e-6));

    t.begin("twi");
    t.figure("angle", "60");
    t.keep();
    CHECK(t.last().ok);
    CHECK(std::fabs(t.change()) < 1);
    CHECK(t.said() == "Twist dibber round by 60° along the upright axis from end to end.");
}

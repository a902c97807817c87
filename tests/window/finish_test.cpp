/// \file The stage Finish: edges cut off and rounded, walls that lean.

#include "core/base/angles.hpp"
#include "tests/support/sections.hpp"
#include "tests/window/finish_hand.hpp"

#include <cmath>

using namespace gc;
using namespace gc::app;
using gc::test::FinishHand;
using gc::test::Hand;

namespace {

/// The slab alone: 60 by 40, from 30 to 40 over the ground.
struct Slab : FinishHand {
    Slab() : FinishHand([](Part& p) { p.steps.pop_back(); }) {}
};

} // namespace

TEST_CASE("A chamfer by two lengths: an edge clicked, the sides turned by a key") {
    Slab t;
    t.begin("cham");
    t.pick("edges", {0, -20, 40}, 1);
    t.choose("how", 1);
    REQUIRE(Hand::wait([&] { return t.draft().text("how") == "by two lengths,"; }, 5000));
    t.figure("size", "2 mm");
    t.figure("second", "5 mm");
    CHECK(t.draft().text("where") == "on");
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("where") == "beside"; }, 5000));
    REQUIRE(t.quiet());
    t.keep();
    CHECK(t.change() == Approx(-60 * 5).epsilon(1e-6)); // half of 2 by 5, 60 long
    const std::string said = t.said();
    CHECK(said.find("Chamfer") == 0);
    CHECK(said.find("on the other side") != std::string::npos);
}

TEST_CASE("Two groups of edges are rounded in one step, and what is rarely asked stays out of the sheet") {
    Slab t;
    t.begin("fill");
    t.pick("edges", {0, -20, 40}, 1);
    t.figure("radius", "3 mm");
    t.click("rest");
    REQUIRE(Hand::wait([&] { return t.draft().text("rest") == "and"; }, 5000));
    t.click("edges 2");
    t.pick("edges 2", {30, 0, 40}, 1);
    t.figure("radius 2", "1 mm");
    t.keep();
    CHECK(t.change() < -(1 - kPi / 4) * (9 * 58 + 1 * 36));
    CHECK(t.change() > -(1 - kPi / 4) * (9 * 60 + 1 * 40) - 1);
    const std::string said = t.said();
    CHECK(said.find("by 3 mm and") != std::string::npos);
    CHECK(said.find("only") == std::string::npos);
}

TEST_CASE("A corner of three rounds is set back by hand: too far is said, and less of it works") {
    Slab t;
    t.begin("fill");
    t.pick("edges", {0, -20, 40}, 1);
    t.pick("edges", {30, 0, 40}, 2);
    t.pick("edges", {30, -20, 35}, 3);
    t.figure("radius", "3 mm");
    t.click("corners");
    REQUIRE(Hand::wait([&] { return t.draft().text("corners") == "with corners set back by"; }, 5000));
    t.figure("set back", "12 mm"); // the upright edge is 10 long
    const auto fault = [&] { return t.window.bar()->fault().toStdString(); };
    REQUIRE(Hand::wait([&] { return fault().find("room for less than 10 mm") != std::string::npos; }, 10000));
    t.figure("set back", "6 mm");
    t.keep();
    // More goes than by rounds that end square before the corner, less than the corner's cube besides.
    const double rounds = (1 - kPi / 4) * 9 * (60 + 40 + 10 - 3 * 6);
    CHECK(t.change() < -rounds);
    CHECK(t.change() > -rounds - 6 * 6 * 6);
    CHECK(t.said().ends_with("with corners set back by 6 mm."));
}

TEST_CASE("A round goes up to a line: the edge and the line are clicked, and no radius is asked") {
    Slab t;
    t.begin("fill");
    t.pick("edges", {0, -20, 40}, 1);
    t.choose("how", 4);
    REQUIRE(Hand::wait([&] { return t.draft().text("how") == "up to"; }, 5000));
    t.pick("line", {0, -20, 30}, 1);
    REQUIRE(t.quiet());
    t.keep();
    // All of the wall gives way: it is 10 high.
    CHECK(t.change() == Approx(-(1 - kPi / 4) * 10 * 10 * 60).epsilon(1e-6));
    CHECK(t.said().find(" up to ") != std::string::npos);
}

TEST_CASE("A groove by hand: its wall is clicked, a profile chosen; a key raises it and takes it back") {
    FinishHand t([](Part& p) {
        p.steps.pop_back();
        gc::test::add(p, "plane",
                      {{"name", std::string("over")},
                       {"from", std::string("ground")},
                       {"distance", std::string("60 mm")}});
        gc::test::add(p, "draw",
                      {{"name", std::string("score")},
                       {"plane", std::string("over")},
                       {"drawing", DrawingSlot(gc::test::lineFrom({-20, 0}, {20, 0}))}});
    });
    t.begin("groo");
    CHECK(t.draft().references("line").size() == 1); // the line that was drawn last
    t.pick("faces", {5, 12, 40}, 1);
    t.choose("profile", 1);
    REQUIRE(Hand::wait([&] { return t.draft().text("profile") == "flat"; }, 5000));
    t.figure("width", "6 mm");
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("does") == "raised"; }, 5000));
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("does") == "cut"; }, 5000));
    t.keep();
    CHECK(t.change() == Approx(-(40 * 6 + kPi * 9) * 2).epsilon(1e-6));
    CHECK(t.said().starts_with("Groove cut along"));
}

TEST_CASE("All walls of a body lean from a level") {
    Slab t;
    t.begin("draft");
    t.click("which");
    REQUIRE(Hand::wait([&] { return t.draft().text("which") == "all walls of"; }, 5000));
    CHECK(t.draft().text("body") == "roof");
    t.figure("angle", "4");
    t.keep();
    // From the ground, 30 below it: narrower at its foot already.
    const double tangent = std::tan(4 * kPi / 180);
    const auto area = [&](double z) { return (60 - 2 * z * tangent) * (40 - 2 * z * tangent); };
    CHECK(t.change() == Approx(10 / 6. * (area(30) + 4 * area(35) + area(40)) - 24000).epsilon(1e-6));
}

TEST_CASE("The radius of a round is dragged at its arrow on the part") {
    Slab t;
    t.begin("fill");
    t.pick("edges", {0, -20, 40}, 1);
    Stand* stand = t.window.stand();
    const QString radius = QStringLiteral("radius");
    REQUIRE(Hand::wait([&] { return !stand->handleTip(radius).isNull(); }, 10000));
    REQUIRE(Hand::steady([&] { return stand->handleTip(radius); }));
    const QPointF tip = stand->handleTip(radius), from = t.at({0, -20, 40});
    const double was = *evaluateSlot(t.draft(), "radius", t.window.session()->part(), {});
    // It lies on one of the two faces; pixels a millimetre along that.
    const QPointF up = t.at({0, -19, 40}) - from, down = t.at({0, -20, 39}) - from, arrow = tip - from;
    const QPointF each = QPointF::dotProduct(up, arrow) / std::hypot(up.x(), up.y()) >
                                 QPointF::dotProduct(down, arrow) / std::hypot(down.x(), down.y())
                             ? up
                             : down;
    t.hand->drag(stand, tip, tip + each * 4);
    REQUIRE(t.quiet());
    const double now = *evaluateSlot(t.draft(), "radius", t.window.session()->part(), {});
    CHECK(std::fabs(now - was - 4) < 0.8);
    t.keep();
    CHECK(t.change() == Approx(-(1 - kPi / 4) * now * now * 60).epsilon(1e-6));
}

/// \file The stage Finish: a cup's rims, blends, skins, and orders that are offered.

#include "app/sheet/sheet.hpp"
#include "core/base/angles.hpp"
#include "tests/support/sections.hpp"
#include "tests/window/finish_hand.hpp"
#include "tests/window/sight.hpp"

#include <cmath>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

void solidCup(Part& p) {
    test::add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(test::circleLine(40))}});
    test::add(p, "extrude", {{"length", std::string("60 mm")}, {"body", std::string("cup")}});
}

/// Area between a right angle and a round of that radius.
double spandrel(double r) {
    return r * r * (1 - kPi / 4);
}

} // namespace

TEST_CASE("A cup's rims by hand: hollowed, rounded outside and in, and its lip fully") {
    FinishBench t(solidCup);
    t.begin("shell");
    t.click("open");
    t.pick("open", {0, 0, 60}, 1);
    t.figure("wall", "5 mm");
    t.keep();
    CHECK(t.change() == Approx(-kPi * 35 * 35 * 55).epsilon(1e-6));
    look(*t.hand, t.window.stand(), 6);
    t.begin("fillet");
    t.pick("edges", {28.284f, -28.284f, 0}, 1);
    t.figure("radius", "3 mm");
    t.keep();
    // Pappus: the spandrel's middle lies 0.2234 of the radius from both sides.
    constexpr double share = (5.0 / 6 - kPi / 4) / (1 - kPi / 4);
    CHECK(t.change() == Approx(-2 * kPi * (40 - share * 3) * spandrel(3)).epsilon(1e-6));
    look(*t.hand, t.window.stand(), 5);
    t.begin("fillet");
    // From above it lies under the rim: the next under the pointer.
    t.hand->moveTo(t.window.stand(), t.at({24.749f, 24.749f, 5}));
    t.hand->press("n");
    t.pick("edges", {24.749f, 24.749f, 5}, 1);
    t.figure("radius", "3 mm");
    t.keep();
    CHECK(t.change() == Approx(2 * kPi * (35 - share * 3) * spandrel(3)).epsilon(1e-6));
    t.begin("fillet");
    t.choose("how", 2);
    REQUIRE(Hand::wait([&] { return t.draft().text("how") == "fully over"; }, 5000));
    t.click("over");
    t.pick("over", {0, -37.5f, 60}, 1);
    t.keep();
    CHECK(t.change() == Approx(-2 * kPi * 37.5 * (2 * 2.5 * 2.5 - kPi * 2.5 * 2.5 / 2)).epsilon(1e-5));
    CHECK(t.window.session()->part().steps.size() == 6);
    CHECK(t.said() == "Fillet fully over rim of end.");
}

TEST_CASE("An edge is blended by hand, and more tension takes less away") {
    FinishBench t(largeBlock);
    t.begin("blend");
    t.pick("edges", {0, -20, 30}, 1);
    t.figure("radius", "8 mm");
    t.keep();
    const double soft = t.change();
    CHECK(soft < 0);
    CHECK(soft > -60 * spandrel(8) * 1.4);
    t.hand->press("z", true);
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 2; }, 5000));
    REQUIRE(t.quiet());
    t.begin("blend");
    t.pick("edges", {0, -20, 30}, 1);
    t.figure("radius", "8 mm");
    t.figure("tension", "1.6");
    t.keep();
    CHECK(t.change() > soft);
    CHECK(t.last().notes.isEmpty());
}

TEST_CASE("A skin around a former, as a body of its own") {
    FinishBench t(largeBlock);
    t.beginSkin();
    t.click("becomes"); // of two choices a click takes the other
    REQUIRE(Hand::wait([&] { return t.draft().text("becomes") == "as new body"; }, 5000));
    CHECK(t.draft().text("name") == "skin");
    t.keep();
    REQUIRE(Hand::wait([&] { return t.window.forge()->meshes().size() == 2; }, 60000));
    CHECK(t.said().find("as new body called skin") != std::string::npos);
}

TEST_CASE("A step that fails where it stands is offered the place where it works, for a click") {
    FinishBench t([](Part& p) {
        largeBlock(p);
        const std::string made = " of step " + std::to_string(p.steps.back().id);
        const auto side = [&](std::size_t i) {
            return "side " + std::to_string(p.steps[0].drawing("drawing").strokes[i % 4].id) + made;
        };
        test::add(p, "shell", {{"open", References{"end" + made}}, {"wall", std::string("4 mm")}});
        References outer, inner;
        for (std::size_t i = 0; i < 4; ++i) {
            outer.push_back("where " + side(i) + " meets " + side(i + 1));
            inner.push_back("where inside of " + side(i) + " meets inside of " + side(i + 1));
        }
        // Round outside and sharp inside: no ball goes round such a corner.
        test::add(p, "fillet", {{"edges", outer}, {"radius", std::string("9 mm")}});
        test::add(p, "fillet",
                  {{"how", std::string("fully over")}, {"over", References{"rim of end" + made}}});
        test::add(p, "fillet", {{"edges", inner}, {"radius", std::string("5 mm")}});
    });
    const int lip = t.window.session()->part().steps[4].id;
    REQUIRE(Hand::wait(
        [&] {
            const auto& s = t.window.forge()->steps().at(lip);
            return !s.ok && !s.remedies.empty() && s.remedies.back().before.has_value();
        },
        60000));
    t.window.sheet()->choose(lip);
    StepRow* row = nullptr;
    for (StepRow* r : t.window.findChildren<StepRow*>())
        if (r->id() == lip) row = r;
    REQUIRE(row);
    const auto way = [&] { return row->remedyRect(t.window.forge()->steps().at(lip).remedies.size() - 1); };
    REQUIRE(Hand::wait([&] { return !way().isEmpty(); }, 5000));
    REQUIRE(Hand::steady([&] { return row->mapTo(&t.window, QPointF(way().center())); }));
    t.hand->click(row, QPointF(way().center()));
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.back().id == lip; }, 5000));
    REQUIRE(t.quiet());
    CHECK(t.last().ok);
}

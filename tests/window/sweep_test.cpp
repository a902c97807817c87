/// \file The stage Form: a section along a path.

#include "core/base/angles.hpp"
#include "core/sketch/arcs.hpp"
#include "tests/window/roof.hpp"
#include "tests/window/sight.hpp"

#include <cmath>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::look;
using gc::test::Roof;

namespace {

/// Beside the slab: a hook's line in the front plane, and a section anywhere.
void addHook(Part& p) {
    Drawing way;
    way.draw(StrokeKind::Line, {{60, 0}, {60, 30}});
    drawArcThrough(way, {60, 30}, {70 - 10 * std::sqrt(0.5), 30 + 10 * std::sqrt(0.5)}, {70, 40});
    way.draw(StrokeKind::Line, {{70, 40}, {90, 40}});
    gc::test::add(p, "draw", {{"name", std::string("hook line")}, {"drawing", DrawingSlot(way)}});
    gc::test::add(p, "draw",
                  {{"name", std::string("wire")},
                   {"plane", std::string("ground")},
                   {"drawing", DrawingSlot(gc::test::rectangle({-2, -1}, {2, 1}))}});
}

constexpr double kWay = 30 + 5 * kPi + 20;

} // namespace

TEST_CASE(
    "A section drawn anywhere is swept along a line; the line is picked in the stand, and both follow") {
    Roof t(addHook);
    look(*t.hand, t.window.stand(), 1);
    t.begin("swe");
    SentenceBar* bar = t.window.bar();
    REQUIRE(t.draft().text("outline") == "wire");
    REQUIRE(t.draft().references("path").size() == 1); // the drawing before it
    CHECK(sentenceText(t.draft(), bar->withDraft()).find("along hook line from its beginning") !=
          std::string::npos);
    t.choose("does", 0); // as new body
    REQUIRE(t.quiet());
    CHECK(bar->fault().isEmpty());
    // Let go of, and picked anew: a click on one stroke means all that goes on from it.
    SentenceFlow* flow = bar->sentence();
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("path"))).center());
    REQUIRE(Hand::wait([&] { return t.window.stand()->picking() == Picking::Curves; }, 5000));
    const QPointF on = t.at({60, 0, 15});
    t.hand->click(t.window.stand(), on);
    REQUIRE(Hand::wait([&] { return t.draft().references("path").empty(); }, 5000));
    REQUIRE(t.quiet());
    t.hand->click(t.window.stand(), t.at({80, 0, 40}));
    REQUIRE(Hand::wait([&] { return t.draft().references("path").size() == 1; }, 5000));
    CHECK(t.draft().references("path").front().starts_with("chain of stroke"));
    REQUIRE(t.quiet());
    // Turned on its way, too far into the bend, and back.
    t.choose("change", 1); // turning by
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("turn"))).center());
    t.hand->type(QStringLiteral("180"));
    t.hand->press("Return");
    REQUIRE(t.quiet());
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !bar->active(); }, 5000));
    REQUIRE(t.quiet());
    CHECK(t.change() == Approx(8 * kWay).epsilon(1e-5));
    // Unchanged it is exact; and its size follows the drawing.
    Part p = t.window.session()->part();
    p.steps.back().slots["change"] = std::string("unchanged");
    REQUIRE(t.window.session()->commit(p, QStringLiteral("unchanged")));
    REQUIRE(t.quiet());
    CHECK(t.change() == Approx(8 * kWay).epsilon(1e-9));
    p.steps[p.steps.size() - 2].slots["drawing"] = DrawingSlot(gc::test::rectangle({-12, -1}, {12, 1}));
    REQUIRE(t.window.session()->commit(p, QStringLiteral("too large")));
    REQUIRE(t.quiet());
    const StepView& view = t.window.forge()->steps().at(p.steps.back().id);
    CHECK_FALSE(view.ok);
    CHECK(view.error.contains(QStringLiteral("bent to a radius of 10 mm")));
    CHECK(view.place);
}

TEST_CASE("A spring: a helix by its sentence, seen in the stand, and a section swept along it") {
    Roof t(addHook);
    const std::size_t drawings = t.window.forge()->drawings().size();
    t.begin("cur");
    CHECK(t.draft().text("way") == "a helix about");
    REQUIRE(t.quiet());
    REQUIRE(Hand::wait([&] { return t.window.forge()->drawings().size() == drawings + 1; }, 10000));
    SentenceFlow* flow = t.window.bar()->sentence();
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("pitch"))).center());
    t.hand->type(QStringLiteral("1/4 in"));
    t.hand->press("Return");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.window.bar()->active(); }, 5000));
    REQUIRE(t.quiet());
    t.begin("swe");
    CHECK(t.draft().references("path").front().starts_with("curve of step"));
    t.choose("does", 0); // as new body
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.window.bar()->active(); }, 5000));
    REQUIRE(t.quiet());
    CHECK(t.change() == Approx(8 * 3 * std::hypot(2 * kPi * 12, 25.4 / 4)).epsilon(1e-6));
}

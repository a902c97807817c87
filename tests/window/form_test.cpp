/// \file The stage Form: what a sentence ends at is picked in the stand, seen, and kept.

#include "tests/window/roof.hpp"
#include "tests/window/sight.hpp"
#include "tests/window/table_hand.hpp"

#include <cmath>
#include <numbers>

using namespace gc;
using namespace gc::app;
using gc::test::Editing;
using gc::test::Hand;
using gc::test::look;
using gc::test::Roof;

TEST_CASE("An extrude is told in its sentence what to end at, and the face is picked in the stand") {
    Roof t;
    look(*t.hand, t.window.stand(), 6); // from below, where the face is seen
    t.hand->type(QStringLiteral("ext"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }, 5000));
    t.choose("does", 0); // as new body
    t.choose("end", 2);  // short of
    REQUIRE(Hand::wait([&] { return t.window.stand()->picking() == Picking::Faces; }, 5000));
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy(); }, 60000));
    Stand* stand = t.window.stand();
    REQUIRE(Hand::steady([&] { return stand->screenOf({20, 15, 30}); }));
    t.hand->click(stand, stand->screenOf({20, 15, 30}));
    REQUIRE(Hand::wait([&] { return t.window.bar()->draft()->references("face").size() == 1; }, 10000));
    SentenceFlow* flow = t.window.bar()->sentence();
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("gap"))).center());
    t.hand->type(QStringLiteral("2 mm"));
    t.hand->press("Return");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 4; }, 5000));
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy(); }, 60000));
    CHECK(t.change() == Approx(16 * 12 * 28).epsilon(1e-9));
    // To the next wall instead: one choice in the sheet.
    Part p = t.window.session()->part();
    p.steps.back().slots["end"] = std::string("to the next wall");
    REQUIRE(t.window.session()->commit(p, QStringLiteral("next wall")));
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy(); }, 60000));
    CHECK(t.change() == Approx(16 * 12 * 30).epsilon(1e-9));
}

TEST_CASE("Sides lean by a choice and an angle in the sentence, seen while they are typed") {
    Roof t;
    t.hand->type(QStringLiteral("ext"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }, 5000));
    t.choose("does", 0);  // as new body
    t.choose("sides", 1); // leaning inward by
    SentenceFlow* flow = t.window.bar()->sentence();
    REQUIRE(Hand::wait([&] { return !flow->slotRect(QStringLiteral("lean")).isEmpty(); }));
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("lean"))).center());
    t.hand->type(QStringLiteral("45"));
    t.hand->press("Return");
    // At 45° a foot of 16 by 12 closes up at 6 mm: said while the sentence is open.
    REQUIRE(Hand::wait([&] { return t.window.bar()->fault().contains(QStringLiteral("closes up")); }, 60000));
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("lean"))).center());
    t.hand->type(QStringLiteral("10"));
    t.hand->press("Return");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 4; }, 5000));
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy(); }, 60000));
    const double q = std::tan(10 * std::numbers::pi / 180), h = 10;
    CHECK(t.change() ==
          Approx(16 * 12 * h - (16 + 12) * q * h * h + 4 * q * q * h * h * h / 3).epsilon(1e-9));
}

TEST_CASE("An axis is picked in the stand, named, shown, and turned about") {
    Roof t;
    t.hand->type(QStringLiteral("axis"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.stand()->picking() == Picking::Axes; }, 5000));
    Stand* stand = t.window.stand();
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy(); }, 60000));
    REQUIRE(Hand::steady([&] { return stand->screenOf({30, -20, 35}); }));
    t.hand->click(stand, stand->screenOf({30, -20, 35})); // the upright edge in front
    REQUIRE(Hand::wait([&] { return t.window.bar()->draft()->text("line").starts_with("where "); }, 10000));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 4; }, 5000));
    REQUIRE(Hand::wait([&] { return t.window.forge()->axes().size() == 1; }, 60000));
    const AxisView& axis = t.window.forge()->axes().front();
    CHECK(axis.name == QStringLiteral("axis"));
    CHECK(axis.from.x() == Approx(30).margin(1e-4));
    CHECK(axis.to.y() == Approx(-20).margin(1e-4));
    // A copy of the roof, turned about it: the axis is clicked in the stand.
    t.hand->type(QStringLiteral("move"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }, 5000));
    SentenceFlow* flow = t.window.bar()->sentence();
    t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("what"))).center()); // two ways: one click
    REQUIRE(t.window.bar()->draft()->text("what") == "a copy of");
    t.choose("way", 2);  // about
    t.choose("line", 3); // the three of every part, then this one
    REQUIRE(Hand::wait([&] { return t.window.bar()->draft()->text("line") == "axis"; }, 5000));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 5; }, 5000));
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy() && t.window.forge()->meshes().size() == 2; },
                       20000));
    CHECK(nameOfBody(t.window.session()->part(), {t.window.session()->part().steps.back().id, 0}) == "copy");
}

TEST_CASE("Bodies are split and mirrored from their sentences") {
    Roof t;
    t.hand->type(QStringLiteral("split"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }, 5000));
    t.choose("plane", 2); // the side plane, through its middle
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 4; }, 5000));
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy() && t.window.forge()->meshes().size() == 2; },
                       20000));
    t.hand->type(QStringLiteral("mirror"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }, 5000));
    REQUIRE(t.window.bar()->draft()->text("body") == "piece");
    t.choose("what", 2); // in its place: onto the other half
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 5; }, 5000));
    REQUIRE(Hand::wait([&] { return !t.window.forge()->busy(); }, 60000));
    CHECK(t.window.forge()->steps().at(t.window.session()->part().steps.back().id).ok);
    CHECK(t.window.forge()->meshes().size() == 2);
}

TEST_CASE("Several areas are clicked with Shift, and a step begins on all of them") {
    Editing t;
    t.rectangle({10, 5}, {22, 20});
    t.key("Escape");
    t.tool("rectangle");
    t.at({30, 5});
    t.at({50, 20});
    REQUIRE(Hand::wait([&] { return t.strokes() == 8; }));
    t.key("Escape");
    t.key("Escape");
    REQUIRE(t.window.drawingModel()->closedness().regions.size() == 2);
    t.at({16, 12});
    REQUIRE(Hand::wait([&] { return t.table()->areas().size() == 1; }));
    t.hand->click(t.table(), t.table()->toScreen({40, 12}), true);
    REQUIRE(Hand::wait([&] { return t.table()->areas().size() == 2; }));
    t.hand->click(t.table(), t.table()->toScreen({40, 12}), true); // once more lets it go
    REQUIRE(Hand::wait([&] { return t.table()->areas().size() == 1; }));
    t.hand->click(t.table(), t.table()->toScreen({40, 12}), true);
    t.chip("Extrude these 2 areas");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }));
    const auto areas = areasIn(t.window.bar()->draft()->text("area"));
    REQUIRE(areas);
    CHECK(areas->size() == 2);
    t.hand->press("Escape");
}

TEST_CASE(
    "What mends a sentence is offered beside what is wrong with it, for one click or by Alt and Enter") {
    Roof t;
    t.begin("ext");
    SentenceBar* bar = t.window.bar();
    SentenceFlow* flow = bar->sentence();
    const auto length = [&](const char* text) {
        t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("length"))).center());
        t.hand->type(QString::fromLatin1(text));
        t.hand->press("Return");
    };
    REQUIRE(t.draft().text("does") == "adding to");
    length("27 mm"); // ends 3 mm below the slab
    REQUIRE(Hand::wait([&] { return !bar->wayRect().isEmpty(); }, 60000));
    CHECK(bar->fault().contains(QStringLiteral("3 mm short")));
    REQUIRE(Hand::steady([&] { return QPointF(bar->wayRect().topLeft()); }));
    CHECK(bar->wayRect().left() >= bar->messageRect().right());
    t.hand->click(bar, bar->wayRect().center());
    REQUIRE(Hand::wait([&] { return t.draft().text("length") == "30 mm"; }, 5000));
    REQUIRE(Hand::wait([&] { return bar->fault().isEmpty() && !t.window.forge()->busy(); }, 60000));
    CHECK(bar->wayRect().isEmpty());
    // A wall that would stay too thin is told as well, and the same key takes it away.
    t.choose("does", 2); // taking from
    REQUIRE(t.draft().text("does") == "taking from");
    length("39.9 mm");
    REQUIRE(
        Hand::wait([&] { return bar->fault().contains(QStringLiteral("a wall of only 0.1 mm")); }, 60000));
    t.hand->alt("Return");
    REQUIRE(Hand::wait([&] { return t.draft().text("length") == "40 mm"; }, 5000));
    REQUIRE(Hand::wait([&] { return bar->fault().isEmpty(); }, 60000));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !bar->active(); }, 5000));
    REQUIRE(t.quiet());
    CHECK(-t.change() == Approx(16 * 12 * 10).epsilon(1e-9));
}

/// \file What is done in the stand itself: sizes dragged and typed at their handles, things picked one behind
/// the other, in boxes, as areas and bodies, and measured.

#include "app/shell/measuring.hpp"
#include "app/stand/bodies_strip.hpp"
#include "app/stand/measure_strip.hpp"
#include "tests/window/roof.hpp"
#include "tests/window/sight.hpp"

#include <QClipboard>
#include <QLineEdit>
#include <QToolButton>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::look;
using gc::test::Roof;

namespace {

const QString kLengthSlot = QStringLiteral("length");

/// The handle of a slot is there and rests.
QPointF tipOf(Roof& t, const QString& slot) {
    REQUIRE(Hand::wait([&] { return !t.window.stand()->handleTip(slot).isNull(); }, 10000));
    REQUIRE(Hand::steady([&] { return t.window.stand()->handleTip(slot); }));
    return t.window.stand()->handleTip(slot);
}

/// Two blocks behind one another along y, and one aside.
void addBlocks(Part& p) {
    for (const auto& [name, low] : {std::pair{"front block", Vec2{-10, -70}},
                                    {"rear block", Vec2{-10, 50}},
                                    {"aside", Vec2{60, -10}}}) {
        gc::test::add(p, "draw",
                      {{"plane", std::string("ground")},
                       {"name", std::string("foot of ") + name},
                       {"drawing", DrawingSlot(gc::test::rectangle(low, low + Vec2{20, 20}))}});
        gc::test::add(p, "extrude",
                      {{"outline", std::string("foot of ") + name},
                       {"length", std::string("20 mm")},
                       {"does", std::string("as new body")},
                       {"body", std::string(name)}});
    }
}

} // namespace

TEST_CASE(
    "A length is dragged at its arrow, past nothing it goes the other way, and one undo takes it back") {
    Roof t;
    Stand* stand = t.window.stand();
    t.begin("ext");
    t.choose("does", 0); // as new body
    REQUIRE(t.quiet());
    const QPointF tip = tipOf(t, kLengthSlot);
    const QPointF up = t.at({0, 0, 1}) - t.at({0, 0, 0}); // pixels a millimetre
    t.hand->drag(stand, tip, tip + up * 12);
    REQUIRE(t.quiet());
    const auto length = [&] { return *evaluateSlot(t.draft(), "length", t.window.session()->part(), {}); };
    CHECK(std::fabs(length() - 22) < 1.5);
    CHECK(std::fabs(length() - std::round(length())) < 1e-9); // at a round value
    CHECK(t.draft().text("way") == "forward");
    const QPointF high = tipOf(t, kLengthSlot);
    t.hand->drag(stand, high, high - up * 36);
    REQUIRE(t.quiet());
    CHECK(t.draft().text("way") == "backward");
    CHECK(std::fabs(length() - 14) < 2);
    t.hand->press("z", true);
    CHECK(t.draft().text("way") == "forward");
    CHECK(std::fabs(length() - 22) < 1.5);
    t.hand->press("Escape");
}

TEST_CASE("A size is typed at its figure in the stand, with a unit or as an expression") {
    Roof t;
    Stand* stand = t.window.stand();
    t.begin("ext");
    t.choose("does", 0);
    REQUIRE(t.quiet());
    tipOf(t, kLengthSlot);
    t.hand->click(stand, stand->handleFigure(kLengthSlot).center());
    REQUIRE(
        Hand::wait([&] { return stand->findChild<QLineEdit*>(QStringLiteral("handleField")) != nullptr; }));
    t.hand->press("a", true);
    t.hand->type(QStringLiteral("1 in / 2"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.draft().text("length") == "1 in / 2"; }, 5000));
    t.hand->press("Return"); // keeps the sentence
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 4; }, 5000));
    REQUIRE(t.quiet());
    CHECK(t.change() == Approx(16 * 12 * 12.7).epsilon(1e-9));
    // The handle of a step that is chosen in the sheet works as well.
    const int step = t.window.session()->part().steps.back().id;
    t.hand->click(t.window.sheet()->row(step), {8, 8});
    const QPointF tip = tipOf(t, kLengthSlot), up = t.at({0, 0, 1}) - t.at({0, 0, 0});
    t.hand->drag(stand, tip, tip + up * 5);
    REQUIRE(t.quiet());
    const double now = t.change() / (16 * 12);
    CHECK(now > 15);
    CHECK(now < 20.5);
}

TEST_CASE("The end of a length stops at a face under the pointer, and the sentence says so") {
    Roof t;
    Stand* stand = t.window.stand();
    look(*t.hand, t.window.stand(), 1);
    Hand::settle();
    const QPointF free(40, stand->height() / 2.0);
    t.hand->drag(stand, free,
                 free - QPointF(0, 70)); // looks up from below: the arrow and the roof's underside
    t.begin("ext");
    t.choose("does", 0);
    REQUIRE(t.quiet());
    const QPointF tip = tipOf(t, kLengthSlot), up = t.at({0, 0, 1}) - t.at({0, 0, 0});
    // To the underside of the roof, 30 over the ground, beside what grows toward it.
    const QPointF there = t.at({24, -10, 30});
    t.hand->drag(stand, {tip, there - up * 2, there, there});
    REQUIRE(t.quiet());
    CHECK(t.draft().text("end") == "to");
    REQUIRE(t.draft().references("face").size() == 1);
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 4; }, 5000));
    REQUIRE(t.quiet());
    CHECK(t.change() == Approx(16 * 12 * 30).epsilon(1e-9));
}

TEST_CASE("An angle is dragged along its arc") {
    Roof t;
    Stand* stand = t.window.stand();
    t.begin("rev");
    t.choose("about", 1); // cross axis, through the foot's middle plane
    REQUIRE(t.quiet());
    t.hand->press("Escape");
    t.begin("ext");
    t.choose("does", 0);
    t.choose("sides", 1); // leaning inward by
    REQUIRE(t.quiet());
    const QString lean = QStringLiteral("lean");
    const QPointF tip = tipOf(t, lean);
    // Sideways along the arc: toward the inside.
    const QPointF inside = t.at({0, 0, 10});
    const QPointF d = (inside - tip) / std::hypot(inside.x() - tip.x(), inside.y() - tip.y());
    t.hand->drag(stand, tip, tip + d * 40);
    REQUIRE(t.quiet());
    const double now = *evaluateSlot(t.draft(), "lean", t.window.session()->part(), {}) * 180 / M_PI;
    CHECK(now > 6);
    t.hand->press("Escape");
}

TEST_CASE("What would be taken away is shown while the sentence is open, and what cannot be added too") {
    Roof t([](Part& p) { gc::test::add(p, "plane", {{"distance", std::string("50 mm")}}); });
    t.begin("ext");
    t.choose("does", 2); // taking from
    t.choose("end", 5);  // to the far side
    REQUIRE(t.quiet());
    REQUIRE(Hand::wait([&] { return t.window.forge()->aids().takes; }, 5000));
    CHECK_FALSE(t.window.forge()->aids().tool.triangles.empty());
    t.hand->press("r");  // nothing
    t.choose("does", 1); // adding to
    t.choose("end", 0);  // by 10 mm: it stays below the roof
    REQUIRE(t.quiet());
    REQUIRE(Hand::wait([&] { return !t.window.bar()->fault().isEmpty(); }, 5000));
    CHECK_FALSE(t.window.forge()->aids().takes);
    CHECK_FALSE(t.window.forge()->aids().tool.triangles.empty());
    t.hand->press("Escape");
    REQUIRE(Hand::wait([&] { return t.window.forge()->aids().tool.triangles.empty(); }, 5000));
}

TEST_CASE("Areas are picked by clicking inside them in the stand") {
    Roof t([](Part& p) {
        Drawing d;
        d.draw(StrokeKind::Circle, {{-15, -28}}, {6});
        d.draw(StrokeKind::Circle, {{15, -28}}, {6});
        gc::test::add(
            p, "draw",
            {{"plane", std::string("ground")}, {"name", std::string("feet")}, {"drawing", DrawingSlot(d)}});
    });
    Stand* stand = t.window.stand();
    look(*t.hand, t.window.stand(), 5); // from above
    t.begin("ext");
    t.choose("does", 0);
    REQUIRE(Hand::wait([&] { return stand->picking() == Picking::Areas; }, 5000));
    REQUIRE(t.quiet());
    t.hand->click(stand, t.at({15, -28, 0}));
    REQUIRE(Hand::wait([&] { return areasIn(t.draft().text("area"))->size() == 1; }, 5000));
    t.hand->click(stand, t.at({-15, -28, 0}));
    REQUIRE(Hand::wait([&] { return areasIn(t.draft().text("area"))->size() == 2; }, 5000));
    t.hand->click(stand, t.at({15, -28, 0})); // lets go
    REQUIRE(Hand::wait([&] { return areasIn(t.draft().text("area"))->size() == 1; }, 5000));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.size() == 5; }, 5000));
    REQUIRE(t.quiet());
    CHECK(t.change() == Approx(M_PI * 36 * 10).epsilon(1e-9));
}

TEST_CASE("A body is clicked for its slot; what lies behind comes with N, or from a list") {
    Roof t(addBlocks);
    Stand* stand = t.window.stand();
    look(*t.hand, t.window.stand(), 1); // the two blocks stand behind one another
    t.begin("move");
    SentenceFlow* flow = t.window.bar()->sentence();
    const auto pickBody = [&] {
        t.hand->click(flow, QRectF(flow->slotRect(QStringLiteral("body"))).center());
        REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() != nullptr; }, 5000));
        t.hand->press("Up"); // the last entry: pick in the stand
        t.hand->press("Return");
        REQUIRE(Hand::wait([&] { return stand->picking() == Picking::Bodies; }, 5000));
        REQUIRE(t.quiet());
    };
    pickBody();
    const QPointF both = t.at({2, -60, 3});
    t.hand->click(stand, both);
    REQUIRE(Hand::wait([&] { return t.draft().text("body") == "front block"; }, 5000));
    pickBody();
    REQUIRE(t.quiet());
    t.hand->moveTo(stand, both);
    t.hand->press("n");
    t.hand->click(stand, both);
    REQUIRE(Hand::wait([&] { return t.draft().text("body") == "rear block"; }, 5000));
    pickBody();
    t.hand->rightClick(stand, both);
    REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() != nullptr; }, 5000));
    auto* list = qobject_cast<QMenu*>(QApplication::activePopupWidget());
    REQUIRE(list);
    REQUIRE(list->actions().size() == 2);
    CHECK(list->actions()[0]->text() == "front block");
    CHECK(list->actions()[1]->text() == "rear block");
    t.hand->press("Down");
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return t.draft().text("body") == "front block"; }, 5000));
    t.hand->press("Escape");
}

TEST_CASE("Edges are taken by a box, and each is let go of by its cross") {
    Roof t;
    Stand* stand = t.window.stand();
    look(*t.hand, t.window.stand(), 1);
    t.window.setStage(QStringLiteral("Finish"));
    t.begin("fil");
    REQUIRE(Hand::wait([&] { return stand->picking() == Picking::Edges; }, 5000));
    REQUIRE(t.quiet());
    // The left end of the roof as it is seen from the front: its upright edge, and no other as a whole.
    const QPointF low = t.at({-30, -20, 30}), high = t.at({-30, -20, 40});
    t.hand->drag(stand, {high + QPointF(-14, -14), low + QPointF(14, 14)}, true);
    REQUIRE(Hand::wait([&] { return t.draft().references("edges").size() == 1; }, 10000));
    const QPointF right = t.at({30, -20, 30}), top = t.at({30, -20, 40});
    t.hand->drag(stand, {top + QPointF(14, -14), right + QPointF(-14, 14)}, true);
    REQUIRE(Hand::wait([&] { return t.draft().references("edges").size() == 2; }, 10000));
    const std::string second = t.draft().references("edges")[1];
    SentenceFlow* flow = t.window.bar()->sentence();
    const auto cross = [&] { return flow->crossRect(QStringLiteral("edges"), 0); };
    REQUIRE(Hand::wait([&] { return !cross().isEmpty() && t.quiet(); }, 5000));
    REQUIRE(Hand::steady([&] { return flow->mapTo(&t.window, QRectF(cross()).center()); }));
    t.hand->click(flow, QRectF(cross()).center());
    REQUIRE(Hand::wait([&] { return t.draft().references("edges").size() == 1; }, 5000));
    CHECK(t.draft().references("edges")[0] == second);
    t.hand->press("Escape");
}

TEST_CASE("Alt+R flips between adding and taking") {
    Roof t;
    t.begin("ext");
    CHECK(t.draft().text("does") == "adding to");
    t.hand->alt("r");
    CHECK(t.draft().text("does") == "taking from");
    t.hand->alt("r");
    CHECK(t.draft().text("does") == "adding to");
    t.hand->press("Escape");
}

TEST_CASE("Two faces are measured in the stand; the reading is copied, kept as a target, and follows") {
    Roof t;
    Stand* stand = t.window.stand();
    t.hand->type(QStringLiteral("meas"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return stand->picking() == Picking::Anything; }, 5000));
    MeasureStrip* strip = t.window.measuring()->strip();
    REQUIRE(strip->isVisible());
    REQUIRE(t.quiet());
    const auto reading = [&](const char* key) -> QString {
        for (const ReadingView& r : strip->readings())
            if (r.key == QLatin1String(key)) return r.text;
        return {};
    };
    t.hand->click(stand, t.at({10, 5, 40})); // the top
    REQUIRE(Hand::wait([&] { return reading("area") == QStringLiteral("2400 mm²"); }, 10000));
    look(*t.hand, t.window.stand(), 6); // from below
    t.hand->click(stand, t.at({18, 12, 30}));
    REQUIRE(Hand::wait([&] { return reading("distance") == QStringLiteral("10 mm"); }, 10000));
    CHECK(reading("angle") == QStringLiteral("0°"));
    t.hand->click(strip->copyButton(QStringLiteral("distance")), {10, 8});
    CHECK(Hand::wait([] { return QGuiApplication::clipboard()->text() == QStringLiteral("10 mm"); }, 5000));
    t.hand->click(strip->keepButton(QStringLiteral("distance")), {10, 8});
    REQUIRE(Hand::wait([&] { return strip->allowedField() != nullptr; }, 5000));
    t.hand->press("a", true);
    t.hand->type(QStringLiteral(">= 8 mm"));
    t.hand->press("Return");
    const auto targets = [&] { return t.window.session()->part().brief.targets; };
    REQUIRE(Hand::wait([&] { return !targets().empty() && targets().back().measure == "distance"; }, 5000));
    CHECK(targets().back().of.size() == 2);
    REQUIRE(t.quiet());
    // Made thinner, the reading follows and the target fails.
    Part p = t.window.session()->part();
    Drawing d = p.steps[0].drawing("drawing");
    p.steps[0].slots["drawing"] = DrawingSlot(gc::test::rectangle({-30, 33}, {30, 40}));
    REQUIRE(t.window.session()->commit(p, QStringLiteral("thinner")));
    REQUIRE(Hand::wait([&] { return reading("distance") == QStringLiteral("7 mm"); }, 60000));
    REQUIRE(Hand::wait(
        [&] {
            return !t.window.forge()->targets().empty() &&
                   t.window.forge()->targets().back().verdict == QStringLiteral("fails");
        },
        20000));
    t.hand->press("Escape");
    CHECK_FALSE(strip->isVisible());
}

TEST_CASE("Drawn lines and whole bodies are measured, too") {
    Roof t(addBlocks);
    Stand* stand = t.window.stand();
    t.hand->type(QStringLiteral("meas"));
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return stand->picking() == Picking::Anything; }, 5000));
    MeasureStrip* strip = t.window.measuring()->strip();
    REQUIRE(t.quiet());
    const auto reading = [&](const char* key) -> double {
        for (const ReadingView& r : strip->readings())
            if (r.key == QLatin1String(key)) return r.value;
        return -1;
    };
    // Two bodies by their names beside the stand: neither is hidden by that.
    BodiesStrip* bodies = t.window.findChild<BodiesStrip*>();
    REQUIRE(bodies);
    const auto hidden = [&](ThingId body) { return lookOf(t.window.session()->part(), body).hidden; };
    std::vector<ThingId> ids;
    for (const auto& [id, mesh] : t.window.forge()->meshes()) ids.push_back(id);
    REQUIRE(ids.size() >= 2);
    t.hand->click(bodies->name(ids[0]), {10, 8});
    REQUIRE(Hand::wait([&] { return reading("volume") > 0; }, 10000));
    CHECK_FALSE(hidden(ids[0]));
    t.hand->click(bodies->name(ids[1]), {10, 8});
    REQUIRE(Hand::wait([&] { return reading("least distance") >= 0; }, 10000));
    CHECK_FALSE(hidden(ids[1]));
    t.hand->click(bodies->name(ids[1]), {10, 8}); // lets go
    REQUIRE(Hand::wait([&] { return reading("volume") > 0; }, 10000));
    t.hand->click(bodies->name(ids[0]), {10, 8});
    REQUIRE(Hand::wait([&] { return strip->readings().empty(); }, 10000));
    // A drawn line in front of the part, from below.
    look(*t.hand, stand, 6);
    REQUIRE(t.quiet());
    t.hand->click(stand, t.at({8, 2, 0}));
    REQUIRE(Hand::wait([&] { return reading("length") > 0; }, 10000));
    CHECK(reading("length") == Approx(12));
    t.hand->click(stand, t.at({-8, 2, 0}));
    REQUIRE(Hand::wait([&] { return reading("distance") > 0; }, 10000));
    CHECK(reading("distance") == Approx(16));
    t.hand->press("Escape");
    CHECK_FALSE(strip->isVisible());
    t.hand->click(bodies->name(ids[0]), {10, 8});
    CHECK(Hand::wait([&] { return hidden(ids[0]); }, 5000));
}

TEST_CASE("A step that is pointed at shows what it made; dragged before another it says what breaks") {
    Roof t(addBlocks);
    const auto& steps = t.window.session()->part().steps;
    const int roof = steps[1].id, drawn = steps[0].id;
    t.hand->moveTo(t.window.sheet()->row(roof), {60, 8});
    REQUIRE(Hand::wait([&] { return t.window.forge()->halo().size() == 6; }, 10000));
    for (const BodyItem& item : t.window.forge()->halo()) CHECK(item.body == ThingId{roof, 0});
    t.hand->moveTo(t.window.stand(), {20, 200});
    REQUIRE(Hand::wait([&] { return t.window.forge()->halo().empty(); }, 10000));
    // The roof before its own drawing.
    StepRow* row = t.window.sheet()->row(roof);
    const QPointF above = row->mapFromGlobal(t.window.sheet()->row(drawn)->mapToGlobal(QPoint(12, 4)));
    t.hand->drag(row, {QPointF(12, 10), above}, false, [&] {
        REQUIRE(Hand::wait([&] { return t.window.bar()->message().contains(QStringLiteral("would fail")); },
                           20000));
    });
    CHECK(t.window.session()->part().steps[0].id == roof);
    t.hand->press("z", true);
    CHECK(t.window.session()->part().steps[0].id == drawn);
}

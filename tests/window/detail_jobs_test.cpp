/// \file Whole jobs with what stands on walls, by hand in the window: a rake of one piece, a coupling of two
/// whose threads fit, a grip with letters and a field for a label.

#include "app/stand/bodies_strip.hpp"
#include "core/base/angles.hpp"
#include "tests/support/letters.hpp"
#include "tests/window/finish_hand.hpp"

#include <QToolButton>

#include <cmath>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

void extruded(Part& p, const Drawing& d, const char* name, Slots more) {
    test::add(p, "draw",
              {{"plane", std::string("ground")},
               {"name", std::string("foot of ") + name},
               {"drawing", DrawingSlot(d)}});
    more["body"] = std::string(name);
    more["outline"] = std::string("foot of ") + name;
    test::add(p, "extrude", more);
}
const TargetView* gauge(FinishHand& t, const char* measure) {
    for (const TargetView& v : t.window.forge()->targets())
        if (v.measure == QLatin1String(measure)) return &v;
    return nullptr;
}
/// What a gauge says once it is measured.
void says(FinishHand& t, const char* measure, const char* verdict) {
    const bool said = Hand::wait(
        [&] {
            const TargetView* v = gauge(t, measure);
            return v && v->verdict == QLatin1String(verdict);
        },
        60000);
    const TargetView* v = gauge(t, measure);
    INFO(measure << ": " << (v ? v->verdict.toStdString() : std::string("not asked")));
    REQUIRE(said);
}

} // namespace

TEST_CASE("Job: a rake's tine, a body of its own, rounded, repeated with even gaps and joined by one step") {
    FinishBench t([](Part& p) {
        extruded(p, rectangle({-92, -8}, {92, 8}), "head", {{"length", std::string("12 mm")}});
        extruded(p, rectangle({-92, -4}, {-84, 4}), "tine",
                 {{"length", std::string("50 mm")},
                  {"way", std::string("backward")},
                  {"sides", std::string("leaning inward by")},
                  {"lean", std::string("2.5°")},
                  {"does", std::string("as new body")}});
        p.brief.targets.push_back(Target{"pieces", "1"});
    });
    const int tine = t.window.session()->part().steps.back().id;
    const double its = *t.window.forge()->steps().at(tine).volumeChange;
    says(t, "pieces", "fails");
    look(*t.hand, t.window.stand(), 6);
    t.begin("fil");
    const auto half = static_cast<float>(4 - 50 * std::tan(2.5 * kPi / 180));
    t.pick("edges", {-88, -half, -50}, 1);
    t.pick("edges", {-88, half, -50}, 2);
    t.figure("radius", "1.2 mm");
    t.keep();
    const double rounded = its + t.change();

    t.begin("rep");
    other(t, "subject", "the body");
    if (t.draft().text("body") != "tine") chosen(t, "body", 1, "tine");
    other(t, "becomes", "as bodies of their own");
    chosen(t, "spacing", 1, "over");
    t.figure("span", "176 mm");
    t.figure("count", "9");
    t.keep();
    CHECK(t.change() == Approx(8 * rounded).epsilon(1e-6));
    REQUIRE(Hand::wait([&] { return t.window.forge()->meshes().size() == 10; }, 10000));

    t.begin("comb");
    CHECK(t.draft().text("body") == "head");
    CHECK(t.draft().text("tool").empty());
    t.keep();
    CHECK(t.said() == "Combine head, joined with what it touches, using it up.");
    REQUIRE(Hand::wait([&] { return t.window.forge()->meshes().size() == 1; }, 10000));
    says(t, "pieces", "holds");
}

TEST_CASE(
    "Job: a coupling: a thread outside, the same cut in a cap, left-handed by a word; the gap is measured") {
    FinishBench t([](Part& p) {
        extruded(p, circleLine(12), "spigot", {{"length", std::string("20 mm")}});
        Drawing ring = circleLine(17);
        ring.draw(StrokeKind::Circle, {{0, 0}}, {12.3});
        extruded(p, ring, "cap",
                 {{"begin", std::string("a level at")},
                  {"level", std::string("2 mm")},
                  {"length", std::string("18 mm")},
                  {"does", std::string("as new body")}});
        p.brief.targets.push_back(Target{"least distance", "≥ 0.29 mm", {}, {"body: spigot", "body: cap"}});
    });
    BodiesStrip* strip = t.window.bodies();
    const auto toggle = [&](int step, const QString& then) {
        const ThingId body{step, 0};
        REQUIRE(Hand::wait([&] { return strip->isVisible() && strip->name(body); }, 5000));
        t.hand->click(strip->name(body), QRectF(strip->name(body)->rect()).center());
        REQUIRE(Hand::wait([&] { return strip->name(body)->text() == then; }, 5000));
    };
    const std::vector<Step>& steps = t.window.session()->part().steps;
    const int spigot = steps[1].id, cap = steps[3].id;
    toggle(cap, QStringLiteral("cap, hidden"));
    look(*t.hand, t.window.stand(), 1);
    const auto thread = [&](QVector3D wall, const char* from) {
        t.begin("thr");
        t.pick("wall", wall, 1);
        t.figure("pitch", "4 mm");
        t.figure("turns", "2.4");
        t.figure("from", from);
        t.hand->alt("r");
        REQUIRE(Hand::wait([&] { return t.draft().text("hand") == "left-handed"; }, 5000));
    };
    thread({0, -12, 10}, "5 mm");
    t.figure("run-out", "60");
    t.keep();
    CHECK(t.change() > 100);
    says(t, "least distance", "fails"); // it stands in the cap's wall

    toggle(cap, QStringLiteral("cap"));
    toggle(spigot, QStringLiteral("spigot, hidden"));
    look(*t.hand, t.window.stand(), 5);
    t.hand->moveTo(t.window.stand(), t.at({0, 0, 20}));
    t.hand->press("7");
    thread({0, 12.3f, 18}, "3 mm");
    other(t, "does", "cut");
    other(t, "fit", "wider");
    t.figure("clearance", "0.3 mm");
    t.figure("run-out", "60");
    t.keep();
    CHECK(t.change() < -100);
    toggle(spigot, QStringLiteral("spigot"));
    says(t, "least distance", "holds");
    CHECK(*gauge(t, "least distance")->value == Approx(0.3).margin(2e-3));
}

TEST_CASE("Job: a grip with a rounded field for a label, and letters on its wall that are told apart") {
    FinishBench t([](Part& p) {
        extruded(p, ellipseLine(24, 16), "grip",
                 {{"length", std::string("60 mm")},
                  {"sides", std::string("leaning inward by")},
                  {"lean", std::string("2°")}});
        test::add(p, "plane",
                  {{"name", std::string("before")},
                   {"from", std::string("front")},
                   {"distance", std::string("40 mm")}});
        test::add(p, "draw",
                  {{"name", std::string("name")},
                   {"plane", std::string("before")},
                   {"drawing", DrawingSlot(letters(12, -27, 44))}});
        test::add(p, "draw",
                  {{"name", std::string("field")},
                   {"plane", std::string("before")},
                   {"drawing", DrawingSlot(rectangle({-12, 12}, {12, 30}))}});
    });
    look(*t.hand, t.window.stand(), 1);
    t.begin("emb");
    CHECK(t.draft().text("outline") == "field");
    t.pick("wall", {0, -15, 36}, 1);
    other(t, "way", "back");
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("does") == "sunk"; }, 5000));
    t.figure("height", "1.5 mm");
    chosen(t, "rims", 1, "wall");
    t.figure("rim round", "0.4 mm");
    t.keep();
    CHECK(t.last().ok);
    CHECK(t.last().notes.isEmpty());
    CHECK(t.change() == Approx(-24 * 18 * 1.5).epsilon(0.06)); // and more for the bend and the rounds

    t.begin("emb");
    chosen(t, "outline", 1, "name");
    t.pick("wall", {0, -15, 36}, 1);
    other(t, "way", "back");
    other(t, "lay", "wrapped");
    t.figure("height", "0.8 mm");
    other(t, "becomes", "as bodies of their own");
    t.keep();
    CHECK(t.change() == Approx(0.8 * inkOf(letters(12, -27, 44))).epsilon(0.05));
    REQUIRE(Hand::wait([&] { return t.window.forge()->meshes().size() == 13; }, 10000));
    // Each has a row of its own, to be coloured or hidden.
    const int step = t.window.session()->part().steps.back().id;
    BodiesStrip* strip = t.window.bodies();
    for (int k = 0; k < 12; ++k) REQUIRE(strip->name(ThingId{step, k}));
    CHECK(strip->name(ThingId{step, 0})->text() == "letters");
    // All in the colour of one of them, by one click more.
    QMenu* menu = nullptr;
    t.hand->click(strip->swatch(ThingId{step, 1}), QRectF(strip->swatch(ThingId{step, 1})->rect()).center());
    REQUIRE(
        Hand::wait([&] { return (menu = strip->findChild<QMenu*>("bodyChoices")) && menu->isVisible(); }));
    QAction* like = nullptr;
    for (QAction* a : menu->actions())
        if (a->text() == QStringLiteral("All 12 of this step like it")) like = a;
    REQUIRE(like);
    t.hand->click(menu, QRectF(menu->actionGeometry(like)).center());
    const auto colour = [&](int k) { return colourOf(t.window.session()->part(), ThingId{step, k}); };
    REQUIRE(Hand::wait([&] { return colour(0) == colour(1); }, 5000));
    for (int k = 2; k < 12; ++k) CHECK(colour(k) == colour(1));
    t.hand->click(strip->name(ThingId{step, 3}), QRectF(strip->name(ThingId{step, 3})->rect()).center());
    REQUIRE(Hand::wait(
        [&] {
            return strip->name(ThingId{step, 3})->text().endsWith(QStringLiteral(", hidden"));
        },
        5000));
}

/// \file The stage Form: a solid through drawn sections.

#include "core/base/angles.hpp"
#include "tests/support/sections.hpp"
#include "tests/window/roof.hpp"
#include "tests/window/sight.hpp"

#include <cmath>

using namespace gc;
using namespace gc::app;
using gc::test::Hand;
using gc::test::look;
using gc::test::Roof;

namespace {

void addLevel(Part& p, const Drawing& d, const char* name, double level) {
    const std::string plane = std::string("level of ") + name;
    gc::test::add(p, "plane",
                  {{"name", plane}, {"from", std::string("ground")}, {"distance", gc::test::inMm(level)}});
    gc::test::add(p, "draw", {{"name", std::string(name)}, {"plane", plane}, {"drawing", DrawingSlot(d)}});
}

/// Beside the slab, over each other: a square, a diamond whose corners stand over the middles of its sides, a
/// smaller square.
void addStand(Part& p) {
    p.steps.pop_back(); // the foot
    addLevel(p, gc::test::regularLine(4, 20, kPi / 4, {70, 0}), "low", 0);
    addLevel(p, gc::test::regularLine(4, 12, 0, {70, 0}), "waist", 25);
    addLevel(p, gc::test::regularLine(4, 16, kPi / 4, {70, 0}), "high", 50);
}

/// Of a square and a diamond over it, straight from one to the other.
double turnedFrustum(double r, double s, double height) {
    // The section half way: the mean of corners that are 45 degrees apart.
    const double middle = 0.5 * std::sqrt(r * r + s * s + 2 * r * s * std::cos(kPi / 4));
    return height / 6 * (2 * r * r + 8 * middle * middle + 2 * s * s);
}

} // namespace

TEST_CASE("A plant stand: three sections by themselves, and a thread pulled to another corner") {
    Roof t(addStand);
    t.begin("lof");
    CHECK(t.draft().references("sections").size() == 3); // the drawings that nothing was made of yet
    CHECK(sentenceText(t.draft(), t.window.bar()->withDraft()).find("Loft through low, waist and high") == 0);
    t.choose("does", 0); // as new body
    SentenceFlow* flow = t.window.bar()->sentence();
    const auto way = [&] { return QRectF(flow->slotRect(QStringLiteral("way"))).center(); };
    REQUIRE(Hand::steady(way));
    t.hand->click(flow, way()); // of two, the other: straight from one to the next
    REQUIRE(Hand::wait([&] { return t.draft().text("way") == "straight"; }, 5000));
    REQUIRE(t.quiet());
    CHECK(t.window.bar()->fault().isEmpty());
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.window.bar()->active(); }, 5000));
    REQUIRE(t.quiet());
    const double all = turnedFrustum(20, 12, 25) + turnedFrustum(12, 16, 25);
    CHECK(t.change() == Approx(all).epsilon(1e-6));

    // Chosen in the sheet, its threads are there, four between each two sections.
    Stand* stand = t.window.stand();
    const int step = t.window.session()->part().steps.back().id;
    t.window.sheet()->choose(step);
    REQUIRE(Hand::wait([&] { return stand->threads().size() == 8; }, 10000));
    look(*t.hand, stand, 1); // from before
    REQUIRE(Hand::steady([&] { return stand->threadGrip(0, true); }));
    // The end of one that is seen alone goes to the next corner.
    const ThreadView thread = stand->threads()[0];
    int other = -1;
    for (std::size_t k = 0; k < thread.ends.size(); ++k)
        if (const float d = thread.ends[k].at.distanceToPoint(thread.from);
            (thread.ends[k].at - thread.to).length() > 1 &&
            std::fabs(d - thread.to.distanceToPoint(thread.from)) < 0.01f)
            other = static_cast<int>(k);
    REQUIRE(other >= 0); // as near as the one it goes to
    t.window.sheet()->choose(step);
    t.hand->drag(stand, stand->threadGrip(0, true),
                 stand->screenOf(thread.ends[static_cast<std::size_t>(other)].at));
    REQUIRE(Hand::wait(
        [&] {
            return t.window.session()->part().steps.back().text("matching") == "as its threads were pulled";
        },
        5000));
    REQUIRE(t.quiet());
    CHECK(t.change() == Approx(all).epsilon(1e-6)); // the mirror image below
    REQUIRE(Hand::wait([&] { return stand->threads().size() == 8; }, 10000));
    const auto pulled = std::count_if(stand->threads().begin(), stand->threads().end(),
                                      [](const ThreadView& v) { return v.pulled; });
    CHECK(pulled == 1);
    // One step back is where it was found.
    t.hand->press("z", true);
    REQUIRE(Hand::wait(
        [&] { return t.window.session()->part().steps.back().text("matching") == "with least twist"; },
        5000));
}

TEST_CASE("A loft's sections are picked in order: a drawing, another, and the rim of a face") {
    Roof t([](Part& p) {
        p.steps.pop_back();
        addLevel(p, gc::test::circleLine(6), "ring", 60);
        addLevel(p, gc::test::circleLine(10), "bowl", 80);
        gc::test::add(p, "extrude",
                      {{"outline", std::string("bowl")},
                       {"length", std::string("2 mm")},
                       {"does", std::string("as new body")},
                       {"body", std::string("used")}});
    });
    t.begin("lof");
    CHECK(t.draft().references("sections").empty()); // one alone is no loft
    REQUIRE(Hand::wait([&] { return t.window.stand()->picking() == Picking::Sections; }, 5000));
    // The slab's top, then the ring over it.
    t.hand->click(t.window.stand(), t.at({-20, -10, 40}));
    REQUIRE(Hand::wait([&] { return t.draft().references("sections").size() == 1; }, 10000));
    CHECK(t.draft().references("sections").front().starts_with("rim of "));
    REQUIRE(t.quiet());
    CHECK(t.window.bar()->fault().contains(QStringLiteral("pick the next")));
    t.hand->click(t.window.stand(), t.at({6, 0, 60}));
    REQUIRE(Hand::wait([&] { return t.draft().references("sections").size() == 2; }, 10000));
    CHECK(t.draft().references("sections").back().starts_with("chain of stroke"));
    REQUIRE(t.quiet());
    CHECK(t.window.bar()->fault().isEmpty());
    t.hand->press("Return");
    REQUIRE(Hand::wait([&] { return !t.window.bar()->active(); }, 5000));
    REQUIRE(t.quiet());
    // Between the slab's 60 by 40 and a round of 6 on a height of 20.
    CHECK(t.change() > 20 * kPi * 36);
    CHECK(t.change() < 20 * 60 * 40);
}

TEST_CASE("A loft that would run through itself is refused while a thread is pulled, with the place") {
    Roof t([](Part& p) {
        p.steps.pop_back();
        addLevel(p, gc::test::regularLine(4, 20, 0, {70, 0}), "low", 0);
        addLevel(p, gc::test::regularLine(4, 16, 0, {70, 0}), "high", 40);
        const auto& a = p.steps[p.steps.size() - 3].drawing("drawing").strokes;
        const auto& b = p.steps.back().drawing("drawing").strokes;
        gc::test::add(p, "loft",
                      {{"sections", References{"chain of stroke " + std::to_string(a[0].id) + " of step " +
                                                   std::to_string(p.steps[p.steps.size() - 3].id),
                                               "chain of stroke " + std::to_string(b[0].id) + " of step " +
                                                   std::to_string(p.steps.back().id)}},
                       {"does", std::string("as new body")},
                       {"body", std::string("tower")}});
    });
    Stand* stand = t.window.stand();
    const int step = t.window.session()->part().steps.back().id;
    t.window.sheet()->choose(step);
    REQUIRE(Hand::wait([&] { return stand->threads().size() == 4; }, 10000));
    REQUIRE(Hand::steady([&] { return stand->threadGrip(0, true); }));
    const ThreadView thread = stand->threads()[0];
    std::size_t far = 0;
    for (std::size_t k = 0; k < thread.ends.size(); ++k)
        if ((thread.ends[k].at - thread.to).length() > (thread.ends[far].at - thread.to).length()) far = k;
    t.hand->drag(stand, stand->threadGrip(0, true), stand->screenOf(thread.ends[far].at));
    REQUIRE(t.quiet());
    REQUIRE(Hand::wait([&] { return !t.window.forge()->steps().at(step).ok; }, 10000));
    const StepView& view = t.window.forge()->steps().at(step);
    INFO(view.error.toStdString());
    CHECK(view.error.contains(QStringLiteral("run through itself")));
    CHECK(view.place);
    // The threads are still there to be pulled back.
    CHECK(Hand::wait([&] { return stand->threads().size() == 4; }, 10000));
}

TEST_CASE("A guide that misses a section by a little is held there by a click in the sheet") {
    Roof t([](Part& p) {
        p.steps.pop_back();
        References sections{gc::test::addSection(p, gc::test::circleLine(9, {70, 0}), 0),
                            gc::test::addSection(p, gc::test::circleLine(6, {70, 0}), 30)};
        Drawing guide; // 0.4 beside the upper one
        guide.draw(StrokeKind::Poles, {{79, 0}, {82, 10}, {80, 20}, {76.4, 30}});
        const std::string line = gc::test::addDrawing(p, guide, "front");
        gc::test::add(p, "loft",
                      {{"sections", sections},
                       {"led", std::string("guided by")},
                       {"guides", References{line}},
                       {"does", std::string("as new body")},
                       {"body", std::string("vase")}});
    });
    const int step = t.window.session()->part().steps.back().id;
    REQUIRE(t.quiet());
    REQUIRE(Hand::wait([&] { return !t.window.forge()->steps().at(step).ok; }, 10000));
    const StepView& view = t.window.forge()->steps().at(step);
    CHECK(view.error.contains(QStringLiteral("misses section 2 by 0.4 mm")));
    REQUIRE(view.remedies.size() == 1);
    CHECK(view.remedies.front().sentence == QStringLiteral("Meet section 2 here"));
    t.window.sheet()->choose(step);
    StepRow* row = t.window.sheet()->row(step);
    REQUIRE(row);
    REQUIRE(Hand::wait([&] { return !row->remedyRect(0).isEmpty(); }, 5000));
    REQUIRE(Hand::steady([&] { return row->mapTo(&t.window, QPointF(row->remedyRect(0).center())); }));
    t.hand->click(row, QPointF(row->remedyRect(0).center()));
    REQUIRE(Hand::wait([&] { return t.window.forge()->steps().at(step).ok; }, 60000));
    REQUIRE(t.quiet());
    CHECK(t.change() > 30 * kPi * 36);
    // What was wrong is no longer marked, and one step back it is as it was.
    t.hand->press("z", true);
    CHECK(Hand::wait([&] { return !t.window.forge()->steps().at(step).ok; }, 60000));
}

TEST_CASE("How strongly a loft leaves its section is pulled at an arrow, or typed there") {
    Roof t([](Part& p) {
        p.steps.pop_back();
        const References sections{gc::test::addSection(p, gc::test::circleLine(9, {70, 0}), 0),
                                  gc::test::addSection(p, gc::test::circleLine(16, {70, 0}), 40)};
        gc::test::add(p, "loft",
                      {{"sections", sections},
                       {"leave", std::string("squarely")},
                       {"does", std::string("as new body")},
                       {"body", std::string("cup")}});
    });
    Stand* stand = t.window.stand();
    const QString slot = QStringLiteral("leave strength");
    t.window.sheet()->choose(t.window.session()->part().steps.back().id);
    REQUIRE(Hand::wait([&] { return !stand->handleTip(slot).isNull(); }, 10000));
    REQUIRE(Hand::steady([&] { return stand->handleTip(slot); }));
    const auto strength = [&] {
        return std::atof(t.window.session()->part().steps.back().text("leave strength").c_str());
    };
    REQUIRE(strength() == 1);
    // A third of the way to the next section: pulled as far again, it is twice as strong.
    const QPointF tip = stand->handleTip(slot);
    const double far = std::hypot(40, 16 - 9) / 3;
    const QPointF up = stand->screenOf({70, 0, float(far)}) - stand->screenOf({70, 0, 0});
    t.hand->drag(stand, tip.toPoint(), (tip + up).toPoint());
    REQUIRE(Hand::wait([&] { return strength() > 1; }, 5000));
    CHECK(std::fabs(strength() - 2) < 0.15);
    REQUIRE(t.quiet());
    REQUIRE(Hand::steady([&] { return stand->handleTip(slot); }));
    t.hand->click(stand, stand->handleFigure(slot).center().toPoint());
    t.hand->type("0.5");
    t.hand->press("Return");
    CHECK(Hand::wait([&] { return strength() == 0.5; }, 5000));
}

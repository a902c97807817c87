/// \file Whole jobs of the stage Form with sections along paths and through each other, by hand: what was
/// drawn is there, everything else is said in sentences and picked in the stand.

#include "core/base/angles.hpp"
#include "tests/support/sections.hpp"
#include "tests/window/finish_hand.hpp"
#include "tests/window/sight.hpp"

#include <cmath>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

void drawn(Part& p, const char* name, const char* plane, const Drawing& d) {
    test::add(p, "draw",
              {{"name", std::string(name)}, {"plane", std::string(plane)}, {"drawing", DrawingSlot(d)}});
}

Drawing polesLine(const std::vector<Vec2>& at) {
    Drawing d;
    d.draw(StrokeKind::Poles, at);
    return d;
}

/// On drawings, in the stage Form.
struct FreeForm : FinishBench {
    explicit FreeForm(const std::function<void(Part&)>& steps) : FinishBench(steps) {
        window.setStage(QStringLiteral("Form"));
    }
    /// The entry with these words, of the list that a slot opens.
    void chooseWords(const char* slot, const char* words) {
        click(slot);
        REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() != nullptr; }, 5000));
        const auto* list = qobject_cast<QMenu*>(QApplication::activePopupWidget());
        REQUIRE(list);
        bool there = false;
        for (const QAction* a : list->actions()) {
            if (a->isSeparator()) continue;
            hand->press("Down");
            if ((there = a->text() == QLatin1String(words))) break;
        }
        INFO(words);
        REQUIRE(there);
        hand->press("Return");
        REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() == nullptr; }, 5000));
        REQUIRE(quiet());
    }
    std::size_t notes() { return last().notes.size(); }
};

/// Half of a cup's inside, a handle's line from the wall's surface to a place near its inside, a round
/// section.
void cupLines(Part& p) {
    Drawing half;
    half.draw(StrokeKind::Line, {{0, 0}, {30, 0}});
    half.draw(StrokeKind::Line, {{30, 0}, {38, 80}});
    drawn(p, "cup line", "front", half);
    drawn(p, "handle line", "front",
          polesLine({{35, 20}, {48, 16}, {66, 26}, {70, 46}, {58, 66}, {36.8, 63}}));
    drawn(p, "grip", "side", circleLine(4.5));
}

void bottleLines(Part& p) {
    test::add(p, "outline",
              {{"name", std::string("bottle line")},
               {"stations", Stations{{"0", "44", false, ""},
                                     {"25", "56", false, ""},
                                     {"50", "40", false, ""},
                                     {"70", "30", false, ""}}}});
    test::add(p, "plane",
              {{"name", std::string("before")},
               {"from", std::string("front")},
               {"distance", std::string("40 mm")}});
    drawn(p, "wave", "before", polesLine({{-8, 15}, {-4, 30}, {2, 25}, {6, 40}, {8, 55}}));
    drawn(p, "round", "side", circleLine(1.2));
}

void atLevel(Part& p, const char* name, const Drawing& d, double level) {
    test::add(
        p, "plane",
        {{"name", std::string(name) + " level"}, {"from", std::string("ground")}, {"distance", inMm(level)}});
    drawn(p, name, (std::string(name) + " level").c_str(), d);
}

void roseLines(Part& p) {
    drawn(p, "neck", "ground", circleLine(13));
    atLevel(p, "face", ellipseLine(42, 26), 48);
    for (const double side : {1.0, -1.0})
        drawn(p, side > 0 ? "right" : "left", "front",
              polesLine({{side * 13, 0}, {side * 13, 21.6}, {side * 38.6, 26.4}, {side * 42, 48}}));
}

/// What the trowel grip of the demo is drawn of.
void gripLines(Part& p) {
    const auto demo = loadPart("demo/trowel-grip.goodcurve");
    REQUIRE(demo);
    p = *demo;
    p.steps.resize(9);
}

} // namespace

TEST_CASE("Job: a handle is swept onto a cup, ends on its wall by itself, and is rounded where it meets") {
    FreeForm t(cupLines);
    t.begin("rev");
    t.chooseWords("outline", "cup line");
    t.click("fill");
    t.figure("thickness", "3 mm");
    t.chooseWords("wall side", "outside");
    t.keep();
    t.begin("swe");
    CHECK(t.draft().text("outline") == "grip");
    CHECK(t.draft().references("path").size() == 1);
    CHECK(t.draft().text("does") == "adding to");
    t.keep();
    CHECK(t.notes() == 2); // carried on at its beginning, held back at its end
    const double handle = t.change();
    CHECK(handle > 5000);
    t.window.setStage(QStringLiteral("Finish"));
    t.begin("fillet");
    look(*t.hand, t.window.stand(), 1);
    t.pick("edges", {34.7f, -4.5f, 20}, 1);
    t.pick("edges", {39.1f, -4.5f, 63.4f}, 2);
    t.figure("radius", "2 mm");
    t.keep();
    CHECK(t.last().doubt.isEmpty());
    CHECK(t.change() > 10);
    CHECK(t.change() < 0.05 * handle);
}

TEST_CASE("Job: a leaf guard, straight from one five-sided outline to the other, shelled from below") {
    FreeForm t([](Part& p) {
        drawn(p, "low", "ground", regularLine(5, 40));
        atLevel(p, "high", regularLine(5, 25), 30);
    });
    t.begin("lof");
    CHECK(t.draft().references("sections").size() == 2);
    t.click("way");
    REQUIRE(Hand::wait([&] { return t.draft().text("way") == "straight"; }, 5000));
    t.keep();
    const double area = 2.5 * std::sin(2 * kPi / 5); // of a five-sided outline, by the square of its radius
    const auto frustum = [&](double r, double s, double h) { return area * h / 3 * (r * r + r * s + s * s); };
    CHECK(t.change() == Approx(frustum(40, 25, 30)).epsilon(1e-6));
    t.window.setStage(QStringLiteral("Finish"));
    t.begin("shell");
    look(*t.hand, t.window.stand(), 6);
    t.pick("open", {3, 2, 0}, 1);
    t.figure("wall", "2 mm");
    t.keep();
    const double in = std::cos(kPi / 5), lean = std::atan(15 * in / 30);
    const auto inner = [&](double z) { return (40 - 0.5 * z) - 2 / std::cos(lean) / in; };
    CHECK(t.change() == Approx(-frustum(inner(0), inner(28), 28)).epsilon(1e-6));
}

TEST_CASE("Job: a groove along a line that is laid on a bottle's wall") {
    FreeForm t(bottleLines);
    t.begin("rev");
    t.chooseWords("outline", "bottle line");
    t.keep();
    t.begin("cur");
    t.chooseWords("way", "a line on faces");
    look(*t.hand, t.window.stand(), 1);
    t.click("line");
    t.pick("line", {-3.6f, -40, 26}, 1);
    t.click("faces");
    REQUIRE(Hand::wait([&] { return t.window.stand()->picking() == Picking::Faces; }, 5000));
    t.pick("faces", {15, -20, 35}, 1);
    t.keep();
    t.begin("swe");
    CHECK(t.draft().text("outline") == "round");
    CHECK(t.draft().references("path").front().starts_with("curve of step"));
    t.hand->alt("r");
    REQUIRE(Hand::wait([&] { return t.draft().text("does") == "taking from"; }, 5000));
    t.keep();
    // The line is about 44 long; half of a round section of 1.2 lies within the wall.
    CHECK(-t.change() == Approx(0.5 * kPi * 1.44 * 44).epsilon(0.1));
}

TEST_CASE("Job: a sprinkler rose: round to oval between two guides, with a spigot, an even wall") {
    FreeForm t(roseLines);
    t.begin("lof");
    // Those that close are its sections, the others guide it.
    CHECK(t.draft().references("sections").size() == 2);
    CHECK(t.draft().references("guides").size() == 2);
    t.chooseWords("leave", "squarely");
    t.keep();
    CHECK(t.change() > kPi * 13 * 13 * 48);
    t.begin("ext");
    t.chooseWords("outline", "neck");
    t.figure("length", "20 mm");
    t.chooseWords("way", "backward");
    t.keep();
    CHECK(t.change() == Approx(kPi * 13 * 13 * 20).epsilon(1e-6));
    t.window.setStage(QStringLiteral("Finish"));
    t.begin("shell");
    look(*t.hand, t.window.stand(), 6);
    t.pick("open", {2, 2, -20}, 1);
    t.figure("wall", "2 mm");
    t.keep();
    REQUIRE(Hand::wait([&] { return t.window.forge()->hasMeasured(); }, 60000));
    CHECK(t.last().doubt.isEmpty());
    CHECK(t.change() < 0);
}

TEST_CASE("Job: half a grip through four sections between two guides, mirrored into one") {
    FreeForm t(gripLines);
    t.begin("lof");
    CHECK(t.draft().references("sections").size() == 4);
    CHECK(t.draft().references("guides").size() == 2);
    t.keep();
    const double half = t.change();
    CHECK(half > 30000);
    t.begin("mir");
    CHECK(t.draft().text("plane") == "side");
    CHECK(t.draft().text("what") == "joined with it");
    t.keep();
    CHECK(t.change() == Approx(half).epsilon(1e-6));
}

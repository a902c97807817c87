/// \file Whole jobs of the stage Finish, by hand: studs, a former that gets its lean, how tightly a part
/// bends.

#include "app/rooms/prove/prove_room.hpp"
#include "core/base/angles.hpp"
#include "tests/support/sections.hpp"
#include "tests/window/finish_hand.hpp"
#include "tests/window/sight.hpp"

#include <cmath>

using namespace gc;
using namespace gc::app;
using namespace gc::test;

namespace {

constexpr double kInch = 25.4; // mm

void add(Part& p, const Drawing& d, const char* plane, const char* length, const char* body,
         const char* does) {
    test::add(p, "draw", {{"plane", std::string(plane)}, {"drawing", DrawingSlot(d)}});
    test::add(p, "extrude",
              {{"length", std::string(length)}, {"body", std::string(body)}, {"does", std::string(does)}});
}
/// A plate with three round studs of 6 mm, 8 mm high.
void studs(Part& p) {
    add(p, test::rectangle({-30, -20}, {30, 20}), "ground", "5 mm", "plate", "as new body");
    Drawing d;
    for (const double x : {-20., 0., 20.}) d.draw(StrokeKind::Circle, {{x, 0}}, {3});
    test::add(p, "draw",
              {{"plane", "end of step " + std::to_string(p.steps.back().id)}, {"drawing", DrawingSlot(d)}});
    test::add(p, "extrude", {{"length", std::string("8 mm")}, {"does", std::string("adding to")}});
}
double tangent(double degrees) {
    return std::tan(degrees * kPi / 180);
}

} // namespace

TEST_CASE("Job: three studs are chamfered at once, in inches") {
    FinishBench t(studs);
    t.begin("cham");
    for (std::size_t k = 0; k < 3; ++k) t.pick("edges", {-20 + 20 * static_cast<float>(k), -3, 13}, k + 1);
    t.figure("size", "0.01 in");
    t.keep();
    const double d = 0.01 * kInch;
    CHECK(t.change() == Approx(-3 * d * d / 2 * 2 * kPi * (3 - d / 3)).epsilon(1e-6));
}

TEST_CASE("Job: an end is chamfered 0.125 by 1.5 in; turned by a key it lies the right way round") {
    FinishBench t(largeBlock);
    t.begin("cham");
    t.pick("edges", {30, 0, 30}, 1);
    t.choose("how", 1);
    REQUIRE(Hand::wait([&] { return t.draft().text("how") == "by two lengths,"; }, 5000));
    t.figure("size", "1.5 in");
    t.figure("second", "0.125 in");
    if (!t.window.bar()->fault().isEmpty() || t.draft().text("where") != "on") {
        t.hand->alt("r");
        REQUIRE(t.quiet());
    }
    CHECK(t.window.bar()->fault().toStdString().empty());
    t.keep();
    CHECK(t.change() == Approx(-0.125 * kInch * 1.5 * kInch / 2 * 40).epsilon(1e-6));
    // The long side lies on the top: a third of the block's top is gone, of its end a tenth.
    CHECK(t.said().find("1.5 in") != std::string::npos);
}

TEST_CASE("Job: four edges chamfered to a point are too much; the largest that works comes by a click") {
    FinishBench t([](Part& p) {
        add(p, test::rectangle({-3, -3}, {3, 3}), "ground", "30 mm", "peg", "as new body");
    });
    t.begin("cham");
    look(*t.hand, t.window.stand(), 5);
    std::size_t picked = 0;
    for (const QVector3D& at :
         {QVector3D(0, -3, 30), QVector3D(3, 0, 30), QVector3D(0, 3, 30), QVector3D(-3, 0, 30)})
        t.pick("edges", at, ++picked);
    t.figure("size", "4 mm");
    SentenceBar* bar = t.window.bar();
    REQUIRE(Hand::wait([&] { return !bar->wayRect().isEmpty(); }, 60000));
    REQUIRE(Hand::steady([&] { return QPointF(bar->wayRect().topLeft()); }));
    t.hand->click(bar, bar->wayRect().center());
    REQUIRE(Hand::wait([&] { return t.draft().text("size") != "4 mm"; }, 10000));
    t.keep();
    // At 3 mm a point is left; within 5 % of that.
    const double size = std::atof(t.window.session()->part().steps.back().text("size").c_str());
    CHECK(size <= 3);
    CHECK(size > 2.85);
}

TEST_CASE("Job: a former drawn straight gets its lean, above and below a parting level, rounds and all") {
    FinishBench t([](Part& p) {
        largeBlock(p);
        test::add(p, "plane",
                  {{"name", std::string("parting")},
                   {"from", std::string("ground")},
                   {"distance", std::string("12 mm")}});
    });
    // Rounded first, as one does: the lean takes the rounds along.
    t.begin("fillet");
    for (const QVector3D& at : {QVector3D(0, -20, 30), QVector3D(30, 0, 30)})
        t.pick("edges", at, t.draft().references("edges").size() + 1);
    t.figure("radius", "3 mm");
    t.keep();
    t.begin("draft");
    t.click("which");
    REQUIRE(Hand::wait([&] { return t.draft().text("which") == "all walls of"; }, 5000));
    t.figure("angle", "3");
    t.click("ways");
    REQUIRE(Hand::wait([&] { return t.draft().text("ways") == "both ways from"; }, 5000));
    t.choose("plane", 3);
    REQUIRE(Hand::wait([&] { return t.draft().text("plane") == "parting"; }, 5000));
    t.keep();
    const double in = tangent(3);
    // The lean alone, by the prismatoid formula; the rounds take away less than their spandrels did.
    const auto frustum = [&](double h) {
        const auto area = [&](double z) { return (60 - 2 * z * in) * (40 - 2 * z * in); };
        return h / 6 * (area(0) + 4 * area(h / 2) + area(h));
    };
    const double lean = frustum(12) + frustum(18) - 60 * 40 * 30;
    CHECK(t.change() < lean + 120 * 9 * (1 - kPi / 4) * 0.2);
    CHECK(t.change() > lean - 1);
    for (const auto& [id, step] : t.window.forge()->steps()) CHECK(step.ok);
}

TEST_CASE("Job: a cover is rounded on chains, hollowed with two faces open, and its wall holds") {
    FinishBench t([](Part& p) {
        largeBlock(p);
        p.brief.targets.push_back(Target{"thinnest wall", "≥ 2.45 mm"});
    });
    // The uprights at the left by 10 mm, those at the right by 18, in one step.
    const auto sight = [&](int k) { look(*t.hand, t.window.stand(), k); };
    sight(1);
    t.begin("fillet");
    t.pick("edges", {-30, -20, 15}, 1);
    sight(2);
    t.pick("edges", {-30, 20, 15}, 2);
    t.figure("radius", "10 mm");
    t.click("rest");
    REQUIRE(Hand::wait([&] { return t.draft().text("rest") == "and"; }, 5000));
    t.click("edges 2");
    t.pick("edges 2", {30, 20, 15}, 1);
    sight(1);
    t.pick("edges 2", {30, -20, 15}, 2);
    t.figure("radius 2", "18 mm");
    t.keep();
    CHECK(t.change() == Approx(-(1 - kPi / 4) * 2 * (100 + 324) * 30).epsilon(1e-6));
    // One edge stands for the chain all round.
    sight(6);
    t.begin("fillet");
    t.pick("edges", {0, -20, 0}, 1);
    t.figure("radius", "5 mm");
    t.keep();
    CHECK(t.change() < -(1 - kPi / 4) * 25 * 140);
    // Open above and in front.
    sight(5);
    t.begin("shell");
    t.click("open");
    t.pick("open", {0, 0, 30}, 1);
    sight(1);
    t.pick("open", {-5, -20, 17}, 2);
    t.figure("wall", "2.5 mm");
    t.keep();
    CHECK(t.last().ok);
    REQUIRE(Hand::wait(
        [&] {
            const auto& all = t.window.forge()->targets();
            return all.size() == 1 && all[0].verdict == "holds";
        },
        60000));
}

TEST_CASE(
    "Job: a grip's end is blended, the other rounded, seen in stripes; a recess is rounded above and below") {
    FinishBench t([](Part& p) {
        add(p, test::ellipseLine(18, 14), "ground", "60 mm", "grip", "as new body");
        test::add(p, "draw",
                  {{"plane", "end of step " + std::to_string(p.steps.back().id)},
                   {"drawing", DrawingSlot(test::roundedLine(16, 12, 4))}});
        test::add(p, "extrude",
                  {{"length", std::string("6 mm")},
                   {"way", std::string("backward")},
                   {"does", std::string("taking from")}});
    });
    look(*t.hand, t.window.stand(), 6);
    t.begin("blend");
    t.pick("edges", {0, -14, 0}, 1);
    t.figure("radius", "5 mm");
    t.keep();
    CHECK(t.last().notes.isEmpty()); // no jump in curvature
    look(*t.hand, t.window.stand(), 5);
    t.begin("fillet");
    t.pick("edges", {0, -14, 60}, 1);
    t.figure("radius", "2 mm");
    t.keep();
    t.press("Stripes");
    CHECK(t.window.stand()->overlay() == Overlay::Stripes);
    t.press("Stripes");
    // Both rims of the recess in one step, in inches.
    t.begin("fillet");
    t.pick("edges", {0, -6, 60}, 1);
    // Of the round that is tried already nothing can be picked; the lower rim lies under it.
    const QPointF lower = t.at({0, 6, 54});
    t.hand->moveTo(t.window.stand(), lower);
    REQUIRE(Hand::wait(
        [&] {
            return t.window.stand()->reading() ==
                   QStringLiteral("this step makes it: pick what was there before");
        },
        5000));
    for (int k = 0; k < 4 && t.draft().references("edges").size() < 2; ++k) {
        t.hand->press("n");
        Hand::settle();
        t.hand->click(t.window.stand(), lower);
        REQUIRE(t.quiet());
    }
    REQUIRE(t.draft().references("edges").size() == 2);
    t.figure("radius", "0.06 in");
    t.keep();
    CHECK(t.last().ok);
    const double r = 0.06 * kInch;
    // A chain of lines and quarter rounds: straight parts, and Pappus about the axes of the rounds.
    const double spandrel = r * r * (1 - kPi / 4), middle = r * (5. / 6 - kPi / 4) / (1 - kPi / 4);
    const double lines = 2 * 8 + 2 * 4, added = spandrel * (lines + 2 * kPi * (4 - middle)),
                 taken = spandrel * (lines + 2 * kPi * (4 + middle));
    CHECK(t.change() == Approx(added - taken).epsilon(1e-4));
}

TEST_CASE(
    "Job: a skin hollowed before the dimples shows what is wrong, and the order that mends it is one click") {
    FinishBench t([](Part& p) {
        test::add(p, "draw",
                  {{"plane", std::string("ground")},
                   {"drawing", DrawingSlot(test::rectangle({-30, -20}, {30, 20}))}});
        test::add(p, "extrude",
                  {{"length", std::string("20 mm")},
                   {"body", std::string("former")},
                   {"sides", std::string("leaning inward by")},
                   {"lean", std::string("5°")}});
        Drawing dimples;
        for (const double x : {-16., 0., 16.})
            for (const double y : {-8., 8.}) dimples.draw(StrokeKind::Circle, {{x, y}}, {4});
        test::add(p, "draw",
                  {{"plane", "end of step " + std::to_string(p.steps.back().id)},
                   {"drawing", DrawingSlot(dimples)}});
        test::add(p, "extrude",
                  {{"length", std::string("3 mm")},
                   {"way", std::string("both ways together")},
                   {"does", std::string("taking from")}});
        p.brief.targets.push_back(Target{"thinnest wall", "≥ 1.9 mm"});
    });
    const int dimples = t.window.session()->part().steps.back().id;
    t.beginSkin();
    t.keep();
    const auto verdict = [&] {
        const auto& all = t.window.forge()->targets();
        return all.empty() ? QString() : all[0].verdict;
    };
    REQUIRE(Hand::wait([&] { return verdict() == "holds"; }, 60000));
    const int shell = t.window.session()->part().steps.back().id;

    // Dragged before the dimples: they now cut into the wall.
    StepRow *row = t.window.sheet()->row(shell), *before = t.window.sheet()->row(dimples);
    t.hand->drag(row, QPointF(12, 12), row->mapFrom(&t.window, before->mapTo(&t.window, QPoint(12, 2))));
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.back().id == dimples; }, 5000));
    REQUIRE(Hand::wait([&] { return verdict() == "fails"; }, 60000));
    CHECK(*t.window.forge()->targets()[0].value == Approx(0.5).epsilon(0.05));

    std::vector<RemedyView> ways;
    QObject::connect(t.window.forge(), &ForgeLink::solved, &t.window,
                     [&](int, const std::vector<RemedyView>& r) { ways = r; });
    t.hand->click(t.window.gauges(), QRectF(t.window.gauges()->gaugeRect(0)).center());
    const auto order = [&] {
        return std::find_if(ways.begin(), ways.end(),
                            [](const RemedyView& r) { return r.before.has_value(); });
    };
    REQUIRE(Hand::wait([&] { return order() != ways.end(); }, 160000));
    auto* board = t.window.prove()->board();
    const int place = static_cast<int>(order() - ways.begin());
    REQUIRE(Hand::wait([&] { return !board->remedyRect(place).isEmpty(); }, 5000));
    REQUIRE(Hand::steady([&] { return QPointF(board->remedyRect(place).topLeft()); }));
    t.hand->click(board, QRectF(board->remedyRect(place)).center());
    REQUIRE(Hand::wait([&] { return t.window.session()->part().steps.back().id == shell; }, 5000));
    REQUIRE(Hand::wait([&] { return verdict() == "holds"; }, 60000));
}

TEST_CASE("How tightly a part bends is read at the pointer, an edge's comb where it is pointed at") {
    FinishBench t([](Part& p) { add(p, test::circleLine(20), "ground", "40 mm", "can", "as new body"); });
    Stand* stand = t.window.stand();
    t.press("Bending");
    REQUIRE(stand->overlay() == Overlay::Bending);
    t.hand->moveTo(stand, t.at({0, -20, 17}));
    REQUIRE(Hand::wait([&] { return stand->reading().contains(QStringLiteral("R 20")); }, 5000));
    CHECK(stand->reading().startsWith(QStringLiteral("bulging")));
    CHECK(stand->combText().isEmpty());
    t.hand->moveTo(stand, t.at({3, 3, 40}));
    REQUIRE(Hand::wait([&] { return stand->reading() == QStringLiteral("flat"); }, 5000));
    t.hand->moveTo(stand, t.at({0, -20, 40}));
    REQUIRE(Hand::wait([&] { return stand->combText() == QStringLiteral("tightest: R 20 mm"); }, 5000));
    // What bulges is warm, what is flat is pale.
    const QImage picture = stand->picture();
    const QPointF wall = t.at({0, -20, 17}), top = t.at({3, 3, 40});
    const auto colour = [&](QPointF at) {
        return picture.pixelColor((at * picture.width() / stand->width()).toPoint());
    };
    CHECK(colour(wall).saturationF() > colour(top).saturationF() + 0.15f);
}

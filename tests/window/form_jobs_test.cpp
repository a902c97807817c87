/// \file Whole jobs of the stage Form, from an empty part to a proof sheet.

#include "tests/window/form_job.hpp"

#include <QFile>

using namespace gc;
using namespace gc::test;

TEST_CASE("Job: a seed box with a lid, from an empty part to a proof sheet") {
    FormJob t;
    // The footprint, on the ground, about its centre: 120 by 80.
    t.choose(t.window.sheet()->row(t.last())->sentence(), "plane", 1);
    REQUIRE(t.quiet());
    t.still();
    t.tool("rectangle");
    t.click("about a centre");
    t.at({0, 0});
    t.at({45, 30});
    REQUIRE(Hand::wait([&] { return t.strokes() >= 4; }));
    t.key("Escape");
    t.tool("dimension");
    const auto side = [&](bool level) {
        for (std::size_t k = 0; k < t.strokes(); ++k) {
            const Vec2 d = t.end(k, 1) - t.end(k, 0);
            if (t.drawing().strokes[k].helper) continue;
            if (std::fabs(level ? d.y : d.x) < 1e-6 && (level ? t.middle(k).y > 0 : t.middle(k).x > 0))
                return k;
        }
        FAIL("no such side");
        return std::size_t(0);
    };
    t.dimension({t.middle(side(true))}, t.middle(side(true)) + Vec2{8, 12}, "120");
    t.key("Home");
    t.still();
    t.dimension({t.middle(side(false))}, t.middle(side(false)) + Vec2{12, 6}, "80");
    t.pinRest();
    CHECK(t.area() == Approx(120 * 80));
    t.tool("done");
    t.stage("Form");
    t.begin("extrude");
    t.put("length", "60 mm");
    t.put("body", "box");
    t.keep();
    const int box = t.last();

    // Its upright edges rounded: three are seen, the fourth lies behind.
    t.stage("Finish");
    t.begin("fillet");
    for (const QVector3D p : {QVector3D(60, -40, 30), QVector3D(-60, -40, 30), QVector3D(60, 40, 30)})
        t.pick(p);
    // Six sides and three rounds are there: nothing moves any more.
    REQUIRE(
        Hand::wait([&] { return t.window.forge()->meshes().begin()->second.flatFaces.size() == 9; }, 60000));
    REQUIRE(t.quiet());
    const QPointF hidden = t.stand()->screenOf({-60, 40, 30});
    t.hand->moveTo(t.stand(), hidden);
    t.key("n");
    t.hand->click(t.stand(), hidden);
    ++t.used;
    REQUIRE(Hand::wait([&] { return t.draft().references("edges").size() == 4; }, 5000));
    t.put("radius", "8 mm");
    t.keep();
    const double outside = 120 * 80 - (4 - kPi) * 64;
    CHECK(t.change() == Approx((outside - 120 * 80) * 60).epsilon(1e-9));

    // Hollowed from the top to 2 mm above the floor, 2 mm inside the outline.
    t.stage("Form");
    t.verb(QStringLiteral("draw"));
    REQUIRE(Hand::wait([&] { return t.steps() == 4 && t.table()->isVisible(); }));
    t.open(t.window.sheet()->row(t.last())->sentence(), "plane");
    REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() != nullptr; }, 5000));
    t.key("Up"); // pick in the stand
    t.key("Return");
    REQUIRE(
        Hand::wait([&] { return t.stand()->isVisible() && t.stand()->picking() == Picking::Planes; }, 5000));
    t.pick({0, 0, 60});
    REQUIRE(Hand::wait([&] { return t.table()->isVisible() && t.table()->traces().size() >= 8; }, 10000));
    t.still();
    t.tool("follow");
    const double c = 8 - 8 / std::sqrt(2.0);
    for (const Vec2 p : {Vec2{5, 40},
                         {5, -40},
                         {60, 5},
                         {-60, 5},
                         {60 - c, 40 - c},
                         {c - 60, 40 - c},
                         {60 - c, c - 40},
                         {c - 60, c - 40}})
        t.at(p);
    REQUIRE(Hand::wait([&] { return t.strokes() == 8; }, 5000));
    t.key("Escape");
    t.tool("choose");
    t.box({-70, -50}, {70, 50});
    ++t.used;
    REQUIRE(Hand::wait([&] { return t.table()->chosen().size() == 8; }));
    t.click("Offset");
    REQUIRE(Hand::wait([&] { return t.window.bar()->editing(); }));
    t.key("Return"); // 2 mm inside
    REQUIRE(Hand::wait([&] { return !t.window.bar()->editing() && t.strokes() == 16; }, 5000));
    while (!t.table()->chosen().empty()) t.key("Escape");
    REQUIRE(Hand::wait([&] { return t.window.drawingModel()->closedness().regions.size() == 2; }, 5000));
    t.still();
    t.at({14, 11});
    REQUIRE(Hand::wait([&] { return t.table()->areas().size() == 1; }, 5000));
    t.click("Extrude this area");
    REQUIRE(Hand::wait([&] { return t.window.bar()->active(); }, 5000));
    t.hand->alt("r");
    t.used += 2;
    REQUIRE(t.draft().text("does") == "taking from");
    t.choose(t.flow(), "end", 2); // short of
    t.look("6");                  // from below
    t.pick({10, 10, 0});
    REQUIRE(Hand::wait([&] { return t.draft().references("face").size() == 1; }, 5000));
    t.put("gap", "2 mm");
    t.open(t.flow(), "sense"); // backward
    t.keep();
    const double inside = 116 * 76 - (4 - kPi) * 36;
    CHECK(-t.change() == Approx(inside * 58).epsilon(1e-9));

    // The lid: a body of its own, on the rim, as large as the footprint.
    t.begin("extrude");
    t.choose(t.flow(), "outline", 0);
    t.choose(t.flow(), "does", 0); // as new body
    t.put("body", "lid");
    t.choose(t.flow(), "begin", 2); // a face
    t.look("5");
    t.pick({0, 39, 60});
    t.put("length", "2 mm");
    t.keep();
    CHECK(t.change() == Approx(120 * 80 * 2).epsilon(1e-9));

    // Weighed apart; made taller, all of it follows.
    t.stage("Brief");
    t.ask(1, 1, "<= 120 g");
    t.ask(1, 2, "<= 40 g");
    t.stage("Form");
    t.hand->click(
        t.window.sheet()->row(box)->sentence(),
        QRectF(t.window.sheet()->row(box)->sentence()->slotRect(QStringLiteral("length"))).center());
    t.hand->type(QStringLiteral("75 mm"));
    t.key("Return");
    ++t.used;
    REQUIRE(t.quiet());
    REQUIRE(Hand::wait([&] { return t.window.forge()->hasMeasured(); }, 60000));
    for (const auto& [id, view] : t.window.forge()->steps()) {
        INFO(id << " " << view.error.toStdString());
        CHECK(view.ok);
    }
    constexpr double kDensity = 0.905e-3; // g/mm³
    CHECK(t.massOf("box") == Approx((outside * 75 - inside * 73) * kDensity).epsilon(1e-6));
    CHECK(t.massOf("lid") == Approx(120 * 80 * 2 * kDensity).epsilon(1e-6));

    t.stage("Release");
    const TemporaryFolder folder;
    const QString sheet = QString::fromStdString(folder.file("proof.html"));
    t.used += 2; // the button, and the name in the system's dialog
    REQUIRE(t.window.release()->writeProofSheet(sheet));
    CHECK(QFile(sheet).size() > 2000);
    t.told("seed box with a lid", 120);
}

TEST_CASE("Job: a rain gauge, the same cup by a thin turn, in part, and solid then shelled") {
    FormJob t;
    // Half of the inside, open: the floor and the wall.
    t.tool("line");
    t.at({0, 0});
    t.toward({20, 0}, "30");
    t.toward({30, 40}, "80");
    t.key("Escape");
    t.pinRest();
    t.tool("done");
    t.stage("Form");
    const double cup = kPi * (32. * 32 * 82 - 30. * 30 * 80);
    const auto thinTurn = [&](const char* name, const char* angle) {
        t.begin("revolve");
        t.open(t.flow(), "fill");           // as a wall of
        t.choose(t.flow(), "wall side", 1); // outside: the strokes are the inside
        if (angle) t.put("angle", angle);
        t.put("body", name);
        t.keep();
        return t.change();
    };
    CHECK(thinTurn("gauge", nullptr) == Approx(cup).epsilon(1e-9));
    CHECK(thinTurn("window", "120") == Approx(cup / 3).epsilon(1e-9));
    // The same from a closed outline, shelled: weighed beside the first.
    t.verb(QStringLiteral("draw"));
    REQUIRE(Hand::wait([&] { return t.steps() == 4 && t.table()->isVisible() && t.strokes() == 0; }, 5000));
    t.still();
    t.tool("rectangle");
    t.at({0, 0});
    t.at({28, 70});
    REQUIRE(Hand::wait([&] { return t.strokes() == 4; }));
    t.key("Escape");
    t.tool("dimension");
    const auto line = [&](bool level) {
        for (std::size_t k = 0; k < 4; ++k) {
            const Vec2 d = t.end(k, 1) - t.end(k, 0), m = t.middle(k);
            if (std::fabs(level ? d.y : d.x) < 1e-6 && (level ? m.y : m.x) > 1) return m;
        }
        FAIL("no such line");
        return Vec2();
    };
    t.dimension({line(true)}, line(true) + Vec2{3, 12}, "32");
    t.key("Home");
    t.still();
    t.dimension({line(false)}, line(false) + Vec2{14, 5}, "82");
    t.pinRest();
    t.tool("done");
    t.stage("Form");
    t.begin("revolve");
    t.put("body", "turned");
    t.keep();
    CHECK(t.change() == Approx(kPi * 32 * 32 * 82).epsilon(1e-9));
    t.stage("Finish");
    t.begin("shell");
    t.look("5");
    t.pick({12, -9, 82});
    REQUIRE(Hand::wait([&] { return t.draft().references("open").size() == 1; }, 5000));
    t.put("wall", "2 mm");
    t.keep();
    REQUIRE(Hand::wait([&] { return t.window.forge()->hasMeasured(); }, 60000));
    const auto& masses = t.window.forge()->masses();
    REQUIRE(masses.size() == 3);
    const double thin = masses.begin()->second, part = std::next(masses.begin())->second,
                 shelled = masses.rbegin()->second;
    CHECK(shelled == Approx(thin).epsilon(1e-6));
    CHECK(part == Approx(thin / 3).epsilon(1e-6));
    t.told("rain gauge", 90);
}

/// \file A whole job of the stage Form, in inches.

#include "tests/window/form_job.hpp"

using namespace gc;
using namespace gc::test;

TEST_CASE("Job: a slide clip in inches, of half differences, up to a face and short of it") {
    FormJob t;
    constexpr double in = 25.4;
    const auto level = [&](std::size_t k) { return std::fabs(t.end(k, 1).y - t.end(k, 0).y) < 1e-6; };
    // The side of a rectangle that is lowest, or furthest left.
    const auto side = [&](bool wantLevel, bool most) {
        std::size_t best = 0;
        double at = most ? -1e300 : 1e300;
        for (std::size_t k = 0; k < t.strokes(); ++k) {
            if (level(k) != wantLevel) continue;
            const double where = wantLevel ? t.middle(k).y : t.middle(k).x;
            if (most ? where > at : where < at) best = k, at = where;
        }
        return best;
    };
    const auto ground = [&] {
        REQUIRE(t.quiet());
        t.still();
    };
    const auto newDrawing = [&] {
        const std::size_t before = t.steps();
        t.verb(QStringLiteral("draw"));
        REQUIRE(Hand::wait([&] { return t.steps() == before + 1 && t.table()->isVisible() && !t.strokes(); },
                           5000));
    };
    const auto onFace = [&](QVector3D p) {
        newDrawing();
        t.open(t.window.sheet()->row(t.last())->sentence(), "plane");
        REQUIRE(Hand::wait([] { return QApplication::activePopupWidget() != nullptr; }, 5000));
        t.key("Up"); // pick in the stand
        t.key("Return");
        REQUIRE(Hand::wait([&] { return t.stand()->isVisible() && t.stand()->picking() == Picking::Planes; },
                           5000));
        t.pick(p);
        REQUIRE(Hand::wait([&] { return t.table()->isVisible() && t.table()->traces().size() >= 4; }, 10000));
        t.still();
    };
    const auto rectangle = [&](Vec2 a, Vec2 b) {
        t.tool("rectangle");
        t.at(a);
        t.at(b);
        REQUIRE(Hand::wait([&] { return t.strokes() == 4; }));
        t.key("Escape");
        t.tool("dimension");
    };
    // Below it, or left of it: the card of what is loose lies above on the right.
    const auto sized = [&](bool wide, const char* text, Vec2 aside) {
        t.dimension({t.middle(side(wide, false))}, t.middle(side(wide, false)) + aside, text);
    };
    const auto form = [&](const char* kind) {
        t.pinRest();
        t.tool("done");
        t.stage("Form");
        t.begin(kind);
    };

    // The plate: 1.5 by 0.75, 0.25 high.
    t.choose(t.window.sheet()->row(t.last())->sentence(), "plane", 1);
    ground();
    rectangle({0, 0}, {36, 18});
    sized(true, "1.5 in", {6, -5});
    sized(false, "0.75 in", {-5, 2});
    form("extrude");
    t.put("length", "0.25 in");
    t.put("body", "clip");
    t.keep();
    CHECK(t.change() == Approx(1.5 * .75 * .25 * in * in * in).epsilon(1e-9));

    // A block in the middle of it: its place is half the difference each way.
    onFace({19, 9, 0.25f * 25.4f});
    rectangle({10, 5}, {24, 12});
    sized(true, "post = 0.5 in", {2, -2});
    sized(false, "thick = 0.25 in", {-2, 1});
    const auto corner = [&] { return Vec2{t.middle(side(false, false)).x, t.middle(side(true, false)).y}; };
    t.dimension({corner(), {0, 0}}, {4, -3}, "(1.5 in - post) / 2");
    t.dimension({t.middle(side(true, false)), {30, 0}}, {30, 3}, "(0.75 in - thick) / 2");
    form("extrude");
    t.put("length", "0.3 in");
    t.keep();
    CHECK(t.change() == Approx(.5 * .25 * .3 * in * in * in).epsilon(1e-9));

    // The slide: a body of its own, from the side up to the block, short of it by 0.013.
    newDrawing();
    t.choose(t.window.sheet()->row(t.last())->sentence(), "plane", 2); // the side plane
    ground();
    rectangle({8, 8}, {11, 12});
    sized(true, "0.12 in", {1, -2});
    sized(false, "0.15 in", {-2, 0});
    form("extrude");
    t.choose(t.flow(), "does", 0); // as new body
    t.put("body", "slide");
    t.choose(t.flow(), "end", 2); // short of
    t.look("3");                  // from the left
    t.pick({12.7f, 7, 13.5f});
    REQUIRE(Hand::wait([&] { return t.draft().references("face").size() == 1; }, 5000));
    t.put("gap", "0.013 in");
    t.keep();
    CHECK(t.change() == Approx(.12 * .15 * (.5 - .013) * in * in * in).epsilon(1e-9));

    // The knob on a corner: turned about the upright axis from 30 degrees behind to 60 before.
    newDrawing();
    ground();
    rectangle({0, 8}, {5, 11});
    sized(true, "0.2 in", {1, -1});
    sized(false, "0.15 in", {-2, 0});
    t.dimension({{0.2 * in, t.middle(side(true, false)).y}, {0, 0}}, {9, 4}, "0.25 in");
    form("revolve");
    t.put("angle", "60");
    t.choose(t.flow(), "way", 3); // forward, and back by
    t.put("second", "30");
    t.choose(t.flow(), "does", 1); // adding to what it touches
    t.keep();
    CHECK(t.change() == Approx(kPi / 4 * .2 * .2 * .15 * in * in * in).epsilon(1e-9));

    // A triangle taken off the far lower edge, all the way through.
    newDrawing();
    ground();
    t.tool("line");
    t.at({34, 0});
    t.at({38.1, 0});
    t.at({38.1, 4});
    t.at({34, 0});
    REQUIRE(Hand::wait([&] { return t.strokes() == 3; }));
    t.key("Escape");
    t.tool("dimension");
    const auto foot = [&](Vec2 p) { // the corner that is nearest
        Vec2 best = t.end(0, 0);
        for (std::size_t k = 0; k < t.strokes(); ++k)
            for (std::size_t e = 0; e < 2; ++e)
                if (length(t.end(k, e) - p) < length(best - p)) best = t.end(k, e);
        return best;
    };
    t.dimension({foot({34, 0}), foot({38, 0})}, {36, -3}, "0.125 in");
    t.dimension({foot({38, 0}), foot({38, 4})}, {42, 2}, "0.125 in");
    t.dimension({{0, 0}, foot({38, 0})}, {20, -6}, "1.5 in");
    form("extrude");
    t.choose(t.flow(), "does", 2); // taking from
    t.choose(t.flow(), "end", 5);  // to the far side
    t.open(t.flow(), "sense");     // backward: into the plate
    t.keep();
    CHECK(-t.change() == Approx(.5 * .125 * .125 * .75 * in * in * in).epsilon(1e-9));
    CHECK(t.window.forge()->meshes().size() == 2);
    t.told("slide clip", 190);
}

// What an extrude ends at: faces of every kind, walls in the way, levels, distances.

#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/places.hpp"
#include "core/sketch/arcs.hpp"
#include "core/steps/shared/find_items.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kWide = 10, kDeep = 6; ///< the foot: 20 by 12 about the origin, on the ground

/// Volume under a height over the foot, by Gauss' rule on many panels.
double under(const std::function<double(double, double)>& height, double middle = 0) {
    constexpr int kPanels = 80;
    constexpr double at[] = {-.9061798459386640, -.5384693101056831, 0, .5384693101056831, .9061798459386640};
    constexpr double weight[] = {.2369268850561891, .4786286704993665, .5688888888888889, .4786286704993665,
                                 .2369268850561891};
    double sum = 0;
    const double hx = 2 * kWide / kPanels, hy = 2 * kDeep / kPanels;
    for (int i = 0; i < kPanels; ++i)
        for (int j = 0; j < kPanels; ++j)
            for (int a = 0; a < 5; ++a)
                for (int b = 0; b < 5; ++b)
                    sum += weight[a] * weight[b] * hx * hy / 4 *
                           height(middle - kWide + hx * (i + 0.5 + at[a] / 2),
                                  -kDeep + hy * (j + 0.5 + at[b] / 2));
    return sum;
}

/// A body "roof" of a drawing in the front plane, 80 deep: steps 1 and 2. Then the foot: step 3.
Part underRoof(const Drawing& roof, double deep = 80) {
    Part p;
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(roof)}});
    add(p, "extrude",
        {{"length", formatNumber(deep) + " mm"},
         {"way", std::string("both ways together")},
         {"body", std::string("roof")}});
    add(p, "draw",
        {{"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({-kWide, -kDeep}, {kWide, kDeep}))}});
    return p;
}

/// The same under a drawing turned about the axis.
Part underTurned(const Drawing& roof, double middle = 0) {
    Part p;
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(roof)}});
    add(p, "revolve", {{"body", std::string("roof")}});
    add(p, "draw",
        {{"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({middle - kWide, -kDeep}, {middle + kWide, kDeep}))}});
    return p;
}

constexpr int kLowest = 3; ///< the stroke of a slab's lowest side: its points come before it

/// Closed by lines: four corners, the lowest side first.
Drawing slab(double low0, double low1, double half = 40, double top = 70) {
    Drawing d;
    const Vec2 at[] = {{-half, low0}, {half, low1}, {half, top}, {-half, top}};
    for (std::size_t i = 0; i < 4; ++i) d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]});
    return d;
}

Step& post(Part& p, const std::string& end, Slots slots = {}) {
    slots["end"] = end;
    slots.emplace("does", std::string("as new body"));
    slots.emplace("body", std::string("post"));
    return add(p, "extrude", slots);
}

Slots to(const std::string& face) {
    return {{"face", References{face}}};
}

/// The face of the roof that a stroke made.
std::string side(int stroke) {
    return "side " + std::to_string(stroke) + " of step 2";
}

} // namespace

TEST_CASE("Two lengths, and a level to begin at") {
    Part p = underRoof(slab(40, 40));
    post(p, "by",
         {{"length", std::string("7 mm")},
          {"way", std::string("forward, and back by")},
          {"second", std::string("3 mm")}});
    auto r = built(p);
    CHECK(volumeOf(r) == Approx(240 * 10).epsilon(1e-12));
    CHECK(envelope(r.state.body("post")).low.z == Approx(-3).margin(1e-9));
    for (const auto& [way, low, high] :
         {std::tuple{"forward", 5.0, 12.0}, {"backward", -2.0, 5.0}, {"both ways together", 1.5, 8.5}}) {
        p.steps.back().slots["way"] = std::string(way);
        p.steps.back().slots["begin"] = std::string("a level at");
        p.steps.back().slots["level"] = std::string("5 mm");
        r = built(p);
        CHECK(envelope(r.state.body("post")).low.z == Approx(low).margin(1e-9));
        CHECK(envelope(r.state.body("post")).high.z == Approx(high).margin(1e-9));
    }
}

TEST_CASE(
    "Along a line that is not square to the drawing: the length is measured along it, ends where they are") {
    Part p = underRoof(slab(40, 40));
    Drawing slant;
    const int line = slant.draw(StrokeKind::Line, {{-50, 0}, {-20, 40}}); // 3 : 4
    add(p, "draw",
        {{"plane", std::string("front")}, {"drawing", DrawingSlot(slant)}, {"name", std::string("way")}});
    const std::string along = "stroke " + std::to_string(line) + " of step 4";
    const std::string foot = p.steps[2].text("name");
    post(p, "by",
         {{"outline", foot},
          {"length", std::string("25 mm")},
          {"sides", std::string("along")},
          {"line", References{along}}});
    auto r = built(p);
    CHECK(volumeOf(r) == Approx(240 * 20).epsilon(1e-10)); // 25 along it are 20 up
    CHECK(envelope(r.state.body("post")).high.x == Approx(kWide + 15).margin(1e-9));
    p.steps.back().slots["end"] = std::string("to");
    p.steps.back().slots["face"] = References{side(kLowest)};
    r = built(p);
    CHECK(volumeOf(r) == Approx(240 * 40).epsilon(1e-9));
    CHECK(envelope(r.state.body("post")).high.x == Approx(kWide + 30).margin(1e-9));
    p.steps.back().slots["line"] = References{};
    CHECK(faultOf(p).code == "extrude.line");
    Drawing flat;
    const int level = flat.draw(StrokeKind::Line, {{-50, 0}, {-20, 0}});
    p.steps[3].slots["drawing"] = DrawingSlot(flat);
    p.steps.back().slots["line"] = References{"stroke " + std::to_string(level) + " of step 4"};
    CHECK(faultOf(p).code == "extrude.line");
}

TEST_CASE("Up to a plane that leans, whether it covers the drawing or is continued; short of it and beyond") {
    const double a = 0.3;
    for (const double half : {40.0, 3.0}) { // 3: it covers less than a third
        Part p = underRoof(slab(40 - a * half, 40 + a * half, half));
        post(p, "to", to(side(kLowest)));
        const auto r = built(p);
        CHECK(volumeOf(r) == Approx(240 * 40).epsilon(1e-9));
        CHECK(faceCount(r.state.body("post")) == 6);
        CHECK(resolveFaces(r.state.body("post"), **parseFaceRef("end of step 4")).value().items.size() == 1);
        const double square = 2 * std::sqrt(1 + a * a);
        for (const auto& [end, off] : {std::pair{"short of", -square}, {"beyond", square}}) {
            Part q = p;
            q.steps.back().slots["end"] = std::string(end);
            q.steps.back().slots["gap"] = std::string("2 mm");
            CHECK(volumeOf(built(q)) == Approx(240 * (40 + off)).epsilon(1e-9));
        }
        // The other way there is nothing.
        p.steps.back().slots["sense"] = std::string("backward");
        CHECK(faultOf(p).code == "extrude.behind");
    }
}

TEST_CASE("Up to a cylinder, a sphere, a cone and a torus, and short of them") {
    const auto check = [](Part p, const std::string& face,
                          const std::function<double(double, double, double)>& height, double middle = 0) {
        post(p, "to", to(face));
        CHECK(volumeOf(built(p)) ==
              Approx(under([&](double x, double y) { return height(x, y, 0); }, middle)).epsilon(1e-7));
        for (const double gap : {1.5, -1.5}) {
            p.steps.back().slots["end"] = std::string(gap > 0 ? "short of" : "beyond");
            p.steps.back().slots["gap"] = std::string("1.5 mm");
            INFO(face << " by " << gap);
            CHECK(volumeOf(built(p)) ==
                  Approx(under([&](double x, double y) { return height(x, y, gap); }, middle)).epsilon(1e-7));
        }
    };
    SECTION("cylinder") {
        Drawing d;
        const int c = d.draw(StrokeKind::Circle, {{0, 40}}, {15});
        check(underRoof(d), side(c), [](double x, double, double gap) {
            const double r = 15 + gap;
            return 40 - std::sqrt(r * r - x * x);
        });
    }
    SECTION("sphere") {
        Drawing d;
        const int arc = d.draw(StrokeKind::Arc, {{0, 22}, {0, 58}, {0, 40}}, {18});
        d.draw(StrokeKind::Line, {{0, 58}, {0, 22}});
        check(underTurned(d), side(arc), [](double x, double y, double gap) {
            const double r = 18 + gap;
            return 40 - std::sqrt(r * r - x * x - y * y);
        });
    }
    SECTION("cone, its point down") {
        Drawing d;
        const int flank = d.draw(StrokeKind::Line, {{0, 30}, {20, 40}});
        d.draw(StrokeKind::Line, {{20, 40}, {0, 40}});
        d.draw(StrokeKind::Line, {{0, 40}, {0, 30}});
        Part p = underTurned(d);
        post(p, "to", to(side(flank)));
        CHECK(volumeOf(built(p)) == Approx(under([](double x, double y) {
                                        return 30 + std::hypot(x, y) / 2;
                                    })).epsilon(1e-5)); // Gauss sees a kink
    }
    SECTION("torus, about a foot that is all under it") {
        Drawing d;
        const int c = d.draw(StrokeKind::Circle, {{24, 40}}, {22});
        const auto height = [](double x, double y, double gap) {
            const double r = 22 + gap, away = std::hypot(x, y) - 24;
            return 40 - std::sqrt(r * r - away * away);
        };
        check(underTurned(d, 24), side(c), height, 24);
    }
}

TEST_CASE("Up to a freeform wall, continued where it does not cover the drawing; short of it everywhere") {
    for (const double low : {-30.0, -6.0}) {
        Drawing d;
        const int wave = drawSpline(d, {{low, 34}, {low / 2, 30}, {4, 36}, {14, 31}, {30, 35}});
        const Vec2 right = d.at(d.findStroke(wave)->points[8]), left = d.at(d.findStroke(wave)->points[0]);
        d.draw(StrokeKind::Line, {right, {30, 60}});
        d.draw(StrokeKind::Line, {{30, 60}, {low, 60}});
        d.draw(StrokeKind::Line, {{low, 60}, left});
        Part p = underRoof(d);
        post(p, "to", to(side(wave)));
        const auto r = built(p);
        const Body& post = r.state.body("post");
        CHECK(faceCount(post) == 6);
        const auto curves = curvesOf(d, *d.findStroke(wave));
        const auto heightAt = [&](double x) {
            Curve2 up;
            up.p = {Vec2{x, -100}, Vec2{x, 100}};
            for (const Curve2& c : curves)
                for (const Meeting& m : meetings(c, up)) return m.at.y;
            return 0.0;
        };
        if (low < -kWide)
            CHECK(volumeOf(r) == Approx(under([&](double x, double) { return heightAt(x); })).epsilon(1e-6));
        else
            CHECK(volumeOf(r) > 0.9 * 240 * 30);
        // Where the wall is, the clearance is what was asked for.
        Part q = p;
        q.steps.back().slots["end"] = std::string("short of");
        q.steps.back().slots["gap"] = std::string("2 mm");
        const auto s = built(q);
        const Body &roof = s.state.body("roof"), &shorter = s.state.body("post");
        const int wall = resolveFaces(roof, **parseFaceRef(side(wave))).value().items.at(0);
        const int end = resolveFaces(shorter, **parseFaceRef("end of step 4")).value().items.at(0);
        for (double x = -5; x <= 9; x += 1) {
            const auto on = nearestOnFace(shorter, end, {x, 0, heightAt(x) - 2});
            REQUIRE(on);
            const auto above = nearestOnFace(roof, wall, on->at);
            REQUIRE(above);
            CHECK(length(above->at - on->at) == Approx(2).margin(1e-3));
        }
    }
}

TEST_CASE("Up to a freeform wall that was turned, and short of it") {
    Drawing d;
    const int bowl = drawSpline(d, {{0, 30}, {8, 33}, {18, 31}, {30, 44}});
    const Vec2 low = d.at(d.findStroke(bowl)->points[0]), rim = d.at(d.findStroke(bowl)->points[6]);
    d.draw(StrokeKind::Line, {rim, {0, 60}});
    d.draw(StrokeKind::Line, {{0, 60}, low});
    const auto curves = curvesOf(d, *d.findStroke(bowl));
    const auto heightAt = [&](double x, double y) {
        Curve2 up;
        const double r = std::hypot(x, y);
        up.p = {Vec2{r, -100}, Vec2{r, 100}};
        for (const Curve2& c : curves)
            for (const Meeting& m : meetings(c, up)) return m.at.y;
        return 0.0;
    };
    // Beside the axis, where the wall has a tip.
    Part p = underTurned(d, 12);
    post(p, "to", to(side(bowl)));
    CHECK(volumeOf(built(p)) == Approx(under(heightAt, 12)).epsilon(2e-6));
    p.steps.back().slots["end"] = std::string("short of");
    p.steps.back().slots["gap"] = std::string("1.5 mm");
    const auto s = built(p);
    const Body &roof = s.state.body("roof"), &shorter = s.state.body("post");
    const int wall = resolveFaces(roof, **parseFaceRef(side(bowl))).value().items.at(0);
    const int end = resolveFaces(shorter, **parseFaceRef("end of step 4")).value().items.at(0);
    for (double x = 4; x <= 20; x += 2)
        for (const double y : {-5.0, 0.0, 3.0}) {
            const auto on = nearestOnFace(shorter, end, {x, y, heightAt(x, y) - 1.5});
            REQUIRE(on);
            const auto above = nearestOnFace(roof, wall, on->at);
            REQUIRE(above);
            CHECK(length(above->at - on->at) == Approx(1.5).margin(1e-3));
        }
}

TEST_CASE("Where a face ends it on a part only, it is told on how much nothing does") {
    Drawing d;
    const int c = d.draw(StrokeKind::Circle, {{0, 40}}, {8}); // narrower than the drawing: 16 of 20
    Part p = underRoof(d);
    post(p, "to", to(side(c)));
    const Error e = faultOf(p);
    CHECK(e.code == "extrude.no-end");
    CHECK(e.sentence.text().find("On 20 % of") == 0);
    p.steps.back().slots["face"] = References{};
    CHECK(faultOf(p).code == "extrude.face");
}

TEST_CASE("To the next wall it goes as far as it is free; to the far side through everything") {
    Part p = underRoof(slab(30, 30, 40, 35));
    Drawing upper = slab(50, 50, 40, 58);
    add(p, "draw",
        {{"plane", std::string("front")}, {"drawing", DrawingSlot(upper)}, {"name", std::string("upper")}});
    add(p, "extrude",
        {{"outline", std::string("upper")},
         {"length", std::string("80 mm")},
         {"way", std::string("both ways together")},
         {"does", std::string("as new body")},
         {"body", std::string("second")}});
    const std::string foot = p.steps[2].text("name");
    post(p, "to the next wall", {{"outline", foot}});
    CHECK(volumeOf(built(p)) == Approx(240 * 30).epsilon(1e-9));
    p.steps.back().slots["end"] = std::string("to the far side");
    CHECK(volumeOf(built(p)) == Approx(240 * 58).epsilon(1e-9));
    // On a body that is named, that one alone counts.
    p.steps.back().slots["does"] = std::string("adding to");
    p.steps.back().slots["target"] = std::string("second");
    p.steps.back().slots["end"] = std::string("to the next wall");
    CHECK(volumeOf(built(p), "second") == Approx(80 * 80 * 8 + 240 * 50).epsilon(1e-9));
    p.steps.back().slots["does"] = std::string("taking from");
    p.steps.back().slots["end"] = std::string("to the far side");
    const auto r = built(p);
    CHECK(volumeOf(r, "second") == Approx(80 * 80 * 8 - 240 * 8).epsilon(1e-9));
    CHECK(volumeOf(r, "roof") == Approx(80 * 80 * 5).epsilon(1e-9));
    p.steps.back().slots["sense"] = std::string("backward");
    CHECK(faultOf(p).code == "extrude.behind");
    Part alone;
    add(alone, "draw",
        {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({0, 0}, {5, 5}))}});
    add(alone, "extrude", text("end", "to the next wall"));
    CHECK(faultOf(alone).code == "extrude.alone");
}

TEST_CASE("To the level of a point, and what it ends at is followed when it moves") {
    Part p = underRoof(slab(40, 40));
    post(p, "to the level of",
         {{"point", References{"corner of side 3 of step 2 and side 6 of step 2 and start of step 2"}}});
    const auto first = Engine().regenerate(p);
    INFO(faults(first));
    for (const double low : {40.0, 25.0}) {
        p.steps[0].slots["drawing"] = DrawingSlot(slab(low, low));
        CHECK(volumeOf(built(p)) == Approx(240 * low).epsilon(1e-9));
    }
    p.steps.back().slots["point"] = References{};
    CHECK(faultOf(p).code == "extrude.point");
    Part q = underRoof(slab(40, 40));
    post(q, "short of", {{"face", References{side(kLowest)}}, {"gap", std::string("1 mm")}});
    for (const double low : {40.0, 22.5, 61.0}) {
        q.steps[0].slots["drawing"] = DrawingSlot(slab(low, low));
        CHECK(volumeOf(built(q)) == Approx(240 * (low - 1)).epsilon(1e-9));
    }
}

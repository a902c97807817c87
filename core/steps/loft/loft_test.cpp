#include "core/base/angles.hpp"
#include "core/shape/places.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

#include <set>

using namespace gc;
using namespace gc::test;

namespace {

/// Straight-sided, from one polygon to another with as many corners: the rule of prismatoids is exact.
double prismatoid(const std::vector<Vec2>& a, const std::vector<Vec2>& b, double height) {
    const auto area = [](const std::vector<Vec2>& p) {
        double sum = 0;
        for (std::size_t i = 0; i < p.size(); ++i) sum += cross(p[i], p[(i + 1) % p.size()]) / 2;
        return sum;
    };
    std::vector<Vec2> middle;
    for (std::size_t i = 0; i < a.size(); ++i) middle.push_back((a[i] + b[i]) * 0.5);
    return height / 6 * (area(a) + 4 * area(middle) + area(b));
}

std::vector<Vec2> ring(int n, double radius, double turned = 0) {
    std::vector<Vec2> out;
    for (int i = 0; i < n; ++i) out.push_back(turnedBy({radius, 0}, turned + 2 * kPi * i / n));
    return out;
}

const Slots kStraight = text("way", "straight");

/// The greatest distance of the places of a drawing on a level from the body.
double offBody(const Body& body, const Drawing& d, double level) {
    std::vector<int> faces;
    for (int f = 0; f < faceCount(body); ++f) faces.push_back(f);
    double worst = 0;
    for (const Stroke& s : d.strokes)
        for (const Curve2& c : curvesOf(d, s))
            for (int i = 0; i <= 40; ++i) {
                const Vec2 q = c.at(i / 40.0);
                const auto near = nearestOnFaces(body, faces, {q.x, q.y, level});
                worst = std::max(worst, near ? length(near->at - Vec3{q.x, q.y, level}) : 1e9);
            }
    return worst;
}

const ProbeOf loftProbe("loft", [] {
    Probe p{lofted({{regularLine(4, 20), 0}, {circleLine(12), 30}}), 5};
    p.shows = {{"leave", text("leave", "squarely")}};
    p.hides = {};
    return p;
});

} // namespace

TEST_CASE("Between squares a loft is a frustum of flat sides") {
    const auto r = built(lofted({{regularLine(4, 20), 0}, {regularLine(4, 10), 30}}, kStraight));
    const double a = 800, b = 200;
    CHECK(volumeOf(r) == Approx(30. / 3 * (a + b + std::sqrt(a * b))).epsilon(1e-9));
    REQUIRE(faceCount(lastBody(r)) == 6);
    for (int f = 0; f < 6; ++f) CHECK(planeOfFace(lastBody(r), f));
    // Smoothly, two sections are joined straight, too.
    CHECK(volumeOf(built(lofted({{regularLine(4, 20), 0}, {regularLine(4, 10), 30}}))) ==
          Approx(volumeOf(r)).epsilon(1e-9));
}

TEST_CASE("Polygons turned against each other obey the rule of prismatoids") {
    for (const auto& [n, turned] : {std::pair{4, 0.3}, {3, 0.5}, {6, 0.2}, {5, -0.55}}) {
        const auto r = built(lofted({{regularLine(n, 20), 0}, {regularLine(n, 14, turned), 25}}, kStraight));
        INFO(n << " corners turned by " << turned);
        CHECK(volumeOf(r) == Approx(prismatoid(ring(n, 20), ring(n, 14, turned), 25)).epsilon(1e-6));
        CHECK(faceCount(lastBody(r)) == n + 2);
    }
}

TEST_CASE("Between circles it is a cone's frustum with one smooth wall") {
    const auto r = built(lofted({{circleLine(20), 0}, {circleLine(12), 30}}));
    CHECK(volumeOf(r) == Approx(kPi * 30 / 3 * (400 + 240 + 144)).epsilon(1e-6));
    CHECK(faceCount(lastBody(r)) == 3);
}

TEST_CASE("To a point it is a pyramid, a cone, or round") {
    Part p;
    const std::string square = addSection(p, regularLine(4, 20), 0);
    Drawing tip;
    tip.draw(StrokeKind::Point, {{0, 0}});
    add(p, "plane", {{"name", std::string("top")}, {"from", std::string("ground")}, {"distance", inMm(30)}});
    const int point = add(p, "draw", {{"plane", std::string("top")}, {"drawing", DrawingSlot(tip)}}).id;
    const std::string apex =
        "point " + std::to_string(tip.strokes[0].points[0]) + " of step " + std::to_string(point);
    add(p, "loft", {{"sections", References{square, apex}}});
    const auto pyramid = built(p);
    CHECK(volumeOf(pyramid) == Approx(800 * 30. / 3).epsilon(1e-9));
    CHECK(faceCount(lastBody(pyramid)) == 5);
    p.steps[1].slots["drawing"] = DrawingSlot(circleLine(20));
    p.steps.back().slots["sections"] =
        References{"chain of stroke " + std::to_string(circleLine(20).strokes[0].id) + " of step 2", apex};
    const auto cone = built(p);
    CHECK(volumeOf(cone) == Approx(kPi * 400 * 30 / 3).epsilon(1e-6));
    CHECK(faceCount(lastBody(cone)) == 2);
    p.steps.back().slots["arrive"] = std::string("squarely");
    const auto dome = built(p);
    CHECK(volumeOf(dome) > 1.3 * volumeOf(cone));
    CHECK(volumeOf(dome) < 3 * volumeOf(cone));
    // From either end.
    p.steps.back().slots["sections"] = References{apex, p.steps.back().references("sections").front()};
    p.steps.back().slots["arrive"] = std::string("freely");
    CHECK(volumeOf(built(p)) == Approx(volumeOf(cone)).epsilon(1e-6));
}

TEST_CASE("Three smooth sections are met by one smooth wall") {
    const Drawing low = ellipseLine(30, 18), middle = roundedLine(44, 30, 6), high = circleLine(14);
    const auto r = built(lofted({{low, 0}, {middle, 25}, {high, 60}}));
    CHECK(faceCount(lastBody(r)) == 3);
    CHECK(offBody(lastBody(r), low, 0) < 1e-3);
    CHECK(offBody(lastBody(r), middle, 25) < 1e-3);
    CHECK(offBody(lastBody(r), high, 60) < 1e-3);
}

TEST_CASE("A diamond over a square: there and back with least twist, or as a thread is pulled") {
    const std::vector<std::pair<Drawing, double>> stand{
        {regularLine(4, 30), 0}, {regularLine(4, 18, kPi / 4), 40}, {regularLine(4, 24), 80}};
    Part p = lofted(stand, kStraight);
    const auto r = built(p);
    CHECK(faceCount(lastBody(r)) == 10);
    const double low = prismatoid(ring(4, 30), ring(4, 18, kPi / 4), 40),
                 high = prismatoid(ring(4, 18, kPi / 4), ring(4, 24, 0), 40);
    CHECK(volumeOf(r) == Approx(low + high).epsilon(1e-6));
    // Pulled one corner on, it is the mirror image: as large.
    const auto& a = stand[0].first.strokes;
    const auto& b = stand[1].first.strokes;
    const auto pulled = [&](std::size_t to) {
        Part q = p;
        q.steps.back().slots["matching"] = std::string("as its threads were pulled");
        q.steps.back().slots["threads"] = "1: " + std::to_string(a[0].id) + " to " + std::to_string(b[to].id);
        return q;
    };
    CHECK(volumeOf(built(pulled(0))) == Approx(low + high).epsilon(1e-6));
    CHECK(volumeOf(built(pulled(3))) == Approx(low + high).epsilon(1e-6));
}

TEST_CASE("Half way round, a loft would run through itself, and is refused with the place") {
    Part p = lofted({{regularLine(4, 30), 0}, {regularLine(4, 24), 40}}, kStraight);
    const auto& a = p.steps[1].drawing("drawing").strokes;
    const auto& b = p.steps[3].drawing("drawing").strokes;
    p.steps.back().slots["matching"] = std::string("as its threads were pulled");
    p.steps.back().slots["threads"] = "1: " + std::to_string(a[0].id) + " to " + std::to_string(b[2].id);
    const auto e = faultOf(p);
    CHECK(e.code == "loft.crossed");
    REQUIRE(e.place);
    CHECK(length(Vec3{e.place->x, e.place->y, 0}) < 1);
    // A stroke that is not there lets the thread go.
    p.steps.back().slots["threads"] = std::string("1: 777 to 1");
    CHECK(volumeOf(built(p)) == Approx(prismatoid(ring(4, 30), ring(4, 24), 40)).epsilon(1e-9));
}

TEST_CASE("Sections with different numbers of corners; every corner has its edge") {
    const auto r = built(lofted({{regularLine(4, 20), 0}, {regularLine(6, 16), 30}}, kStraight));
    CHECK(faceCount(lastBody(r)) == 8);
    const auto round = built(lofted({{regularLine(3, 20), 0}, {circleLine(8), 30}}));
    CHECK(faceCount(lastBody(round)) == 5);
    CHECK(offBody(lastBody(round), circleLine(8), 30) < 1e-3);
}

TEST_CASE("Squarely, the wall leaves its sections at right angles") {
    const auto r = built(lofted({{circleLine(20), 0}, {ellipseLine(16, 9), 30}},
                                {{"leave", std::string("squarely")}, {"arrive", std::string("squarely")}}));
    const Body& body = lastBody(r);
    for (int f = 0; f < faceCount(body); ++f) {
        if (planeOfFace(body, f)) continue;
        for (int i = 0; i < 60; ++i) {
            const double w = 2 * kPi * i / 60;
            const auto low = nearestOnFace(body, f, {20 * std::cos(w), 20 * std::sin(w), 0});
            REQUIRE(low);
            CHECK(std::fabs(low->normal.z) < std::sin(0.01 * kPi / 180));
            const auto high = nearestOnFace(body, f, {16 * std::cos(w), 9 * std::sin(w), 30});
            REQUIRE(high);
            CHECK(std::fabs(high->normal.z) < std::sin(0.01 * kPi / 180));
        }
    }
    CHECK(
        faultOf(lofted({{circleLine(20), 0}, {circleLine(12), 30}}, text("leave", "on from the walls there")))
            .code == "loft.no-walls");
}

TEST_CASE("What cannot be lofted is told") {
    CHECK(faultOf(lofted({{circleLine(20), 0}})).code == "loft.few");
    CHECK(faultOf(lofted({{circleLine(20), 10}, {circleLine(12), 10}})).code == "loft.same-place");
    Drawing open;
    open.draw(StrokeKind::Line, {{0, 0}, {10, 0}});
    open.draw(StrokeKind::Line, {{10, 0}, {10, 10}});
    const auto e = faultOf(lofted({{circleLine(20), 0}, {open, 30}}));
    CHECK(e.code == "loft.open");
    CHECK(e.place);
}

TEST_CASE("As a wall along its sections it is hollow, evenly at each of them") {
    const auto wallOf = [](const char* side) {
        return Slots{{"fill", std::string("as a wall of")},
                     {"thickness", std::string("2 mm")},
                     {"wall side", std::string(side)}};
    };
    const std::vector<std::pair<Drawing, double>> cone{{circleLine(20), 0}, {circleLine(12), 30}};
    const auto frustum = [](double r, double s) { return kPi * 30 / 3 * (r * r + r * s + s * s); };
    CHECK(volumeOf(built(lofted(cone, wallOf("inside")))) ==
          Approx(frustum(20, 12) - frustum(18, 10)).epsilon(1e-6));
    CHECK(volumeOf(built(lofted(cone, wallOf("outside")))) ==
          Approx(frustum(22, 14) - frustum(20, 12)).epsilon(1e-6));
    CHECK(volumeOf(built(lofted(cone, wallOf("on both sides")))) ==
          Approx(frustum(21, 13) - frustum(19, 11)).epsilon(1e-6));
    // Along an oval: as long as that, less what its whole turn takes away.
    double round = 0;
    for (int i = 0; i < 3600; ++i) {
        const double w = 2 * kPi * (i + 0.5) / 3600;
        round += std::hypot(20 * std::sin(w), 12 * std::cos(w)) * 2 * kPi / 3600;
    }
    CHECK(volumeOf(built(lofted({{ellipseLine(20, 12), 0}, {ellipseLine(20, 12), 30}}, wallOf("inside")))) ==
          Approx(30 * (2 * round - 4 * kPi)).epsilon(1e-6));
    // Straight-sided and turned: both walls go the same way, and every face has a name of its own.
    const double in = 2 * std::sqrt(2.0); // of a corner
    Slots straight = wallOf("inside");
    straight["way"] = std::string("straight");
    const auto r = built(lofted({{regularLine(4, 30), 0}, {regularLine(4, 18, kPi / 4), 40}}, straight));
    CHECK(volumeOf(r) == Approx(prismatoid(ring(4, 30), ring(4, 18, kPi / 4), 40) -
                                prismatoid(ring(4, 30 - in), ring(4, 18 - in, kPi / 4), 40))
                             .epsilon(1e-6));
    CHECK(faceCount(lastBody(r)) == 10);
    std::set<std::string> names;
    for (int f = 0; f < 10; ++f) names.insert(referencesForFace(lastBody(r), f).front());
    CHECK(names.size() == 10);
    // The rim of a face has no drawing that a wall could run along.
    Part p = block();
    const std::string high = addSection(p, circleLine(8), 50);
    Slots slots = wallOf("inside");
    slots["sections"] = References{"rim of end of step 2", high};
    add(p, "loft", slots);
    CHECK(faultOf(p).code == "loft.wall");
}

TEST_CASE("A leaf guard: two five-sided outlines, straight from one to the other, shelled from below") {
    Part p = lofted({{regularLine(5, 40), 0}, {regularLine(5, 25), 30}}, kStraight);
    const int loft = p.steps.back().id;
    const double outer = volumeOf(built(p));
    add(p, "shell",
        {{"open", References{"start of step " + std::to_string(loft)}}, {"wall", std::string("2 mm")}});
    const auto r = built(p);
    // Inside the sides lie 2 mm within, square to themselves, and the top 2 mm below.
    const double in = std::cos(kPi / 5), lean = std::atan(15 * in / 30);
    const auto inner = [&](double z) { return (40 - 0.5 * z) - 2 / std::cos(lean) / in; };
    const double hollow = prismatoid(ring(5, inner(0)), ring(5, inner(28)), 28);
    CHECK(volumeOf(r) == Approx(outer - hollow).epsilon(1e-6));
}

TEST_CASE("Round to oval between guides, with a spigot, shelled: the wall is even") {
    Part p;
    const std::string neck = addSection(p, circleLine(13), 0), face = addSection(p, ellipseLine(42, 26), 48);
    References guides;
    for (const double side : {1.0, -1.0}) {
        Drawing d;
        d.draw(StrokeKind::Poles, {{side * 13, 0}, {side * 13, 20}, {side * 38, 28}, {side * 42, 48}});
        guides.push_back(addDrawing(p, d, "front"));
    }
    const int loft = add(p, "loft",
                         {{"sections", References{neck, face}},
                          {"led", std::string("guided by")},
                          {"guides", guides},
                          {"leave", std::string("squarely")}})
                         .id;
    const auto whole = built(p);
    CHECK(faceCount(lastBody(whole)) == 3);
    add(p, "shell",
        {{"open", References{"start of step " + std::to_string(loft)}}, {"wall", std::string("2 mm")}});
    const auto r = built(p);
    // Everything outside lies 2 mm from what is inside: of each place of the inner wall the outer is as far.
    const Body& body = lastBody(r);
    std::vector<int> outer, inner;
    for (int f = 0; f < faceCount(body); ++f) {
        if (planeOfFace(body, f)) continue;
        (referencesForFace(body, f).front().starts_with("inside of") ? inner : outer).push_back(f);
    }
    REQUIRE(outer.size() == 1);
    REQUIRE(inner.size() == 1);
    for (int i = 0; i < 12; ++i)
        for (const double z : {8.0, 20.0, 32.0, 40.0}) {
            const double w = 2 * kPi * i / 12;
            const auto on = nearestOnFaces(body, inner, {20 * std::cos(w), 15 * std::sin(w), z});
            REQUIRE(on);
            const auto off = nearestOnFaces(body, outer, on->at);
            REQUIRE(off);
            CHECK(length(off->at - on->at) == Approx(2).margin(2e-3));
        }
}

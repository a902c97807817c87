#include "core/sketch/over_all.hpp"

#include "core/sketch/drawing_words.hpp"
#include "core/sketch/measured.hpp"
#include "core/sketch/size_figure.hpp"
#include "tests/support/pen.hpp"

#include <catch2/catch.hpp>

#include <random>

using namespace gc;
using namespace gc::test;

namespace {

int add(Drawing& d, std::optional<Relation> r) {
    REQUIRE(r);
    r->id = d.nextId++;
    d.relations.push_back(*r);
    return r->id;
}

} // namespace

TEST_CASE("Two circles over all measure from far side to far side, across, up and slanting") {
    std::mt19937 random(5);
    const auto within = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    for (int trial = 0; trial < 60; ++trial) {
        Pen p;
        const Vec2 a{within(0, 50), within(0, 50)}, b{within(60, 90), within(60, 90)};
        const int one = p.circle(a, within(2, 8)), two = p.circle(b, within(2, 8));
        // The figure's place says which way: under both, beside both, or between them.
        const Vec2 middle = (a + b) * 0.5;
        const int way = trial % 3;
        const Vec2 place = way == 0 ? Vec2{middle.x, -40} : way == 1 ? Vec2{-40, middle.y} : middle;
        const std::vector<int> order = trial % 2 ? std::vector{one, two} : std::vector{two, one};
        const int id = add(p.d, dimensionFor(p.d, order, place, true));
        const auto said = [&] {
            const Vec2 by = p.at(p.centre(two)) - p.at(p.centre(one));
            return (way == 0 ? by.x : way == 1 ? by.y : length(by)) + p.radius(one) + p.radius(two);
        };
        CHECK(p.d.findRelation(id)->kind == (way == 0 ? K::Across : way == 1 ? K::Along : K::Distance));
        CHECK(measured(p.d, *p.d.findRelation(id)) == Approx(said()));
        const int before = countFreedoms(p.d, {}) + 1;
        p.d.relate(K::Radius, {one});
        CHECK(countFreedoms(p.d, {}) + 1 == before - 1);
        p.v[id] = 130 + trial;
        REQUIRE(p.settle().solved);
        CHECK(said() == Approx(130 + trial).epsilon(1e-10));
        const DimensionShape shape = dimensionShape(p.d, *p.d.findRelation(id), 5);
        CHECK(!shape.lines.empty());
    }
}

TEST_CASE("A circle over all to a line, to the axis and to a point") {
    Pen p;
    const int c = p.circle({30, 20}, 4), l = p.line({0, -10}, {50, 0});
    const int dot = p.dot({-5, 3});
    SECTION("a line, on either side") {
        for (const double side : {1.0, -1.0}) {
            Pen q = p;
            if (side < 0) q.d.findPoint(q.centre(c))->at = {30, -40};
            const int id = add(q.d, dimensionFor(q.d, {l, c}, {20, 10}, true));
            q.v[id] = 33;
            REQUIRE(q.settle().solved);
            CHECK(side * heightOver(q, l, q.at(q.centre(c))) + q.radius(c) == Approx(33));
        }
    }
    SECTION("the axis: a diameter") {
        const int id = add(p.d, dimensionFor(p.d, {kAxisLine, c}, {20, 10}, true));
        CHECK(p.d.findRelation(id)->kind == K::DiameterAboutAxis);
        CHECK(measured(p.d, *p.d.findRelation(id)) == Approx(68));
        p.v[id] = 80;
        REQUIRE(p.settle().solved);
        CHECK(2 * (p.at(p.centre(c)).x + p.radius(c)) == Approx(80));
    }
    SECTION("a point") {
        const int id = add(p.d, dimensionFor(p.d, {dot, c}, {10, -30}, true));
        p.v[id] = 50;
        REQUIRE(p.settle().solved);
        CHECK(p.at(p.centre(c)).x + p.radius(c) - p.at(dot).x == Approx(50));
    }
    SECTION("without a circle it makes no difference") {
        CHECK(!hasOverAll(p.d, {dot, l}));
        CHECK(!hasOverAll(p.d, {c}));
        CHECK(dimensionFor(p.d, {dot, l}, {3, 3}, true) == dimensionFor(p.d, {dot, l}, {3, 3}));
    }
}

TEST_CASE("An arc that does not reach out is measured to its end that lies farthest out") {
    Pen p;
    const int left = p.arc({0, 0}, 10, kPi / 2, 3 * kPi / 2); // bulges to the left
    const int right = p.arc({40, 0}, 10, -kPi / 2, kPi / 2);  // and this one to the right
    const auto over = dimensionFor(p.d, {left, right}, {20, -50}, true);
    REQUIRE(over);
    CHECK(measured(p.d, *over) == Approx(60));
    const auto within = dimensionFor(p.d, {right, left}, {20, -50}, true);
    REQUIRE(within);
    CHECK(measured(p.d, *within) == Approx(60)); // the order of clicks says nothing
    // Up, both reach out; a third of a circle that opens upwards does not.
    const int cup = p.arc({20, 30}, 10, 1.2 * kPi, 1.8 * kPi);
    const auto up = dimensionFor(p.d, {kOrigin, cup}, {-60, 10}, true);
    REQUIRE(up);
    CHECK(!up->overAll);
    CHECK(measured(p.d, *up) == Approx(30 + 10 * std::sin(1.2 * kPi)));
    Relation wrong = *up;
    wrong.overAll = true;
    wrong.of = {kOrigin, cup};
    freezeSense(p.d, wrong);
    CHECK(whyNot(p.d, wrong).find("does not reach") != std::string::npos);
    CHECK(whyNot(p.d, wrong, false).empty());
}

TEST_CASE("A size is taken over all and back, and reads so") {
    Pen p;
    const int one = p.circle({10, 10}, 3), two = p.circle({50, 20}, 5);
    const int id = add(p.d, dimensionFor(p.d, {one, two}, {30, -40}));
    const auto over = takenOtherwise(p.d, *p.d.findRelation(id));
    REQUIRE(over);
    CHECK(over->overAll);
    CHECK(over->id == id);
    CHECK(measured(p.d, *over) == Approx(48));
    CHECK(sentenceOf(p.d, *over, UnitSystem()).find("circle 1 to circle 2 over all") != std::string::npos);
    const auto back = takenOtherwise(p.d, *over);
    REQUIRE(back);
    CHECK(measured(p.d, *back) == Approx(40));
    CHECK(back->of == p.d.findRelation(id)->of);
    Relation line;
    line.kind = K::Distance;
    line.of = {p.line({0, 0}, {5, 5})};
    CHECK(!takenOtherwise(p.d, line));
    Relation nonsense;
    nonsense.overAll = true;
    nonsense.kind = K::Radius;
    nonsense.of = {one};
    CHECK(!whyNot(p.d, nonsense, false).empty());
    nonsense.of = {};
    nonsense.kind = K::DiameterAboutAxis;
    CHECK(!whyNot(p.d, nonsense, false).empty());
}

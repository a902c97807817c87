#include "core/sketch/edit/copy.hpp"

#include "core/sketch/arcs.hpp"
#include "core/sketch/edit/repeat.hpp"
#include "core/sketch/measured.hpp"
#include "core/sketch/region.hpp"
#include "tests/support/pen.hpp"
#include "tests/support/whole_area.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// An open leaf of a line, an arc and a spline, starting and ending on the axis.
struct Leaf : Pen {
    int foot = line({0, 0}, {12, 0});
    int bow = arc({12, 6}, 6, -kPi / 2, kPi / 2);
    int top = 0;
    Leaf() {
        top = drawSpline(d, {{12, 12}, {6, 16}, {0, 18}});
        join(to(foot), from(bow));
        join(to(bow), from(top));
        d.relate(K::OnStroke, {from(foot), kAxisLine});
        d.relate(K::OnStroke, {d.findStroke(top)->points[4], kAxisLine});
    }
    std::vector<int> all() const { return {foot, bow, top}; }
};

} // namespace

TEST_CASE("Placings keep shapes: turned, scaled and mirrored") {
    const Placing turn = Placing::turnAbout({3, 4}, kPi / 2, 2);
    CHECK(length(turn({3, 4}) - Vec2{3, 4}) < 1e-12);
    CHECK(length(turn({4, 4}) - Vec2{3, 6}) < 1e-12);
    const Placing mirror = Placing::mirrorAcross({{1, 1}, {4, 5}});
    for (const Vec2 p : {Vec2{7, -2}, {0, 3}}) {
        const Vec2 q = mirror(p), u = unit(Vec2{3, 4});
        CHECK(std::fabs(dot(q - p, u)) < 1e-12);
        CHECK(std::fabs(cross(u, (p + q) * 0.5 - Vec2{1, 1})) < 1e-12);
    }
}

TEST_CASE("A mirrored half closes the whole and follows it") {
    Leaf p;
    const double half = wholeArea(p.d);
    REQUIRE(half > 100);
    const int freedoms = countFreedoms(p.d, {});
    const EditOutcome out = mirrorStrokes(p.d, p.all(), kAxisLine);
    REQUIRE(out.done());
    CHECK(out.made.size() == 3);
    CHECK(wholeArea(p.d) == Approx(2 * half).epsilon(1e-7));
    CHECK(countFreedoms(p.d, {}) == freedoms); // the image adds none
    Drawing rest = p.d;
    REQUIRE(settleTo(rest, {}).solved);
    for (const DrawnPoint& q : p.d.points) CHECK(length(rest.at(q.id) - q.at) < 1e-7);
    // Whatever is dragged, the image follows.
    Settler settler(p.d);
    settler.grab({p.to(p.foot)});
    CHECK(settler.drag({3, 1.5}).solved);
    settler.writeTo(p.d);
    for (const DrawnPoint& q : p.d.points) {
        const bool mirrored = std::any_of(p.d.points.begin(), p.d.points.end(), [&](const DrawnPoint& r) {
            return length(r.at - Vec2{-q.at.x, q.at.y}) < 1e-6;
        });
        CHECK(mirrored);
    }
    CHECK(!mirrorStrokes(p.d, {}, kAxisLine).done());
    CHECK(!mirrorStrokes(p.d, {p.foot}, p.bow).done());
}

TEST_CASE("What is moved, turned or scaled takes its sizes along and tells what it lost") {
    Pen p;
    const auto ring = p.ring({{10, 10}, {40, 10}, {40, 25}, {10, 25}});
    for (const int side : ring)
        p.d.relate(std::fabs(p.along(side).x) < 1e-9 ? K::Vertical : K::Horizontal, {side});
    p.d.relate(K::Distance, {ring[0]}, "30 mm");
    p.d.relate(K::Distance, {ring[1]}, "wall * 5");
    p.d.relate(K::Across, {kOrigin, p.from(ring[0])}, "10 mm");
    Drawing d = p.d;
    SECTION("moved: the distance to the rest is the new one") {
        const EditOutcome out = placeStrokes(d, ring, Placing::move({5, 3}));
        CHECK(out.lost.empty());
        CHECK(d.relations.back().expression == "15 mm");
        CHECK(length(d.at(p.from(ring[0])) - Vec2{15, 13}) < 1e-12);
    }
    SECTION("scaled: plain figures scale, expressions are told") {
        const EditOutcome out = placeStrokes(d, ring, Placing::turnAbout({10, 10}, 0, 2));
        REQUIRE(out.lost.size() == 1);
        CHECK(out.lost[0].find("wall * 5") != std::string::npos);
        const auto has = [&](const char* e) {
            return std::any_of(d.relations.begin(), d.relations.end(),
                               [&](const Relation& r) { return r.expression == e; });
        };
        CHECK(has("60 mm"));
        CHECK(wholeArea(d) == Approx(4 * 30 * 15));
    }
    SECTION("turned: level and upright are told") {
        const EditOutcome out = placeStrokes(d, ring, Placing::turnAbout({0, 0}, 0.3));
        CHECK(out.lost.size() == 4);
        CHECK(wholeArea(d) == Approx(30 * 15));
        REQUIRE(settleTo(d, {}).solved);
        CHECK(wholeArea(d) == Approx(30 * 15));
    }
    SECTION("copied: with what is said among the copies") {
        const auto copyOf = copyStrokes(d, ring, Placing::move({50, 0}));
        CHECK(wholeArea(d) == Approx(2 * 30 * 15));
        CHECK(copyOf.size() == 12);
        // Four joints, four directions and two lengths; not the distance to the origin.
        CHECK(d.relations.size() == p.d.relations.size() + 10);
    }
}

TEST_CASE("What an edit does not touch is left alone, whether it holds or not") {
    Pen p;
    const int moved = p.line({0, 0}, {10, 0}), other = p.line({20, 0}, {30, 4});
    p.d.relate(K::Horizontal, {other}); // it does not lie level yet
    const int level = p.d.relate(K::Horizontal, {moved});
    const EditOutcome out = placeStrokes(p.d, {moved}, Placing::turnAbout({}, 0.5));
    CHECK(out.lost.size() == 1);
    CHECK(p.d.relations.size() == 1);
    CHECK(!p.d.findRelation(level));
}

TEST_CASE("A drawing beside another keeps its shape and what ties it") {
    Leaf p, q;
    const double one = wholeArea(q.d);
    placeStrokes(q.d, q.all(), Placing::move({40, 0}));
    const int freedoms = countFreedoms(p.d, {}) + countFreedoms(q.d, {});
    const auto added = addDrawing(p.d, q.d);
    CHECK(added.size() == 3);
    CHECK(countFreedoms(p.d, {}) == freedoms);
    CHECK(p.d.strokes.size() == 6);
    CHECK(wholeArea(p.d) >= one);
    for (std::size_t i = 1; i < p.d.relations.size(); ++i)
        CHECK(p.d.relations[i].id > p.d.relations[i - 1].id);
}

TEST_CASE("Conics and ellipses that are repeated or mirrored keep the shape of the first") {
    Pen p;
    const int conic = p.d.draw(S::Conic, {{12, 10}, {0, 30}, {10, 30}}, {0.4});
    const int ellipse = p.d.draw(S::Ellipse, {{30, 10}, {36, 12}}, {4});
    p.d.relate(K::OnStroke, {p.to(conic), kAxisLine}); // one end on the mirror
    const int before = countFreedoms(p.d, p.v);
    const EditOutcome mirrored = mirrorStrokes(p.d, {conic, ellipse}, kAxisLine);
    REQUIRE(mirrored.done());
    CHECK(countFreedoms(p.d, p.v) == before);
    p.size(K::Ratio, {conic}, 0.55);
    REQUIRE(p.settle().solved);
    CHECK(p.radius(mirrored.made[0]) == Approx(0.55));

    Pen rows;
    const int one = rows.d.draw(S::Conic, {{12, 10}, {2, 30}, {10, 30}}, {0.4});
    const int two = rows.d.draw(S::Ellipse, {{30, 10}, {36, 12}}, {4});
    const int free = countFreedoms(rows.d, rows.v);
    RepeatWish wish;
    wish.columns = 3, wish.rows = 1;
    wish.across = 50;
    wish.acrossExpression = "50 mm";
    const EditOutcome out = repeatStrokes(rows.d, {one, two}, wish);
    REQUIRE(out.done());
    DimensionValues v = rows.v;
    for (const Relation& r : rows.d.relations)
        if (wordsOf(r.kind).sized) v[r.id] = measured(rows.d, r);
    CHECK(countFreedoms(rows.d, v) == free);
}

TEST_CASE("An elliptical arc and its mirror image stay each other's image, from end to start") {
    for (const bool tilted : {false, true}) {
        Pen p;
        const Vec2 half = tilted ? Vec2{30, 12} : Vec2{35, 0},
                   up = Vec2{-half.y, half.x} * (20 / length(half));
        const auto at = [&](double a) { return Vec2{52, 35} + half * std::cos(a) + up * std::sin(a); };
        const int arc = p.d.draw(S::EllipseArc, {{52, 35}, Vec2{52, 35} + half, at(0.3), at(2.6)}, {20});
        const int before = countFreedoms(p.d, {});
        const EditOutcome out = mirrorStrokes(p.d, {arc}, kAxisLine);
        REQUIRE(out.done());
        CHECK(countFreedoms(p.d, {}) == before);
        const auto check = [&](const Drawing& d) {
            const StrokeRun one(d, *d.findStroke(arc)), image(d, *d.findStroke(out.made[0]));
            for (int k = 0; k <= 20; ++k) {
                const Vec2 q = one.at(one.end() * k / 20.0), r = image.at(image.end() * (20 - k) / 20.0);
                CHECK(length(Vec2{-q.x, q.y} - r) < 1e-7);
            }
        };
        check(p.d);
        Drawing moved = p.d;
        REQUIRE(settleTo(moved, {}).solved);
        for (const DrawnPoint& q : p.d.points) CHECK(length(moved.at(q.id) - q.at) < 1e-8);
        const int wide = p.d.relate(K::Across, {kOrigin, p.d.findStroke(arc)->points[2]});
        const double now = p.at(p.d.findStroke(arc)->points[2]).x;
        REQUIRE(settleTo(p.d, {{wide, now + 4}}).solved);
        check(p.d);
    }
}

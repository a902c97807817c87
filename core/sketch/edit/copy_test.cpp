#include "core/sketch/edit/copy.hpp"

#include "core/sketch/arcs.hpp"
#include "core/sketch/measured.hpp"
#include "core/sketch/region.hpp"
#include "tests/support/pen.hpp"

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

double wholeArea(const Drawing& d) {
    const Closedness c = findRegions(d);
    double sum = 0;
    for (const Region& r : c.regions)
        if (r.depth % 2 == 0) sum += r.area();
    return sum;
}

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

TEST_CASE("Rows follow the pitch and the first of them") {
    Pen p;
    const int c = p.circle({10, 10}, 2), l = p.line({8, 14}, {12, 15});
    p.d.relate(K::Radius, {c}, "2 mm");
    Rows rows;
    rows.columns = 4, rows.rows = 3, rows.across = 9, rows.up = 7;
    rows.acrossExpression = "9 mm", rows.upExpression = "7 mm";
    const int freedoms = countFreedoms(p.d, {});
    const EditOutcome out = repeatInRows(p.d, {c, l}, rows);
    REQUIRE(out.done());
    CHECK(out.made.size() == 22);
    CHECK(countFreedoms(p.d, {}) == freedoms);
    CHECK(wholeArea(p.d) == Approx(12 * kPi * 4).epsilon(1e-9));
    DimensionValues v;
    for (const Relation& r : p.d.relations) {
        if (r.expression == "9 mm") v[r.id] = 11;
        if (r.expression == "7 mm") v[r.id] = 8;
        if (r.expression == "2 mm") v[r.id] = 3;
    }
    REQUIRE(v.size() == 3);
    REQUIRE(settleTo(p.d, v).solved);
    CHECK(wholeArea(p.d) == Approx(12 * kPi * 9).epsilon(1e-9));
    std::vector<Vec2> centres;
    for (const Stroke& s : p.d.strokes)
        if (s.kind == S::Circle) centres.push_back(p.d.at(s.points[0]) - p.at(p.centre(c)));
    for (int j = 0; j < 3; ++j)
        for (int i = 0; i < 4; ++i)
            CHECK(std::any_of(centres.begin(), centres.end(), [&](Vec2 at) {
                return length(at - Vec2{i * 11.0, j * 8.0}) < 1e-7;
            }));
    CHECK(!repeatInRows(p.d, {c}, Rows{1, 1, 5, 5, "", ""}).done());
    CHECK(!repeatInRows(p.d, {c}, Rows{100, 100, 5, 5, "", ""}).done());
}

TEST_CASE("Copies around a centre keep their angle and follow the first") {
    Pen p;
    const int a = p.arc({20, 0}, 4, 0.4, 4.4), l = p.line({10, 0}, {16, 1});
    const int spoke = p.line({0, 0}, {6, 0});
    p.join(p.from(spoke), kOrigin);
    const int freedoms = countFreedoms(p.d, {});
    const EditOutcome out = repeatAround(p.d, {a, l, spoke}, kOrigin, 6, kPi / 3, "360° / 6");
    REQUIRE(out.done());
    CHECK(out.made.size() == 15);
    CHECK(countFreedoms(p.d, {}) == freedoms);
    Settler settler(p.d);
    settler.grab({p.to(l)});
    CHECK(settler.drag({2, 5}).solved);
    settler.writeTo(p.d);
    const Vec2 tip = p.at(p.to(l));
    for (int k = 0; k < 6; ++k) {
        const double t = k * kPi / 3;
        const Vec2 want{tip.x * std::cos(t) - tip.y * std::sin(t), tip.x * std::sin(t) + tip.y * std::cos(t)};
        CHECK(std::any_of(p.d.points.begin(), p.d.points.end(),
                          [&](const DrawnPoint& q) { return length(q.at - want) < 1e-7; }));
    }
    CHECK(!repeatAround(p.d, {a}, kOrigin, 7, kPi / 3, "").done());
}

TEST_CASE("Copies along a curve are evenly spaced by its length") {
    Pen p;
    const int dot = p.circle({30, 0}, 1);
    const int rail = p.arc({0, 0}, 30, 0, kPi);
    const EditOutcome out = repeatAlong(p.d, {dot}, rail, 7, true);
    REQUIRE(out.done());
    REQUIRE(out.made.size() == 6);
    for (std::size_t k = 0; k < 6; ++k) {
        const double t = kPi * static_cast<double>(k + 1) / 6;
        CHECK(length(p.at(p.centre(out.made[k])) - Vec2{30 * std::cos(t), 30 * std::sin(t)}) < 1e-7);
    }
    CHECK(!repeatAlong(p.d, {dot}, kOrigin, 4, true).done());
}

TEST_CASE("Copies along a curve follow it, their original, and stay even") {
    for (const bool turning : {false, true})
        for (const bool spline : {false, true}) {
            INFO((spline ? "spline" : "arc") << (turning ? ", turning" : ""));
            Pen p;
            const int rail =
                spline ? drawSpline(p.d, {{0, 0}, {20, 12}, {45, 6}, {60, 20}}) : p.arc({0, 0}, 30, 0, kPi);
            const Vec2 start = StrokeRun(p.d, *p.d.findStroke(rail)).at(0);
            const int a = p.line(start, start + Vec2{0, -4}),
                      b = p.line(start + Vec2{0, -4}, start + Vec2{3, -4});
            p.join(p.to(a), p.from(b));
            const int before = countFreedoms(p.d, {});
            const EditOutcome out = repeatAlong(p.d, {a, b}, rail, 6, turning);
            REQUIRE(out.done());
            REQUIRE(out.made.size() == 10);
            CHECK(countFreedoms(p.d, {}) == before);
            // The rail another, the original another.
            const int end = p.d.findStroke(rail)->points[spline ? 6 : 1],
                      hold = p.d.relate(K::Distance, {end, p.from(a)});
            const int size = p.d.relate(K::Distance, {a});
            REQUIRE(settleTo(p.d, {{hold, measured(p.d, *p.d.findRelation(hold)) + 5}, {size, 6}}).solved);
            const StrokeRun run(p.d, *p.d.findStroke(rail));
            const double whole = run.length();
            const Vec2 from = run.at(0), ahead = unit(run.slope(0));
            for (std::size_t k = 1; k < 6; ++k) {
                const double u = run.atLength(whole * static_cast<double>(k) / 5);
                const double turn = turning ? turnBetween(ahead, unit(run.slope(u))) : 0;
                const int copy = out.made[2 * (k - 1)];
                for (const std::size_t i : {0u, 1u}) {
                    const Vec2 original = p.at(p.d.findStroke(a)->points[i]) - from;
                    CHECK(length(p.at(p.d.findStroke(copy)->points[i]) - run.at(u) -
                                 turnedBy(original, turn)) < 1e-7);
                }
                CHECK(length(p.along(copy)) == Approx(6).margin(1e-9));
            }
        }
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
    Rows wish;
    wish.columns = 3;
    wish.across = 50;
    wish.acrossExpression = "50 mm";
    const EditOutcome out = repeatInRows(rows.d, {one, two}, wish);
    REQUIRE(out.done());
    DimensionValues v = rows.v;
    for (const Relation& r : rows.d.relations)
        if (wordsOf(r.kind).sized) v[r.id] = measured(rows.d, r);
    CHECK(countFreedoms(rows.d, v) == free);
}

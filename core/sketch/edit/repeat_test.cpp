#include "core/sketch/edit/repeat.hpp"

#include "core/sketch/arcs.hpp"
#include "core/sketch/measured.hpp"
#include "core/sketch/region.hpp"
#include "core/sketch/repeats.hpp"
#include "core/sketch/stroke_run.hpp"
#include "tests/support/pen.hpp"
#include "tests/support/whole_area.hpp"

#include <catch2/catch.hpp>

#include <random>

using namespace gc;
using namespace gc::test;

namespace {

std::string mm(double v) {
    return std::to_string(std::fabs(v)) + " mm";
}

RepeatWish inRows(int columns, int rows, double across, double up) {
    RepeatWish w;
    w.columns = columns, w.rows = rows, w.across = across, w.up = up;
    w.acrossExpression = mm(across), w.upExpression = mm(up);
    return w;
}

RepeatWish around(int centre, int count, double angle) {
    RepeatWish w;
    w.kind = Repeat::Kind::Around;
    w.columns = count, w.across = angle, w.about = centre;
    w.acrossExpression = std::to_string(std::fabs(angle) * 180 / kPi) + "°";
    return w;
}

RepeatWish along(int rail, int count, bool turning) {
    RepeatWish w;
    w.kind = Repeat::Kind::Along;
    w.columns = count, w.about = rail, w.turning = turning;
    return w;
}

/// Has it a circle centred there?
bool hasCircleAt(const Drawing& d, Vec2 at) {
    return std::any_of(d.strokes.begin(), d.strokes.end(), [&](const Stroke& s) {
        return s.kind == S::Circle && length(d.at(s.points[0]) - at) < 1e-7;
    });
}

int circlesIn(const Drawing& d) {
    return static_cast<int>(std::count_if(d.strokes.begin(), d.strokes.end(),
                                          [](const Stroke& s) { return s.kind == S::Circle; }));
}

/// It lies as it does with every dimension at what it measures, and nothing moves when it is settled.
void checkHolds(const Drawing& d) {
    DimensionValues v;
    for (const Relation& r : d.relations)
        if (wordsOf(r.kind).sized) v[r.id] = measured(d, r);
    Drawing rest = d;
    CHECK(settleTo(rest, v).solved);
    for (const DrawnPoint& p : d.points) CHECK(length(rest.at(p.id) - p.at) < 1e-8);
}

} // namespace

TEST_CASE("Rows follow the pitch and the first of them") {
    Pen p;
    const int c = p.circle({10, 10}, 2), l = p.line({8, 14}, {12, 15});
    p.d.relate(K::Radius, {c}, "2 mm");
    const RepeatWish rows = inRows(4, 3, 9, 7);
    const int freedoms = countFreedoms(p.d, {});
    const EditOutcome out = repeatStrokes(p.d, {c, l}, rows);
    REQUIRE(out.done());
    CHECK(out.made.size() == 22);
    CHECK(countFreedoms(p.d, {}) == freedoms);
    CHECK(wholeArea(p.d) == Approx(12 * kPi * 4).epsilon(1e-9));
    DimensionValues v;
    for (const Relation& r : p.d.relations) {
        if (r.expression == mm(9)) v[r.id] = 11;
        if (r.expression == mm(7)) v[r.id] = 8;
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
    CHECK(!repeatStrokes(p.d, {c}, inRows(1, 1, 5, 5)).done());
    CHECK(!repeatStrokes(p.d, {c}, inRows(100, 100, 5, 5)).done());
}

TEST_CASE("Copies around a centre keep their angle and follow the first") {
    Pen p;
    const int a = p.arc({20, 0}, 4, 0.4, 4.4), l = p.line({10, 0}, {16, 1});
    const int spoke = p.line({0, 0}, {6, 0});
    p.join(p.from(spoke), kOrigin);
    const int freedoms = countFreedoms(p.d, {});
    const EditOutcome out = repeatStrokes(p.d, {a, l, spoke}, around(kOrigin, 6, kPi / 3));
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
    CHECK(!repeatStrokes(p.d, {a}, around(kOrigin, 7, kPi / 3)).done());
}

TEST_CASE("Copies along a curve are evenly spaced by its length") {
    Pen p;
    const int dot = p.circle({30, 0}, 1);
    const int rail = p.arc({0, 0}, 30, 0, kPi);
    const EditOutcome out = repeatStrokes(p.d, {dot}, along(rail, 7, true));
    REQUIRE(out.done());
    REQUIRE(out.made.size() == 6);
    for (std::size_t k = 0; k < 6; ++k) {
        const double t = kPi * static_cast<double>(k + 1) / 6;
        CHECK(length(p.at(p.centre(out.made[k])) - Vec2{30 * std::cos(t), 30 * std::sin(t)}) < 1e-7);
    }
    CHECK(!repeatStrokes(p.d, {dot}, along(kOrigin, 4, true)).done());
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
            const EditOutcome out = repeatStrokes(p.d, {a, b}, along(rail, 6, turning));
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

TEST_CASE("Rows are changed in number and pitch: what stays keeps its name, and nothing comes loose") {
    Pen p;
    const int c = p.circle({10, 10}, 2);
    const int freedoms = countFreedoms(p.d, {});
    const EditOutcome out = repeatStrokes(p.d, {c}, inRows(4, 3, 9, 7));
    REQUIRE(out.done());
    REQUIRE(p.d.repeats.size() == 1);
    const int id = p.d.repeats[0].id;
    const int second = out.made[0]; // beside the first
    const auto check = [&](int columns, int rows, Vec2 pitch) {
        CHECK(circlesIn(p.d) == columns * rows);
        for (int j = 0; j < rows; ++j)
            for (int i = 0; i < columns; ++i)
                CHECK(hasCircleAt(p.d, Vec2{10, 10} + Vec2{i * pitch.x, j * pitch.y}));
        CHECK(countFreedoms(p.d, {}) == freedoms);
        checkHolds(p.d);
        const RepeatWish now = wishOf(p.d, p.d.repeats[0]);
        CHECK(now.columns == columns);
        CHECK(now.rows == rows);
        if (columns > 1) CHECK(now.across == Approx(pitch.x));
        if (rows > 1) CHECK(now.up == Approx(pitch.y));
    };
    REQUIRE(changeRepeat(p.d, id, inRows(6, 2, 8, 7)).done());
    check(6, 2, {8, 7});
    CHECK(p.d.findStroke(second));
    REQUIRE(changeRepeat(p.d, id, inRows(3, 4, -5, 6)).done()); // to the other side
    check(3, 4, {-5, 6});
    CHECK(p.d.findStroke(second));
    REQUIRE(changeRepeat(p.d, id, inRows(1, 5, 9, 6)).done());
    check(1, 5, {9, 6});
    CHECK(!p.d.findStroke(second));
    REQUIRE(changeRepeat(p.d, id, inRows(2, 2, 9, 6)).done());
    check(2, 2, {9, 6});
    const Drawing before = p.d;
    CHECK(!changeRepeat(p.d, id, inRows(1, 1, 9, 6)).done());
    CHECK(!changeRepeat(p.d, id, inRows(100, 100, 9, 6)).done());
    CHECK(!changeRepeat(p.d, 999, inRows(3, 3, 9, 6)).done());
    CHECK(p.d == before); // refused whole
}

TEST_CASE("A copy that is removed leaves the others where they are and stays away") {
    Pen p;
    const int c = p.circle({30, 0}, 2);
    const int freedoms = countFreedoms(p.d, {});
    SECTION("of a row") {
        const EditOutcome out = repeatStrokes(p.d, {c}, inRows(6, 1, 9, 7));
        for (const std::size_t gone : {0u, 2u}) { // the one that the pitch hangs on, and one between
            p.d.erase({out.made[gone]});
            CHECK(countFreedoms(p.d, {}) == freedoms);
            checkHolds(p.d);
        }
        CHECK(circlesIn(p.d) == 4);
        REQUIRE(changeRepeat(p.d, p.d.repeats[0].id, inRows(8, 1, 6, 7)).done());
        CHECK(circlesIn(p.d) == 6);
        for (const int i : {0, 2, 4, 5, 6, 7}) CHECK(hasCircleAt(p.d, {30 + i * 6.0, 0}));
        CHECK(countFreedoms(p.d, {}) == freedoms);
        checkHolds(p.d);
        SECTION("the point that keeps its place taken away, too, it comes back") {
            const int keeper = p.d.repeats[0].copies[2].keeper;
            REQUIRE(keeper);
            p.d.erase({keeper});
            REQUIRE(changeRepeat(p.d, p.d.repeats[0].id, inRows(8, 1, 6, 7)).done());
            CHECK(circlesIn(p.d) == 7);
            CHECK(hasCircleAt(p.d, {30 + 3 * 6.0, 0}));
        }
        SECTION("with the last of them nothing is left of the row") {
            std::vector<int> rest;
            for (const Repeat::Copy& copy : p.d.repeats[0].copies)
                for (const int s : copy.strokes)
                    if (s) rest.push_back(s);
            p.d.erase(rest);
            CHECK(p.d.repeats.empty());
            CHECK(p.d.strokes.size() == 1);
            CHECK(p.d.points.size() == 1);
        }
    }
    SECTION("of those around") {
        const EditOutcome out = repeatStrokes(p.d, {c}, around(kOrigin, 6, kPi / 3));
        for (const std::size_t gone : {0u, 2u}) {
            p.d.erase({out.made[gone]});
            CHECK(countFreedoms(p.d, {}) == freedoms);
            checkHolds(p.d);
        }
        REQUIRE(changeRepeat(p.d, p.d.repeats[0].id, around(kOrigin, 8, kPi / 4)).done());
        CHECK(circlesIn(p.d) == 6);
        for (const int i : {0, 2, 4, 5, 6, 7})
            CHECK(hasCircleAt(p.d, Vec2{std::cos(i * kPi / 4), std::sin(i * kPi / 4)} * 30));
        CHECK(countFreedoms(p.d, {}) == freedoms);
        checkHolds(p.d);
    }
    SECTION("the original: the copies stay as they are, and by themselves") {
        repeatStrokes(p.d, {c}, inRows(3, 1, 9, 7));
        p.d.erase({c});
        CHECK(p.d.repeats.empty());
        CHECK(circlesIn(p.d) == 2);
    }
}

TEST_CASE("The figure of a turn that others take is put away, not lost") {
    Pen p;
    const int c = p.circle({30, 0}, 2);
    repeatStrokes(p.d, {c}, around(kOrigin, 5, 0.3));
    const int turn = p.d.repeats[0].firstPitch;
    REQUIRE(p.d.findRelation(turn));
    p.d.erase({turn});
    REQUIRE(p.d.findRelation(turn));
    CHECK(p.d.findRelation(turn)->quiet);
    for (int i = 0; i < 5; ++i) CHECK(hasCircleAt(p.d, Vec2{std::cos(i * 0.3), std::sin(i * 0.3)} * 30));
}

TEST_CASE("Copies around turn the other way and by more than half a turn") {
    Pen p;
    const int spoke = p.line({10, 0}, {16, 1});
    repeatStrokes(p.d, {spoke}, around(kOrigin, 4, 1.5));
    const int id = p.d.repeats[0].id;
    for (const double step : {-1.2, 1.55, -0.4}) {
        REQUIRE(changeRepeat(p.d, id, around(kOrigin, 4, step)).done());
        checkHolds(p.d);
        for (int i = 0; i < 4; ++i)
            for (const int end : {p.from(spoke), p.to(spoke)}) {
                const Vec2 want = turnedBy(p.at(end), i * step);
                CHECK(std::any_of(p.d.points.begin(), p.d.points.end(),
                                  [&](const DrawnPoint& q) { return length(q.at - want) < 1e-8; }));
            }
    }
    CHECK(!changeRepeat(p.d, id, around(kOrigin, 5, 1.5)).done());
}

TEST_CASE("Copies along a curve are changed in number, and turn or stand upright") {
    for (const bool fromEnd : {false, true}) {
        Pen p;
        const int rail = p.arc({0, 0}, 30, 0, kPi);
        const int mark = fromEnd ? p.line({-30, 0}, {-34, 2}) : p.line({30, 0}, {34, 2});
        const int freedoms = countFreedoms(p.d, {});
        repeatStrokes(p.d, {mark}, along(rail, 7, true));
        const int id = p.d.repeats[0].id;
        for (const auto& [count, turning] : {std::pair{4, true}, {9, false}, {6, true}}) {
            REQUIRE(changeRepeat(p.d, id, along(rail, count, turning)).done());
            checkHolds(p.d);
            CHECK(countFreedoms(p.d, {}) == freedoms);
            CHECK(p.d.strokes.size() == static_cast<std::size_t>(count) + 1);
            for (int k = 0; k < count; ++k) {
                const double turn = (fromEnd ? -1 : 1) * kPi * k / (count - 1);
                const Vec2 first = p.at(p.from(mark)), tip = p.at(p.to(mark)) - first;
                const Vec2 want = turnedBy(first, turn) + (turning ? turnedBy(tip, turn) : tip);
                CHECK(std::any_of(p.d.points.begin(), p.d.points.end(),
                                  [&](const DrawnPoint& q) { return length(q.at - want) < 1e-7; }));
            }
        }
    }
}

TEST_CASE("What was done to a copy goes with it when rows are changed") {
    Pen p;
    const auto box = p.ring({{0, 0}, {6, 0}, {6, 4}, {0, 4}});
    repeatStrokes(p.d, box, inRows(3, 1, 10, 7));
    const Repeat::Copy second = p.d.repeats[0].copies[0];
    p.d.erase({second.strokes[1]}); // its right side
    const int extra = p.line(p.at(p.to(second.strokes[0])), {16, 9});
    p.join(p.from(extra), p.to(second.strokes[0]));
    REQUIRE(changeRepeat(p.d, p.d.repeats[0].id, inRows(4, 1, 12, 7)).done());
    CHECK(length(p.at(p.to(second.strokes[0])) - Vec2{18, 0}) < 1e-9);
    CHECK(p.d.findStroke(extra));
    CHECK(p.d.strokes.size() == 4 * 4 - 1 + 1);
    DimensionValues v;
    for (const Relation& r : p.d.relations)
        if (wordsOf(r.kind).sized) v[r.id] = measured(p.d, r);
    REQUIRE(settleTo(p.d, v).solved); // what hangs on it comes along
    CHECK(length(p.at(p.from(extra)) - p.at(p.to(second.strokes[0]))) < 1e-9);
}

TEST_CASE("Rows that are changed again and again lie as rows made at once") {
    std::mt19937 random(11);
    const auto within = [&](int a, int b) { return std::uniform_int_distribution<int>(a, b)(random); };
    for (int trial = 0; trial < 20; ++trial) {
        Pen p;
        const int c = p.circle({3, 4}, 1), l = p.line({3, 4}, {5, 6});
        p.join(p.from(l), p.centre(c));
        const int freedoms = countFreedoms(p.d, {});
        const Drawing bare = p.d;
        REQUIRE(repeatStrokes(p.d, {c, l}, inRows(3, 2, 5, 6)).done());
        for (int change = 0; change < 4; ++change) {
            const RepeatWish w = inRows(within(2, 5), within(1, 4), within(3, 9), -within(3, 9));
            REQUIRE(changeRepeat(p.d, p.d.repeats[0].id, w).done());
            Drawing once = bare;
            REQUIRE(repeatStrokes(once, {c, l}, w).done());
            CHECK(p.d.strokes.size() == once.strokes.size());
            CHECK(p.d.relations.size() == once.relations.size());
            for (const DrawnPoint& q : once.points)
                CHECK(std::any_of(p.d.points.begin(), p.d.points.end(),
                                  [&](const DrawnPoint& r) { return length(r.at - q.at) < 1e-9; }));
            CHECK(countFreedoms(p.d, {}) == freedoms);
        }
    }
}

#include "core/sketch/edit/cut.hpp"

#include "core/sketch/arcs.hpp"
#include "core/sketch/region.hpp"
#include "tests/support/pen.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// Nothing that an edit leaves may pull the drawing away from where it lies.
void checkAtRest(const Drawing& d) {
    Drawing moved = d;
    const Settlement s = settleTo(moved, {});
    CHECK(s.solved);
    for (const DrawnPoint& p : d.points) CHECK(length(moved.at(p.id) - p.at) < 1e-7);
}

double lengthOf(const Drawing& d, int stroke) {
    return StrokeRun(d, *d.findStroke(stroke)).length();
}

/// One of each kind of stroke that has a length, somewhere.
std::vector<int> oneOfEach(Drawing& d) {
    std::vector<int> all{
        d.draw(S::Line, {{0, 0}, {30, 10}}),
        d.draw(S::Arc, {{20, 0}, {0, 20}, {0, 0}}, {20}),
        d.draw(S::EllipseArc, {{0, 0}, {30, 0}, {30, 0}, {0, 12}}, {12}),
        d.draw(S::Conic, {{0, 0}, {40, 0}, {15, 25}}, {0.4}),
        d.draw(S::Poles, {{0, 0}, {10, 20}, {20, -10}, {35, 15}, {50, 0}, {60, 20}}),
    };
    all.push_back(drawSpline(d, {{0, 0}, {12, 9}, {30, -4}, {41, 11}}));
    return all;
}

} // namespace

TEST_CASE("A part of a stroke runs through the same points, and stays there when it is settled") {
    Drawing d;
    for (const int id : oneOfEach(d)) {
        const Stroke s = *d.findStroke(id);
        INFO(wordsOf(s.kind).key << " " << id);
        const StrokeRun run(d, s);
        for (const auto& [from, to] : {std::pair{0.2, 0.7}, {0.0, 0.55}, {0.31, 1.0}}) {
            Drawing alone;
            const int part = drawShape(alone, partOf(d, s, from * run.end(), to * run.end()));
            checkAtRest(alone);
            const StrokeRun cut(alone, *alone.findStroke(part));
            CHECK(length(cut.at(0) - run.at(from * run.end())) < 1e-9);
            CHECK(length(cut.at(cut.end()) - run.at(to * run.end())) < 1e-9);
            for (int k = 0; k <= 20; ++k) {
                const Vec2 p = cut.at(cut.end() * k / 20);
                CHECK(length(run.at(run.nearest(p)) - p) < 1e-8);
            }
        }
        double sum = 0;
        for (const auto& [from, to] : {std::pair{0.0, 0.37}, {0.37, 1.0}}) {
            Drawing alone;
            sum += lengthOf(alone, drawShape(alone, partOf(d, s, from * run.end(), to * run.end())));
        }
        CHECK(sum == Approx(run.length()).epsilon(1e-9));
        CHECK(length(run.at(run.atLength(run.length() / 3)) - run.at(0)) > 1);
        Drawing third;
        CHECK(lengthOf(third, drawShape(third, partOf(d, s, 0, run.atLength(run.length() / 3)))) ==
              Approx(run.length() / 3).epsilon(1e-9));
    }
}

TEST_CASE("Trim takes the piece between the nearest meetings and lays the ends on what cut them") {
    Pen p;
    const int base = p.line({0, 0}, {100, 0});
    p.d.findStroke(base)->name = "base";
    const int left = p.line({20, -10}, {20, 10}), right = p.line({70, -5}, {70, 5});
    p.d.relate(K::Horizontal, {base});
    p.d.relate(K::Distance, {base}, "100 mm");
    const auto piece = trimPiece(p.d, base, {40, 1});
    REQUIRE(piece);
    CHECK(piece->from == Approx(0.2));
    CHECK(piece->to == Approx(0.7));
    CHECK((piece->cutterFrom == left && piece->cutterTo == right));
    const EditOutcome out = trim(p.d, base, {40, 1});
    REQUIRE(out.done());
    REQUIRE(out.made.size() == 1);
    CHECK(p.d.findStroke(base)->name == "base");
    CHECK(lengthOf(p.d, base) == Approx(20));
    CHECK(lengthOf(p.d, out.made[0]) == Approx(30));
    REQUIRE(out.lost.size() == 1); // the length is another one now
    CHECK(out.lost[0].find("100 mm") != std::string::npos);
    checkAtRest(p.d);
    // The ends lie on the cutters and the second piece stays in line: dragging shows both.
    Settler settler(p.d);
    settler.grab({p.from(left), p.to(left)});
    settler.drag({4, 0});
    settler.writeTo(p.d);
    CHECK(p.at(p.from(left)).x == Approx(24).epsilon(1e-3)); // a drag yields a little to what stays
    CHECK(p.at(p.to(base)).x == Approx(p.at(p.from(left)).x).epsilon(1e-9));
    CHECK(p.at(p.from(out.made[0])).y == Approx(p.at(p.to(base)).y).margin(1e-9));
}

TEST_CASE("A circle that is trimmed becomes an arc; what nothing meets goes whole") {
    Pen p;
    const int c = p.circle({30, 0}, 10);
    p.d.relate(K::Radius, {c}, "10 mm");
    const int line = p.line({10, 6}, {50, 6});
    const int far = p.line({100, 40}, {120, 47});
    SECTION("above the line") {
        REQUIRE(trim(p.d, c, {30, 10}).done());
        CHECK(p.d.findStroke(c)->kind == S::Arc);
        // The level line cuts at (20, 0) and (40, 0) too; above the line nothing else does.
        CHECK(lengthOf(p.d, c) == Approx(10 * (kPi + 2 * std::asin(0.6))).epsilon(1e-9));
        CHECK(p.d.relations.size() == 3); // its radius, and two ends on the line
        checkAtRest(p.d);
    }
    SECTION("the line within the circle") {
        const EditOutcome out = trim(p.d, line, {30, 6});
        REQUIRE(out.done());
        CHECK(lengthOf(p.d, line) == Approx(12));
        CHECK(lengthOf(p.d, out.made.at(0)) == Approx(12));
    }
    SECTION("nothing meets it") {
        REQUIRE(trim(p.d, far, {110, 43}).done());
        CHECK(!p.d.findStroke(far));
    }
}

TEST_CASE("What is trimmed off was all that went: lengths add up, for every kind of stroke") {
    auto random = test::seeded(8U);
    std::uniform_real_distribution<double> u(-25, 45);
    Drawing start;
    const auto all = oneOfEach(start);
    int trimmed = 0;
    for (int k = 0; k < test::rounds(60); ++k) {
        Drawing d = start;
        for (int cutter = 0; cutter < 3; ++cutter)
            d.draw(S::Line, {{u(random), u(random)}, {u(random), u(random)}});
        const int id = all[static_cast<std::size_t>(k) % all.size()];
        const StrokeRun run(d, *d.findStroke(id));
        const Vec2 place = run.at(run.end() * 0.43);
        const auto piece = trimPiece(d, id, place);
        INFO(wordsOf(d.findStroke(id)->kind).key << " by " << piece->cutterFrom << " " << piece->cutterTo);
        REQUIRE(piece);
        if (piece->whole) continue;
        Drawing alone;
        const double gone =
            lengthOf(alone, drawShape(alone, partOf(d, *d.findStroke(id), piece->from, piece->to)));
        const EditOutcome out = trim(d, id, place);
        REQUIRE(out.done());
        double left = d.findStroke(id) ? lengthOf(d, id) : 0;
        for (const int made : out.made) left += lengthOf(d, made);
        CHECK(left + gone == Approx(run.length()).epsilon(1e-8));
        checkAtRest(d);
        ++trimmed;
    }
    CHECK(trimmed > 40);
}

TEST_CASE("Extend runs on to the next stroke, straight or round") {
    Pen p;
    const int wall = p.line({50, -20}, {50, 20}), line = p.line({10, 5}, {30, 5});
    const int bow = p.arc({0, 40}, 10, -kPi / 2, 0);
    REQUIRE(extend(p.d, line, {29, 5}).done());
    CHECK(length(p.at(p.to(line)) - Vec2{50, 5}) < 1e-9);
    REQUIRE(extend(p.d, line, {11, 5}).done()); // back to the axis
    CHECK(length(p.at(p.from(line)) - Vec2{0, 5}) < 1e-9);
    REQUIRE(extend(p.d, bow, {10, 40}).done());
    CHECK(length(p.at(p.to(bow)) - Vec2{0, 50}) < 1e-9); // on the axis
    checkAtRest(p.d);
    const int loose = p.line({60, 100}, {70, 101});
    const EditOutcome no = extend(p.d, loose, {70, 101});
    CHECK(no.whyNot.find("Nothing lies ahead") != std::string::npos);
    CHECK(!extend(p.d, p.circle({90, 90}, 3), {93, 90}).done());
    (void)wall;
}

TEST_CASE("Split leaves the shape and joins the two; joining them again gives the one back") {
    Drawing start;
    for (const int id : oneOfEach(start)) {
        Drawing d = start;
        const StrokeRun run(d, *d.findStroke(id));
        INFO(wordsOf(d.findStroke(id)->kind).key);
        const int freedoms = countFreedoms(d, {});
        const EditOutcome out = split(d, id, run.at(run.end() * 0.4));
        REQUIRE(out.done());
        CHECK(lengthOf(d, id) + lengthOf(d, out.made.at(0)) == Approx(run.length()).epsilon(1e-9));
        checkAtRest(d);
        const StrokeKind kind = d.findStroke(id)->kind;
        if (kind == S::Line || kind == S::Arc) {
            CHECK(countFreedoms(d, {}) == freedoms + 1); // where along it the joint lies
            REQUIRE(join(d, {id, out.made.at(0)}).done());
            CHECK(d.strokes.size() == start.strokes.size());
            CHECK(lengthOf(d, id) == Approx(run.length()).epsilon(1e-9));
            CHECK(countFreedoms(d, {}) == freedoms);
        }
        CHECK(!split(d, id, run.at(0)).done());
    }
    Pen p;
    const int c = p.circle({5, 5}, 4);
    const EditOutcome out = split(p.d, c, {9, 5});
    REQUIRE(out.done());
    CHECK(lengthOf(p.d, c) == Approx(4 * kPi));
    CHECK(findRegions(p.d).regions.size() == 1);
    REQUIRE(join(p.d, {c, out.made.at(0)}).done());
    CHECK(p.d.findStroke(c)->kind == S::Circle);
}

TEST_CASE("A split keeps what was said of the far end") {
    Pen p;
    const int line = p.line({0, 0}, {40, 0}), next = p.line({40, 0}, {40, 30});
    p.join(p.to(line), p.from(next));
    const EditOutcome out = split(p.d, line, {15, 0});
    REQUIRE(out.done());
    CHECK(out.lost.empty());
    Settler settler(p.d);
    settler.grab({p.from(next)});
    settler.drag({3, 0});
    settler.writeTo(p.d);
    CHECK(length(p.at(p.to(out.made.at(0))) - p.at(p.from(next))) < 1e-9);
}

TEST_CASE("Strokes apart are joined at their nearest ends") {
    Pen p;
    const int a = p.line({0, 0}, {20, 0}), b = p.line({20.4, 0.1}, {20, 30});
    REQUIRE(join(p.d, {a, b}).done());
    CHECK(join(p.d, {a, b}).whyNot == "These two are joined already.");
    REQUIRE(p.settle().solved);
    CHECK(length(p.at(p.to(a)) - p.at(p.from(b))) < 1e-9);
    CHECK(!join(p.d, {a}).done());
}

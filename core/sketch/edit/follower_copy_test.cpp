// Copies, mirror images and repeats of strokes that follow others.

#include "core/sketch/edit/copy.hpp"
#include "core/sketch/edit/offset.hpp"
#include "core/sketch/edit/repeat.hpp"
#include "tests/support/followed.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

TEST_CASE("Copies of a curve with its offset keep them together; an offset alone is copied as it is") {
    Pen p;
    const int curve = drawSpline(p.d, {{10, 0}, {20, 12}, {45, 6}, {60, 20}});
    const EditOutcome out = offsetStrokes(p.d, {curve}, by(2));
    REQUIRE(out.done());
    SECTION("mirrored") {
        const EditOutcome image = mirrorStrokes(p.d, {curve, out.made[0]}, kAxisLine);
        REQUIRE(image.done());
        const std::vector<int> offset{image.made[1]};
        CHECK(p.d.findStroke(offset[0])->beside == image.made[0]);
        checkBeside(p.d, offset, {image.made[0]}, 2);
        checkAtRest(p.d, 2 * kBesideFit);
        REQUIRE(settleTo(p.d, {{wallOf(p.d), 3}}).solved);
        checkBeside(p.d, offset, {image.made[0]}, 3);
    }
    SECTION("alone") {
        const auto copies = copyStrokes(p.d, {out.made[0]}, Placing::move({0, 40}), true);
        const Stroke& copy = *p.d.findStroke(copies.at(out.made[0]));
        CHECK(copy.kind == S::Spline);
        const StrokeRun was(p.d, *p.d.findStroke(out.made[0])), now(p.d, copy);
        for (int k = 0; k <= 20; ++k)
            CHECK(length(was.at(was.end() * k / 20.0) + Vec2{0, 40} - now.at(now.end() * k / 20.0)) < 1e-8);
    }
}

TEST_CASE("A follower is mirrored and repeated with its source, which comes along as a helper, and adds no "
          "freedom") {
    for (const Source& source : sources()) {
        if (source.name == std::string("fair curve")) continue;
        for (const double distance : {3.0, -3.0}) {
            INFO(source.name << " by " << distance);
            Pen p;
            const int curve = source.draw(p);
            for (const DrawnPoint& point : std::vector(p.d.points))
                p.d.findPoint(point.id)->at = point.at + Vec2{12, 5};
            const EditOutcome out = offsetStrokes(p.d, {curve}, by(distance));
            REQUIRE(out.done());
            const int before = countFreedoms(p.d, {});
            const auto check = [&](const Drawing& d, int copy) {
                const Stroke& s = *d.findStroke(copy);
                REQUIRE(s.kind == S::Beside);
                CHECK(d.findStroke(s.beside)->helper);
                CHECK(s.beside != curve);
                checkBeside(d, {copy}, {s.beside}, std::fabs(distance));
                CHECK(countFreedoms(d, {}) == before);
            };
            Drawing d = p.d;
            const EditOutcome image = mirrorStrokes(d, {out.made[0]}, kAxisLine);
            INFO(image.whyNot);
            REQUIRE(image.done());
            REQUIRE(image.made.size() == 1);
            check(d, image.made[0]);
            const StrokeRun run(d, *d.findStroke(out.made[0]));
            for (int k = 0; k <= 20; ++k) { // the very image
                const Vec2 q = run.at(run.end() * k / 20.0);
                CHECK(away(d, image.made, {-q.x, q.y}) < 3e-6);
            }
            d = p.d;
            RepeatWish rows;
            rows.columns = 3;
            rows.across = 90;
            rows.acrossExpression = "90 mm";
            const EditOutcome row = repeatStrokes(d, {out.made[0]}, rows);
            REQUIRE(row.done());
            REQUIRE(row.made.size() == 2);
            for (const int copy : row.made) check(d, copy);
            REQUIRE(settleTo(d, {{wallOf(d), 2}}).solved);
            for (const int copy : row.made) checkBeside(d, {copy}, {d.findStroke(copy)->beside}, 2);
            d = p.d;
            RepeatWish ring;
            ring.kind = Repeat::Kind::Around;
            ring.columns = 3, ring.across = 2 * kPi / 3, ring.about = kOrigin;
            ring.acrossExpression = "120 deg";
            const EditOutcome around = repeatStrokes(d, {out.made[0]}, ring);
            REQUIRE(around.done());
            for (const int copy : around.made) check(d, copy);
        }
    }
}

TEST_CASE("An ellipse and its offset are mirrored side for side") {
    Pen p;
    const int oval = p.d.draw(S::Ellipse, {{60, 30}, {90, 40}}, {14});
    const EditOutcome one = offsetStrokes(p.d, {oval}, by(-3));
    REQUIRE(one.done());
    const double outer = areaOf(p.d, one.made);
    const EditOutcome image = mirrorStrokes(p.d, {oval, one.made[0]}, kAxisLine);
    REQUIRE(image.done());
    CHECK(areaOf(p.d, {image.made[1]}) == Approx(outer).epsilon(1e-7)); // outside, as the original
    checkAtRest(p.d, 2 * kBesideFit);
}

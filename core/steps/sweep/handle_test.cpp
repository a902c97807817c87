// A handle on a cup: swept along a spline, its ends in the cup's wall.

#include "core/base/angles.hpp"
#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kThick = 4.5, kWall = 3, kSlope = 0.1; // mm; of the cup's wall, across by up

/// Of the cup's outside at a height.
double outside(double z) {
    return 30 + kSlope * z + kWall * std::hypot(1, kSlope);
}

Drawing handleLine(Vec2 first, Vec2 last) {
    Drawing d;
    d.draw(StrokeKind::Poles, {first, {48, 16}, {66, 26}, {70, 46}, last + Vec2{20, 2}, last});
    return d;
}

/// A cup of 3 mm with a round handle, and perhaps rounded where the two meet.
Part cup(const Drawing& handle, const char* round = nullptr) {
    Part p;
    Drawing line;
    line.draw(StrokeKind::Line, {{0, 0}, {30, 0}});
    line.draw(StrokeKind::Line, {{30, 0}, {38, 80}});
    add(p, "draw", {{"name", std::string("cup line")}, {"drawing", DrawingSlot(line)}});
    add(p, "revolve",
        {{"outline", std::string("cup line")},
         {"fill", std::string("as a wall of")},
         {"thickness", inMm(kWall)},
         {"wall side", std::string("outside")},
         {"body", std::string("cup")}});
    add(p, "draw", {{"name", std::string("handle line")}, {"drawing", DrawingSlot(handle)}});
    add(p, "draw",
        {{"name", std::string("grip")},
         {"plane", std::string("side")},
         {"drawing", DrawingSlot(circleLine(kThick))}});
    add(p, "sweep",
        {{"outline", std::string("grip")},
         {"path", References{"chain of stroke " + std::to_string(handle.strokes[0].id) + " of step 3"}},
         {"does", std::string("adding to")}});
    if (round)
        add(p, "fillet",
            {{"edges", References{"edges between step 2 and step 5"}}, {"radius", std::string(round)}});
    return p;
}

/// How much of the handle is outside the cup, by small pieces of rings about its line, which goes on straight
/// before its beginning.
double handleOutside(const Drawing& handle) {
    constexpr int kAlong = 300, kOut = 16, kRound = 32;
    constexpr double kBefore = 2; // mm
    const auto curves = curvesOf(handle, handle.strokes[0]);
    double sum = 0;
    const auto disc = [&](Vec2 at, Vec2 along, double bend, double step) {
        const Vec2 left{-along.y, along.x};
        for (int i = 0; i < kOut; ++i)
            for (int k = 0; k < kRound; ++k) {
                const double r = kThick * (i + 0.5) / kOut, a = 2 * kPi * (k + 0.5) / kRound;
                const Vec2 p = at + left * (r * std::cos(a));
                if (std::hypot(p.x, r * std::sin(a)) > outside(p.y))
                    sum += step * (1 - bend * r * std::cos(a)) * r * (kThick / kOut) * (2 * kPi / kRound);
            }
    };
    for (const Curve2& curve : curves)
        for (int k = 0; k < kAlong; ++k) {
            const double h = 1.0 / kAlong, t = (k + 0.5) * h, e = 1e-4;
            const Vec2 d = curve.slope(t), dd = (curve.slope(t + e) - curve.slope(t - e)) * (0.5 / e);
            const double speed = length(d);
            disc(curve.at(t), unit(d), (d.x * dd.y - d.y * dd.x) / (speed * speed * speed), speed * h);
        }
    const Vec2 first = unit(curves.front().slope(0));
    for (int k = 0; k < 40; ++k)
        disc(curves.front().at(0) - first * (kBefore * (k + 0.5) / 40), first, 0, kBefore / 40);
    return sum;
}

} // namespace

TEST_CASE("A handle whose ends lie in a cup's wall, touch it or come out of it, ends on that wall") {
    const double alone = [] {
        Part p = cup(handleLine({34, 20}, {38, 60}));
        p.steps.resize(2);
        return volumeOf(built(p), "cup");
    }();
    struct Case {
        Vec2 first, last;
        std::size_t notes;
        const char* says;
    };
    for (const Case& c : {Case{{34, 20}, {38, 60}, 0, ""}, Case{{35, 20}, {38, 60}, 1, "carried on"},
                          Case{{34, 20}, {36.8, 63}, 1, "came out on the other side"},
                          Case{{35, 20}, {36.8, 63}, 2, "carried on"}}) {
        const Drawing handle = handleLine(c.first, c.last);
        INFO(c.first.x << " to " << c.last.x);
        const auto r = built(cup(handle));
        CHECK(r.steps.back().notes.size() == c.notes);
        CHECK_FALSE(r.steps.back().doubt); // what was carried on leaves no gap
        if (c.notes > 0) CHECK(r.steps.back().notes[0].text().find(c.says) != std::string::npos);
        CHECK(checkBody(r.state.body("cup")).faults.empty());
        const double added = handleOutside(handle);
        CHECK(volumeOf(r, "cup") - alone == Approx(added).epsilon(1e-3));
        // Five of the cup, and the handle's side with what carries it on; nothing is left of its own ends.
        // Both are rounded where they meet the cup.
        CHECK(faceCount(r.state.body("cup")) <= 8);
        for (const char* end : {"start of step 5", "end of step 5"})
            CHECK_FALSE(resolveFaces(r.state.body("cup"), **parseFaceRef(end)));
        const auto rounded = built(cup(handle, "2 mm"));
        CHECK_FALSE(rounded.steps.back().doubt);
        CHECK(volumeOf(rounded, "cup") > volumeOf(r, "cup"));
    }
}

TEST_CASE("A handle that hangs before the wall by a hair is told") {
    const auto r = built(cup(handleLine({36, 20}, {38, 60})));
    REQUIRE(r.steps.back().doubt);
    CHECK(r.steps.back().doubt->sentence.text().find("gap of only 0.05") != std::string::npos);
    CHECK(r.steps.back().notes.empty());
}

// Rounds along borders are taken off again: what is left is the body of before.

#include "core/steps/shared/unrounded.hpp"

#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/letters.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

std::string numbered(int id) {
    return std::to_string(id);
}
/// A drawing on a plane before the front.
int drawn(Part& p, const Drawing& d) {
    add(p, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("-60 mm")}});
    return add(p, "draw",
               {{"name", std::string("d")}, {"plane", std::string("before")}, {"drawing", DrawingSlot(d)}})
        .id;
}
/// What is drawn stands out of the front.
int post(Part& p, const Drawing& d) {
    drawn(p, d);
    return add(p, "extrude",
               {{"outline", std::string("d")},
                {"length", std::string("62 mm")},
                {"does", std::string("adding to")}})
        .id;
}
int groove(Part& p, const std::string& wall, const char* ends) {
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 14}, {0, 40}});
    const int drawing = drawn(p, d);
    return add(p, "groove",
               {{"line", References{"chain of stroke " + numbered(d.strokes[0].id) + " of step " +
                                    numbered(drawing)}},
                {"faces", References{wall}},
                {"width", std::string("4 mm")},
                {"depth", std::string("1.6 mm")},
                {"towards", std::string("square to them")},
                {"ends", std::string(ends)}})
        .id;
}
/// A cone, its wall first but one.
Part cone() {
    Part p;
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 0}, {24, 0}});
    d.draw(StrokeKind::Line, {{24, 0}, {20, 50}});
    d.draw(StrokeKind::Line, {{20, 50}, {0, 50}});
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(d)}});
    add(p, "revolve");
    return p;
}
std::string wallOf(const Part& p) {
    return vaseWall(p); // the second stroke of its profile
}
std::string topOf(const Part& p) {
    return "side " + numbered(p.steps[0].drawing("drawing").strokes[2].id) + " of step 2";
}
void roundBetween(Part& p, int one, int other) {
    add(p, "fillet",
        {{"edges", References{"edges between step " + numbered(one) + " and step " + numbered(other)}},
         {"radius", std::string("0.5 mm")}});
}

/// Two straight sides and two half rounds.
Drawing slot(Vec2 at) {
    constexpr double kLong = 6, kRound = 4;
    Drawing d;
    const Vec2 a{at.x - kLong, at.y - kRound}, b{at.x + kLong, at.y - kRound}, c{at.x + kLong, at.y + kRound},
        e{at.x - kLong, at.y + kRound};
    d.draw(StrokeKind::Line, {a, b});
    d.draw(StrokeKind::Arc, {b, c, {at.x + kLong, at.y}}, {kRound});
    d.draw(StrokeKind::Line, {c, e});
    d.draw(StrokeKind::Arc, {e, a, {at.x - kLong, at.y}}, {kRound});
    return d;
}

TopTools_IndexedMapOfShape roundsOf(const Body& body) {
    TopTools_IndexedMapOfShape out;
    for (int i = 1; i <= faceCount(body); ++i)
        if (body.shape().wordsFor(body.shape().faces(i)).starts_with("fillet"))
            out.Add(body.shape().faces(i));
    return out;
}
double volumeOf(const Body& body) {
    return massProperties(body, Density(1e-3))->volume;
}

/// \param sharp the last step but the rounds
void checkBack(Part sharp, int one, int other) {
    const auto before = built(sharp);
    roundBetween(sharp, one, other);
    const auto after = built(sharp);
    const Body& round = lastBody(after);
    const auto rounds = roundsOf(round);
    REQUIRE(rounds.Extent() > 0);
    const auto made = unrounded(round, rounds);
    REQUIRE(made);
    CHECK(faceCount(*made) == faceCount(round) - rounds.Extent());
    const double was = volumeOf(lastBody(before)), change = std::fabs(volumeOf(round) - was);
    CHECK(volumeOf(*made) == Approx(was).margin(2e-3 * change));
    for (int i = 1; i <= faceCount(*made); ++i)
        CHECK(!made->shape().wordsFor(made->shape().faces(i)).empty());
}

} // namespace

TEST_CASE("Rounds at the mouths of details on walls of any form are taken off: the body of before") {
    for (const bool turned : {true, false}) {
        Part p = turned ? vaseOf(1.2) : cone();
        for (const char* ends : {"round", "running out over"}) {
            INFO((turned ? "vase, " : "cone, ") << ends);
            Part q = p;
            const int id = groove(q, wallOf(q), ends);
            checkBack(q, 2, id);
        }
    }
    Part loft = loftedWallOf(1.3);
    const int wall = loft.steps.back().id;
    for (const bool round : {true, false}) {
        Part q = loft;
        const int id = post(q, round ? circleLine(5, {4, 25}) : slot({0, 25}));
        INFO("post " << round);
        checkBack(q, wall, id);
    }
}

TEST_CASE("What is not a closed row of rounds is left to others") {
    Part p = block(rectangle({-20, -10}, {20, 10}), "10 mm");
    add(p, "fillet",
        {{"edges", References{"where " + side(p, 0) + " meets end of step 2"}},
         {"radius", std::string("1 mm")}});
    const auto r = built(p);
    CHECK(!unrounded(lastBody(r), roundsOf(lastBody(r))));
}

TEST_CASE("A wall thicker than the rounds on it: as hollow as with sharp edges, the rounds as they were") {
    for (const bool turned : {true, false}) {
        INFO((turned ? "vase" : "cone"));
        Part sharp = turned ? vaseOf(1.2) : cone();
        const int id = groove(sharp, wallOf(sharp), turned ? "round" : "running out over");
        const double solid = volumeOf(lastBody(built(sharp)));
        Part round = sharp;
        roundBetween(round, 2, id);
        const double rounded = volumeOf(lastBody(built(round)));
        const Slots slots{{"open", References{topOf(sharp)}}, {"wall", std::string("2 mm")}};
        add(sharp, "shell", slots);
        add(round, "shell", slots);
        const auto a = built(sharp), b = built(round);
        const double hollow = solid - volumeOf(lastBody(a));
        CHECK(rounded - volumeOf(lastBody(b)) == Approx(hollow).epsilon(1e-6));
        CHECK(checkBody(lastBody(b)).faults.empty());
        CHECK(roundsOf(lastBody(b)).Extent() > 0);
    }
}

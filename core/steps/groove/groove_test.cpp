/// \file Grooves and beads: held against closed forms and integrals.

#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/places.hpp"
#include "core/steps/shared/over_face.hpp"
#include "tests/support/block.hpp"
#include "tests/support/letters.hpp"
#include "tests/support/probe.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// A brick 40 by 30 and 20 high, and a line over its end, 10 to each side of its middle.
Part scored(const Drawing& line = lineFrom({-10, 0}, {10, 0})) {
    Part p = gc::test::block();
    add(p, "plane",
        {{"name", std::string("over")}, {"from", std::string("ground")}, {"distance", std::string("30 mm")}});
    add(p, "draw",
        {{"name", std::string("score")}, {"plane", std::string("over")}, {"drawing", DrawingSlot(line)}});
    return p;
}
void groove(Part& p, Slots slots, const std::string& wall = "end of step 2") {
    const Step& drawn = p.steps.back();
    slots["line"] = References{"chain of stroke " + std::to_string(drawn.drawing("drawing").strokes[0].id) +
                               " of step " + std::to_string(drawn.id)};
    slots["faces"] = References{wall};
    add(p, "groove", slots);
}
Slots of(const char* profile, const char* width, const char* depth, const char* ends,
         const char* does = "cut") {
    return {{"profile", std::string(profile)},
            {"width", std::string(width)},
            {"depth", std::string(depth)},
            {"ends", std::string(ends)},
            {"does", std::string(does)}};
}
/// Of a circle's segment, by its chord and height.
double segment(double chord, double height) {
    const double r = (chord * chord / 4 + height * height) / (2 * height);
    const double turn = 2 * std::acos((r - height) / r);
    return r * r / 2 * (turn - std::sin(turn));
}

const ProbeOf grooveProbe("groove", [] {
    Probe p{scored(), 0};
    groove(p.part, of("round", "4 mm", "1.5 mm", "round"));
    p.step = p.part.steps.back().id;
    p.shows = {{"profile", text("profile", "flat")},
               {"depth", text("depth", "1 mm")},
               {"width", text("width", "3 mm")},
               {"ends", text("ends", "square")},
               {"raised", text("does", "raised")}};
    p.hides = {{"run-out that is not asked for", text("run-out", "5 mm")}};
    return p;
});

} // namespace

TEST_CASE("Straight grooves and beads with square ends have their sections' volume") {
    struct Case {
        const char *profile, *width, *depth;
        double area;
    };
    for (const Case& c :
         {Case{"flat", "4 mm", "2 mm", 8}, Case{"V-shaped", "4 mm", "2 mm", 4},
          Case{"round", "4 mm", "2 mm", 2 * kPi}, Case{"round", "4 mm", "1 mm", segment(4, 1)},
          Case{"round", "4 mm", "3 mm", 2 * kPi + 4}})
        for (const char* does : {"cut", "raised"}) {
            Part p = scored();
            groove(p, of(c.profile, c.width, c.depth, "square", does));
            INFO(c.profile << " " << c.depth << " " << does);
            const double change = volumeOf(built(p)) - 24000;
            CHECK(change == Approx((does == std::string("cut") ? -20 : 20) * c.area).epsilon(1e-6));
        }
}

TEST_CASE("Round ends are turned about the wall's normal") {
    // Flat: half a cylinder at each end; V: half a cone; round as deep as wide: quarters of a ball.
    const auto taken = [](const char* profile, const char* depth) {
        Part p = scored();
        groove(p, of(profile, "4 mm", depth, "round"));
        const auto r = built(p);
        CHECK(sentenceText(p.steps.back(), p).starts_with("Groove cut along"));
        return 24000 - volumeOf(r);
    };
    CHECK(taken("flat", "2 mm") == Approx(20 * 8 + kPi * 4 * 2).epsilon(1e-6));
    CHECK(taken("V-shaped", "2 mm") == Approx(20 * 4 + kPi * 4 * 2 / 3).epsilon(1e-6));
    CHECK(taken("round", "2 mm") == Approx(20 * 2 * kPi + 2 * kPi * 8 / 3).epsilon(1e-6));
}

TEST_CASE("A groove whose line ends at the border of its wall goes on over that") {
    Part p = scored(lineFrom({-20, 0}, {20, 0}));
    groove(p, of("flat", "4 mm", "2 mm", "round"));
    CHECK(24000 - volumeOf(built(p)) == Approx(40 * 8).epsilon(1e-6));
}

TEST_CASE("Grooves run out of the wall: less deep from place to place") {
    Part p = scored();
    Slots s = of("flat", "4 mm", "2 mm", "running out over");
    s["run-out"] = std::string("8 mm");
    groove(p, s);
    const auto r = built(p);
    // The way rises by 2 * 1.15 (3 u^2 - 2 u^3) to its ends, u = 1 - x / 8, and its bottom lies 2 below that,
    // square to it; between them 4 mm of the full depth.
    const auto bottom = [](double x) {
        const double u = 1 - x / 8, rise = 2.3 * u * u * (3 - 2 * u), slope = -2.3 * 6 * u * (1 - u) / 8;
        const double size = std::hypot(1, slope);
        return Vec2{x + 2 * slope / size, rise - 2 / size};
    };
    double area = 4 * 2;
    constexpr int kLooks = 4000;
    for (int i = 0; i < kLooks; ++i) {
        const Vec2 a = bottom(8.0 * i / kLooks), b = bottom(8.0 * (i + 1) / kLooks);
        area += 2 * std::max(0.0, -(a.y + b.y) / 2) * (b.x - a.x);
    }
    CHECK(24000 - volumeOf(r) == Approx(4 * area).epsilon(1e-4));
    CHECK(checkBody(r.state.bodies.rbegin()->second.value).faults.empty());
}

TEST_CASE("A ring closes, and round a wall it follows that") {
    Drawing ring;
    ring.draw(StrokeKind::Circle, {{0, 0}}, {8});
    Part p = scored(ring);
    groove(p, of("flat", "2 mm", "1 mm", "round"));
    CHECK(24000 - volumeOf(built(p)) == Approx(kPi * (81 - 49)).epsilon(1e-6));

    // Across a cylinder of radius 20, from the front; along it the section is that of a flat wall, but for
    // what the wall falls away beside the line.
    Part q = gc::test::block(circleLine(20), "60 mm");
    add(q, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("40 mm")}});
    add(q, "draw",
        {{"name", std::string("wave")},
         {"plane", std::string("before")},
         {"drawing", DrawingSlot(lineFrom({0, 15}, {0, 45}))}});
    const double before = volumeOf(built(q));
    groove(q, of("flat", "6 mm", "2 mm", "square"), side(q, 0));
    // Of the section 6 by 2 the wall leaves out what lies between it and its tangent.
    const double chord = 20 - std::sqrt(20.0 * 20 - 9), outside = 6 * chord - segment(6, chord);
    CHECK(before - volumeOf(built(q)) == Approx(30 * (6 * 2 - outside)).epsilon(1e-6));
}

namespace {

/// With a wavy line drawn before its front.
Part waved(Part p) {
    Drawing wave;
    wave.draw(StrokeKind::Poles, {{-10, 20}, {-4, 30}, {2, 25}, {6, 36}, {8, 40}});
    add(p, "plane",
        {{"name", std::string("front of it")},
         {"from", std::string("front")},
         {"distance", std::string("60 mm")}});
    add(p, "draw",
        {{"name", std::string("wave")},
         {"plane", std::string("front of it")},
         {"drawing", DrawingSlot(wave)}});
    return p;
}
int bentWallOf(const Body& body) {
    for (int i = 0; i < faceCount(body); ++i)
        if (!planeOfFace(body, i)) return i;
    return -1;
}

} // namespace

TEST_CASE("On walls of free form a groove is as deep as was asked, and a bead as high") {
    std::vector<std::pair<Part, const char*>> hosts{{waved(vase()), "cut"}, {waved(loftedWall()), "raised"}};
    if (std::getenv("GC_DEEP"))
        hosts.insert(hosts.end(), {{waved(vase()), "raised"}, {waved(loftedWall()), "cut"}});
    for (auto& [p, does] : hosts) {
        const Body before = built(p).state.bodies.rbegin()->second.value;
        const int wall = bentWallOf(before);
        groove(p, of("round", "4 mm", "1.5 mm", "round", does),
               before.shape().wordsFor(before.shape().faces(wall + 1)));
        const auto r = built(p);
        const Body& now = r.state.bodies.rbegin()->second.value;
        CHECK(checkBody(now).faults.empty());
        double most = 0;
        int places = 0;
        for (int i = 1; i <= now.shape().faces.Extent(); ++i) {
            const NameList names = now.shape().namesOf(now.shape().faces(i));
            if (names.empty() || !names.front()->role.starts_with("side 2 along")) continue;
            for (const gp_Pnt& q : placesOver(TopoDS::Face(now.shape().faces(i)), 41)) {
                const auto near = nearestOnFace(before, wall, toVec(q));
                REQUIRE(near);
                most = std::max(most, length(near->at - toVec(q)));
                ++places;
            }
        }
        CHECK(places > 200);
        CHECK(most == Approx(1.5).margin(2e-3));
    }
}

TEST_CASE("A groove runs out of a wall whose own bend jumps under it") {
    // Between the straight and the round stretches of its sections the normal of a loft turns on at another
    // rate.
    Part p = waved(loftedWall());
    const Body body = lastBody(built(p));
    const std::string wall = body.shape().wordsFor(body.shape().faces(bentWallOf(body) + 1));
    const double whole = volumeOf(built(p));
    groove(p, of("round", "4 mm", "1.5 mm", "square"), wall);
    const double square = whole - volumeOf(built(p));
    p.steps.back().slots["ends"] = std::string("running out over");
    const auto r = built(p);
    CHECK(checkBody(lastBody(r)).faults.empty());
    const double out = whole - volumeOf(r);
    CHECK(out > 0.4 * square);
    CHECK(out < 0.6 * square);
}

TEST_CASE("Grooves say what is missing, and what does not fit") {
    Part p = scored();
    add(p, "groove", {{"faces", References{"end of step 2"}}, {"line", References{}}});
    CHECK(faultOf(p).code == "curve.line");
    Part q = scored();
    add(q, "groove");
    CHECK(faultOf(q).code == "groove.faces");
    // The line stands beside the wall.
    Part away = scored(lineFrom({-30, 0}, {10, 0}));
    groove(away, of("flat", "4 mm", "2 mm", "square"));
    CHECK(faultOf(away).code == "curve.miss");
    // Too tight a bend for so wide a section.
    Drawing bend;
    bend.draw(StrokeKind::Arc, {{2, 0}, {-2, 0}, {0, 0}}, {2});
    Part tight = scored(bend);
    groove(tight, of("flat", "8 mm", "2 mm", "square"));
    CHECK(faultOf(tight).code == "sweep.fold");
}

namespace {

/// A step on the left, an arc on the right: area, and moment about the middle of its feet.
Drawing steppedProfile(bool hanging) {
    const double up = hanging ? -1 : 1;
    Drawing d;
    d.draw(StrokeKind::Line, {{5, 0}, {5, up * 2}});
    d.draw(StrokeKind::Line, {{5, up * 2}, {7, up * 2}});
    // A quarter round down to the right foot.
    if (hanging)
        d.draw(StrokeKind::Arc, {{7, -2}, {9, 0}, {7, 0}}, {2});
    else
        d.draw(StrokeKind::Arc, {{9, 0}, {7, 2}, {7, 0}}, {2});
    return d;
}
constexpr double kStepped = 4 + kPi;

/// Along the brick's score, or a ring on it, by that profile.
Part drawnGroove(const Drawing& line, bool hanging, const char* does, const char* ends) {
    Part p = scored(line);
    Part q = p;
    q.steps.pop_back();
    add(q, "draw",
        {{"name", std::string("section")},
         {"plane", std::string("side")},
         {"drawing", DrawingSlot(steppedProfile(hanging))}});
    add(q, "draw",
        {{"name", std::string("score")}, {"plane", std::string("over")}, {"drawing", DrawingSlot(line)}});
    groove(q, {{"profile", std::string("drawn")},
               {"outline", std::string("section")},
               {"ends", std::string(ends)},
               {"does", std::string(does)}});
    return q;
}

} // namespace

TEST_CASE("A new groove is along the latest line, its profile another drawing") {
    Part p;
    add(p, "draw", {{"name", std::string("section")}, {"drawing", DrawingSlot(lineFrom({0, 0}, {2, 0}))}});
    add(p, "draw", {{"name", std::string("way")}, {"drawing", DrawingSlot(lineFrom({0, 0}, {9, 0}))}});
    const Step fresh = newStep(p, "groove");
    REQUIRE(fresh.references("line").size() == 1);
    CHECK(fresh.references("line").front().ends_with(" of step 2"));
    CHECK(fresh.text("outline") == "section");
}

TEST_CASE("A drawn profile is cut or raised along a line, standing or hanging as it is drawn") {
    for (const bool hanging : {false, true})
        for (const char* does : {"cut", "raised"}) {
            INFO(hanging << " " << does);
            const auto r = built(drawnGroove(lineFrom({-10, 0}, {10, 0}), hanging, does, "square"));
            CHECK(volumeOf(r) - 24000 ==
                  Approx((does == std::string("cut") ? -20 : 20) * kStepped).epsilon(1e-5));
            CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
        }
    // Round a ring by Guldin: its middle lies 0.43 mm to the left of the feet's, which goes in or out.
    const double middle = (4 * -1 + kPi * (8 / (3 * kPi))) / kStepped;
    const double change = 24000 - volumeOf(built(drawnGroove(circleLine(10), false, "cut", "square")));
    const double out = 2 * kPi * (10 + middle) * kStepped, in = 2 * kPi * (10 - middle) * kStepped;
    CHECK(std::min(std::fabs(change / out - 1), std::fabs(change / in - 1)) < 1e-5);
    const Error e = faultOf(drawnGroove(lineFrom({-10, 0}, {10, 0}), false, "cut", "round"));
    CHECK(e.code == "groove.round");
    REQUIRE(e.remedies.size() == 1);
    CHECK(e.remedies.front().value == "square");
}

#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/thread/coil.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/seeded.hpp"

#include <BRepExtrema_DistShapeShape.hxx>
#include <TopExp_Explorer.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf threadProbe("thread", [] {
    Probe p{block(circleLine(12), "24 mm"), 0};
    p.step =
        add(p.part, "thread", {{"wall", References{side(p.part, 0)}}, {"profile", std::string("trapezoid")}})
            .id;
    p.shows = {{"pitch", text("pitch", "3.5 mm")},      {"turns", text("turns", "2")},
               {"from", text("from", "4 mm")},          {"end", text("end", "upper end")},
               {"hand", text("hand", "left-handed")},   {"does", text("does", "cut")},
               {"profile", text("profile", "rounded")}, {"depth", text("depth", "1 mm")},
               {"base", text("base", "2 mm")},          {"crest", text("crest", "0.6 mm")},
               {"run-out", text("run-out", "60°")},     {"extent", text("extent", "over")},
               {"angle", text("angle", "30°")},         {"fit", text("fit", "wider")}};
    return p;
});

/// What stands out of the wall: of its section the moment about the axis, all along the coil. Numerically, by
/// its own formulas: nothing of the solid goes into it.
double volumeOf(const Coil& c) {
    constexpr int kTurned = 4000, kDeep = 200;
    const double all = 2 * kPi * c.turns;
    double out = 0;
    for (int i = 0; i < kTurned; ++i) {
        const double turned = all * (i + 0.5) / kTurned, deep = c.depthAt(turned);
        if (deep <= 0) continue;
        const double radius = c.wall.radiusAt(c.level + c.pitch * turned / (2 * kPi));
        const double sign = c.wall.outside != c.cut ? 1 : -1;
        for (int k = 0; k < kDeep; ++k) {
            const double e = deep * (k + 0.5) / kDeep;
            out += 2 * c.halfWidth(e) * (radius + sign * e) * deep / kDeep * all / kTurned;
        }
    }
    return out;
}

/// A stud, or a plate with a hole, leaning or not, 30 high.
Part walled(double radius, double lean, bool outside) {
    Part p;
    const Slots leans{{"sides", std::string(lean > 0 ? "leaning inward by" : "straight")},
                      {"lean", formatNumber(lean, 3) + "°"}};
    Drawing d = circleLine(outside ? radius : radius + 8);
    if (!outside) d.draw(StrokeKind::Circle, {{0, 0}}, {radius});
    return block(d, "30 mm", leans);
}

} // namespace

TEST_CASE("Threads raised and cut, right and left, on studs and in holes: their volume is the integral of "
          "their section") {
    std::mt19937 random = seeded(151);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const int all = std::getenv("GC_DEEP") ? 60 : 10;
    int right = 0;
    std::string refused;
    for (int i = 0; i < all; ++i) {
        const bool outside = i % 2 == 0, cut = i % 4 >= 2, left = i % 3 == 0;
        const double radius = between(8, 20), lean = outside && i % 5 == 4 ? between(1, 4) : 0;
        const int starts = i % 3 == 1 ? 1 + i % 4 : 1;
        const double lead = between(2.5, 5), pitch = lead * starts, depth = between(0.6, 1.4),
                     base = lead * between(0.5, 0.65), crest = base * between(0.3, 0.6),
                     turns = between(1.2, 3.5) / starts;
        Part p = walled(radius, lean, outside);
        const double before = test::volumeOf(built(p));
        const int wall = outside ? 0 : 1;
        add(p, "thread",
            {{"wall", References{side(p, std::size_t(wall))}},
             {"does", std::string(cut ? "cut" : "raised")},
             {"hand", std::string(left ? "left-handed" : "right-handed")},
             {"more", std::string(starts > 1 ? "several" : "one")},
             {"starts", std::to_string(starts)},
             {"pitch", formatNumber(pitch, 6) + " mm"},
             {"turns", formatNumber(turns, 6)},
             {"depth", formatNumber(depth, 6) + " mm"},
             {"base", formatNumber(base, 6) + " mm"},
             {"crest", formatNumber(crest, 6) + " mm"},
             {"run-out", formatNumber(between(40, 150), 6) + "°"},
             {"angle", formatNumber(between(-180, 180), 6) + "°"}});
        const auto r = Engine().regenerate(p);
        INFO(i << ": r " << radius << " lean " << lean << " pitch " << pitch << " depth " << depth << " base "
               << base << " turns " << turns << " starts " << starts << (outside ? " outside" : " inside")
               << (cut ? " cut" : " raised") << (left ? " left" : "") << "; " << faults(r));
        if (!allFine(r)) {
            refused += "\n  " + std::to_string(i) + ": " + faults(r);
            continue;
        }
        Coil c;
        c.wall = {{{0, 0, 0}, {0, 0, 1}}, radius, -std::tan(lean * kPi / 180), 30, outside};
        c.pitch = pitch, c.turns = turns, c.depth = depth, c.base = base, c.crest = crest, c.cut = cut;
        c.runout = std::min(*evaluateSlot(p.steps.back(), "run-out", p, valuesOf(p)), turns * kPi);
        c.level = 3 + c.halfWidth(0);
        const double should = starts * volumeOf(c) * (cut ? -1 : 1), is = test::volumeOf(r) - before;
        CHECK(is == Approx(should).epsilon(1e-4));
        CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
        right += std::fabs(is / should - 1) < 1e-4;
    }
    WARN(right << " of " << all << " within 1e-4" << refused);
    CHECK(right >= 0.9 * all);
}

TEST_CASE("Several starts, profiles, and names of a thread") {
    Part p = walled(12, 0, true);
    const double before = test::volumeOf(built(p));
    Step& t = add(
        p, "thread",
        {{"wall", References{side(p, 0)}}, {"pitch", std::string("6 mm")}, {"turns", std::string("1.5")}});
    const double one = test::volumeOf(built(p)) - before;
    t.slots["more"] = std::string("several");
    t.slots["starts"] = std::string("2");
    const auto two = built(p);
    CHECK(test::volumeOf(two) - before == Approx(2 * one).epsilon(1e-5));
    const Body& body = two.state.bodies.begin()->second.value;
    CHECK(resolveFaces(body, **parseFaceRef("crest of step 3"))->items.size() >= 1);
    CHECK(resolveFaces(body, **parseFaceRef("crest 2 of step 3"))->items.size() >= 1);
    t.slots["more"] = std::string("one");
    for (const char* profile : {"triangular", "rounded"}) {
        t.slots["profile"] = std::string(profile);
        const double v = test::volumeOf(built(p)) - before;
        CHECK(v > 0.5 * one);
        CHECK(v < 1.05 * one);
    }
}

TEST_CASE(
    "A thread for its partner clears it by what was asked, all round and at its ends, in the same words") {
    // A stud, and a plate with a hole that is wider all round by as much.
    for (const char* hand : {"right-handed", "left-handed"})
        for (const char* runout : {"0°", "20°", "90°"}) {
            INFO(hand << ", " << runout);
            const Slots alike{{"hand", std::string(hand)},          {"run-out", std::string(runout)},
                              {"pitch", std::string("3.2 mm")},     {"turns", std::string("2.4")},
                              {"angle", std::string("40°")},        {"from", std::string("4 mm")},
                              {"profile", std::string("trapezoid")}};
            Part p = walled(12, 0, true);
            Slots one = alike;
            one["wall"] = References{side(p, 0)};
            add(p, "thread", one);
            Drawing ring = circleLine(20);
            ring.draw(StrokeKind::Circle, {{0, 0}}, {12.3});
            add(p, "draw",
                {{"plane", std::string("ground")},
                 {"name", std::string("ring")},
                 {"drawing", DrawingSlot(ring)}});
            const int hole = p.steps.back().drawing("drawing").strokes.back().id;
            add(p, "extrude",
                {{"outline", std::string("ring")},
                 {"length", std::string("30 mm")},
                 {"does", std::string("as new body")},
                 {"body", std::string("cap")}});
            Slots other = alike;
            other["wall"] =
                References{"side " + std::to_string(hole) + " of step " + std::to_string(p.steps.back().id)};
            other["does"] = std::string("cut");
            other["fit"] = std::string("wider");
            add(p, "thread", other);
            const auto r = built(p);
            REQUIRE(r.state.bodies.size() == 2);
            const Body &stud = r.state.bodies.begin()->second.value,
                       &cap = r.state.bodies.rbegin()->second.value;
            const int own = p.steps.back().id;
            for (const char* role : {"crest", "lower flank", "upper flank"}) {
                const auto near = resolveFaces(stud, **parseFaceRef(std::string(role) + " of step 3"));
                const auto far =
                    resolveFaces(cap, **parseFaceRef(std::string(role) + " of step " + std::to_string(own)));
                REQUIRE((near.ok() && far.ok()));
                const BRepExtrema_DistShapeShape d(stud.shape().faces(near->items.front() + 1),
                                                   cap.shape().faces(far->items.front() + 1));
                INFO(role);
                CHECK(d.Value() == Approx(0.3).margin(1e-3));
            }
            // Of each with all of the other.
            const auto least = [](const Body& of, const Body& to) {
                double out = 1e300;
                for (int i = 1; i <= of.shape().faces.Extent(); ++i)
                    for (const NamePtr n : of.shape().namesOf(of.shape().faces(i)))
                        if (n->role == "crest" || n->role == "beginning" || n->role == "ending")
                            out = std::min(out, BRepExtrema_DistShapeShape(
                                                    of.shape().faces(i),
                                                    TopExp_Explorer(to.shape().shape, TopAbs_SHELL).Current())
                                                    .Value());
                return out;
            };
            CHECK(least(stud, cap) == Approx(0.3).margin(1e-3));
            CHECK(least(cap, stud) == Approx(0.3).margin(1e-3));
        }
}

TEST_CASE("What a thread does not fit on says why, with what would") {
    Part p = walled(12, 0, true);
    Step& t = add(p, "thread", {{"wall", References{side(p, 0)}}, {"turns", std::string("12")}});
    Error e = faultOf(p);
    CHECK(e.code == "thread.long");
    REQUIRE(e.remedies.size() == 1);
    t.slots["turns"] = e.remedies.front().value;
    built(p);
    t.slots["turns"] = std::string("2");
    t.slots["base"] = std::string("4 mm");
    e = faultOf(p);
    CHECK(e.code == "thread.crowded");
    REQUIRE(e.remedies.size() == 1);
    t.slots["base"] = e.remedies.front().value;
    built(p);
    t.slots["wall"] = References{"end of step 2"};
    CHECK(faultOf(p).code == "thread.round");
}

namespace {

/// A thread without a run-out on a stud or in a hole, by a drawn profile. \return what it adds, or takes
double drawnThread(const Drawing& profile, double radius, bool outside, bool cut, double turns) {
    Part p = walled(radius, 0, outside);
    const double before = test::volumeOf(built(p));
    const std::size_t wall = outside ? 0 : 1;
    add(p, "draw", {{"name", std::string("tooth")}, {"drawing", DrawingSlot(profile)}});
    add(p, "thread",
        {{"wall", References{side(p, wall)}},
         {"does", std::string(cut ? "cut" : "raised")},
         {"profile", std::string("drawn")},
         {"outline", std::string("tooth")},
         {"pitch", std::string("5 mm")},
         {"turns", formatNumber(turns, 4)},
         {"run-out", std::string("0°")}});
    const auto r = built(p);
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    return test::volumeOf(r) - before;
}

Drawing openLine(const std::vector<Vec2>& corners) {
    Drawing d;
    for (std::size_t i = 0; i + 1 < corners.size(); ++i)
        d.draw(StrokeKind::Line, {corners[i], corners[i + 1]});
    return d;
}

} // namespace

TEST_CASE("A drawn profile goes round as far as Guldin says, drawn anywhere and in either direction") {
    // A saw tooth: steep on its upper side. Area and moment about the foot's level.
    const std::vector<Vec2> tooth{{7, 3}, {9.4, 4.5}, {9.6, 4.5}, {9.7, 3}};
    double area = 0, moment = 0;
    for (std::size_t i = 0; i + 1 < tooth.size(); ++i) {
        const double w = tooth[i + 1].x - tooth[i].x, a = tooth[i].y - 3, b = tooth[i + 1].y - 3;
        area += w * (a + b) / 2;
        moment += w * (a * a + a * b + b * b) / 6;
    }
    const std::vector<Vec2> back(tooth.rbegin(), tooth.rend());
    for (const bool outside : {true, false})
        for (const bool cut : {true, false}) {
            INFO((outside ? "outside" : "inside") << (cut ? ", cut" : ", raised"));
            const double away = outside != cut ? 1 : -1, turn = 2 * kPi * 2.25;
            const double should = (cut ? -1 : 1) * turn * (area * 12 + away * moment);
            CHECK(drawnThread(openLine(cut ? back : tooth), 12, outside, cut, 2.25) ==
                  Approx(should).epsilon(1e-4));
        }
    // A half circle.
    Drawing round;
    round.draw(StrokeKind::Arc, {{1.2, 0}, {-1.2, 0}, {0, 0}}, {1.2});
    const double half = kPi * 1.2 * 1.2 / 2, up = 2 * 1.2 * 1.2 * 1.2 / 3;
    CHECK(drawnThread(round, 12, true, false, 1.5) == Approx(3 * kPi * (half * 12 + up)).epsilon(1e-4));
}

TEST_CASE("A drawing that is no profile of a thread says what it lacks") {
    Part p = walled(12, 0, true);
    add(p, "draw", {{"name", std::string("tooth")}, {"drawing", DrawingSlot(circleLine(1))}});
    add(p, "thread",
        {{"wall", References{side(p, 0)}},
         {"profile", std::string("drawn")},
         {"outline", std::string("tooth")}});
    const auto says = [&](const Drawing& d) {
        p.steps[2].slots["drawing"] = DrawingSlot(d);
        const Error e = faultOf(p);
        CHECK(e.code == "thread.profile");
        return e.sentence.text();
    };
    CHECK(says(circleLine(1)).find("one open line") != std::string::npos);
    CHECK(says(openLine({{0, 0}, {1, 1}, {2, 0.25}})).find("0.25 mm apart") != std::string::npos);
    CHECK(says(openLine({{0, 0}, {1, -1}, {2, 0}})).find("Nothing of it may lie lower") != std::string::npos);
    p.steps.back().slots["fit"] = std::string("wider");
    CHECK(says(openLine({{0, 0}, {1, 1}, {2, 0}})).find("draw the wider one") != std::string::npos);
}

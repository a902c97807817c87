// What a result rests on: nothing that it read may change without it, and nothing else makes it stale.

#include "core/sketch/trace.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

std::vector<bool> redone(const RegenResult& r) {
    std::vector<bool> out;
    for (const StepReport& s : r.steps) {
        INFO("step " << s.number << ": " << (s.error ? s.error->sentence : ""));
        CHECK(s.ok);
        out.push_back(!s.cached);
    }
    return out;
}

int count(const std::vector<bool>& list) {
    return static_cast<int>(std::count(list.begin(), list.end(), true));
}

} // namespace

TEST_CASE("A drawing that follows a stroke of an earlier drawing moves with it") {
    Part p;
    Drawing first = lineFrom({10, 0}, {10, 30});
    const int line = first.strokes[0].id;
    const int source = add(p, "draw", {{"drawing", DrawingSlot(first)}}).id;
    Trace trace;
    trace.source = "projection of stroke " + std::to_string(line) + " of step " + std::to_string(source);
    trace.at = {{10, 0}, {10, 30}};
    Drawing second;
    const int followed = followTrace(second, trace);
    const int follower = add(p, "draw", {{"drawing", DrawingSlot(second)}}).id;
    Engine engine;
    for (const double x : {10.0, 17.0, 4.0}) {
        p.findStep(source)->slots["drawing"] = DrawingSlot(lineFrom({x, 0}, {x, 30}));
        const auto r = engine.regenerate(p);
        CHECK(redone(r)[1]);
        const Outline& o = *r.state.outlines.at({follower, 0}).value;
        CHECK(o.strokes.at(followed)[0].at(0).x == Approx(x));
        CHECK(o.strokes.at(followed)[0].at(1).x == Approx(x));
    }
}

TEST_CASE("However long a part and however small the cache, a part that is built twice is built once") {
    Part p;
    addCup(p, 50, "cup");
    for (int k = 0; k < 60; ++k) add(p, "plane", {{"distance", std::to_string(k) + " mm"}});
    Engine engine(1); // one byte
    CHECK(count(redone(engine.regenerate(p))) == 63);
    CHECK(count(redone(engine.regenerate(p))) == 0);
    p.steps.back().slots["distance"] = std::string("200 mm");
    CHECK(count(redone(engine.regenerate(p))) == 1);
    // A trial may use what is there, and takes nothing away from the part at hand.
    Part other;
    addCup(other, 70, "cup");
    RegenHooks trial;
    trial.trial = true;
    CHECK(count(redone(engine.regenerate(other, trial))) == 3);
    CHECK(count(redone(engine.regenerate(p))) == 0);
}

TEST_CASE("Of 300 steps an edit redoes what it touches, and what rests on that") {
    Part p;
    p.values.push_back({"lift", "3 mm", ""});
    addCup(p, 50, "cup");
    for (int k = 4; k <= 300; ++k) {
        const bool uses = k == 50 || k == 120 || k == 200;
        Step& plane = add(p, "plane",
                          {{"name", "p" + std::to_string(k)},
                           {"distance", uses ? std::string("lift") : std::to_string(k) + " mm"}});
        if (k == 51 || k == 121)
            plane.slots["from"] = "p" + std::to_string(k - 1); // they rest on two of the three
    }
    REQUIRE(p.steps.size() == 300);
    Engine engine;
    CHECK(count(redone(engine.regenerate(p))) == 300);
    p.steps.back().slots["distance"] = std::string("7 mm");
    auto again = redone(engine.regenerate(p));
    CHECK(count(again) == 1);
    CHECK(again.back());
    p.values[0].expression = "4 mm";
    again = redone(engine.regenerate(p));
    CHECK(count(again) == 5);
    for (const std::size_t k : {50u, 51u, 120u, 121u, 200u}) CHECK(again[k - 1]);
    p.values[0].expression = "2 mm * 2"; // the same size
    CHECK(count(redone(engine.regenerate(p))) == 0);
}

TEST_CASE("What is over the cache's bytes is let go, the longest unused first") {
    Engine engine(400000);
    Part p;
    addCup(p, 50, "cup");
    for (int width = 50; width < 90; width += 2) {
        p.steps[0].slots["stations"] =
            Stations{{"0", std::to_string(width), false, ""}, {"60", std::to_string(width + 8), false, ""}};
        redone(engine.regenerate(p));
        CHECK(engine.cache().bytes() < 500000);
    }
    CHECK(engine.cache().size() < 60);
    CHECK(engine.cache().size() >= 3);
}

TEST_CASE("An edit of one body leaves the steps of another alone") {
    Part p;
    addCup(p, 50, "first");
    addCup(p, 80, "second");
    add(p, "fillet", {{"edges", References{"rim of top of step 5"}}, {"radius", std::string("0.5 mm")}});
    Engine engine;
    CHECK(count(redone(engine.regenerate(p))) == 7);
    p.findStep(3)->slots["wall"] = std::string("1.8 mm");
    CHECK(redone(engine.regenerate(p)) == std::vector<bool>{false, false, true, false, false, false, false});
    p.findStep(4)->slots["tolerance"] = std::string("0.01 mm");
    CHECK(redone(engine.regenerate(p)) == std::vector<bool>{false, false, false, true, true, true, true});
}

TEST_CASE("Another name for a body, an outline or a plane builds nothing anew") {
    Part p;
    addCup(p, 50, "cup");
    const int datum = add(p, "plane", {{"name", std::string("level")}}).id;
    add(p, "draw", {{"plane", std::string("level")}, {"drawing", DrawingSlot(lineFrom({0, 0}, {5, 5}))}});
    Engine engine;
    const auto before = engine.regenerate(p);
    CHECK(count(redone(before)) == 5);
    CHECK(renameThing(p, 2, "body", "beaker").empty());
    CHECK(renameThing(p, 1, "name", "beaker's line").empty());
    CHECK(renameThing(p, datum, "name", "half way").empty());
    CHECK(p.findStep(3)->text("body") == "beaker");
    CHECK(p.findStep(2)->text("outline") == "beaker's line");
    CHECK(p.findStep(5)->text("plane") == "half way");
    const auto after = engine.regenerate(p);
    CHECK(count(redone(after)) == 0);
    CHECK(after.state.bodyNamed("beaker") == before.state.bodyNamed("cup"));
    CHECK_FALSE(after.state.bodyNamed("cup"));
    CHECK(after.state.planeNamed("half way"));
}

TEST_CASE("A name that is taken or means something else is refused in words, and nothing changes") {
    Part p;
    addCup(p, 50, "cup");
    addCup(p, 80, "lid");
    const Part before = p;
    for (const char* bad : {"", "lid", "line of cup", "front", "top of step 2"}) {
        INFO(bad);
        CHECK_FALSE(renameThing(p, 2, "body", bad).empty());
        CHECK(p.findStep(2)->text("body") == "cup");
    }
    // A part from elsewhere may hold two of one name all the same: the second step says so.
    p.findStep(5)->slots["body"] = std::string("cup");
    const auto r = Engine().regenerate(p);
    REQUIRE(r.steps[4].error);
    CHECK(r.steps[4].error->code == "name.taken");
    CHECK(r.steps[2].ok);
}

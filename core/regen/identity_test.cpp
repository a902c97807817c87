// What a result rests on: nothing that it read may change without it, and nothing else makes it stale.

#include "core/base/file.hpp"
#include "core/exchange/export.hpp"
#include "core/regen/engine.hpp"
#include "core/sketch/trace.hpp"

#include <catch2/catch.hpp>

#include <unistd.h>

using namespace gc;

namespace {

using Slots = std::map<std::string, SlotValue>;

Step& add(Part& p, const std::string& kind, const Slots& slots = {}) {
    Step step = newStep(p, kind);
    for (const auto& [key, value] : slots) step.slots[key] = value;
    p.steps.push_back(step);
    return p.steps.back();
}

/// Stations, a turn and a shell: three steps. Their ids begin at the next free one.
void addCup(Part& p, double width, const std::string& body) {
    const std::string line = "line of " + body;
    add(p, "outline",
        {{"name", line},
         {"stations",
          Stations{{"0", formatNumber(width), false, ""}, {"60", formatNumber(width + 8), false, ""}}},
         {"tolerance", std::string("0")}});
    const int turned = add(p, "revolve", {{"outline", line}, {"body", body}}).id;
    add(p, "shell", {{"body", body}, {"open", References{"top of step " + std::to_string(turned)}}});
}

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

Drawing lineFrom(Vec2 a, Vec2 b) {
    Drawing d;
    d.draw(StrokeKind::Line, {a, b});
    return d;
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

namespace {

/// One step of a kind on a part that it works on, with what its result shows and what it does not.
struct Probe {
    Part part;
    int step = 0;
    std::vector<std::pair<std::string, Slots>> shows, hides;
};

std::string potAsStep() {
    Part p;
    addCup(p, 50, "cup");
    const auto r = Engine().regenerate(p);
    const auto path =
        std::filesystem::temp_directory_path() / ("gc-identity-" + std::to_string(::getpid()) + ".step");
    REQUIRE(exportBodies({{"cup", r.state.body("cup")}}, "cup", path).ok());
    const std::string content = *readFile(path);
    std::filesystem::remove(path);
    return content;
}

/// A probe for every kind that there is: a new kind fails the test below until it has one here.
std::map<std::string, Probe> probes() {
    std::map<std::string, Probe> all;
    const auto text = [](const char* key, const char* value) { return Slots{{key, std::string(value)}}; };
    Part cup;
    addCup(cup, 50, "cup");
    {
        Probe p{cup, 1, {}, {}};
        p.shows = {{"tolerance", text("tolerance", "0.2 mm")},
                   {"stations", {{"stations", Stations{{"0", "50", false, ""}, {"61", "58", false, ""}}}}}};
        p.hides = {{"wall of inside rows, where there are none", text("wall", "3 mm")}};
        all["outline"] = p;
    }
    {
        Probe p{cup, 2, {}, {}};
        p.shows = {{"angle", text("angle", "300°")}};
        all["revolve"] = p;
    }
    {
        Probe p{cup, 3, {}, {}};
        p.shows = {{"wall", text("wall", "2 mm")},
                   {"side", text("side", "outward")},
                   {"open", {{"open", References{}}}}};
        all["shell"] = p;
    }
    {
        Probe p{cup, 0, {}, {}};
        p.step = add(p.part, "plane").id;
        p.shows = {{"distance", text("distance", "11 mm")},
                   {"from", text("from", "side")},
                   {"way",
                    {{"way", std::string("through points")},
                     {"points", References{"spot 0 0 0 on floor of step 2", "spot 9 0 0 on floor of step 2",
                                           "spot 0 9 0 on floor of step 2"}}}}};
        p.hides = {{"angle", text("angle", "30°")}, {"to", text("to", "front")}};
        all["plane"] = p;
    }
    {
        Probe p{cup, 0, {}, {}};
        const Drawing d = lineFrom({0, 0}, {5, 5});
        p.step = add(p.part, "draw", {{"drawing", DrawingSlot(d)}}).id;
        Drawing traced = d;
        traced.picture = TracedPicture{"x.png", {}, 10, 10, 0.5};
        p.shows = {{"plane", text("plane", "ground")},
                   {"seen", text("seen", "from behind")},
                   {"drawing", {{"drawing", DrawingSlot(lineFrom({0, 0}, {5, 6}))}}}};
        p.hides = {{"a picture below it", {{"drawing", DrawingSlot(traced)}}}};
        all["draw"] = p;
    }
    {
        Probe p{cup, 0, {}, {}};
        p.step = add(p.part, "fillet",
                     {{"edges", References{"rim of top of step 2"}}, {"radius", std::string("0.5 mm")}})
                     .id;
        p.shows = {{"radius", text("radius", "0.6 mm")},
                   {"edges", {{"edges", References{"where wall of step 2 meets floor of step 2"}}}}};
        all["fillet"] = p;
    }
    {
        Probe p{cup, 0, {}, {}};
        p.step = add(p.part, "hole", {{"face", References{"floor of step 2"}}}).id;
        p.shows = {{"diameter", text("diameter", "7 mm")},
                   {"lean", text("lean", "2°")},
                   {"count", {{"count", std::string("4")}, {"circle", std::string("20 mm")}}}};
        p.hides = {{"circle of a single hole", text("circle", "30 mm")}};
        all["hole"] = p;
    }
    {
        Probe p;
        const std::string step = potAsStep();
        p.part.attachments = {{"a.step", step}, {"b.step", step + "\n"}};
        p.step = add(p.part, "import", {{"file", std::string("a.step")}}).id;
        p.shows = {{"file", text("file", "b.step")}};
        all["import"] = p;
    }
    return all;
}

bool redoes(Engine& engine, const Part& part, int step) {
    const auto r = engine.regenerate(part);
    const StepReport& s = r.steps.at(static_cast<std::size_t>(part.placeOf(step) - 1));
    INFO((s.error ? s.error->sentence : std::string()));
    CHECK(s.ok);
    return !s.cached;
}

} // namespace

TEST_CASE("Of every kind: what the result shows makes it anew, anything else does not") {
    const auto all = probes();
    for (const StepKind& kind : allKinds()) {
        INFO(kind.key());
        REQUIRE(all.count(kind.key()) == 1);
        const Probe& probe = all.at(kind.key());
        Engine engine;
        CHECK(redoes(engine, probe.part, probe.step));
        for (const auto& [what, slots] : probe.shows) {
            Part p = probe.part;
            for (const auto& [key, value] : slots) p.findStep(probe.step)->slots[key] = value;
            INFO("changed: " << what);
            CHECK(redoes(engine, p, probe.step));
        }
        for (const auto& [what, slots] : probe.hides) {
            Part p = probe.part;
            for (const auto& [key, value] : slots) p.findStep(probe.step)->slots[key] = value;
            INFO("changed: " << what);
            CHECK_FALSE(redoes(engine, p, probe.step));
        }
        for (const SlotWords& slot : kind.words.slots) {
            if (!slot.names) continue;
            Part p = probe.part;
            INFO("renamed: " << slot.key);
            CHECK(renameThing(p, probe.step, slot.key, "quite another name").empty());
            CHECK_FALSE(redoes(engine, p, probe.step));
        }
        Part p = probe.part; // another body beside it is no business of the step
        addCup(p, 90, "neighbour");
        std::rotate(p.steps.begin(), p.steps.end() - 3, p.steps.end());
        CHECK_FALSE(redoes(engine, p, probe.step));
        p.brief.targets = {{"mass", "≤ 5 g"}};
        p.values.push_back({"unused", "3 mm", ""});
        CHECK_FALSE(redoes(engine, p, probe.step));
        // The same size in other words is the same size.
        for (const SlotWords& slot : kind.words.slots) {
            if (slot.type != SlotType::Quantity || !isPlainNumber(p.findStep(probe.step)->text(slot.key)))
                continue;
            Part q = p;
            Step* s = q.findStep(probe.step);
            s->slots[slot.key] = "(" + s->text(slot.key) + ") * 1";
            INFO("said otherwise: " << slot.key);
            CHECK_FALSE(redoes(engine, q, probe.step));
        }
    }
}

// References on real parts: each item that a person can point at can be said, and what is said means just
// that.

#include "core/base/file.hpp"
#include "core/exchange/export.hpp"
#include "core/exchange/step_file.hpp"
#include "core/shape/mesh.hpp"
#include "core/shape/places.hpp"
#include "tests/support/disc.hpp"
#include "tests/support/temporary_folder.hpp"

#include <catch2/catch.hpp>

#include <set>

using namespace gc;
using namespace gc::test;

TEST_CASE("Of a disc with six holes every edge has a reference of its own, that means it and no other") {
    const Body body = bodyOf(discWithHoles());
    const auto mesh = makeMesh(body, {0.1, 0.3});
    REQUIRE(mesh.ok());
    int real = 0;
    std::set<std::string> said;
    for (std::size_t e = 0; e < mesh->edges.size(); ++e) {
        if (mesh->edges[e].points.empty()) continue; // a seam
        ++real;
        const std::string own = ownReferenceOfEdge(body, static_cast<int>(e));
        INFO("edge " << e << ": " << own);
        REQUIRE_FALSE(own.empty());
        CHECK(edges(body, own) == std::vector<int>{static_cast<int>(e)});
        CHECK(said.insert(own).second);
        // A click offers it, too.
        const auto offered = referencesForEdge(body, static_cast<int>(e));
        CHECK(std::find(offered.begin(), offered.end(), own) != offered.end());
    }
    CHECK(real == 14);
    // And each has a middle and a centre that can be picked.
    CHECK(placesOn(body).size() == 28);
}

TEST_CASE("The edge of one of several like holes is rounded alone, or all of them by the rule") {
    Part p = discWithHoles();
    const Body body = bodyOf(p);
    const auto all = edges(body, "where bore of step 3 meets start of step 2");
    CHECK(all.size() == 6);
    const auto one = edges(body, "where copy at 120° of bore of step 3 meets start of step 2");
    CHECK(one.size() == 1);
    for (const auto& [refs, rounds] :
         {std::pair{References{"where copy at 120° of bore of step 3 meets start of step 2"}, 1},
          {References{"where bore of step 3 meets start of step 2"}, 6}}) {
        Part q = p;
        add(q, "fillet", {{"edges", refs}, {"radius", std::string("1 mm")}});
        CHECK(faceCount(bodyOf(q)) == faceCount(body) + rounds);
        // Beside a copy a round can be said again.
        const auto again =
            resolveFaces(bodyOf(q), **parseFaceRef("fillet between bore of step 3 and start of step 2"));
        REQUIRE(again.ok());
        CHECK(again->items.size() == static_cast<std::size_t>(rounds));
    }
}

TEST_CASE("The rim that a shell left does not take along what was drilled into it later") {
    Part p;
    add(p, "draw",
        {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({-40, -30}, {40, 30}))}});
    add(p, "extrude", text("length", "30 mm"));
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("10 mm")}});
    const auto before = edges(bodyOf(p), "rim of end of step 2");
    CHECK(before.size() == 8);
    Drawing pin;
    pin.draw(StrokeKind::Circle, {{35, 0}}, {2});
    add(p, "plane", {{"from", std::string("ground")}, {"distance", std::string("30 mm")}});
    add(p, "draw", {{"drawing", DrawingSlot(pin)}});
    add(p, "extrude",
        {{"length", std::string("6 mm")},
         {"way", std::string("backward")},
         {"does", std::string("taking from")}});
    const Body drilled = bodyOf(p);
    CHECK(edges(drilled, "rim of end of step 2").size() == 8);
    CHECK(edges(drilled, "all edges of rim of end of step 2").size() == 9);
}

TEST_CASE("What the same words come to after a step is switched off is told, until the next edit") {
    Part p;
    add(p, "draw",
        {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({-40, -30}, {40, 30}))}});
    add(p, "extrude", text("length", "30 mm"));
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("10 mm")}});
    add(p, "fillet", {{"edges", References{"rim of end of step 2"}}, {"radius", std::string("1 mm")}});
    Engine engine;
    const auto notes = [&](const Part& part, bool preview = false) {
        RegenHooks hooks;
        hooks.preview = preview;
        const auto r = engine.regenerate(part, hooks);
        INFO(faults(r));
        REQUIRE(allFine(r));
        std::string all;
        for (const Message& m : r.steps[3].notes) all += m.text();
        return all;
    };
    CHECK(notes(p).empty());
    Part open = p;
    open.steps[2].off = true;
    const std::string told = "Rim of end is 4 edges now; before the last edit it was 8 edges.";
    CHECK(notes(open, true).find(told) != std::string::npos); // while it is tried, too
    CHECK(notes(open).find(told) != std::string::npos);
    CHECK(notes(open).find(told) != std::string::npos); // built once more: still so
    CHECK(notes(p).find("is 8 edges now") != std::string::npos);
    p.values.push_back({"wall", "2 mm", ""});
    CHECK(notes(p).empty());
}

TEST_CASE("Next to holds wherever it stands in a reference") {
    // A comb: a plate with two slots, so that its upper face is three pieces of one name.
    Part p;
    add(p, "draw",
        {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({-30, -10}, {30, 10}))}});
    add(p, "extrude", text("length", "10 mm"));
    for (const double x : {-10.0, 10.0}) {
        add(p, "draw",
            {{"plane", std::string("ground")},
             {"drawing", DrawingSlot(rectangle({x - 2, -12}, {x + 2, 12}))}});
        add(p, "extrude", {{"length", std::string("14 mm")}, {"does", std::string("taking from")}});
    }
    // Slots right through would part it: they begin 4 mm up.
    add(p, "plane", {{"distance", std::string("4 mm")}});
    const std::string level = p.steps.back().text("name");
    for (Step& s : p.steps)
        if (s.kind == "draw" && s.id > 2) s.slots["plane"] = level;
    std::rotate(p.steps.begin() + 2, p.steps.end() - 1, p.steps.end());
    const Body body = bodyOf(p);
    const auto side = [&](int draw, std::size_t k) {
        return "side " + std::to_string(p.findStep(draw)->drawing("drawing").strokes[k].id) + " of step " +
               std::to_string(draw + 1);
    };
    const std::string top = "end of step 2", right = side(1, 1), front = side(1, 0);
    CHECK(resolveFaces(body, **parseFaceRef(top))->items.size() == 3);
    CHECK(resolveFaces(body, **parseFaceRef(top + " next to " + right))->items.size() == 1);
    CHECK(edges(body, "where " + top + " meets " + front).size() == 3);
    CHECK(edges(body, "where (" + top + " next to " + right + ") meets " + front).size() == 1);
    CHECK(edges(body, "where " + front + " meets (" + top + " next to " + side(3, 1) + ")").size() ==
          edges(body, "where (" + top + " next to " + side(3, 1) + ") meets " + front).size());
    CHECK(edges(body, "all edges of (" + top + " next to " + right + ")").size() == 4);
}

TEST_CASE("Pointing at an edge of a body with a thousand edges costs no look at all the others") {
    Part p = discWithHoles();
    p.findStep(1)->slots["drawing"] = [] {
        Drawing d;
        d.draw(StrokeKind::Circle, {{0, 0}}, {400});
        return DrawingSlot(d);
    }();
    p.findStep(3)->slots["count"] = std::string("200");
    p.findStep(3)->slots["circle"] = std::string("700 mm");
    const Body body = bodyOf(p);
    const auto mesh = makeMesh(body, {1, 0.6});
    int asked = 0;
    for (std::size_t e = 0; e < mesh->edges.size(); ++e)
        if (!mesh->edges[e].points.empty()) asked += !ownReferenceOfEdge(body, static_cast<int>(e)).empty();
    CHECK(asked == 402);
}

TEST_CASE("The same name on two bodies is a question, and its answer names the body, whatever it is called") {
    const auto r = Engine().regenerate(discWithHoles());
    ModelState two = r.state; // as a mirrored or a split body would be
    const ThingId first = two.bodies.begin()->first, second{first.step, 1};
    two.bodies[second] = two.bodies[first];
    two.bodies[first].name = "zebra";
    two.bodies[second].name = "apple";
    const std::string top = "end of step 2";
    const auto tie = findFaces({top}, FreeReader(two));
    REQUIRE_FALSE(tie.ok());
    CHECK(tie.error().code == "reference.tie");
    CHECK(tie.error().sentence.text().find("zebra and apple") != std::string::npos);
    for (const ThingId id : {first, second}) {
        const auto one = findFaces({onBody(top, id)}, FreeReader(two));
        REQUIRE(one.ok());
        CHECK(one->id == id);
    }
    std::swap(two.bodies[first].name, two.bodies[second].name);
    CHECK(findFaces({onBody(top, second)}, FreeReader(two))->id == second);
    two.bodies.erase(second);
    CHECK(findFaces({onBody(top, second)}, FreeReader(two)).error().code == "reference.lost");
    CHECK(findFaces({top}, FreeReader(two))->id == first);
}

#include "core/document/part_file.hpp"
#include "core/regen/orders.hpp"
#include "tests/support/built.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/shipped.hpp"

#include <catch2/catch.hpp>

#include <set>

using namespace gc;
using namespace gc::test;

namespace {

/// A block with a pocket, its uprights rounded, hollowed from above.
Part box() {
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({0, 0}, {60, 40}))}});
    add(p, "extrude", {{"length", std::string("30 mm")}});
    return p;
}
std::string side(const Part& p, std::size_t stroke) {
    return "side " + std::to_string(p.steps[0].drawing("drawing").strokes[stroke].id) + " of step 2";
}

} // namespace

TEST_CASE("A step is put before another, or to the end, and nowhere that is not there") {
    Part p = herbPot();
    const auto ids = [&] {
        std::vector<int> out;
        for (const Step& s : p.steps) out.push_back(s.id);
        return out;
    };
    const auto was = ids();
    putStep(p, was[4], was[2]);
    CHECK(ids()[2] == was[4]);
    CHECK(ids()[3] == was[2]);
    putStep(p, was[4], was[5]);
    CHECK(ids() == was);
    putStep(p, was[2], 0);
    CHECK(ids().back() == was[2]);
    CHECK(ids().size() == was.size());
    const auto now = ids();
    putStep(p, 9999, was[0]);
    putStep(p, was[0], 9999);
    putStep(p, was[0], was[0]);
    CHECK(ids() == now);
}

TEST_CASE("Places near a step are tried from near to far, none twice") {
    const Part p = herbPot();
    const auto places = otherPlaces(p, p.steps[3].id);
    REQUIRE(places.size() >= 4);
    CHECK(places[0] == p.steps[2].id);
    CHECK(places[1] == p.steps[5].id);
    CHECK(std::set<int>(places.begin(), places.end()).size() == places.size());
    CHECK(std::find(places.begin(), places.end(), p.steps[3].id) == places.end());
    CHECK(otherPlaces(p, 9999).empty());
}

TEST_CASE("A full round that comes before the uprights are rounded is offered the place behind them") {
    Part p = box();
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("4 mm")}});
    const int lip =
        add(p, "fillet", {{"how", std::string("fully over")}, {"over", References{"rim of end of step 2"}}})
            .id;
    // Upright edges, outside and in, named as they are before the lip is rounded.
    References outer, inner;
    for (std::size_t i = 0; i < 4; ++i) {
        outer.push_back("where " + side(p, i) + " meets " + side(p, (i + 1) % 4));
        inner.push_back("where inside of " + side(p, i) + " meets inside of " + side(p, (i + 1) % 4));
    }
    add(p, "fillet",
        {{"edges", outer},
         {"radius", std::string("9 mm")},
         {"rest", std::string("and")},
         {"edges 2", inner},
         {"radius 2", std::string("5 mm")}});
    Engine engine;
    Measurer measurer;
    const auto materials = loadMaterials();
    REQUIRE(materials.ok());
    const auto before = engine.regenerate(p);
    REQUIRE(faultsIn(before) == 1);
    const auto found = findOrders(p, lip, engine, measurer, *materials, {});
    REQUIRE(found.size() == 1);
    CHECK(found[0].step == lip);
    REQUIRE(found[0].before);
    CHECK(*found[0].before == 0);
    INFO(found[0].sentence.text());
    CHECK(found[0].sentence.text().find("mm") != std::string::npos);
    putStep(p, lip, *found[0].before);
    const auto after = engine.regenerate(p);
    INFO(faults(after));
    CHECK(allFine(after));
    // What was tried leaves nothing behind, and what is stopped finds nothing.
    CHECK(findOrders(p, lip, engine, measurer, *materials, [] { return true; }).empty());
}

TEST_CASE("A wall that a pocket made thin is mended by hollowing after it") {
    Part p = box();
    const int shell =
        add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("3 mm")}}).id;
    // A dimple from below that leaves little of the floor.
    add(p, "draw",
        {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({20, 10}, {40, 30}))}});
    add(p, "extrude", {{"length", std::string("2 mm")}, {"does", std::string("taking from")}});
    p.brief.targets = {{"thinnest wall", "≥ 2.5 mm"}};
    built(p);
    Engine engine;
    Measurer measurer;
    const auto materials = loadMaterials();
    REQUIRE(materials.ok());
    const auto found = findTargetRemedies(p, 0, engine, measurer, *materials, {});
    const auto order = std::find_if(found.begin(), found.end(),
                                    [](const TargetRemedy& r) { return r.remedy.before.has_value(); });
    REQUIRE(order != found.end());
    CHECK(order->remedy.step == shell);
    putStep(p, shell, *order->remedy.before);
    const auto r = engine.regenerate(p);
    INFO(faults(r));
    REQUIRE(allFine(r));
    const auto m = measurer.measure(p, r.state, *materials);
    REQUIRE(m.ok());
    CHECK(m->targets[0].verdict == Verdict::Holds);
    CHECK(*m->targets[0].value == Approx(3).epsilon(1e-3));
}

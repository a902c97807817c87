#include "core/document/named_values.hpp"

#include "core/document/drawing_sizes.hpp"
#include "core/document/units_change.hpp"
#include "tests/support/pen.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// A part that uses the value "wall" in a value, a slot, a station, a drawing, a target and the fill line.
Part partWithWall() {
    Part p;
    p.values = {{"wall", "2 mm", ""}, {"depth", "wall * 10", ""}, {"wallet", "80 mm", ""}};
    Step outline = newStep(p, "outline");
    auto rows = outline.stations("stations");
    rows[1].diameter = "60 mm + wall";
    outline.slots["stations"] = rows;
    p.steps.push_back(outline);
    Step shell = newStep(p, "shell");
    shell.slots["wall"] = "wall";
    p.steps.push_back(shell);
    Pen pen;
    const int line = pen.line({0, 0}, {20, 0});
    pen.d.relate(K::Distance, {line}, "depth + wall");
    Step draw = newStep(p, "draw");
    draw.slots["drawing"] = DrawingSlot(pen.d);
    p.steps.push_back(draw);
    p.brief.targets = {{"thinnest wall", ">= wall"}};
    p.brief.fillLine = "depth - wall";
    return p;
}

} // namespace

TEST_CASE("Where a value is used is listed, and renaming it reaches all of that") {
    Part p = partWithWall();
    const auto uses = usesOfValue(p, "wall");
    CHECK(uses.size() == 6);
    CHECK(std::find(uses.begin(), uses.end(), "step 2, Shell: wall") != uses.end());
    const auto before = valuesOf(p);
    REQUIRE(renameValue(p, "wall", "thickness").empty());
    CHECK(usesOfValue(p, "wall").empty());
    CHECK(usesOfValue(p, "thickness").size() == 6);
    CHECK(p.values[2].name == "wallet"); // a longer name is another name
    CHECK(valuesOf(p).at("depth").value == Approx(before.at("depth").value));
    CHECK(p.findStep(p.steps[2].id)->drawing("drawing").relations[0].expression == "depth + thickness");
    const auto sizes = dimensionSizes(p.steps[2].drawing("drawing"), p.brief.units, valuesOf(p));
    REQUIRE(sizes);
    CHECK(sizes->begin()->second == Approx(22));
}

TEST_CASE("A name that cannot be is refused in a sentence, and nothing changes") {
    Part p = partWithWall();
    for (const char* bad : {"", "2fast", "mm", "a b", "depth"}) {
        const Part before = p;
        const std::string why = renameValue(p, "wall", bad);
        INFO(bad);
        REQUIRE(!why.empty());
        CHECK(why.back() == '.');
        CHECK((p.values == before.values && p.steps == before.steps));
    }
    Pen pen;
    const int a = pen.line({0, 0}, {20, 0}), b = pen.line({0, 5}, {20, 5});
    const int first = pen.d.relate(K::Distance, {a}, "20 mm"),
              second = pen.d.relate(K::Distance, {b}, "20 mm");
    const Values values{{"wall", Amount{2, kLength}}};
    CHECK(nameDimension(pen.d, first, "span", values).empty());
    CHECK(!nameDimension(pen.d, second, "span", values).empty());
    CHECK(!nameDimension(pen.d, second, "wall", values).empty());
    pen.d.findRelation(second)->expression = "span / 2";
    CHECK(!nameDimension(pen.d, first, "", values).empty()); // it is used
    CHECK(nameDimension(pen.d, first, "reach", values).empty());
    CHECK(pen.d.findRelation(second)->expression == "reach / 2");
    p.steps[2].slots["drawing"] = DrawingSlot(pen.d);
    CHECK(renameValue(p, "wall", "reach").find("reach") != std::string::npos);
}

TEST_CASE("A name and an expression are told apart") {
    CHECK(splitName("24 mm").expression == "24 mm");
    CHECK(!splitName("24 mm").name);
    CHECK(splitName(" depth = wall*2 ").name == "depth");
    CHECK(splitName(" depth = wall*2 ").expression == "wall*2");
    CHECK(!splitName("a = b = c").name);
}

TEST_CASE("In other units a part keeps its size: figures without a unit take theirs along") {
    Part p = partWithWall();
    p.values = {{"wall", "2", ""},
                {"depth", "wall * 10 + 1", ""},
                {"turn", "30°", ""},
                {"n", "6", ""},
                {"six", "2 * 3", ""}};
    Pen pen;
    const int line = pen.line({0, 0}, {20, 0});
    pen.d.relate(K::Distance, {line}, "12.5");
    pen.d.relations.back().name = "long";
    const int other = pen.line({0, 5}, {20, 5});
    pen.d.relate(K::Distance, {other}, "long + 3");
    p.steps.back().slots["drawing"] = DrawingSlot(pen.d);
    p.brief.fillLine = "96";
    p.brief.targets = {{"thinnest wall", "2 … 4"}, {"mass", "100 ± 3"}, {"pieces", "1"}};
    Stations rows = p.steps[0].stations("stations");
    rows[0].diameter = "50";
    rows[0].tolerance = "0.1";
    p.steps[0].slots["stations"] = rows;
    p.steps[1].slots["wall"] = "wall / 2 + 1";

    UnitSystem inches = p.brief.units;
    inches.length = "in";
    const UnitsChanged changed = inUnits(p, inches);
    const Part& q = changed.part;
    CHECK(q.brief.units.length == "in");
    CHECK(changed.said.size() == 12);
    CHECK(changed.said.front() == "value wall: 2");
    CHECK(q.brief.targets[0].allowed == "2 mm … 4 mm");
    CHECK(q.brief.targets[1].allowed == "100 ± 3");
    CHECK(q.brief.targets[2].allowed == "1");
    CHECK(q.values[2].expression == "30°");
    const auto was = valuesOf(p), is = valuesOf(q);
    for (const auto& [name, amount] : was) CHECK(is.at(name).value == Approx(amount.value).epsilon(1e-12));
    CHECK(*evaluateSlot(q.steps[1], "wall", q, is) == Approx(*evaluateSlot(p.steps[1], "wall", p, was)));
    const auto before = dimensionSizes(p.steps.back().drawing("drawing"), p.brief.units, was);
    const auto after = dimensionSizes(q.steps.back().drawing("drawing"), q.brief.units, is);
    REQUIRE(before.ok());
    REQUIRE(after.ok());
    CHECK(*after == *before);
    // And back: all say their units already.
    const UnitsChanged back = inUnits(q, p.brief.units);
    CHECK(back.said.empty());
}

TEST_CASE("A drawing is scaled to its first size with the figures that nobody typed, and back") {
    Pen pen;
    const int line = pen.line({0, 0}, {20, 0}), other = pen.line({0, 5}, {30, 5}),
              third = pen.line({0, 9}, {50, 9});
    pen.d.relate(K::Distance, {line}, "20 mm");
    const int typed = pen.d.relations.back().id;
    pen.d.relate(K::Distance, {other}, "30 mm");
    pen.d.relations.back().name = "long";
    pen.d.relate(K::Distance, {third}, "long + 20 mm");
    const UnitSystem units;
    const Drawing before = pen.d;
    scaleWithFigures(pen.d, 2, typed, units, {});
    CHECK(pen.d.findRelation(typed)->expression == "20 mm"); // it is what was typed
    CHECK(pen.d.relations[1].expression == "60 mm");
    CHECK(pen.d.relations[2].expression == "long + 20 mm");
    const auto reach = [](const Drawing& d, int s) {
        return length(d.at(d.findStroke(s)->points[1]) - d.at(d.findStroke(s)->points[0]));
    };
    CHECK(reach(pen.d, other) == Approx(60));
    scaleWithFigures(pen.d, 0.5, typed, units, {});
    CHECK(pen.d.relations[1].expression == before.relations[1].expression);
    CHECK(reach(pen.d, other) == Approx(30));
}

TEST_CASE(
    "A value without a unit is a length, and a number where one is wanted; units change its lengths only") {
    Part p;
    p.values = {{"holes", "6", ""}, {"wide", "8", ""}};
    Step hole = newStep(p, "hole");
    hole.slots["count"] = std::string("holes / 2 + 1");
    hole.slots["diameter"] = std::string("wide");
    p.steps.push_back(hole);
    CHECK(*evaluateSlot(p.steps[0], "count", p, valuesOf(p)) == Approx(4));
    CHECK(*evaluateSlot(p.steps[0], "diameter", p, valuesOf(p)) == Approx(8));
    p.steps[0].slots["count"] = std::string("holes / 1 mm"); // as it had to be said
    CHECK(*evaluateSlot(p.steps[0], "count", p, valuesOf(p)) == Approx(6));
    p.steps[0].slots["count"] = std::string("holes");
    UnitSystem inches;
    inches.length = "in";
    const Part q = inUnits(p, inches).part;
    CHECK(q.values[0].expression == "6");
    CHECK(q.values[1].expression == "8 mm");
    CHECK(*evaluateSlot(q.steps[0], "count", q, valuesOf(q)) == Approx(6));
    CHECK(*evaluateSlot(q.steps[0], "diameter", q, valuesOf(q)) == Approx(8));
    p.steps[0].slots["count"] = std::string("wall");
    CHECK(!evaluateSlot(p.steps[0], "count", p, valuesOf(p)));
    p.values[0].expression = "6 mm"; // with a unit it is a length, whatever is wanted
    p.steps[0].slots["count"] = std::string("holes");
    CHECK(!evaluateSlot(p.steps[0], "count", p, valuesOf(p)));
}

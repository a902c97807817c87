#include "core/document/named_values.hpp"

#include "core/document/drawing_sizes.hpp"
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

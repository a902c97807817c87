#include "core/document/drawing_edits.hpp"

#include "core/document/areas.hpp"

#include "core/document/drawing_sizes.hpp"
#include "core/document/edit_words.hpp"
#include "core/sketch/region.hpp"
#include "tests/support/box_letters.hpp"
#include "tests/support/pen.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

double solidArea(const Drawing& d) {
    double sum = 0;
    for (const Region& r : findRegions(d).regions)
        if (r.depth % 2 == 0) sum += r.area();
    return sum;
}

struct Plate : Pen {
    std::vector<int> sides = ring({{10, 5}, {50, 5}, {50, 25}, {10, 25}});
    int hole = circle({20, 15}, 3);
    Part part;
    EditOutcome ask(const std::string& kind, const std::vector<int>& chosen,
                    const std::map<std::string, std::string>& slots) {
        Step edit = newEdit(kind, d, chosen);
        for (const auto& [key, text] : slots) edit.slots[key] = text;
        return applyEdit(edit, part, chosen, d);
    }
};

} // namespace

TEST_CASE("Every edit reads as a sentence, and works as it stands on something that suits it") {
    for (const StepWords& w : allEditWords()) {
        INFO(w.kind);
        if (w.kind == "edit:text") continue; // has its own case
        Plate p;
        std::vector<int> chosen{p.hole};
        if (w.kind == "edit:round" || w.kind == "edit:chamfer") chosen = p.sides;
        if (w.kind == "edit:join") chosen = {p.line({0, 60}, {10, 60}), p.line({12, 61}, {20, 70})};
        if (w.kind == "edit:along") chosen = {p.hole, p.sides[0]};
        if (w.kind == "edit:fairness")
            chosen = {p.d.draw(StrokeKind::Fair, {{60, 0}, {66, 20}, {61, 40}}, {0.25})};
        CHECK(whyNoEdit(w.kind, p.d, chosen).empty());
        CHECK(!whyNoEdit(w.kind, p.d, {}).empty());
        const Step edit = newEdit(w.kind, p.d, chosen);
        const std::string text = sentenceText(edit, p.part);
        CHECK(text.find('{') == std::string::npos);
        CHECK(text.back() == '.');
        const EditOutcome out = applyEdit(edit, p.part, chosen, p.d);
        CHECK(out.whyNot.empty());
        const auto sizes = dimensionSizes(p.d, UnitSystem{}, {});
        REQUIRE(sizes);
        CHECK(settleTo(p.d, *sizes).solved);
        CHECK(findStepWords(w.kind) == nullptr); // it is no step
    }
}

TEST_CASE("Inside and outside of a closed outline do not depend on which way it was drawn") {
    for (const bool turned : {false, true}) {
        Pen p;
        std::vector<Vec2> at{{10, 5}, {50, 5}, {50, 25}, {10, 25}};
        if (turned) std::reverse(at.begin(), at.end());
        const auto ring = p.ring(at);
        Part part;
        part.values.push_back({"wall", "2 mm", ""});
        for (const char* side : {"inside", "outside"}) {
            Drawing d = p.d;
            Step edit = newEdit("edit:offset", d, ring);
            edit.slots["distance"] = "wall * 1.5";
            edit.slots["side"] = side;
            REQUIRE(applyEdit(edit, part, ring, d).done());
            const bool inside = side == std::string("inside");
            // Nested outlines: the frame between them.
            CHECK(solidArea(d) == Approx(inside ? 40 * 20 - 34 * 14 : 46 * 26 - 40 * 20));
            CHECK(d.relations.end() !=
                  std::find_if(d.relations.begin(), d.relations.end(),
                               [](const Relation& r) { return r.expression == "wall * 1.5"; }));
        }
    }
}

TEST_CASE("Slots are worked out, and what cannot be is told without touching the drawing") {
    Plate p;
    const Drawing before = p.d;
    CHECK(p.ask("edit:offset", p.sides, {{"distance", "2 kg"}}).whyNot.find("kg") != std::string::npos);
    CHECK(!p.ask("edit:offset", p.sides, {{"distance", "30 mm"}}).done());
    CHECK(!p.ask("edit:rows", {p.hole}, {{"columns", "0"}}).done());
    CHECK(p.ask("edit:mirror", p.sides, {{"line", "the line chosen last"}}).done());
    p.d = before;
    CHECK(!p.ask("edit:turn", {p.sides[0]}, {{"centre", "the point chosen last"}}).done());
    CHECK(!p.ask("edit:nothing", {p.hole}, {}).done());
    CHECK(p.d == before);
    CHECK(p.ask("edit:rows", {p.hole}, {{"columns", "2"}, {"across", "-8 mm"}}).done());
    const auto sizes = dimensionSizes(p.d, UnitSystem{}, {});
    REQUIRE(sizes);
    CHECK(settleTo(p.d, *sizes).solved);
    CHECK(p.at(p.centre(p.d.strokes.back().id)).x == Approx(12));
}

TEST_CASE("Text is as high as asked, stands at the chosen point and moves as one") {
    Plate p;
    const LettersAsStrokes letters = [](const std::string& text, const std::string&) -> Result<Letters> {
        return boxLetters(text);
    };
    Step edit = newEdit("edit:text", p.d, {});
    edit.slots["text"] = std::string("AB");
    edit.slots["height"] = std::string("6 mm");
    const int corner = p.to(p.sides[1]);
    CHECK(!applyEdit(edit, p.part, {corner}, p.d).done()); // nothing to write with
    const int freedoms = countFreedoms(p.d, {});
    const EditOutcome out = applyEdit(edit, p.part, {corner}, p.d, letters);
    REQUIRE(out.done());
    REQUIRE(out.made.size() == 9); // and the line that they stand on
    CHECK(countFreedoms(p.d, {}) == freedoms + 2);
    CHECK(length(p.at(p.from(out.made[0])) - p.at(corner)) < 1e-9);
    CHECK(length(p.along(out.made[1])) == Approx(6));
    // Without one of its strokes the rest still moves as one.
    p.d.erase({out.made[7]});
    CHECK(countFreedoms(p.d, {}) == freedoms + 2);
    Settler settler(p.d);
    settler.grab({p.from(out.made[0])});
    settler.drag({7, -4});
    settler.writeTo(p.d);
    CHECK(length(p.along(out.made[1])) == Approx(6));
    CHECK(p.at(p.from(out.made[4])).x == Approx(p.at(p.from(out.made[0])).x + 6));
    // It is a text still: its sentence has what it says, and says it anew.
    Step anew = changeOfText(p.d, p.d.texts.front().id);
    CHECK(anew.text("text") == "AB");
    CHECK(anew.text("height") == "6 mm");
    anew.slots["text"] = std::string("ABC");
    anew.slots["spacing"] = std::string("1 mm");
    const EditOutcome again = applyEdit(anew, p.part, {}, p.d, letters);
    REQUIRE(again.done());
    CHECK(again.made.size() == 13);
    CHECK(again.made[0] == out.made[0]);
    CHECK(p.at(p.from(again.made[8])).x == Approx(p.at(p.from(out.made[0])).x + 14));
}

TEST_CASE("All corners of what is chosen take one radius") {
    Plate p;
    REQUIRE(p.ask("edit:round", p.sides, {{"radius", "4 mm"}}).done());
    CHECK(solidArea(p.d) == Approx(800 - (4 - kPi) * 16 - 9 * kPi).epsilon(1e-9));
    int radii = 0;
    for (const Relation& r : p.d.relations) radii += r.kind == K::Radius;
    CHECK(radii == 1);
    Plate q;
    CHECK(!q.ask("edit:round", q.sides, {{"radius", "14 mm"}}).done()); // two do not fit on a side of 20 mm
    Plate r;
    REQUIRE(r.ask("edit:chamfer", {r.to(r.sides[0])}, {{"first", "2 mm"}, {"second", "3 mm"}}).done());
    CHECK(solidArea(r.d) == Approx(800 - 3 - 9 * kPi).epsilon(1e-9));
}

TEST_CASE("Mirror offers the axis, or a helper line that was chosen last") {
    Plate p;
    CHECK(newEdit("edit:mirror", p.d, p.sides).text("line") == "the axis");
    const int guide = p.line({60, 0}, {60, 40});
    p.d.findStroke(guide)->helper = true;
    auto chosen = p.sides;
    chosen.push_back(guide);
    CHECK(newEdit("edit:mirror", p.d, chosen).text("line") == "the line chosen last");
    chosen.back() = kLevelLine;
    CHECK(newEdit("edit:mirror", p.d, chosen).text("line") == "the level line");
}

TEST_CASE("Areas in a slot: one, several, and what is put in once more goes again") {
    CHECK(areasIn("3 5 8 | 9")->size() == 2);
    CHECK(areaText({{3, 5, 8}, {9}}) == "3 5 8 | 9");
    CHECK(areasIn("")->empty());
    CHECK(areasIn(" | 4 | ")->size() == 1);
    for (const char* bad : {"a", "3 - 5", "3, 5", "999999999", "+-3"}) CHECK(!areasIn(bad));
    CHECK(areaText(*areasIn("+3 -5 | 9")) == "+3 -5 | 9");
    CHECK(withArea("+3 -5 | +3 +5", "+3 -5") == "+3 +5");
    CHECK(withArea("", "3 5") == "3 5");
    CHECK(withArea("3 5", "9") == "3 5 | 9");
    CHECK(withArea("3 5 | 9", "3 5") == "9");
}

#include "core/document/repeat_figure.hpp"

#include "core/document/drawing_edits.hpp"
#include "core/document/drawing_sizes.hpp"
#include "core/sketch/repeats.hpp"
#include "tests/support/pen.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

struct Holes : Pen {
    int hole = circle({20, 15}, 3);
    Part part;
    Holes() { part.values = {{"n", "5", ""}, {"gap", "7.5 mm", ""}}; }

    EditOutcome ask(const Step& edit, const std::vector<int>& chosen = {}) {
        return applyEdit(edit, part, chosen, d);
    }
    EditOutcome repeat(const std::string& kind, const std::map<std::string, std::string>& slots) {
        Step edit = newEdit(kind, d, {hole});
        for (const auto& [key, text] : slots) edit.slots[key] = text;
        return ask(edit, {hole});
    }
    const Repeat& only() const { return d.repeats.at(0); }
    Step change() const { return changeOfRepeat(d, only().id, part.brief.units); }
    /// With every figure worked out as a part works it out.
    void settle() {
        const auto sizes = dimensionSizes(d, part.brief.units, valuesOf(part));
        REQUIRE(sizes);
        REQUIRE(settleTo(d, *sizes).solved);
    }
    int holes() const {
        return static_cast<int>(std::count_if(d.strokes.begin(), d.strokes.end(),
                                              [](const Stroke& s) { return s.kind == S::Circle; }));
    }
    bool hasHole(Vec2 at) const {
        return std::any_of(d.strokes.begin(), d.strokes.end(), [&](const Stroke& s) {
            return s.kind == S::Circle && length(d.at(s.points[0]) - at) < 1e-7;
        });
    }
    const Relation& pitch() const { return *d.findRelation(only().firstPitch); }
};

} // namespace

TEST_CASE("A repeat reads as the sentence in which it was made, and is changed in it") {
    Holes p;
    REQUIRE(p.repeat("edit:rows", {{"columns", "n - 1"}, {"across", "-gap"}, {"rows", "2"}, {"up", "9 mm"}})
                .done());
    p.settle();
    CHECK(p.holes() == 8);
    CHECK(p.hasHole({20 - 3 * 7.5, 24}));
    CHECK(repeatInWords(p.only()) == "4 × 2 in rows");
    Step edit = p.change();
    CHECK(sentenceText(edit, p.part) == "Repeat 4 across, every -7.5 mm, and 2 up, every 9 mm.");
    CHECK(edit.text("across") == "-gap"); // as it was typed
    edit.slots["columns"] = "n + 1";
    REQUIRE(p.ask(edit).done());
    p.settle();
    CHECK(p.holes() == 12);
    CHECK(p.hasHole({20 - 5 * 7.5, 24}));
    p.part.values[1].expression = "8 mm"; // the pitch still hangs on the value
    p.settle();
    CHECK(p.hasHole(p.at(p.centre(p.hole)) + Vec2{-5 * 8, 9})); // nothing holds the first of them
    edit.slots["columns"] = "1";
    edit.slots["rows"] = "1";
    CHECK(!p.ask(edit).done());
    edit.slots["columns"] = "many";
    CHECK(!p.ask(edit).whyNot.empty());
}

TEST_CASE("Around and along read as they were made") {
    Holes p;
    SECTION("all the way round, then every so many degrees, then all round again") {
        REQUIRE(p.repeat("edit:around", {{"count", "6"}, {"centre", "the origin"}}).done());
        p.settle();
        Step edit = p.change();
        CHECK(sentenceText(edit, p.part) == "Repeat 6 around their point, all the way round.");
        edit.slots["count"] = "4", edit.slots["spread"] = "every", edit.slots["angle"] = "-30°";
        REQUIRE(p.ask(edit).done());
        p.settle();
        CHECK(p.holes() == 4);
        for (int k = 0; k < 4; ++k) CHECK(p.hasHole(turnedBy({20, 15}, -k * kPi / 6)));
        edit = p.change();
        CHECK(sentenceText(edit, p.part) == "Repeat 4 around their point, every -30°.");
        edit.slots["spread"] = "all the way round", edit.slots["count"] = "9";
        REQUIRE(p.ask(edit).done());
        p.settle();
        for (int k = 0; k < 9; ++k) CHECK(p.hasHole(turnedBy({20, 15}, k * 2 * kPi / 9)));
        CHECK(repeatInWords(p.only()) == "9 around");
    }
    SECTION("along a line") {
        const int rail = p.line({20, 15}, {60, 15});
        Step edit = newEdit("edit:along", p.d, {p.hole, rail});
        edit.slots["count"] = "5";
        REQUIRE(p.ask(edit, {p.hole, rail}).done());
        edit = p.change();
        CHECK(sentenceText(edit, p.part) == "Repeat 5 along their stroke, turning with it.");
        edit.slots["count"] = "3";
        REQUIRE(p.ask(edit).done());
        p.settle();
        CHECK(p.holes() == 3);
        CHECK(p.hasHole({40, 15}));
        CHECK(repeatInWords(p.only()) == "3 along");
    }
}

TEST_CASE("A pitch is typed with how many there are, or without") {
    Holes p;
    const UnitSystem units;
    REQUIRE(p.repeat("edit:rows", {{"columns", "4"}, {"across", "-9 mm"}}).done());
    CHECK(withCount(p.d, p.pitch(), "9 mm") == "4 × 9 mm");
    CHECK(!repeatTyped(p.d, p.pitch().id, "12 mm", units)); // a size by itself is a size
    CHECK(!repeatTyped(p.d, p.pitch().id, "3 * 4 mm", units));
    for (const char* typed : {"6 × 8 mm", "6 x 8 mm", "3 + 3 X 16 mm / 2"}) {
        const auto edit = repeatTyped(p.d, p.pitch().id, typed, units);
        REQUIRE(edit);
        Holes q = p;
        REQUIRE(q.ask(*edit).done());
        q.settle();
        CHECK(q.holes() == 6);
        CHECK(q.hasHole({20 - 5 * 8, 15})); // on the side where they were
    }
    const auto nonsense = repeatTyped(p.d, p.pitch().id, "six x 8 mm", units);
    REQUIRE(nonsense);
    CHECK(!p.ask(*nonsense).done());
    Relation other = p.pitch();
    other.id = 9999;
    CHECK(withCount(p.d, other, "9 mm") == "9 mm");

    Holes q;
    REQUIRE(q.repeat("edit:around", {{"count", "6"}, {"centre", "the origin"}}).done());
    CHECK(withCount(q.d, q.pitch(), "60°") == "6 all round");
    for (const auto& [typed, count, step] :
         {std::tuple{"8 all round", 8, kPi / 4}, {"5 x 20°", 5, kPi / 9}, {"7 all round", 7, 2 * kPi / 7}}) {
        const auto edit = repeatTyped(q.d, q.pitch().id, typed, units);
        REQUIRE(edit);
        REQUIRE(q.ask(*edit).done());
        q.settle();
        CHECK(q.holes() == count);
        for (int k = 0; k < count; ++k) CHECK(q.hasHole(turnedBy({20, 15}, k * step)));
    }
}

#include "core/document/drawing_file.hpp"
#include "core/document/drawing_sizes.hpp"
#include "core/document/part_file.hpp"
#include "core/sketch/edit/repeat.hpp"
#include "core/sketch/solve/freedom.hpp"
#include "core/sketch/solve/settle.hpp"
#include "core/sketch/trace.hpp"
#include "tests/support/box_letters.hpp"
#include "tests/support/large_drawings.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using K = RelationKind;

namespace {

Part partWith(const Drawing& d) {
    Part part;
    Step step = newStep(part, "draw");
    step.slots["drawing"] = DrawingSlot(d);
    part.steps.push_back(step);
    return part;
}

void addWords(Drawing& d) {
    WriteWish words;
    words.text.words = "AB C", words.text.font = "boxes", words.text.height = "4 mm",
    words.text.spacing = "1 mm";
    words.height = 4, words.spacing = 1, words.at = {3, 40};
    (void)writeText(d, words, test::boxLetters("AB C"));
}

Drawing plate() {
    Drawing d;
    const int a = d.draw(StrokeKind::Line, {{0, 0}, {30, 0}}),
              b = d.draw(StrokeKind::Line, {{30, 0}, {30, 20}});
    const int s = d.draw(StrokeKind::Spline, {{0, 0}, {1, 3}, {10, 9}, {13, 10}, {30, 20}, {32, 24}});
    d.findStroke(s)->held = {true, false, false};
    d.findStroke(b)->helper = true;
    d.findStroke(a)->name = "foot";
    d.draw(StrokeKind::Conic, {{0, 0}, {5, 5}, {5, 0}}, {0.4});
    d.relate(K::Coincident, {d.findStroke(a)->points[1], d.findStroke(b)->points[0]});
    d.relate(K::Fixed, {a});
    d.relations[static_cast<std::size_t>(d.relate(K::AngleBetween, {a, b}, "90°") ? 2 : 0)].label = {3, 4};
    d.relate(K::Across, {kOrigin, d.findStroke(b)->points[1]}, "wall * 2");
    followTrace(d, {"projection of where wall of step 2 meets floor of step 2",
                    1,
                    2,
                    StrokeKind::Circle,
                    {{4, 5}},
                    {6}});
    d.draw(StrokeKind::Fair, {{40, 0}, {44, 10}, {41, 20}}, {0.1});
    // Strokes that follow others, and one carried along.
    const auto follow = [&](int source, double by, const std::vector<Vec2>& at, bool right) {
        const int id = d.draw(StrokeKind::Beside, at, {by});
        Stroke& f = *d.findStroke(id);
        f.beside = source, f.right = right;
        if (at.size() == 2) f.held = {true, false};
        return id;
    };
    const int beside = follow(s, 2, {{-1, 2}, {28, 22}}, false);
    d.findStroke(beside)->cutFrom = a;
    d.relate(K::Distance, {beside, s}, "2 mm");
    follow(s, 0, {{0, 0}, {25, 18}}, true);
    const int oval = d.draw(StrokeKind::Ellipse, {{50, 5}, {60, 8}}, {4});
    follow(oval, 1.5, {{62, 8.5}}, true);
    const int dot = d.draw(StrokeKind::Point, {{0, -3}}), copy = d.draw(StrokeKind::Point, {{12, 6}});
    d.relate(K::Carried, {d.findStroke(dot)->points[0], d.findStroke(copy)->points[0], s});
    d.relations.back().where = {{0, 0.5}};
    d.relations.back().turned = true;
    // Rows of which one was taken away, rounds over all.
    const int hole = d.draw(StrokeKind::Circle, {{80, 0}}, {2}),
              knob = d.draw(StrokeKind::Circle, {{95, 20}}, {3});
    RepeatWish rows;
    rows.columns = 3, rows.rows = 2;
    rows.across = 7, rows.acrossExpression = "7 mm", rows.up = 9, rows.upExpression = "9 mm";
    const EditOutcome made = repeatStrokes(d, {hole}, rows);
    RepeatWish ring;
    ring.kind = Repeat::Kind::Around;
    ring.columns = 4, ring.across = 0.4, ring.acrossExpression = "0.4 rad", ring.about = kOrigin;
    (void)repeatStrokes(d, {knob}, ring);
    RepeatWish rail;
    rail.kind = Repeat::Kind::Along;
    rail.about = b, rail.turning = true;
    (void)repeatStrokes(d, {knob}, rail);
    Relation over;
    over.id = d.nextId++;
    over.kind = K::Across, over.of = {hole, knob}, over.overAll = true, over.expression = "20 mm";
    d.relations.push_back(over);
    d.erase({made.made[0]});
    addWords(d);
    d.picture = TracedPicture{"leaf.jpg", {-20, 3}, 40, 60, 0.7};
    return d;
}

} // namespace

TEST_CASE("A drawing comes back from its file as it was") {
    const Drawing d = plate();
    const auto read = readPart(writePart(partWith(d)));
    REQUIRE(read.ok());
    CHECK(read->steps[0].drawing("drawing") == d);
    for (const test::Large& g : test::largeDrawings(80)) {
        const auto again = readPart(writePart(partWith(g.drawing)));
        REQUIRE(again.ok());
        CHECK(again->steps[0].drawing("drawing") == g.drawing);
    }
}

TEST_CASE("A picture of no size, or out of its strength, is refused with a sentence") {
    for (const char* field : {"width", "height", "strength", "file"}) {
        auto j = drawingToJson(plate());
        j["picture"][field] = -1;
        Drawing d;
        const auto wrong = readDrawing(j, d);
        INFO(field);
        REQUIRE(wrong);
        CHECK(wrong->ends_with("."));
    }
}

TEST_CASE("A drawing that makes no sense is refused with a sentence") {
    const auto j = drawingToJson(plate());
    const auto refused = [&](auto&& spoil) {
        auto copy = j;
        spoil(copy);
        Drawing d;
        const auto wrong = readDrawing(copy, d);
        return wrong && wrong->back() == '.';
    };
    CHECK(refused([](auto& c) { c["points"][0][1] = "x"; }));
    CHECK(refused([](auto& c) { c["points"][0][1] = 1e9; }));
    CHECK(refused([](auto& c) { c["points"][1][0] = c["points"][0][0]; }));
    CHECK(refused([](auto& c) { c["strokes"][0]["kind"] = "wiggle"; }));
    CHECK(refused([](auto& c) { c["strokes"][0]["points"] = {1}; }));
    CHECK(refused([](auto& c) { c["strokes"][0]["points"] = {1, 9999}; }));
    CHECK(refused([](auto& c) { c["strokes"][3]["sizes"] = {1.5}; }));
    CHECK(refused([](auto& c) { c["relations"][0]["of"] = {1}; }));
    CHECK(refused([](auto& c) { c["relations"][0]["kind"] = "friends"; }));
    CHECK(refused([](auto& c) { c["texts"][0]["base"] = 99999; }));
    CHECK(refused([](auto& c) { c["texts"][0]["letters"][0] = 7; }));
    CHECK(refused([](auto& c) { c["texts"][0]["letters"][0][0] = 99999; }));
    CHECK(refused([](auto& c) { c["texts"][0]["words"] = 7; }));
    CHECK(refused([](auto& c) { c["texts"][0]["id"] = c["points"][0][0]; }));
    CHECK(refused([](auto& c) { c["repeats"][0]["how"] = "somehow"; }));
    CHECK(refused([](auto& c) { c["repeats"][0]["columns"] = 1e6; }));
    CHECK(refused([](auto& c) { c["repeats"][0]["of"] = {99999}; }));
    CHECK(refused([](auto& c) { c["repeats"][0]["of"] = nlohmann::json::array(); }));
    CHECK(refused([](auto& c) { c["repeats"][0]["lead"] = 99999; }));
    CHECK(refused([](auto& c) { c["repeats"][0]["copies"][1]["across"] = 7; }));
    CHECK(refused([](auto& c) { c["repeats"][0]["copies"][1]["strokes"] = {1, 2, 3}; }));
    CHECK(refused([](auto& c) { c["repeats"][1]["about"] = 99999; }));
    CHECK(refused([](auto& c) { c["repeats"][2]["about"] = -1; }));
    CHECK(refused([](auto& c) { c["repeats"][0]["id"] = c["points"][0][0]; }));
    CHECK(refused([](auto& c) { // over all of what is no round
        for (auto& r : c["relations"])
            if (r.contains("over_all")) r["of"] = {r["of"][0]};
    }));
    CHECK(refused([](auto& c) { c["relations"] = 7; }));
}

TEST_CASE("Garbled drawings never crash the reader, and what is read can be settled") {
    auto random = test::seeded(3U);
    const std::string good = drawingToJson(plate()).dump();
    int read = 0;
    for (int trial = 0; trial < test::rounds(6000); ++trial) {
        std::string bad = good;
        for (int k = 0; k < 1 + trial % 4; ++k)
            bad[random() % bad.size()] = "0123456789[]{}\",:-e."[random() % 20];
        const auto j = nlohmann::ordered_json::parse(bad, nullptr, false);
        if (j.is_discarded()) continue;
        Drawing d;
        if (readDrawing(j, d)) continue;
        ++read;
        Settler settler(d);
        settler.settle();
        for (const Repeat& r : std::vector<Repeat>(d.repeats)) { // whatever was read can be changed
            RepeatWish wish = wishOf(d, r);
            wish.columns += trial % 3 - 1;
            CHECK_NOTHROW(changeRepeat(d, r.id, wish));
        }
        if (!d.strokes.empty()) {
            d.erase({d.strokes[random() % d.strokes.size()].id});
            CHECK_NOTHROW(drawingToJson(d));
        }
    }
    CHECK(read > 50);
}

TEST_CASE("Whatever a file may join can be compiled and settled without a fault") {
    auto random = test::seeded(21U);
    Drawing base = plate();
    base.draw(StrokeKind::Circle, {{40, 5}}, {4});
    base.draw(StrokeKind::Ellipse, {{60, 5}, {66, 7}}, {3});
    base.draw(StrokeKind::Arc, {{50, 30}, {44, 36}, {44, 30}}, {6});
    base.draw(StrokeKind::Poles, {{0, 40}, {5, 44}, {11, 39}, {18, 42}});
    base.draw(StrokeKind::Point, {{3, 3}});
    base.draw(StrokeKind::EllipseArc, {{80, 0}, {90, 0}, {90, 0}, {80, 5}}, {5});
    std::vector<int> ids{kOrigin, kLevelLine, kAxisLine};
    for (const Stroke& s : base.strokes) ids.push_back(s.id);
    for (const DrawnPoint& p : base.points) ids.push_back(p.id);
    int joined = 0;
    for (int trial = 0; trial < 40000; ++trial) {
        const RelationWords& words = allRelationWords()[random() % allRelationWords().size()];
        std::vector<int> of;
        for (std::size_t n = 1 + random() % 3; n > 0; --n) of.push_back(ids[random() % ids.size()]);
        Relation r;
        r.kind = words.kind, r.of = of;
        r.overAll = words.sized && trial % 2;
        if (!whyNot(base, r, false).empty()) continue;
        Drawing d = base;
        freezeSense(d, r);
        r.id = d.nextId++;
        d.relations.push_back(r);
        INFO(words.key << " of " << of[0] << " " << of.back());
        Settler settler(d);
        CHECK_NOTHROW(settler.settle());
        ++joined;
    }
    CHECK(joined > 3000);
}

TEST_CASE("Dimensions are worked out from values, from each other, and never in a circle") {
    Drawing d;
    const int a = d.draw(StrokeKind::Line, {{0, 0}, {30, 0}}),
              b = d.draw(StrokeKind::Line, {{0, 5}, {30, 9}});
    const int first = d.relate(K::Distance, {a}, "wide / 2"), second = d.relate(K::Distance, {b}, "wall * 3");
    d.findRelation(second)->name = "wide";
    const Values values{{"wall", {2.4, kLength}}};
    const UnitSystem units;
    const auto sizes = dimensionSizes(d, units, values);
    REQUIRE(sizes.ok());
    CHECK(sizes->at(first) == Approx(3.6));
    CHECK(sizes->at(second) == Approx(7.2));
    d.findRelation(first)->name = "half";
    d.findRelation(second)->expression = "half * 2";
    const auto circle = dimensionSizes(d, units, values);
    REQUIRE_FALSE(circle.ok());
    CHECK(circle.error().code == "dimension.circle");
    d.findRelation(second)->expression = "3/8 in";
    CHECK(dimensionSizes(d, units, values)->at(second) == Approx(9.525));
    d.findRelation(second)->expression = "0";
    CHECK(dimensionSizes(d, units, values).error().code == "dimension.range");
    d.findRelation(second)->expression = "wal * 2";
    CHECK(dimensionSizes(d, units, values).error().code == "dimension.expression");
    CHECK(freeDimensionName(d, values) == "d1");
    // A drawing's own names come before the part's, whichever was there first.
    d.findRelation(first)->expression = "4 mm";
    d.findRelation(second)->expression = "half * 2";
    CHECK(dimensionSizes(d, units, {{"half", Amount{50, kLength}}})->at(second) == Approx(8));
}

TEST_CASE("A point that no stroke uses becomes one that can be seen, and breaks nothing") {
    const auto json = nlohmann::json::parse(R"({"points": [[1, 0, 0], [2, 30, 0], [7, 12, 8]],
        "strokes": [{"id": 3, "kind": "line", "points": [1, 2]}], "relations": []})");
    Drawing d;
    REQUIRE_FALSE(readDrawing(json, d));
    REQUIRE(d.strokes.size() == 2);
    CHECK(d.strokes[1].kind == StrokeKind::Point);
    CHECK(d.at(d.strokes[1].points[0]) == Vec2{12, 8});
    Drawing again;
    REQUIRE_FALSE(readDrawing(drawingToJson(d), again));
    CHECK(again == d);
    // Made by hand in memory, it is passed over.
    Drawing bare;
    bare.points.push_back({bare.nextId++, {5, 5}});
    const Freedoms f = findFreedoms(bare, {}, UnitSystem());
    CHECK(f.count <= 2);
}

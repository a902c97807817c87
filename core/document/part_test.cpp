#include "core/document/answer.hpp"
#include "core/document/history.hpp"
#include "core/document/part_file.hpp"
#include "tests/support/shipped.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

TEST_CASE("Rules read as sets of edges, not as faces of an odd name") {
    Part p;
    p.steps = {newStep(p, "plane"), newStep(p, "extrude")};
    CHECK(referenceInWords("all edges of everything of step 2", p) ==
          "all edges of everything that step 2 made");
    CHECK(referenceInWords("everything of step 2", p) == "everything that step 2 made");
    CHECK(referenceInWords("outside corners of step 2", p) == "outside corners of step 2");
}

TEST_CASE("The demo part reads aloud as sentences") {
    const Part part = herbPot();
    std::vector<std::string> sentences;
    for (const Step& s : part.steps) sentences.push_back(sentenceText(s, part));
    CHECK(sentences == std::vector<std::string>{
                           "Outline wall line from 5 stations, fair within 0.1 mm.",
                           "Revolve wall line, filled, about its own axis by 360°, as new body pot.",
                           "Fillet where wall meets floor by 5 mm.",
                           "Shell pot leaving top open, wall 2.4 mm inward.",
                           "Fillet rim of top by 1.08 mm.",
                           "Hole ⌀ 9 mm through floor, 6 around the axis on ⌀ 48 mm, leaning 2°.",
                       });
}

TEST_CASE("A number typed over the name of a value changes the value") {
    Part part = herbPot();
    CHECK(typeIntoSlot(part, 4, "wall", "2.8") == std::optional<std::string>("wall"));
    CHECK(part.values[0].expression == "2.8");
    CHECK(part.findStep(4)->text("wall") == "wall");
    CHECK(sentenceText(*part.findStep(4), part) == "Shell pot leaving top open, wall 2.8 mm inward.");
    CHECK(typeIntoSlot(part, 4, "wall", "wall + 0.4 mm") == std::nullopt);
    CHECK(part.findStep(4)->text("wall") == "wall + 0.4 mm");
    CHECK(*evaluateSlot(*part.findStep(4), "wall", part, valuesOf(part)) == Approx(3.2));
}

TEST_CASE("Slots refuse what is out of their range and say which range") {
    Part part = herbPot();
    struct Row {
        int step;
        const char* slot;
        const char* text;
        const char* says;
    };
    for (const Row& r :
         {Row{4, "wall", "0", "more than 0 mm"}, Row{4, "wall", "-1 mm", "more than"},
          Row{6, "count", "2.5", "whole number"}, Row{6, "count", "0", "at least 1"},
          Row{6, "lean", "60°", "at most 45°"}, Row{2, "angle", "400°", "at most 360°"},
          Row{4, "wall", "3°", "needs a length"}, Row{4, "wall", "thick", "no value called"}}) {
        INFO(r.text);
        part.findStep(r.step)->slots[r.slot] = std::string(r.text);
        const auto v = evaluateSlot(*part.findStep(r.step), r.slot, part, valuesOf(part));
        REQUIRE_FALSE(v.ok());
        CHECK_THAT(v.error().sentence, Catch::Matchers::Contains(r.says));
    }
}

TEST_CASE("Allowed ranges are read as people write them") {
    const UnitSystem u;
    struct Row {
        const char* text;
        Dimension d;
        double least, most; // NaN: open
    };
    const double open = std::nan("");
    for (const Row& r :
         {Row{"86 ± 3 g", kMass, 83, 89}, Row{"86 g +/- 3", kMass, 83, 89}, Row{"≥ 2 mm", kLength, 2, open},
          Row{">= 2", kLength, 2, open}, Row{"≤ 1/8 in", kLength, open, 3.175},
          Row{"2 … 4 mm", kLength, 2, 4}, Row{"1", kNumber, 1, 1}, Row{"= 1", kNumber, 1, 1},
          Row{"at most 700 ml", kVolume, open, 700e3}}) {
        INFO(r.text);
        const auto range = parseAllowed(r.text, r.d, u);
        REQUIRE(range.ok());
        CHECK(range->least.has_value() == !std::isnan(r.least));
        CHECK(range->most.has_value() == !std::isnan(r.most));
        if (range->least) CHECK(*range->least == Approx(r.least));
        if (range->most) CHECK(*range->most == Approx(r.most));
    }
    CHECK_FALSE(parseAllowed("lots", kMass, u).ok());
    CHECK_FALSE(parseAllowed("≥ 2°", kLength, u).ok());
    CHECK_FALSE(parseAllowed("", kLength, u).ok());
}

TEST_CASE("Bad station rows are pointed at by row") {
    const UnitSystem u;
    auto faults = [&](const Stations& rows) {
        std::vector<int> out;
        for (const RowFault& f : checkStations(rows, 0.1, u, {}).faults) out.push_back(f.row);
        return out;
    };
    CHECK(faults({{"0", "60", false, ""}, {"50", "70", false, ""}, {"100", "90", false, ""}}).empty());
    CHECK(faults({{"0", "60", false, ""}, {"fifty", "70", false, ""}}) == std::vector<int>{1});
    CHECK(faults({{"0", "-60", false, ""}, {"50", "0", false, ""}}) == std::vector<int>{0, 1});
    CHECK(faults({{"0", "60", false, ""}, {"0", "60", false, ""}}) == std::vector<int>{1});
    CHECK(faults({{"0", "60", false, ""},
                  {"90", "70", false, ""},
                  {"30", "66", false, ""},
                  {"120", "90", false, ""}})
              .size() == 2);
    CHECK(faults({{"0", "60", false, ""}, {"9", "70", false, "-1"}}) == std::vector<int>{1});
    // Equal heights with other diameters are a step in the profile: allowed.
    CHECK(faults({{"0", "60", false, ""}, {"50", "70", false, ""}, {"50", "80", false, ""}}).empty());
}

TEST_CASE("A new step takes the latest outline and body and a name that is free") {
    Part part = herbPot();
    const Step shell = newStep(part, "shell"), revolve = newStep(part, "revolve"),
               outline = newStep(part, "outline");
    CHECK(shell.text("body") == "pot");
    CHECK(revolve.text("outline") == "wall line");
    CHECK(outline.text("name") == "wall line 2");
    CHECK(shell.id == 7);
    CHECK(outline.id == 9);
}

TEST_CASE("Undo goes back through every edit and redo forward again") {
    History history(herbPot());
    for (int k = 1; k <= 5; ++k) {
        Part p = history.now();
        p.values[0].expression = std::to_string(k);
        history.commit(p, "edit " + std::to_string(k));
    }
    CHECK(history.undoWords() == "edit 5");
    for (int k = 4; k >= 1; --k) {
        history.undo();
        CHECK(history.now().values[0].expression == std::to_string(k));
    }
    history.undo();
    CHECK_FALSE(history.canUndo());
    CHECK(history.now().values[0].expression == "2.4 mm");
    history.redo();
    CHECK(history.redoWords() == "edit 2");
    history.commit(history.now(), "other");
    CHECK_FALSE(history.canRedo());
}

TEST_CASE("A second click on the same edge lets it go; a face slot holds the last face") {
    References edges;
    for (const char* pick : {"a", "b", "a"}) togglePick(edges, pick, SlotType::Edges);
    CHECK(edges == References{"b"});
    References face;
    for (const char* pick : {"a", "b", "b"}) togglePick(face, pick, SlotType::Face);
    CHECK(face == References{"b"});
}

TEST_CASE("Points and drawn curves are put in words of their own, not taken for faces") {
    Part p;
    p.steps.push_back(newStep(p, "draw"));
    Drawing d;
    const int line = d.draw(StrokeKind::Line, {{0, 0}, {10, 0}});
    p.steps[0].slots["drawing"] = DrawingSlot(d);
    p.steps.push_back(newStep(p, "revolve"));
    CHECK(referenceInWords("spot 8.73 -43.52 46.21 on wall of step 2", p) == "a spot on wall");
    CHECK(referenceInWords("stroke " + std::to_string(line) + " of step 1", p) == "line 1 of profile");
    CHECK(referenceInWords("middle of where wall of step 2 meets floor of step 2", p) ==
          "middle of the edge where wall meets floor");
    CHECK(referenceInWords("floor of step 2", p) == "floor");
    Step plane = newStep(p, "plane");
    CHECK(sentenceText(plane, p) == "Plane datum, 10 mm away from the ground plane.");
    plane.slots["way"] = std::string("through points");
    CHECK(sentenceText(plane, p) == "Plane datum, through points no points yet.");
    CHECK(isShown(plane, "points"));
    CHECK_FALSE(isShown(plane, "distance"));
}

TEST_CASE("An answer is put wherever the step says what it is about, and nowhere else") {
    Step step;
    step.kind = "fillet";
    step.slots["edges"] =
        References{"where side 1 of step 2 meets end of step 2", "all edges of side 1 of step 21"};
    step.slots["plane"] = std::string("side 1 of step 2");
    Drawing d;
    const int line = d.draw(StrokeKind::Line, {{0, 0}, {1, 0}});
    d.findRelation(d.relate(RelationKind::Follows, {line}))->source = "cut of side 1 of step 2";
    step.slots["drawing"] = DrawingSlot(d);
    CHECK(sayOtherwise(step, "side 1 of step 2", "side 1 of step 2 next to end of step 2"));
    CHECK(step.references("edges")[0] == "where side 1 of step 2 next to end of step 2 meets end of step 2");
    CHECK(step.references("edges")[1] == "all edges of side 1 of step 21");
    CHECK(step.text("plane") == "side 1 of step 2 next to end of step 2");
    CHECK(step.drawing("drawing").relations[0].source == "cut of side 1 of step 2 next to end of step 2");
    const Step before = step;
    CHECK_FALSE(sayOtherwise(step, "end of step 9", "end of step 2"));
    CHECK(step == before);
}

// Extrudes that begin at a face.

#include "tests/support/built.hpp"

#include <catch2/catch.hpp>

#include <cmath>

using namespace gc;
using namespace gc::test;

namespace {

/// A shank of radius 20 about the upright axis, 40 high; a plate 60 before the axis; and a foot of 8 by 8
/// drawn in the front plane: steps 1 to 5.
Part scene() {
    Part p;
    add(p, "draw",
        {{"name", std::string("shank line")}, {"drawing", DrawingSlot(rectangle({0, 0}, {20, 40}))}});
    add(p, "revolve", {{"outline", std::string("shank line")}, {"body", std::string("shank")}});
    add(p, "draw",
        {{"name", std::string("plate line")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(rectangle({-30, -66}, {30, -60}))}});
    add(p, "extrude",
        {{"outline", std::string("plate line")},
         {"length", std::string("40 mm")},
         {"does", std::string("as new body")},
         {"body", std::string("plate")}});
    add(p, "draw", {{"name", std::string("foot")}, {"drawing", DrawingSlot(rectangle({-4, 10}, {4, 18}))}});
    return p;
}

Part from(const Slots& more) {
    Part p = scene();
    const std::string side =
        "side " + std::to_string(p.steps[0].drawing("drawing").strokes[1].id) + " of step 2";
    Slots s{{"outline", std::string("foot")},
            {"begin", std::string("a face")},
            {"begin face", References{side}},
            {"does", std::string("as new body")},
            {"body", std::string("pin")}};
    for (const auto& [key, value] : more) s[key] = value;
    add(p, "extrude", s);
    return p;
}

/// Of sqrt(400 - x²) from -4 to 4.
const double kUnderArc = 4 * std::sqrt(384.0) + 400 * std::asin(0.2);

} // namespace

TEST_CASE("From a round face by a length: both ends are that face") {
    for (const auto& [way, low, high] : {std::tuple{"forward", -26.0, -std::sqrt(384.0)},
                                         {"backward", std::sqrt(384.0), 26.0},
                                         {"both ways together", -23.0, -std::sqrt(384.0) + 3}}) {
        const auto r = built(from({{"length", std::string("6 mm")}, {"way", std::string(way)}}));
        INFO(way);
        CHECK(volumeOf(r, "pin") == Approx(8 * 8 * 6).epsilon(1e-8));
        CHECK(envelope(r.state.body("pin")).low.y == Approx(low).margin(1e-6));
        CHECK(envelope(r.state.body("pin")).high.y == Approx(high).margin(1e-6));
        for (const char* face : {"start of step 6", "end of step 6"})
            CHECK(resolveFaces(r.state.body("pin"), **parseFaceRef(face))->items.size() == 1);
    }
}

TEST_CASE("From a round face to another face, to the next wall, to the far side") {
    const double gap = 8 * (60 * 8 - kUnderArc);
    const std::string back =
        "side " + std::to_string(scene().steps[2].drawing("drawing").strokes[2].id) + " of step 4";
    CHECK(volumeOf(built(from({{"end", std::string("to")}, {"face", References{back}}})), "pin") ==
          Approx(gap).epsilon(1e-8));
    CHECK(volumeOf(built(from({{"end", std::string("to the next wall")}})), "pin") ==
          Approx(gap).epsilon(1e-8));
    CHECK(volumeOf(built(from({{"end", std::string("to the far side")}})), "pin") ==
          Approx(gap + 64 * 6).epsilon(1e-8));
    // A face to end at that covers a half of the drawing only is continued.
    Part narrow = from({{"end", std::string("to")}, {"face", References{back}}});
    narrow.steps[2].slots["drawing"] = DrawingSlot(rectangle({-2, -66}, {2, -60}));
    CHECK(volumeOf(built(narrow), "pin") == Approx(gap).epsilon(1e-8));
    // The face moves, the pin follows.
    Part p = from({{"end", std::string("to the next wall")}});
    Drawing wider = rectangle({0, 0}, {24, 40});
    p.steps[0].slots["drawing"] = DrawingSlot(wider);
    const double arc = 4 * std::sqrt(576.0 - 16) + 576 * std::asin(4.0 / 24);
    CHECK(volumeOf(built(p), "pin") == Approx(8 * (60 * 8 - arc)).epsilon(1e-8));
}

TEST_CASE("Where it cannot begin at a face it says why") {
    Part p = from({{"begin face", References()}});
    CHECK(faultOf(p).code == "extrude.begin");
    p = from({{"sides", std::string("leaning inward by")}});
    CHECK(faultOf(p).code == "extrude.lean-begin");
    p = from({});
    p.steps[4].slots["drawing"] = DrawingSlot(rectangle({-4, 10}, {24, 18})); // beside the shank
    const Error e = faultOf(p);
    CHECK(e.code == "extrude.no-begin");
    CHECK(e.sentence.text().find('%') != std::string::npos);
}

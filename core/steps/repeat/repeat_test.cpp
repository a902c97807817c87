#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// A plate of 200 x 120, 10 high, with a detail from a drawing on its top, near its lower left corner.
Part plate(const Drawing& drawing, const char* length, const char* does) {
    Part p = block(rectangle({-100, -60}, {100, 60}), "10 mm");
    add(p, "draw", {{"plane", std::string("end of step 2")}, {"drawing", DrawingSlot(drawing)}});
    Slots slots{{"length", std::string(length)}, {"does", std::string(does)}};
    if (slots["does"] == SlotValue(std::string("taking from"))) slots["way"] = std::string("backward");
    add(p, "extrude", slots);
    return p;
}
Drawing disc(Vec2 at, double radius) {
    Drawing d;
    d.draw(StrokeKind::Circle, {at}, {radius});
    return d;
}
Step& repeat(Part& p, const Slots& more) {
    Slots slots{{"what", References{"everything of step 4"}}};
    for (const auto& [key, value] : more) slots[key] = value;
    return add(p, "repeat", slots);
}
double disc(double r) {
    return kPi * r * r;
}

const ProbeOf repeatProbe("repeat", [] {
    Probe p{plate(disc({0, 0}, 3), "4 mm", "taking from"), 0};
    p.step = repeat(p.part, {{"way", std::string("in rows along")},
                             {"pitch", std::string("10 mm")},
                             {"count 2", std::string("2")},
                             {"pitch 2", std::string("10 mm")}})
                 .id;
    const std::string edge = "where " + side(p.part, 1) + " meets end of step 2";
    p.shows = {{"count", text("count", "5")},
               {"pitch", text("pitch", "11 mm")},
               {"sense", text("sense", "backward")},
               {"spacing", text("spacing", "leaving")},
               {"line 2", text("line 2", edge.c_str())},
               {"sense 2", text("sense 2", "backward")},
               {"count 2", text("count 2", "3")},
               {"spacing 2", text("spacing 2", "leaving")},
               {"pitch 2", text("pitch 2", "12 mm")},
               {"stagger", text("stagger", "staggered")},
               {"way", text("way", "in a row along")}};
    return p;
});

} // namespace

TEST_CASE("Pockets in rows take away their own volume each, and copies are called by their places") {
    Part p = plate(disc({-85, -45}, 5), "4 mm", "taking from");
    repeat(
        p,
        {{"way", std::string("in rows along")}, {"count", std::string("6")}, {"count 2", std::string("4")}});
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(240000 - 24 * disc(5) * 4).epsilon(1e-9));
    const Body& body = r.state.bodies.begin()->second.value;
    CHECK(checkBody(body).faults.empty());
    CHECK(faceCount(body) == 6 + 24 * 2);
    CHECK(resolveFaces(body, **parseFaceRef("copy at row 3 place 2 of end of step 4"))->items.size() == 1);
    CHECK(sentenceText(p.steps.back(), p) == "Repeat everything that step 4 made in rows along the cross "
                                             "axis onward, 6 times every 20 mm, and along the "
                                             "depth axis onward, 4 times every 20 mm, in line.");
    // Rounds go along.
    Part rounded = plate(disc({-85, -45}, 5), "4 mm", "taking from");
    add(rounded, "fillet",
        {{"edges", References{"rim of end of step 4"}}, {"radius", std::string("1.5 mm")}});
    const double one = 240000 - volumeOf(built(rounded));
    repeat(rounded, {{"count", std::string("8")}});
    CHECK(volumeOf(built(rounded)) == Approx(240000 - 8 * one).epsilon(1e-9));
}

TEST_CASE("Spread, spaced by a gap, or as many as fit: the last gap equals the others") {
    const auto placesOf = [](const Slots& slots) {
        Part p = plate(disc({-85, -45}, 5), "4 mm", "adding to");
        repeat(p, slots);
        const auto r = built(p);
        const double each = disc(5) * 4;
        const double count = (volumeOf(r) - 240000) / each;
        const Box box = envelope(r.state.bodies.begin()->second.value);
        CHECK(box.high.z == Approx(14));
        // How far the last one reaches, by the middle of its top.
        double far = -1e9;
        const Body& body = r.state.bodies.begin()->second.value;
        for (int i = 0; i < faceCount(body); ++i) {
            const Vec3 m = body.shape().middleOf({i}, false);
            if (m.z > 13.9) far = std::max(far, m.x);
        }
        return std::pair{count, far + 85};
    };
    auto [count, far] = placesOf(
        {{"count", std::string("5")}, {"spacing", std::string("over")}, {"span", std::string("160 mm")}});
    CHECK(count == Approx(5).epsilon(1e-9));
    CHECK(far == Approx(160).epsilon(1e-9));
    std::tie(count, far) = placesOf(
        {{"count", std::string("7")}, {"spacing", std::string("leaving")}, {"gap", std::string("2.5 mm")}});
    CHECK(count == Approx(7).epsilon(1e-9));
    CHECK(far == Approx(6 * 12.5).epsilon(1e-9));
    // (150 + 3) / (10 + 3) = 11.8: eleven, over 140 between the middles of the first and the last.
    std::tie(count, far) = placesOf(
        {{"spacing", std::string("filling")}, {"span", std::string("150 mm")}, {"gap", std::string("3 mm")}});
    CHECK(count == Approx(11).epsilon(1e-9));
    CHECK(far == Approx(140).epsilon(1e-9));
}

TEST_CASE("Staggered rows, and copies at drawn points") {
    Part p = plate(rectangle({-90, -50}, {-80, -40}), "3 mm", "taking from");
    repeat(p, {{"way", std::string("in rows along")},
               {"count", std::string("3")},
               {"count 2", std::string("2")},
               {"stagger", std::string("staggered")}});
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(240000 - 6 * 300).epsilon(1e-9));
    const auto m = massProperties(r.state.bodies.begin()->second.value, Density(1e-3));
    // The second row stands half a pitch to the right.
    const double middle = (3 * -65 + 3 * -55) / 6.0;
    CHECK(m->centre.x == Approx(-6 * 300 * middle / m->volume).epsilon(1e-9));

    Part q = plate(disc({-85, -45}, 5), "4 mm", "taking from");
    Drawing places;
    for (const Vec2 at : {Vec2{20, 10}, Vec2{-84, -45}, Vec2{70, -30}, Vec2{-40, 40}})
        places.draw(StrokeKind::Point, {at});
    add(q, "draw",
        {{"plane", std::string("end of step 2")},
         {"name", std::string("places")},
         {"drawing", DrawingSlot(places)}});
    repeat(q, {{"way", std::string("at the points of")}, {"points", std::string("places")}});
    const auto at = built(q);
    CHECK(volumeOf(at) == Approx(240000 - 4 * disc(5) * 4).epsilon(1e-9));
    const auto c = massProperties(at.state.bodies.begin()->second.value, Density(1e-3));
    // The nearest point is the detail's own; the others are as far from it as the copies are.
    const double sum = -85 + (-85 + 104) + (-85 + 154) + (-85 + 44);
    CHECK(c->centre.x == Approx(-sum * disc(5) * 4 / c->volume).epsilon(1e-6));
}

TEST_CASE("Around an axis, on flat faces and on round walls, over where these close up, too") {
    Part flat = plate(disc({-40, 0}, 5), "4 mm", "adding to");
    Step& around = repeat(flat, {{"way", std::string("around")}, {"count", std::string("9")}});
    CHECK(volumeOf(built(flat)) == Approx(240000 + 9 * disc(5) * 4).epsilon(1e-9));
    around.slots["turn"] = std::string("over");
    around.slots["angle"] = std::string("90°");
    around.slots["count"] = std::string("4");
    CHECK(volumeOf(built(flat)) == Approx(240000 + 4 * disc(5) * 4).epsilon(1e-9));
}

TEST_CASE("By a length round an axis copies stand so far from one another on the wall") {
    // Pockets in a can: their mouths lie 30 from the axis, not at the middle of their depth.
    Part can = block(circleLine(30), "60 mm");
    add(can, "plane",
        {{"name", std::string("beside")},
         {"from", std::string("front")},
         {"distance", std::string("35 mm")}});
    add(can, "draw", {{"plane", std::string("beside")}, {"drawing", DrawingSlot(circleLine(3, {0, 30}))}});
    const int pocket = add(can, "extrude",
                           {{"length", std::string("15 mm")},
                            {"way", std::string("backward")},
                            {"does", std::string("taking from")}})
                           .id;
    Step& around = repeat(can, {{"what", References{"everything of step " + std::to_string(pocket)}},
                                {"way", std::string("around")},
                                {"turn", std::string("arc")},
                                {"arc", std::string("12 mm")},
                                {"count", std::string("5")}});
    const auto r = built(can);
    const Body& body = r.state.bodies.begin()->second.value;
    std::vector<double> at;
    for (int i = 0; i < faceCount(body); ++i) {
        const Vec3 m = body.shape().middleOf({i}, false);
        if (BRepAdaptor_Surface(TopoDS::Face(body.shape().faces(i + 1)), false).GetType() == GeomAbs_Plane &&
            m.z > 1 && m.z < 59)
            at.push_back(30 * std::atan2(m.x, -m.y));
    }
    std::sort(at.begin(), at.end());
    REQUIRE(at.size() == 5);
    for (std::size_t i = 1; i < at.size(); ++i) CHECK(at[i] - at[i - 1] == Approx(12).epsilon(1e-9));
    CHECK(sentenceText(around, can).find("5 times spaced along the round by 12 mm") != std::string::npos);
    // More than go round are told with those that do: 15 times 12 of the round's 188.5, and 6 of its own.
    around.slots["count"] = std::string("17");
    const Error e = faultOf(can);
    REQUIRE(e.remedies.size() == 1);
    CHECK(e.remedies.front().value == "16");
    // On the axis there is no way round.
    Part flat = plate(disc({0, 0}, 5), "4 mm", "adding to");
    repeat(flat, {{"way", std::string("around")}, {"turn", std::string("arc")}});
    CHECK(faultOf(flat).code == "repeat.round");
}

TEST_CASE("Around a round wall, over where it closes up, too; rims below and above, other details in it") {
    Part can = block(circleLine(30), "60 mm");
    add(can, "fillet",
        {{"edges", References{"rim of start of step 2", "rim of end of step 2"}},
         {"radius", std::string("3 mm")}});
    add(can, "plane",
        {{"name", std::string("beside")},
         {"from", std::string("front")},
         {"distance", std::string("35 mm")}});
    const double whole = volumeOf(built(can));
    const auto with = [&](const Drawing& d, const char* way, const char* does) {
        Part p = can;
        add(p, "draw", {{"plane", std::string("beside")}, {"drawing", DrawingSlot(d)}});
        add(p, "extrude",
            {{"length", std::string("15 mm")}, {"way", std::string(way)}, {"does", std::string(does)}});
        return p;
    };
    for (const char* does : {"taking from", "adding to"}) {
        Part p = with(disc({3, 30}, 4), "forward", does);
        if (!allFine(Engine().regenerate(p))) p = with(disc({3, 30}, 4), "backward", does);
        const double one = volumeOf(built(p)) - whole;
        REQUIRE(std::fabs(one) > 100);
        const std::string what = "everything of step " + std::to_string(p.steps.back().id);
        for (const int count : {3, 8, 12, 18}) {
            Part q = p;
            add(q, "repeat",
                {{"what", References{what}},
                 {"way", std::string("around")},
                 {"count", std::to_string(count)}});
            INFO(does << " " << count << " times: " << faults(Engine().regenerate(q)));
            const auto r = built(q);
            CHECK(volumeOf(r) == Approx(whole + count * one).epsilon(1e-7));
            const Body& body = r.state.bodies.begin()->second.value;
            CHECK(faceCount(body) == 5 + count * 2);
            CHECK(checkBody(body).faults.empty());
        }
        // A second detail between the first ones, and these along the axis.
        add(p, "repeat",
            {{"what", References{what}}, {"way", std::string("around")}, {"count", std::string("6")}});
        const double six = volumeOf(built(p));
        CHECK(six == Approx(whole + 6 * one).epsilon(1e-7));
        Part up = p;
        add(up, "repeat",
            {{"what", References{what}},
             {"line", std::string("upright axis")},
             {"count", std::string("2")},
             {"pitch", std::string("12 mm")}});
        CHECK(volumeOf(built(up)) == Approx(six + one).epsilon(1e-7));
    }
}

TEST_CASE("Places are left out by their numbers") {
    Part p = plate(disc({-85, -45}, 5), "4 mm", "taking from");
    Step& step = repeat(p, {{"way", std::string("in rows along")},
                            {"count", std::string("6")},
                            {"count 2", std::string("4")},
                            {"some", std::string("but")},
                            {"without", std::string("2/3, 3/1-4; 6")}});
    // One of the second row, four of the third, the sixth of every row.
    CHECK(volumeOf(built(p)) == Approx(240000 - (24 - 1 - 4 - 4) * disc(5) * 4).epsilon(1e-9));
    CHECK(sentenceText(p.steps.back(), p).find("in line but without 2/3, 3/1-4; 6.") != std::string::npos);
    for (const char* wrong : {"some", "3-", "0", "5-2", "1//2", "3,,4", "-1"}) {
        step.slots["without"] = std::string(wrong);
        INFO(wrong);
        CHECK(faultOf(p).code == "repeat.without");
    }
    step.slots["without"] = std::string();
    CHECK(volumeOf(built(p)) == Approx(240000 - 24 * disc(5) * 4).epsilon(1e-9));
}

TEST_CASE("A detail that lies over where a round wall closes up is repeated like any other") {
    Part p = block(circleLine(30), "60 mm");
    add(p, "plane",
        {{"name", std::string("beside")}, {"from", std::string("side")}, {"distance", std::string("35 mm")}});
    add(p, "draw", {{"plane", std::string("beside")}, {"drawing", DrawingSlot(disc({2, 30}, 5))}});
    add(p, "extrude",
        {{"length", std::string("15 mm")},
         {"way", std::string("backward")},
         {"does", std::string("taking from")}});
    if (!allFine(Engine().regenerate(p))) p.steps.back().slots["way"] = std::string("forward");
    add(p, "fillet",
        {{"edges", References{"edges between step 2 and step 5"}}, {"radius", std::string("0.6 mm")}});
    const double whole = disc(30) * 60, one = whole - volumeOf(built(p));
    REQUIRE(one > 100);
    for (const int count : {2, 5, 8}) {
        Part q = p;
        add(q, "repeat",
            {{"what", References{"everything of step 5"}},
             {"way", std::string("around")},
             {"count", std::to_string(count)}});
        INFO(count << ": " << faults(Engine().regenerate(q)));
        const auto r = built(q);
        CHECK(volumeOf(r) == Approx(whole - count * one).epsilon(1e-7));
        CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    }
}

TEST_CASE("A body is repeated beside itself or joined into one; what does not touch says so") {
    Part p = block(rectangle({-3, -10}, {3, 10}), "40 mm");
    const double one = 6 * 20 * 40;
    Step& row = add(p, "repeat",
                    {{"subject", std::string("the body")},
                     {"becomes", std::string("as bodies of their own")},
                     {"count", std::string("5")},
                     {"pitch", std::string("12 mm")}});
    const auto apart = built(p);
    CHECK(apart.state.bodies.size() == 5);
    for (const auto& [id, b] : apart.state.bodies)
        CHECK(massProperties(b.value, Density(1e-3))->volume == Approx(one).epsilon(1e-9));
    row.slots["becomes"] = std::string("joined with it");
    const Error e = faultOf(p);
    CHECK(e.code == "repeat.apart");
    REQUIRE(e.remedies.size() == 1);
    CHECK(e.remedies.front().value == "as bodies of their own");
    row.slots["pitch"] = std::string("5 mm");
    CHECK(volumeOf(built(p)) == Approx((6 + 4 * 5) * 20 * 40).epsilon(1e-9));
    // A bar that turns about its middle: a star of bars.
    row.slots["way"] = std::string("around");
    row.slots["count"] = std::string("2");
    row.slots["turn"] = std::string("every");
    row.slots["angle"] = std::string("90°");
    CHECK(volumeOf(built(p)) == Approx((2 * 6 * 20 - 36) * 40).epsilon(1e-9));
}

TEST_CASE("Copies at one place are told, too") {
    Part p = plate(disc({0, 0}, 3), "4 mm", "taking from");
    repeat(p, {{"way", std::string("in rows along")}, {"line 2", std::string("cross axis")}});
    CHECK(faultOf(p).code == "repeat.overlap");
}

TEST_CASE("Too many are told before they are built, with the largest count that fits") {
    Part p = plate(disc({-40, 0}, 5), "4 mm", "adding to");
    repeat(p, {{"way", std::string("around")}, {"count", std::string("40")}});
    const Error e = faultOf(p);
    CHECK(e.code == "repeat.overlap");
    REQUIRE(e.remedies.size() == 1);
    // Discs of 5 around 40: pi / asin(5 / 40).
    CHECK(e.remedies.front().value == std::to_string(int(kPi / std::asin(5. / 40))));
    Part row = plate(disc({-85, -45}, 5), "4 mm", "adding to");
    repeat(row, {{"count", std::string("20")}, {"pitch", std::string("15 mm")}});
    const Error off = faultOf(row);
    CHECK(off.code == "repeat.off");
    CHECK(off.place);
    REQUIRE(off.remedies.size() == 1);
    CHECK(off.remedies.front().value == "12"); // 11 * 15 = 165 from -85; one more would touch the border
}

TEST_CASE("Slots at a border are repeated along it; where they run into one another it is told") {
    Part slot = plate(rectangle({-120, -50}, {-80, -40}), "3 mm", "taking from");
    Step& step = repeat(slot, {{"line", std::string("depth axis")}, {"count", std::string("4")}});
    const auto along = built(slot);
    CHECK(volumeOf(along) == Approx(240000 - 4 * 20 * 10 * 3).epsilon(1e-9));
    CHECK(along.steps.back().notes.empty());
    step.slots["line"] = std::string("cross axis");
    step.slots["pitch"] = std::string("15 mm"); // into one another
    CHECK(built(slot).steps.back().notes.size() == 1);
}

TEST_CASE("Copies that would not touch the body are told as such") {
    // Tabs within a ring that stands upright, repeated about the wrong axis.
    Part p;
    Drawing ring = circleLine(40);
    ring.draw(StrokeKind::Circle, {{0, 0}}, {32});
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(ring)}});
    add(p, "extrude", {{"length", std::string("20 mm")}});
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(rectangle({24, -4}, {33, 4}))}});
    add(p, "extrude", {{"length", std::string("5 mm")}, {"does", std::string("adding to")}});
    add(p, "repeat",
        {{"what", References{"everything of step 4"}},
         {"way", std::string("around")},
         {"count", std::string("6")}});
    const Error e = faultOf(p);
    CHECK(e.code == "repeat.apart");
    CHECK(e.sentence.text().starts_with("5 of the copies would not touch the body"));
    p.steps.back().slots["axis"] = std::string("depth axis");
    CHECK(volumeOf(built(p)) > 0);
}

TEST_CASE("What later steps set onto a detail and nothing else goes with it: the thread of a stud") {
    Part p = plate(disc({-70, 0}, 5), "14 mm", "adding to");
    const double plain = volumeOf(built(p));
    add(p, "thread",
        {{"wall",
          References{"side " + std::to_string(p.steps[2].drawing("drawing").strokes[0].id) + " of step 4"}}});
    const double one = volumeOf(built(p)) - 240000;
    REQUIRE(240000 + one > plain);
    repeat(p, {{"count", std::string("5")}, {"pitch", std::string("20 mm")}});
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(240000 + 5 * one).epsilon(1e-9));
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
}

TEST_CASE("Copies that overlap are told how far apart all of them fit") {
    // 12 wide, and 10 apart: a tenth above 12, as they may not touch.
    Part p = plate(rectangle({-90, -50}, {-78, -41}), "3 mm", "taking from");
    repeat(p, {{"way", std::string("in rows along")},
               {"count", std::string("6")},
               {"pitch", std::string("10 mm")},
               {"count 2", std::string("4")},
               {"pitch 2", std::string("13 mm")}});
    const Error e = faultOf(p);
    REQUIRE(e.code == "repeat.overlap");
    REQUIRE(e.remedies.size() == 1);
    CHECK(e.remedies[0].slot == "pitch");
    p.steps.back().slots["pitch"] = e.remedies[0].value;
    CHECK(volumeOf(built(p)) == Approx(240000 - 24 * 12 * 9 * 3).epsilon(1e-9));
    CHECK(e.remedies[0].value == "12.1 mm");
    // Too near both ways: one after the other.
    p.steps.back().slots["pitch"] = std::string("10 mm");
    p.steps.back().slots["pitch 2"] = std::string("7 mm");
    const Error both = faultOf(p);
    REQUIRE(both.remedies.size() == 2);
    CHECK(both.remedies[0].slot == "pitch");
    CHECK(both.remedies[1].slot == "pitch 2");
    for (const Remedy& r : both.remedies) p.steps.back().slots[r.slot] = r.value;
    CHECK(volumeOf(built(p)) == Approx(240000 - 24 * 12 * 9 * 3).epsilon(1e-9));
}

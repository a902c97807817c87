// What is read off picked things, against closed forms, and kept as targets.

#include "core/base/angles.hpp"
#include "core/document/part_file.hpp"
#include "core/regen/picked.hpp"
#include "tests/support/built.hpp"
#include "tests/support/measured.hpp"

using namespace gc;
using namespace gc::test;

namespace {

double readingOf(const RegenResult& r, const std::string& key, const std::vector<std::string>& picked) {
    const auto all = readingsOf(r.state, picked);
    REQUIRE(all.ok());
    const auto it = std::find_if(all->begin(), all->end(), [&](const Reading& x) { return x.key == key; });
    REQUIRE(it != all->end());
    if (it->at && it->to) CHECK(length(*it->to - *it->at) == Approx(it->value).margin(1e-9));
    return it->value;
}

bool has(const RegenResult& r, const std::string& key, const std::vector<std::string>& picked) {
    const auto all = readingsOf(r.state, picked);
    REQUIRE(all.ok());
    return std::any_of(all->begin(), all->end(), [&](const Reading& x) { return x.key == key; });
}

/// A block of 40 by 30 by 20 about the origin, and two pegs on the ground beside it.
Part blockAndPegs() {
    Part p = block();
    addPeg(p, "thin", 4, 30, 60);
    addPeg(p, "wide", 10, 12, 100);
    return p;
}

std::string sideOf(const Part& p, int step, int nth) {
    const Drawing& d = p.steps[static_cast<std::size_t>(step - 2)].drawing("drawing");
    return "side " + std::to_string(d.strokes[static_cast<std::size_t>(nth)].id) + " of step " +
           std::to_string(step);
}

} // namespace

TEST_CASE("Faces: distances square to them, angles, areas") {
    const Part p = blockAndPegs();
    const auto r = built(p);
    const std::string top = "face: end of step 2", floor = "face: start of step 2",
                      side = "face: " + sideOf(p, 2, 0), beside = "face: " + sideOf(p, 2, 1);
    CHECK(readingOf(r, "distance", {top, floor}) == Approx(20));
    CHECK(readingOf(r, "least distance", {top, floor}) == Approx(20));
    CHECK(readingOf(r, "angle", {top, floor}) == Approx(0).margin(1e-9));
    CHECK(readingOf(r, "angle", {top, side}) == Approx(kPi / 2));
    CHECK(readingOf(r, "least distance", {top, side}) == Approx(0).margin(1e-9));
    CHECK_FALSE(has(r, "distance", {top, side}));
    CHECK(readingOf(r, "area", {top}) == Approx(40 * 30));
    CHECK(readingOf(r, "area", {side}) + readingOf(r, "area", {beside}) == Approx(70 * 20));
}

TEST_CASE("Round things: radii, axes, centres") {
    const Part p = blockAndPegs();
    const auto r = built(p);
    const std::string thin = "face: " + sideOf(p, 4, 0), wide = "face: " + sideOf(p, 6, 0);
    CHECK(readingOf(r, "radius", {thin}) == Approx(4));
    CHECK(readingOf(r, "diameter", {wide}) == Approx(20));
    CHECK(readingOf(r, "area", {wide}) == Approx(2 * kPi * 10 * 12));
    CHECK(readingOf(r, "distance", {thin, wide}) == Approx(40));
    CHECK(readingOf(r, "least distance", {thin, wide}) == Approx(40 - 14));
    CHECK(readingOf(r, "angle", {thin, wide}) == Approx(0).margin(1e-9));
    const std::string rim = "edge: where end of step 4 meets " + sideOf(p, 4, 0),
                      other = "edge: where end of step 6 meets " + sideOf(p, 6, 0);
    CHECK(readingOf(r, "length", {rim}) == Approx(2 * kPi * 4));
    CHECK(readingOf(r, "diameter", {rim}) == Approx(8));
    // Beside a plane a circle is its own plane, beside another it is its centre's axis.
    CHECK(readingOf(r, "distance", {rim, "face: start of step 2"}) == Approx(30));
    CHECK(readingOf(r, "distance", {rim, other}) == Approx(18));
    CHECK(readingOf(r, "least distance", {rim, other}) == Approx(std::hypot(40 - 14, 18)));
    CHECK(readingOf(r, "distance", {thin, "face: " + sideOf(p, 2, 1)}) == Approx(60 - 20));
}

TEST_CASE("Points, edges and bodies") {
    const Part p = blockAndPegs();
    const auto r = built(p);
    const auto corner = [&](int a, int b, const char* cap) {
        return std::string("point: corner of ") + sideOf(p, 2, a) + " and " + sideOf(p, 2, b) + " and " +
               cap + " of step 2";
    };
    CHECK(readingOf(r, "distance", {corner(0, 1, "end"), corner(2, 3, "start")}) ==
          Approx(std::sqrt(40. * 40 + 30 * 30 + 20 * 20)));
    CHECK(readingOf(r, "distance", {corner(0, 1, "end"), "face: start of step 2"}) == Approx(20));
    const std::string upright = "edge: where " + sideOf(p, 2, 0) + " meets " + sideOf(p, 2, 1),
                      lying = "edge: where end of step 2 meets " + sideOf(p, 2, 2);
    CHECK(readingOf(r, "length", {upright}) == Approx(20));
    CHECK(readingOf(r, "angle", {upright, lying}) == Approx(kPi / 2));
    CHECK(readingOf(r, "angle", {upright, "face: end of step 2"}) == Approx(kPi / 2));
    CHECK(readingOf(r, "angle", {lying, "face: end of step 2"}) == Approx(0).margin(1e-9));
    CHECK(readingOf(r, "least distance", {"body: thin", "body: wide"}) == Approx(26));
    CHECK(readingsOf(r.state, {"body: none"}).error().code == "body.lost");
    CHECK(readingsOf(r.state, {"face: wall of step 99"}).error().code == "reference.lost");
    CHECK(readingsOf(r.state, {"something"}).error().code == "picked.unknown");
}

TEST_CASE("Drawn lines, curves in space, and bodies alone") {
    const Part p = blockAndPegs();
    const auto r = built(p);
    const auto stroke = [&](int step, int nth) {
        const Drawing& d = p.steps[static_cast<std::size_t>(step - 2)].drawing("drawing");
        return "curve: stroke " + std::to_string(d.strokes[static_cast<std::size_t>(nth)].id) + " of step " +
               std::to_string(step - 1);
    };
    CHECK(readingOf(r, "length", {stroke(2, 0)}) + readingOf(r, "length", {stroke(2, 1)}) == Approx(70));
    CHECK(readingOf(r, "diameter", {stroke(4, 0)}) == Approx(8));
    CHECK(readingOf(r, "length", {stroke(4, 0)}) == Approx(2 * kPi * 4));
    CHECK(readingOf(r, "angle", {stroke(2, 0), stroke(2, 1)}) == Approx(kPi / 2));
    CHECK(readingOf(r, "distance", {stroke(2, 0), stroke(2, 2)}) +
              readingOf(r, "distance", {stroke(2, 1), stroke(2, 3)}) ==
          Approx(70));
    // Two circles in one plane, 40 apart: beside something flat or round a circle is its plane or its axis.
    CHECK(readingOf(r, "least distance", {stroke(4, 0), stroke(6, 0)}) == Approx(40 - 14));
    CHECK(readingOf(r, "least distance", {stroke(4, 0), "body: wide"}) == Approx(40 - 14));
    const std::string all = "curve: chain of stroke " + stroke(2, 0).substr(14);
    CHECK(readingOf(r, "length", {all}) == Approx(140));
    CHECK(readingOf(r, "volume", {"body: wide"}) == Approx(kPi * 100 * 12));
    CHECK(readingOf(r, "area", {"body: wide"}) == Approx(2 * kPi * 100 + 2 * kPi * 10 * 12));
    CHECK_FALSE(readingsOf(r.state, {"curve: stroke 9999 of step 1"}).ok());
    CHECK_FALSE(pickedInWords(stroke(4, 0), p).starts_with("curve: "));
}

TEST_CASE("A reading that is kept as a target follows the part, its file and its bodies' names") {
    Part p = blockAndPegs();
    Target t{"distance", "≥ 19 mm"};
    t.of = {"face: end of step 2", "face: start of step 2"};
    Target apart{"least distance", "≥ 20 mm"};
    apart.of = {"body: thin", "body: wide"};
    auto m = measuredTargets(p, {t, apart}, false);
    CHECK(*m[0].value == Approx(20));
    CHECK(m[0].verdict == Verdict::Holds);
    REQUIRE(m[0].at);
    CHECK(m[0].at->z == Approx(10));
    CHECK(*m[1].value == Approx(26));
    CHECK(m[0].label.find("Distance of end of step 2") == 0);
    p.steps[1].slots["length"] = std::string("12 mm");
    m = measuredTargets(p, {t, apart}, false);
    CHECK(*m[0].value == Approx(12));
    CHECK(m[0].verdict == Verdict::Fails);
    p.brief.targets = {t, apart};
    CHECK(renameBody(p, {6, 0}, "stout").empty());
    CHECK(p.brief.targets[1].of[1] == "body: stout");
    const auto again = readPart(writePart(p));
    REQUIRE(again.ok());
    CHECK(again->brief.targets == p.brief.targets);
    // What is gone says so and is not taken to hold.
    p.brief.targets[0].of[0] = "face: bore of step 2";
    const auto gone = measuredTargets(p, p.brief.targets, false);
    CHECK_FALSE(gone[0].value);
    CHECK(gone[0].verdict == Verdict::None);
    CHECK_FALSE(gone[0].note.empty());
    for (const char* bad : {R"({"measure":"distance","allowed":"1","of":["face: x"]})",
                            R"({"measure":"mass","allowed":"1","of":["body: x"]})",
                            R"({"measure":"distance","allowed":"1","of":[1,2]})"})
        CHECK_FALSE(readPart(std::string(R"({"format":"good-curve part","version":2,"brief":{"targets":[)") +
                             bad + "]}}")
                        .ok());
}

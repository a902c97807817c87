/// \file Rounds that begin at a line: held against circles and integrals.

#include "core/base/angles.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/wound.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

void held(Part& p, const References& edges, const References& line) {
    add(p, "fillet", {{"how", std::string("up to")}, {"edges", edges}, {"line", line}});
}
std::string meets(const std::string& a, const std::string& b) {
    return "where " + a + " meets " + b;
}
/// What a round of radius r takes where faces meet square, by mm of its length.
double taken(double r) {
    return (1 - kPi / 4) * r * r;
}

} // namespace

TEST_CASE("Held at the other border of a step a round has the step's height for its radius") {
    // A stair of two: the upper riser, 6 mm high, between the tread (line) and the top.
    Part p = block(closedLine({{0, 0}, {40, 0}, {40, 10}, {20, 10}, {20, 16}, {0, 16}}), "30 mm");
    const double before = volumeOf(built(p));
    held(p, {meets(side(p, 3), side(p, 4))}, {meets(side(p, 2), side(p, 3))});
    CHECK(sentenceText(p.steps.back(), p).starts_with("Fillet"));
    const auto r = built(p);
    CHECK(before - volumeOf(r) == Approx(taken(6) * 30).epsilon(1e-9));
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
}

TEST_CASE("Held round a hollow edge it fills") {
    Part p = block(closedLine({{0, 0}, {40, 0}, {40, 10}, {20, 10}, {20, 16}, {0, 16}}), "30 mm");
    const double before = volumeOf(built(p));
    held(p, {meets(side(p, 2), side(p, 3))}, {meets(side(p, 3), side(p, 4))});
    CHECK(volumeOf(built(p)) - before == Approx(taken(6) * 30).epsilon(1e-9));
}

TEST_CASE("Held round a disc it has the disc's height for its radius; walls without seams, too") {
    Part p = block(circleLine(40), "8 mm");
    const double before = volumeOf(built(p));
    held(p, {"rim of end of step 2"}, {"rim of start of step 2"});
    const auto r = built(p);
    // Pappus: the corner that is taken has its centre (10 - 3 pi) / (12 - 3 pi) r from both its walls.
    const double c = 8 * (10 - 3 * kPi) / (12 - 3 * kPi);
    CHECK(before - volumeOf(r) == Approx(taken(8) * 2 * kPi * (40 - c)).epsilon(1e-6));
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
}

TEST_CASE("Held round a block with round uprights it goes over all its walls") {
    Part p = block(rectangle({0, 0}, {60, 40}), "7 mm");
    References uprights;
    for (std::size_t i = 0; i < 4; ++i) uprights.push_back(meets(side(p, i), side(p, (i + 1) % 4)));
    add(p, "fillet", {{"edges", uprights}, {"radius", std::string("12 mm")}});
    const double before = volumeOf(built(p));
    // One edge and one of the line will do.
    held(p, {meets(side(p, 0), "end of step 2")}, {meets(side(p, 0), "start of step 2")});
    const auto r = built(p);
    const double c = 7 * (10 - 3 * kPi) / (12 - 3 * kPi);
    CHECK(before - volumeOf(r) == Approx(taken(7) * (2 * 36 + 2 * 16 + 2 * kPi * (12 - c))).epsilon(1e-6));
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
    // What it made is found by later steps.
    add(p, "fillet",
        {{"edges",
          References{meets("end of step 2", "held round between " + side(p, 0) + " and end of step 2")}},
         {"radius", std::string("1 mm")}});
    CHECK(faultOf(p).code == "fillet.smooth");
}

TEST_CASE("Held at a line that runs aslant the radius follows it") {
    // A wedge: its front is 4 mm high at one end and 10 at the other.
    Part p = block(closedLine({{0, 0}, {40, 0}, {40, 10}, {0, 4}}), "30 mm");
    const double before = volumeOf(built(p));
    // The front is the end of the extrude: its lower border is the line, its upper one is rounded.
    held(p, {meets(side(p, 2), "end of step 2")}, {meets(side(p, 0), "end of step 2")});
    const auto r = built(p);
    // An arc lies square to the upper edge. Seen from the front, at (x, y), it has come r - d from the line,
    // where d is how far the top is and r how far it is from the line's place on the same arc.
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
    const double rise = 6.0 / 40, cosine = 1 / std::hypot(1, rise);
    constexpr int kLooks = 1500;
    double sum = 0;
    for (int i = 0; i < kLooks; ++i)
        for (int k = 0; k < kLooks; ++k) {
            const double x = 40 * (i + 0.5) / kLooks, height = 4 + rise * x, y = height * (k + 0.5) / kLooks;
            const double radius = (4 + rise * (x + y * rise)) * cosine, top = (height - y) * cosine;
            const double depth = radius - std::sqrt(radius * radius - (radius - top) * (radius - top));
            sum += depth * (40.0 / kLooks) * (height / kLooks);
        }
    CHECK(before - volumeOf(r) == Approx(sum).epsilon(2e-4));
}

TEST_CASE("Held rounds say what is wrong") {
    Part p = block(closedLine({{0, 0}, {40, 0}, {40, 10}, {20, 10}, {20, 16}, {0, 16}}), "30 mm");
    const auto fault = [&](const References& edges, const References& line) {
        Part q = p;
        held(q, edges, line);
        return faultOf(q);
    };
    CHECK(fault({meets(side(p, 3), side(p, 4))}, {meets(side(p, 0), side(p, 1))}).code == "held.apart");
    // The top is 20 mm wide, the tread 20: from the far border of the tread a ball of 20 is higher than the
    // riser.
    const Error wide = fault({meets(side(p, 2), side(p, 3))}, {meets(side(p, 1), side(p, 2))});
    CHECK(wide.code == "held.wide");
    CHECK(wide.place);
    CHECK(faultOf([&] {
              Part q = p;
              add(q, "fillet",
                  {{"how", std::string("up to")}, {"edges", References{meets(side(p, 3), side(p, 4))}}});
              return q;
          }())
              .code == "reference.none");
}

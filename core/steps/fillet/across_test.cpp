/// \file Rounds that eat what lies between two faces: held against the same round before there was anything.

#include "core/base/angles.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// A brick whose upper front edge has a chamfer.
Part chamfered(const std::string& size = "2 mm") {
    Part p = brick();
    add(p, "chamfer",
        {{"edges", References{"where " + side(p, 0) + " meets end of step 2"}}, {"size", size}});
    return p;
}
double roundTaken(double r, double length) {
    return (1 - kPi / 4) * r * r * length;
}

} // namespace

TEST_CASE("A round of an edge beside a narrow chamfer eats the chamfer") {
    for (const char* other : {"end of step 2", "wall"}) {
        Part p = chamfered("1 mm");
        const std::string beside = other == std::string("wall") ? side(p, 0) : other;
        const std::string face = "chamfer between " + side(p, 0) + " and end of step 2";
        add(p, "fillet",
            {{"edges", References{"where " + beside + " meets " + face}}, {"radius", std::string("6 mm")}});
        const auto r = built(p);
        CHECK(volumeOf(r) == Approx(24000 - roundTaken(6, 40)).epsilon(1e-9));
        CHECK_FALSE(r.steps.back().doubt);
    }
}

TEST_CASE("A rim's round eats the chamfers all round") {
    Part p = brick();
    add(p, "chamfer", {{"edges", References{"rim of end of step 2"}}, {"size", std::string("1 mm")}});
    add(p, "fillet", {{"edges", References{"rim of end of step 2"}}, {"radius", std::string("5 mm")}});
    Part plain = brick();
    add(plain, "fillet", {{"edges", References{"rim of end of step 2"}}, {"radius", std::string("5 mm")}});
    CHECK(volumeOf(built(p)) == Approx(volumeOf(built(plain))).epsilon(1e-9));
}

TEST_CASE("From face to face over what lies between, hollow and bulging, and where they meet") {
    const auto across = [](Part p, const References& faces, const char* radius) {
        add(p, "fillet",
            {{"how", std::string("from face to face")}, {"between", faces}, {"radius", std::string(radius)}});
        return p;
    };
    Part p = chamfered();
    const References two{side(p, 0), "end of step 2"};
    CHECK(volumeOf(built(across(p, two, "5 mm"))) == Approx(24000 - roundTaken(5, 40)).epsilon(1e-9));
    CHECK(volumeOf(built(across(brick(), two, "5 mm"))) == Approx(24000 - roundTaken(5, 40)).epsilon(1e-9));
    CHECK(sentenceText(across(p, two, "5 mm").steps.back(), p).starts_with("Fillet from face to face"));
    // A ball of 2 mm would leave the chamfer's middle: that stands (1 - 1 / sqrt 2) * 2 mm nearer.
    const Error small = faultOf(across(p, two, "2 mm"));
    CHECK(small.code == "fillet.small");
    CHECK(small.place);
    CHECK(faultOf(across(p, {side(p, 0), side(p, 2)}, "5 mm")).code == "fillet.apart");
    CHECK(faultOf(across(p, {side(p, 0)}, "5 mm")).code == "fillet.two");

    // An L whose inner corner is filled by a slant: the hollow round covers it.
    Part ell = block(closedLine({{0, 0}, {60, 0}, {60, 20}, {24, 20}, {20, 24}, {20, 60}, {0, 60}}), "10 mm");
    const References walls{side(ell, 2), side(ell, 4)};
    const double sharp = (60 * 20 + 40 * 20) * 10;
    CHECK(volumeOf(built(across(ell, walls, "10 mm"))) == Approx(sharp + roundTaken(10, 10)).epsilon(1e-9));
    CHECK(faultOf(across(ell, walls, "5 mm")).code == "fillet.small");
}

TEST_CASE("Two faces between, a slant and a small ledge, are eaten together") {
    Part p = block(closedLine({{0, 0}, {40, 0}, {40, 27}, {39, 28.5}, {37, 30}, {0, 30}}), "10 mm");
    add(p, "fillet",
        {{"how", std::string("from face to face")},
         {"between", References{side(p, 1), side(p, 4)}},
         {"radius", std::string("9 mm")}});
    CHECK(volumeOf(built(p)) == Approx(12000 - roundTaken(9, 10)).epsilon(1e-9));
}

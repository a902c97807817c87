// Hollow bodies with something low that stands out of them.

#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shell/hollowing.hpp"
#include "core/steps/shell/studs.hpp"
#include "tests/support/raw_bodies.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kTubLong = 44, kTubBroad = 40, kTubHigh = 17, kTubWall = 3; // mm

/// A tub that a slanting rod runs through: out of one side far, and a little out of the floor.
TopoDS_Shape tubWithRod(double radius) {
    const TopoDS_Shape tub = boxAt(0, 0, 0, kTubLong, kTubBroad, kTubHigh);
    return joinedRaw(tub, cylinderAlong({-kTubLong / 4, -kTubBroad / 5, 2}, {1, 0, 0.2}, radius, kTubLong));
}

ShellPlan tubPlan(const Body& body, double wall) {
    ShellPlan plan;
    plan.before = &body.shape();
    plan.offset = -wall;
    plan.opened.Add(body.shape().faces(highestFace(body)));
    return plan;
}

} // namespace

TEST_CASE("What stands out of a face by less than the wall is told from what does so by more") {
    const auto count = [](double high, double wall) {
        const Body body = bodyOf(
            joinedRaw(boxAt(0, 0, 0, 30, 20, 10), cylinderAt(8, 0, -high, 4, high + 1))); // under its floor
        return lowStuds(tubPlan(body, wall)).size();
    };
    CHECK(count(1.5, 2) == 1);
    CHECK(count(2.5, 2) == 0);
    // A pocket does not stand out, and where two walls meet is no stud.
    const Body pocket = bodyOf(cutRaw(boxAt(0, 0, 0, 30, 20, 10), cylinderAt(8, 0, -1, 4, 2)));
    CHECK(lowStuds(tubPlan(pocket, 2)).empty());
    const Body edge = bodyOf(joinedRaw(boxAt(0, 0, 0, 30, 20, 10), boxAt(15, 0, 5, 2, 6, 3)));
    CHECK(lowStuds(tubPlan(edge, 2)).size() == 1); // of one side, all round
    const Body corner = bodyOf(joinedRaw(boxAt(0, 0, 0, 30, 20, 10), boxAt(15, 10, 5, 2, 6, 3)));
    CHECK(lowStuds(tubPlan(corner, 2)).empty());
    // With its own top opened it is none of ours.
    const Body body = bodyOf(joinedRaw(boxAt(0, 0, 0, 30, 20, 10), cylinderAt(8, 0, 9, 4, 2)));
    CHECK(lowStuds(tubPlan(body, 2)).empty());
}

TEST_CASE("A rod that comes a little out of the floor stays solid there, and hollow where it comes out far") {
    constexpr double kRod = 3.9;
    const TopoDS_Shape shape = tubWithRod(kRod);
    const Body body = bodyOf(shape);
    REQUIRE(lowStuds(tubPlan(body, kTubWall)).size() == 1);
    std::vector<gc::Message> notes;
    const auto made = hollowed(body, {{highestFace(body) - 1}, -kTubWall, {}, 0}, 2, Progress(), &notes);
    INFO((made ? std::string() : made.error().sentence.text()));
    REQUIRE(made.ok());
    CHECK(checkBody(*made).valid);
    CHECK(meshAgrees(*made));
    REQUIRE(notes.size() == 1);
    CHECK(notes[0].text().find("stays solid") != std::string::npos);
    // Of the tub's own hollow all is there; in the rod beyond it there is a thin one, at most as long as the
    // rod stands out.
    const double solid = volumeOfRaw(shape),
                 tub = (kTubLong - 2 * kTubWall) * (kTubBroad - 2 * kTubWall) * (kTubHigh - kTubWall),
                 thin = kPi * (kRod - kTubWall) * (kRod - kTubWall) * kTubLong / 2;
    const double hollow = solid - volumeOfRaw(made->shape().shape);
    CHECK(hollow > tub);
    CHECK(hollow < tub + thin);
}

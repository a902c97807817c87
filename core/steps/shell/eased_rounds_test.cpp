// Floors with rounds that go from tighter than the wall to wider, and back.

#include "core/shape/kernel.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shell/eased_rounds.hpp"
#include "core/steps/shell/folds.hpp"
#include "core/steps/shell/hollowing.hpp"
#include "tests/support/raw_bodies.hpp"

#include <BRepFilletAPI_MakeFillet.hxx>
#include <TopoDS.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kTrayLong = 46, kTrayBroad = 36, kTrayHigh = 15, kTrayCorner = 5, kTrayWall = 1.8; // mm

/// A tray with round uprights, the rounds along its floor of another radius at each side.
Body tray(const std::vector<double>& radii) {
    TopoDS_Shape shape = boxAt(0, 0, 0, kTrayLong, kTrayBroad, kTrayHigh);
    BRepFilletAPI_MakeFillet uprights(shape);
    for (const TopoDS_Edge& e : edgesOf(shape, atLevel(kTrayHigh / 2))) uprights.Add(kTrayCorner, e);
    uprights.Build();
    shape = onlySolid(uprights.Shape());
    BRepFilletAPI_MakeFillet floor(shape);
    std::size_t k = 0;
    for (const TopoDS_Edge& e : edgesOf(shape, atLevel(0))) floor.Add(radii[k++ % radii.size()], e);
    floor.Build();
    return bodyOf(onlySolid(floor.Shape()));
}

ShellPlan trayPlan(const Body& body) {
    ShellPlan plan;
    plan.before = &body.shape();
    plan.offset = -kTrayWall;
    plan.opened.Add(body.shape().faces(highestFace(body)));
    return plan;
}

TopTools_IndexedMapOfShape tightOf(const Body& body) {
    TopTools_IndexedMapOfShape out;
    for (int i = 1; i <= body.shape().faces.Extent(); ++i)
        if (foldsOver(TopoDS::Face(body.shape().faces(i)), -kTrayWall)) out.Add(body.shape().faces(i));
    return out;
}

double volumeOfBody(const Body& body) {
    return volumeOfRaw(body.shape().shape);
}

} // namespace

TEST_CASE("Rounds that are tighter than the wall here and there are put back wider, within what they were") {
    const Body body = tray({1.3, 2.6, 1.5, 2.2});
    const ShellPlan plan = trayPlan(body);
    const auto tight = tightOf(body);
    REQUIRE(!tight.IsEmpty());
    const auto sharp = sharpBody(plan, body, tight);
    REQUIRE(sharp);
    CHECK(sharp->edges.size() == 8); // four sides and four arcs
    CHECK(volumeOfBody(sharp->body) > volumeOfBody(body));
    for (const bool evenly : {false, true}) {
        INFO(evenly);
        const auto eased = easedRounds(plan, *sharp, evenly);
        REQUIRE(eased);
        CHECK(checkBody(eased->body).valid);
        CHECK(tightOf(eased->body).IsEmpty());
        CHECK(volumeOfBody(eased->body) < volumeOfBody(body));
        CHECK(eased->least > 0.1 * kTrayWall);
        CHECK(eased->fills > 0);
        // Nothing of it is outside of what it was.
        const auto beyond = combine(eased->body, toolOf(body, 2), Combine::Take);
        CHECK((!beyond || volumeOfBody(*beyond) < 1e-3 * volumeOfBody(body)));
    }
}

TEST_CASE("A floor with rounds of several radii, some tighter than the wall, is hollowed") {
    const Body body = tray({1.3, 2.6, 1.5, 2.2});
    const ShellPlan plan = trayPlan(body);
    std::vector<gc::Message> notes;
    const auto made = hollowed(body, {{highestFace(body) - 1}, -kTrayWall, {}, 0}, 2, Progress(), &notes);
    INFO((made ? std::string() : made.error().sentence.text()));
    REQUIRE(made.ok());
    CHECK(checkBody(*made).valid);
    CHECK(meshAgrees(*made));
    REQUIRE(notes.size() == 1);
    CHECK(notes[0].text().find("becomes a round of") != std::string::npos);
    // At most as hollow as a sharp block within the walls, at least as one whose floor has the widest round.
    const double a = kTrayLong - 2 * kTrayWall, b = kTrayBroad - 2 * kTrayWall, h = kTrayHigh - kTrayWall,
                 corner = kTrayCorner - kTrayWall, sharp = (a * b - 0.8584 * corner * corner) * h;
    const double hollow = volumeOfBody(body) - volumeOfBody(*made), round = 2.7 - kTrayWall;
    CHECK(hollow < sharp);
    CHECK(hollow > sharp - 0.2146 * round * round * 2 * (a + b));
    int rims = 0;
    for (int i = 1; i <= made->shape().faces.Extent(); ++i)
        rims += made->shape().wordsFor(made->shape().faces(i)).starts_with("rim of") ? 1 : 0;
    CHECK(rims == 1);
}

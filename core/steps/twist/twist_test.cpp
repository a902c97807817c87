#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/mesh.hpp"
#include "core/steps/shared/detail.hpp"
#include "core/steps/shared/over_face.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/seeded.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <TopoDS.hxx>
#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf twistProbe("twist", [] {
    Probe p{block(rectangle({-8, -8}, {8, 8}), "50 mm"), 0};
    p.step = add(p.part, "twist", {}).id;
    p.shows = {{"angle", text("angle", "40°")},
               {"how", text("how", "taper")},
               {"axis", text("axis", "cross axis")},
               {"range", text("range", "from")}};
    return p;
});

MassProperties massOf(const RegenResult& r) {
    return *massProperties(r.state.bodies.begin()->second.value, Density(1e-3));
}

/// How far places of a body that is twisted about the upright axis, turned back, lie from the straight one,
/// mm.
double offStraight(const Body& straight, const Body& twisted, double angle, double high) {
    // None at an end of an oval: there the kernel does not find the wall that a place lies on.
    constexpr int kEach = 4;
    std::vector<TopoDS_Shape> faces;
    for (int f = 0; f < faceCount(straight); ++f) faces.push_back(straight.shape().faces(f + 1));
    BRepExtrema_DistShapeShape away;
    away.LoadS2(together(faces));
    double out = 0;
    for (int f = 0; f < faceCount(twisted); ++f)
        for (const gp_Pnt& q : placesOver(TopoDS::Face(twisted.shape().faces(f + 1)), kEach)) {
            const double back = -angle * q.Z() / high;
            const gp_Pnt there(q.X() * std::cos(back) - q.Y() * std::sin(back),
                               q.X() * std::sin(back) + q.Y() * std::cos(back), q.Z());
            away.LoadS1(BRepBuilderAPI_MakeVertex(there).Vertex());
            away.Perform();
            out = std::max(out, away.Value());
        }
    return out;
}

} // namespace

TEST_CASE("Twisting keeps the volume and turns each level by its share") {
    Part p = block(rectangle({-12, -4}, {12, 4}), "50 mm");
    const auto before = massOf(built(p));
    Step& twist = add(p, "twist", {{"angle", std::string("90°")}});
    const auto r = built(p);
    const auto after = massOf(r);
    CHECK(after.volume == Approx(before.volume).epsilon(1e-7));
    CHECK(after.centre.z == Approx(25).epsilon(1e-7));
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    // The top is turned by all of it: as far along y as it was along x.
    const Body& body = r.state.bodies.begin()->second.value;
    const auto mesh = *makeMesh(body, {0.01, 0.1});
    double x = 0, y = 0, around = 0;
    for (const Vec3& v : mesh.points) {
        if (v.z > 49.999) x = std::max(x, v.x), y = std::max(y, v.y);
        if (std::fabs(v.z - 25) < 1) around = std::max(around, std::hypot(v.x, v.y));
    }
    CHECK(x == Approx(4).margin(1e-4));
    CHECK(y == Approx(12).margin(1e-4));
    CHECK(around <= std::hypot(12, 4) + 1e-3);
    // Over a part of it the rest stays as it was, or turned as a whole.
    twist.slots["range"] = std::string("from");
    twist.slots["low"] = std::string("15 mm");
    twist.slots["high"] = std::string("35 mm");
    const auto part = built(p);
    CHECK(massOf(part).volume == Approx(before.volume).epsilon(1e-7));
    twist.slots["high"] = std::string("10 mm");
    CHECK(faultOf(p).code == "twist.range");
}

TEST_CASE("Tapered blocks are frusta, and a bend keeps the length of its axis") {
    Part p = block(rectangle({-10, -6}, {10, 6}), "40 mm");
    Step& step = add(p, "twist", {{"how", std::string("taper")}, {"size", std::string("0.7")}});
    CHECK(massOf(built(p)).volume == Approx(240 * 40 * (1 + 0.7 + 0.49) / 3).epsilon(1e-7));
    // What lies nearer to the middle of the bend gets shorter, what lies outside longer (Pappus).
    step.slots["how"] = std::string("bend");
    step.slots["bend"] = std::string("90°");
    const auto bent = massOf(built(p));
    CHECK(bent.volume == Approx(240 * 40).epsilon(1e-6));
    const double radius = 40 / (kPi / 2);
    // The middle of a ring's quarter about (radius, 0), from radius - 10 to radius + 10.
    const double outer = radius + 10, inner = radius - 10;
    const double middle = 4 * std::sqrt(2) / (3 * kPi) * (outer * outer * outer - inner * inner * inner) /
                          (outer * outer - inner * inner) / std::sqrt(2);
    CHECK(bent.centre.x == Approx(radius - middle).epsilon(1e-6));
    CHECK(bent.centre.z == Approx(middle).epsilon(1e-6));
    step.slots["bend"] = std::string("250°");
    CHECK(faultOf(p).code == "twist.tight");
}

TEST_CASE("Over a range a bend begins and ends without a jump of its curvature") {
    Part p = block(rectangle({-10, -6}, {10, 6}), "100 mm");
    Step& step = add(p, "twist",
                     {{"how", std::string("bend")},
                      {"bend", std::string("70°")},
                      {"range", std::string("from")},
                      {"low", std::string("20 mm")},
                      {"high", std::string("90 mm")}});
    const auto r = built(p);
    // The section's middle is the axis, which keeps its length (Pappus).
    CHECK(massOf(r).volume == Approx(240 * 100).epsilon(1e-7));
    // Where the end's middle comes, by Simpson's rule over the turn.
    const double whole = 70 * kPi / 180;
    const auto turnAt = [&](double t) { return whole * t * t * t * (10 - 15 * t + 6 * t * t); };
    double x = 0, z = 20;
    constexpr int kSteps = 2000;
    for (int i = 0; i <= kSteps; ++i) {
        const double w = (i == 0 || i == kSteps ? 1
                          : i % 2               ? 4
                                                : 2) *
                         70.0 / kSteps / 3,
                     a = turnAt(double(i) / kSteps);
        x += w * std::sin(a), z += w * std::cos(a);
    }
    x += 10 * std::sin(whole), z += 10 * std::cos(whole);
    const Body& body = r.state.bodies.begin()->second.value;
    double nearest = 1e300;
    for (int i = 0; i < faceCount(body); ++i)
        nearest = std::min(nearest, length(body.shape().middleOf({i}, false) - Vec3{x, 0, z}));
    CHECK(nearest < 1e-6);
    // In the middle it is bent by 15/8 of an even bend: at a radius of 9.3 mm.
    step.slots["bend"] = std::string("230°");
    CHECK(faultOf(p).code == "twist.tight");
    step.slots["range"] = std::string("from end to end");
    step.slots["bend"] = std::string("250°");
    CHECK(allFine(Engine().regenerate(p)));
}

TEST_CASE("Made-up bodies with rounds, holes and walls are twisted whole, and worked on afterwards") {
    std::mt19937 random = seeded(163);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const int all = std::getenv("GC_DEEP") ? 30 : 6;
    int whole = 0;
    double worst = 0, farthest = 0;
    for (int i = 0; i < all; ++i) {
        const double a = between(12, 24), b = between(12, 24), h = between(30, 60);
        Part p = i % 3 == 2 ? block(ellipseLine(a, b), formatNumber(h, 3) + " mm")
                            : block(i % 3 ? roundedLine(2 * a, 2 * b, 5) : rectangle({-a, -b}, {a, b}),
                                    formatNumber(h, 3) + " mm");
        if (i % 2)
            add(p, "fillet",
                {{"edges", References{"rim of start of step 2"}},
                 {"radius", formatNumber(between(1, 3), 2) + " mm"}});
        if (i % 4 > 1)
            add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
        const auto before = Engine().regenerate(p);
        INFO(i << ": " << faults(before));
        REQUIRE(allFine(before));
        const double was = massOf(before).volume;
        add(p, "twist", {{"angle", formatNumber(between(-120, 120), 2) + "°"}});
        const auto r = Engine().regenerate(p);
        INFO(faults(r));
        CHECK(allFine(r));
        if (!allFine(r)) continue;
        const double off = std::fabs(massOf(r).volume / was - 1);
        worst = std::max(worst, off);
        CHECK(off < 1e-5);
        CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
        // As exact as its tip says.
        farthest = std::max(farthest, offStraight(lastBody(before), lastBody(r),
                                                  *evaluateSlot(p.steps.back(), "angle", p, valuesOf(p)),
                                                  std::stod(formatNumber(h, 3))));
        ++whole;
        // Names stay: a chamfer at the rim above, by the reference of before.
        if (i % 4 <= 1) {
            add(p, "chamfer",
                {{"edges", References{"rim of end of step 2"}}, {"size", std::string("0.8 mm")}});
            const auto more = Engine().regenerate(p);
            INFO(faults(more));
            CHECK(allFine(more));
        }
    }
    WARN(whole << " of " << all << ", volume kept within " << worst << ", " << farthest << " mm off");
    CHECK(farthest < 1e-4);
}

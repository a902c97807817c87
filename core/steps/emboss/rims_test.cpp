// Edges of what was embossed, rounded as a part of the step.

#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/embossed.hpp"
#include "tests/support/sections.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <TopoDS.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

TEST_CASE("A round field has its rim, its far edge, or both rounded: by the volume of Pappus") {
    constexpr double kR = 8, kH = 3, kRound = 0.8;
    // Between the square corner and the round one, about the axis; its middle is that far from the corner.
    const double corner = kRound * kRound * (1 - kPi / 4);
    const double from = kRound * (5. / 6 - kPi / 4) / (1 - kPi / 4); // of the centroid from either leg
    for (const bool sunk : {false, true})
        for (const char* which : {"wall", "far", "all"}) {
            Part p = block(rectangle({-20, -20}, {20, 20}), "10 mm");
            addEmboss(p, circleLine(kR), "ground", "end of step 2",
                      {{"does", std::string(sunk ? "sunk" : "raised")},
                       {"height", inMm(kH)},
                       {"rims", std::string(which)},
                       {"rim round", inMm(kRound)}});
            const auto r = built(p);
            // At the wall a raised field is hollow outside of its side, and its far edge is cut within; sunk
            // it is cut outside and filled within.
            const double outside = corner * 2 * kPi * (kR + from), within = corner * 2 * kPi * (kR - from);
            const bool wall = std::string(which) != "far", far = std::string(which) != "wall";
            const double rounds = (wall ? outside : 0) - (far ? within : 0);
            const double volume = 16000 + (sunk ? -1 : 1) * (kPi * kR * kR * kH + rounds);
            INFO(which << (sunk ? " sunk" : " raised"));
            CHECK(volumeOf(r) == Approx(volume).epsilon(1e-7));
            CHECK(r.steps.back().notes.empty());
            checkSound(r);
        }
}

TEST_CASE(
    "A label field at constant depth below a free form has its rim rounded, its floor as deep as asked") {
    constexpr double kDepth = 1.5;
    Part p = lofted({{ellipseLine(30, 22), -40}, {ellipseLine(36, 26), 0}, {ellipseLine(28, 20), 40}});
    add(p, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("40 mm")}});
    const auto base = built(p);
    const Body before = base.state.bodies.begin()->second.value;
    std::string wall;
    for (int i = 1; i <= before.shape().faces.Extent(); ++i)
        if (BRepAdaptor_Surface(TopoDS::Face(before.shape().faces(i)), false).GetType() != GeomAbs_Plane)
            wall = before.shape().wordsFor(before.shape().faces(i));
    const std::size_t at = addEmboss(p, roundedLine(28, 16, 4), "before", wall,
                                     {{"does", std::string("sunk")},
                                      {"height", inMm(kDepth)},
                                      {"way", std::string("back")},
                                      {"rims", std::string("wall")},
                                      {"rim round", std::string("0.6 mm")}});
    if (!allFine(Engine().regenerate(p))) p.steps[at].slots["way"] = std::string("ahead");
    INFO(faults(Engine().regenerate(p)));
    const auto r = built(p);
    checkSound(r);
    CHECK(volumeOf(r) < volumeOf(base) - 500);
    const Body& body = r.state.bodies.begin()->second.value;
    int rounds = 0, seen = 0;
    for (int i = 0; i < faceCount(body); ++i) {
        const TopoDS_Face f = TopoDS::Face(body.shape().faces(i + 1));
        bool floor = false;
        for (const NamePtr n : body.shape().namesOf(f)) {
            rounds += n->role == "fillet";
            floor = floor || n->role.starts_with("floor");
        }
        if (!floor) continue;
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(f, u0, u1, v0, v1);
        const BRepTopAdaptor_FClass2d inside(TopoDS::Face(f.Oriented(TopAbs_FORWARD)), 1e-7);
        for (int a = 1; a < 12; ++a)
            for (int b = 1; b < 12; ++b) {
                const gp_Pnt2d uv(u0 + (u1 - u0) * a / 12, v0 + (v1 - v0) * b / 12);
                if (inside.Perform(uv) != TopAbs_IN) continue;
                // Distance to the solid's border: the place is within it.
                double least = 1e300;
                for (int k = 1; k <= before.shape().faces.Extent(); ++k)
                    least = std::min(
                        least, BRepExtrema_DistShapeShape(
                                   BRepBuilderAPI_MakeVertex(BRep_Tool::Surface(f)->Value(uv.X(), uv.Y())),
                                   before.shape().faces(k))
                                   .Value());
                CHECK(least == Approx(kDepth).margin(1e-3));
                ++seen;
            }
    }
    CHECK(rounds == 8);
    CHECK(seen > 40);
}

TEST_CASE("A radius that does not fit leaves the edges sharp, and says so with a smaller one") {
    Part p = block(rectangle({-20, -20}, {20, 20}), "10 mm");
    addEmboss(
        p, circleLine(4), "ground", "end of step 2",
        {{"height", std::string("1 mm")}, {"rims", std::string("all")}, {"rim round", std::string("3 mm")}});
    const auto r = built(p);
    CHECK(volumeOf(r) > 16000);
    REQUIRE(r.steps.back().doubt);
    CHECK(r.steps.back().doubt->code == "emboss.rims");
    CHECK(r.steps.back().doubt->remedies.size() == 1);
}

#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/embossed.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <TopoDS.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

const ProbeOf embossProbe("emboss", [] {
    Probe p{block(circleLine(20), "40 mm"), 0};
    Drawing d = rectangle({-6, 12}, {8, 24});
    add(p.part, "plane",
        {{"name", std::string("before")},
         {"from", std::string("front")},
         {"distance", std::string("30 mm")}});
    const std::size_t at = addEmboss(p.part, d, "before", side(p.part, 0), {{"way", std::string("back")}});
    p.step = p.part.steps[at].id;
    p.shows = {{"height", text("height", "0.5 mm")},  {"does", text("does", "sunk")},
               {"lay", text("lay", "wrapped")},       {"grows", text("grows", "along the drawing")},
               {"sides", text("sides", "leaning")},   {"rims", text("rims", "far")},
               {"fill", text("fill", "as a wall of")}};
    return p;
});

} // namespace

TEST_CASE("On a flat wall an area adds or takes what it encloses, letters with their counters too") {
    for (const bool sunk : {false, true}) {
        Part p = block(rectangle({-40, -10}, {40, 10}), "10 mm");
        const double before = volumeOf(built(p));
        const Drawing d = letters(12, -28, -2);
        addEmboss(p, d, "ground", "end of step 2", {{"does", std::string(sunk ? "sunk" : "raised")}});
        const auto r = built(p);
        CHECK(volumeOf(r) - before == Approx((sunk ? -0.8 : 0.8) * inkOf(d)).epsilon(1e-7));
        checkSound(r);
        CHECK(facesCalled(bodyOf(r), sunk ? "floor" : "top").size() == 12);
    }
}

TEST_CASE("Areas within counters of others stand on what these leave of the wall") {
    Part p = block(circleLine(30), "40 mm");
    addBefore(p);
    const double before = volumeOf(built(p));
    Drawing d; // a band, and within it a ring with a dot
    for (const double r : {12.0, 10.0, 7.0, 5.0, 2.0}) d.draw(StrokeKind::Circle, {{0, 20}}, {r});
    d.draw(StrokeKind::Circle, {{8.5, 20}}, {0.8});
    const double ink = kPi * (144 - 100 + 49 - 25 + 4 + 0.64);
    addEmboss(p, d, "before", side(p, 0),
              {{"way", std::string("back")}, {"grows", std::string("along the drawing")}});
    const auto r = built(p);
    CHECK(volumeOf(r) - before == Approx(0.8 * ink).epsilon(1e-6));
    checkSound(r);
    Part flat = block(rectangle({-20, -20}, {20, 40}), "5 mm");
    const double plain = volumeOf(built(flat));
    addEmboss(flat, d, "ground", "end of step 2", {{"does", std::string("sunk")}});
    const auto sunk = built(flat);
    CHECK(plain - volumeOf(sunk) == Approx(0.8 * ink).epsilon(1e-7));
    checkSound(sunk);
}

TEST_CASE("Leaning sides of a relief on a flat wall make frusta") {
    const double lean = 10 * kPi / 180;
    Part p = block(rectangle({-20, -20}, {20, 20}), "10 mm");
    const double before = volumeOf(built(p));
    Drawing d = rectangle({-15, -5}, {-5, 5});
    d.draw(StrokeKind::Circle, {{8, 0}}, {6});
    const std::size_t at = addEmboss(p, d, "ground", "end of step 2",
                                     {{"sides", std::string("leaning")}, {"height", std::string("2 mm")}});
    const double by = 2 * std::tan(lean), a = 10, b = 10 - 2 * by, r = 6, s = 6 - by;
    CHECK(volumeOf(built(p)) - before ==
          Approx(2.0 / 3 * (a * a + a * b + b * b) + 2.0 / 3 * kPi * (r * r + r * s + s * s)).epsilon(1e-7));
    // Until its sides meet; how far it may lean is said.
    p.steps[at].slots["lean"] = std::string("70°");
    CHECK(faultOf(p).code == "emboss.lean");
}

TEST_CASE("Wrapped around a cylinder an area keeps its size: its volume is that of the layer over it") {
    // Between the wall and the layer at h: A h (1 + h / 2R), whatever its shape.
    constexpr double kRadius = 18, kHeight = 0.8;
    Part base = block(circleLine(kRadius), "40 mm");
    addBefore(base);
    const double before = volumeOf(built(base));
    const Drawing d = letters(12, -28, 14);
    for (const double h : {kHeight, -kHeight}) {
        Part p = base;
        const std::size_t at = addEmboss(p, d, "before", side(p, 0),
                                         {{"way", std::string("back")},
                                          {"lay", std::string("wrapped")},
                                          {"does", std::string(h > 0 ? "raised" : "sunk")}});
        const auto r = built(p);
        CHECK(volumeOf(r) - before == Approx(inkOf(d) * h * (1 + h / (2 * kRadius))).epsilon(1e-6));
        checkSound(r);
        // Too long for it.
        p.steps[at - 1].slots["drawing"] = DrawingSlot(letters(26, -60, 14));
        const auto fault = Engine().regenerate(p).steps.back().error;
        REQUIRE(fault);
        INFO(fault->code);
        CHECK((fault->code == "emboss.around" || fault->code == "emboss.border"));
    }
}

TEST_CASE("Wrapped around a cone the layer's volume is its integral over the unrolled wall") {
    const double lean = 12 * kPi / 180, low = 24, h = 0.7;
    Part p = block(circleLine(low), "40 mm",
                   {{"sides", std::string("leaning inward by")}, {"lean", std::string("12°")}});
    addBefore(p);
    const double before = volumeOf(built(p));
    addEmboss(
        p, rectangle({-14, 15}, {14, 22}), "before", side(p, 0),
        {{"way", std::string("back")}, {"lay", std::string("wrapped")}, {"height", std::string("0.7 mm")}});
    const auto r = built(p);
    checkSound(r);
    // Places of the unrolled wall by their distance from the apex; the curvature there is 1 / (distance tan).
    const double middle = 18.5, fromApex = (low - middle * std::tan(lean)) / std::sin(lean);
    double volume = 0;
    constexpr int kParts = 400;
    for (int i = 0; i < kParts; ++i)
        for (int j = 0; j < kParts; ++j) {
            const double x = -14 + 28 * (i + 0.5) / kParts, y = -3.5 + 7 * (j + 0.5) / kParts;
            const double distance = std::hypot(x, fromApex - y);
            volume += (h + h * h / (2 * distance * std::tan(lean))) * 28 * 7 / (kParts * double(kParts));
        }
    CHECK(volumeOf(r) - before == Approx(volume).epsilon(1e-5));
}

TEST_CASE("Laid straight and rising along the drawing, every wall gets its area times the height") {
    const Drawing d = letters(6, -13, 20);
    struct Wall {
        const char* called;
        Part part;
        std::string wall;
    };
    Part cylinder = block(circleLine(20), "45 mm"),
         cone = block(circleLine(26), "45 mm",
                      {{"sides", std::string("leaning inward by")}, {"lean", std::string("12°")}});
    Part turned = vase(), loft = loftedWall();
    for (Wall w : {Wall{"cylinder", cylinder, side(cylinder, 0)}, Wall{"cone", cone, side(cone, 0)},
                   Wall{"vase", turned, vaseWall(turned)}, Wall{"loft", loft, ""}}) {
        INFO(w.called);
        addBefore(w.part);
        const auto plain = built(w.part);
        if (w.wall.empty()) { // the face that lies before the front
            double best = 1e300;
            for (int i = 0; i < faceCount(bodyOf(plain)); ++i) {
                BRepExtrema_DistShapeShape dist(BRepBuilderAPI_MakeVertex(gp_Pnt(0, -60, 22)),
                                                bodyOf(plain).shape().faces(i + 1));
                if (dist.Value() < best)
                    best = dist.Value(),
                    w.wall = bodyOf(plain).shape().wordsFor(bodyOf(plain).shape().faces(i + 1));
            }
        }
        for (const char* does : {"raised", "sunk"}) {
            Part p = w.part;
            addEmboss(p, d, "before", w.wall,
                      {{"way", std::string("back")},
                       {"grows", std::string("along the drawing")},
                       {"does", std::string(does)}});
            const auto r = Engine().regenerate(p);
            INFO(does << ": " << faults(r));
            CHECK(allFine(r));
            if (!allFine(r)) continue;
            CHECK(volumeOf(r) - volumeOf(plain) ==
                  Approx(inkOf(d) * 0.8 * (std::string(does) == "sunk" ? -1 : 1)).epsilon(1e-5));
            checkSound(r);
        }
    }
}

TEST_CASE("Square to the wall the far side is as far from it everywhere") {
    const Drawing d = letters(6, -13, 20);
    Part cylinder = block(circleLine(20), "45 mm");
    Part turned = vase(), loft = loftedWall();
    struct Wall {
        const char* called;
        Part part;
    };
    for (Wall w : {Wall{"cylinder", cylinder}, Wall{"vase", turned}, Wall{"loft", loft}}) {
        addBefore(w.part);
        const auto plain = built(w.part);
        const NamedShape& s = bodyOf(plain).shape();
        int nearest = 1;
        double best = 1e300;
        for (int i = 1; i <= s.faces.Extent(); ++i) {
            BRepExtrema_DistShapeShape dist(BRepBuilderAPI_MakeVertex(gp_Pnt(0, -60, 22)), s.faces(i));
            if (dist.Value() < best) best = dist.Value(), nearest = i;
        }
        for (const char* lay : {"straight", "wrapped"})
            for (const char* does : {"raised", "sunk"}) {
                INFO(w.called << ", " << lay << ", " << does);
                Part p = w.part;
                addEmboss(p, d, "before", s.wordsFor(s.faces(nearest)),
                          {{"way", std::string("back")},
                           {"lay", std::string(lay)},
                           {"does", std::string(does)},
                           {"sides", std::string("leaning")},
                           {"lean", std::string("8°")}});
                const auto r = Engine().regenerate(p);
                INFO(faults(r));
                CHECK(allFine(r));
                if (!allFine(r)) continue;
                checkSound(r);
                CHECK(offHeight(bodyOf(r), TopoDS::Face(s.faces(nearest)),
                                std::string(does) == "raised" ? "top" : "floor", 0.8) < 1e-3);
            }
    }
}

TEST_CASE("A drawing over the line at which a wall closes up is embossed like one beside it") {
    double first = 0;
    // The front and the side plane: one of the two lies over the seam.
    int k = 0;
    for (const char* plane : {"front", "side"}) {
        Part p = vase();
        add(p, "plane",
            {{"name", std::string("away")},
             {"from", std::string(plane)},
             {"distance", std::string("60 mm")}});
        const double before = volumeOf(built(p));
        for (const char* way : {"ahead", "back"}) {
            Part q = p;
            addEmboss(q, letters(5, -11, 20), plane, vaseWall(p), {{"way", std::string(way)}});
            const auto r = built(q);
            checkSound(r);
            const double v = volumeOf(r) - before;
            if (k == 0) first = v;
            CHECK(v == Approx(first).epsilon(2e-5));
            ++k;
        }
    }
}

TEST_CASE("Letters over the borders between walls are embossed as one") {
    // Upright edges rounded: flat, round, flat walls side by side.
    Part base = block(roundedLine(40, 30, 8), "30 mm");
    add(base, "plane",
        {{"name", std::string("aslant")},
         {"from", std::string("front")},
         {"distance", std::string("60 mm")}});
    const auto plain = built(base);
    const Drawing d = letters(4, -20.5, 10);
    References walls;
    for (std::size_t i = 0; i < 8; ++i) walls.push_back(side(base, i));
    for (const char* grows : {"along the drawing", "square"})
        for (const char* does : {"raised", "sunk"}) {
            INFO(grows << ", " << does);
            Part p = base;
            const std::size_t at = addEmboss(
                p, letters(4, -18.5, 10), "aslant", walls.front(),
                {{"way", std::string("back")}, {"grows", std::string(grows)}, {"does", std::string(does)}});
            p.steps[at].slots["wall"] = walls;
            const auto r = Engine().regenerate(p);
            INFO(faults(r));
            REQUIRE(allFine(r));
            checkSound(r);
            const double v = volumeOf(r) - volumeOf(plain),
                         plainly = inkOf(d) * 0.8 * (std::string(does) == "raised" ? 1 : -1);
            if (std::string(grows) == "square")
                CHECK(v == Approx(plainly).epsilon(0.1));
            else
                CHECK(v == Approx(plainly).epsilon(1e-5));
            CHECK(facesCalled(bodyOf(r), std::string(does) == "raised" ? "top" : "floor").size() >= 4);
        }
}

TEST_CASE("What cannot be embossed says why, where, and what can") {
    Part p = block(circleLine(20), "40 mm");
    addBefore(p);
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    const std::size_t at =
        addEmboss(p, rectangle({-6, 12}, {6, 24}), "before", side(p, 0), {{"way", std::string("back")}});
    Step& step = p.steps[at];
    built(p);
    SECTION("on the other side") {
        step.slots["way"] = std::string("ahead");
        const Error e = faultOf(p);
        CHECK(e.code == "emboss.miss");
        REQUIRE(e.remedies.size() == 1);
        step.slots[e.remedies[0].slot] = e.remedies[0].value;
        built(p);
    }
    SECTION("through a thin wall") {
        step.slots["does"] = std::string("sunk");
        step.slots["height"] = std::string("2.5 mm");
        const Error e = faultOf(p);
        CHECK(e.code == "emboss.through");
        REQUIRE(e.remedies.size() == 1);
        step.slots["height"] = e.remedies[0].value;
        built(p);
    }
    SECTION("over its border") {
        p.steps[at - 1].slots["drawing"] = DrawingSlot(rectangle({-6, 30}, {6, 44}));
        const Error e = faultOf(p);
        CHECK((e.code == "emboss.border" || e.code == "emboss.miss"));
        CHECK(e.place);
    }
    SECTION("with no wall picked") {
        step.slots["wall"] = References{};
        CHECK(faultOf(p).code == "emboss.wall");
    }
}

TEST_CASE("Faces of reliefs are called by strokes, and keep their names while others are added") {
    Part p = block(circleLine(20), "40 mm");
    addBefore(p);
    Drawing d = rectangle({-8, 12}, {-2, 24});
    const std::size_t at = addEmboss(p, d, "before", side(p, 0), {{"way", std::string("back")}});
    const int first = d.strokes[0].id, id = p.steps[at].id;
    const std::string top = "top " + std::to_string(first) + " of step " + std::to_string(id),
                      edge = "side " + std::to_string(d.strokes[1].id) + " of step " + std::to_string(id);
    CHECK(resolveFaces(bodyOf(built(p)), **parseFaceRef(top))->items.size() == 1);
    d.draw(StrokeKind::Circle, {{6, 18}}, {3});
    p.steps[at - 1].slots["drawing"] = DrawingSlot(d);
    const auto r = built(p);
    CHECK(resolveFaces(bodyOf(r), **parseFaceRef(top))->items.size() == 1);
    CHECK(resolveFaces(bodyOf(r), **parseFaceRef(edge))->items.size() == 1);
    // Later steps work on them.
    add(p, "fillet", {{"edges", References{"rim of " + top}}, {"radius", std::string("0.3 mm")}});
    checkSound(built(p));
}

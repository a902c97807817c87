/// \file Reliefs over the borders between walls: wrapped, and with sides that lean.

#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/embossed.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kRound = 8, kHigh = 0.8; // mm

/// A block 40 x 30 whose uprights are rounded by 8 mm: the flat part of its front is 24 mm wide.
Part roundedBlock() {
    Part p = block(roundedLine(40, 30, kRound), "30 mm");
    addBefore(p);
    return p;
}
References uprights(const Part& p, std::size_t count) {
    References out;
    for (std::size_t i = 0; i < count; ++i) out.push_back(side(p, i));
    return out;
}
/// With a drawing on all its walls. \return its index
std::size_t wrap(Part& p, const Drawing& d, std::size_t walls, const Slots& more) {
    Slots slots{{"way", std::string("back")}, {"lay", std::string("wrapped")}};
    for (const auto& [key, value] : more) slots[key] = value;
    const std::size_t at = addEmboss(p, d, "before", side(p, 0), slots);
    p.steps[at].slots["wall"] = uprights(p, walls);
    return at;
}

TopoDS_Shape outsideOf(const Body& body) {
    return TopExp_Explorer(body.shape().shape, TopAbs_SHELL).Current();
}

} // namespace

TEST_CASE("Wrapped over flat and round walls an area keeps its size on all of them") {
    const Part base = roundedBlock();
    const double before = volumeOf(built(base));
    // 24 mm of its 44 lie on the flat, the others around the uprights.
    constexpr double kFlat = 24 * 6, kBent = 20 * 6;
    for (const double h : {kHigh, -kHigh}) {
        INFO(h);
        Part p = base;
        wrap(p, rectangle({-22, 10}, {22, 16}), 8, {{"does", std::string(h > 0 ? "raised" : "sunk")}});
        const auto r = built(p);
        CHECK(volumeOf(r) - before == Approx(kFlat * h + kBent * h * (1 + h / (2 * kRound))).epsilon(2e-5));
        checkSound(r);
    }
    // All the way round to where it would meet itself: 24 + 14 twice, and a whole turn.
    Part p = base;
    wrap(p, rectangle({-70, 10}, {70, 16}), 8, {});
    CHECK(faultOf(p).code == "emboss.around");
}

TEST_CASE("Wrapped over borders sides lean, and the layer's volume is its integral") {
    const Part base = roundedBlock();
    const double before = volumeOf(built(base)), lean = std::tan(10 * kPi / 180);
    Part p = base;
    wrap(p, rectangle({-22, 10}, {22, 16}), 8, {{"sides", std::string("leaning")}});
    const auto r = built(p);
    checkSound(r);
    // Both ends lie on the round walls; from near to far they are straight in space.
    const double near = 10 / kRound, far = (10 - kHigh * lean) / kRound;
    const Vec2 a{kRound * std::cos(near), kRound * std::sin(near)},
        b{(kRound + kHigh) * std::cos(far), (kRound + kHigh) * std::sin(far)};
    double volume = 0;
    constexpr int kParts = 4000;
    for (int i = 0; i < kParts; ++i) {
        const Vec2 here = a + (b - a) * ((i + 0.5) / kParts), from = a + (b - a) * (1.0 * i / kParts),
                   to = a + (b - a) * ((i + 1.0) / kParts);
        const double off = length(here), tall = 6 - 2 * (off - kRound) * lean;
        volume += (24 + 2 * std::atan2(here.y, here.x) * off) * tall * (length(to) - length(from));
    }
    CHECK(volumeOf(r) - before == Approx(volume).epsilon(5e-5));
}

TEST_CASE("Letters wrapped around a rounded block lie on whichever wall comes, at one height") {
    const Part base = roundedBlock();
    const auto plain = built(base);
    const Drawing d = letters(9, -21, 10);
    for (const char* does : {"raised", "sunk"})
        for (const char* sides : {"straight", "leaning"}) {
            INFO(does << ", " << sides);
            Part p = base;
            wrap(p, d, 8,
                 {{"does", std::string(does)}, {"sides", std::string(sides)}, {"lean", std::string("5°")}});
            const auto r = Engine().regenerate(p);
            INFO(faults(r));
            REQUIRE(allFine(r));
            checkSound(r);
            CHECK(offHeight(bodyOf(r), outsideOf(bodyOf(plain)),
                            std::string(does) == "raised" ? "top" : "floor", kHigh) < 1e-3);
        }
}

TEST_CASE("Laid straight over borders sides may lean") {
    const Part base = roundedBlock();
    const auto plain = built(base);
    for (const char* grows : {"square", "along the drawing"})
        for (const char* does : {"raised", "sunk"}) {
            INFO(grows << ", " << does);
            Part p = base;
            wrap(p, rectangle({-16, 10}, {3, 16}), 8,
                 {{"lay", std::string("straight")},
                  {"does", std::string(does)},
                  {"grows", std::string(grows)},
                  {"sides", std::string("leaning")}});
            const auto r = Engine().regenerate(p);
            INFO(faults(r));
            REQUIRE(allFine(r));
            checkSound(r);
            const double v = std::fabs(volumeOf(r) - volumeOf(plain)), by = kHigh * std::tan(10 * kPi / 180);
            if (std::string(grows) == "square") {
                CHECK(offHeight(bodyOf(r), outsideOf(bodyOf(plain)),
                                std::string(does) == "raised" ? "top" : "floor", kHigh) < 1e-3);
                continue;
            }
            // Of all sections along the drawing: the prismatoid formula.
            const auto area = [&](double in) { return (19 - 2 * in) * (6 - 2 * in); };
            CHECK(v == Approx(kHigh / 6 * (area(0) + 4 * area(by / 2) + area(by))).epsilon(1e-4));
        }
}

TEST_CASE("What is wrapped as far as the back lies there, by as much as it was drawn aside") {
    // Half the front, a quarter round, the side, and a quarter round again: the back begins after that.
    const double back = 12 + kRound * kPi + 14, x = back + 4;
    Part p = roundedBlock();
    const double before = volumeOf(built(p));
    for (const double way : {1.0, -1.0}) {
        Part q = p;
        wrap(q, rectangle({way * x - 3, 10}, {way * x + 3, 16}), 8, {});
        const auto r = built(q);
        checkSound(r);
        CHECK(volumeOf(r) - before == Approx(36 * kHigh).epsilon(1e-6));
        const auto top = facesCalled(bodyOf(r), "top");
        REQUIRE(top.size() == 1);
        GProp_GProps props;
        BRepGProp::SurfaceProperties(top.front(), props);
        const gp_Pnt middle = props.CentreOfMass();
        CHECK(middle.X() == Approx(way * (12 - 4)).margin(1e-5));
        CHECK(middle.Y() == Approx(15 + kHigh).margin(1e-5));
        CHECK(middle.Z() == Approx(13).margin(1e-5));
    }
}

TEST_CASE("Around a sharp corner areas lie on either side of it; one over it is told") {
    Part p = block(rectangle({-20, -15}, {20, 15}), "30 mm");
    addBefore(p);
    const double before = volumeOf(built(p));
    Drawing beside;
    for (const double x : {-28., -18., 0., 22.})
        addPolygon(beside, {{x, 10}, {x + 6, 10}, {x + 6, 16}, {x, 16}});
    const std::size_t at = wrap(p, beside, 4, {});
    const auto r = built(p);
    CHECK(volumeOf(r) - before == Approx(4 * 36 * kHigh).epsilon(1e-6));
    checkSound(r);
    p.steps[at - 1].slots["drawing"] = DrawingSlot(rectangle({17, 10}, {23, 16}));
    const Error e = faultOf(p);
    CHECK(e.code == "emboss.border");
    CHECK(e.sentence.text().find("sharp") != std::string::npos);
}

TEST_CASE("Letters may be bodies of their own, within walls and over borders, raised or as inlays") {
    const Part base = roundedBlock();
    const double before = volumeOf(built(base));
    const Drawing d = letters(9, -21, 10);
    for (const char* does : {"raised", "sunk"}) {
        INFO(does);
        Part p = base;
        const std::size_t at =
            wrap(p, d, 8, {{"does", std::string(does)}, {"becomes", std::string("as bodies of their own")}});
        const auto apart = built(p);
        REQUIRE(apart.state.bodies.size() == 10);
        double letters = 0;
        const int step = p.steps[at].id;
        for (int k = 0; k < 9; ++k) {
            const Body& one = apart.state.bodies.at(ThingId{step, k}).value;
            CHECK(checkBody(one).faults.empty());
            letters += massProperties(one, Density(1e-3))->volume;
        }
        p.steps[at].slots["becomes"] = std::string("as part of the body");
        const double joined = volumeOf(built(p)) - before;
        if (std::string(does) == "raised") {
            CHECK(letters == Approx(joined).epsilon(1e-4));
        } else { // they fill what was taken
            CHECK(letters == Approx(-joined).epsilon(1e-4));
        }
    }
}

TEST_CASE(
    "Wrapped over the line at which a wall without a period closes up letters are as high as elsewhere") {
    // An oval's wall closes up at the end of its long half axis.
    Part base = block(ellipseLine(30, 20), "30 mm");
    add(base, "plane",
        {{"name", std::string("beside")}, {"from", std::string("side")}, {"distance", std::string("60 mm")}});
    const auto plain = built(base);
    for (const char* does : {"raised", "sunk"}) {
        INFO(does);
        Part p = base;
        const Drawing d = letters(5, -11.2, 10);
        addEmboss(
            p, d, "beside", side(p, 0),
            {{"way", std::string("back")}, {"lay", std::string("wrapped")}, {"does", std::string(does)}});
        const auto r = Engine().regenerate(p);
        INFO(faults(r));
        REQUIRE(allFine(r));
        checkSound(r);
        CHECK(offHeight(bodyOf(r), outsideOf(bodyOf(plain)), std::string(does) == "raised" ? "top" : "floor",
                        kHigh) < 1e-3);
        // Of a wall that can be unrolled: area times height, and half its square times the wall's turn.
        const double area = inkOf(d), v = volumeOf(r) - volumeOf(plain);
        CHECK(std::fabs(v) > area * kHigh * (1 - kHigh / 2 * 0.075));
        CHECK(std::fabs(v) < area * kHigh * (1 + kHigh / 2 * 0.075)); // 30 / 20² is its tightest bend
    }
}

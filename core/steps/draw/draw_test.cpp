#include "core/base/angles.hpp"
#include "core/document/areas.hpp"
#include "core/document/drawing_sizes.hpp"
#include "core/document/part_file.hpp"
#include "core/inspect/mass.hpp"
#include "core/inspect/wall.hpp"
#include "core/regen/engine.hpp"
#include "core/shape/mesh.hpp"
#include "core/sketch/solve/freedom.hpp"
#include "core/sketch/splines.hpp"
#include "tests/support/probe.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using K = RelationKind;
using S = StrokeKind;

namespace {

const test::ProbeOf drawProbe("draw", [] {
    using namespace gc::test;
    Probe p{cup(), 0};
    const Drawing d = lineFrom({0, 0}, {5, 5});
    p.step = add(p.part, "draw", {{"drawing", DrawingSlot(d)}}).id;
    Drawing traced = d;
    traced.picture = TracedPicture{"x.png", {}, 10, 10, 0.5};
    p.shows = {{"plane", text("plane", "ground")},
               {"seen", text("seen", "from behind")},
               {"drawing", {{"drawing", DrawingSlot(lineFrom({0, 0}, {5, 6}))}}}};
    p.hides = {{"a picture below it", {{"drawing", DrawingSlot(traced)}}}};
    return p;
});

Part turned(const Drawing& d) {
    Part part;
    Step draw = newStep(part, "draw");
    draw.slots["drawing"] = DrawingSlot(d);
    part.steps.push_back(draw);
    part.steps.push_back(newStep(part, "revolve"));
    return part;
}

/// The turned body, which must be sound.
Body bodyOf(const Part& part) {
    Engine engine;
    const auto result = engine.regenerate(part, {});
    for (const StepReport& s : result.steps) {
        INFO((s.error ? s.error->sentence.text() : std::string()));
        REQUIRE(s.ok);
    }
    REQUIRE(result.state.bodies.size() == 1);
    return result.state.bodies.begin()->second.value;
}

double turnedVolume(const Drawing& d) {
    const auto p = massProperties(bodyOf(turned(d)), Density(1e-3));
    REQUIRE(p.ok());
    return p->volume;
}

} // namespace

TEST_CASE("Turned drawings have the volumes that Pappus and closed forms give") {
    Drawing cylinder; // open to the axis at both ends
    cylinder.draw(S::Line, {{0, 0}, {15, 0}}), cylinder.draw(S::Line, {{15, 0}, {15, 40}}),
        cylinder.draw(S::Line, {{15, 40}, {0, 40}});
    CHECK(turnedVolume(cylinder) == Approx(kPi * 225 * 40).epsilon(1e-9));

    Drawing ball;
    ball.draw(S::Arc, {{0, -12}, {0, 12}, {0, 0}}, {12});
    CHECK(turnedVolume(ball) == Approx(4.0 / 3 * kPi * 1728).epsilon(1e-9));

    Drawing ring;
    ring.draw(S::Circle, {{30, 5}}, {7});
    CHECK(turnedVolume(ring) == Approx(2 * kPi * 30 * kPi * 49).epsilon(1e-9));

    Drawing oval;
    oval.draw(S::Ellipse, {{30, 5}, {36, 13}}, {4});
    CHECK(turnedVolume(oval) == Approx(2 * kPi * 30 * kPi * 10 * 4).epsilon(1e-8));

    Drawing tube; // a rectangle with a round channel in it
    const Vec2 at[] = {{10, 0}, {30, 0}, {30, 20}, {10, 20}};
    for (std::size_t i = 0; i < 4; ++i) tube.draw(S::Line, {at[i], at[(i + 1) % 4]});
    tube.draw(S::Circle, {{20, 10}}, {5});
    CHECK(turnedVolume(tube) == Approx(kPi * (900 - 100) * 20 - 2 * kPi * 20 * kPi * 25).epsilon(1e-9));
}

TEST_CASE("Turned conics and splines agree with the integral over the drawing") {
    Drawing d;
    d.draw(S::Line, {{0, 0}, {20, 0}});
    std::vector<Vec2> nodes{{20, 0}, {}, {26, 12}, {}, {22, 25}, {}, {28, 38}, {}};
    relaxHandles(nodes, spansFor(std::vector<Vec2>{nodes[0], nodes[2], nodes[4], nodes[6]}), {});
    d.draw(S::Spline, nodes);
    d.draw(S::Conic, {{28, 38}, {16, 46}, {27, 47}}, {0.55});
    d.draw(S::Poles, {{16, 46}, {12, 44}, {9, 50}, {4, 47}, {0, 48}});
    const auto regions = findRegions(d).regions;
    REQUIRE(regions.size() == 1);
    // Pappus: 2 pi times the first moment; by Green that is pi times the integral of x^2 dy round the region.
    double volume = 0;
    for (const Side& s : regions[0].outer.sides) {
        constexpr int n = 4000;
        for (int i = 0; i < n; ++i) {
            const Vec2 p = s.curve.at((i + 0.5) / n);
            volume += kPi * p.x * p.x * s.curve.slope((i + 0.5) / n).y / n;
        }
    }
    CHECK(turnedVolume(d) == Approx(volume).epsilon(1e-6));
    const Body body = bodyOf(turned(d));
    // One face for every stroke that does not lie on the axis.
    CHECK(makeMesh(body, {0.2, 0.5})->faces.size() == 4);
}

TEST_CASE("A drawing that is changed by a named value is settled anew, and its faces keep their names") {
    Drawing d;
    const int low = d.draw(S::Line, {{0, 0}, {30, 0}}), wall = d.draw(S::Line, {{30, 0}, {33, 40}}),
              top = d.draw(S::Line, {{33, 40}, {0, 40}});
    d.relate(K::Coincident, {d.findStroke(low)->points[1], d.findStroke(wall)->points[0]});
    d.relate(K::Coincident, {d.findStroke(wall)->points[1], d.findStroke(top)->points[0]});
    d.relate(K::OnStroke, {d.findStroke(top)->points[1], kAxisLine});
    d.relate(K::Coincident, {d.findStroke(low)->points[0], kOrigin});
    d.relate(K::Horizontal, {low}), d.relate(K::Horizontal, {top});
    d.relate(K::DiameterAboutAxis, {d.findStroke(low)->points[1]}, "foot");
    d.relate(K::DiameterAboutAxis, {d.findStroke(top)->points[0]}, "foot + 6 mm");
    d.relate(K::Along, {kOrigin, d.findStroke(top)->points[0]}, "40 mm");
    Part part = turned(d);
    part.values.push_back({"foot", "60 mm", ""});
    const auto frustum = [](double r, double s, double h) { return kPi * h * (r * r + r * s + s * s) / 3; };
    for (const double foot : {60.0, 66.0, 42.0, 120.0}) {
        part.values[0].expression = formatNumber(foot) + " mm";
        const Body body = bodyOf(part);
        CHECK(massProperties(body, Density(1e-3))->volume ==
              Approx(frustum(foot / 2, foot / 2 + 3, 40)).epsilon(1e-9));
        const auto refs = referencesForFace(body, 0);
        REQUIRE_FALSE(refs.empty());
        CHECK(refs[0].find("side") != std::string::npos);
    }
}

TEST_CASE("Drawings that cannot be turned say why") {
    Engine engine;
    const auto sentence = [&](const Drawing& d) {
        const auto result = engine.regenerate(turned(d), {});
        for (const StepReport& s : result.steps)
            if (!s.ok) return s.error->code;
        return std::string();
    };
    Drawing open;
    open.draw(S::Line, {{5, 0}, {15, 0}});
    CHECK(sentence(open) == "revolve.open");
    Drawing across;
    across.draw(S::Circle, {{3, 0}}, {7});
    CHECK(sentence(across) == "revolve.axis");
    Drawing two;
    two.draw(S::Circle, {{30, 0}}, {7}), two.draw(S::Circle, {{60, 0}}, {7});
    CHECK(sentence(two) == "revolve.regions");
    Drawing clash;
    const int l = clash.draw(S::Line, {{5, 0}, {15, 0}});
    clash.relate(K::Distance, {l}, "10 mm"), clash.relate(K::Distance, {l}, "12 mm");
    CHECK(sentence(clash) == "draw.clash");
}

TEST_CASE("A rim with an acute edge is no thin wall") {
    // A saucer whose rim is level: its outer edge has 55 degrees, and the wall tapers to nothing there.
    Drawing d;
    const Vec2 at[] = {{0, 2}, {54, 2}, {66, 20}, {63, 20}, {51, 5}, {0, 5}};
    for (std::size_t i = 0; i + 1 < 6; ++i) d.draw(S::Line, {at[i], at[i + 1]});
    const Body body = bodyOf(turned(d));
    const auto mesh = makeMesh(body, {0.02, 0.25});
    REQUIRE(mesh.ok());
    const SampledSurface surface = sampleSurface(*mesh, 1.5);
    const RayScene scene(*mesh);
    const WallField ray = wallByRay(body, surface, scene, {});
    REQUIRE(ray.any);
    const double wall = cross(at[2] - at[1], at[3] - at[2]) / length(at[2] - at[1]); // by the drawing
    CHECK(ray.thinnest.value > 0.9 * std::fabs(wall));
}

TEST_CASE("One area of several is turned, and kept hold of while the drawing changes") {
    Drawing d; // a bar divided in two
    const Vec2 at[] = {{10, 0}, {40, 0}, {40, 20}, {10, 20}};
    for (std::size_t i = 0; i < 4; ++i) d.draw(S::Line, {at[i], at[(i + 1) % 4]});
    d.draw(S::Line, {{18, -2}, {18, 22}});
    Part part = turned(d);
    Engine engine;
    CHECK(engine.regenerate(part, {}).steps[1].error->code == "revolve.regions");
    const auto regions = findRegions(d).regions;
    REQUIRE(regions.size() == 2);
    part.steps[1].slots["area"] = areaText({regions[1].strokes()});
    CHECK(engine.regenerate(part, {}).steps[1].notes.empty());
    CHECK(sentenceText(part.steps[1], part).find("the area within line 1") != std::string::npos);
    const auto volume = [&] { return massProperties(bodyOf(part), Density(1e-3))->volume; };
    CHECK(volume() == Approx(kPi * (18 * 18 - 100) * 20).epsilon(1e-9));
    // Another line cuts a corner off it: it is still the smaller area.
    Drawing cut = d;
    cut.draw(S::Line, {{9, 17}, {13, 21}});
    part.steps[0].slots["drawing"] = DrawingSlot(cut);
    CHECK(volume() < kPi * (18 * 18 - 100) * 20 - 1);
    CHECK(engine.regenerate(part, {}).steps[1].notes.size() == 1); // and it is told that it is divided
    // It is written to the file and read again.
    const auto again = readPart(writePart(part));
    REQUIRE(again);
    CHECK(again->steps[1].text("area") == part.steps[1].text("area"));
    // What cannot be found is told.
    part.steps[1].slots["area"] = std::string("901 902");
    CHECK(engine.regenerate(part, {}).steps[1].error->code == "revolve.area");
}

TEST_CASE("The plant label is settled, mirrors itself, and follows its height") {
    auto part = loadPart("demo/plant-label.goodcurve");
    REQUIRE(part.ok());
    const auto shape = [&](const std::string& height) {
        part->values[0].expression = height;
        Engine engine;
        const auto built = engine.regenerate(*part, {});
        REQUIRE(built.steps.at(0).ok);
        CHECK(built.steps.at(0).notes.empty());
        return std::make_shared<Outline>(built.state.outline("label"));
    };
    const auto label = shape("90 mm");
    const Step& drawn = part->steps.at(0);
    const auto sizes = dimensionSizes(drawn.drawing("drawing"), part->brief.units, valuesOf(*part));
    REQUIRE(sizes.ok());
    CHECK(countFreedoms(drawn.drawing("drawing"), *sizes) == 0);
    // Every point of the outer loop has its image across the axis.
    const Region& outer = label->faces.at(0);
    double high = 0;
    for (const Side& s : outer.outer.sides)
        for (const Vec2 p : s.curve.sampled(0.2)) {
            high = std::max(high, p.y);
            double away = 1e9;
            for (const Side& other : outer.outer.sides)
                away = std::min(away,
                                length(other.curve.at(other.curve.nearest({-p.x, p.y})) - Vec2{-p.x, p.y}));
            CHECK(away < 1e-7);
        }
    CHECK(high == Approx(90));
    // The window for the name and the band round it: Steiner's formula between the two.
    CHECK(label->faces.size() > 5); // letters and their eyes, too
    const double panel = label->faces.at(2).outer.area, band = label->faces.at(1).outer.area;
    const double round = 2 * (22 - 4) + 2 * (10 - 4) + 4 * kPi; // 22 by 10 with corners of 2
    CHECK(panel == Approx(22 * 10 - 16 + 4 * kPi).epsilon(1e-6));
    CHECK(band - panel == Approx(round * 1.2 + kPi * 1.2 * 1.2).epsilon(1e-6));
    // The picture is there, and true to the same size.
    REQUIRE(drawn.drawing("drawing").picture);
    CHECK(part->attachments.at(0).name == drawn.drawing("drawing").picture->file);
    const auto taller = shape("100 mm");
    double top = 0;
    for (const Side& s : taller->faces.at(0).outer.sides)
        for (const Vec2 p : s.curve.sampled(0.2)) top = std::max(top, p.y);
    CHECK(top == Approx(100));
}

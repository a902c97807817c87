#include "core/base/angles.hpp"
#include "core/steps/vent/openings.hpp"
#include "tests/support/dome.hpp"
#include "tests/support/seeded.hpp"
#include "tests/support/tub.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

Drawing disc(double radius, Vec2 at = {0, 0}) {
    Drawing d;
    d.draw(StrokeKind::Circle, {at}, {radius});
    return d;
}

Part vented(const Drawing& drawing, const Slots& slots = {}, const std::string& plane = "ground") {
    Part p = tub();
    drawIn(p, drawing, plane);
    Slots all{{"outline", std::string("places")}};
    for (const auto& [key, value] : slots) all[key] = value;
    add(p, "vent", all);
    return p;
}

const ProbeOf ventProbe("vent", [] {
    Probe p{vented(disc(12)), 0};
    p.step = p.part.steps.back().id;
    p.shows = {{"shape", text("shape", "rings")},
               {"width", text("width", "1.5 mm")},
               {"bar", text("bar", "1.5 mm")},
               {"turn", text("turn", "30°")},
               {"rim", text("rim", "3 mm")}};
    return p;
});

Region regionOf(const Drawing& d) {
    const auto closed = findRegions(d);
    REQUIRE(!closed.regions.empty());
    return closed.regions.front();
}

/// From one opening's middle line to another's.
double apart(const Opening& a, const Opening& b) {
    const auto toLine = [](Vec2 p, const Opening& o) {
        const Vec2 along = o.to - o.from;
        const double l = dot(along, along);
        const double t = l > 0 ? std::clamp(dot(p - o.from, along) / l, 0.0, 1.0) : 0;
        return length(o.from + along * t - p);
    };
    return std::min({toLine(a.from, b), toLine(a.to, b), toLine(b.from, a), toLine(b.to, a)});
}

} // namespace

TEST_CASE("Openings of a disc: as many slots as there is room for, each from rim to rim") {
    const VentWish wish{VentWish::Shape::Slots, 2, 2, 0, 2};
    const auto out = openingsIn(regionOf(disc(12)), wish);
    REQUIRE(out);
    // Rows 4 mm apart about the middle, within 10 mm of it less half a width: five.
    REQUIRE(out->size() == 5);
    for (const Opening& o : *out) {
        const double y = o.from.y, half = std::sqrt(9.0 * 9.0 - y * y); // centres of the ends within 9 mm
        CHECK(std::min(o.from.x, o.to.x) == Approx(-half).margin(1e-6));
        CHECK(std::max(o.from.x, o.to.x) == Approx(half).margin(1e-6));
    }
}

TEST_CASE(
    "Openings of any area keep off its border and off each other, and holes fill rings as the chord says") {
    auto random = seeded(4242);
    std::uniform_real_distribution<double> size(6, 30), small(0.8, 3), any(0, 3);
    for (int k = 0; k < rounds(20); ++k) {
        // A rectangle with a round hole in it, or a disc.
        const double w = size(random), h = size(random);
        Drawing d = k % 2 ? disc(w) : rectangle({-w, -h}, {w, h});
        if (k % 3 == 0) d.draw(StrokeKind::Circle, {{w / 5, 0}}, {std::min(w, h) / 4});
        const Region area = regionOf(d);
        for (const auto shape : {VentWish::Shape::Slots, VentWish::Shape::Rows, VentWish::Shape::Rings}) {
            const VentWish wish{shape, small(random), small(random), any(random), any(random) / 2};
            INFO("round " << k << " shape " << static_cast<int>(shape));
            const auto out = openingsIn(area, wish);
            if (!out) continue;
            std::set<int> numbers;
            for (const Opening& o : *out) {
                CHECK(numbers.insert(o.number).second);
                const Region one = areaOf(o, wish.width);
                for (const Side& s : one.outer.sides)
                    for (const double t : {0.0, 0.2, 0.4, 0.6, 0.8}) {
                        const Vec2 p = s.curve.at(t);
                        CHECK(area.contains(p));
                        double near = 1e300;
                        const auto look = [&](const Loop& loop) {
                            for (const Side& b : loop.sides)
                                near = std::min(near, length(b.curve.at(b.curve.nearest(p)) - p));
                        };
                        look(area.outer);
                        for (const Loop& hole : area.holes) look(hole);
                        CHECK(near > wish.rim - 1e-6);
                    }
            }
            for (std::size_t i = 0; i < out->size(); ++i)
                for (std::size_t j = 0; j < i; ++j)
                    // Pieces of one row have the border between them.
                    if (shape != VentWish::Shape::Slots || (*out)[i].number / 100 != (*out)[j].number / 100)
                        CHECK(apart((*out)[i], (*out)[j]) > wish.width + wish.bar - 1e-6);
        }
    }
    const auto rings = openingsIn(regionOf(disc(12)), {VentWish::Shape::Rings, 2, 2, 0, 2});
    REQUIRE(rings);
    CHECK(rings->size() == 1 + 6 + 12); // chords of 4 mm on radii of 4 and 8 mm
}

TEST_CASE("A vent takes its openings' area times the wall, and leaves what lies behind") {
    const double before = volumeOf(built(tub()));
    double area = 0;
    const auto slots = openingsIn(regionOf(disc(12)), {VentWish::Shape::Slots, 2, 2, 0, 2});
    for (const Opening& o : *slots) area += kPi + 2 * length(o.to - o.from);
    const auto r = built(vented(disc(12)));
    CHECK(before - volumeOf(r) == Approx(2 * area).epsilon(1e-6));
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    const auto rings = built(vented(disc(12), text("shape", "rings")));
    CHECK(before - volumeOf(rings) == Approx(2 * 19 * kPi).epsilon(1e-6));
    // From the front plane in the middle of the tub one side wall alone, or both of them: seen from inside.
    const Slots one{{"shape", std::string("rings")}, {"width", std::string("2 mm")}};
    Slots both = one;
    both["depth"] = std::string("every");
    CHECK(before - volumeOf(built(vented(disc(6, {0, 12}), one, "front"))) ==
          Approx(2 * 1 * kPi).epsilon(1e-6));
    CHECK(before - volumeOf(built(vented(disc(6, {0, 12}), both, "front"))) ==
          Approx(2 * 1 * kPi).epsilon(1e-6));
}

TEST_CASE("A vent in a round wall is as deep as the wall everywhere") {
    Part p = block(disc(30), "40 mm");
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    drawIn(p, disc(8, {0, 20}), "front");
    const double before = volumeOf(built(p));
    add(p, "vent",
        {{"outline", std::string("places")}, {"shape", std::string("rings")}, {"bar", std::string("2 mm")}});
    const auto r = built(p);
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
    // Between two cylinders, along the drawing: the integral of the difference of their depths over each
    // hole.
    double volume = 0;
    const auto holes = openingsIn(regionOf(disc(8, {0, 20})), {VentWish::Shape::Rings, 2, 2, 0, 2});
    for (const Opening& o : *holes)
        for (int i = 0; i < 200; ++i)
            for (int j = 0; j < 200; ++j) {
                const double s = (i + 0.5) / 200, a = 2 * kPi * (j + 0.5) / 200,
                             x = o.from.x + s * std::cos(a);
                volume += (std::sqrt(900 - x * x) - std::sqrt(784 - x * x)) * s / 200 * 2 * kPi / 200;
            }
    CHECK(before - volumeOf(r) == Approx(volume).epsilon(1e-4));
}

TEST_CASE("Vents that cannot be are told") {
    CHECK(faultOf(vented(disc(2))).code == "vent.none");
    CHECK(faultOf(vented(disc(19), {{"width", std::string("0.1 mm")},
                                    {"bar", std::string("0.1 mm")},
                                    {"shape", std::string("rows")}}))
              .code == "vent.many");
    CHECK(faultOf(vented(lineFrom({0, 0}, {5, 5}))).code == "vent.open");
}

TEST_CASE("Openings through domes and flat walls are set in; those over a seam are cut; the volume is that "
          "of columns") {
    Part p = dome();
    add(p, "plane", {{"name", std::string("before")}, {"distance", std::string("60 mm")}});
    drawIn(p, disc(18), "before");
    const double before = volumeOf(built(p));
    for (const char* shape : {"rings", "slots"}) {
        Part q = p;
        add(q, "vent",
            {{"outline", std::string("places")},
             {"shape", std::string(shape)},
             {"width", std::string("1.2 mm")},
             {"bar", std::string("2.8 mm")},
             {"rim", std::string("0 mm")}});
        const auto r = built(q);
        INFO(shape);
        CHECK(checkBody(onlyBody(r)).faults.empty());
        const VentWish wish{*shape == 'r' ? VentWish::Shape::Rings : VentWish::Shape::Slots, 1.2, 2.8, 0, 0};
        const auto openings = openingsIn(regionOf(disc(18)), wish);
        // Along the drawing between two balls of one middle, integrated over strips and half discs.
        const auto depth = [](Vec2 at) {
            const double r2 = dot(at, at);
            return std::sqrt(std::pow(kDomeOutside, 2) - r2) -
                   std::sqrt(std::pow(kDomeOutside - kDomeWall, 2) - r2);
        };
        double volume = 0;
        constexpr int kEach = 120;
        for (const Opening& o : *openings) {
            for (int i = 0; i < kEach; ++i)
                for (int j = 0; j < kEach; ++j) {
                    const double s = 0.6 * (i + 0.5) / kEach, a = 2 * kPi * (j + 0.5) / kEach;
                    const Vec2 from = Vec2{std::cos(a), std::sin(a)} * s;
                    volume +=
                        depth((from.x < 0 ? o.from : o.to) + from) * s * (0.6 / kEach) * (2 * kPi / kEach);
                    const Vec2 along = o.to - o.from;
                    if (o.round()) continue;
                    const Vec2 in = o.from + along * ((i + 0.5) / kEach) +
                                    leftOf(unit(along)) * (1.2 * ((j + 0.5) / kEach - 0.5));
                    volume += depth(in) * length(along) / kEach * 1.2 / kEach;
                }
        }
        CHECK(before - volumeOf(r) == Approx(volume).epsilon(1e-4));
        // Each is called, by whatever way it was made.
        std::set<std::string> called;
        for (int f = 0; f < faceCount(onlyBody(r)); ++f)
            for (const std::string& ref : referencesForFace(onlyBody(r), f))
                if (ref.starts_with("opening ")) called.insert(ref);
        CHECK(called.size() >= openings->size());
    }
}

#include "core/base/angles.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/wound.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

void shelled(Part& p, const std::string& wall) {
    add(p, "shell", {{"open", References{"end of step 2"}}, {"wall", wall}});
}
void fullRound(Part& p, const std::string& face) {
    add(p, "fillet", {{"how", std::string("fully over")}, {"over", References{face}}});
}
/// What a round of radius r takes from a wall of twice that, for each mm of the middle of the wall.
double takenPerLength(double r) {
    return 2 * r * r - kPi * r * r / 2;
}
double perimeter(double a, double b, double corner) {
    return 2 * (a + b) - 8 * corner + 2 * kPi * corner;
}

} // namespace

TEST_CASE("A cup's lip rounded fully loses what Pappus says") {
    Part p = block(circleLine(40), "60 mm");
    shelled(p, "5 mm");
    const double before = volumeOf(built(p));
    fullRound(p, "rim of end of step 2");
    const auto r = built(p);
    CHECK(before - volumeOf(r) == Approx(2 * kPi * 37.5 * takenPerLength(2.5)).epsilon(1e-6));
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
    // A later step finds it by its name.
    add(p, "fillet",
        {{"edges", References{"where inside of start of step 2 meets inside of " + side(p, 0)}},
         {"radius", std::string("3 mm")}});
    CHECK(allFine(Engine().regenerate(p)));
}

TEST_CASE("The lip of a box goes round its corners in one go") {
    Part p = block(rectangle({0, 0}, {60, 40}), "30 mm");
    References uprights;
    for (std::size_t i = 0; i < 4; ++i)
        uprights.push_back("where " + side(p, i) + " meets " + side(p, (i + 1) % 4));
    add(p, "fillet", {{"edges", uprights}, {"radius", std::string("9 mm")}});
    shelled(p, "4 mm");
    const double before = volumeOf(built(p));
    fullRound(p, "rim of end of step 2");
    const auto r = built(p);
    CHECK(before - volumeOf(r) == Approx(perimeter(56, 36, 7) * takenPerLength(2)).epsilon(1e-6));
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
}

TEST_CASE("The top of a rib between flat ends is rounded fully") {
    Part p = block(rectangle({0, 0}, {40, 4}), "20 mm");
    const double before = volumeOf(built(p));
    fullRound(p, "end of step 2");
    const auto r = built(p);
    CHECK(before - volumeOf(r) == Approx(40 * takenPerLength(2)).epsilon(1e-9));
    // And the bottom, too; its end faces have been worked by then.
    fullRound(p, "start of step 2");
    CHECK(before - volumeOf(built(p)) == Approx(80 * takenPerLength(2)).epsilon(1e-9));
}

TEST_CASE("Both faces of a bar are rounded fully in one step") {
    Part p = block(rectangle({0, 0}, {40, 4}), "20 mm");
    const double before = volumeOf(built(p));
    add(p, "fillet",
        {{"how", std::string("fully over")}, {"over", References{"end of step 2", "start of step 2"}}});
    CHECK(before - volumeOf(built(p)) == Approx(80 * takenPerLength(2)).epsilon(1e-9));
}

TEST_CASE("Between leaning walls the round touches all three") {
    // A trapezium, drawn out square to it.
    constexpr double a = 5 * kPi / 180;
    const double in = 10 * std::tan(a), reach = 3 - in;
    Part p = block(closedLine({{-3, 0}, {3, 0}, {reach, 10}, {-reach, 10}}), "40 mm");
    const double before = volumeOf(built(p));
    fullRound(p, side(p, 2));
    // The circle that touches the top in its middle touches the walls as far from the corners.
    const double corner = kPi / 2 + a, radius = reach * std::tan(corner / 2);
    CHECK(before - volumeOf(built(p)) ==
          Approx(40 * 2 * (reach * radius - radius * radius * (kPi - corner) / 2)).epsilon(1e-9));
}

namespace {

/// What is taken from the top of a rib of half the width, between walls that lean inward by an angle: the
/// region under the top and beside the circle that touches it and both walls, and its first moment about the
/// top's level (downward).
struct Taken {
    double area = 0, moment = 0;
};
Taken takenBetween(double half, double lean) {
    // By levels below the top: from the circle to the wall, twice. The circle touches the top in its middle
    // and a wall as far from the corner.
    const double corner = kPi / 2 + lean, radius = half * std::tan(corner / 2);
    const double depth = radius * (1 - std::sin(lean)); // of the touch on a wall
    constexpr int kLevels = 20000;
    Taken out;
    for (int i = 0; i < kLevels; ++i) {
        const double z = depth * (i + 0.5) / kLevels, wall = half + z * std::tan(lean);
        const double circle = std::sqrt(radius * radius - (radius - z) * (radius - z));
        const double a = 2 * (wall - circle) * depth / kLevels;
        out.area += a, out.moment += a * z;
    }
    return out;
}

} // namespace

TEST_CASE("The top of a rib with leaning ends is rounded fully, out to these") {
    constexpr double lean = 5 * kPi / 180;
    Part p = block(rectangle({0, 0}, {40, 6}), "10 mm",
                   {{"sides", std::string("leaning inward by")}, {"lean", std::string("5°")}});
    const double before = volumeOf(built(p));
    fullRound(p, "end of step 2");
    const auto r = built(p);
    const double in = 10 * std::tan(lean);
    const Taken t = takenBetween(3 - in, lean);
    // Each level of it is as long as the block is there.
    const double taken = t.area * (40 - 2 * in) + t.moment * 2 * std::tan(lean);
    CHECK(before - volumeOf(r) == Approx(taken).epsilon(1e-5));
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
    CHECK(checkBody(r.state.bodies.rbegin()->second.value).valid);
}

TEST_CASE("A rib that ends at a round wall, and aslant at a flat one, is rounded fully up to both") {
    // From a post of 20 about the middle to a slanting end; to the right it begins where the post closes up.
    const auto [side, level] = GENERATE(std::pair{-1.0, "ground"}, std::pair{1.0, "raised"});
    CAPTURE(side);
    Part p = block(circleLine(20), "30 mm");
    add(p, "plane", {{"name", std::string("raised")}, {"distance", std::string("3 mm")}});
    Drawing d;
    const auto at = [s = side](double x, double y) { return Vec2{s * x, s * y}; };
    for (const auto& [a, b] : std::initializer_list<std::pair<Vec2, Vec2>>{{at(10, -2), at(50, -2)},
                                                                           {at(50, -2), at(48, 2)},
                                                                           {at(48, 2), at(10, 2)},
                                                                           {at(10, 2), at(10, -2)}})
        d.draw(StrokeKind::Line, {a, b});
    const std::string name = "rib";
    add(p, "draw", {{"name", name}, {"plane", std::string(level)}, {"drawing", DrawingSlot(d)}});
    const int step =
        add(p, "extrude",
            {{"outline", name}, {"length", std::string("12 mm")}, {"does", std::string("adding to")}})
            .id;
    const double before = volumeOf(built(p));
    fullRound(p, "end of step " + std::to_string(step));
    const auto r = built(p);
    // Each line along it is as long as from the post to the slanting end: 50 - (y + 2) / 2 - sqrt(400 - y^2).
    double taken = 0;
    constexpr int kLines = 20000;
    for (int i = 0; i < kLines; ++i) {
        const double y = -2 + 4 * (i + 0.5) / kLines;
        taken += (2 - std::sqrt(4 - y * y)) * (50 - (y + 2) / 2 - std::sqrt(400 - y * y)) * 4 / kLines;
    }
    CHECK(before - volumeOf(r) == Approx(taken).epsilon(1e-5));
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
    // It can be worked on.
    add(p, "fillet",
        {{"edges",
          References{"where side " + std::to_string(d.strokes[1].id) + " of step " + std::to_string(step) +
                     " meets side " + std::to_string(d.strokes[2].id) + " of step " + std::to_string(step)}},
         {"radius", std::string("0.5 mm")}});
    CHECK(allFine(Engine().regenerate(p)));
}

TEST_CASE("Where the wall is of changing width, so is the round: a ball fits everywhere") {
    // Between a circle of 20 and one of 16 that stands 2 beside it.
    Drawing d;
    d.draw(StrokeKind::Circle, {{0, 0}}, {20});
    d.draw(StrokeKind::Circle, {{2, 0}}, {16});
    Part p = block(d, "30 mm");
    fullRound(p, "end of step 2");
    const auto r = built(p);
    const Body& body = r.state.bodies.rbegin()->second.value;
    const auto mesh = makeMesh(body, {0.002, 0.1});
    REQUIRE(mesh.ok());
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(2e-4));
    struct Place {
        Vec3 at;
        double radius;
    };
    std::vector<Place> balls;
    for (int i = 0; i < 4000; ++i) {
        // On a ray from the large circle's middle: as far from it as from the small one.
        const double turn = 2 * kPi * i / 4000;
        double low = 10, high = 20;
        for (int k = 0; k < 60; ++k) {
            const double c = 0.5 * (low + high);
            const Vec2 at{c * std::cos(turn), c * std::sin(turn)};
            (20 - c > length(at - Vec2{2, 0}) - 16 ? low : high) = c;
        }
        balls.push_back({{low * std::cos(turn), low * std::sin(turn), 30 - (20 - low)}, 20 - low});
    }
    int seen = 0;
    for (const MeshFace& f : mesh->faces) {
        if (f.name.find("round over") == std::string::npos) continue;
        for (std::uint32_t i = f.firstVertex; i < f.firstVertex + f.vertexCount; i += 7) {
            double least = 1e9;
            for (const Place& b : balls) least = std::min(least, length(mesh->points[i] - b.at) - b.radius);
            CHECK(std::fabs(least) < 2e-4); // 4,000 balls stand in for all
            ++seen;
        }
    }
    CHECK(seen > 50);
}

TEST_CASE("The lip of a shelled loft is rounded fully") {
    Part p = lofted({{circleLine(30), 0}, {ellipseLine(40, 26), 70}});
    add(p, "shell", {{"open", References{"end of step 5"}}, {"wall", std::string("3 mm")}});
    const double before = volumeOf(built(p));
    fullRound(p, "rim of end of step 5");
    const auto r = built(p);
    const double taken = before - volumeOf(r);
    CHECK(taken > 0.9 * 2 * kPi * 30 * takenPerLength(1.5));
    CHECK(taken < 1.3 * 2 * kPi * 34 * takenPerLength(1.5));
    CHECK(meshedVolume(r.state.bodies.rbegin()->second.value) == Approx(volumeOf(r)).epsilon(5e-4));
}

TEST_CASE("What cannot be rounded fully says why") {
    SECTION("walls that are too low") {
        Part p = block(rectangle({0, 0}, {40, 10}), "3 mm");
        fullRound(p, "end of step 2");
        CHECK(faultOf(p).code == "fullround.low");
    }
    SECTION("a round top has no two sides") {
        Part p = block(circleLine(20), "30 mm");
        fullRound(p, "end of step 2");
        CHECK(faultOf(p).code == "fullround.shape");
    }
}

#include "core/sketch/fair_stroke.hpp"

#include "core/sketch/edit/part_of.hpp"
#include "core/sketch/region.hpp"
#include "core/sketch/size_figure.hpp"
#include "tests/support/pen.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

double away(const std::vector<Curve2>& curves, Vec2 p) {
    double least = 1e9;
    for (const Curve2& c : curves) least = std::min(least, length(c.at(c.nearest(p)) - p));
    return least;
}

/// The integral of squared curvature along it, by Simpson's rule.
double bending(const std::vector<Curve2>& curves) {
    double sum = 0;
    constexpr int kSteps = 200;
    for (const Curve2& c : curves)
        for (int i = 0; i <= kSteps; ++i) {
            const double t = double(i) / kSteps, h = 1e-4;
            const Vec2 d = c.slope(t);
            const Vec2 dd = (c.slope(std::min(1.0, t + h)) - c.slope(std::max(0.0, t - h))) *
                            (1 / (std::min(1.0, t + h) - std::max(0.0, t - h)));
            const double speed = std::max(length(d), 1e-12);
            const double k = cross(d, dd) / (speed * speed * speed);
            const double w = i == 0 || i == kSteps ? 1 : i % 2 ? 4 : 2;
            sum += w * k * k * speed / (3 * kSteps);
        }
    return sum;
}

} // namespace

TEST_CASE(
    "A fair stroke ends at its ends, keeps to its stations, and bends less than what goes through them") {
    auto random = test::seeded(11U);
    std::uniform_real_distribution<double> u(-1, 1);
    for (int k = 0; k < test::rounds(20); ++k) {
        std::vector<Vec2> stations;
        for (int i = 0; i < 6; ++i) stations.push_back({40 + 8 * std::sin(i * 0.9) + u(random), 16.0 * i});
        const auto curves = fairCurves(stations, 0.3);
        REQUIRE(!curves.empty());
        CHECK(length(curves.front().at(0) - stations.front()) < 1e-12);
        CHECK(length(curves.back().at(1) - stations.back()) < 1e-12);
        for (const Vec2 s : stations) CHECK(away(curves, s) < 0.302);
        for (std::size_t i = 1; i < curves.size(); ++i) {
            CHECK(length(curves[i].at(0) - curves[i - 1].at(1)) < 1e-9);
            CHECK(std::fabs(cross(unit(curves[i].slope(0)), unit(curves[i - 1].slope(1)))) < 1e-6);
        }
        Drawing through; // the natural spline, which meets every one
        std::vector<Vec2> nodes;
        for (const Vec2 s : stations) nodes.insert(nodes.end(), {s, s});
        const int spline = through.draw(S::Spline, nodes);
        REQUIRE(settleTo(through, {}).solved);
        CHECK(bending(curves) < bending(curvesOf(through, *through.findStroke(spline))) * 1.001);
    }
    // Two stations are a straight line; coinciding ones still give something to draw.
    const auto line = fairCurves({{0, 0}, {30, 40}}, 0.1);
    double whole = 0;
    for (const Curve2& c : line) whole += c.length();
    CHECK(whole == Approx(50).epsilon(1e-6));
    CHECK_NOTHROW(fairCurves({{5, 5}, {5, 5}, {5, 5}}, 0.1));
}

TEST_CASE("A fair stroke goes where a solver puts its stations, and counts as its points do") {
    Pen p;
    const int fair = p.d.draw(S::Fair, {{30, 0}, {36, 20}, {33, 40}, {40, 60}}, {0.1});
    const int base = p.line({0, 0}, {30, 0});
    p.join(p.to(base), p.d.findStroke(fair)->points[0]);
    CHECK(countFreedoms(p.d, p.v) == 10); // two a station, two more of the line
    p.size(K::DiameterAboutAxis, {p.d.findStroke(fair)->points[1], kAxisLine}, 84);
    REQUIRE(p.settle().solved);
    const Vec2 second = p.at(p.d.findStroke(fair)->points[1]);
    CHECK(second.x == Approx(42));
    CHECK(away(curvesOf(p.d, *p.d.findStroke(fair)), second) < 0.102);
    // Its tolerance is no unknown, and what asks more of it than stations is refused in words.
    CHECK(p.d.findStroke(fair)->sizes[0] == 0.1);
    CHECK(!whyNot(p.d, K::Tangent, {base, fair}).empty());
    CHECK(!whyNot(p.d, K::OnStroke, {p.from(base), fair}).empty());
}

TEST_CASE("A part of a fair stroke lies on the whole, and lengths add up") {
    Drawing d;
    const int fair = d.draw(S::Fair, {{30, 0}, {36, 20}, {33, 40}, {40, 60}, {38, 80}}, {0.2});
    const Stroke& s = *d.findStroke(fair);
    const StrokeRun run(d, s);
    const auto whole = curvesOf(d, s);
    double sum = 0;
    const double cuts[] = {0, 0.3 * run.end(), 0.71 * run.end(), run.end()};
    for (int i = 0; i < 3; ++i) {
        Drawing part;
        const int id = drawShape(part, partOf(d, s, cuts[i], cuts[i + 1]));
        const StrokeRun piece(part, *part.findStroke(id));
        sum += piece.length();
        for (int k = 0; k <= 40; ++k) CHECK(away(whole, piece.at(piece.end() * k / 40)) < 1e-8);
        Drawing rest = part;
        REQUIRE(settleTo(rest, {}).solved);
        for (const DrawnPoint& q : part.points) CHECK(length(rest.at(q.id) - q.at) < 1e-9);
    }
    CHECK(sum == Approx(run.length()).epsilon(1e-9));
}

TEST_CASE("A curve is told how wide it is at a height, and follows") {
    Pen p;
    const int round = p.circle({30, 25}, 20);
    p.size(K::Radius, {round}, 20);
    p.d.relate(K::Horizontal, {p.centre(round), kOrigin});
    const CurveWidth w = widthAt(p.d, round, {60, 12}, {});
    REQUIRE(w.diameter);
    // The circle lies 25 high; at 12 it is the root of 20² - 13² wide.
    CHECK(p.at(w.point).y == Approx(12));
    CHECK(p.at(w.point).x == Approx(30 + std::sqrt(400.0 - 169)));
    CHECK(p.d.findRelation(w.height)->expression == "12 mm");
    p.v[w.height] = 5;
    p.v[w.diameter] = 90;
    REQUIRE(p.settle().solved);
    CHECK(p.at(w.point).x == Approx(45));
    CHECK(length(p.at(w.point) - p.at(p.centre(round))) == Approx(20));
    const int line = p.line({0, 0}, {5, 5});
    CHECK_FALSE(hasWidths(p.d, line));
    CHECK(hasWidths(p.d, round));
}

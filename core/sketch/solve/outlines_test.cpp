/// \file More drawings with known answers: what people draw, from plain sizes to sizes that nearly
/// degenerate. What is compared is a closed form.

#include "core/sketch/curve2.hpp"
#include "tests/support/settled.hpp"

#include <array>

using namespace gc;
using namespace gc::test;

namespace {

using Three = std::array<double, 3>;
using Two = std::array<double, 2>;

constexpr double kDegree = kPi / 180;

/// A line from the origin along the level line, of that length when it is settled.
int base(Pen& p, double length) {
    const int l = p.line({0, 0}, {length * 0.9, 0});
    p.join(p.from(l), kOrigin);
    p.d.relate(K::OnStroke, {p.to(l), kLevelLine});
    p.size(K::Distance, {l}, length);
    return l;
}

/// A circle about the origin.
int about(Pen& p, double radius) {
    const int c = p.circle({}, radius);
    p.join(p.centre(c), kOrigin);
    p.size(K::Radius, {c}, radius);
    return c;
}

} // namespace

TEST_CASE("The wall of a half profile is as long as its height and diameters say") {
    for (const auto& [low, high, height] : std::vector<Three>{{80, 100, 120},
                                                              {60, 60.02, 90},
                                                              {10, 200, 5},
                                                              {50, 40, 0.05},
                                                              {3, 3.5, 800},
                                                              {140, 20, 33},
                                                              {1, 90, 90},
                                                              {70, 71, 1}}) {
        Pen p;
        const int floor = p.line({0, 0}, {low * 0.4, 0}),
                  wall = p.line({low * 0.4, 0}, {high * 0.6, height * 0.8}),
                  top = p.line({high * 0.6, height * 0.8}, {0, height * 0.8});
        p.join(p.from(floor), kOrigin), p.join(p.to(floor), p.from(wall)), p.join(p.to(wall), p.from(top));
        p.d.relate(K::Horizontal, {floor}), p.d.relate(K::Horizontal, {top});
        p.d.relate(K::OnStroke, {p.to(top), kAxisLine});
        p.size(K::DiameterAboutAxis, {p.to(floor)}, low), p.size(K::DiameterAboutAxis, {p.to(wall)}, high);
        p.size(K::Along, {kOrigin, p.to(top)}, height);
        checkSettled(p, 0);
        CHECK(length(p.along(wall)) == Approx(std::hypot((high - low) / 2, height)).epsilon(1e-10));
    }
}

TEST_CASE("A parallelogram has the diagonals that the law of cosines gives") {
    for (const auto& [a, b, angle] : std::vector<Three>{{30, 20, 60},
                                                        {30, 20, 89.9},
                                                        {50, 50, 90},
                                                        {40, 10, 2},
                                                        {25, 60, 120},
                                                        {33, 44, 178},
                                                        {7, 90, 45},
                                                        {12, 12, 150}}) {
        Pen p;
        const double t = angle * kDegree;
        const int low = base(p, a);
        const Vec2 up{b * 0.8 * std::cos(t * 0.97), b * 0.8 * std::sin(t * 0.97)}, far{a * 0.9, 0};
        const int right = p.line(far, far + up), top = p.line(far + up, up), left = p.line(up, {0, 0});
        p.join(p.to(low), p.from(right)), p.join(p.to(right), p.from(top)), p.join(p.to(top), p.from(left));
        p.join(p.to(left), kOrigin);
        p.d.relate(K::Parallel, {low, top}), p.d.relate(K::Parallel, {right, left});
        p.size(K::Distance, {right}, b);
        p.size(K::AngleBetween, {low, right}, t > kPi / 2 ? kPi - t : t);
        checkSettled(p, 0);
        CHECK(length(p.at(p.to(right))) ==
              Approx(std::sqrt(a * a + b * b + 2 * a * b * std::cos(t))).epsilon(1e-9));
        CHECK(area(p, {low, right, top, left}) == Approx(a * b * std::sin(t)).epsilon(1e-9));
    }
}

TEST_CASE("A right triangle is decided by its longest side and an angle") {
    for (const auto& [c, angle] : std::vector<Two>{
             {50, 30}, {50, 45}, {80, 0.5}, {80, 89.5}, {13, 22.62}, {300, 60}, {1, 10}, {0.2, 75}}) {
        Pen p;
        const double t = angle * kDegree;
        const int low = p.line({0, 0}, {c * 0.7, 0}), up = p.line({c * 0.7, 0}, {c * 0.7, c * 0.6}),
                  long_ = p.line({c * 0.7, c * 0.6}, {0, 0});
        p.join(p.from(low), kOrigin), p.join(p.to(low), p.from(up)), p.join(p.to(up), p.from(long_));
        p.join(p.to(long_), kOrigin);
        p.d.relate(K::Horizontal, {low});
        p.d.relate(K::Perpendicular, {low, up});
        p.size(K::Distance, {long_}, c);
        p.size(K::AngleBetween, {low, long_}, t);
        checkSettled(p, 0);
        CHECK(length(p.along(low)) == Approx(c * std::cos(t)).epsilon(1e-9));
        CHECK(length(p.along(up)) == Approx(c * std::sin(t)).epsilon(1e-9));
    }
}

TEST_CASE("The tangent from a point to a circle has the length that Pythagoras gives") {
    for (const auto& [r, away] : std::vector<Two>{
             {10, 30}, {10, 10.001}, {25, 26}, {3, 400}, {40, 41}, {8, 11}, {0.5, 2}, {90, 200}}) {
        Pen p;
        const int round = about(p, r);
        const int run = p.line({away, 0}, {r * r / away, r * std::sqrt(1 - r * r / (away * away))});
        p.d.relate(K::OnStroke, {p.from(run), kLevelLine});
        p.size(K::Across, {kOrigin, p.from(run)}, away);
        p.d.relate(K::OnStroke, {p.to(run), round});
        p.d.relate(K::Tangent, {run, round});
        checkSettled(p, 0);
        CHECK(length(p.along(run)) == Approx(std::sqrt(away * away - r * r)).epsilon(1e-7));
    }
}

TEST_CASE("A crossed belt has straight runs of the length that Pythagoras gives") {
    for (const auto& [r, s, apart] : std::vector<Three>{
             {10, 5, 40}, {12, 12, 30}, {3, 25, 60}, {10, 10, 20.01}, {1, 2, 100}, {30, 4, 35}}) {
        Pen p;
        // From as near as a person would draw it: on which side the run touches is what was drawn.
        const int a = about(p, r), b = p.circle({apart, 0.02 * (apart - r - s)}, s);
        p.d.relate(K::OnStroke, {p.centre(b), kLevelLine});
        p.size(K::Across, {kOrigin, p.centre(b)}, apart), p.size(K::Radius, {b}, s);
        const double t = std::acos((r + s) / apart);
        const int run =
            p.line(Vec2{std::cos(t), std::sin(t)} * r, Vec2{apart, 0} - Vec2{std::cos(t), std::sin(t)} * s);
        p.d.relate(K::OnStroke, {p.from(run), a}), p.d.relate(K::OnStroke, {p.to(run), b});
        p.d.relate(K::Tangent, {run, a}), p.d.relate(K::Tangent, {run, b});
        checkSettled(p, 0);
        CHECK(length(p.along(run)) == Approx(std::sqrt(apart * apart - (r + s) * (r + s))).epsilon(1e-7));
    }
}

TEST_CASE("Two circles meet on their radical line") {
    for (const auto& [r, s, apart] : std::vector<Three>{{10, 10, 15},
                                                        {10, 6, 8},
                                                        {20, 30, 49.9},
                                                        {5, 40, 36},
                                                        {12, 12, 0.5},
                                                        {7, 24, 25},
                                                        {100, 1, 100},
                                                        {9, 9, 17.99}}) {
        Pen p;
        const int a = about(p, r), b = p.circle({apart, 0.2}, s * 0.98);
        p.d.relate(K::OnStroke, {p.centre(b), kLevelLine});
        p.size(K::Across, {kOrigin, p.centre(b)}, apart), p.size(K::Radius, {b}, s);
        const double x = (apart * apart + r * r - s * s) / (2 * apart);
        const int q = p.dot({x * 0.95, std::sqrt(std::max(0.1, r * r - x * x)) * 1.03});
        p.d.relate(K::OnStroke, {q, a}), p.d.relate(K::OnStroke, {q, b});
        checkSettled(p, 0);
        CHECK(p.at(q).x == Approx(x).epsilon(1e-8));
        CHECK(p.at(q).y == Approx(std::sqrt(r * r - x * x)).epsilon(1e-6));
    }
}

TEST_CASE("An arc over a chord has the radius that its rise gives") {
    for (const auto& [chord, rise] : std::vector<Two>{
             {40, 10}, {40, 20}, {40, 0.05}, {100, 3}, {12, 5.9}, {60, 45}, {5, 0.5}, {200, 1}}) {
        Pen p;
        const int low = base(p, chord);
        const double r = chord * chord / (8 * rise) + rise / 2;
        const Vec2 c{chord / 2, rise - r};
        const int bow = p.d.draw(S::Arc, {{chord * 0.9, 0}, {0, 0}, c + Vec2{0.1, 0.1}}, {r * 1.02});
        p.join(p.from(bow), p.to(low)), p.join(p.to(bow), kOrigin);
        const int top = p.dot({chord * 0.48, rise * 1.1});
        p.d.relate(K::OnStroke, {top, bow});
        const int middle = p.dot({chord * 0.45, 0});
        p.d.relate(K::Midpoint, {middle, low});
        p.d.relate(K::Vertical, {middle, top});
        p.size(K::Along, {kOrigin, top}, rise);
        checkSettled(p, 0);
        CHECK(p.radius(bow) == Approx(r).epsilon(1e-7));
    }
}

TEST_CASE("An arc of a given length has the chord that its turn gives") {
    for (const auto& [r, run] :
         std::vector<Two>{{20, 10}, {20, 60}, {20, 110}, {100, 1}, {5, 20}, {33, 33}}) {
        Pen p;
        const int bow = p.arc({}, r * 0.95, 0, run / r * 1.05);
        p.join(p.centre(bow), kOrigin);
        p.d.relate(K::OnStroke, {p.from(bow), kLevelLine});
        p.size(K::Radius, {bow}, r), p.size(K::ArcLength, {bow}, run);
        checkSettled(p, 0);
        CHECK(length(p.at(p.to(bow)) - p.at(p.from(bow))) ==
              Approx(2 * r * std::fabs(std::sin(run / (2 * r)))).epsilon(1e-9));
    }
}

TEST_CASE("A kite that mirrors itself has half the product of its diagonals as area") {
    for (const auto& [wide, low, high] : std::vector<Three>{
             {20, 10, 30}, {2, 40, 40}, {60, 1, 70}, {30, 30, 0.2}, {44, 17, 18}, {9, 100, 3}}) {
        Pen p;
        const Vec2 at[] = {{0.3, -low}, {wide * 0.6, 0.1}, {-0.2, high * 0.9}, {-wide * 0.4, -0.1}};
        const auto r = p.ring({at[0], at[1], at[2], at[3]});
        p.d.relate(K::OnStroke, {p.from(r[0]), kAxisLine}),
            p.d.relate(K::OnStroke, {p.from(r[2]), kAxisLine});
        p.d.relate(K::Symmetric, {p.from(r[1]), p.from(r[3]), kAxisLine});
        p.d.relate(K::OnStroke, {p.from(r[1]), kLevelLine});
        p.size(K::DiameterAboutAxis, {p.from(r[1])}, wide);
        p.size(K::Along, {p.from(r[0]), kOrigin}, low), p.size(K::Along, {kOrigin, p.from(r[2])}, high);
        checkSettled(p, 0);
        CHECK(area(p, r) == Approx(wide * (low + high) / 2).epsilon(1e-10));
    }
}

TEST_CASE("A rounding touches both legs of a corner as far out as its angle says") {
    for (const auto& [angle, r] :
         std::vector<Two>{{90, 5}, {60, 3}, {20, 2}, {10, 0.5}, {120, 12}, {150, 20}, {170, 30}, {45, 8}}) {
        Pen p;
        const double t = angle * kDegree, reach = r / std::tan(t / 2), far = 3 * reach + 20;
        const Vec2 u{std::cos(t), std::sin(t)};
        const int leg = p.line({reach * 1.1, 0}, {far, 0}), other = p.line(u * far, u * (reach * 0.9));
        p.d.relate(K::OnStroke, {p.from(leg), kLevelLine});
        p.d.relate(K::OnStroke, {p.to(leg), kLevelLine});
        const int corner = p.dot({0.1, 0.1});
        p.d.relate(K::Coincident, {corner, kOrigin});
        p.d.relate(K::OnStroke, {corner, other});
        p.size(K::AngleBetween, {kLevelLine, other}, t > kPi / 2 ? kPi - t : t);
        p.size(K::Distance, {corner, p.from(other)}, far), p.size(K::Across, {kOrigin, p.to(leg)}, far);
        const Vec2 c = Vec2{reach, r};
        // Counter-clockwise from the slanted leg to the level one, on the corner's side.
        const int bow = p.d.draw(S::Arc, {u * reach, {reach, 0}, c}, {r});
        p.join(p.from(bow), p.to(other)), p.join(p.to(bow), p.from(leg));
        p.d.relate(K::Tangent, {bow, leg}), p.d.relate(K::Tangent, {bow, other});
        p.size(K::Radius, {bow}, r);
        checkSettled(p, 0);
        CHECK(p.at(p.from(leg)).x == Approx(reach).epsilon(1e-8));
    }
}

TEST_CASE("The medians of a triangle meet in its centroid") {
    for (const Vec2 apex : {Vec2{10, 30}, {-20, 5}, {55, 18}, {25, 0.4}, {3, 90}}) {
        Pen p;
        const Vec2 at[] = {{0, 0}, {40, 0}, apex};
        const auto r = p.ring({at[0], at[1], at[2]});
        for (std::size_t i = 0; i < 3; ++i) p.d.relate(K::Fixed, {p.from(r[i])});
        const int one = p.line(at[2], {19, 1}), two = p.line(at[0], (at[1] + at[2]) * 0.5 + Vec2{1, 1});
        p.join(p.from(one), p.from(r[2])), p.join(p.from(two), p.from(r[0]));
        p.d.relate(K::Midpoint, {p.to(one), r[0]}), p.d.relate(K::Midpoint, {p.to(two), r[1]});
        const int q = p.dot({15, 8});
        p.d.relate(K::OnStroke, {q, one}), p.d.relate(K::OnStroke, {q, two});
        checkSettled(p, 0);
        CHECK(length(p.at(q) - (at[0] + at[1] + at[2]) * (1.0 / 3)) < 1e-8);
    }
}

TEST_CASE("A place is found from its distances to two others") {
    for (const auto& [a, b, apart] :
         std::vector<Three>{{30, 40, 50}, {30, 30, 59.9}, {5, 44, 40}, {100, 101, 2}, {12, 35, 37}}) {
        Pen p;
        const int low = base(p, apart);
        const double x = (apart * apart + a * a - b * b) / (2 * apart), y = std::sqrt(a * a - x * x);
        const int q = p.dot({x + 0.5, y * 0.8 + 0.3});
        p.size(K::Distance, {kOrigin, q}, a), p.size(K::Distance, {p.to(low), q}, b);
        checkSettled(p, 0);
        CHECK(p.at(q).x == Approx(x).epsilon(1e-8));
        CHECK(p.at(q).y == Approx(y).epsilon(1e-6));
    }
}

TEST_CASE("A slot has the area of its middle line and of a circle") {
    for (const auto& [l, r, angle] : std::vector<Three>{
             {40, 5, 0}, {40, 5, 30}, {1, 20, 0}, {100, 0.5, 60}, {25, 12, 90}, {60, 8, 135}}) {
        Pen p;
        const double t = angle * kDegree;
        const Vec2 u{std::cos(t), std::sin(t)}, n{-u.y, u.x}, far = u * (l * 0.9);
        const int one = p.line(n * -r, far - n * r), two = p.line(far + n * r, n * r);
        const int end = p.d.draw(S::Arc, {far - n * r, far + n * r, far}, {r}),
                  begin = p.d.draw(S::Arc, {n * r, n * -r, {0, 0}}, {r});
        p.join(p.to(one), p.from(end)), p.join(p.to(end), p.from(two)), p.join(p.to(two), p.from(begin));
        p.join(p.to(begin), p.from(one));
        p.d.relate(K::Tangent, {one, end}), p.d.relate(K::Tangent, {end, two}),
            p.d.relate(K::Tangent, {two, begin});
        p.d.relate(K::Tangent, {begin, one});
        p.join(p.centre(begin), kOrigin);
        p.d.relate(K::Equal, {begin, end});
        p.size(K::Distance, {p.centre(begin), p.centre(end)}, l);
        p.size(K::Radius, {begin}, r * 1.2);
        const int mark = p.dot(u * 5);
        p.d.relate(K::Fixed, {mark});
        p.d.relate(K::Parallel, {one, p.line({0, 0}, u * 5)});
        p.d.relate(K::Fixed, {p.d.strokes.back().id});
        checkSettled(p, 0);
        CHECK(length(p.along(one)) == Approx(l).epsilon(1e-8));
        CHECK(length(p.at(p.to(one)) - p.at(p.from(two))) == Approx(2.4 * r).epsilon(1e-8));
    }
}

TEST_CASE("An ellipse is as high as its width at a height says") {
    for (const auto& [a, x, y] : std::vector<Three>{
             {30, 18, 16}, {30, 29.9, 1}, {50, 5, 40}, {12, 0.2, 3}, {80, 64, 6}, {20, 12, 16}}) {
        Pen p;
        const double b = y / std::sqrt(1 - x * x / (a * a));
        const int e = p.d.draw(S::Ellipse, {{0, 0}, {a * 1.05, 0}}, {b * 0.9});
        p.join(p.d.findStroke(e)->points[0], kOrigin);
        p.d.relate(K::OnStroke, {p.d.findStroke(e)->points[1], kLevelLine});
        p.size(K::Across, {kOrigin, p.d.findStroke(e)->points[1]}, a);
        const int q = p.dot({x * 0.95, y});
        p.d.relate(K::OnStroke, {q, e});
        p.size(K::Across, {kOrigin, q}, x), p.size(K::Along, {kOrigin, q}, y);
        checkSettled(p, 0);
        CHECK(p.radius(e) == Approx(b).epsilon(1e-8));
    }
}

TEST_CASE("Sides in a ratio make a rectangle of that shape") {
    for (const auto& [wide, ratio] :
         std::vector<Two>{{30, 1.618}, {210, std::sqrt(2.0)}, {12, 8}, {40, 1.001}}) {
        Pen p;
        const auto r = p.ring({{0, 0}, {wide, 0}, {wide, wide * 0.8}, {0, wide * 0.8}});
        p.join(p.from(r[0]), kOrigin);
        for (const std::size_t i : {0u, 2u}) p.d.relate(K::Horizontal, {r[i]});
        for (const std::size_t i : {1u, 3u}) p.d.relate(K::Vertical, {r[i]});
        p.size(K::Distance, {r[0]}, wide), p.size(K::Ratio, {r[0], r[1]}, ratio);
        checkSettled(p, 0);
        CHECK(area(p, r) == Approx(wide * wide / ratio).epsilon(1e-9));
    }
}

TEST_CASE("What joins an elliptical arc runs on as the ellipse does there") {
    for (const Three& three :
         std::vector<Three>{{30, 15, 0.4}, {30, 15, 1.2}, {20, 19, 0.8}, {50, 5, 0.3}, {12, 30, 1.0}}) {
        const auto& [first, second, t] = three;
        const double a = first, b = second;
        const auto at = [&](double u) { return Vec2{a * std::cos(u), b * std::sin(u)}; };
        const Vec2 runs = unit(Vec2{-a * std::sin(t), b * std::cos(t)}); // the ellipse's own direction at t
        for (const S kind : {S::Line, S::Arc, S::EllipseArc}) {
            Pen p;
            const int oval = p.d.draw(S::EllipseArc, {{0, 0}, {a, 0}, at(-0.7), at(t)}, {b});
            for (const int q : p.d.findStroke(oval)->points) p.d.relate(K::Fixed, {q});
            const int end = p.d.findStroke(oval)->points[3];
            int next = 0;
            if (kind == S::Line) next = p.line(at(t), at(t) + turnedBy(runs, 0.3) * 25);
            if (kind == S::Arc) {
                const Vec2 centre = at(t) + turnedBy(Vec2{-runs.y, runs.x}, 0.3) * 9;
                next = p.d.draw(S::Arc, {at(t), centre + Vec2{0, 9}, centre}, {9});
            }
            if (kind == S::EllipseArc) {
                const Vec2 u = turnedBy(runs, 0.25), c = at(t) + Vec2{-u.y, u.x} * 6;
                next = p.d.draw(S::EllipseArc, {c, c + u * 11, at(t), c + u * 11}, {6});
            }
            const int begin = kind == S::EllipseArc ? p.d.findStroke(next)->points[2] : p.from(next);
            p.join(begin, end);
            const int before = countFreedoms(p.d, p.v);
            p.d.relate(K::Tangent, {oval, next});
            const Settlement s = p.settle();
            REQUIRE(s.solved);
            CHECK(s.residual < kGood);
            CHECK(countFreedoms(p.d, p.v) == before - 1);
            CHECK(freedomsByDifferences(p.d, p.v) == before - 1);
            const Curve2 curve = curvesOf(p.d, *p.d.findStroke(next))[0];
            CHECK(length(curve.at(0) - at(t)) < 1e-8);
            CHECK(std::fabs(cross(unit(curve.slope(0)), runs)) < 1e-7);
        }
    }
}

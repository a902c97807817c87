/// \file Drawings with known answers. What is compared is always worked out another way than by the solver's
/// equations: closed forms, or checks of the geometry by definition.

#include "core/sketch/splines.hpp"
#include "tests/support/settled.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

TEST_CASE("A triangle of three sides has Heron's area") {
    for (const auto& [a, b, c] : std::vector<std::array<double, 3>>{{3, 4, 5},
                                                                    {13, 14, 15},
                                                                    {10, 10, 10},
                                                                    {7, 24, 25},
                                                                    {9, 10, 17},
                                                                    {20, 20, 1},
                                                                    {100, 60, 41},
                                                                    {5, 5, 9.99}}) {
        Pen p;
        const auto r = p.ring({{0, 0}, {c * 0.9, 1}, {c * 0.4, b}});
        p.join(p.from(r[0]), kOrigin);
        p.d.relate(K::Horizontal, {r[0]});
        p.size(K::Distance, {r[0]}, c), p.size(K::Distance, {r[1]}, a), p.size(K::Distance, {r[2]}, b);
        checkSettled(p, 0);
        const double s = (a + b + c) / 2;
        CHECK(area(p, r) == Approx(std::sqrt(s * (s - a) * (s - b) * (s - c))).epsilon(1e-8));
    }
}

TEST_CASE("A regular polygon on a circle has the side that its angle gives") {
    for (int n = 3; n <= 14; ++n) {
        Pen p;
        const double radius = 20 + n;
        std::vector<Vec2> at;
        for (int i = 0; i < n; ++i) {
            const double a = 2 * kPi * i / n + 0.03 * std::sin(5.0 * i);
            at.push_back(Vec2{std::cos(a), std::sin(a)} * (17 + 0.5 * (i % 3)));
        }
        const auto r = p.ring(at);
        const int round = p.circle({0.5, -0.3}, 19);
        p.join(p.centre(round), kOrigin);
        for (const int l : r) p.d.relate(K::OnStroke, {p.from(l), round});
        for (std::size_t i = 1; i < r.size(); ++i) p.d.relate(K::Equal, {r[0], r[i]});
        p.size(K::Radius, {round}, radius);
        p.d.relate(K::OnStroke, {p.from(r[0]), kLevelLine});
        checkSettled(p, 0);
        CHECK(length(p.along(r[0])) == Approx(2 * radius * std::sin(kPi / n)).epsilon(1e-10));
        CHECK(area(p, r) == Approx(0.5 * n * radius * radius * std::sin(2 * kPi / n)).epsilon(1e-10));
    }
}

TEST_CASE("The circle in a triangle has radius area over half the sum of sides") {
    for (const double c : {30.0, 41.0, 55.0, 64.0}) {
        Pen p;
        const auto r = p.ring({{0, 0}, {c, 0}, {12, 35}});
        p.join(p.from(r[0]), kOrigin);
        p.d.relate(K::Horizontal, {r[0]});
        p.size(K::Distance, {r[0]}, c), p.size(K::Distance, {r[1]}, 45), p.size(K::Distance, {r[2]}, 38);
        const int in = p.circle({c * 0.4, 9}, 5);
        for (const int l : r) p.d.relate(K::Tangent, {l, in});
        checkSettled(p, 0);
        CHECK(p.radius(in) == Approx(area(p, r) / ((c + 45 + 38) / 2)).epsilon(1e-10));
    }
}

TEST_CASE("The circle through three points has radius abc over four times the area") {
    for (const double x : {-7.0, 3.0, 11.0, 26.0}) {
        Pen p;
        const Vec2 at[] = {{0, 0}, {20, 0}, {x, 17}};
        const int round = p.circle({9, 6}, 9);
        for (const Vec2 q : at) {
            const int id = p.dot(q);
            p.d.relate(K::Fixed, {id});
            p.d.relate(K::OnStroke, {id, round});
        }
        checkSettled(p, 0);
        const double a = length(at[1] - at[0]), b = length(at[2] - at[1]), c = length(at[0] - at[2]);
        CHECK(p.radius(round) ==
              Approx(a * b * c / (4 * std::fabs(cross(at[1] - at[0], at[2] - at[0]) / 2))).epsilon(1e-10));
    }
}

TEST_CASE("A circle between three touching circles obeys Descartes") {
    for (const auto& [a, b, c] :
         std::vector<std::array<double, 3>>{{1, 1, 1}, {2, 3, 4}, {10, 4, 7}, {5, 5, 4}, {30, 20, 12}}) {
        Pen p;
        const int ca = p.circle({0, 0}, a), cb = p.circle({a + b, 0.1}, b);
        const double x = ((a + c) * (a + c) - (b + c) * (b + c) + (a + b) * (a + b)) / (2 * (a + b));
        const int cc = p.circle({x, 0.95 * std::sqrt(std::max(0.0, (a + c) * (a + c) - x * x))}, c);
        p.join(p.centre(ca), kOrigin);
        p.d.relate(K::OnStroke, {p.centre(cb), kLevelLine});
        for (const auto& [s, r] : {std::pair{ca, a}, {cb, b}, {cc, c}}) p.size(K::Radius, {s}, r);
        p.d.relate(K::Tangent, {ca, cb}), p.d.relate(K::Tangent, {cb, cc}), p.d.relate(K::Tangent, {cc, ca});
        const double k = 1 / a + 1 / b + 1 / c + 2 * std::sqrt(1 / (a * b) + 1 / (b * c) + 1 / (c * a));
        const Vec2 near =
            (p.at(p.centre(ca)) * (1 / a) + p.at(p.centre(cb)) * (1 / b) + p.at(p.centre(cc)) * (1 / c)) *
            (1 / (1 / a + 1 / b + 1 / c));
        const int in = p.circle(near, 1.1 / k);
        for (const int s : {ca, cb, cc}) p.d.relate(K::Tangent, {in, s});
        checkSettled(p, 0);
        CHECK(1 / p.radius(in) == Approx(k).epsilon(1e-9));
    }
}

TEST_CASE("A circle that touches another from inside lies at the difference of radii") {
    for (const double r : {2.0, 5.0, 9.0}) {
        Pen p;
        const int out = p.circle({}, 20), in = p.circle({9, 1}, 4);
        p.join(p.centre(out), kOrigin);
        p.d.relate(K::OnStroke, {p.centre(in), kLevelLine});
        p.size(K::Diameter, {out}, 40), p.size(K::Radius, {in}, r);
        p.d.relate(K::Tangent, {out, in});
        checkSettled(p, 0);
        CHECK(p.at(p.centre(in)).x == Approx(20 - r).epsilon(1e-10));
    }
}

TEST_CASE("A rounded rectangle closes at its sizes") {
    for (const auto& [w, h, r] :
         std::vector<std::array<double, 3>>{{40, 30, 5}, {100, 20, 9}, {12, 12, 1}, {50, 50, 24}}) {
        Pen p;
        const int low = p.line({6, 0}, {30, 0}), right = p.line({36, 6}, {36, 20}),
                  top = p.line({30, 26}, {6, 26}), left = p.line({0, 20}, {0, 6});
        const int a[] = {p.arc({30, 6}, 6, -kPi / 2, 0), p.arc({30, 20}, 6, 0, kPi / 2),
                         p.arc({6, 20}, 6, kPi / 2, kPi), p.arc({6, 6}, 6, kPi, 1.5 * kPi)};
        const int l[] = {low, right, top, left};
        for (std::size_t i = 0; i < 4; ++i) {
            p.join(p.to(l[i]), p.from(a[i])), p.join(p.to(a[i]), p.from(l[(i + 1) % 4]));
            p.d.relate(K::Tangent, {l[i], a[i]}), p.d.relate(K::Tangent, {a[i], l[(i + 1) % 4]});
        }
        p.d.relate(K::Horizontal, {low});
        p.d.relate(K::Vertical, {right});
        p.d.relate(K::Parallel, {low, top});
        p.d.relate(K::Parallel, {right, left});
        for (int i = 1; i < 4; ++i) p.d.relate(K::Equal, {a[0], a[i]});
        p.size(K::Radius, {a[0]}, r);
        p.size(K::Distance, {top, low}, h), p.size(K::Distance, {left, right}, w);
        p.d.relate(K::OnStroke, {p.from(low), kLevelLine}),
            p.d.relate(K::OnStroke, {p.from(left), kAxisLine});
        checkSettled(p, 0);
        CHECK(length(p.along(low)) == Approx(w - 2 * r).epsilon(1e-9));
        CHECK(length(p.along(left)) == Approx(h - 2 * r).epsilon(1e-9));
        CHECK(length(p.at(p.centre(a[2])) - Vec2{r, h - r}) < 1e-8);
    }
}

TEST_CASE("An open belt round two pulleys has straight runs of the length that Pythagoras gives") {
    for (const auto& [r, s, apart] :
         std::vector<std::array<double, 3>>{{10, 5, 40}, {12, 12, 30}, {3, 25, 60}}) {
        Pen p;
        const int a = p.circle({}, r), b = p.circle({apart, 1}, s), run = p.line({0, r}, {apart, s});
        p.join(p.centre(a), kOrigin);
        p.d.relate(K::OnStroke, {p.centre(b), kLevelLine});
        p.size(K::Distance, {p.centre(a), p.centre(b)}, apart);
        p.size(K::Radius, {a}, r), p.size(K::Radius, {b}, s);
        p.d.relate(K::OnStroke, {p.from(run), a}), p.d.relate(K::OnStroke, {p.to(run), b});
        p.d.relate(K::Tangent, {run, a}), p.d.relate(K::Tangent, {run, b});
        checkSettled(p, 0);
        CHECK(length(p.along(run)) == Approx(std::sqrt(apart * apart - (r - s) * (r - s))).epsilon(1e-10));
    }
}

TEST_CASE("A point on an ellipse keeps its sum of distances to the foci") {
    for (const double b : {4.0, 9.0, 14.0, 19.9}) {
        Pen p;
        const int e = p.d.draw(S::Ellipse, {{}, {20, 0}}, {b});
        p.d.relate(K::Fixed, {p.from(e)});
        p.d.relate(K::Fixed, {p.to(e)});
        const int q = p.dot({7, b * 0.7});
        p.d.relate(K::OnStroke, {q, e});
        p.size(K::Across, {kOrigin, q}, 8);
        const int through = p.dot({-3, -b}); // pins the other half axis
        p.d.relate(K::OnStroke, {through, e});
        p.size(K::Across, {kOrigin, through}, 3);
        p.size(K::Along, {kOrigin, through}, b * std::sqrt(1 - 9.0 / 400));
        checkSettled(p, 0);
        const double f = std::sqrt(400 - b * b);
        CHECK(length(p.at(q) - Vec2{f, 0}) + length(p.at(q) - Vec2{-f, 0}) == Approx(40).epsilon(1e-9));
    }
}

TEST_CASE("A line that touches an ellipse meets it in one point") {
    for (const double lean : {0.1, 0.5, 1.0, 1.4}) {
        Pen p;
        const int e = p.d.draw(S::Ellipse, {{}, {20, 0}}, {11});
        p.d.relate(K::Fixed, {p.from(e)}), p.d.relate(K::Fixed, {p.to(e)});
        const int touch = p.line({-20, -15}, {20, -15 + 40 * std::tan(lean * 0.8)});
        const int through = p.dot({0, 11});
        p.d.relate(K::Fixed, {through}), p.d.relate(K::OnStroke, {through, e});
        p.d.relate(K::Tangent, {touch, e});
        p.size(K::AngleBetween, {kLevelLine, touch}, lean);
        CHECK(p.settle().solved);
        // The reach of an ellipse across direction u: sqrt(a^2 u_y^2 + b^2 u_x^2).
        const double reach = std::hypot(20 * std::sin(lean), 11 * std::cos(lean));
        CHECK(std::fabs(heightOver(p, touch, {0, 0})) == Approx(reach).epsilon(1e-9));
    }
}

TEST_CASE("A conic of shoulder ratio sqrt(2) - 1 over a right angle is a quarter of a circle") {
    for (const double r : {5.0, 20.0, 80.0}) {
        Pen p;
        const int conic = p.d.draw(S::Conic, {{r, 0}, {0, r}, {r, r}}, {std::sqrt(2.0) - 1});
        for (const int q : p.d.findStroke(conic)->points) p.d.relate(K::Fixed, {q});
        const int round = p.arc({-1, 0.5}, r * 0.9, kPi / 2, kPi);
        p.join(p.from(round), p.to(conic));
        p.d.relate(K::Smooth, {conic, round});
        const int on = p.dot({r * 0.6, r * 0.7});
        p.d.relate(K::OnStroke, {on, conic});
        p.size(K::AngleBetween, {kLevelLine, p.line({0, 0}, {1, 1})}, 1);
        CHECK(p.settle().solved);
        // The ratio is free: the smooth joint to an arc ties it to the radius of the arc.
        const double rho = p.d.findStroke(conic)->sizes[0], w = rho / (1 - rho);
        CHECK(1 / p.radius(round) == Approx(r * r / (2 * w * w * r * r * r)).epsilon(1e-8));
        if (std::fabs(rho - (std::sqrt(2.0) - 1)) < 1e-9) CHECK(length(p.at(on)) == Approx(r).epsilon(1e-9));
    }
}

TEST_CASE("A point on a spline and a tangent to it are where the curve is") {
    for (const double x : {4.0, 11.0, 19.0, 27.0}) {
        Pen p;
        std::vector<Vec2> at{{0, 0}, {}, {10, 7}, {}, {20, 2}, {}, {30, 9}, {}};
        const std::vector<double> spans = spansFor(std::vector<Vec2>{at[0], at[2], at[4], at[6]});
        relaxHandles(at, spans, {});
        const int s = p.d.draw(S::Spline, at);
        for (const std::size_t i : {0u, 2u, 4u, 6u}) p.d.relate(K::Fixed, {p.d.findStroke(s)->points[i]});
        const int q = p.dot({x, 5});
        p.d.relate(K::OnStroke, {q, s});
        p.size(K::Across, {kOrigin, q}, x);
        checkSettled(p, 0);
        double least = 1e9; // walk the curve finely
        for (double t = 0; t <= spans[0] + spans[1] + spans[2]; t += 1e-3) {
            const auto w = splineWeights(spans, t, 0);
            Vec2 c;
            for (std::size_t j = 0; j < 4; ++j)
                c = c + at[static_cast<std::size_t>(2 * w.piece) + j] * w.weights[j];
            least = std::min(least, length(c - p.at(q)));
        }
        CHECK(least < 1e-3);
    }
}

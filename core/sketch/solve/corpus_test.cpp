/// \file Drawings with known answers. What is compared is always worked out another way than by the solver's
/// equations: closed forms, or checks of the geometry by definition.

#include "core/sketch/solve/clash.hpp"
#include "core/sketch/solve/freedom.hpp"
#include "core/sketch/splines.hpp"
#include "tests/support/large_drawings.hpp"

#include <catch2/catch.hpp>

#include <Eigen/SVD>

#include <functional>
#include <numbers>

using namespace gc;
using K = RelationKind;
using S = StrokeKind;

namespace {

constexpr double kPi = std::numbers::pi;
constexpr double kGood = 1e-9;

struct Pen {
    Drawing d;
    DimensionValues v;

    int line(Vec2 a, Vec2 b) { return d.draw(S::Line, {a, b}); }
    int circle(Vec2 c, double r) { return d.draw(S::Circle, {c}, {r}); }
    int arc(Vec2 c, double r, double from, double to) {
        const auto at = [&](double a) { return c + Vec2{std::cos(a), std::sin(a)} * r; };
        return d.draw(S::Arc, {at(from), at(to), c}, {r});
    }
    int dot(Vec2 p) { return d.findStroke(d.draw(S::Point, {p}))->points[0]; }
    int from(int s) const { return d.findStroke(s)->points[0]; }
    int to(int s) const { return d.findStroke(s)->points[1]; }
    int centre(int s) const { return centrePoint(*d.findStroke(s)); }
    void join(int p, int q) { d.relate(K::Coincident, {p, q}); }
    void size(K kind, std::vector<int> of, double value) { v[d.relate(kind, std::move(of))] = value; }
    /// A closed ring of lines.
    std::vector<int> ring(const std::vector<Vec2>& at) {
        std::vector<int> lines;
        for (std::size_t i = 0; i < at.size(); ++i) lines.push_back(line(at[i], at[(i + 1) % at.size()]));
        for (std::size_t i = 0; i < at.size(); ++i) join(to(lines[i]), from(lines[(i + 1) % at.size()]));
        return lines;
    }
    Vec2 at(int p) const { return d.at(p); }
    Vec2 along(int l) const { return d.at(to(l)) - d.at(from(l)); }
    double radius(int s) const { return d.findStroke(s)->sizes[0]; }

    Settlement settle() {
        Settler settler(d, v);
        const Settlement s = settler.settle();
        d = settler.drawing();
        return s;
    }
};

double area(const Pen& p, const std::vector<int>& ring) {
    double a = 0;
    for (const int l : ring) a += cross(p.at(p.from(l)), p.at(p.to(l))) / 2;
    return std::fabs(a);
}

double heightOver(const Pen& p, int line, Vec2 q) {
    const Vec2 u = p.along(line);
    return cross(u, q - p.at(p.from(line))) / length(u);
}

/// How many sizes are missing, from the singular values of the raw Jacobian taken by differences: every
/// coordinate an unknown, every relation all its equations, nothing merged.
int freedomsByDifferences(const Drawing& d, const DimensionValues& v) {
    const System s = compile(d, v);
    // Residuals of the reduced equations as a function of raw coordinates, plus one row for every tie.
    const auto n = static_cast<Eigen::Index>(s.start.size());
    std::vector<double> x(s.start.size());
    for (std::size_t i = 0; i < x.size(); ++i) x[i] = s.coordinate(s.unknowns, static_cast<int>(i));
    std::vector<Eigen::VectorXd> rows;
    for (const Equation& e : s.equations) {
        std::vector<double> at(static_cast<std::size_t>(e.count));
        const auto value = [&](const std::vector<double>& y) {
            for (int j = 0; j < e.count; ++j)
                at[static_cast<std::size_t>(j)] =
                    y[static_cast<std::size_t>(s.operands[static_cast<std::size_t>(e.first + j)])];
            return evaluate(e, s.constants.data() + e.extra, at.data(), nullptr);
        };
        Eigen::VectorXd row = Eigen::VectorXd::Zero(n);
        for (int j = 0; j < e.count; ++j) {
            const auto c = static_cast<std::size_t>(s.operands[static_cast<std::size_t>(e.first + j)]);
            auto y = x;
            y[c] = x[c] + 1e-5;
            const double up = value(y);
            y[c] = x[c] - 1e-5;
            row[static_cast<Eigen::Index>(c)] = (up - value(y)) / 2e-5;
        }
        rows.push_back(row);
    }
    for (Eigen::Index i = 0; i < n; ++i)
        for (Eigen::Index j = -1; j < i; ++j) {
            const auto a = static_cast<std::size_t>(i);
            Eigen::VectorXd row = Eigen::VectorXd::Zero(n);
            row[i] = 1;
            if (j < 0 ? s.classOf[a] >= 0
                      : s.classOf[a] < 0 || s.classOf[a] != s.classOf[static_cast<std::size_t>(j)])
                continue;
            if (j >= 0) row[j] = -1;
            rows.push_back(row);
            break;
        }
    Eigen::MatrixXd m(static_cast<Eigen::Index>(rows.size()), n);
    for (std::size_t i = 0; i < rows.size(); ++i) m.row(static_cast<Eigen::Index>(i)) = rows[i].normalized();
    const Eigen::VectorXd singular = Eigen::BDCSVD<Eigen::MatrixXd>(m).singularValues();
    int rank = 0;
    for (const double value : singular) rank += value > 1e-7;
    return static_cast<int>(n) - rank;
}

void checkSettled(Pen& p, int freedoms) {
    const Settlement s = p.settle();
    CHECK(s.solved);
    CHECK(s.residual < kGood);
    CHECK(countFreedoms(p.d, p.v) == freedoms);
    CHECK(freedomsByDifferences(p.d, p.v) == freedoms);
    CHECK(diagnose(p.d, p.v).clashes.empty());
}

} // namespace

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

namespace {

/// One thing of each sort that a relation may join, in general position.
struct Scene : Pen {
    int a = line({0, 0}, {20, 3}), b = line({5, 12}, {22, 30}), c = line({-10, 5}, {-14, 25});
    int round = circle({30, 10}, 6), other = circle({44, 22}, 4), bow = arc({-25, -5}, 7, 0.3, 2.2);
    int p = dot({8, -9}), q = dot({17, -14});
};

struct Try {
    const char* name;
    K kind;
    std::function<std::vector<int>(const Scene&)> of;
    double value = 0;
    /// How far the relation is from holding, worked out from its meaning.
    std::function<double(const Scene&)> miss;
};

double sine(Vec2 u, Vec2 v) {
    return cross(u, v) / (length(u) * length(v));
}

const std::vector<Try>& tries() {
    static const std::vector<Try> all{
        {"coincident", K::Coincident,
         [](const Scene& s) {
             return std::vector{s.p, s.q};
         },
         0, [](const Scene& s) { return length(s.at(s.p) - s.at(s.q)); }},
        {"on a line", K::OnStroke,
         [](const Scene& s) {
             return std::vector{s.p, s.b};
         },
         0, [](const Scene& s) { return heightOver(s, s.b, s.at(s.p)); }},
        {"on a circle", K::OnStroke,
         [](const Scene& s) {
             return std::vector{s.q, s.round};
         },
         0, [](const Scene& s) { return length(s.at(s.q) - s.at(s.centre(s.round))) - s.radius(s.round); }},
        {"level", K::Horizontal, [](const Scene& s) { return std::vector{s.a}; }, 0,
         [](const Scene& s) { return s.along(s.a).y; }},
        {"points level", K::Horizontal,
         [](const Scene& s) {
             return std::vector{s.p, s.q};
         },
         0, [](const Scene& s) { return s.at(s.p).y - s.at(s.q).y; }},
        {"upright", K::Vertical, [](const Scene& s) { return std::vector{s.c}; }, 0,
         [](const Scene& s) { return s.along(s.c).x; }},
        {"parallel", K::Parallel,
         [](const Scene& s) {
             return std::vector{s.a, s.b};
         },
         0, [](const Scene& s) { return sine(s.along(s.a), s.along(s.b)); }},
        {"square", K::Perpendicular,
         [](const Scene& s) {
             return std::vector{s.b, s.c};
         },
         0,
         [](const Scene& s) {
             return dot(s.along(s.b), s.along(s.c)) / (length(s.along(s.b)) * length(s.along(s.c)));
         }},
        {"tangent line and circle", K::Tangent,
         [](const Scene& s) {
             return std::vector{s.b, s.round};
         },
         0,
         [](const Scene& s) {
             return std::fabs(heightOver(s, s.b, s.at(s.centre(s.round)))) - s.radius(s.round);
         }},
        {"tangent circles", K::Tangent,
         [](const Scene& s) {
             return std::vector{s.round, s.other};
         },
         0,
         [](const Scene& s) {
             return length(s.at(s.centre(s.round)) - s.at(s.centre(s.other))) - s.radius(s.round) -
                    s.radius(s.other);
         }},
        {"tangent arc and line", K::Tangent,
         [](const Scene& s) {
             return std::vector{s.bow, s.c};
         },
         0,
         [](const Scene& s) {
             return std::fabs(heightOver(s, s.c, s.at(s.centre(s.bow)))) - s.radius(s.bow);
         }},
        {"equal lines", K::Equal,
         [](const Scene& s) {
             return std::vector{s.a, s.c};
         },
         0, [](const Scene& s) { return length(s.along(s.a)) - length(s.along(s.c)); }},
        {"equal circles", K::Equal,
         [](const Scene& s) {
             return std::vector{s.round, s.bow};
         },
         0, [](const Scene& s) { return s.radius(s.round) - s.radius(s.bow); }},
        {"concentric", K::Concentric,
         [](const Scene& s) {
             return std::vector{s.other, s.bow};
         },
         0, [](const Scene& s) { return length(s.at(s.centre(s.other)) - s.at(s.centre(s.bow))); }},
        {"midpoint", K::Midpoint,
         [](const Scene& s) {
             return std::vector{s.p, s.c};
         },
         0, [](const Scene& s) { return length(s.at(s.p) - (s.at(s.from(s.c)) + s.at(s.to(s.c))) * 0.5); }},
        {"symmetric points", K::Symmetric,
         [](const Scene& s) {
             return std::vector{s.p, s.q, s.b};
         },
         0,
         [](const Scene& s) { // mirror one and compare
             const Vec2 u = s.along(s.b) * (1 / length(s.along(s.b))), o = s.at(s.from(s.b)),
                        d = s.at(s.p) - o;
             return length(o + u * (2 * dot(d, u)) - d - s.at(s.q));
         }},
        {"in line", K::Collinear,
         [](const Scene& s) {
             return std::vector{s.a, s.b};
         },
         0,
         [](const Scene& s) {
             return std::max(std::fabs(heightOver(s, s.a, s.at(s.from(s.b)))),
                             std::fabs(heightOver(s, s.a, s.at(s.to(s.b)))));
         }},
        {"length", K::Distance, [](const Scene& s) { return std::vector{s.a}; }, 31,
         [](const Scene& s) { return length(s.along(s.a)) - 31; }},
        {"point to line", K::Distance,
         [](const Scene& s) {
             return std::vector{s.p, s.a};
         },
         14, [](const Scene& s) { return std::fabs(heightOver(s, s.a, s.at(s.p))) - 14; }},
        {"point to point", K::Distance,
         [](const Scene& s) {
             return std::vector{s.p, s.q};
         },
         5, [](const Scene& s) { return length(s.at(s.p) - s.at(s.q)) - 5; }},
        {"across", K::Across, [](const Scene& s) { return std::vector{s.b}; }, 25,
         [](const Scene& s) { return s.along(s.b).x - 25; }},
        {"up", K::Along,
         [](const Scene& s) {
             return std::vector{s.q, s.p};
         },
         9, [](const Scene& s) { return s.at(s.p).y - s.at(s.q).y - 9; }},
        {"radius", K::Radius, [](const Scene& s) { return std::vector{s.round}; }, 8,
         [](const Scene& s) { return s.radius(s.round) - 8; }},
        {"diameter", K::Diameter, [](const Scene& s) { return std::vector{s.bow}; }, 11,
         [](const Scene& s) { return 2 * s.radius(s.bow) - 11; }},
        {"about the axis", K::DiameterAboutAxis, [](const Scene& s) { return std::vector{s.to(s.b)}; }, 50,
         [](const Scene& s) { return 2 * std::fabs(s.at(s.to(s.b)).x) - 50; }},
        {"angle", K::AngleBetween,
         [](const Scene& s) {
             return std::vector{s.a, s.b};
         },
         1.1,
         [](const Scene& s) {
             return std::acos(dot(s.along(s.a), s.along(s.b)) /
                              (length(s.along(s.a)) * length(s.along(s.b)))) -
                    1.1;
         }},
        {"arc length", K::ArcLength, [](const Scene& s) { return std::vector{s.bow}; }, 16,
         [](const Scene& s) { // by chords
             const Vec2 o = s.at(s.centre(s.bow)), f = s.at(s.from(s.bow)) - o, t = s.at(s.to(s.bow)) - o;
             double turn = std::atan2(t.y, t.x) - std::atan2(f.y, f.x);
             if (turn < 0) turn += 2 * kPi;
             return length(f) * turn - 16;
         }},
        {"ratio", K::Ratio,
         [](const Scene& s) {
             return std::vector{s.b, s.a};
         },
         1.5, [](const Scene& s) { return length(s.along(s.b)) - 1.5 * length(s.along(s.a)); }},
    };
    return all;
}

} // namespace

TEST_CASE("Every relation alone is met, by its meaning, and takes the freedoms that it should") {
    for (const Try& t : tries()) {
        INFO(t.name);
        Scene s;
        const int before = countFreedoms(s.d, s.v);
        CHECK(before == freedomsByDifferences(s.d, s.v));
        REQUIRE(whyNot(s.d, t.kind, t.of(s)).empty());
        s.size(t.kind, t.of(s), t.value);
        if (!wordsOf(t.kind).sized) s.v.clear();
        const Settlement r = s.settle();
        CHECK(r.solved);
        CHECK(r.residual < kGood);
        CHECK(std::fabs(t.miss(s)) < 1e-8);
        CHECK(countFreedoms(s.d, s.v) == freedomsByDifferences(s.d, s.v));
        CHECK(countFreedoms(s.d, s.v) < before);
    }
}

TEST_CASE("Every pair of relations is met together, or is said to clash") {
    int met = 0, clashing = 0;
    for (std::size_t i = 0; i < tries().size(); ++i)
        for (std::size_t j = i + 1; j < tries().size(); ++j) {
            const Try &t = tries()[i], &u = tries()[j];
            INFO(t.name << " and " << u.name);
            Scene s;
            for (const Try* one : {&t, &u}) {
                const int id = s.d.relate(one->kind, one->of(s));
                if (wordsOf(one->kind).sized) s.v[id] = one->value;
            }
            const Settlement r = s.settle();
            if (r.solved && r.senseKept) {
                CHECK(std::fabs(t.miss(s)) < 1e-8);
                CHECK(std::fabs(u.miss(s)) < 1e-8);
                CHECK(countFreedoms(s.d, s.v) == freedomsByDifferences(s.d, s.v));
                ++met;
            } else {
                const Diagnosis d = diagnose(s.d, s.v);
                CHECK(d.clashes.size() == 1);
                ++clashing;
            }
        }
    CHECK(met + clashing == 378);
    CHECK(clashing <= 8); // points that are one cannot be 5 mm apart, and the like
}

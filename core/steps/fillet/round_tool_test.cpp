/// \file Rounds that are taken off or put on by a tool of their own, beside what stands in the way: held
/// against integrals over the depth of the round.

#include "core/steps/fillet/round_tool.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/edge_chains.hpp"
#include "tests/support/raw_bodies.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

#include <random>

using namespace gc;
using namespace gc::test;

namespace {

/// How deep a round is, a way from the edge along the face, between square faces.
double depthAt(double r, double way) {
    return way >= r ? 0 : r - std::sqrt(r * r - (r - way) * (r - way));
}

/// Simpson's rule over even steps.
double integralOf(const std::function<double(double)>& f, double from, double to, int steps = 20000) {
    const double h = (to - from) / steps;
    double sum = f(from) + f(to);
    for (int i = 1; i < steps; ++i) sum += (i % 2 ? 4 : 2) * f(from + i * h);
    return sum * h / 3;
}

double sectionBeyond(double r, double from, double to) {
    return integralOf([&](double t) { return depthAt(r, t); }, from, std::min(to, r));
}

TopoDS_Shape boxFrom(double x, double y, double z, double a, double b, double h) {
    return boxAt(x + a / 2, y + b / 2, z, a, b, h);
}

EdgePick middleAt(const Vec3& at) {
    return [=](const gp_Pnt& p, const TopoDS_Edge&, const auto&) { return length(toVec(p) - at) < 0.1; };
}

struct Asked {
    EdgePick pick;
    double radius = 0;
};

/// One after the other by tools, each of what is asked.
std::optional<Body> byTools(const TopoDS_Shape& shape, const std::vector<Asked>& asked) {
    const Body first = bodyOf(shape);
    BRepFilletAPI_MakeFillet asks(first.shape().shape);
    std::vector<EdgeChain> chains;
    for (const Asked& a : asked) {
        std::vector<int> numbers;
        for (const TopoDS_Edge& e : edgesOf(first.shape().shape, a.pick))
            numbers.push_back(first.shape().edges.FindIndex(e) - 1);
        if (!addChains(first, numbers, a.radius, a.radius, false, asks, chains)) return std::nullopt;
    }
    REQUIRE(!chains.empty());
    Body now = first;
    for (const EdgeChain& c : chains) {
        auto made = roundedByTool(first, now, c, chains, 2);
        if (!made) return std::nullopt;
        now = std::move(*made);
    }
    CHECK(meshAgrees(now));
    return now;
}

double changeOf(const TopoDS_Shape& shape, const std::vector<Asked>& asked) {
    const auto made = byTools(shape, asked);
    REQUIRE(made);
    return volumeOfRaw(made->shape().shape) - volumeOfRaw(shape);
}

int facesIn(const Body& body) {
    return body.shape().faces.Extent();
}

} // namespace

TEST_CASE("A round runs under a boss that stands nearer to the edge than it reaches: the boss stays whole") {
    const double r = 4, in = 2.5, wide = 9;
    const TopoDS_Shape shape = joinedRaw(boxFrom(0, 0, 0, 40, 30, 15),
                                         boxFrom(in, 12, 15, 10, wide, 6)); // 2.5 mm from the edge at x = 0
    const auto made = byTools(shape, {{middleAt({0, 15, 15}), r}});
    REQUIRE(made);
    const double under = wide * sectionBeyond(r, in, r);
    CHECK(volumeOfRaw(shape) - volumeOfRaw(made->shape().shape) ==
          Approx((1 - std::numbers::pi / 4) * r * r * 30 - under).epsilon(1e-7));
    // Its three walls within the round go on down into it, each still one face; the round is one, too.
    CHECK(facesIn(*made) == bodyOf(shape).shape().faces.Extent() + 1);
}

TEST_CASE("A round runs over a hole nearer to the edge than it reaches") {
    const double r = 4, in = 1.5, radius = 3;
    const TopoDS_Shape shape =
        cutRaw(boxFrom(0, 0, 0, 40, 30, 15), cylinderAt(in + radius, 15, 2, radius, 30));
    const double within = integralOf(
        [&](double t) {
            const double x = in + radius - radius * std::cos(t); // even in the turn: smooth where it begins
            return 2 * depthAt(r, x) * radius * radius * std::sin(t) * std::sin(t);
        },
        0, std::numbers::pi);
    CHECK(-changeOf(shape, {{middleAt({0, 15, 15}), r}}) ==
          Approx((1 - std::numbers::pi / 4) * r * r * 30 - within)
              .epsilon(3e-5)); // the kernel's line where two round walls meet
}

TEST_CASE("A round put on stops at a border of its floor that is nearer than it reaches") {
    const double r = 4, in = 2, boss = 6;
    const TopoDS_Shape shape =
        joinedRaw(boxFrom(-boss - in, -20, 0, 40, 40, 10), cylinderAt(0, 0, 10, boss, 12));
    // All round by Pappus, without what would hang over the border at x = -boss - in.
    const double all =
        integralOf([&](double t) { return depthAt(r, t) * 2 * std::numbers::pi * (boss + t); }, 0, r);
    const double over = integralOf(
        [&](double t) {
            return t <= in ? 0 : depthAt(r, t) * 2 * std::acos((boss + in) / (boss + t)) * (boss + t);
        },
        in, r);
    CHECK(changeOf(shape, {{within(atLevel(10), 7), r}}) == Approx(all - over).epsilon(1e-5));
}

TEST_CASE("Edges of two slots' floors with a thin rib between them are rounded, the rib stays") {
    const double r = 4;
    const TopoDS_Shape shape = cutRaw(cutRaw(boxFrom(0, 0, 0, 40, 30, 15), boxFrom(-1, 4, 10, 50, 9, 10)),
                                      boxFrom(-1, 13.3, 11.5, 50, 10, 10));
    const std::vector<Asked> both{{middleAt({0, 8.5, 10}), r}, {middleAt({0, 18.3, 11.5}), r}};
    CHECK(-changeOf(shape, both) == Approx((1 - std::numbers::pi / 4) * r * r * (9 + 10)).epsilon(1e-9));
}

TEST_CASE("Rounds of two sizes meet in a hollow corner, and where they leave a bulging one sharp") {
    const double p = 3, q = 2;
    const double a = 1 - std::numbers::pi / 4;
    const TopoDS_Shape pocket = cutRaw(boxFrom(0, 0, 0, 40, 30, 15), boxFrom(10, 10, 5, 50, 50, 50));
    // In the corner the smaller depth of the two is taken by both, or by both and once only.
    const auto within = [&](double x) {
        return integralOf([&](double y) { return std::min(depthAt(p, y), depthAt(q, x)); }, 0, p, 2000);
    };
    const double corner = integralOf(within, 0, q, 2000);
    const std::vector<Asked> rim{{middleAt({25, 10, 15}), p}, {middleAt({10, 20, 15}), q}};
    CHECK(-changeOf(pocket, rim) == Approx(a * p * p * 30 + a * q * q * 20 + corner).epsilon(1e-5));

    const TopoDS_Shape box = boxFrom(0, 0, 0, 40, 30, 15);
    const std::vector<Asked> sharp{{middleAt({20, 0, 15}), p}, {middleAt({0, 15, 15}), q}};
    CHECK(-changeOf(box, sharp) == Approx(a * p * p * 40 + a * q * q * 30 - corner).epsilon(1e-5));
}

TEST_CASE("Edges between round walls are rounded along their lines") {
    // A round hole that cuts a straight wall: the ball rolls between plane and cylinder (both touch by
    // Pythagoras).
    const double hole = 5, off = 2, r = 1.5;
    const TopoDS_Shape shape = cutRaw(boxFrom(0, 0, 0, 40, 30, 15), cylinderAt(20, -off, -1, hole, 50));
    const double half = std::sqrt(hole * hole - off * off);
    const double centre = std::sqrt((hole + r) * (hole + r) - (off + r) * (off + r)),
                 turn = std::atan2(off + r, centre);
    const auto between = [&](double y) {
        return centre - std::sqrt(std::max(0.0, r * r - (y - r) * (y - r))) -
               std::sqrt(hole * hole - (y + off) * (y + off));
    };
    const double area = integralOf(between, 0, hole * std::sin(turn) - off);
    CHECK(-changeOf(shape, {{middleAt({20 + half, 0, 7.5}), r}}) == Approx(area * 15).epsilon(1e-4));
}

TEST_CASE("What a tool cannot round well is left alone") {
    const TopoDS_Shape box = boxFrom(0, 0, 0, 40, 8, 20);
    CHECK_FALSE(byTools(box, {{middleAt({20, 0, 20}), 9}}));              // wider than the face
    CHECK_FALSE(byTools(box, {{anyEdge(), 1}}));                          // corners of three
    CHECK_FALSE(byTools(cylinderAt(0, 0, 0, 5, 10), {{atLevel(10), 5}})); // up to its axis
}

TEST_CASE("Bosses and holes at random places under a round") {
    std::mt19937 random = seeded(28);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    for (int i = 0; i < rounds(12); ++i) {
        const double r = between(1, 5), in = between(0.2, 0.95) * r, wide = between(1, 10);
        const bool hole = i % 2 == 1;
        const TopoDS_Shape base = boxFrom(0, 0, 0, 40, 30, 15),
                           part = boxFrom(in, 12, hole ? 4 : 14, 12, wide, 20);
        const TopoDS_Shape shape = hole ? cutRaw(base, part) : joinedRaw(base, part);
        INFO("radius " << r << ", " << in << " from the edge, " << wide << " wide");
        CHECK(-changeOf(shape, {{middleAt({0, 15, 15}), r}}) ==
              Approx((1 - std::numbers::pi / 4) * r * r * 30 - wide * sectionBeyond(r, in, r)).epsilon(1e-5));
    }
}

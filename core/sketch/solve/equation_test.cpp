#include "core/sketch/solve/equation.hpp"
#include "core/sketch/splines.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;

namespace {

/// Every kind with as many unknowns as it needs, and constants where it has some.
struct Sample {
    EquationKind kind;
    int count;
    std::vector<double> constants = {};
};

const std::vector<Sample>& samples() {
    using K = EquationKind;
    static const std::vector<Sample> all{
        {K::Fix, 1},
        {K::Differ, 2},
        {K::Linear, 3, {1, -0.5, -0.5}},
        {K::Distance, 4},
        {K::PointLine, 6},
        {K::Parallel, 8},
        {K::Perpendicular, 8},
        {K::AngleBetween, 8},
        {K::LengthRatio, 8},
        {K::SymmetricMiddle, 8},
        {K::SymmetricAcross, 8},
        {K::OnCircle, 5},
        {K::TangentLineCircle, 7},
        {K::TangentCircles, 6},
        {K::OnEllipse, 7},
        {K::ArcLength, 7},
        {K::OnConic, 9},
        {K::TangentLineEllipse, 9},
        {K::EllipseEnd, 11},
        {K::EllipseEnds, 14},
        {K::OnSpline, 3 + 12, {7, 11}},
        {K::OnPoles, 3 + 12},
        {K::SplineLine, 5 + 12, {7, 11}},
        {K::SplineAlongLine, 5 + 12, {7, 11}},
        {K::SplineCircle, 4 + 12, {7, 11}},
        {K::SplineAcrossCircle, 4 + 12, {7, 11}},
        {K::PolesLine, 5 + 12},
        {K::PolesAlongLine, 5 + 12},
        {K::PolesCircle, 4 + 12},
        {K::PolesAcrossCircle, 4 + 12},
        {K::Beside, 7},
        {K::AtEllipse, 8},
        {K::AtConic, 10},
        {K::AtRow, 3, {1, 2, 5, 9, 8, 3, 14, 7, 14, 7, 20, 11, 23, 4, 30, 2}},
        {K::SlopeOfSpline, 5 + 12, {7, 11}},
        {K::SlopeOfPoles, 5 + 12},
        {K::SlopeOfEllipse, 10},
        {K::SlopeOfConic, 12},
        {K::SlopeOfRow, 5, {1, 2, 5, 9, 8, 3, 14, 7, 14, 7, 20, 11, 23, 4, 30, 2}},
    };
    return all;
}

int parameterOf(EquationKind kind) {
    switch (kind) {
    case EquationKind::OnSpline:
    case EquationKind::OnPoles:
    case EquationKind::AtEllipse:
    case EquationKind::AtConic:
    case EquationKind::AtRow:
        return 2;
    case EquationKind::SlopeOfSpline:
    case EquationKind::SlopeOfPoles:
    case EquationKind::SlopeOfEllipse:
    case EquationKind::SlopeOfConic:
    case EquationKind::SlopeOfRow:
    case EquationKind::SplineLine:
    case EquationKind::SplineAlongLine:
    case EquationKind::PolesLine:
    case EquationKind::PolesAlongLine:
        return 4;
    case EquationKind::SplineCircle:
    case EquationKind::SplineAcrossCircle:
    case EquationKind::PolesCircle:
    case EquationKind::PolesAcrossCircle:
        return 3;
    default:
        return -1;
    }
}

void checkGradient(const Equation& e, const std::vector<double>& constants, const std::vector<double>& x) {
    std::vector<double> g(x.size());
    evaluate(e, constants.data(), x.data(), g.data());
    for (std::size_t i = 0; i < x.size(); ++i) {
        auto moved = x;
        const double h = 1e-5;
        moved[i] = x[i] + h;
        const double up = evaluate(e, constants.data(), moved.data(), nullptr);
        moved[i] = x[i] - h;
        const double down = evaluate(e, constants.data(), moved.data(), nullptr);
        INFO("kind " << static_cast<int>(e.kind) << ", unknown " << i);
        CHECK(g[i] == Approx((up - down) / (2 * h)).margin(1e-5 * (1 + std::fabs(g[i]))));
    }
}

} // namespace

TEST_CASE("Every hand-written derivative agrees with differences") {
    auto random = test::seeded(11U);
    std::uniform_real_distribution<double> place(-20, 20), size(2, 9);
    for (const Sample& s : samples())
        for (int trial = 0; trial < 12; ++trial) {
            Equation e;
            e.kind = s.kind;
            e.count = s.count;
            e.extras = static_cast<int>(s.constants.size());
            e.value = 0.7;
            e.sense = trial % 2 ? 1 : -1;
            e.scale = 5;
            std::vector<double> x(static_cast<std::size_t>(s.count));
            for (double& v : x) v = place(random);
            // Sizes are positive; a parameter lies within its curve.
            if (s.count % 2 == 1) x.back() = size(random);
            if (s.kind == EquationKind::EllipseEnd || s.kind == EquationKind::EllipseEnds)
                x[6] = size(random);
            if (s.kind == EquationKind::EllipseEnds) x[13] = size(random);
            if (s.kind == EquationKind::EllipseEnd) x.back() = place(random);
            if (s.kind == EquationKind::OnConic) x.back() = 0.2 + 0.05 * size(random);
            if (s.kind == EquationKind::TangentCircles) x[2] = size(random), x[5] = 12 + size(random);
            if (const int t = parameterOf(s.kind); t >= 0)
                x[static_cast<std::size_t>(t)] = s.constants.empty() ? 1.3 : 9.1;
            checkGradient(e, s.constants, x);
        }
}

TEST_CASE("Curvatures of ends agree with differences and with closed forms") {
    Equation e;
    e.kind = EquationKind::SameCurvature;
    e.scale = 3;
    // A quarter of a circle as a conic: shoulder ratio sqrt(2) - 1, radius 10, against an arc of 10.
    e.ends[0] = CurvatureEnd::Conic;
    e.ends[1] = CurvatureEnd::Round;
    e.count = 8;
    const std::vector<double> x{10, 0, 10, 10, 0, 10, std::sqrt(2.0) - 1, 10};
    e.endFactors[1] = -1; // the arc goes on the other way, curving right when walked into
    CHECK(evaluate(e, nullptr, x.data(), nullptr) == Approx(0).margin(1e-12));
    checkGradient(e, {}, x);
    e.ends[0] = CurvatureEnd::Spline;
    e.count = 9;
    e.endFactors[0] = -0.8;
    checkGradient(e, {}, {0, 0, 3, 1, 10, 4, 12, 9, 7});
    e.ends[0] = CurvatureEnd::Poles;
    e.count = 7;
    e.endFactors[0] = 1.0 / 3;
    checkGradient(e, {}, {0, 0, 3, 1, 10, 4, 7});
}

TEST_CASE("A spline through nodes is even in curvature where no handle is held") {
    std::vector<Vec2> p{{0, 0}, {}, {9, 4}, {}, {15, -3}, {}, {31, 2}, {}};
    std::vector<Vec2> nodes{p[0], p[2], p[4], p[6]};
    const auto spans = spansFor(nodes);
    relaxHandles(p, spans, {});
    double t = 0;
    for (std::size_t i = 0; i + 1 < nodes.size(); ++i) {
        const auto piece = splinePiece(p, spans, static_cast<int>(i));
        CHECK(length(piece[0] - nodes[i]) < 1e-12);
        CHECK(length(piece[3] - nodes[i + 1]) < 1e-12);
        t += spans[i];
        if (i + 2 == nodes.size()) break;
        for (int k = 0; k <= 2; ++k) {
            // From both sides of the node; the second derivative is continuous too.
            Vec2 side[2];
            for (int s = 0; s < 2; ++s) {
                const auto w = splineWeights(spans, t + (s ? 1e-9 : -1e-9), k);
                for (std::size_t j = 0; j < 4; ++j)
                    side[s] = side[s] + p[static_cast<std::size_t>(2 * w.piece) + j] * w.weights[j];
            }
            CHECK(length(side[0] - side[1]) < 1e-6);
        }
    }
    // Natural ends: no curvature.
    const auto w = splineWeights(spans, 0, 2);
    Vec2 dd;
    for (std::size_t j = 0; j < 4; ++j) dd = dd + p[j] * w.weights[j];
    CHECK(length(dd) < 1e-12);
}

TEST_CASE("Weights of a spline of poles sum to one, start at the first pole and have right derivatives") {
    for (const int n : {4, 5, 8})
        for (double t = 0; t <= n - 3 + 1e-9; t += 0.37) {
            const auto w = poleWeights(n, t, 0);
            CHECK(w.weights[0] + w.weights[1] + w.weights[2] + w.weights[3] == Approx(1));
        }
    CHECK(poleWeights(7, 0, 0).weights[0] == Approx(1));
    CHECK(poleWeights(7, 4, 0).weights[3] == Approx(1));
    for (const int k : {1, 2})
        for (const double t : {0.3, 1.4, 2.8}) {
            const double h = 1e-5;
            const auto up = poleWeights(7, t + h, k - 1), down = poleWeights(7, t - h, k - 1),
                       w = poleWeights(7, t, k);
            for (std::size_t j = 0; j < 4; ++j)
                CHECK(w.weights[j] == Approx((up.weights[j] - down.weights[j]) / (2 * h)).margin(1e-6));
        }
}

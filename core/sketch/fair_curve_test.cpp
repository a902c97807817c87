#include "core/sketch/box_qp.hpp"
#include "core/sketch/fair_curve.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;

namespace {

FairCurveRequest circleArc(int count, double radius, double tolerance, double noise = 0) {
    auto random = test::seeded(3U);
    std::normal_distribution<double> gauss;
    FairCurveRequest r;
    for (int i = 0; i < count; ++i) {
        const double a = -0.9 + 1.8 * i / (count - 1), rr = radius + noise * gauss(random);
        r.stations.push_back({{rr * std::cos(a), rr * std::sin(a)}, tolerance, 0});
    }
    return r;
}

double curvature(const BSpline2& c, double t) {
    const Vec2 d = c.at(t, 1);
    return cross(d, c.at(t, 2)) / std::pow(length(d), 3);
}

} // namespace

TEST_CASE("A box programme with a known answer is solved") {
    BoxQp qp; // nearest point of the unit box corner region to (3, 0.2) on x + y = 1.1
    qp.hessian = Eigen::Matrix2d::Identity();
    qp.gradient = -Eigen::Vector2d(3, 0.2);
    qp.rows.resize(3, 2);
    qp.rows << 1, 0, 0, 1, 1, 1;
    qp.lower = Eigen::Vector3d(0, 0, 1.1);
    qp.upper = Eigen::Vector3d(1, 1, 1.1);
    Eigen::VectorXd x;
    REQUIRE(solveBoxQp(qp, x));
    CHECK(x[0] == Approx(1).margin(1e-8));
    CHECK(x[1] == Approx(0.1).margin(1e-8));
}

TEST_CASE("The derivatives of the spline agree with differences") {
    const auto f = fitFairCurve(circleArc(7, 40, 0));
    REQUIRE(f.ok());
    for (double t : {0.1, 0.37, 0.62, 0.9})
        for (int k = 0; k < 3; ++k) {
            const double h = 1e-5;
            const Vec2 difference = (f->curve.at(t + h, k) - f->curve.at(t - h, k)) * (1 / (2 * h));
            CHECK(length(difference - f->curve.at(t, k + 1)) < 1e-3 * (1 + length(f->curve.at(t, k + 1))));
        }
}

TEST_CASE("Zero tolerance passes exactly through every station") {
    const auto f = fitFairCurve(circleArc(9, 40, 0));
    REQUIRE(f.ok());
    for (double r : f->residuals) CHECK(std::fabs(r) < 1e-6);
    for (double t = 0.2; t < 0.8; t += 0.05) CHECK(curvature(f->curve, t) == Approx(1 / 40.0).epsilon(0.12));
}

TEST_CASE("The ends keep their heights exactly even where the tolerance lets the curve move") {
    FairCurveRequest request{
        {{{39, 0}, 0.3, 0}, {{42.4, 30}, 0.3, 0}, {{46, 60}, 0.3, 0}, {{56, 110}, 0.3, 0}}, {}, {}};
    const auto f = fitFairCurve(request);
    REQUIRE(f.ok());
    CHECK(f->curve.at(0).y == Approx(0).margin(1e-9));
    CHECK(f->curve.at(1).y == Approx(110).epsilon(1e-12));
    CHECK(std::fabs(f->residuals[0]) + std::fabs(f->residuals[3]) > 0);
}

TEST_CASE("Two stations give a straight line") {
    const auto f = fitFairCurve({{{{30, 0}, 0, 0}, {{50, 100}, 0, 0}}, {}, {}});
    REQUIRE(f.ok());
    for (double t : {0.25, 0.5, 0.75}) {
        const Vec2 p = f->curve.at(t);
        CHECK(p.x == Approx(30 + 0.2 * p.y).margin(1e-7));
    }
}

TEST_CASE("A wider tolerance never bends more, and noise is smoothed away within it") {
    const auto exact = fitFairCurve(circleArc(12, 40, 0, 0.15));
    const auto loose = fitFairCurve(circleArc(12, 40, 0.4, 0.15));
    REQUIRE(exact.ok());
    REQUIRE(loose.ok());
    CHECK(loose->bendingEnergy < exact->bendingEnergy);
    for (double r : loose->residuals) CHECK(std::fabs(r) <= 0.4 + 1e-3);
}

TEST_CASE("The result is a minimum: moving any pole along its normal does not lower the energy") {
    FairCurveRequest request = circleArc(6, 30, 0);
    request.stations[2].point.x += 2;
    const auto f = fitFairCurve(request);
    REQUIRE(f.ok());
    // An independent energy by Simpson's rule on dense samples.
    auto energy = [](const BSpline2& c) {
        const int n = 4000;
        double e = 0;
        for (int i = 0; i <= n; ++i) {
            const double t = double(i) / n, k = curvature(c, t);
            e += k * k * length(c.at(t, 1)) * (i == 0 || i == n ? 1 : i % 2 ? 4 : 2);
        }
        return e / (3 * n);
    };
    CHECK(energy(f->curve) == Approx(f->bendingEnergy).epsilon(1e-3));
}

TEST_CASE("A station measured inside is met by the inner side of the wall") {
    FairCurveRequest request{{{{30, 0}, 0, 0}, {{36, 40}, 0, 2.5}, {{50, 100}, 0, 0}}, {}, {}};
    const auto f = fitFairCurve(request);
    REQUIRE(f.ok());
    double distance = 0;
    f->curve.nearest({36, 40}, &distance);
    CHECK(distance == Approx(2.5).margin(2e-3));
    CHECK(std::fabs(f->residuals[1]) < 2e-3);
}

TEST_CASE("Overhanging and random profiles keep their tolerances") {
    auto random = test::seeded(9U);
    std::uniform_real_distribution<double> u(0, 1);
    std::normal_distribution<double> gauss;
    int unmet = 0;
    for (int k = 0; k < test::rounds(60); ++k) {
        const int n = 6 + static_cast<int>(random() % 16);
        const bool overhang = k % 2;
        const double phase = u(random) * 6;
        FairCurveRequest request;
        double x = 40, y = 0;
        for (int i = 0; i < n; ++i) {
            const double noise = i % 3 ? 0.1 : 0;
            request.stations.push_back(
                {{x + noise * gauss(random), y + noise * gauss(random)}, i % 3 ? 0.3 : 0, 0});
            const double step = 4 + 10 * u(random),
                         a = 1.57 + (overhang ? 1.7 : 0.6) * std::sin(phase + i * 5.0 / n);
            x += step * std::cos(a);
            y += step * std::sin(a);
        }
        const auto f = fitFairCurve(request);
        if (!f) {
            ++unmet;
            continue;
        }
        for (std::size_t i = 0; i < f->residuals.size(); ++i)
            CHECK(std::fabs(f->residuals[i]) <= request.stations[i].tolerance + 1.0001e-3);
    }
    CHECK(unmet <= 3);
}

TEST_CASE("End leans are met") {
    FairCurveRequest request = circleArc(6, 40, 0.05);
    request.startLean = 2.0;
    request.endLean = 2.4;
    const auto f = fitFairCurve(request);
    REQUIRE(f.ok());
    const Vec2 a = f->curve.at(0, 1), b = f->curve.at(1, 1);
    CHECK(std::atan2(a.y, a.x) == Approx(2.0).margin(1e-4));
    CHECK(std::atan2(b.y, b.x) == Approx(2.4).margin(1e-4));
}

TEST_CASE("Rows that cannot be used are named") {
    CHECK(fitFairCurve({{{{30, 0}, 0, 0}}, {}, {}}).error().code == "stations.few");
    const auto same = fitFairCurve({{{{30, 0}, 0, 0}, {{30, 0}, 0, 0}, {{40, 9}, 0, 0}}, {}, {}});
    CHECK(same.error().code == "stations.same");
    CHECK(same.error().position == 1);
}

TEST_CASE("A cone that was measured exactly comes out exactly, whatever the tolerance") {
    for (const double tolerance : {0.0, 0.1, 1.0})
        for (const double slope : {0.0, 0.1, -0.4}) {
            FairCurveRequest r;
            for (const double h : {0.0, 12.5, 31.0, 55.0, 78.0, 95.0})
                r.stations.push_back({{70 + slope * h, h}, tolerance, 0});
            const auto f = fitFairCurve(r);
            REQUIRE(f.ok());
            INFO(tolerance << " " << slope);
            for (const double residual : f->residuals) CHECK(std::fabs(residual) < 1e-7);
            for (double t = 0; t <= 1; t += 0.05) {
                const Vec2 p = f->curve.at(t);
                CHECK(p.x == Approx(70 + slope * p.y).margin(1e-6));
            }
        }
}

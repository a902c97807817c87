#include "core/steps/fillet/ball.hpp"

#include "core/base/tolerance.hpp"

#include <Eigen/LU>

#include <algorithm>
#include <cmath>

namespace gc {

std::optional<Ball> ballWithin(const std::array<const FaceSurface*, 3>& sides, const Ball& start,
                               const RulesBall& rule) {
    constexpr int kSteps = 40;
    constexpr double kSeam =
        2e-5; // mm: where a surface closes up, the ball may have two places as near as that
    Ball ball = start;
    for (int k = 0; k < kSteps; ++k) {
        Eigen::Matrix4d a;
        Eigen::Vector4d b;
        for (int i = 0; i < 3; ++i) {
            const auto at = static_cast<std::size_t>(i);
            const auto foot = footPoint(sides[at]->surface(), ball.centre, ball.touches[at].uv);
            if (!foot) return std::nullopt;
            ball.touches[at] = *foot;
            const auto out = sides[at]->outward(*foot);
            if (!out) return std::nullopt;
            a.row(i) << -out->X(), -out->Y(), -out->Z(), -1;
            b(i) = ball.radius + gp_Vec(foot->at, ball.centre).Dot(*out);
        }
        const BallRule r = rule(ball);
        a.row(3) << r.grows.X(), r.grows.Y(), r.grows.Z(), 0;
        b(3) = -r.value;
        const Eigen::FullPivLU<Eigen::Matrix4d> lu(a);
        if (!lu.isInvertible()) return std::nullopt;
        Eigen::Vector4d x = lu.solve(b);
        const double far = x.head<3>().norm(), most = std::max(0.5 * ball.radius, 1e-3);
        if (far > most) x *= most / far;
        ball.centre.Translate(gp_Vec(x(0), x(1), x(2)));
        ball.radius += x(3);
        if (ball.radius <= 0) return std::nullopt;
        if (b.cwiseAbs().maxCoeff() < 0.01 * kKernelPoint && far < 0.01 * kKernelPoint) return ball;
        if (k + 1 == kSteps && b.cwiseAbs().maxCoeff() < kSeam && far < kSeam) return ball;
    }
    return std::nullopt;
}

} // namespace gc

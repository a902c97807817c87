#include "core/sketch/box_qp.hpp"

#include <vector>

namespace gc {

namespace {

using Eigen::MatrixXd;
using Eigen::VectorXd;

/// The problem with its rows parted into equations and ranges, and the iterate with its slacks.
class InteriorPoint {
  public:
    InteriorPoint(const BoxQp& p, VectorXd& x) : m_problem(p), m_x(x) {
        std::vector<Eigen::Index> ranges, equations;
        for (Eigen::Index i = 0; i < p.rows.rows(); ++i)
            (p.upper[i] - p.lower[i] < 1e-12 ? equations : ranges).push_back(i);
        m_ranges = p.rows(ranges, Eigen::all);
        m_equations = p.rows(equations, Eigen::all);
        m_high = p.upper(ranges);
        m_low = p.lower(ranges);
        m_wanted = p.lower(equations);
        start();
    }

    bool run() {
        for (int iteration = 0; iteration < 50; ++iteration) {
            residuals();
            if (converged()) return true;
            factorise();
            direction(-m_slackHigh.cwiseProduct(m_forceHigh), -m_slackLow.cwiseProduct(m_forceLow));
            if (count() > 0) centre();
            advance(count() > 0 ? std::min(1.0, 0.995 * longestStep()) : 1.0);
        }
        return false;
    }

  private:
    Eigen::Index count() const { return m_ranges.rows(); }

    void start() {
        const Eigen::Index k = count();
        const VectorXd middle = 0.5 * (m_problem.lower + m_problem.upper);
        MatrixXd m = m_problem.rows.transpose() * m_problem.rows * 1e3 + m_problem.hessian;
        m.diagonal().array() += 1e-9;
        m_x = m.ldlt().solve(m_problem.rows.transpose() * middle * 1e3 - m_problem.gradient);
        m_multipliers = VectorXd::Zero(m_equations.rows());
        const VectorXd at = m_ranges * m_x, width = m_high - m_low;
        m_slackHigh = (m_high - at).cwiseMax(0.1 * width);
        m_slackLow = (at - m_low).cwiseMax(0.1 * width);
        const double size =
            (m_problem.hessian * m_x + m_problem.gradient).norm() / std::sqrt(double(m_x.size())) + 1e-6;
        m_forceHigh = m_forceLow = VectorXd::Constant(k, size);
    }

    void residuals() {
        m_dual = m_problem.hessian * m_x + m_problem.gradient + m_equations.transpose() * m_multipliers +
                 m_ranges.transpose() * (m_forceHigh - m_forceLow);
        m_equality = m_equations * m_x - m_wanted;
        const VectorXd at = m_ranges * m_x;
        m_missHigh = at + m_slackHigh - m_high;
        m_missLow = m_slackLow + m_low - at;
        m_gap = count() > 0
                    ? (m_slackHigh.dot(m_forceHigh) + m_slackLow.dot(m_forceLow)) / double(2 * count())
                    : 0;
    }

    static double largest(const VectorXd& v) { return v.size() ? v.lpNorm<Eigen::Infinity>() : 0; }

    bool converged() const {
        const double scale = 1 + largest(m_problem.gradient);
        const double primal = std::max({largest(m_equality), largest(m_missHigh), largest(m_missLow)});
        return primal < 1e-10 && largest(m_dual) < 1e-8 * scale && m_gap < 1e-11 * scale;
    }

    void factorise() {
        const Eigen::Index n = m_x.size(), e = m_equations.rows();
        const VectorXd weight = m_forceHigh.cwiseQuotient(m_slackHigh) + m_forceLow.cwiseQuotient(m_slackLow);
        MatrixXd k = MatrixXd::Zero(n + e, n + e);
        k.topLeftCorner(n, n) = m_problem.hessian + m_ranges.transpose() * weight.asDiagonal() * m_ranges;
        k.topLeftCorner(n, n).diagonal().array() += 1e-13;
        k.topRightCorner(n, e) = m_equations.transpose();
        k.bottomLeftCorner(e, n) = m_equations;
        m_factor.compute(k);
    }

    void direction(const VectorXd& targetHigh, const VectorXd& targetLow) {
        const Eigen::Index n = m_x.size(), e = m_equations.rows();
        const VectorXd high = (targetHigh + m_forceHigh.cwiseProduct(m_missHigh)).cwiseQuotient(m_slackHigh);
        const VectorXd low = (targetLow + m_forceLow.cwiseProduct(m_missLow)).cwiseQuotient(m_slackLow);
        VectorXd right(n + e);
        right.head(n) = -m_dual - m_ranges.transpose() * (high - low);
        right.tail(e) = -m_equality;
        const VectorXd d = m_factor.solve(right);
        m_dx = d.head(n);
        m_dMultipliers = d.tail(e);
        const VectorXd move = m_ranges * m_dx;
        m_dSlackHigh = -m_missHigh - move;
        m_dSlackLow = -m_missLow + move;
        m_dForceHigh = (targetHigh - m_forceHigh.cwiseProduct(m_dSlackHigh)).cwiseQuotient(m_slackHigh);
        m_dForceLow = (targetLow - m_forceLow.cwiseProduct(m_dSlackLow)).cwiseQuotient(m_slackLow);
    }

    void centre() {
        const double a = longestStep();
        const double reached = ((m_slackHigh + a * m_dSlackHigh).dot(m_forceHigh + a * m_dForceHigh) +
                                (m_slackLow + a * m_dSlackLow).dot(m_forceLow + a * m_dForceLow)) /
                               double(2 * count());
        const double sigma = std::pow(reached / m_gap, 3);
        const VectorXd aim = VectorXd::Constant(count(), sigma * m_gap);
        direction(aim - m_slackHigh.cwiseProduct(m_forceHigh) - m_dSlackHigh.cwiseProduct(m_dForceHigh),
                  aim - m_slackLow.cwiseProduct(m_forceLow) - m_dSlackLow.cwiseProduct(m_dForceLow));
    }

    double longestStep() const {
        double a = 1;
        auto limit = [&](const VectorXd& v, const VectorXd& d) {
            for (Eigen::Index i = 0; i < v.size(); ++i)
                if (d[i] < 0) a = std::min(a, -v[i] / d[i]);
        };
        limit(m_slackHigh, m_dSlackHigh);
        limit(m_slackLow, m_dSlackLow);
        limit(m_forceHigh, m_dForceHigh);
        limit(m_forceLow, m_dForceLow);
        return a;
    }

    void advance(double a) {
        m_x += a * m_dx;
        m_multipliers += a * m_dMultipliers;
        m_slackHigh += a * m_dSlackHigh;
        m_slackLow += a * m_dSlackLow;
        m_forceHigh += a * m_dForceHigh;
        m_forceLow += a * m_dForceLow;
    }

    const BoxQp& m_problem;
    VectorXd& m_x;
    MatrixXd m_ranges, m_equations;
    VectorXd m_high, m_low, m_wanted;
    VectorXd m_multipliers, m_slackHigh, m_slackLow, m_forceHigh, m_forceLow;
    VectorXd m_dual, m_equality, m_missHigh, m_missLow;
    VectorXd m_dx, m_dMultipliers, m_dSlackHigh, m_dSlackLow, m_dForceHigh, m_dForceLow;
    Eigen::PartialPivLU<MatrixXd> m_factor;
    double m_gap = 0;
};

} // namespace

bool solveBoxQp(const BoxQp& problem, VectorXd& x) {
    return InteriorPoint(problem, x).run() && x.allFinite();
}

} // namespace gc

#pragma once
/// \file A small dense quadratic programme with two-sided bounds.

#include <Eigen/Dense>

namespace gc {

/// Minimise x'Hx/2 + g'x subject to lower <= A x <= upper; rows with equal bounds are equations.
struct BoxQp {
    Eigen::MatrixXd hessian;
    Eigen::VectorXd gradient;
    Eigen::MatrixXd rows;
    Eigen::VectorXd lower, upper;
};

/// Solves by a primal-dual interior point method with Mehrotra's predictor and corrector
/// (S. Mehrotra, SIAM J. Optim. 2, 1992). H may be singular as long as the rows hold x.
/// \return true when the residuals fell below 1e-10 and the gap below 1e-11 (scaled).
bool solveBoxQp(const BoxQp& problem, Eigen::VectorXd& x);

} // namespace gc

#include "core/sketch/fair_curve.hpp"

#include "core/base/at_index.hpp"
#include "core/sketch/box_qp.hpp"

#include <algorithm>
#include <array>
#include <cmath>

namespace gc {

namespace {

using Eigen::MatrixXd;
using Eigen::VectorXd;

// Gauss-Legendre, four points on [-1, 1].
constexpr std::array<double, 4> kNodes{-0.8611363115940526, -0.3399810435848563, 0.3399810435848563,
                                       0.8611363115940526};
constexpr std::array<double, 4> kWeights{0.3478548451374538, 0.6521451548625461, 0.6521451548625461,
                                         0.3478548451374538};
constexpr int kMostPoles = 40;
constexpr double kOverTolerance = 1e-3; // mm
constexpr double kTrustStart = 0.02;    // of the curve's length

/// One fit with a fixed number of poles. Inside, lengths are scaled by the chord length of the stations.
class Fitter {
  public:
    Fitter(const FairCurveRequest& request, int poles)
        : m_request(request), m_stations(static_cast<int>(request.stations.size())), m_n(poles) {
        chordParameters();
        m_curve.degree = 3;
        placeKnots();
        m_curve.poles.assign(at(m_n), {});
    }

    bool run() {
        if (!quadraticStart()) return false;
        refoot();
        minimiseBending();
        return true;
    }

    FairCurve finish() {
        FairCurve f;
        f.curve = m_curve;
        for (Vec2& p : f.curve.poles) p = p * m_scale;
        f.bendingEnergy = energy() / m_scale;
        f.steps = m_accepted;
        for (const FairStation& s : m_request.stations) {
            // The station's target moves with the normal at its foot; two rounds settle it.
            double distance = 0, t = f.curve.nearest(s.point);
            Vec2 target = s.point, outward;
            for (int round = 0; round < 4; ++round) {
                const Vec2 d = f.curve.at(t, 1);
                outward = Vec2{d.y, -d.x} * (1 / std::max(length(d), 1e-30));
                target = s.point + outward * s.wall;
                t = f.curve.nearest(target, &distance);
            }
            const double side = dot(f.curve.at(t) - target, outward);
            f.residuals.push_back(side < 0 ? -distance : distance);
            f.parameters.push_back(t);
        }
        return f;
    }

  private:
    struct Bounds {
        std::vector<VectorXd> rows;
        std::vector<double> low, high;
        std::vector<bool> isPosition; // along the end tangents: not part of the normal steps
        void add(VectorXd row, double l, double h, bool position = true) {
            rows.push_back(std::move(row));
            low.push_back(l);
            high.push_back(h);
            isPosition.push_back(position);
        }
    };

    void chordParameters() {
        m_t.assign(at(m_stations), 0);
        for (int i = 1; i < m_stations; ++i)
            m_t[at(i)] = m_t[at(i - 1)] +
                         length(m_request.stations[at(i)].point - m_request.stations[at(i - 1)].point);
        m_scale = m_t.back();
        for (double& t : m_t) t /= m_scale;
        m_normal.resize(at(m_stations));
        for (int i = 0; i < m_stations; ++i) {
            const Vec2 d = m_request.stations[at(std::min(m_stations - 1, i + 1))].point -
                           m_request.stations[at(std::max(0, i - 1))].point;
            m_normal[at(i)] = Vec2{-d.y, d.x} * (1 / length(d));
        }
    }

    /// 70 % quantiles of the stations, 30 % uniform.
    void placeKnots() {
        const int p = 3, inner = m_n - p;
        m_curve.knots.assign(at(m_n + p + 1), 0);
        for (int i = 0; i <= p; ++i) m_curve.knots[at(m_n + p - i)] = 1;
        for (int k = 1; k < inner; ++k) {
            const double q = double(k) / inner * (m_stations - 1);
            const int i = std::min(m_stations - 2, static_cast<int>(q));
            const double quantile = m_t[at(i)] + (m_t[at(i + 1)] - m_t[at(i)]) * (q - i);
            m_curve.knots[at(p + k)] = 0.7 * quantile + 0.3 * k / inner;
        }
    }

    template <class Visit>
    void quadrature(Visit visit) const {
        for (int s = 3; s < m_n; ++s) {
            const double a = m_curve.knots[at(s)], b = m_curve.knots[at(s + 1)];
            if (b - a < 1e-12) continue;
            for (std::size_t g = 0; g < 4; ++g)
                visit(0.5 * (a + b) + 0.5 * (b - a) * kNodes[g], 0.5 * (b - a) * kWeights[g]);
        }
    }

    /// The measured point of station i in scaled lengths, moved out by its wall.
    Vec2 target(int i) const {
        const FairStation& s = m_request.stations[at(i)];
        return (s.point - m_normal[at(i)] * s.wall) * (1 / m_scale);
    }

    VectorXd pointRow(double t, Vec2 direction) const {
        BSpline2::Basis b;
        const int s = m_curve.basis(t, b);
        VectorXd row = VectorXd::Zero(2 * m_n);
        for (int j = 0; j <= 3; ++j) {
            row[s - 3 + j] = b[0][at(j)] * direction.x;
            row[m_n + s - 3 + j] = b[0][at(j)] * direction.y;
        }
        return row;
    }

    /// Per station the miss along the normal; along the tangent exactly at the ends, loosely elsewhere.
    Bounds bounds(bool holdAlong) const {
        Bounds b;
        for (int i = 0; i < m_stations; ++i) {
            // An end keeps its height exactly and gives way in its radius only: a part is as tall as
            // measured.
            const bool end = i == 0 || i == m_stations - 1;
            const Vec2 n = end ? Vec2{-1, 0} : m_normal[at(i)], along{n.y, -n.x};
            const double tolerance = m_request.stations[at(i)].tolerance / m_scale;
            const double c = dot(n, target(i));
            b.add(pointRow(m_t[at(i)], n), c - tolerance, c + tolerance);
            if (!holdAlong && !end) continue;
            const double slack = end ? 0 : tolerance + 0.02, d = dot(along, target(i));
            b.add(pointRow(m_t[at(i)], along), d - slack, d + slack, false);
        }
        auto lean = [&](const std::optional<double>& angle, int i0, int i1) {
            if (!angle) return;
            const double c = std::cos(*angle), s = std::sin(*angle);
            VectorXd row = VectorXd::Zero(2 * m_n);
            row[i1] = -s;
            row[i0] = s;
            row[m_n + i1] = c;
            row[m_n + i0] = -c;
            b.add(std::move(row), 0, 0);
        };
        lean(m_request.startLean, 0, 1);
        lean(m_request.endLean, m_n - 2, m_n - 1);
        return b;
    }

    bool quadraticStart() {
        MatrixXd h = MatrixXd::Zero(m_n, m_n);
        quadrature([&](double t, double w) {
            BSpline2::Basis b;
            const int s = m_curve.basis(t, b);
            for (int i = 0; i <= 3; ++i)
                for (int j = 0; j <= 3; ++j) h(s - 3 + i, s - 3 + j) += w * b[2][at(i)] * b[2][at(j)];
        });
        BoxQp qp;
        qp.hessian = MatrixXd::Zero(2 * m_n, 2 * m_n);
        qp.hessian.topLeftCorner(m_n, m_n) = h;
        qp.hessian.bottomRightCorner(m_n, m_n) = h;
        qp.hessian /= h.trace() / m_n;
        // What bending leaves open stays near the straight way from station to station: pulled to nothing, a
        // cone that was measured exactly would come out thinner.
        constexpr double kPull = 1e-10;
        qp.hessian.diagonal().array() += kPull;
        qp.gradient = VectorXd::Zero(2 * m_n);
        for (int i = 0; i < m_n; ++i) {
            const Vec2 p = onStations(greville(i));
            qp.gradient[i] = -kPull * p.x, qp.gradient[m_n + i] = -kPull * p.y;
        }
        const Bounds b = bounds(true);
        qp.rows.resize(static_cast<Eigen::Index>(b.rows.size()), 2 * m_n);
        for (std::size_t i = 0; i < b.rows.size(); ++i) qp.rows.row(Eigen::Index(i)) = b.rows[i].transpose();
        qp.lower = Eigen::Map<const VectorXd>(b.low.data(), Eigen::Index(b.low.size()));
        qp.upper = Eigen::Map<const VectorXd>(b.high.data(), Eigen::Index(b.high.size()));
        VectorXd x;
        const bool ok = solveBoxQp(qp, x);
        if (!x.allFinite()) return false;
        setPoles(x);
        return ok || x.allFinite();
    }

    double greville(int i) const {
        return (m_curve.knots[at(i + 1)] + m_curve.knots[at(i + 2)] + m_curve.knots[at(i + 3)]) / 3;
    }

    /// The place at a parameter on straight lines from station to station.
    Vec2 onStations(double t) const {
        int i = 0;
        while (i + 2 < m_stations && t > m_t[at(i + 1)]) ++i;
        const double f = (t - m_t[at(i)]) / std::max(m_t[at(i + 1)] - m_t[at(i)], 1e-12);
        return target(i) + (target(i + 1) - target(i)) * std::clamp(f, 0.0, 1.0);
    }

    void setPoles(const VectorXd& x) {
        for (int i = 0; i < m_n; ++i) m_curve.poles[at(i)] = {x[i], x[m_n + i]};
    }

    /// Moves every inner station's parameter to its foot on the curve and renews all normals.
    void refoot() {
        for (int i = 0; i < m_stations; ++i) {
            const bool inner = i > 0 && i + 1 < m_stations;
            double& t = m_t[at(i)];
            for (int k = 0; inner && k < 4; ++k) {
                const Vec2 r = m_curve.at(t) - target(i), d = m_curve.at(t, 1), e = m_curve.at(t, 2);
                double slope = dot(d, d) + dot(r, e);
                if (slope < 1e-12) slope = std::max(dot(d, d), 1e-12);
                const double low = m_t[at(i - 1)] + 1e-4;
                t = std::clamp(t - dot(r, d) / slope, low, std::max(low + 1e-4, m_t[at(i + 1)] - 1e-4));
                t = std::min(t, 1.0);
            }
            const Vec2 d = m_curve.at(t, 1);
            if (length(d) > 1e-9) m_normal[at(i)] = Vec2{-d.y, d.x} * (1 / length(d));
        }
    }

    double energy() const {
        double e = 0;
        quadrature([&](double t, double w) {
            const Vec2 d = m_curve.at(t, 1);
            const double c = cross(d, m_curve.at(t, 2)), v2 = std::max(dot(d, d), 1e-20);
            e += w * c * c / (v2 * v2 * std::sqrt(v2)); // curvature^2 ds
        });
        return e;
    }

    double violation() const {
        double v = 0;
        for (int i = 0; i < m_stations; ++i)
            v += std::max(0.0, length(m_curve.at(m_t[at(i)]) - target(i)) -
                                   m_request.stations[at(i)].tolerance / m_scale);
        return v;
    }

    /// Gauss-Newton on f = sqrt(w) (C' x C'') / |C'|^(5/2), whose squares sum to the bending energy.
    void gaussNewton(MatrixXd& h, VectorXd& g) const {
        h.setZero(2 * m_n, 2 * m_n);
        g.setZero(2 * m_n);
        quadrature([&](double t, double w) {
            BSpline2::Basis b;
            const int s = m_curve.basis(t, b);
            const Vec2 d = m_curve.at(t, 1), e = m_curve.at(t, 2);
            const double c = cross(d, e), v2 = std::max(dot(d, d), 1e-20);
            const double q = std::sqrt(w) * std::pow(v2, -1.25), f = q * c;
            const double fd = -2.5 * f / v2;
            const double dx = q * e.y + fd * d.x, dy = -q * e.x + fd * d.y, ex = -q * d.y, ey = q * d.x;
            Eigen::Matrix<double, 8, 1> j;
            for (int i = 0; i <= 3; ++i) {
                j[i] = dx * b[1][at(i)] + ex * b[2][at(i)];
                j[4 + i] = dy * b[1][at(i)] + ey * b[2][at(i)];
            }
            auto column = [&](int i) { return (i / 4) * m_n + s - 3 + i % 4; };
            for (int i = 0; i < 8; ++i) {
                g[column(i)] += j[i] * f;
                for (int k = 0; k < 8; ++k) h(column(i), column(k)) += j[i] * j[k];
            }
        });
    }

    /// The pole moves along the curve's normal at its Greville abscissa (free moves would slide along it).
    MatrixXd normalMoves() const {
        MatrixXd b = MatrixXd::Zero(2 * m_n, m_n);
        for (int i = 0; i < m_n; ++i) {
            const Vec2 d = m_curve.at(greville(i), 1);
            const double l = std::max(length(d), 1e-30);
            const bool end = i == 0 || i == m_n - 1;
            b(i, i) = end ? -1 : -d.y / l;
            b(m_n + i, i) = end ? 0 : d.x / l;
        }
        return b;
    }

    bool normalStep(double trust, VectorXd& move) const {
        MatrixXd h;
        VectorXd g;
        gaussNewton(h, g);
        const MatrixXd b = normalMoves();
        BoxQp qp;
        qp.hessian = b.transpose() * h * b;
        qp.gradient = b.transpose() * g;
        const double trace = std::max(qp.hessian.trace() / m_n, 1e-30);
        qp.hessian.diagonal().array() += 1e-9 * trace;
        qp.hessian /= trace;
        qp.gradient /= trace;
        const Bounds all = bounds(false);
        VectorXd poles(2 * m_n);
        for (int i = 0; i < m_n; ++i) {
            poles[i] = m_curve.poles[at(i)].x;
            poles[m_n + i] = m_curve.poles[at(i)].y;
        }
        std::vector<std::size_t> kept;
        for (std::size_t i = 0; i < all.rows.size(); ++i)
            if (all.isPosition[i]) kept.push_back(i);
        const auto k = static_cast<Eigen::Index>(kept.size());
        qp.rows.resize(k + m_n, m_n);
        qp.lower.resize(k + m_n);
        qp.upper.resize(k + m_n);
        for (Eigen::Index i = 0; i < k; ++i) {
            const std::size_t r = kept[static_cast<std::size_t>(i)];
            const double now = all.rows[r].dot(poles);
            qp.rows.row(i) = all.rows[r].transpose() * b;
            qp.lower[i] = all.low[r] - now;
            qp.upper[i] = all.high[r] - now;
        }
        qp.rows.bottomRows(m_n) = MatrixXd::Identity(m_n, m_n);
        qp.lower.tail(m_n).setConstant(-trust);
        qp.upper.tail(m_n).setConstant(trust);
        VectorXd d;
        if (!solveBoxQp(qp, d)) return false;
        move = b * d;
        return true;
    }

    void minimiseBending() {
        double e = energy(), v = violation(), trust = kTrustStart;
        const double penalty = 20 * std::max(e, 1e-6) / 0.01;
        for (int round = 0; round < 40; ++round) {
            if (m_request.stop && m_request.stop()) return;
            VectorXd move;
            if (!normalStep(std::max(trust, 3 * v), move)) {
                trust *= 0.3;
                if (trust < 1e-5) break;
                continue;
            }
            const auto poles = m_curve.poles;
            const auto parameters = m_t;
            const auto normals = m_normal;
            for (int i = 0; i < m_n; ++i)
                m_curve.poles[at(i)] = m_curve.poles[at(i)] + Vec2{move[i], move[m_n + i]};
            refoot();
            refoot();
            const double newEnergy = energy(), newViolation = violation();
            const double before = e + penalty * v, after = newEnergy + penalty * newViolation;
            if (after < before) {
                e = newEnergy;
                v = newViolation;
                ++m_accepted;
                trust = std::min(0.1, trust * 1.6);
                if ((before - after) / before < 1e-5 && v < 1e-7) break;
            } else {
                m_curve.poles = poles;
                m_t = parameters;
                m_normal = normals;
                trust = std::min(trust, move.lpNorm<Eigen::Infinity>()) * 0.35;
                if (trust < 1e-7) break;
            }
        }
    }

    const FairCurveRequest& m_request;
    int m_stations, m_n;
    BSpline2 m_curve;
    std::vector<double> m_t;    // parameter of each station's foot
    std::vector<Vec2> m_normal; // left normal there
    double m_scale = 1;
    int m_accepted = 0;
};

double worstMiss(const FairCurve& f, const FairCurveRequest& request) {
    double worst = 0;
    for (std::size_t i = 0; i < f.residuals.size(); ++i)
        worst = std::max(worst, std::fabs(f.residuals[i]) - request.stations[i].tolerance);
    return worst;
}

} // namespace

Result<FairCurve> fitFairCurve(const FairCurveRequest& request) {
    Error e;
    const auto& stations = request.stations;
    if (stations.size() < 2) {
        e.code = "stations.few";
        e.sentence = "A profile needs at least two stations. Add a row with a height and a diameter.";
        return e;
    }
    if (stations.size() > kMostStations)
        return errorOf("stations.many",
                       phrase("The table has %1 rows; a fair curve takes at most %2. Leave out rows where "
                              "the profile runs evenly.",
                              std::to_string(stations.size()), std::to_string(kMostStations)));
    for (std::size_t i = 1; i < stations.size(); ++i)
        if (length(stations[i].point - stations[i - 1].point) < 1e-6) {
            e.code = "stations.same";
            e.position = static_cast<int>(i);
            e.sentence = phrase("Rows %1 and %2 are the same point. Delete one of them.", std::to_string(i),
                                std::to_string(i + 1));
            return e;
        }
    // Degree 3, stations + 4 poles; more when a tolerance is still missed.
    const int first = std::min(kMostPoles, static_cast<int>(stations.size()) + 4);
    std::optional<FairCurve> best;
    double bestMiss = 0;
    for (int poles = first; poles <= std::max(kMostPoles, first); poles += 4) {
        if (request.stop && request.stop()) return errorOf("step.stopped", "The step was stopped.");
        Fitter fitter(request, poles);
        if (!fitter.run()) continue;
        FairCurve f = fitter.finish();
        const double miss = worstMiss(f, request);
        if (!best || miss < bestMiss) {
            best = std::move(f);
            bestMiss = miss;
        }
        if (bestMiss < kOverTolerance) return *best;
    }
    e.code = "stations.unmet";
    e.sentence = "No smooth curve passes all stations within their tolerances. Widen a tolerance or check "
                 "the rows for a slip.";
    if (best) {
        std::size_t row = 0;
        for (std::size_t i = 0; i < stations.size(); ++i)
            if (std::fabs(best->residuals[i]) - stations[i].tolerance >
                std::fabs(best->residuals[row]) - stations[row].tolerance)
                row = i;
        e.position = static_cast<int>(row);
        e.culprits = {"row " + std::to_string(row + 1)};
    }
    return e;
}

} // namespace gc

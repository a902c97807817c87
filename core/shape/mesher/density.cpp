#include "core/shape/mesher/patch.hpp"

#include <algorithm>

namespace gc {

namespace {

/// More turning than this in one step can invert triangles in the tangent plane (seen on the top of a torus).
constexpr double kMostTurn = 0.7; // rad

struct Samples {
    std::size_t nu = 0, nv = 0;
    std::vector<Vec3> points, normals; ///< u fastest
};

/// What one step between neighbouring samples needs: the worst over all rows (or columns).
struct Need {
    explicit Need(std::size_t n) : sag(n, 0), angle(n, 0), length(n, 0), turn(n, 0) {}
    std::vector<double> sag, angle, length, turn;
};

double between(Vec3 unitA, Vec3 unitB) {
    return 2 * std::asin(std::min(1.0, length(unitA - unitB) / 2));
}

std::vector<double> parameters(const SurfaceEval& surface, double from, double to, bool alongU) {
    // A knot within rounding of another, or of an end, makes no span: it would be divided by nothing.
    constexpr double kSpan = 1e-9;
    const double least = kSpan * std::fabs(to - from);
    std::vector<double> knots{from};
    for (const double t : surface.breaks(from, to, alongU))
        if (t - knots.back() > least && to - t > least) knots.push_back(t);
    knots.push_back(to);
    const std::size_t spans = knots.size() - 1;
    const int parts = spans >= 24 ? 1 : spans >= 10 ? 2 : spans >= 4 ? 4 : spans >= 2 ? 8 : 12;
    std::vector<double> out;
    for (std::size_t i = 0; i < spans; ++i)
        for (int k = 0; k < parts; ++k) out.push_back(knots[i] + (knots[i + 1] - knots[i]) * k / parts);
    out.push_back(to);
    return out;
}

/// Sag and turning of one step. The sag is never taken as less than the turning would give on an even curve:
/// a chord whose ends look alike may still hide a wave.
void measureStep(Vec3 p, Vec3 q, Vec3 np, Vec3 nq, double& sag, double& angle, double& l) {
    const Vec3 d = q - p;
    angle = between(np, nq);
    l = length(d);
    sag = std::max(std::fabs(dot(d, nq - np)), 0.15 * angle * l) / 8;
}

/// The steps along one direction, row by row; `sample(row, i)` is the number of sample i of a row.
/// \return sag and angle of each step, a row after the other
template <class Sample>
std::vector<std::pair<double, double>> measureSteps(const Samples& s, std::size_t rows, std::size_t count,
                                                    Sample&& sample, Need& need) {
    std::vector<std::pair<double, double>> steps(rows * (count - 1));
    for (std::size_t row = 0; row < rows; ++row)
        for (std::size_t i = 0; i + 1 < count; ++i) {
            const std::size_t a = sample(row, i), b = sample(row, i + 1);
            auto& [sag, angle] = steps[row * (count - 1) + i];
            double l = 0;
            measureStep(s.points[a], s.points[b], s.normals[a], s.normals[b], sag, angle, l);
            need.sag[i] = std::max(need.sag[i], sag);
            need.angle[i] = std::max(need.angle[i], angle);
            need.length[i] = std::max(need.length[i], l);
        }
    return steps;
}

/// How much the polylines along one direction turn in space, a step; rows that are nearly a point do not
/// count. `point(row, i)` is sample i of a row.
template <class Sample>
void measureTurning(const Samples& s, std::size_t rows, std::size_t count, Sample&& sample, Need& need,
                    std::vector<double>* rowTurn) {
    double whole = 0;
    for (const double l : need.length) whole += l;
    const auto step = [&](std::size_t row, std::size_t i) {
        return s.points[sample(row, i + 1)] - s.points[sample(row, i)];
    };
    for (std::size_t row = 0; row < rows; ++row) {
        double l = 0;
        for (std::size_t i = 0; i + 1 < count; ++i) l += length(step(row, i));
        if (l < 0.02 * whole) continue;
        for (std::size_t i = 0; i + 2 < count; ++i) {
            const Vec3 a = step(row, i), b = step(row, i + 1);
            if (length(a) < 1e-9 || length(b) < 1e-9) continue;
            const double t = between(unit(a), unit(b));
            if (rowTurn) (*rowTurn)[row] += t / kMostTurn;
            need.turn[i] = std::max(need.turn[i], t);
            need.turn[i + 1] = std::max(need.turn[i + 1], t);
        }
    }
}

std::vector<double> accumulate(const Need& need, double deviation, double insideAngle) {
    std::vector<double> steps{0};
    for (std::size_t i = 0; i < need.sag.size(); ++i) {
        const double more = std::max(
            {std::sqrt(need.sag[i] / deviation), need.angle[i] / insideAngle, 1e-9 + 1e-7 * need.length[i]});
        // Where the surface has no normal there is nothing to measure: it gets the step of its sample.
        steps.push_back(steps.back() + (std::isfinite(more) ? more : 1));
    }
    return steps;
}

/// The sag that is left once whole steps are taken.
double remainingSag(const Need& need, const std::vector<double>& steps) {
    const double n = std::max(1.0, std::ceil(steps.back() - 1e-6)), one = steps.back() / n;
    double worst = 0;
    for (std::size_t i = 0; i < need.sag.size(); ++i) {
        const double k = steps[i + 1] - steps[i];
        if (k > 1e-8) worst = std::max(worst, need.sag[i] * (one / k) * (one / k));
    }
    return worst;
}

} // namespace

double interpolate(const std::vector<double>& x, const std::vector<double>& y, double at) {
    auto k = static_cast<std::size_t>(std::upper_bound(x.begin(), x.end(), at) - x.begin());
    k = std::min(std::max<std::size_t>(k, 1), x.size() - 1);
    const double f = std::clamp((at - x[k - 1]) / (x[k] - x[k - 1]), 0.0, 1.0);
    return y[k - 1] + f * (y[k] - y[k - 1]);
}

int MeshDensity::Axis::count() const {
    constexpr double kMost = 50000; // more along one side is no picture and no measure of anything
    const double whole = steps.back();
    if (!(whole < kMost)) return static_cast<int>(kMost);
    return std::max(1, static_cast<int>(std::ceil(whole - 1e-6)));
}

bool MeshDensity::tooFine() const {
    constexpr double kMost = 4e6; // points of one face: about 400 MB while it is made
    return !(u.steps.back() * v.steps.back() < kMost);
}
double MeshDensity::Axis::stepsTo(double t) const {
    return interpolate(at, steps, t);
}
double MeshDensity::Axis::after(double s) const {
    return interpolate(steps, at, s);
}
std::vector<double> MeshDensity::Axis::quantiles(int n) const {
    std::vector<double> out(static_cast<std::size_t>(n) + 1);
    std::size_t k = 0;
    for (int i = 0; i <= n; ++i) {
        const double goal = steps.back() * i / n;
        while (k + 2 < steps.size() && steps[k + 1] < goal) ++k;
        const double width = steps[k + 1] - steps[k];
        const double f = width > 0 ? (goal - steps[k]) / width : 0;
        out[static_cast<std::size_t>(i)] = at[k] + f * (at[k + 1] - at[k]);
    }
    out.front() = at.front();
    out.back() = at.back();
    return out;
}

namespace {

Samples takeSamples(const SurfaceEval& surface, const std::vector<double>& u, const std::vector<double>& v) {
    Samples s;
    s.nu = u.size();
    s.nv = v.size();
    s.points.resize(s.nu * s.nv);
    s.normals.resize(s.points.size());
    RowPlan plan;
    plan.u = u;
    surface.prepare(plan);
    for (std::size_t j = 0; j < s.nv; ++j)
        surface.row(plan, v[j], 0, s.nu, &s.points[j * s.nu], &s.normals[j * s.nu]);
    return s;
}

} // namespace

MeshDensity measureDensity(const SurfaceEval& surface, const UvBox& box, const MeshBounds& bounds) {
    MeshDensity out;
    out.u.at = parameters(surface, box.u0, box.u1, true);
    out.v.at = parameters(surface, box.v0, box.v1, false);
    const Samples s = takeSamples(surface, out.u.at, out.v.at);
    const auto alongU = [&](std::size_t row, std::size_t i) { return row * s.nu + i; };
    const auto alongV = [&](std::size_t row, std::size_t i) { return i * s.nu + row; };
    Need u(s.nu - 1), v(s.nv - 1);
    const auto stepsU = measureSteps(s, s.nv, s.nu, alongU, u);
    measureSteps(s, s.nu, s.nv, alongV, v);
    std::vector<double> rowTurn(s.nv, 0);
    measureTurning(s, s.nv, s.nu, alongU, u, &rowTurn);
    measureTurning(s, s.nu, s.nv, alongV, v, nullptr);
    for (Need* need : {&u, &v})
        for (std::size_t i = 0; i < need->angle.size(); ++i)
            need->angle[i] = std::max(need->angle[i], need->turn[i] / kMostTurn * bounds.insideAngle);

    // The deviation is shared between the directions: what whole steps along one leave over goes to the
    // other.
    const double d = bounds.deviation;
    double forU = d / 2;
    out.u.steps = accumulate(u, forU, bounds.insideAngle);
    for (int round = 0; round < 2; ++round) {
        const double forV = std::max(d / 2, d - std::min(remainingSag(u, out.u.steps), d / 2));
        out.v.steps = accumulate(v, forV, bounds.insideAngle);
        forU = std::max(d - std::min(remainingSag(v, out.v.steps), forV), d / 4);
        out.u.steps = accumulate(u, forU, bounds.insideAngle);
    }
    out.rowSteps.resize(s.nv);
    for (std::size_t j = 0; j < s.nv; ++j) {
        double steps = 0;
        for (std::size_t i = 0; i + 1 < s.nu; ++i) {
            const auto [sag, angle] = stepsU[j * (s.nu - 1) + i];
            steps += std::max(std::sqrt(sag / forU), angle / bounds.insideAngle);
        }
        out.rowSteps[j] = std::max(steps, rowTurn[j]);
    }
    return out;
}

} // namespace gc

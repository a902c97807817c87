#include "core/shape/bspline_eval.hpp"

#include "core/base/tolerance.hpp"

#include <TColStd_Array1OfReal.hxx>

#include <algorithm>
#include <limits>

namespace gc {

namespace {

constexpr std::size_t kMostTerms = 26;

std::vector<double> flatKnots(const TColStd_Array1OfReal& sequence) {
    std::vector<double> out;
    for (int i = sequence.Lower(); i <= sequence.Upper(); ++i) out.push_back(sequence(i));
    return out;
}

} // namespace

BSplineEval::BSplineEval(Handle(Geom_BSplineSurface) s) {
    if (s->IsUPeriodic() || s->IsVPeriodic()) {
        s = Handle(Geom_BSplineSurface)::DownCast(s->Copy());
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        s->Bounds(u0, u1, v0, v1);
        if (s->IsUPeriodic()) {
            m_u.period = u1 - u0;
            s->SetUNotPeriodic();
        }
        if (s->IsVPeriodic()) {
            m_v.period = v1 - v0;
            s->SetVNotPeriodic();
        }
    }
    m_u.degree = static_cast<std::size_t>(s->UDegree());
    m_v.degree = static_cast<std::size_t>(s->VDegree());
    m_u.poles = static_cast<std::size_t>(s->NbUPoles());
    m_v.poles = static_cast<std::size_t>(s->NbVPoles());
    m_u.knots = flatKnots(s->UKnotSequence());
    m_v.knots = flatKnots(s->VKnotSequence());
    m_rational = s->IsURational() || s->IsVRational();
    m_poles.reserve(m_u.poles * m_v.poles * 4);
    for (int j = 1; j <= s->NbVPoles(); ++j)
        for (int i = 1; i <= s->NbUPoles(); ++i) {
            const double w = m_rational ? s->Weight(i, j) : 1;
            const gp_Pnt& p = s->Pole(i, j);
            for (const double x : {p.X() * w, p.Y() * w, p.Z() * w, w}) m_poles.push_back(x);
        }
}

double BSplineEval::Direction::wrapped(double t) const {
    if (period <= 0) return t;
    while (t < first() - 1e-12 * period) t += period;
    while (t > last() + 1e-12 * period) t -= period;
    return t;
}

std::size_t BSplineEval::Direction::span(double t) const {
    if (t >= knots[poles]) {
        std::size_t i = poles - 1;
        while (i > degree && knots[i] >= knots[i + 1]) --i;
        return i;
    }
    if (t <= knots[degree]) {
        std::size_t i = degree;
        while (i + 1 < poles && knots[i + 1] <= knots[degree]) ++i;
        return i;
    }
    const auto begin = knots.begin() + static_cast<std::ptrdiff_t>(degree),
               end = knots.begin() + static_cast<std::ptrdiff_t>(poles) + 1;
    return static_cast<std::size_t>(std::upper_bound(begin, end, t) - knots.begin()) - 1;
}

void BSplineEval::Direction::basis(std::size_t i, double t, double* n, double* slopes) const {
    double left[kMostTerms], right[kMostTerms], lower[kMostTerms];
    const std::size_t p = degree;
    n[0] = 1;
    slopes[0] = 0;
    for (std::size_t j = 1; j <= p; ++j) {
        if (j == p) std::copy(n, n + p, lower);
        left[j] = t - knots[i + 1 - j];
        right[j] = knots[i + j] - t;
        double saved = 0;
        for (std::size_t r = 0; r < j; ++r) {
            const double q = n[r] / (right[r + 1] + left[j - r]);
            n[r] = saved + right[r + 1] * q;
            saved = left[j - r] * q;
        }
        n[j] = saved;
    }
    for (std::size_t r = 0; p > 0 && r <= p; ++r) {
        double d = 0;
        if (r > 0) d += lower[r - 1] / (knots[i + r] - knots[i + r - p]);
        if (r < p) d -= lower[r] / (knots[i + r + 1] - knots[i + r + 1 - p]);
        slopes[r] = static_cast<double>(p) * d;
    }
}

void BSplineEval::finish(const double* s, const double* du, const double* dv, Vec3& p, Vec3& n) const {
    if (!m_rational) {
        p = {s[0], s[1], s[2]};
        n = cross(Vec3{du[0], du[1], du[2]}, Vec3{dv[0], dv[1], dv[2]});
        return;
    }
    p = Vec3{s[0], s[1], s[2]} / s[3];
    const auto slope = [&](const double* d) { return (Vec3{d[0], d[1], d[2]} - p * d[3]) / s[3]; };
    n = cross(slope(du), slope(dv));
}

void BSplineEval::prepare(RowPlan& plan) const {
    const std::size_t n = plan.u.size(), width = 2 * (m_u.degree + 1);
    plan.spans.resize(n);
    plan.basis.resize(n * width);
    for (std::size_t i = 0; i < n; ++i) {
        const double u = m_u.wrapped(plan.u[i]);
        plan.spans[i] = m_u.span(u);
        double* at = &plan.basis[i * width];
        m_u.basis(plan.spans[i], u, at, at + m_u.degree + 1);
    }
}

void BSplineEval::row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* points,
                      Vec3* normals) const {
    if (from >= to) return;
    v = m_v.wrapped(v);
    const std::size_t p = m_u.degree, q = m_v.degree, j = m_v.span(v), width = 2 * (p + 1);
    double value[kMostTerms], slope[kMostTerms];
    m_v.basis(j, v, value, slope);
    std::size_t low = m_u.poles, high = 0;
    for (std::size_t i = from; i < to; ++i) {
        low = std::min(low, plan.spans[i] - p);
        high = std::max(high, plan.spans[i] + 1);
    }
    thread_local std::vector<double> across, along; // the row's curve and its slope along v
    across.assign(m_u.poles * 4, 0);
    along.assign(m_u.poles * 4, 0);
    for (std::size_t r = 0; r <= q; ++r) {
        const double* c = &m_poles[(j - q + r) * m_u.poles * 4];
        for (std::size_t k = low * 4; k < high * 4; ++k) {
            across[k] += value[r] * c[k];
            along[k] += slope[r] * c[k];
        }
    }
    for (std::size_t i = from; i < to; ++i) {
        const double *bu = &plan.basis[i * width], *slopes = bu + p + 1;
        const double *c = &across[(plan.spans[i] - p) * 4], *d = &along[(plan.spans[i] - p) * 4];
        double s[4] = {}, su[4] = {}, sv[4] = {};
        for (std::size_t r = 0; r <= p; ++r, c += 4, d += 4)
            for (std::size_t k = 0; k < 4; ++k) {
                s[k] += bu[r] * c[k];
                su[k] += slopes[r] * c[k];
                sv[k] += bu[r] * d[k];
            }
        Vec3 &point = points[i - from], &normal = normals[i - from];
        finish(s, su, sv, point, normal);
        const double m = length(normal);
        if (m > kNoDirection)
            normal = normal / m;
        else
            at(plan.u[i], v, point, normal);
    }
}

void BSplineEval::raw(double u, double v, Vec3& point, Vec3& normal) const {
    const std::size_t i = m_u.span(u), j = m_v.span(v), p = m_u.degree, q = m_v.degree;
    double bu[kMostTerms], du[kMostTerms], bv[kMostTerms], dv[kMostTerms];
    m_u.basis(i, u, bu, du);
    m_v.basis(j, v, bv, dv);
    double s[4] = {}, su[4] = {}, sv[4] = {};
    for (std::size_t r = 0; r <= q; ++r) {
        const double* c = &m_poles[((j - q + r) * m_u.poles + i - p) * 4];
        double x[4] = {}, y[4] = {};
        for (std::size_t t = 0; t <= p; ++t, c += 4)
            for (std::size_t k = 0; k < 4; ++k) {
                x[k] += bu[t] * c[k];
                y[k] += du[t] * c[k];
            }
        for (std::size_t k = 0; k < 4; ++k) {
            s[k] += bv[r] * x[k];
            su[k] += bv[r] * y[k];
            sv[k] += dv[r] * x[k];
        }
    }
    finish(s, su, sv, point, normal);
}

void BSplineEval::at(double u, double v, Vec3& point, Vec3& normal) const {
    u = m_u.wrapped(u);
    v = m_v.wrapped(v);
    raw(u, v, point, normal);
    // At a pole: a little way inside, along v, along u, along both.
    const auto inward = [](const Direction& d, double t) {
        const double step = 1e-4 * (d.last() - d.first());
        return t < 0.5 * (d.first() + d.last()) ? t + step : t - step;
    };
    Vec3 there;
    const double inU = inward(m_u, u), inV = inward(m_v, v);
    if (length(normal) < kNoDirection) raw(u, inV, there, normal);
    if (length(normal) < kNoDirection) raw(inU, v, there, normal);
    if (length(normal) < kNoDirection) raw(inU, inV, there, normal);
    normal = length(normal) < kNoDirection ? Vec3{0, 0, 1} : unit(normal);
}

std::vector<double> BSplineEval::breaks(double from, double to, bool alongU) const {
    const Direction& d = alongU ? m_u : m_v;
    std::vector<double> out;
    for (const int turn : {-1, 0, 1}) {
        if (turn != 0 && d.period == 0) continue;
        double last = -std::numeric_limits<double>::max();
        for (const double knot : d.knots) {
            const double t = knot + turn * d.period;
            if (t <= from || t >= to || t <= last + 1e-12) continue;
            out.push_back(t);
            last = t;
        }
    }
    std::sort(out.begin(), out.end());
    out.erase(std::unique(out.begin(), out.end()), out.end());
    return out;
}

} // namespace gc

#include "core/shape/fitted_offset.hpp"

#include "core/shape/surface_eval.hpp"

#include <BSplCLib.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>

#include <algorithm>
#include <vector>

namespace gc {

namespace {

constexpr int kDegree = 5;
constexpr int kMostPoles = 60'000;

/// One parameter direction of the fit.
class FitDirection {
  public:
    FitDirection(const Geom_BSplineSurface& basis, bool alongU) {
        const int n = alongU ? basis.NbUKnots() : basis.NbVKnots();
        const int degree = alongU ? basis.UDegree() : basis.VDegree();
        for (int i = 1; i <= n; ++i) {
            m_breaks.push_back(alongU ? basis.UKnot(i) : basis.VKnot(i));
            // The offset is once less smooth than its basis: N holds first derivatives.
            const int smooth = degree - (alongU ? basis.UMultiplicity(i) : basis.VMultiplicity(i)) - 1;
            m_smooth.push_back(std::clamp(smooth, 0, kDegree - 1));
        }
        build();
    }

    void refine() {
        m_parts *= 2;
        build();
    }

    int poles() const { return m_flat->Length() - kDegree - 1; }
    const std::vector<double>& points() const { return m_points; }
    /// Between the points of interpolation.
    std::vector<double> middles() const {
        std::vector<double> out;
        for (std::size_t i = 0; i + 1 < m_points.size(); ++i)
            out.push_back(0.5 * (m_points[i] + m_points[i + 1]));
        return out;
    }
    const TColStd_Array1OfReal& knots() const { return *m_knots; }
    const TColStd_Array1OfInteger& multiplicities() const { return *m_multiplicities; }

    /// Values in rows of `width` numbers, one row a point, become poles in the same rows.
    bool solve(std::vector<double>& rows, std::size_t width) const {
        TColStd_Array1OfReal parameters(1, poles());
        TColStd_Array1OfInteger contact(1, poles());
        for (int i = 1; i <= poles(); ++i) {
            parameters(i) = m_points[static_cast<std::size_t>(i - 1)];
            contact(i) = 0;
        }
        int problem = 0;
        BSplCLib::Interpolate(kDegree, *m_flat, parameters, contact, static_cast<int>(width), rows.front(),
                              problem);
        return problem == 0;
    }

  private:
    void build() {
        std::vector<double> knots;
        std::vector<int> multiplicities;
        for (std::size_t i = 0; i + 1 < m_breaks.size(); ++i)
            for (int k = 0; k < m_parts; ++k) {
                knots.push_back(m_breaks[i] + (m_breaks[i + 1] - m_breaks[i]) * k / m_parts);
                multiplicities.push_back(k == 0 ? kDegree - m_smooth[i] : 1);
            }
        knots.push_back(m_breaks.back());
        multiplicities.push_back(kDegree + 1);
        multiplicities.front() = kDegree + 1;
        const int n = static_cast<int>(knots.size());
        m_knots = std::make_unique<TColStd_Array1OfReal>(1, n);
        m_multiplicities = std::make_unique<TColStd_Array1OfInteger>(1, n);
        int flat = 0;
        for (int i = 1; i <= n; ++i) {
            m_knots->SetValue(i, knots[static_cast<std::size_t>(i - 1)]);
            m_multiplicities->SetValue(i, multiplicities[static_cast<std::size_t>(i - 1)]);
            flat += m_multiplicities->Value(i);
        }
        m_flat = std::make_unique<TColStd_Array1OfReal>(1, flat);
        BSplCLib::KnotSequence(*m_knots, *m_multiplicities, *m_flat);
        TColStd_Array1OfReal at(1, poles());
        BSplCLib::BuildSchoenbergPoints(kDegree, *m_flat, at);
        m_points.clear();
        for (int i = 1; i <= poles(); ++i) m_points.push_back(at(i));
    }

    std::vector<double> m_breaks;
    std::vector<int> m_smooth; // continuity that the fit keeps at each break
    int m_parts = 1;
    std::unique_ptr<TColStd_Array1OfReal> m_knots, m_flat;
    std::unique_ptr<TColStd_Array1OfInteger> m_multiplicities;
    std::vector<double> m_points;
};

std::vector<Vec3> sample(const SurfaceEval& surface, const std::vector<double>& u,
                         const std::vector<double>& v) {
    RowPlan plan;
    plan.u = u;
    surface.prepare(plan);
    std::vector<Vec3> points(u.size() * v.size()), normals(u.size());
    for (std::size_t j = 0; j < v.size(); ++j)
        surface.row(plan, v[j], 0, u.size(), &points[j * u.size()], normals.data());
    return points;
}

double farthest(const SurfaceEval& a, const SurfaceEval& b, const std::vector<double>& u,
                const std::vector<double>& v) {
    const auto p = sample(a, u, v), q = sample(b, u, v);
    double worst = 0;
    for (std::size_t i = 0; i < p.size(); ++i) worst = std::max(worst, length(p[i] - q[i]));
    return worst;
}

Handle(Geom_BSplineSurface)
    interpolate(const SurfaceEval& surface, const FitDirection& u, const FitDirection& v) {
    const auto nu = static_cast<std::size_t>(u.poles()), nv = static_cast<std::size_t>(v.poles());
    const auto points = sample(surface, u.points(), v.points());
    std::vector<double> rows(3 * nu * nv); // a row for each v
    for (std::size_t i = 0; i < points.size(); ++i) {
        rows[3 * i] = points[i].x;
        rows[3 * i + 1] = points[i].y;
        rows[3 * i + 2] = points[i].z;
    }
    if (!v.solve(rows, 3 * nu)) return nullptr;
    std::vector<double> columns(rows.size()); // a row for each u
    for (std::size_t j = 0; j < nv; ++j)
        for (std::size_t i = 0; i < nu; ++i)
            for (std::size_t k = 0; k < 3; ++k) columns[3 * (i * nv + j) + k] = rows[3 * (j * nu + i) + k];
    if (!u.solve(columns, 3 * nv)) return nullptr;
    TColgp_Array2OfPnt poles(1, u.poles(), 1, v.poles());
    for (std::size_t i = 0; i < nu; ++i)
        for (std::size_t j = 0; j < nv; ++j) {
            const double* c = &columns[3 * (i * nv + j)];
            poles(static_cast<int>(i) + 1, static_cast<int>(j) + 1) = gp_Pnt(c[0], c[1], c[2]);
        }
    return new Geom_BSplineSurface(poles, u.knots(), v.knots(), u.multiplicities(), v.multiplicities(),
                                   kDegree, kDegree);
}

} // namespace

Handle(Geom_BSplineSurface) fittedOffset(const Geom_OffsetSurface& surface, double tolerance) {
    Handle(Geom_Surface) under = surface.BasisSurface();
    if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(under))
        under = trimmed->BasisSurface();
    auto basis = Handle(Geom_BSplineSurface)::DownCast(under);
    if (basis.IsNull() || basis->IsUPeriodic() || basis->IsVPeriodic()) return nullptr;
    const Handle(Geom_Surface) self(new Geom_OffsetSurface(basis, surface.Offset()));
    const auto exact = makeEvaluator(self);
    FitDirection u(*basis, true), v(*basis, false);
    while (u.poles() * v.poles() <= kMostPoles) {
        const auto fit = interpolate(*exact, u, v);
        if (fit.IsNull()) return nullptr;
        const auto made = makeEvaluator(Handle(Geom_Surface)(fit));
        const double offU = farthest(*exact, *made, u.middles(), v.points()),
                     offV = farthest(*exact, *made, u.points(), v.middles());
        if (std::max(offU, offV) < tolerance) return fit;
        if (offU >= tolerance) u.refine();
        if (offV >= tolerance) v.refine();
    }
    return nullptr;
}

} // namespace gc

#include "core/shape/fitted_offset.hpp"

#include "core/shape/fit_direction.hpp"
#include "core/shape/surface_eval.hpp"

#include <Geom_RectangularTrimmedSurface.hxx>
#include <TColgp_Array2OfPnt.hxx>

#include <algorithm>
#include <vector>

namespace gc {

namespace {

constexpr int kMostPoles = 60'000;

/// The breaks of one direction of a B-spline. The offset is once less smooth than its basis: N holds first
/// derivatives.
FitDirection directionOf(const Geom_BSplineSurface& basis, bool alongU) {
    const int n = alongU ? basis.NbUKnots() : basis.NbVKnots();
    const int degree = alongU ? basis.UDegree() : basis.VDegree();
    std::vector<double> breaks;
    std::vector<int> smooth;
    for (int i = 1; i <= n; ++i) {
        breaks.push_back(alongU ? basis.UKnot(i) : basis.VKnot(i));
        smooth.push_back(degree - (alongU ? basis.UMultiplicity(i) : basis.VMultiplicity(i)) - 1);
    }
    return {std::move(breaks), smooth};
}

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
                                   FitDirection::kDegree, FitDirection::kDegree);
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
    FitDirection u = directionOf(*basis, true), v = directionOf(*basis, false);
    while (u.poles() * v.poles() <= kMostPoles) {
        auto fit = interpolate(*exact, u, v);
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

#include "core/shape/fit_grid.hpp"

#include <Standard_Failure.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_Array2OfPnt.hxx>

#include <algorithm>
#include <map>

namespace gc {

namespace {

/// Poles of curves through values at the points of a direction; row i holds value i of each curve.
std::vector<std::vector<gp_Pnt>> polesOf(const FitDirection& direction,
                                         const std::vector<std::vector<gp_Pnt>>& rows) {
    const std::size_t width = rows.front().size();
    std::vector<double> values;
    values.reserve(rows.size() * width * 3);
    for (const auto& row : rows)
        for (const gp_Pnt& p : row) values.insert(values.end(), {p.X(), p.Y(), p.Z()});
    if (!direction.solve(values, 3 * width)) throw Standard_Failure("no curve through the places");
    auto out = rows;
    for (std::size_t i = 0; i < rows.size(); ++i)
        for (std::size_t k = 0; k < width; ++k) {
            const double* c = &values[3 * (i * width + k)];
            out[i][k] = gp_Pnt(c[0], c[1], c[2]);
        }
    return out;
}

/// \param poles row i holds pole i of each curve
std::vector<Handle(Geom_BSplineCurve)> curvesWith(const FitDirection& direction,
                                                  const std::vector<std::vector<gp_Pnt>>& poles) {
    std::vector<Handle(Geom_BSplineCurve)> out;
    for (std::size_t k = 0; k < poles.front().size(); ++k) {
        TColgp_Array1OfPnt p(1, static_cast<int>(poles.size()));
        for (std::size_t i = 0; i < poles.size(); ++i) p(static_cast<int>(i) + 1) = poles[i][k];
        out.push_back(
            new Geom_BSplineCurve(p, direction.knots(), direction.multiplicities(), FitDirection::kDegree));
    }
    return out;
}

/// The spans in which a curve is too far from what it shall be.
std::vector<bool> tooFar(const FitDirection& direction, const std::vector<double>& breaks,
                         const std::function<std::vector<gp_Pnt>(double)>& curves, double tolerance) {
    std::vector<std::vector<gp_Pnt>> rows;
    for (const double at : direction.points()) rows.push_back(curves(at));
    const auto poles = polesOf(direction, rows);
    const auto fitted = curvesWith(direction, poles);
    std::vector<bool> far(breaks.size() - 1, false);
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i)
        for (const double share : {0.12, 0.35, 0.5, 0.65, 0.88}) {
            if (far[i]) break;
            const double at = breaks[i] + (breaks[i + 1] - breaks[i]) * share;
            const auto wanted = curves(at);
            for (std::size_t k = 0; k < fitted.size() && !far[i]; ++k)
                far[i] = fitted[k]->Value(at).Distance(wanted[k]) > tolerance;
        }
    return far;
}

void fill(const GridDirection& d, TColStd_Array1OfReal& knots, TColStd_Array1OfInteger& multiplicities) {
    if (d.fit) {
        knots = d.fit->knots();
        multiplicities = d.fit->multiplicities();
        return;
    }
    knots(1) = d.from, knots(2) = d.to;
    multiplicities.Init(2);
}

std::vector<std::vector<gp_Pnt>> turned(const std::vector<std::vector<gp_Pnt>>& rows) {
    std::vector<std::vector<gp_Pnt>> out(rows.front().size(), std::vector<gp_Pnt>(rows.size()));
    for (std::size_t i = 0; i < rows.size(); ++i)
        for (std::size_t k = 0; k < rows[i].size(); ++k) out[k][i] = rows[i][k];
    return out;
}

} // namespace

std::optional<GridDirection> directionFor(const std::vector<double>& where,
                                          const std::function<std::vector<gp_Pnt>(double)>& curves,
                                          double tolerance, int mostPoles, int smoothAtBreaks) {
    const double least = 1e-7 * (where.back() - where.front()); // a step, which no curve goes through
    std::vector<double> breaks = where;
    std::vector<int> smooth(breaks.size(), smoothAtBreaks);
    for (;;) {
        FitDirection direction(breaks, smooth);
        if (direction.poles() > mostPoles) return std::nullopt;
        const auto far = tooFar(direction, breaks, curves, tolerance);
        if (std::none_of(far.begin(), far.end(), [](bool f) { return f; }))
            return GridDirection{breaks.front(), breaks.back(), std::move(direction)};
        std::vector<double> finer;
        std::vector<int> finerSmooth;
        for (std::size_t i = 0; i < breaks.size(); ++i) {
            if (i + 1 < breaks.size() && far[i] && breaks[i + 1] - breaks[i] < least) return std::nullopt;
            finer.push_back(breaks[i]);
            finerSmooth.push_back(smooth[i]);
            if (i + 1 == breaks.size() || !far[i]) continue;
            finer.push_back(0.5 * (breaks[i] + breaks[i + 1]));
            finerSmooth.push_back(FitDirection::kDegree - 1);
        }
        breaks = std::move(finer);
        smooth = std::move(finerSmooth);
    }
}

std::optional<GridDirection> directionFor(const std::vector<double>& breaks,
                                          const std::function<std::vector<gp_Pnt>(double)>& curves,
                                          std::initializer_list<double> tolerances, int mostPoles,
                                          int smooth) {
    for (const double tolerance : tolerances)
        if (auto direction = directionFor(breaks, curves, tolerance, mostPoles, smooth)) return direction;
    return std::nullopt;
}

Handle(Geom_BSplineCurve)
    curveThroughPlaces(const GridDirection& direction, const std::vector<gp_Pnt>& places) {
    std::vector<std::vector<gp_Pnt>> rows;
    for (const gp_Pnt& p : places) rows.push_back({p});
    return curvesWith(*direction.fit, polesOf(*direction.fit, rows)).front();
}

std::vector<Handle(Geom_BSplineCurve)>
curvesThrough(const GridDirection& direction, const std::function<std::vector<gp_Pnt>(double)>& curves) {
    std::vector<std::vector<gp_Pnt>> rows;
    for (const double at : direction.points()) rows.push_back(curves(at));
    return curvesWith(*direction.fit, polesOf(*direction.fit, rows));
}

std::vector<Handle(Geom_BSplineCurve)>
curvesAlong(const std::vector<double>& breaks, std::size_t count,
            const std::function<std::optional<std::vector<gp_Pnt>>(double)>& places,
            std::initializer_list<double> tolerances, int mostPoles, std::initializer_list<int> smooth) {
    std::map<double, std::vector<gp_Pnt>> known;
    bool lost = false;
    const auto curves = [&](double at) -> std::vector<gp_Pnt> {
        if (const auto seen = known.find(at); seen != known.end()) return seen->second;
        const auto found = lost ? std::nullopt : places(at);
        lost = lost || !found;
        return known[at] = found ? *found : std::vector<gp_Pnt>(count);
    };
    for (const int derivatives : smooth) {
        const auto direction = directionFor(breaks, curves, tolerances, mostPoles, derivatives);
        if (lost) return {};
        if (!direction) continue;
        auto out = curvesThrough(*direction, curves);
        return lost ? std::vector<Handle(Geom_BSplineCurve)>() : out;
    }
    return {};
}

Handle(Geom_BSplineSurface) surfaceThrough(const GridDirection& u, const GridDirection& v,
                                           const std::vector<std::vector<gp_Pnt>>& places) {
    auto poles = places;
    if (u.fit) poles = polesOf(*u.fit, poles);
    if (v.fit) poles = turned(polesOf(*v.fit, turned(poles)));
    TColgp_Array2OfPnt p(1, static_cast<int>(poles.size()), 1, static_cast<int>(poles.front().size()));
    for (std::size_t i = 0; i < poles.size(); ++i)
        for (std::size_t j = 0; j < poles[i].size(); ++j)
            p(static_cast<int>(i) + 1, static_cast<int>(j) + 1) = poles[i][j];
    const auto count = [](const GridDirection& d) { return d.fit ? d.fit->knots().Length() : 2; };
    TColStd_Array1OfReal ku(1, count(u)), kv(1, count(v));
    TColStd_Array1OfInteger mu(1, count(u)), mv(1, count(v));
    fill(u, ku, mu), fill(v, kv, mv);
    const auto degree = [](const GridDirection& d) { return d.fit ? FitDirection::kDegree : 1; };
    return new Geom_BSplineSurface(p, ku, kv, mu, mv, degree(u), degree(v));
}

} // namespace gc

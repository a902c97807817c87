#pragma once
/// \file For .cpp files: surfaces through places on a grid, with knots where they are needed.

#include "core/shape/fit_direction.hpp"

#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <gp_Pnt.hxx>

#include <functional>
#include <optional>
#include <vector>

namespace gc {

/// One parameter of a grid: straight from end to end, or with knots.
struct GridDirection {
    double from = 0, to = 1;
    std::optional<FitDirection> fit; ///< nothing: straight
    std::vector<double> points() const { return fit ? fit->points() : std::vector{from, to}; }
};

/// Knots for some curves that share a parameter, halved where one of them is further than a tolerance from
/// what goes through it. \param breaks where the curves are less smooth, ends included \param smooth so many
/// derivatives are continuous there. Nothing where that takes too many, or knots too near to each other.
std::optional<GridDirection> directionFor(const std::vector<double>& breaks,
                                          const std::function<std::vector<gp_Pnt>(double)>& curves,
                                          double tolerance, int mostPoles = 1500, int smooth = 1);

/// The same by the first of some tolerances that it goes by, from fine to coarse: fitted faces are not quite
/// smooth.
std::optional<GridDirection> directionFor(const std::vector<double>& breaks,
                                          const std::function<std::vector<gp_Pnt>(double)>& curves,
                                          std::initializer_list<double> tolerances, int mostPoles,
                                          int smooth = 1);

/// The curve through places at every point of a direction that has knots.
Handle(Geom_BSplineCurve)
    curveThroughPlaces(const GridDirection& direction, const std::vector<gp_Pnt>& places);

/// Some curves at once, where each is known at every parameter.
std::vector<Handle(Geom_BSplineCurve)>
curvesThrough(const GridDirection& direction, const std::function<std::vector<gp_Pnt>(double)>& curves);

/// Some curves at once that may not be known everywhere, by the first of some tolerances that they go by.
/// Empty where one is not known, or it takes too many poles. \param count of them \param smooth at the breaks
/// (see directionFor()): one after the other is tried
std::vector<Handle(Geom_BSplineCurve)>
curvesAlong(const std::vector<double>& breaks, std::size_t count,
            const std::function<std::optional<std::vector<gp_Pnt>>(double)>& places,
            std::initializer_list<double> tolerances, int mostPoles, std::initializer_list<int> smooth = {1});

/// \param places at every point of u, and for each of them at every point of v
Handle(Geom_BSplineSurface) surfaceThrough(const GridDirection& u, const GridDirection& v,
                                           const std::vector<std::vector<gp_Pnt>>& places);

} // namespace gc

#pragma once
/// \file For .cpp files: curves in space by their equations.

#include "core/model/model.hpp"

#include <Geom_BSplineCurve.hxx>
#include <gp_Vec.hxx>

#include <functional>

namespace gc {

/// Within this of the true curve, mm.
inline constexpr double kHelixFit = 1e-7;

struct Helix {
    Axis axis;
    double radius = 0, farRadius = 0; ///< mm, at its beginning and its end
    double height = 0, turns = 0;     ///< mm along the axis; more than 0
    bool left = false;
    double start =
        0; ///< angle at its beginning, rad from where the space's x axis looks, seen against the axis
    double level = 0; ///< of its beginning along the axis from its origin, mm
    gp_Pnt at(double share) const;
};

/// The curve that an equation gives from 0 to 1, within a tolerance; nothing where it is too
/// uneven.
Handle(Geom_BSplineCurve) curveThrough(const std::function<gp_Pnt(double)>& equation, double tolerance);

/// From the end of one line to the end of another: a polynomial of degree 5. \param a, b places; ta, tb
/// tangents of length 1, in the direction of the walk; ka, kb curvature vectors, 1/mm
Handle(Geom_BSplineCurve) bridge(const gp_Pnt& a, const gp_Vec& ta, const gp_Vec& ka, const gp_Pnt& b,
                                 const gp_Vec& tb, const gp_Vec& kb);

} // namespace gc

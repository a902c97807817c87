#pragma once
/// \file For .cpp files: curves laid onto a surface that they are near.

#include "core/shape/kernel.hpp"

#include <Geom2d_Curve.hxx>
#include <Geom_Curve.hxx>
#include <Geom_Surface.hxx>
#include <gp_Pnt2d.hxx>

#include <vector>

namespace gc {

/// Does a curve run in the same direction as an edge that it takes the place of?
bool runsAlike(const Geom_Curve& curve, const TopoDS_Edge& edge);

/// A curve beside a border of a face, and its line on the face's surface.
class LaidCurve {
  public:
    /// \param along the border that makes way: the curve runs near it
    LaidCurve(const Handle(Geom_Curve) & curve, const TopoDS_Face& face, const TopoDS_Edge& along);
    /// How far the curve is from the surface, mm.
    double off() const { return m_off; }
    /// Null where it takes too many knots.
    Handle(Geom2d_Curve) onSurface() const;

  private:
    void walk();
    gp_Pnt2d at(double t) const;

    Handle(Geom_Curve) m_curve;
    Handle(Geom_Surface) m_surface;
    gp_Pnt2d m_last;
    std::vector<gp_Pnt2d> m_uv;
    double m_off = 0;
};

} // namespace gc

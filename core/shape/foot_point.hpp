#pragma once
/// \file For .cpp files: places of surfaces and faces; the one nearest to a point, from a place near it.

#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Pnt.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec.hxx>

#include <optional>

namespace gc {

/// A place of a surface with its derivatives.
struct SurfacePlace {
    gp_Pnt2d uv;
    gp_Pnt at;
    gp_Vec du, dv, duu, dvv, duv;

    /// Of length 1, along du x dv; nothing at a pole.
    std::optional<gp_Vec> normal() const;
    /// Of the surface cut along a tangent direction, towards that normal, 1/mm (do Carmo, Differential
    /// geometry of curves and surfaces, 3.2).
    double curvature(const gp_Vec& direction, const gp_Vec& normal) const;
};

SurfacePlace placeOf(const Geom_Surface& surface, const gp_Pnt2d& uv);

/// The surface under a face, and which side of it is outside.
class FaceSurface {
  public:
    explicit FaceSurface(const TopoDS_Face& face);
    const Geom_Surface& surface() const { return *m_surface; }
    /// Of length 1; nothing at a pole.
    std::optional<gp_Vec> outward(const SurfacePlace& place) const;

  private:
    Handle(Geom_Surface) m_surface;
    bool m_reversed;
};

/// An edge as it runs round a face: the face lies to the left of it, seen from outside. Null where it does
/// not.
TopoDS_Edge asIn(const TopoDS_Face& face, const TopoDS_Edge& edge);

/// By Newton's method; on a surface with borders it stays within them, else it may go on over the period.
/// Nothing where that leads nowhere. \param mayCross a seam where the surface closes up without a period
std::optional<SurfacePlace> footPoint(const Geom_Surface& surface, const gp_Pnt& p, const gp_Pnt2d& near,
                                      bool mayCross = true);

/// One step of Newton's method to where a line meets a surface: by how much the surface's two parameters and
/// that of the line change. Nothing where the line runs along the surface.
/// \param along the line's derivative \param off from the place on the surface to that on the line
std::optional<gp_XYZ> meetingStep(const gp_Vec& du, const gp_Vec& dv, const gp_Vec& along, const gp_Vec& off);

} // namespace gc

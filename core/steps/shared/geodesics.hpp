#pragma once
/// \file For .cpp files: straightest lines of a surface.

#include <Geom_Surface.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec.hxx>
#include <gp_Vec2d.hxx>

namespace gc {

/// A place of a straightest line and where it goes on, in parameters by length.
struct Going {
    gp_Pnt2d at;
    gp_Vec2d ahead;
};

/// Geodesics (do Carmo, Differential geometry of curves and surfaces, 4.4).
class Geodesics {
  public:
    explicit Geodesics(Handle(Geom_Surface) surface) : m_surface(std::move(surface)) {}

    /// From a place by a length, mm, back where that is negative. Runge and Kutta's fourth order.
    Going along(Going from, double by) const;
    /// A direction in space as a way along the surface, of unit speed.
    gp_Vec2d wayOf(const gp_Pnt2d& at, const gp_Vec& direction) const;
    gp_Vec inSpaceOf(const Going& going) const;

  private:
    gp_Vec2d bend(const gp_Pnt2d& at, const gp_Vec2d& ahead) const;

    Handle(Geom_Surface) m_surface;
};

} // namespace gc

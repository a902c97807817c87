#pragma once
/// \file For .cpp files: where the places of a drawing come to lie on a wall.

#include "core/base/plane.hpp"
#include "core/steps/shared/geodesics.hpp"

#include <Geom_Surface.hxx>
#include <gp_Pnt.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec.hxx>

#include <memory>
#include <optional>

namespace gc {

inline gp_Pnt placeIn(Vec3 v) {
    return {v.x, v.y, v.z};
}
inline gp_Vec directionIn(Vec3 v) {
    return {v.x, v.y, v.z};
}

/// From places of a drawing, mm, to parameters of a surface. What is near in the one is near in the other:
/// round a wall that closes up the parameters go on over its period.
class Laying {
  public:
    virtual ~Laying() = default;
    /// Nothing where the place does not come onto the surface.
    virtual std::optional<gp_Pnt2d> at(Vec2 place) const = 0;
};

/// Along the drawing's normal, to within 1e-10 mm. \param place one that is known \param there where it lies
std::unique_ptr<Laying> laidStraight(const Handle(Geom_Surface) & surface, const Plane& drawing, Vec2 place,
                                     const gp_Pnt2d& there);

/// Where a level line of the drawing goes over a wall.
struct LevelLine {
    Going going;
    bool mirrored = false; ///< upward lies to its right, seen along the surface's own normal
};
/// From a place on. Nothing where the wall stands square to the drawing.
std::optional<LevelLine> levelLine(const Handle(Geom_Surface) & surface, const Plane& drawing,
                                   const gp_Pnt2d& there);

/// Wrapped around in true length: the level line through a place becomes the straightest line of the wall,
/// and what lies above and below it goes as far along the straightest lines square to that (Fermi
/// coordinates; do Carmo, Differential geometry of curves and surfaces, 4.6). On walls that can be unrolled
/// every length is true, on others those along the level line and square to it. To within 1e-6 mm; where the
/// bend of the wall jumps, 1e-3 mm.
/// \param place of the drawing that lies where the level line begins \param low, high what the drawing fills
/// Null where the wall ends too near, or is too uneven.
std::unique_ptr<Laying> laidAround(const Handle(Geom_Surface) & surface, Vec2 place, const LevelLine& level,
                                   Vec2 low, Vec2 high);

} // namespace gc

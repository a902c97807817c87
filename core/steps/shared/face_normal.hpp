#pragma once
/// \file For .cpp files: the outward normal of a face.

#include <BRepAdaptor_Surface.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec.hxx>

#include <optional>

namespace gc {

/// Of length 1; nothing at a pole. \param surface of the face \param reversed the face's orientation
/// \param at where that is
inline std::optional<gp_Vec> outwardNormal(const BRepAdaptor_Surface& surface, bool reversed,
                                           const gp_Pnt2d& uv, gp_Pnt& at) {
    gp_Vec du, dv;
    surface.D1(uv.X(), uv.Y(), at, du, dv);
    gp_Vec n = du.Crossed(dv);
    if (n.Magnitude() < 1e-12) return std::nullopt;
    n.Normalize();
    return reversed ? -n : n;
}

} // namespace gc

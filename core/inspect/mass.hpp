#pragma once
/// \file Exact mass properties from the boundary representation.

#include "core/shape/body.hpp"
#include "core/units/quantity.hpp"

#include <array>

namespace gc {

struct MassProperties {
    double volume = 0;               ///< mm^3
    double area = 0;                 ///< mm^2
    double mass = 0;                 ///< g
    Vec3 centre;                     ///< mm
    std::array<double, 3> moments{}; ///< principal moments of inertia about the centre, g mm^2, ascending
    double errorBound = 0;           ///< relative error of the volume that the quadrature was asked for
};

/// By Gauss quadrature over the faces with an adaptive tolerance: the kernel's default rule is off by 1e-5
/// on freeform faces and worse on twisted ones (docs/kernel.md).
/// Error "mass.volume" when the body has no positive volume.
Result<MassProperties> massProperties(const Body& body, Density density);

} // namespace gc

#pragma once
/// \file Exact mass properties from the boundary representation.

#include "core/shape/body.hpp"
#include "core/units/quantity.hpp"

#include <array>
#include <optional>

namespace gc {

struct MassProperties {
    double volume = 0;               ///< mm^3
    double area = 0;                 ///< mm^2
    double mass = 0;                 ///< g
    Vec3 centre;                     ///< mm
    std::array<double, 3> moments{}; ///< principal moments of inertia about the centre, g mm^2, ascending
    double errorBound = 0;           ///< relative: how far a coarser quadrature's volume is from this one
};

/// By Gauss quadrature over the faces, exact for polynomial spans of the usual degrees: the kernel's adaptive
/// rules watch the volume only and leave moments of turned bodies 1e-5 off (docs/kernel.md). Error
/// "mass.volume" when the body has no positive volume.
Result<MassProperties> massProperties(const Body& body, Density density);

/// The area of some of its faces by the same rule, mm². Nothing where a face cannot be integrated.
std::optional<double> areaOf(const Body& body, const std::vector<int>& faces);

} // namespace gc

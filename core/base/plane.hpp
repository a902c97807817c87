#pragma once
/// \file A plane with directions of its own: what a drawing lies in.

#include "core/base/vec.hpp"

namespace gc {

/// Drawings have x across and y up; who looks at one looks against the normal. Lengths in mm.
struct Plane {
    Vec3 origin;
    Vec3 across{1, 0, 0}, up{0, 0, 1}; ///< unit vectors, square to each other; as it is: the front plane

    Vec3 normal() const { return cross(across, up); }
    Vec3 at(Vec2 p) const { return origin + across * p.x + up * p.y; }
    /// The foot of a point of space.
    Vec2 foot(Vec3 p) const { return {dot(p - origin, across), dot(p - origin, up)}; }
    Vec2 alongside(Vec3 v) const { return {dot(v, across), dot(v, up)}; }
    /// How far a point lies before it, on the normal's side.
    double before(Vec3 p) const { return dot(p - origin, normal()); }
    friend bool operator==(const Plane&, const Plane&) = default;
};

/// The plane with that normal, and up as near to +z as it can be; where it lies level or leans from level by
/// less than 40 degrees, up is as near to +y as it can be. Somewhere the one has to turn into the other:
/// there it disturbs least, for leans of moulded faces are small.
inline Plane planeFacing(Vec3 origin, Vec3 normal) {
    const Vec3 n = unit(normal);
    constexpr double kLevel = 0.766044443118978; // cos 40 degrees
    const bool level = std::fabs(n.z) > kLevel;
    const Vec3 wanted = level ? Vec3{0, 1, 0} : Vec3{0, 0, 1};
    const Vec3 up = unit(wanted - n * dot(wanted, n));
    return {origin, cross(up, n), up};
}

/// The same with its origin at the foot of the space's own origin: there it stays while what the plane was
/// taken from grows or shrinks.
inline Plane planeFromSpace(Vec3 through, Vec3 normal) {
    const Vec3 n = unit(normal);
    return planeFacing(n * dot(through, n), n);
}

inline Plane moved(const Plane& p, double forward) {
    return {p.origin + p.normal() * forward, p.across, p.up};
}

/// Quarter turns counter-clockwise, as seen by who looks at it.
inline Plane turned(Plane p, int quarters) {
    for (int k = 0; k < ((quarters % 4) + 4) % 4; ++k) p = {p.origin, p.up, -p.across};
    return p;
}

/// The same plane seen from behind.
inline Plane flipped(const Plane& p) {
    return {p.origin, -p.across, p.up};
}

} // namespace gc

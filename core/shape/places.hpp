#pragma once
/// \file Places on a body that planes and drawings lean on: the planes of flat faces, and points.

#include "core/base/plane.hpp"
#include "core/shape/body.hpp"

#include <optional>

namespace gc {

/// The plane of a flat face, looked at from outside the body; nothing for a curved face.
/// \param face number in the kernel's map, from 0
std::optional<Plane> planeOfFace(const Body& body, int face);

/// A point of a face and the outward normal there.
struct SurfacePoint {
    Vec3 at, normal;
};
/// The point of a face that is nearest to a place. Nothing where the surface has no normal.
std::optional<SurfacePoint> nearestOnFace(const Body& body, int face, Vec3 place);
/// The same of several faces.
std::optional<SurfacePoint> nearestOnFaces(const Body& body, const std::vector<int>& faces, Vec3 place);

/// Where a reference's point is. Errors: "reference.lost" with the cause, "reference.several" when more than
/// one point fits; "reference.drawn" for a point of a drawing, which is on no body.
Result<Vec3> resolvePoint(const Body& body, const PointRef& ref);

/// A point that can be picked, with what it can be called, best first.
struct PlaceOnBody {
    Vec3 at;
    std::vector<std::string> refs;
};
/// Corners, middles of edges, and centres of round ones.
std::vector<PlaceOnBody> placesOn(const Body& body);

} // namespace gc

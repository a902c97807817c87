#pragma once
/// \file Finding the axis that a slot names.

#include "core/model/arguments.hpp"

namespace gc {

/// \param own the drawing whose own axis may be meant; nothing where there is none
/// Errors: "axis.none" for an empty text, "axis.lost" for a name that no step before made, "axis.straight"
/// for an edge or a face that has none, and those of findCurve and findFaces.
Result<Axis> findAxis(const Arguments& args, const std::string& slot, ModelReader& model,
                      const Plane* own = nullptr);

/// The same line, so that it looks up, else to the front, else to the right: not as the order of clicks or
/// the kernel's way of keeping an edge says.
Axis turnedUp(Axis axis);

/// The axis of an edge, a drawn stroke or a face, by its reference, turned up. \see findAxis
Result<Axis> axisOf(const std::string& reference, ModelReader& model);

} // namespace gc

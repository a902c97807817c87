#pragma once
/// \file Planes as slots name them: one of the three that every part has ("front", "ground", "side"), the
/// name of a plane made before, or a flat face.

#include "core/base/plane.hpp"
#include "core/document/part.hpp"

namespace gc {

/// The three through the origin: front is seen from the front, ground from above, side from the right.
inline constexpr const char* kFixedPlanes[] = {"front", "ground", "side"};
std::optional<Plane> fixedPlane(const std::string& name);

/// The plane that a text names, in words: "the front plane", "plane 2", "floor".
std::string planeInWords(const Part& part, const std::string& text);

/// How a drawing lies in its plane, from the words of its slots.
Plane asItLies(Plane plane, const std::string& seen, const std::string& up);
inline const std::vector<std::string>& seenChoices() {
    static const std::vector<std::string> all{"from before", "from behind"};
    return all;
}
inline const std::vector<std::string>& upChoices() {
    static const std::vector<std::string> all{"upright", "turned left", "upside down", "turned right"};
    return all;
}

} // namespace gc

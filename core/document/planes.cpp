#include "core/document/planes.hpp"

#include <algorithm>

namespace gc {

std::optional<Plane> fixedPlane(const std::string& name) {
    if (name == "front") return Plane();
    if (name == "ground") return planeFacing({}, {0, 0, 1});
    if (name == "side") return planeFacing({}, {1, 0, 0});
    return std::nullopt;
}

std::string planeInWords(const Part& part, const std::string& text) {
    if (text.empty()) return "no plane yet";
    if (fixedPlane(text)) return "the " + text + " plane";
    const auto face = parseFaceRef(text);
    return face ? referenceInWords(text, part) : text;
}

Plane asItLies(Plane plane, const std::string& seen, const std::string& up) {
    if (seen == seenChoices()[1]) plane = flipped(plane);
    const auto& ups = upChoices();
    return turned(plane, static_cast<int>(std::find(ups.begin(), ups.end(), up) - ups.begin()));
}

} // namespace gc

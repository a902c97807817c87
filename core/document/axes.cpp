#include "core/document/axes.hpp"

namespace gc {

std::optional<Vec3> fixedAxis(const std::string& name) {
    if (name == kFixedAxes[0]) return Vec3{0, 0, 1};
    if (name == kFixedAxes[1]) return Vec3{1, 0, 0};
    if (name == kFixedAxes[2]) return Vec3{0, 1, 0};
    return std::nullopt;
}

std::string axisInWords(const Part& part, const std::string& text) {
    if (text.empty()) return "no axis yet";
    if (fixedAxis(text)) return "the " + text;
    return parseFaceRef(text) || parseEdgeRef(text) ? referenceInWords(text, part) : text;
}

} // namespace gc

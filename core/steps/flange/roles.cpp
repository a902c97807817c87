#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> flangeRoles() {
    return {{"flange top", "flange top on", 1},        {"flange side", "flange edge along", 1},
            {"flange wall", "flange root along", 1},   {"flange corner", "flange corner on", 1},
            {"flange foot", "flange underside on", 1}, {"skirt top", "skirt end on", 1},
            {"skirt side", "skirt side along", 1},     {"skirt wall", "skirt wall along", 1},
            {"skirt corner", "skirt corner on", 1},    {"skirt foot", "skirt root on", 1}};
}

} // namespace gc

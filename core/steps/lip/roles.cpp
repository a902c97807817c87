#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> lipRoles() {
    return {{"lip top", "lip top on", 1},
            {"lip side", "lip side along", 1},
            {"lip wall", "lip wall along", 1},
            {"lip corner", "lip corner on", 1},
            {"lip foot", "lip foot on", 1}};
}

} // namespace gc

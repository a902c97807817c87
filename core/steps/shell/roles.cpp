#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> shellRoles() {
    return {{"inside of", "inside of", 1},
            {"rim of", "rim of", 1},
            {"inside fillet", "inside fillet between", 2, true}};
}

} // namespace gc

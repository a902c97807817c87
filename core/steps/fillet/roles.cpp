#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> filletRoles() {
    return {{"fillet", "fillet between", 2, true},
            {"fillet corner", "fillet corner of", 3, true},
            {"full round", "round over", 1},
            {"held round", "held round between", 2, true}};
}

} // namespace gc

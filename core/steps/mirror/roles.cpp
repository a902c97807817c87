#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> mirrorRoles() {
    return {{"image of", "image of", 1}};
}

} // namespace gc

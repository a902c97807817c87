#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> moveRoles() {
    return {{"twin of", "twin of", 1}};
}

} // namespace gc

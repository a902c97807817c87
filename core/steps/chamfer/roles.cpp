#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> chamferRoles() {
    return {{"chamfer", "chamfer between", 2, true}};
}

} // namespace gc

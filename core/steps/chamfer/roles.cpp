#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> chamferRoles() {
    return {{"chamfer", "chamfer between", 2, true}, {"chamfer corner", "chamfer corner of", 3, true}};
}

} // namespace gc

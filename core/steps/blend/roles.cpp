#include "core/names/derived_role.hpp"

namespace gc {

std::vector<DerivedRole> blendRoles() {
    return {{"blend", "blend between", 2, true}};
}

} // namespace gc

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shell/hollowing.hpp"

#include <cmath>

namespace gc {

Result<Body> hollowedBothWays(const Body& body, const ShellWish& wish, int step, const Progress& progress,
                              std::vector<Message>* notes) {
    ShellWish half = wish;
    half.offset = -0.5 * std::fabs(wish.offset);
    half.otherOffset = -0.5 * std::fabs(wish.otherOffset);
    const auto within = hollowed(body, half, step, progress, notes);
    if (!within) return within;
    half.offset = -half.offset;
    half.otherOffset = -half.otherOffset;
    const auto around = hollowed(body, half, step, progress, notes);
    if (!around) return around;
    // Both have the old surface; joined, it is gone.
    NamedTool outer = toolOf(*around, step);
    for (auto& [face, name] : outer.names)
        if (name && name->step == step && name->role == "inside of") name = name->parents.front();
    return combine(*within, outer, Combine::Add);
}

} // namespace gc

#pragma once
/// \file Words that the reader and the writer of references share.

#include "core/names/reference.hpp"

#include <string>
#include <string_view>
#include <utility>

namespace gc {

inline constexpr std::pair<std::string_view, Order::Along> kAlong[] = {
    {"across", Order::Along::Across}, {"up", Order::Along::Up}, {"through", Order::Along::Through}};

inline std::string wordOf(Order::Along along) {
    for (const auto& [word, a] : kAlong)
        if (a == along) return std::string(word);
    return {};
}

} // namespace gc

#pragma once
/// \file Whole numbers as places in a row.

#include <cstddef>

namespace gc {

/// Not negative.
inline std::size_t at(int i) {
    return static_cast<std::size_t>(i);
}

} // namespace gc

#pragma once
/// \file Figures in texts that have no units of a person's choosing: files, and lengths in mm.

#include <array>
#include <charconv>
#include <string>

namespace gc {

/// A number with so many digits that count: "0.0181", "12.5"; never in a person's local spelling.
inline std::string figureOf(double v, int digits) {
    std::array<char, 32> text{};
    const auto end =
        std::to_chars(text.data(), text.data() + text.size(), v, std::chars_format::general, digits);
    return {text.data(), end.ptr};
}

} // namespace gc

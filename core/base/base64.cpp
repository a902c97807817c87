#include "core/base/base64.hpp"

#include <cstdint>

namespace gc {

namespace {

int digit(char c) {
    if (c >= 'A' && c <= 'Z') return c - 'A';
    if (c >= 'a' && c <= 'z') return c - 'a' + 26;
    if (c >= '0' && c <= '9') return c - '0' + 52;
    return c == '+' ? 62 : c == '/' ? 63 : -1;
}

} // namespace

std::optional<std::string> fromBase64(std::string_view text) {
    std::string out;
    out.reserve(text.size() / 4 * 3);
    std::uint32_t bits = 0;
    int held = 0, digits = 0, padding = 0;
    for (const char c : text) {
        if (c == '\n' || c == '\r' || c == ' ') continue;
        if (c == '=') {
            ++padding;
            continue;
        }
        const int d = digit(c);
        if (d < 0 || padding > 0) return std::nullopt;
        ++digits;
        bits = bits << 6 | static_cast<std::uint32_t>(d);
        held += 6;
        if (held < 8) continue;
        held -= 8;
        out += static_cast<char>(bits >> held & 0xff);
    }
    const bool whole = (digits + padding) % 4 == 0 && padding <= 2 && digits % 4 != 1;
    return whole ? std::optional(std::move(out)) : std::nullopt;
}

} // namespace gc

#pragma once
/// \file The 64-bit content hash by which regeneration knows what it has built already (FNV-1a).

#include <cstdint>
#include <cstring>
#include <string_view>

namespace gc {

/// Collects bytes into one 64-bit hash; the order of the calls matters.
class Hasher {
  public:
    Hasher& bytes(const void* data, std::size_t size) {
        const auto* at = static_cast<const unsigned char*>(data);
        for (std::size_t i = 0; i < size; ++i) m_state = (m_state ^ at[i]) * 1099511628211ULL;
        return *this;
    }
    /// A text and its length, so that ("ab","c") differs from ("a","bc").
    Hasher& text(std::string_view s) { return number(s.size()).bytes(s.data(), s.size()); }
    Hasher& number(std::uint64_t v) { return bytes(&v, sizeof v); }
    Hasher& real(double v) {
        if (v == 0) v = 0; // -0 and 0 are the same size
        return bytes(&v, sizeof v);
    }
    std::uint64_t value() const { return m_state; }

  private:
    std::uint64_t m_state = 14695981039346656037ULL;
};

} // namespace gc

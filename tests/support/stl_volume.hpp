#pragma once
/// \file What a binary STL file encloses, by the divergence theorem over its triangles, mm^3.

#include <cstdint>
#include <cstring>
#include <string>

namespace gc::test {

inline double stlVolume(const std::string& content) {
    std::uint32_t count = 0;
    if (content.size() < 84) return 0;
    std::memcpy(&count, content.data() + 80, 4);
    if (content.size() != 84 + 50ull * count) return 0;
    double sum = 0;
    for (std::uint32_t i = 0; i < count; ++i) {
        float v[12];
        std::memcpy(v, content.data() + 84 + 50ull * i, 48);
        sum += double(v[3]) * (double(v[7]) * v[11] - double(v[8]) * v[10]) -
               double(v[4]) * (double(v[6]) * v[11] - double(v[8]) * v[9]) +
               double(v[5]) * (double(v[6]) * v[10] - double(v[7]) * v[9]);
    }
    return sum / 6;
}

} // namespace gc::test

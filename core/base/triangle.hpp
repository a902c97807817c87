#pragma once
/// \file Triangles: distances, edges, splitting.

#include "core/base/vec.hpp"

#include <algorithm>
#include <array>
#include <cstddef>
#include <cstdint>

namespace gc {

/// The nearest point of a triangle (Ericson, Real-Time Collision Detection, 2005, section 5.1.5).
inline Vec3 nearestOnTriangle(Vec3 p, Vec3 a, Vec3 b, Vec3 c) {
    const Vec3 ab = b - a, ac = c - a, ap = p - a;
    const double d1 = dot(ab, ap), d2 = dot(ac, ap);
    if (d1 <= 0 && d2 <= 0) return a;
    const Vec3 bp = p - b;
    const double d3 = dot(ab, bp), d4 = dot(ac, bp);
    if (d3 >= 0 && d4 <= d3) return b;
    const double vc = d1 * d4 - d3 * d2;
    if (vc <= 0 && d1 >= 0 && d3 <= 0) return a + ab * (d1 / (d1 - d3));
    const Vec3 cp = p - c;
    const double d5 = dot(ab, cp), d6 = dot(ac, cp);
    if (d6 >= 0 && d5 <= d6) return c;
    const double vb = d5 * d2 - d1 * d6;
    if (vb <= 0 && d2 >= 0 && d6 <= 0) return a + ac * (d2 / (d2 - d6));
    const double va = d3 * d6 - d5 * d4;
    if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) return b + (c - b) * ((d4 - d3) / ((d4 - d3) + (d5 - d6)));
    const double k = 1 / (va + vb + vc);
    return a + ab * (vb * k) + ac * (vc * k);
}

/// One number for the edge between two vertices, whichever way it runs.
inline std::uint64_t edgeKey(std::uint32_t a, std::uint32_t b) {
    return std::uint64_t(std::min(a, b)) << 32 | std::max(a, b);
}

/// Splits a triangle at the middles of its sides (middle[k] is on the side from corner k to the next;
/// negative: the side stays whole) into one to four, all turned like it. \param apart distance of two
/// vertices: a four-sided rest is cut along its shorter diagonal \param emit gets three vertices of a new
/// triangle
template <class Index, class Apart, class Emit>
void splitTriangle(const std::array<Index, 3>& t, const std::array<std::int64_t, 3>& middle, Apart&& apart,
                   Emit&& emit) {
    const auto at = [&](std::size_t k) { return static_cast<Index>(middle[k % 3]); };
    const auto whole = [&](std::size_t k) { return middle[k] < 0; };
    const auto count = std::count_if(middle.begin(), middle.end(), [](std::int64_t m) { return m >= 0; });
    if (count == 0) return emit(t[0], t[1], t[2]);
    if (count == 3) {
        for (std::size_t k = 0; k < 3; ++k) emit(t[k], at(k), at(k + 2));
        return emit(at(0), at(1), at(2));
    }
    std::size_t k = 0; // the side that is the odd one: the only split one, or the only whole one
    while (whole(k) == (count == 1)) ++k;
    const Index a = t[k], b = t[(k + 1) % 3], c = t[(k + 2) % 3];
    if (count == 1) {
        emit(a, at(k), c);
        return emit(at(k), b, c);
    }
    const Index bc = at(k + 1), ca = at(k + 2);
    emit(bc, c, ca);
    if (apart(a, bc) < apart(b, ca)) {
        emit(a, b, bc);
        emit(a, bc, ca);
    } else {
        emit(a, b, ca);
        emit(b, bc, ca);
    }
}

} // namespace gc

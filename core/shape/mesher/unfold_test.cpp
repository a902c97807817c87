// Pairs of triangles that are turned over.

#include "core/shape/mesher/patch.hpp"

#include <catch2/catch.hpp>

using namespace gc;

namespace {

double area(const Patch& p, const std::array<int, 3>& t) {
    const auto at = [&](std::size_t k) { return p.uv[static_cast<std::size_t>(t[k])]; };
    return cross(at(1) - at(0), at(2) - at(0)) / 2;
}

Patch patchOf(const std::vector<Vec2>& places, const std::vector<std::array<int, 3>>& triangles) {
    Patch out;
    for (const Vec2 p : places) out.add({p.x, p.y, 0}, {0, 0, 1}, p);
    out.triangles = triangles;
    return out;
}

} // namespace

TEST_CASE("A triangle that lies beyond its longest side is turned over with the one behind it") {
    // A square; 4 is a little beyond the diagonal on which its triangle stands.
    Patch p =
        patchOf({{0, 0}, {1, 0}, {1, 1}, {0, 1}, {0.51, 0.5}}, {{0, 1, 2}, {0, 4, 3}, {4, 2, 3}, {0, 2, 4}});
    REQUIRE(area(p, {0, 2, 4}) < 0);
    unfold(p);
    double sum = 0;
    for (const auto& t : p.triangles) {
        CHECK(area(p, t) > 0);
        sum += area(p, t);
    }
    CHECK(p.triangles.size() == 4);
    CHECK(sum == Approx(1));
}

TEST_CASE("Triangles that lie rightly, and those at the border, stay as they are") {
    const std::vector<std::array<int, 3>> right{{0, 1, 2}, {0, 2, 3}}, border{{0, 2, 1}};
    Patch p = patchOf({{0, 0}, {1, 0}, {1, 1}, {0, 1}}, right);
    unfold(p);
    CHECK(p.triangles == right);
    Patch q = patchOf({{0, 0}, {1, 0}, {1, 1}}, border);
    unfold(q);
    CHECK(q.triangles == border);
}

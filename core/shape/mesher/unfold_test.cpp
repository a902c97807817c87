// Triangles that are turned over.

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

namespace {

/// A flat strip whose border bends inward; its triangles are made as if that were straight.
Patch bentStrip(std::vector<int>& border) {
    constexpr int kPlaces = 12;
    Patch out;
    for (int i = 0; i <= kPlaces; ++i) {
        const double x = 10.0 * i / kPlaces;
        border.push_back(out.add({x, 0.04 * x * (10 - x), 0}, {0, 0, 1}, {x, 0}));
    }
    for (const double x : {10.0, 0.0}) border.push_back(out.add({x, 6, 0}, {0, 0, 1}, {x, 6}));
    // A fan over the border from its first place, and two large ones.
    for (int i = 1; i < kPlaces; ++i) out.triangles.push_back({0, i, i + 1});
    out.triangles.push_back({0, kPlaces, kPlaces + 1});
    out.triangles.push_back({0, kPlaces + 1, kPlaces + 2});
    return out;
}

double areaInSpace(const Patch& p) {
    double sum = 0;
    for (const auto& t : p.triangles) {
        const auto at = [&](std::size_t k) { return p.points[static_cast<std::size_t>(t[k])]; };
        sum += cross(at(1) - at(0), at(2) - at(0)).z / 2;
    }
    return sum;
}

} // namespace

TEST_CASE("A flat strip along a border that bends inward is laid as it lies in space") {
    std::vector<int> border;
    Patch p = bentStrip(border);
    const double area = areaInSpace(p); // what is turned over counts as less
    REQUIRE(foldedShare(p) > 0.05);
    REQUIRE(layFlat(p, {border}));
    CHECK(foldedShare(p) == 0);
    CHECK(areaInSpace(p) == Approx(area));
    CHECK(p.triangles.size() == border.size() - 2);
    for (const auto& t : p.triangles)
        for (const int k : t) CHECK((k >= 0 && k < static_cast<int>(border.size())));
}

TEST_CASE("What is not flat, and what crosses itself, is left as it is") {
    std::vector<int> border;
    Patch bent = bentStrip(border);
    bent.normals[3] = {0.95, 0, 0.31};
    const auto before = bent.triangles;
    CHECK(!layFlat(bent, {border}));
    CHECK(bent.triangles == before);
    border.clear();
    Patch crossed = bentStrip(border);
    std::swap(border[3], border[9]);
    CHECK(!layFlat(crossed, {border}));
    CHECK(crossed.triangles == before);
}

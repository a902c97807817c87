#pragma once
/// \file What a body's mesh says of it, counted by columns of material.

#include "core/shape/dexels.hpp"
#include "core/shape/mesh.hpp"

#include <catch2/catch.hpp>

#include <random>

namespace gc::test {

/// Volume of a mesh, and what of it is enclosed twice or the wrong way round. mm³
inline std::pair<double, double> meshOf(const Body& body, double deviation) {
    MeshOptions options;
    options.deviation = deviation;
    const auto mesh = makeMesh(body, options);
    REQUIRE(mesh);
    double volume = 0;
    for (const auto& t : mesh->triangles)
        volume += dot(mesh->points[t[0]], cross(mesh->points[t[1]], mesh->points[t[2]])) / 6;
    return {volume, Dexels(*mesh, gridOver({&*mesh})).wronglyWound()};
}

/// Of a fine mesh, which has to be closed. mm³
inline double meshedVolume(const Body& body) {
    MeshOptions fine;
    fine.deviation = 0.002;
    const auto mesh = makeMesh(body, fine);
    REQUIRE(mesh.ok());
    CHECK(openMeshEdges(*mesh) == 0);
    return meshVolume(*mesh);
}

/// Numbers by chance, the same for the same seed.
class Chance {
  public:
    explicit Chance(unsigned seed) : m_random(seed) {}
    double between(double a, double b) { return a + (b - a) * std::uniform_real_distribution<>()(m_random); }
    unsigned upTo(unsigned n) { return static_cast<unsigned>(m_random() % n); }

  private:
    std::mt19937 m_random;
};

} // namespace gc::test

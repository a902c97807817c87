#include "core/inspect/lean.hpp"

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kDegrees = 180 / M_PI;
constexpr double kTurnsFast = 10; // degrees per mm

/// Marks vertices of triangles on which the lean changes fast.
std::vector<bool> onNarrowRounds(const SampledSurface& surface, const std::vector<float>& lean) {
    std::vector<bool> fast(lean.size(), false);
    for (const auto& t : surface.mesh.triangles) {
        double rate = 0;
        for (std::size_t k = 0; k < 3; ++k) {
            const auto a = t[k], b = t[(k + 1) % 3];
            const double l = length(surface.mesh.points[a] - surface.mesh.points[b]);
            if (l > 1e-9) rate = std::max(rate, std::fabs(lean[a] - lean[b]) / l);
        }
        if (rate > kTurnsFast)
            for (const auto v : t) fast[v] = true;
    }
    return fast;
}

} // namespace

LeanField leanOf(const SampledSurface& surface, const RayScene& scene, Vec3 pull, const Stop& stop) {
    LeanField field;
    const std::size_t n = surface.samples.size();
    field.degrees.assign(n, 0);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, n, 256), [&](const auto& range) {
        if (stop && stop()) return;
        for (std::size_t i = range.begin(); i < range.end(); ++i)
            field.degrees[i] = static_cast<float>(
                std::asin(std::clamp(dot(surface.mesh.normals[i], pull), -1.0, 1.0)) * kDegrees);
    });
    field.passedOver = onNarrowRounds(surface, field.degrees);
    tbb::parallel_for(tbb::blocked_range<std::size_t>(0, n, 256), [&](const auto& range) {
        if (stop && stop()) return;
        for (std::size_t i = range.begin(); i < range.end(); ++i) {
            const double lean = field.degrees[i];
            const double gap = 1e-3 + 2 * surface.mesh.deviation;
            const Vec3 from = surface.samples[i] + surface.mesh.normals[i] * gap;
            const bool held =
                std::fabs(lean) > 0.05 && scene.cast(from, pull * (lean > 0 ? 1 : -1), gap).hit();
            field.degrees[i] = static_cast<float>(held ? -std::fabs(lean) : std::fabs(lean));
        }
    });
    if (stop && stop()) return field;
    for (std::size_t i = 0; i < n; ++i) {
        if (field.degrees[i] < 0 && !field.passedOver[i]) field.undercutArea += surface.areas[i];
        if (field.passedOver[i] || (field.any && field.degrees[i] >= field.least.value)) continue;
        field.least = {field.degrees[i], surface.samples[i], surface.mesh.faces[surface.faceOf[i]].name};
        field.any = true;
    }
    return field;
}

} // namespace gc

#include "core/steps/shared/runs_through_itself.hpp"

#include "core/shape/dexels.hpp"
#include "core/shape/mesh.hpp"

namespace gc {

bool runsThroughItself(const Body& body) {
    constexpr double kFine = 0.0004; // deviation as a share of the diagonal
    constexpr double kNoise = 0.05;  // of deviation x area: a sound body has nothing of it
    MeshOptions options;
    options.angle = 0.7;
    options.deviation = kFine * length(looseEnvelope(body).size());
    const auto mesh = makeMesh(body, options);
    if (!mesh) return false; // what cannot be meshed is found by the step's own checks
    return Dexels(*mesh, gridOver({&*mesh})).wronglyWound() > kNoise * options.deviation * meshArea(*mesh);
}

} // namespace gc

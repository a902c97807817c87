#pragma once
/// \file What is worked out of a body, whatever the targets ask: measures are taken from it.

#include "core/base/thing.hpp"
#include "core/inspect/deviation.hpp"
#include "core/inspect/fill.hpp"
#include "core/inspect/lean.hpp"
#include "core/inspect/mass.hpp"
#include "core/inspect/seams.hpp"
#include "core/inspect/wall.hpp"

namespace gc {

struct BodyMeasures {
    ThingId id;
    std::string name;
    std::string material;
    std::uint64_t content = 0;
    MassProperties mass;
    BodyCheck check;
    Box box;
    std::shared_ptr<const TriangleMesh> mesh;      ///< what was measured on
    std::shared_ptr<const SampledSurface> surface; ///< where the fields below have their values
    WallField ray, ball;
    LeanField lean;
    FillResult brim, line;
    SeamField seams;
    std::shared_ptr<const DeviationField> deviation; ///< from an imported body; null: there is none
    ThingId deviatesFrom;                            ///< that body
    std::optional<Error> error;                      ///< why a measure could not be taken
};

} // namespace gc

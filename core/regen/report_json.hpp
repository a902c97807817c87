#pragma once
/// \file Measures as JSON for programs. The keys carry the units; they are a contract (docs/cli.md).

#include "core/regen/measure.hpp"

#include <nlohmann/json.hpp>
#include <nlohmann/json_fwd.hpp>

namespace gc {

/// {"bodies":[…],"fill":{…},"steps":[…]}
nlohmann::ordered_json measuresJson(const Part& part, const RegenResult& regen, const PartMeasures& measures);
/// {"targets":[{"name","measured","unit","allowed","verdict","where"}]}
nlohmann::ordered_json targetsJson(const Part& part, const PartMeasures& measures);

} // namespace gc

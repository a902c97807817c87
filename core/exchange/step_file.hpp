#pragma once
/// \file Bodies in and out of STEP files (ISO 10303-21, application protocol 214).

#include "core/shape/body.hpp"

#include <filesystem>

namespace gc {

/// The solids of a STEP text as one body; its faces are named by their sort, size and place.
/// Lengths are converted to mm. Errors: "step.syntax", "step.empty".
Result<Body> readStep(const std::string& content, int stepId);

/// Named bodies to a file in millimetres. Error: "step.unwritable".
struct NamedBody {
    std::string name;
    Body body;
    std::string colour{}; ///< "#c08a6b"; empty: none is written
};
Result<Done> writeStep(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path);

} // namespace gc

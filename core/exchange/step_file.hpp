#pragma once
/// \file Bodies in and out of STEP files (ISO 10303-21, application protocol 214).

#include "core/shape/body.hpp"

#include <filesystem>

namespace gc {

struct NamedBody {
    std::string name; ///< empty: it has none
    Body body;
    std::string colour{};         ///< "#c08a6b"; empty: none
    std::vector<Message> notes{}; ///< of what was read: what was wrong with it
};

/// The solids and surfaces of a STEP text, each where its assembly puts it, in the order of the file, called
/// by its place in the assemblies below the whole ("housing / lid"); faces are named by their sort, size and
/// place. Lengths are converted to mm. What is invalid is put right where it can be. Errors: "step.syntax",
/// "step.empty".
Result<std::vector<NamedBody>> readStep(const std::string& content, int stepId);

/// Named bodies to a file in millimetres. Error: "step.unwritable".
Result<Done> writeStep(const std::vector<NamedBody>& bodies, const std::string& partName,
                       const std::filesystem::path& path);

} // namespace gc

#pragma once
/// \file Pieces of a part as JSON, as in its file, for the file itself and for the journal.

#include "core/document/part.hpp"

#include <nlohmann/json.hpp>

namespace gc {

/// Everything but steps and attachments; "steps" is there and empty.
nlohmann::ordered_json headToJson(const Part& part);
nlohmann::ordered_json stepToJson(const Step& step);

/// The whole part again. Errors: "part.format", "part.newer", "part.content".
Result<Part> partFromJson(const nlohmann::ordered_json& root);

} // namespace gc

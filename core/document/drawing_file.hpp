#pragma once
/// \file Drawings as JSON, as documented in docs/file-format.md.

#include "core/sketch/drawing.hpp"

#include <nlohmann/json.hpp>

#include <optional>

namespace gc {

nlohmann::ordered_json drawingToJson(const Drawing& drawing);

/// \return what is wrong with it, as a sentence; nothing when it was read.
std::optional<std::string> readDrawing(const nlohmann::ordered_json& json, Drawing& drawing);

} // namespace gc

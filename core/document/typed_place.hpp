#pragma once
/// \file Places typed instead of clicked.

#include "core/base/result.hpp"
#include "core/base/vec.hpp"
#include "core/document/part.hpp"

#include <optional>
#include <string>

namespace gc {

struct TypedPlace {
    Vec2 at;
    /// What was typed when it was one length: the distance from `from`, as an expression.
    std::string length;
};

/// "12 mm, 30 mm": across and up from the origin. "+5, 2": from the last place. "40 at 30°": so far from it,
/// at an angle to the level. "40": so far from it, toward the pointer. Every number takes expressions.
/// \param from the last place; without one, only the first form works
Result<TypedPlace> placeFromText(const std::string& text, const UnitSystem& units, const Values& values,
                                 std::optional<Vec2> from, Vec2 pointer);

} // namespace gc

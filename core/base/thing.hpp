#pragma once
/// \file What steps make, and how it is told apart: by the step that made it, never by its name.

#include <compare>

namespace gc {

enum class Thing { Outline, Plane, Axis, Body, Curve };

/// The step that made it and, of several that a step made, which one (from 0). It stays the same whatever the
/// thing is called and wherever the step stands in the sheet.
struct ThingId {
    int step = 0;
    int ordinal = 0;
    friend auto operator<=>(const ThingId&, const ThingId&) = default;
};

} // namespace gc

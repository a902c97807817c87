#pragma once
/// \file An even field of openings within an area: slots with round ends, holes in rows, holes in rings. Free
/// of the kernel.

#include "core/base/result.hpp"
#include "core/sketch/region.hpp"

namespace gc {

struct VentWish {
    enum class Shape { Slots, Rows, Rings };
    Shape shape = Shape::Slots;
    double width = 2, bar = 2; ///< mm
    double turn = 0;           ///< of the rows, rad, counter-clockwise from level
    double rim = 2;            ///< mm that stay along the border at least
};

/// A disc that was moved along a line: a hole where both ends are one place.
struct Opening {
    Vec2 from, to;
    int number = 0; ///< counted from the middle of the area, so that those there keep theirs as it grows
    bool round() const { return length(to - from) == 0; }
};

/// Evenly about the middle of the area: rows one width and one bar apart; in a row of holes and in a ring as
/// many as leave at least a bar between them. Errors: "vent.none" where not one fits, "vent.many" for more
/// than kMostOpenings.
inline constexpr std::size_t kMostOpenings = 1500;
Result<std::vector<Opening>> openingsIn(const Region& area, const VentWish& wish);

/// Such an opening as an area of its own.
Region areaOf(const Opening& opening, double width);

} // namespace gc

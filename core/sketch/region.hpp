#pragma once
/// \file What a drawing encloses, and what keeps it from closing.

#include "core/base/message.hpp"
#include "core/sketch/curve2.hpp"

#include <optional>
#include <string>

namespace gc {

/// A piece of a stroke on the way round a region, in the direction of the walk.
struct Side {
    int stroke = 0; ///< id; kAxisLine where the axis closes a half profile
    Curve2 curve;
    bool against = false; ///< walked against the stroke's own direction
};

/// What an area is called by: the ids of the strokes around it. Where another area has the same strokes (two
/// circles that overlap make three such), each with the sense in which it is walked.
inline constexpr int kAhead = 1 << 28, kAgainst = 1 << 29;
inline int strokeOfMark(int mark) {
    return mark & (kAhead - 1);
}

/// A closed walk. Outer ones run counter-clockwise, holes clockwise.
struct Loop {
    std::vector<Side> sides;
    double area = 0; ///< mm², signed
};

struct Region {
    Loop outer;
    std::vector<Loop> holes;
    int depth = 0; ///< how many others it lies within; odd ones are what is cut out of those
    double area() const;
    std::vector<int> marks{}; ///< how a step keeps hold of it: see kAhead
    /// The ids of the strokes of its outer loop.
    std::vector<int> strokes() const;
    bool contains(Vec2 p) const;
};

/// Gives each of them its marks.
void markAreas(std::vector<Region>& regions);

/// About the middle of a region: the centroid of its border.
Vec2 middleOf(const Region& region);

enum class TroubleKind { Gap, LooseEnd, Crossing, Overlap, Doubled };

/// What is wrong with an outline, where, how large, and what one click does about it.
struct Trouble {
    TroubleKind kind = TroubleKind::Gap;
    Vec2 at, to;              ///< a gap runs from one to the other
    double size = 0;          ///< mm: width of a gap, length of an overlap
    std::vector<int> strokes; ///< the ones concerned
    std::vector<int> points;  ///< Gap: the two ends; LooseEnd: the one
    Message sentence;         ///< "The upper end of line 3 and line 4 are 0.12 mm apart."
    std::string mend;         ///< "Join them"; empty when there is none
};

struct Closedness {
    std::vector<Region> regions; ///< every enclosed face, the largest first; what lies in a hole is its own
    std::vector<Trouble> troubles;
};

struct ClosednessOptions {
    /// Ends nearer than this part of the drawing's size are a gap rather than loose ends.
    double gapPart = 0.05;
    /// Two ends on the axis are joined along it: half profiles.
    bool closeAlongAxis = true;
};

/// Splits all strokes where they meet, walks the faces, nests them. Helpers take no part.
Closedness findRegions(const Drawing& drawing, const ClosednessOptions& options = {});

/// The region that has most of these strokes around it, in these senses where they are said, if more than
/// half of all that the two have between them; nothing when there is none, or two that fit equally well. So a
/// step keeps hold of an area while strokes are added to its outline or taken from it.
std::optional<std::size_t> findArea(const std::vector<Region>& regions, const std::vector<int>& marks);

/// Does what Trouble::mend says. \return false when the trouble is not there any more
bool mend(Drawing& drawing, const Trouble& trouble);

} // namespace gc

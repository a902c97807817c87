#pragma once
/// \file Moving, turning, scaling, copying and mirroring strokes. Repeating them: repeat.hpp.

#include "core/sketch/edit/carry.hpp"
#include "core/sketch/edit/part_of.hpp"

#include <map>

namespace gc {

/// A similarity of the plane: mirror across the level line if asked, turn and scale by u (as a complex
/// number), then shift. mm
struct Placing {
    Vec2 u{1, 0};
    Vec2 shift;
    bool mirrored = false;

    Vec2 operator()(Vec2 p) const {
        if (mirrored) p.y = -p.y;
        return Vec2{u.x * p.x - u.y * p.y, u.y * p.x + u.x * p.y} + shift;
    }
    double scale() const { return length(u); }
    /// What undoes it. Not of one that mirrors.
    Placing undone() const {
        const double k = 1 / dot(u, u);
        Placing p{{u.x * k, -u.y * k}, {}, false};
        p.shift = p(shift) * -1;
        return p;
    }
    /// The other first, then this one. Neither mirrors.
    Placing after(const Placing& first) const {
        return {{u.x * first.u.x - u.y * first.u.y, u.x * first.u.y + u.y * first.u.x},
                (*this)(first.shift),
                false};
    }

    static Placing move(Vec2 by) { return {{1, 0}, by, false}; }
    static Placing turnAbout(Vec2 centre, double angle, double scale = 1);
    static Placing mirrorAcross(LineEnds line);
};

/// The shape of a stroke after it. Mirrored arcs run the other way, so that they stay counter-clockwise.
StrokeShape placed(const StrokeShape& shape, const Placing& placing);

/// Copies strokes, with the relations and dimensions among them that still hold. \return what stands for each
/// point and stroke
std::map<int, int> copyStrokes(Drawing& drawing, const std::vector<int>& strokes, const Placing& placing,
                               bool withRelations = true);

/// Puts another drawing's strokes and relations beside those of this one. \return the ids that the strokes
/// have now; names of dimensions that are taken here are dropped
std::vector<int> addDrawing(Drawing& drawing, const Drawing& other);

/// Moves strokes themselves. Points joined to others that stay are taken apart. Dimensions among the moved
/// and between them and the rest that are plain figures get their new measure; relations that cannot hold any
/// more are taken away and told.
EditOutcome placeStrokes(Drawing& drawing, const std::vector<int>& strokes, const Placing& placing);

/// Mirrored copies that stay so: whatever moves, its mirror image follows. Ends on the line are joined.
EditOutcome mirrorStrokes(Drawing& drawing, const std::vector<int>& strokes, int line);

} // namespace gc

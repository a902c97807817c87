#pragma once
/// \file What can still move in a drawing, in numbers and in words, and what would pin it.

#include "core/base/message.hpp"
#include "core/sketch/solve/settle.hpp"
#include "core/units/expression.hpp"

namespace gc {

enum class Looseness { Settled, AlongALine, Free };

/// A relation or a dimension with today's value that takes one freedom away.
struct Pin {
    Relation relation; ///< without an id; a dimension carries its value as an expression
    std::string words; ///< "level", "length 24.3 mm"
};

/// One way in which the drawing can still move.
struct FreeMotion {
    std::map<int, Vec2> points;  ///< by point id: where to, the fastest by 1 mm
    std::map<int, double> sizes; ///< by stroke id
    int lead = 0;                ///< the point or stroke that the sentence is about
    bool whole = false;          ///< everything that hangs together moves as one
    Message sentence;            ///< "The upper end of line 3 can slide left and right."
    std::vector<Pin> pins;       ///< up to three, best first
};

struct Freedoms {
    int count = 0; ///< how many sizes are still missing
    std::map<int, Looseness> points;
    std::map<int, bool> looseSizes;  ///< by stroke id: its radius, … can change
    std::vector<FreeMotion> motions; ///< as many as were asked for, whole motions last
};

/// How many freedoms a settled drawing has: unknowns less the rank of the Jacobian where it lies.
int countFreedoms(const Drawing& drawing, const DimensionValues& values);

/// \param mostMotions how many to put in words; the count and the looseness of points are always whole
/// \param pinMilliseconds how long to look for pins, each of which is tried by solving: a large drawing gets
/// fewer
Freedoms findFreedoms(const Drawing& drawing, const DimensionValues& values, const UnitSystem& units,
                      int mostMotions = 6, double pinMilliseconds = 80);

/// Is every point and size of a stroke settled?
bool isSettled(const Freedoms& freedoms, const Stroke& stroke);

} // namespace gc

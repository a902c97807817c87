#pragma once
/// \file What a body leaves in the plane of a drawing, and strokes and points that are held by it.
///
/// A stroke that follows an edge or a cut has a relation `Follows`, a point where an edge runs through the
/// plane a relation `OnTrace`; both name their source in a text that this folder does not read. They hold
/// like `Fixed`, at places that are renewed whenever the body is: see renewTraces.

#include "core/sketch/curve2.hpp"
#include "core/sketch/drawing.hpp"

namespace gc {

/// An edge seen straight on, a cut through a face, or a point where an edge meets the plane.
struct Trace {
    std::string source;
    int piece = 0, pieces = 1; ///< a source may leave several, in order of their places
    StrokeKind kind = StrokeKind::Line;
    std::vector<Vec2> at;      ///< of a stroke's points, in its order, mm
    std::vector<double> sizes; ///< of a stroke; for a spline its spans
    friend bool operator==(const Trace&, const Trace&) = default;
};

/// The curves of a trace, for a picture and for picking.
std::vector<Curve2> curvesOf(const Trace& trace);

/// A stroke that follows the trace, or the one that does already. From now on the drawing has a real size.
/// \return its id
int followTrace(Drawing& drawing, const Trace& trace);
/// Holds a point where a trace of kind Point lies.
void holdPoint(Drawing& drawing, int point, const Trace& trace);

/// What became of the relations that lean on a body.
struct Renewal {
    std::vector<int> moved; ///< relations whose place is another now
    /// Relations that no trace fits, or that might mean another piece now: they stay where they were.
    std::vector<int> lost;
};
/// Puts the places of Follows and OnTrace relations where their traces are now. Points do not move; settling
/// brings them there.
Renewal renewTraces(Drawing& drawing, const std::vector<Trace>& traces);

/// Held by itself or by a body: Fixed, Follows, OnTrace.
bool isHold(RelationKind kind);

} // namespace gc

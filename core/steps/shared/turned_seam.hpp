#pragma once
/// \file For .cpp files: the line at which a round wall closes up, somewhere else around its axis.

#include "core/shape/kernel.hpp"

#include <optional>

namespace gc {

struct TurnedSeam {
    Body body;
    std::vector<int> faces; ///< where each face of the body before is, from 0
};

/// The same body with the seam of a round face turned by an angle, and with it those of the round faces about
/// the same axis that run on from it. Details that lay over it have loops of
/// their own then. Nothing where what lies beside is neither flat nor round about that
/// axis. \param face its number, from 0 \param angle rad, in the sense of the face's own parameter
std::optional<TurnedSeam> withSeamTurned(const Body& body, int face, double angle);

/// From where to where around a face, by its parameter.
using Span = std::pair<double, double>;
/// Of the loops that a face has, but not its border.
std::vector<Span> spansIn(const TopoDS_Face& face);
/// The middle of the widest stretch of a turn, from a parameter on, that no span reaches into. Nothing where
/// there is no room. \param spans one or more
std::optional<double> widestGap(const std::vector<Span>& spans, double from);

} // namespace gc

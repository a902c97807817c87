#pragma once
/// \file For .cpp files: the profile of a thread as it is drawn.

#include "core/model/model.hpp"

namespace gc {

/// A piece of it, straight or a cubic: its poles, along the axis by out of the wall, mm.
struct SectionPiece {
    std::vector<Vec2> poles; ///< two or four
    std::string role;        ///< of the face that it makes
};

/// From its lower foot, at the left, to its upper one: about the middle of both, over the level of these. Its
/// ends go on into the wall, so that nothing of it ends where the wall is.
struct DrawnSection {
    std::vector<SectionPiece> pieces;
    double width = 0, depth = 0; ///< mm
    double sunkWidth = 0;        ///< where it ends within the wall
};

/// How far a thread goes into its wall, so that nothing is left open between them, mm.
double sunkOf(double depth);

/// Errors: "thread.profile" where the drawing is no open line whose ends are on one level, the lowest of it.
Result<DrawnSection> drawnSection(const Outline& outline);

} // namespace gc

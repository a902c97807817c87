#pragma once
/// \file For .cpp files: the section of a thread or a groove as it is drawn.

#include "core/model/model.hpp"

namespace gc {

/// A piece of it, straight or a cubic: its poles, along the axis by out of the wall, mm.
struct SectionPiece {
    std::vector<Vec2> poles; ///< two or four
    int stroke = 0;          ///< of the drawing; 0 where it goes on straight
};

/// From its foot at the left to the one at the right: about the middle of both, over the level of these.
struct DrawnSection {
    std::vector<SectionPiece> pieces;
    double width = 0, depth = 0; ///< mm, of what stands over the level of the feet
    double sunkWidth = 0;        ///< where it ends below that

    /// Its ends go on as they are, so far below the level: nothing of it ends where the wall is.
    void sink(double below);
};

/// \param hanging it may hang below its ends instead: then it is turned up
/// Errors: the code, where the drawing is no open line whose ends are on one level, with all the rest over
/// it.
Result<DrawnSection> drawnSection(const Outline& outline, const char* code, bool hanging);

} // namespace gc

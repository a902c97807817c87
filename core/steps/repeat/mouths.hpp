#pragma once
/// \file For .cpp files: whether the mouths of copies fit on the faces that they are to stand in.

#include "core/steps/repeat/placements.hpp"
#include "core/steps/shared/detail.hpp"
#include "core/steps/shared/loop_2d.hpp"

namespace gc {

/// What is wrong with some copies, by their numbers from 0 among the placements; the detail itself is -1.
struct Misfits {
    std::vector<int> off;                         ///< beside the face, or on one that is not the same there
    std::vector<int> across;                      ///< over a border of it
    std::vector<std::pair<int, int>> overlapping; ///< with one another
    bool none() const { return off.empty() && across.empty() && overlapping.empty(); }
};

/// Pairs of loops of a face, each with a number, that overlap. \param round the face closes up after a whole
/// turn \param first no more than one
std::vector<std::pair<int, int>> overlaps(const std::vector<std::pair<int, Outline2d>>& loops, bool round,
                                          bool first);

/// The mouths of a detail on its faces, to be held against places.
class MouthPlan {
  public:
    explicit MouthPlan(const Detail& detail);
    /// \param first only whether there are any: no more are looked for
    Misfits misfits(const std::vector<Placement>& placements, bool first = false) const;

    /// Where a face closes up a copy may lie over that line: the face, and by how much its seam has to be
    /// turned so that no loop does. Nothing where none does; an angle of 0 where there is no room for it.
    struct SeamMove {
        TopoDS_Face host;
        double angle = 0; ///< rad, along the face's own parameter
    };
    std::optional<SeamMove> seamInTheWay(const std::vector<Placement>& placements) const;

  private:
    struct Mouthed;
    std::vector<std::shared_ptr<const Mouthed>> m_mouths;
};

} // namespace gc

#pragma once
/// \file For .cpp files of this folder: details repeated on a wall that is another one where the copies
/// stand.

#include "core/model/arguments.hpp"
#include "core/steps/repeat/mouths.hpp"
#include "core/steps/repeat/over_borders.hpp"
#include "core/steps/repeat/surgery.hpp"
#include "core/steps/shared/edge_work.hpp"

namespace gc {

/// Is there a placement at which a wall of the detail that is not flat is another one?
bool needsFitting(const Detail& detail, const std::vector<Placement>& placements);

/// Copies on walls of any form.
class OnForm {
  public:
    /// \param faces what is repeated, by number. Rounds at its mouths are built anew, also on the detail
    /// itself \param square the copies are turned with the wall
    static Result<OnForm> of(const Body& body, const std::vector<int>& faces, bool square);

    const Detail& detail() const { return *m_whole; }
    /// Where the detail stands, and about what it turns there.
    gp_Ax1 stand() const;

    struct Laid {
        std::vector<std::pair<Placement, FittedCopy>> copies;
        std::vector<std::pair<Placement, CopyTool>> tools; ///< of what lies over borders of walls
        std::optional<OwnCopy> own;                        ///< the detail itself, where it is built anew
        Misfits misfits;
    };
    /// \param first only whether there are misfits
    Laid lay(const std::vector<Placement>& placements, bool first, const Progress& progress) const;
    /// Errors: "repeat.failed"; those of the rounds.
    Result<Body> set(const Laid& laid, int step) const;

  private:
    /// Where a wall meets its mouth.
    struct Round {
        NamePtr wall = nullptr; ///< of the detail
        NamePtr name = nullptr;
        double radius = 0; ///< mm
    };
    bool bare();
    std::vector<EdgeChain> roundsOf(const Laid& laid, const Body& body, int step) const;

    Body m_body;
    /// The second without the rounds at its mouths: these are where its walls meet the rounds. The same where
    /// there are none.
    std::shared_ptr<const Detail> m_whole, m_bare;
    std::vector<Round> m_rounds;
    bool m_square = true;
    bool m_takes = false; ///< it is a hollow
};

} // namespace gc

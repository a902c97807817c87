#pragma once
/// \file For .cpp files of this folder: details repeated on a wall that is another one where the copies
/// stand.

#include "core/model/arguments.hpp"
#include "core/steps/repeat/mouths.hpp"
#include "core/steps/repeat/surgery.hpp"
#include "core/steps/shared/edge_work.hpp"

namespace gc {

/// Is there a placement at which a wall of the detail that is not flat is another one?
bool needsFitting(const Detail& detail, const std::vector<Placement>& placements);

/// Copies on a wall of any form.
class OnForm {
  public:
    /// \param faces what is repeated, by number. Rounds at its mouths are built anew, also on the detail
    /// itself \param square the copies are turned with the wall
    static Result<OnForm> of(const Body& body, const std::vector<int>& faces, bool square);

    const Detail& detail() const { return *m_whole; }
    /// Where the detail stands, and about what it turns there.
    gp_Ax1 stand() const;

    struct Laid {
        std::vector<FittedCopy> copies; ///< of all placements, where there are no misfits
        std::optional<OwnCopy> own;     ///< the detail itself, where it is built anew
        Misfits misfits;
        /// The wall that closes up under a copy, and how its seam has to be turned, rad, to be out of the
        /// way; 0 where there is no room for it.
        std::optional<std::pair<TopoDS_Face, double>> seam;
    };
    /// \param first only whether there are misfits
    Laid lay(const std::vector<Placement>& placements, bool first, const Progress& progress) const;
    /// Errors: "repeat.failed"; those of the rounds.
    Result<Body> set(const std::vector<Placement>& placements, const Laid& laid, int step) const;

  private:
    /// Along one edge of a mouth.
    struct Round {
        std::size_t mouth = 0, edge = 0; ///< in the order of the loop
        NamePtr name = nullptr;
        double radius = 0; ///< mm
    };
    bool bare();

    Body m_body;
    /// The second without the rounds at its mouths: these are where its walls meet the rounds. The same where
    /// there are none.
    std::shared_ptr<const Detail> m_whole, m_bare;
    std::vector<Round> m_rounds;
    bool m_square = true;
};

} // namespace gc

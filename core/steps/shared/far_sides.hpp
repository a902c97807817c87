#pragma once
/// \file For .cpp files: what is left of an area at the far end of a relief whose sides lean.

#include "core/model/model.hpp"
#include "core/steps/shared/leaning_prism.hpp"

#include <gp_Dir.hxx>

namespace gc {

/// How the reliefs of a step stand on their walls.
struct ReliefShape {
    double height = 1;           ///< mm, out of the wall; negative: sunk into it
    double lean = 0;             ///< rad by which the sides lean inward
    std::optional<gp_Dir> along; ///< out of the wall; nothing: square to it everywhere
    double below = 0; ///< mm by which the near end lies on the wall's other side, wider by the lean
};

/// The sides of an area, near and far. Each far side goes with its near one by a parameter from 0 to 1.
class FarSides {
  public:
    /// Errors: "emboss.lean" where sides vanish or meet before they get so far, with how far they may lean.
    static Result<FarSides> of(const Region& area, const ReliefShape& shape);

    const SideLoops& loops() const { return m_loops; }
    Vec2 near(std::size_t loop, std::size_t side, double t) const {
        return m_near.at(m_loops, loop, side, t);
    }
    Vec2 far(std::size_t loop, std::size_t side, double t) const { return m_far.at(m_loops, loop, side, t); }
    /// Parameters at which the near or the far side goes on as another curve, 0 and 1 among them.
    std::vector<double> breaks(std::size_t loop, std::size_t side) const;

  private:
    struct Span {
        double from = 0, to = 1; ///< of the drawn side's parameter: as much as its neighbours leave
    };
    /// The sides at one end.
    struct End {
        double by = 0; ///< mm by which they lie inward
        std::vector<std::vector<Span>> spans;
        Vec2 at(const SideLoops& loops, std::size_t loop, std::size_t side, double t) const;
    };
    static Result<End> endOf(const SideLoops& loops, double by, const ReliefShape& shape);

    SideLoops m_loops;
    End m_near, m_far;
};

} // namespace gc

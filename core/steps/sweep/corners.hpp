#pragma once
/// \file For .cpp files: a section along a path with corners.

#include "core/steps/sweep/runs.hpp"

namespace gc {

class CornerSweep {
  public:
    CornerSweep(const Profile& profile, std::vector<SmoothRun> runs, bool closed, const gp_Vec& across,
                int step, const Plane& frame);

    /// Mitred: what comes to a corner and what leaves it meet in the plane that halves it. Rounded: the outer
    /// half of the section turns about the corner.
    Result<NamedTool> made(bool rounded);

  private:
    std::optional<Error> addMitred(std::size_t run);
    std::optional<Error> addPlain(std::size_t run);
    std::optional<Error> addTurn(std::size_t run); ///< about the corner after a run
    std::optional<Error> join(const NamedTool& tool);
    const SmoothRun& after(std::size_t run) const { return m_runs[(run + 1) % m_runs.size()]; }
    const SmoothRun& before(std::size_t run) const {
        return m_runs[(run + m_runs.size() - 1) % m_runs.size()];
    }

    const Profile& m_profile;
    std::vector<SmoothRun> m_runs;
    bool m_closed;
    int m_step;
    Plane m_frame;
    Frames m_first;
    double m_reach = 0;
    gp_Vec m_within; ///< a place inside the section, as the start has it
    std::optional<Body> m_joined;
};

} // namespace gc

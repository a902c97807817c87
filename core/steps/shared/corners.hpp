#pragma once
/// \file For .cpp files: a section along a path with corners.

#include "core/steps/shared/runs.hpp"

namespace gc {

class CornerSweep {
  public:
    /// \param law of the whole path \param end a face that its last run goes on to
    CornerSweep(const Profile& profile, std::vector<SmoothRun> runs, bool closed, const gp_Vec& across,
                const SweepLaw& law, const std::optional<SweepEnd>& end, int step, const Plane& frame);

    /// Mitred: what comes to a corner and what leaves it meet in the plane that halves it. Rounded: the outer
    /// half of the section turns about the corner.
    Result<NamedTool> made(bool rounded);

  private:
    std::optional<Error> addMitred(std::size_t run);
    std::optional<Error> addPlain(std::size_t run);
    std::optional<Error> addTurn(std::size_t run); ///< about the corner after a run
    /// What goes on from the last run to the face that it shall end at.
    std::optional<Error> addEnd(const Swept& last);
    /// How the section stands along a run, its law that of the run's part of the path.
    Frames framesOf(std::size_t run) const;
    /// The section where a run is that far on.
    Profile at(const PathFrame& frame) const;
    std::optional<Error> join(const NamedTool& tool);
    const SmoothRun& after(std::size_t run) const { return m_runs[(run + 1) % m_runs.size()]; }
    const SmoothRun& before(std::size_t run) const {
        return m_runs[(run + m_runs.size() - 1) % m_runs.size()];
    }

    const Profile& m_profile;
    std::vector<SmoothRun> m_runs;
    std::vector<SweepLaw> m_laws; ///< of each run
    bool m_closed;
    std::optional<SweepEnd> m_end;
    int m_step;
    Plane m_frame;
    Frames m_first;
    double m_reach = 0; ///< of the section, as large as it gets
    gp_Vec m_within;    ///< a place inside the section, as the start has it
    std::optional<Body> m_joined;
};

} // namespace gc

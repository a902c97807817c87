#pragma once
/// \file For .cpp files: the wall of a loft as a function, before it is fitted.
///
///     S(u, v) = sum_i C_i(u) L_i(v) + sum_j [G_j(v) - base(u_j, v)] B_j(u)          (Gordon 1969)
///
/// C_i are the sections, in a common parameter along the threads; L_i the cardinal functions of a cubic
/// spline through their places; G_j the guides; B_j is 1 at its guide and 0 at all others.

#include "core/base/monotone_cubic.hpp"
#include "core/steps/loft/guide.hpp"
#include "core/steps/loft/threads.hpp"
#include "core/steps/shared/frames.hpp"

#include <memory>

namespace gc {

/// How the wall leaves its first section, or arrives at its last.
struct LoftEnd {
    enum class Kind {
        Free,
        Square,  ///< square to the section; at a point: round
        Tangent, ///< on from the walls beyond the section
        Curved   ///< with their curvature, too
    };
    Kind kind = Kind::Free;
    double strength = 1; ///< how far it keeps that way, in chords
};

class Skin;

struct LoftPlan {
    std::vector<LoftSection> sections; ///< at least two
    std::vector<LoftThread> threads;   ///< in order round the first section that is no point
    bool straight = false;             ///< straight from each to the next
    bool closed = false;               ///< on from the last to the first
    LoftEnd first{}, last{};
    std::vector<LoftGuide> guides{};
    std::optional<LoftSpine> spine{};
    /// The guides lead that one: this goes on beside it, shifted as it is. It has as many sections and
    /// guides.
    std::shared_ptr<const Skin> beside{};
};

/// A stretch of the wall between two corners, or all of it.
struct LoftSpan {
    double from = 0, to = 1;
    std::vector<double> breaks; ///< where sections or guides are less smooth; ends included
};

class EndWalls;

class Skin {
  public:
    explicit Skin(const LoftPlan& plan);
    ~Skin();
    Skin(Skin&&) noexcept;

    const std::vector<LoftSpan>& spans() const { return m_spans; }
    const std::vector<double>& stops() const {
        return m_stops;
    } ///< v of the sections; of a ring its end, too
    const LoftPlan& plan() const { return m_plan; }

    /// What the sections and ends give at a place across; to be used for many places along.
    struct Across {
        std::vector<gp_Vec> values;
        std::vector<double> guides;
    };
    Across across(std::size_t span, double u) const;
    struct Along {
        std::vector<double> weights; ///< of the values
        std::vector<gp_Vec> guides;  ///< how far each lies from what the sections alone would give
        std::optional<PathFrame> frame;
    };
    Along along(double v) const;
    static gp_Pnt at(const Across& across, const Along& along);

    /// The share of a section at a place across.
    double shareAt(std::size_t span, std::size_t section, double u) const;
    /// Where the wall begins at an end, and how far it keeps the way that is asked of it there: to the pole
    /// of the cubic whose slope it is, for a strength of 1. Nothing where it is free.
    std::optional<std::pair<gp_Pnt, gp_Vec>> pullAt(std::size_t end) const;
    /// Where along it the wall changes less smoothly than a cubic spline does: where guides do.
    std::vector<double> breaksAlong() const;

  private:
    /// The map from u to the share of one section over one span.
    struct Spread {
        std::optional<MonotoneCubic> smooth;
        double from = 0, rise = 1; ///< shares, where it is not bent
    };
    void spread();
    void spreadSpans(bool smooth);
    double turnAt(double u) const;
    bool beginCalmly();
    void placeStops();
    void solveWeights();
    void findEnds();
    void placeGuides();
    std::vector<double> breaksOf(std::size_t span) const;
    std::vector<double> weightsAt(double v) const;
    Along alongWithoutGuides(double v) const;
    bool clamped(std::size_t end) const;
    std::pair<double, bool> placeOf(std::size_t span, std::size_t section, double u) const;
    gp_Pnt pointOf(std::size_t span, std::size_t section, double u) const;
    gp_Vec wanted(std::size_t end, std::size_t span, double u) const;
    double chordAt(std::size_t end, std::size_t span, double u) const;
    Across acrossSections(std::size_t span, double u) const;
    std::size_t spanAt(double u) const;
    void addEnd(std::size_t end, std::size_t span, double u, Across& out) const;
    double blend(std::size_t guide, double u) const;
    PathFrame frameAt(double v) const;
    std::size_t endSection(std::size_t end) const { return end == 0 ? 0 : m_plan.sections.size() - 1; }
    const LoftEnd& endOf(std::size_t end) const { return end == 0 ? m_plan.first : m_plan.last; }

    LoftPlan m_plan;
    double m_round = 1; ///< the mean length of the sections: u runs from 0 to that
    std::vector<double> m_threadAt;
    std::vector<LoftSpan> m_spans;
    std::vector<std::vector<Spread>> m_spread; ///< by span, by section
    std::vector<double> m_stops;
    std::vector<PathFrame> m_frames; ///< at the sections, where there is a spine
    std::optional<Frames> m_along;
    std::vector<std::vector<double>> m_slopes; ///< of each cardinal function at each stop
    std::vector<MonotoneCubic> m_guideAlong;
    std::vector<double> m_guideAt; ///< u
    std::vector<std::size_t> m_guideOrder;
    std::vector<Across> m_guideBase;
    std::vector<Along> m_near[2]; ///< at four places behind each other from an end on
    double m_step[2] = {0, 0};    ///< how far these are apart, with its sign
    std::unique_ptr<EndWalls> m_walls[2];
};

} // namespace gc

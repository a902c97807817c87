#pragma once
/// \file What the forge's jobs share: the part as it is built, what is remembered of earlier ones, and the
/// way to the window. Only the working thread touches it, but for say() and turn().

#include "core/regen/guides.hpp"
#include "core/regen/measure.hpp"
#include "forge/protocol/messages.hpp"

#include <memory>
#include <unordered_set>

namespace gc::forge {

class Job;

/// How much of a body's surface is shown, each kept apart.
enum class Level { Coarse, Fine, Values };

/// What the window holds of each body's surface: patches that it need not be sent again.
class SurfaceMemory {
  public:
    /// Which of these patches the other side lacks; from now on it holds these and no others.
    std::vector<bool> lacking(ThingId body, Level level, const std::vector<std::uint64_t>& keys);
    void forgetAllBut(const Entities<Body>& bodies);

  private:
    std::map<std::pair<ThingId, Level>, std::unordered_set<std::uint64_t>> m_held;
};

/// A target's verdict, and whether it is below its range: too heavy before a step and too light after it is
/// not the same failure.
using Judged = std::pair<Verdict, bool>;

struct Workshop {
    std::function<void(const say::ToWindow&)> say;
    /// Asked by jobs in their loops: lives on, answers what is quick, and says whether to leave off.
    Stop turn;
    std::function<void(std::unique_ptr<Job>)> schedule;

    Engine engine;
    Measurer measurer, sinceMeasurer;
    std::map<std::uint64_t, SharedText> files; ///< by hash

    Part part;
    int revision = 0; ///< of the part that was built last
    bool whole = false;
    RegenResult regen;

    say::LookFor look;
    SurfaceMemory sent;
    /// What the window shows of each body: its content, and the deviation of the triangles, mm.
    std::map<ThingId, std::pair<std::uint64_t, double>> shown;
    std::map<std::uint64_t, double> volumes;             ///< by content of a body, mm^3
    double fineMs = 0;                                   ///< what the last fine picture took
    std::map<std::uint64_t, std::vector<Judged>> judged; ///< by all that the verdicts rest on
};

say::Fault faultOf(const Error& e);
say::RemedyWords wordsOf(const Remedy& r);

} // namespace gc::forge

#pragma once
/// \file Regeneration: a part's steps in their order, each built only when it or something it looks at
/// changed.

#include "core/regen/cache.hpp"

#include <functional>

namespace gc {

/// How a step fared.
struct StepReport {
    int id = 0;
    int number = 0; ///< place in the sheet from 1
    std::string kind;
    bool off = false;   ///< switched off by the user
    bool later = false; ///< behind the bookmark
    bool ok = true;
    bool cached = false; ///< taken over from an earlier run
    double milliseconds = 0;
    std::optional<Error> error;
    std::optional<Error> doubt; ///< it stands, but is hardly meant so
    std::vector<Message> notes;
    std::vector<ThingId> bodies;        ///< those that it made, changed or ended
    std::uint64_t content = 0;          ///< identity of what it made
    std::map<std::string, Meant> meant; ///< what its references came to
    StepAids aids;                      ///< of a step that fails, too
};

struct RegenResult {
    std::vector<StepReport> steps;
    ModelState state;
    /// The state before each step, for previews and for finding remedies.
    std::vector<ModelState> before;
    bool cancelled = false;

    const ModelState& after(std::size_t step) const {
        return step + 1 < before.size() ? before[step + 1] : state;
    }
};

struct RegenHooks {
    Stop cancelled;                                     ///< asked before every step and within long ones
    std::function<void(const StepReport&)> stepStarted; ///< with id, number and kind
    std::function<void(const StepReport&)> stepDone;
    bool preview = false; ///< an edit that is being tried: what references mean is told against the kept part
    bool trial = false;   ///< only tried: the results of the part at hand are held all the same
    bool quick = false;   ///< what takes long, and what works only in part, counts as failed
};

/// Builds parts and remembers what it built. Not for several threads at once.
class Engine {
  public:
    explicit Engine(std::size_t cacheBytes = StepCache::kDefaultBytes) : m_cache(cacheBytes) {}

    RegenResult regenerate(const Part& part, const RegenHooks& hooks = {});

    /// A step's arguments, with every expression evaluated. Errors are those of the slots.
    static Result<StepArguments> argumentsOf(const Step& step, const Part& part, const Values& values);

    void forget() { m_cache.clear(); }
    const StepCache& cache() const { return m_cache; }

  private:
    void runOne(const Step& step, const Part& part, const Result<Values>& values, const RegenHooks& hooks,
                ModelState& state, StepReport& report);

    void keepMeanings(const Part& part);
    void tellOtherMeanings(StepReport& report, const RegenHooks& hooks);

    /// What the references of each step came to, by its id.
    using Meanings = std::map<int, std::map<std::string, Meant>>;

    StepCache m_cache;
    std::optional<Part> m_kept; ///< the last part that was no preview
    Meanings m_before, m_now;   ///< in the kept part before that one, and in that one
};

} // namespace gc

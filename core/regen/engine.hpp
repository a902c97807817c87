#pragma once
/// \file Regeneration: a part's steps in their order, each built only when it or something it uses changed.

#include "core/steps/step_run.hpp"

#include <functional>
#include <list>
#include <unordered_map>

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
    std::vector<std::string> notes;
    std::string bodyName;      ///< the body that it changed; empty for outlines
    std::uint64_t content = 0; ///< identity of what it made
};

struct RegenResult {
    std::vector<StepReport> steps;
    ModelState state;
    /// The state before each step, for previews and for finding remedies.
    std::vector<ModelState> before;
    bool cancelled = false;
};

struct RegenHooks {
    std::function<bool()> cancelled;                    ///< asked before every step
    std::function<void(const StepReport&)> stepStarted; ///< with id, number and kind
    std::function<void(const StepReport&)> stepDone;
};

/// Builds parts and remembers what it built. Not for several threads at once.
class Engine {
  public:
    RegenResult regenerate(const Part& part, const RegenHooks& hooks = {});

    /// A step's arguments on the given state, with every expression evaluated.
    static Result<StepArguments> argumentsOf(const Step& step, const Part& part, const Values& values,
                                             const ModelState& state);

    void forget() {
        m_cache.clear();
        m_order.clear();
    }

  private:
    struct Entry {
        Result<StepChange> change;
        std::list<std::uint64_t>::iterator place;
    };
    static constexpr std::size_t kMostEntries = 40;

    Result<StepChange> build(const StepArguments& args, const ModelState& state, bool& cached);

    std::unordered_map<std::uint64_t, Entry> m_cache;
    std::list<std::uint64_t> m_order; ///< most recently used first
};

} // namespace gc

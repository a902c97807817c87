#pragma once
/// \file What was built before, found again by what it rests on.

#include "core/steps/step_run.hpp"

#include <list>
#include <unordered_map>

namespace gc {

/// Keeps the results of steps. A result is found when everything that its run read is found to be as it was.
/// Bounded by bytes; the results of the part at hand are never let go, however many they are. Not for several
/// threads at once.
class StepCache {
  public:
    static constexpr std::size_t kDefaultBytes = std::size_t{256} << 20;
    explicit StepCache(std::size_t bytes = kDefaultBytes) : m_most(bytes) {}

    struct Hit {
        Result<StepChange> change;
        std::uint64_t content = 0; ///< identity of the result
        StepAids aids{};
    };
    std::optional<Hit> find(const StepArguments& args, const ModelState& state);
    /// Keeps a result and gives its identity. What was stopped is not kept.
    std::uint64_t keep(const StepArguments& args, const StepOutcome& outcome);

    /// A part is begun: what it uses from now on is what is at hand, when it is taken as such.
    void beginPart() { ++m_now; }
    /// The part that was begun last is the one at hand: the one before may go.
    void holdPart();

    std::size_t bytes() const { return m_bytes; }
    std::size_t size() const { return m_entries.size(); }
    void clear();

  private:
    struct Entry {
        std::uint64_t step = 0; ///< hash of the step's id and kind
        std::vector<Read> reads;
        Result<StepChange> change;
        std::uint64_t content = 0;
        StepAids aids;
        std::size_t bytes = 0;
        std::uint64_t part = 0; ///< the last part that used it
    };
    using Entries = std::list<Entry>; ///< the most recently used first

    void trim();

    std::size_t m_most, m_bytes = 0;
    std::uint64_t m_now = 1, m_held = 0;
    Entries m_entries;
    std::unordered_map<std::uint64_t, std::vector<Entries::iterator>> m_ofStep; ///< newest last
};

} // namespace gc

#include "core/regen/cache.hpp"

#include "core/base/hash.hpp"

#include <algorithm>

namespace gc {

namespace {

constexpr std::size_t kPerEntry = 2000; // bytes, of the record itself and of small things like planes

std::uint64_t stepHash(const StepArguments& args) {
    return Hasher()
        .number(static_cast<std::uint64_t>(args.id))
        .text(args.kind)
        .number(static_cast<std::uint64_t>(args.onlyWhole))
        .value();
}

std::size_t bytesOf(const Result<StepChange>& change, const StepAids& aids) {
    std::size_t sum = kPerEntry + (aids.tool.empty() ? 0 : gc::bytesOf(aids.tool));
    if (!change) return sum;
    for (const Change& c : change->list) {
        if (const auto* made = std::get_if<MadeBody>(&c)) sum += gc::bytesOf(made->body);
        if (const auto* changed = std::get_if<ChangedBody>(&c)) sum += gc::bytesOf(changed->body);
    }
    return sum;
}

bool stillHolds(const std::vector<Read>& reads, const StepInputs& inputs) {
    return std::all_of(reads.begin(), reads.end(),
                       [&](const Read& r) { return inputs.lookUp(r) == r.found; });
}

} // namespace

std::optional<StepCache::Hit> StepCache::find(const StepArguments& args, const ModelState& state) {
    const auto known = m_ofStep.find(stepHash(args));
    if (known == m_ofStep.end()) return std::nullopt;
    const StepInputs inputs(args, state);
    for (auto it = known->second.rbegin(); it != known->second.rend(); ++it) {
        Entry& e = **it;
        if (!stillHolds(e.reads, inputs)) continue;
        e.part = m_now;
        m_entries.splice(m_entries.begin(), m_entries, *it);
        return Hit{e.change, e.content, e.aids};
    }
    return std::nullopt;
}

std::uint64_t StepCache::keep(const StepArguments& args, const StepOutcome& outcome) {
    const std::uint64_t content = StepInputs::contentOf(args, outcome.reads);
    if (!outcome.change && outcome.change.error().code == stoppedError().code) return content;
    const std::uint64_t step = stepHash(args);
    m_entries.push_front({step, outcome.reads, outcome.change, content, outcome.aids,
                          bytesOf(outcome.change, outcome.aids), m_now});
    m_bytes += m_entries.front().bytes;
    m_ofStep[step].push_back(m_entries.begin());
    trim();
    return content;
}

void StepCache::holdPart() {
    m_held = m_now;
    trim();
}

void StepCache::trim() {
    for (auto it = m_entries.end(); m_bytes > m_most && it != m_entries.begin();) {
        --it;
        if (it->part == m_now || it->part == m_held) continue;
        auto& list = m_ofStep[it->step];
        std::erase(list, it);
        if (list.empty()) m_ofStep.erase(it->step);
        m_bytes -= it->bytes;
        it = m_entries.erase(it);
    }
}

void StepCache::clear() {
    m_entries.clear();
    m_ofStep.clear();
    m_bytes = 0;
}

} // namespace gc

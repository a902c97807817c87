#include "forge/jobs/workshop.hpp"

namespace gc::forge {

std::vector<bool> SurfaceMemory::lacking(ThingId body, Level level, const std::vector<std::uint64_t>& keys) {
    auto& held = m_held[{body, level}];
    std::vector<bool> out;
    out.reserve(keys.size());
    std::unordered_set<std::uint64_t> now;
    for (const std::uint64_t k : keys) {
        out.push_back(!held.count(k) && !now.count(k));
        now.insert(k);
    }
    held = std::move(now);
    return out;
}

void SurfaceMemory::forgetAllBut(const Entities<Body>& bodies) {
    std::erase_if(m_held, [&](const auto& h) { return !bodies.count(h.first.first); });
}

say::RemedyWords wordsOf(const Remedy& r) {
    return {r.step, r.slot, r.value, r.sentence, r.tried, r.before};
}

say::Fault faultOf(const Error& e) {
    say::Fault f{e.code, e.sentence, e.culprits, {}, e.position, {}, e.place};
    if (e.question) f.question = say::WhichOne{e.question->about, e.question->answers};
    for (const Remedy& r : e.remedies) f.remedies.push_back(wordsOf(r));
    return f;
}

} // namespace gc::forge

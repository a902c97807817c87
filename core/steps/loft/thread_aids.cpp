#include "core/steps/loft/thread_aids.hpp"

#include "core/shape/kernel.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// Where a thread could be pulled to: the corners of a section, or, where it has none, places all round.
std::vector<double> placesOn(const LoftSection& s) {
    std::vector<double> out;
    for (std::size_t i = 0; i < s.pieces().size(); ++i)
        if (s.cornerAt(i)) out.push_back(s.shareOf(i));
    if (!out.empty()) return out;
    constexpr int kRound = 24;
    for (int i = 0; i < kRound; ++i) out.push_back(double(i) / kRound);
    return out;
}

class Shown {
  public:
    Shown(const std::vector<LoftSection>& sections, std::size_t first,
          const std::vector<PulledThread>& pulled)
        : m_first(first), m_from(sections[first]), m_to(sections[first + 1]) {
        for (const PulledThread& p : pulled)
            (static_cast<std::size_t>(p.section) == first + 1 ? m_own : m_others).push_back(p);
    }

    Thread thread(double from, double to) const {
        Thread out;
        out.from = toVec(m_from.at(from));
        out.to = toVec(m_to.at(to));
        out.slot = "threads";
        out.choice = "matching";
        out.chosen = "as its threads were pulled";
        for (const PulledThread& p : m_own) {
            const auto a = m_from.shareOfPlace(p.from), b = m_to.shareOfPlace(p.to);
            out.pulled = out.pulled || (a && b && near(*a, from) && near(*b, to));
        }
        for (const double place : placesOn(m_to))
            out.ends.push_back({toVec(m_to.at(place)), said(from, place, true, from)});
        for (const double place : placesOn(m_from))
            out.starts.push_back({toVec(m_from.at(place)), said(place, to, false, to)});
        return out;
    }

  private:
    static bool near(double a, double b) {
        const double d = wrapped(a - b);
        return std::min(d, 1 - d) < 1e-6;
    }

    /// With that pair, and of those that were pulled before whatever goes with it.
    std::string said(double from, double to, bool keepsFrom, double kept) const {
        std::vector<PulledThread> own;
        std::vector<MatchedPair> pairs{{from, to}};
        for (const PulledThread& p : m_own) {
            const auto a = m_from.shareOfPlace(p.from), b = m_to.shareOfPlace(p.to);
            if (!a || !b || near(keepsFrom ? *a : *b, kept)) continue;
            pairs.push_back({*a, *b});
            if (near(*a, from) || near(*b, to) || !followInOrder(pairs))
                pairs.pop_back();
            else
                own.push_back(p);
        }
        own.push_back({static_cast<int>(m_first) + 1, m_from.placeAt(from), m_to.placeAt(to)});
        own.insert(own.end(), m_others.begin(), m_others.end());
        return toText(own);
    }

    std::size_t m_first;
    const LoftSection &m_from, &m_to;
    std::vector<PulledThread> m_own, m_others;
};

} // namespace

void showThreads(const LoftPlan& plan, const MatchedSections& matched,
                 const std::vector<PulledThread>& pulled, ModelReader& model) {
    const bool corners = std::any_of(matched.threads.begin(), matched.threads.end(),
                                     [](const LoftThread& t) { return t.corner; });
    for (std::size_t i = 0; i + 1 < plan.sections.size(); ++i) {
        if (plan.sections[i].isPoint() || plan.sections[i + 1].isPoint()) continue;
        const Shown shown(plan.sections, i, pulled);
        constexpr int kMost = 40; // more are a thicket, and each knows all the places that it could go to
        int count = 0;
        for (const LoftThread& t : matched.threads) {
            if (corners && !t.corner) continue;
            model.show(shown.thread(t.at[i], t.at[i + 1]));
            if (!corners || ++count == kMost) break; // without corners one says how all of it is turned
        }
    }
}

} // namespace gc

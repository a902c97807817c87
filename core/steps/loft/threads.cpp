#include "core/steps/loft/threads.hpp"

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <sstream>

namespace gc {

namespace {

constexpr double kSameEnd = 1e-7; // share

double apart(double a, double b) {
    const double d = wrapped(a - b);
    return std::min(d, 1 - d);
}

std::optional<LoftSection::Place> placeIn(std::istream& in) {
    LoftSection::Place place;
    if (!(in >> place.item)) return std::nullopt;
    const auto before = in.tellg();
    std::string word;
    if (in >> word && word == "at") {
        if (!(in >> place.share) || !(place.share >= 0 && place.share < 1)) return std::nullopt;
        return place;
    }
    in.clear();
    in.seekg(before);
    return place;
}

} // namespace

std::vector<PulledThread> pulledIn(const std::string& text) {
    std::vector<PulledThread> out;
    std::istringstream all(text);
    for (std::string one; std::getline(all, one, ';');) {
        std::istringstream in(one);
        PulledThread thread;
        char colon = 0;
        std::string to;
        if (!(in >> thread.section >> colon) || colon != ':' || thread.section < 1) continue;
        const auto from = placeIn(in);
        if (!from || !(in >> to) || to != "to") continue;
        const auto end = placeIn(in);
        if (!end) continue;
        thread.from = *from;
        thread.to = *end;
        out.push_back(thread);
    }
    return out;
}

std::string toText(const std::vector<PulledThread>& pulled) {
    const auto place = [](const LoftSection::Place& p) {
        if (p.share == 0) return std::to_string(p.item);
        char share[32];
        std::snprintf(share, sizeof share, " at %.6f", std::min(p.share, 0.999999));
        return std::to_string(p.item) + share;
    };
    std::string out;
    for (const PulledThread& t : pulled)
        out += (out.empty() ? "" : "; ") + std::to_string(t.section) + ": " + place(t.from) + " to " +
               place(t.to);
    return out;
}

namespace {

enum class PieceKind { Straight, Round, Free };
PieceKind kindOf(const PathPiece& p) {
    return p.curve.isStraight() ? PieceKind::Straight
           : p.curve.isRound()  ? PieceKind::Round
                                : PieceKind::Free;
}

/// The joints of a section strictly within a stretch, and the kinds of the pieces that it crosses.
struct Joints {
    std::vector<double> at; ///< behind the beginning of the stretch
    std::vector<PieceKind> kinds;
};

Joints jointsWithin(const LoftSection& s, double from, double span) {
    Joints out;
    std::vector<std::pair<double, std::size_t>> found;
    // Where a circle or an oval begins nothing joins.
    const bool whole = s.pieces().size() == 1 && !s.cornerAt(0);
    for (std::size_t i = 0; i < s.pieces().size() && !whole; ++i)
        if (const double d = wrapped(s.shareOf(i) - from); d > kSameEnd && d < span - kSameEnd)
            found.emplace_back(d, i);
    std::sort(found.begin(), found.end());
    out.kinds.push_back(kindOf(s.pieces()[s.pieceAt(from)]));
    for (const auto& [d, i] : found) {
        out.at.push_back(d);
        out.kinds.push_back(kindOf(s.pieces()[i]));
    }
    return out;
}

/// Between the pairs: joints that follow each other alike on both go to each other.
std::vector<MatchedPair> withJoints(const LoftSection& a, const LoftSection& b,
                                    const std::vector<MatchedPair>& pairs) {
    std::vector<MatchedPair> out;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        const MatchedPair &from = pairs[i], &to = pairs[(i + 1) % pairs.size()];
        out.push_back(from);
        const Joints x = jointsWithin(a, from.a, forward(from.a, to.a)),
                     y = jointsWithin(b, from.b, forward(from.b, to.b));
        if (x.at.size() != y.at.size() || x.kinds != y.kinds) continue;
        for (std::size_t k = 0; k < x.at.size(); ++k)
            out.push_back({wrapped(from.a + x.at[k]), wrapped(from.b + y.at[k])});
    }
    std::sort(out.begin(), out.end(), [](const MatchedPair& x, const MatchedPair& y) { return x.a < y.a; });
    return out;
}

/// The mean twist over all places between the pairs.
double meanTwist(const FlatLoop& a, const FlatLoop& b, const std::vector<MatchedPair>& pairs) {
    constexpr int kPlaces = 180;
    double sum = 0;
    for (int i = 0; i < kPlaces; ++i) {
        const double s = double(i) / kPlaces;
        const Vec2 d = a.at(s) - b.at(matched(pairs, s));
        sum += dot(d, d) / kPlaces;
    }
    return sum;
}

/// Of two smooth sections whose pieces follow each other alike (two rounded rectangles): joint to joint,
/// unless that twists them much more than lying on each other would.
std::vector<MatchedPair> smoothPairs(const LoftSection& a, const LoftSection& b, const FlatLoop& x,
                                     const FlatLoop& y, const std::vector<MatchedPair>& free) {
    const std::size_t n = a.pieces().size();
    if (n < 2 || n != b.pieces().size()) return free;
    std::vector<MatchedPair> best;
    double least = 2 * meanTwist(x, y, free) + 0.05;
    for (std::size_t shift = 0; shift < n; ++shift) {
        std::vector<MatchedPair> pairs;
        bool alike = true;
        for (std::size_t i = 0; i < n && alike; ++i) {
            alike = kindOf(a.pieces()[i]) == kindOf(b.pieces()[(i + shift) % n]);
            pairs.push_back({a.shareOf(i), b.shareOf((i + shift) % n)});
        }
        if (!alike) continue;
        if (const double now = meanTwist(x, y, pairs); now < least) least = now, best = std::move(pairs);
    }
    return best.empty() ? free : best;
}

class SectionMatcher {
  public:
    SectionMatcher(const std::vector<LoftSection>& sections, const std::vector<FlatLoop>& flat)
        : m_sections(sections), m_flat(flat) {}

    Result<MatchedSections> matched(const std::vector<std::vector<double>>& guides,
                                    const std::vector<PulledThread>& pulled);

  private:
    bool joined(std::size_t i) const {
        return i + 1 < m_sections.size() && !m_sections[i].isPoint() && !m_sections[i + 1].isPoint();
    }
    std::vector<MatchedPair> given(std::size_t i, const std::vector<std::vector<double>>& guides,
                                   const std::vector<PulledThread>& pulled);
    void add(std::size_t section, double share);
    bool isCorner(std::size_t section, double share) const;

    const std::vector<LoftSection>& m_sections;
    const std::vector<FlatLoop>& m_flat;
    MatchedSections m_out;
    double m_turn = 0;
};

std::vector<MatchedPair> SectionMatcher::given(std::size_t i, const std::vector<std::vector<double>>& guides,
                                               const std::vector<PulledThread>& pulled) {
    std::vector<MatchedPair> out;
    for (const auto& g : guides) out.push_back({g[i], g[i + 1]});
    for (const PulledThread& t : pulled) {
        if (static_cast<std::size_t>(t.section) != i + 1) continue;
        const auto from = m_sections[i].shareOfPlace(t.from), to = m_sections[i + 1].shareOfPlace(t.to);
        if (!from || !to) {
            ++m_out.lost;
            continue;
        }
        // A guide has said already where its place goes.
        if (std::none_of(out.begin(), out.end(), [&](const MatchedPair& p) {
                return apart(p.a, *from) < kSameEnd || apart(p.b, *to) < kSameEnd;
            }))
            out.push_back({*from, *to});
    }
    return out;
}

bool SectionMatcher::isCorner(std::size_t section, double share) const {
    const auto& corners = m_flat[section].corners;
    return std::any_of(corners.begin(), corners.end(), [&](double c) { return apart(c, share) < kSameEnd; });
}

/// The thread through a place of a section, unless it is there already.
void SectionMatcher::add(std::size_t section, double share) {
    for (const LoftThread& t : m_out.threads)
        if (apart(t.at[section], share) < kSameEnd) return;
    LoftThread thread;
    thread.at.assign(m_sections.size(), 0);
    thread.at[section] = share;
    for (std::size_t i = section; joined(i); ++i)
        thread.at[i + 1] = gc::matched(m_out.between[i].pairs, thread.at[i]);
    for (std::size_t i = section; i > 0 && joined(i - 1); --i) {
        auto back = m_out.between[i - 1].pairs;
        for (MatchedPair& p : back) std::swap(p.a, p.b);
        std::sort(back.begin(), back.end(),
                  [](const MatchedPair& x, const MatchedPair& y) { return x.a < y.a; });
        thread.at[i - 1] = gc::matched(back, thread.at[i]);
    }
    for (std::size_t i = 0; i < m_sections.size(); ++i)
        thread.corner = thread.corner || (!m_sections[i].isPoint() && isCorner(i, thread.at[i]));
    m_out.threads.push_back(std::move(thread));
}

Result<MatchedSections> SectionMatcher::matched(const std::vector<std::vector<double>>& guides,
                                                const std::vector<PulledThread>& pulled) {
    const std::size_t n = m_sections.size();
    m_out.between.resize(n - 1);
    for (const PulledThread& t : pulled) m_out.lost += static_cast<std::size_t>(t.section) >= n;
    for (std::size_t i = 0; i + 1 < n; ++i) {
        if (!joined(i)) continue;
        const auto kept = given(i, guides, pulled);
        auto found = leastTwist(m_flat[i], m_flat[i + 1], kept);
        if (found.empty())
            return errorOf("loft.crossing",
                           phrase("Between section %1 and section %2 threads would cross: what is pulled or "
                                  "guided goes round them in different orders. Let the sections be matched "
                                  "with least twist, or choose other guides.",
                                  std::to_string(i + 1), std::to_string(i + 2)));
        // Of several that are as good the one that undoes what the loft has turned by so far.
        auto best = found.begin();
        for (auto m = found.begin(); m != found.end(); ++m) {
            const double by = std::fabs(m_turn + m->turn) - std::fabs(m_turn + best->turn);
            if (by < -1e-6 || (by < 1e-6 && m->turn > best->turn)) best = m;
        }
        m_turn += best->turn;
        m_out.between[i] = *best;
        auto& pairs = m_out.between[i].pairs;
        if (kept.empty() && m_flat[i].smooth() && m_flat[i + 1].smooth())
            pairs = smoothPairs(m_sections[i], m_sections[i + 1], m_flat[i], m_flat[i + 1], pairs);
        pairs = withJoints(m_sections[i], m_sections[i + 1], pairs);
    }
    for (std::size_t i = 0; i < n; ++i)
        for (const double c : m_flat[i].corners) add(i, c);
    for (std::size_t i = 0; i + 1 < n; ++i)
        for (const MatchedPair& p : m_out.between[i].pairs) add(i, p.a);
    for (const auto& g : guides)
        for (std::size_t i = 0; i < n; ++i)
            if (!m_sections[i].isPoint()) {
                add(i, g[i]);
                break;
            }
    const std::size_t first = m_sections.front().isPoint() ? 1 : 0;
    if (m_out.threads.empty()) add(first, 0);
    std::sort(m_out.threads.begin(), m_out.threads.end(),
              [&](const LoftThread& x, const LoftThread& y) { return x.at[first] < y.at[first]; });
    return std::move(m_out);
}

} // namespace

Result<MatchedSections> matchSections(const std::vector<LoftSection>& sections,
                                      const std::vector<FlatLoop>& flat,
                                      const std::vector<std::vector<double>>& guides,
                                      const std::vector<PulledThread>& pulled) {
    return SectionMatcher(sections, flat).matched(guides, pulled);
}

} // namespace gc

#include "core/steps/loft/matching.hpp"

#include "core/base/least.hpp"

#include <algorithm>
#include <cmath>
#include <limits>

namespace gc {

double wrapped(double share) {
    const double s = share - std::floor(share);
    return s >= 1 ? 0 : s;
}

double forward(double from, double to) {
    const double d = wrapped(to - from);
    return d > 0 ? d : 1;
}

namespace {

constexpr double kSamePlace = 1e-9; // share
constexpr double kAsGood = 1e-6;

std::vector<MatchedPair> sorted(std::vector<MatchedPair> pairs) {
    for (MatchedPair& p : pairs) p = {wrapped(p.a), wrapped(p.b)};
    std::sort(pairs.begin(), pairs.end(),
              [](const MatchedPair& x, const MatchedPair& y) { return x.a < y.a; });
    return pairs;
}

double squared(Vec2 v) {
    return dot(v, v);
}

/// A stretch of both sections between two pairs, or all the way round from one to itself. Places in it are
/// told by how far they are behind its beginning.
struct Stretch {
    double a = 0, b = 0;          ///< where it begins
    double aLong = 1, bLong = 1;  ///< shares
    std::vector<double> aCorners; ///< strictly within
    std::vector<double> bCorners;
};

class Matcher {
  public:
    Matcher(const FlatLoop& a, const FlatLoop& b) : m_a(a), m_b(b) {}

    std::vector<Matching> all(const std::vector<MatchedPair>& given) const;

  private:
    double cost(double a, double b) const { return squared(m_a.at(wrapped(a)) - m_b.at(wrapped(b))); }
    Matching finished(std::vector<MatchedPair> pairs) const;
    std::vector<MatchedPair> withStretches(const std::vector<MatchedPair>& given) const;
    std::vector<MatchedPair> within(const Stretch& s) const;
    std::vector<MatchedPair> cornersToCorners(const Stretch& s, bool turned) const;
    std::optional<std::vector<MatchedPair>> cornersToNearest(const Stretch& s, bool turned) const;
    std::vector<MatchedPair> free() const;
    std::vector<MatchedPair> allRound(bool turned) const;
    double nearest(Vec2 to, bool onA, double from, double span) const;

    const FlatLoop& m_a;
    const FlatLoop& m_b;
};

Matching Matcher::finished(std::vector<MatchedPair> pairs) const {
    Matching out{sorted(std::move(pairs)), 0, 0};
    out.twist = twistOf(m_a, m_b, out.pairs);
    double c = 0, s = 0;
    for (const MatchedPair& p : out.pairs) {
        const Vec2 from = unit(m_a.at(p.a)), to = unit(m_b.at(p.b));
        c += dot(from, to), s += cross(from, to);
    }
    out.turn = std::atan2(s, c);
    return out;
}

std::vector<double> cornersWithin(const FlatLoop& loop, double from, double span) {
    std::vector<double> out;
    for (const double c : loop.corners) {
        const double d = wrapped(c - from);
        if (d > kSamePlace && d < span - kSamePlace && d < 1 - kSamePlace) out.push_back(d);
    }
    std::sort(out.begin(), out.end());
    return out;
}

/// Everything that the given pairs leave open.
std::vector<MatchedPair> Matcher::withStretches(const std::vector<MatchedPair>& given) const {
    std::vector<MatchedPair> out;
    for (std::size_t i = 0; i < given.size(); ++i) {
        const MatchedPair &from = given[i], &to = given[(i + 1) % given.size()];
        Stretch s{from.a, from.b, forward(from.a, to.a), forward(from.b, to.b), {}, {}};
        s.aCorners = cornersWithin(m_a, s.a, s.aLong);
        s.bCorners = cornersWithin(m_b, s.b, s.bLong);
        out.push_back(from);
        const auto more = within(s);
        out.insert(out.end(), more.begin(), more.end());
    }
    return out;
}

std::vector<MatchedPair> Matcher::within(const Stretch& s) const {
    if (s.aCorners.empty() && s.bCorners.empty()) return {};
    if (s.aCorners.empty() && m_a.smooth())
        if (auto near = cornersToNearest(s, false)) return *near;
    if (s.bCorners.empty() && m_b.smooth())
        if (auto near = cornersToNearest(s, true)) return *near;
    return cornersToCorners(s, s.aCorners.size() > s.bCorners.size());
}

/// The fewer corners of one (a, or b if turned) to some of the other's, by the cheapest way there is: the
/// best for each of the first k corners with the last of them at j, from the best for k - 1 (exact, as the
/// cost of what lies between two matched corners depends on these alone).
std::vector<MatchedPair> Matcher::cornersToCorners(const Stretch& s, bool turned) const {
    const auto& few = turned ? s.bCorners : s.aCorners;
    const auto& many = turned ? s.aCorners : s.bCorners;
    const double fewLong = turned ? s.bLong : s.aLong, manyLong = turned ? s.aLong : s.bLong;
    const std::size_t p = few.size(), q = many.size();
    const auto fewAt = [&](std::size_t k) { return k == 0 ? 0 : k == p + 1 ? fewLong : few[k - 1]; };
    const auto manyAt = [&](std::size_t j) { return j == 0 ? 0 : j == q + 1 ? manyLong : many[j - 1]; };
    const auto pair = [&](double ofFew, double ofMany) {
        return turned ? MatchedPair{s.a + ofMany, s.b + ofFew} : MatchedPair{s.a + ofFew, s.b + ofMany};
    };
    const auto costOf = [&](const MatchedPair& m) { return cost(m.a, m.b); };
    const auto between = [&](std::size_t k, std::size_t from, std::size_t to, std::size_t j) {
        const double share = (manyAt(j) - manyAt(from)) / (manyAt(to) - manyAt(from));
        return pair(fewAt(k) + share * (fewAt(k + 1) - fewAt(k)), manyAt(j));
    };
    struct Best {
        double cost = std::numeric_limits<double>::infinity();
        std::size_t from = 0;
    };
    std::vector<std::vector<Best>> best(p + 2, std::vector<Best>(q + 2));
    best[0][0].cost = 0;
    for (std::size_t k = 0; k <= p; ++k)
        for (std::size_t j = k; j <= k + q - p; ++j) {
            if (k == 0 && j > 0) break;
            const std::size_t least = k == p ? q + 1 : j + 1;
            const std::size_t most = k == p ? q + 1 : std::min(q, k + 1 + q - p);
            double left = 0;
            for (std::size_t to = least; to <= most; ++to) {
                left = 0;
                for (std::size_t l = j + 1; l < to; ++l) left += costOf(between(k, j, to, l));
                const double here = k == p ? 0 : costOf(pair(fewAt(k + 1), manyAt(to)));
                const double all = best[k][j].cost + left + here;
                if (all < best[k + 1][to].cost) best[k + 1][to] = {all, j};
            }
        }
    std::vector<MatchedPair> out;
    std::size_t to = q + 1;
    for (std::size_t k = p + 1; k-- > 0;) {
        const std::size_t from = best[k + 1][to].from;
        if (k < p) out.push_back(pair(fewAt(k + 1), manyAt(to)));
        for (std::size_t l = from + 1; l < to; ++l) out.push_back(between(k, from, to, l));
        to = from;
    }
    std::sort(out.begin(), out.end(), [](const MatchedPair& x, const MatchedPair& y) { return x.a < y.a; });
    return out;
}

/// The place of a section, within a stretch of it, that is nearest to a point.
double Matcher::nearest(Vec2 to, bool onA, double from, double span) const {
    const FlatLoop& loop = onA ? m_a : m_b;
    constexpr int kLooks = 360;
    const auto away = [&](double d) { return squared(loop.at(wrapped(from + d)) - to); };
    int least = 0;
    double distance = std::numeric_limits<double>::infinity();
    for (int i = 0; i <= kLooks; ++i)
        if (const double d = away(span * i / kLooks); d < distance) distance = d, least = i;
    return leastWithin(span * std::max(0, least - 1) / kLooks, span * std::min(kLooks, least + 1) / kLooks,
                       away);
}

/// The corners of one (b, or a if turned) to the nearest places of the other; nothing where these do not
/// follow each other in order.
std::optional<std::vector<MatchedPair>> Matcher::cornersToNearest(const Stretch& s, bool turned) const {
    constexpr double kApart = 1e-3; // share: faces narrower than that are not meant
    const auto& corners = turned ? s.aCorners : s.bCorners;
    const double span = turned ? s.bLong : s.aLong;
    std::vector<MatchedPair> out;
    double before = 0;
    for (const double c : corners) {
        const Vec2 corner = turned ? m_a.at(wrapped(s.a + c)) : m_b.at(wrapped(s.b + c));
        const double there = nearest(corner, !turned, turned ? s.b : s.a, span);
        if (there < before + kApart || there > span - kApart) return std::nullopt;
        before = there;
        out.push_back(turned ? MatchedPair{s.a + c, s.b + there} : MatchedPair{s.a + there, s.b + c});
    }
    return out;
}

/// Two smooth sections: turned against each other until all their places together lie nearest.
std::vector<MatchedPair> Matcher::free() const {
    constexpr int kPlaces = 360;
    std::vector<Vec2> a, b;
    for (int i = 0; i < kPlaces; ++i) a.push_back(m_a.at(i / double(kPlaces)));
    for (int i = 0; i < kPlaces; ++i) b.push_back(m_b.at(i / double(kPlaces)));
    std::vector<double> costs;
    for (int o = 0; o < kPlaces; ++o) {
        double sum = 0;
        for (int i = 0; i < kPlaces; ++i)
            sum += squared(a[static_cast<std::size_t>(i)] - b[static_cast<std::size_t>((i + o) % kPlaces)]);
        costs.push_back(sum);
    }
    const auto least = std::min_element(costs.begin(), costs.end()) - costs.begin();
    const auto costAt = [&](std::ptrdiff_t o) {
        return costs[static_cast<std::size_t>((o + kPlaces) % kPlaces)];
    };
    // The vertex of the parabola through the three.
    const double before = costAt(least - 1), here = costAt(least), after = costAt(least + 1);
    const double bend = before - 2 * here + after;
    const double shift = bend > 1e-12 ? 0.5 * (before - after) / bend : 0;
    return {{0, (double(least) + shift) / kPlaces}};
}

/// All the corners of one (b, or a if turned) on the other, which is smooth, with the lengths between them
/// kept.
std::vector<MatchedPair> Matcher::allRound(bool turned) const {
    constexpr int kTurns = 720;
    const auto& corners = turned ? m_a.corners : m_b.corners;
    std::vector<MatchedPair> best;
    double least = std::numeric_limits<double>::infinity();
    for (int t = 0; t < kTurns; ++t) {
        std::vector<MatchedPair> pairs;
        for (const double c : corners) {
            const double there = wrapped(c + double(t) / kTurns);
            pairs.push_back(turned ? MatchedPair{c, there} : MatchedPair{there, c});
        }
        if (const double now = twistOf(m_a, m_b, pairs); now < least) least = now, best = std::move(pairs);
    }
    return best;
}

std::vector<Matching> Matcher::all(const std::vector<MatchedPair>& given) const {
    std::vector<Matching> found;
    if (!given.empty()) {
        found.push_back(finished(withStretches(given)));
    } else if (m_a.smooth() && m_b.smooth()) {
        found.push_back(finished(free()));
    } else if (m_a.smooth() || m_b.smooth()) {
        const bool turned = m_b.smooth();
        const double corner = turned ? m_a.corners.front() : m_b.corners.front();
        const double there = nearest(turned ? m_a.at(corner) : m_b.at(corner), !turned, 0, 1);
        const MatchedPair first = turned ? MatchedPair{corner, there} : MatchedPair{there, corner};
        Stretch s{first.a, first.b, 1, 1, {}, {}};
        s.aCorners = cornersWithin(m_a, s.a, 1);
        s.bCorners = cornersWithin(m_b, s.b, 1);
        auto pairs = cornersToNearest(s, turned);
        if (pairs) pairs->push_back(first);
        found.push_back(finished(pairs ? *pairs : allRound(turned)));
    } else {
        // A corner of the one that has fewer goes to some corner of the other.
        const bool turned = m_a.corners.size() > m_b.corners.size();
        for (const double c : turned ? m_a.corners : m_b.corners)
            found.push_back(finished(withStretches(
                {turned ? MatchedPair{c, m_b.corners.front()} : MatchedPair{m_a.corners.front(), c}})));
    }
    std::stable_sort(found.begin(), found.end(),
                     [](const Matching& x, const Matching& y) { return x.twist < y.twist; });
    const double most = found.front().twist + kAsGood * (1 + found.front().twist);
    std::erase_if(found, [&](const Matching& m) { return m.twist > most; });
    return found;
}

} // namespace

double twistOf(const FlatLoop& a, const FlatLoop& b, const std::vector<MatchedPair>& pairs) {
    double sum = 0;
    for (const MatchedPair& p : pairs) sum += squared(a.at(p.a) - b.at(p.b));
    return sum;
}

double matched(const std::vector<MatchedPair>& pairs, double a) {
    auto next = std::upper_bound(pairs.begin(), pairs.end(), a,
                                 [](double x, const MatchedPair& p) { return x < p.a; });
    const MatchedPair& from = next == pairs.begin() ? pairs.back() : *(next - 1);
    const MatchedPair& to = next == pairs.end() ? pairs.front() : *next;
    const double share = wrapped(a - from.a) / forward(from.a, to.a);
    return wrapped(from.b + share * forward(from.b, to.b));
}

bool followInOrder(std::vector<MatchedPair> pairs) {
    pairs = sorted(std::move(pairs));
    double round = 0;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        if (i + 1 < pairs.size() && pairs[i + 1].a - pairs[i].a < kSamePlace) return false;
        round += forward(pairs[i].b, pairs[(i + 1) % pairs.size()].b);
    }
    return pairs.size() < 2 || std::fabs(round - 1) < 1e-6;
}

std::vector<Matching> leastTwist(const FlatLoop& a, const FlatLoop& b, std::vector<MatchedPair> given) {
    given = sorted(std::move(given));
    if (!followInOrder(given)) return {};
    return Matcher(a, b).all(given);
}

} // namespace gc

#include "core/sketch/edit/offset.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/beside.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/offset_sides.hpp"
#include "core/sketch/edit/part_of.hpp"
#include "core/sketch/solve/freedom.hpp"

#include <algorithm>
#include <cmath>
#include <set>

namespace gc {

namespace {

using K = RelationKind;

/// The points of a drawn side where the walk enters and leaves it.
std::pair<int, int> walkEnds(const Drawing& d, int stroke, const Beside& b) {
    const auto ends = endPoints(*d.findStroke(stroke));
    const bool forward = b.kind == StrokeKind::Beside ? b.forward : b.kind != StrokeKind::Arc || b.left;
    return {ends[forward ? 0 : 1], ends[forward ? 1 : 0]};
}

/// The nearest that the sides come to the chain, against what they should: an offset that runs into itself
/// comes nearer.
bool keepsItsDistance(const Drawing& d, const StrokeChain& chain, const Sides& sides, double distance) {
    std::vector<Curve2> original;
    for (const int s : chain.strokes)
        for (const Curve2& c : curvesOf(d, *d.findStroke(s))) original.push_back(c);
    Drawing drawn = d;
    std::vector<int> made;
    for (const Beside& b : sides.list) made.push_back(drawSide(drawn, b));
    const double least = std::fabs(distance) - 2 * kBesideFit - 1e-6 * std::fabs(distance);
    for (const int id : made) {
        const Stroke& s = *drawn.findStroke(id);
        const StrokeRun run(drawn, s);
        const int looks = s.kind == StrokeKind::Beside ? 4 : 16;
        for (int k = 0; k <= looks * static_cast<int>(run.end()); ++k) {
            const Vec2 p = run.at(static_cast<double>(k) / looks);
            for (const Curve2& c : original)
                if (length(c.at(c.nearest(p)) - p) < least) return false;
        }
    }
    return true;
}

struct Made {
    std::vector<int> strokes;
    int first = 0, last = 0; ///< points at the ends of an open one
};

/// The name by which the other sides call the first one's distance.
class Following {
  public:
    Following(Drawing& d, std::string expression) : m_d(d), m_expression(std::move(expression)) {}

    void measure(const std::vector<int>& of) {
        if (m_expression.empty()) return;
        m_d.relate(K::Distance, of, m_name.empty() ? m_expression : m_name);
        m_d.relations.back().quiet = !m_name.empty();
        if (!m_name.empty()) return;
        m_name = freeName(m_d, "offset");
        m_d.relations.back().name = m_name;
    }

  private:
    Drawing& m_d;
    std::string m_expression, m_name;
};

/// Do two sides that follow each other run on in one direction where they meet?
bool runsOn(const Drawing& d, int stroke, int next, const Beside& a, const Beside& b) {
    if (!a.of || !b.of) return false;
    constexpr double kBend = 1e-6; // rad
    const StrokeRun one(d, *d.findStroke(stroke)), two(d, *d.findStroke(next));
    const Vec2 at = d.at(walkEnds(d, stroke, a).second);
    return std::fabs(cross(unit(one.slope(one.nearest(at))), unit(two.slope(two.nearest(at))))) < kBend;
}

/// What ties each side to what it lies beside. Where sides run on into each other a distance to each would
/// say the same twice and still leave the joint to slide: the joint is tangent, and an arc is told only what
/// its neighbours leave open. Lines are settled first; one arc after the other then finds none, one or two of
/// its tangent neighbours settled.
void tieSides(Drawing& d, const Sides& sides, const Made& made, Following& following) {
    const std::size_t n = sides.list.size();
    std::vector<bool> tangent(n, false); ///< to the next
    for (std::size_t i = 0; i < n; ++i) {
        const std::size_t next = (i + 1) % n;
        if (next == i || (next == 0 && !sides.closed)) continue;
        tangent[i] = runsOn(d, made.strokes[i], made.strokes[next], sides.list[i], sides.list[next]);
        const bool lines =
            sides.list[i].kind == StrokeKind::Line && sides.list[next].kind == StrokeKind::Line;
        if (tangent[i] && !lines) d.relate(K::Tangent, {made.strokes[i], made.strokes[next]});
    }
    std::vector<bool> settled(n, false);
    for (std::size_t i = 0; i < n; ++i) {
        const Beside& b = sides.list[i];
        if (!b.of || b.kind != StrokeKind::Line) continue;
        d.relate(K::Parallel, {made.strokes[i], b.of});
        following.measure({made.strokes[i], b.of});
        settled[i] = true;
    }
    for (std::size_t i = 0; i < n; ++i) {
        const Beside& b = sides.list[i];
        if (!b.of || b.kind != StrokeKind::Arc) continue;
        const std::size_t before = (i + n - 1) % n, next = (i + 1) % n;
        const int known =
            (tangent[before] && settled[before] ? 1 : 0) + (tangent[i] && settled[next] ? 1 : 0);
        // Half a turn between two settled neighbours: they say how large it is, and not where along them.
        const bool half =
            known == 2 && std::fabs(cross(unit(b.from - b.centre), unit(b.to - b.centre))) < kSamePoint;
        if (known < 2 || half) d.relate(K::Concentric, {made.strokes[i], b.of});
        if (known != 1 && !half) following.measure({made.strokes[i], b.of});
        settled[i] = true;
    }
}

/// Lines in one line are one side: a joint between two of them could slide along both.
Sides withWholeLines(Sides sides) {
    const auto inLine = [](const Beside& a, const Beside& b) {
        return a.of && b.of && a.kind == StrokeKind::Line && b.kind == StrokeKind::Line &&
               length(unit(a.to - a.from) - unit(b.to - b.from)) < kSamePoint;
    };
    auto& list = sides.list;
    for (std::size_t i = 0; i + 1 < list.size();)
        if (inLine(list[i], list[i + 1])) {
            list[i].to = list[i + 1].to;
            list.erase(list.begin() + static_cast<std::ptrdiff_t>(i) + 1);
        } else {
            ++i;
        }
    if (sides.closed && list.size() > 2 && inLine(list.back(), list.front())) {
        list.front().from = list.back().from;
        list.pop_back();
    }
    return sides;
}

/// The same where sides follow curves: those stand where they do, so that what else would tie a joint says
/// some of it twice. Each tie is tried, and kept where it takes a freedom away.
class TyingByNeed {
  public:
    TyingByNeed(Drawing& d, const StrokeChain& chain, const Sides& sides, const Made& made)
        : m_d(d), m_chain(chain), m_sides(sides), m_made(made) {}

    void tie(Following& following) {
        const auto& list = m_sides.list;
        const std::size_t n = list.size();
        for (std::size_t i = 0; i < n; ++i)
            if (list[i].kind == StrokeKind::Beside && list[i].by != 0)
                following.measure({m_made.strokes[i], list[i].of});
        m_free = freedoms();
        for (std::size_t i = 0; i < n; ++i)
            if (i + 1 < n || m_sides.closed)
                offer([&] {
                    const std::size_t j = (i + 1) % n;
                    m_d.relate(K::Coincident, {walkEnds(m_d, m_made.strokes[i], list[i]).second,
                                               walkEnds(m_d, m_made.strokes[j], list[j]).first});
                });
        for (std::size_t i = 0; i < n; ++i) tieSide(i, following);
        for (std::size_t i = 0; i < n; ++i)
            if (i + 1 < n || m_sides.closed)
                if (const std::size_t j = (i + 1) % n; touches(i, j))
                    offer([&] { m_d.relate(K::Tangent, {m_made.strokes[i], m_made.strokes[j]}); });
    }

  private:
    void tieSide(std::size_t i, Following& following) {
        const Beside& b = m_sides.list[i];
        const int stroke = m_made.strokes[i];
        if (b.of && (b.kind == StrokeKind::Line || b.kind == StrokeKind::Arc)) {
            offer([&] {
                m_d.relate(b.kind == StrokeKind::Line ? K::Parallel : K::Concentric, {stroke, b.of});
            });
            offer([&] { following.measure({stroke, b.of}); });
        }
        if (b.of || b.kind != StrokeKind::Arc) return;
        for (const int s : m_chain.strokes) // about the corner
            for (const int p : endPoints(*m_d.findStroke(s)))
                if (length(m_d.at(p) - b.centre) < kSamePoint)
                    return offer([&] { m_d.relate(K::Coincident, {m_d.findStroke(stroke)->points[2], p}); });
    }
    /// Do two sides that follow each other touch where they meet?
    bool touches(std::size_t i, std::size_t j) const {
        const Beside &a = m_sides.list[i], &b = m_sides.list[j];
        if (a.kind == StrokeKind::Line && b.kind == StrokeKind::Line) return false;
        return length(a.direction(true) - b.direction(false)) < 1e-6;
    }
    int freedoms() const {
        Drawing near = m_d;
        std::set<int> wanted(m_made.strokes.begin(), m_made.strokes.end());
        for (const int s : m_chain.strokes) wanted.insert({s, near.findStroke(s)->beside});
        std::vector<int> others;
        for (const Stroke& s : near.strokes)
            if (!wanted.count(s.id)) others.push_back(s.id);
        near.erase(others);
        return countFreedoms(near, {});
    }
    template <class Tie>
    void offer(const Tie& tie) {
        const std::size_t before = m_d.relations.size();
        tie();
        if (m_d.relations.size() == before) return;
        const int now = freedoms();
        if (now < m_free)
            m_free = now;
        else
            m_d.erase({m_d.relations.back().id});
    }

    Drawing& m_d;
    const StrokeChain& m_chain;
    const Sides& m_sides;
    const Made& m_made;
    int m_free = 0;
};

Made drawSides(Drawing& d, const StrokeChain& chain, const Sides& asFound, Following& following) {
    const Sides sides = withWholeLines(asFound);
    Made made;
    for (const Beside& b : sides.list) made.strokes.push_back(drawSide(d, b));
    const std::size_t n = sides.list.size();
    if (sides.list[0].closed) {
        following.measure({made.strokes[0], sides.list[0].of});
        return made;
    }
    if (!sides.closed) {
        made.first = walkEnds(d, made.strokes.front(), sides.list.front()).first;
        made.last = walkEnds(d, made.strokes.back(), sides.list.back()).second;
    }
    if (std::any_of(sides.list.begin(), sides.list.end(), [](const Beside& b) {
            return b.kind == StrokeKind::Beside || (!b.of && b.kind == StrokeKind::Line);
        })) {
        TyingByNeed(d, chain, sides, made).tie(following);
        return made;
    }
    if (sides.list[0].kind == StrokeKind::Circle) {
        d.relate(K::Concentric, {made.strokes[0], sides.list[0].of});
        following.measure({made.strokes[0], sides.list[0].of});
        return made;
    }
    for (std::size_t i = 0; i < n; ++i) {
        const Beside& b = sides.list[i];
        const int s = made.strokes[i];
        if (i + 1 < n || sides.closed)
            d.relate(K::Coincident, {walkEnds(d, s, b).second,
                                     walkEnds(d, made.strokes[(i + 1) % n], sides.list[(i + 1) % n]).first});
    }
    tieSides(d, sides, made, following);
    // An arc about a corner touches its neighbours.
    for (std::size_t i = 0; i < n; ++i)
        if (!sides.list[i].of)
            for (const std::size_t j : {(i + n - 1) % n, (i + 1) % n})
                d.relate(K::Tangent, {made.strokes[i], made.strokes[j]});
    return made;
}

/// Closes the two sides of a band at one end.
int drawCap(Drawing& d, CapKind kind, int left, int right, int end, int leftStroke, int rightStroke) {
    const Vec2 middle = d.at(end);
    if (kind == CapKind::Flat) {
        const int line = d.draw(StrokeKind::Line, {d.at(left), d.at(right)});
        d.relate(K::Coincident, {d.findStroke(line)->points[0], left});
        d.relate(K::Coincident, {d.findStroke(line)->points[1], right});
        d.relate(K::OnStroke, {end, line});
        if (isLine(d, leftStroke)) d.relate(K::Perpendicular, {line, leftStroke});
        if (isRound(d, leftStroke)) d.relate(K::OnStroke, {centrePoint(*d.findStroke(leftStroke)), line});
        return line;
    }
    // Ahead of the end: counter-clockwise from the right side to the left one.
    const int arc = d.draw(StrokeKind::Arc, {d.at(right), d.at(left), middle}, {length(d.at(left) - middle)});
    d.relate(K::Coincident, {d.findStroke(arc)->points[0], right});
    d.relate(K::Coincident, {d.findStroke(arc)->points[1], left});
    d.relate(K::Coincident, {d.findStroke(arc)->points[2], end});
    d.relate(K::Tangent, {arc, leftStroke});
    if (!isLine(d, rightStroke)) d.relate(K::Tangent, {arc, rightStroke});
    return arc;
}

/// Closes the gap between a chain and its offset at one end.
int drawEnd(Drawing& d, CapKind kind, int left, int right, int beside, int own) {
    const Vec2 a = d.at(right), b = d.at(left), middle = (a + b) * 0.5;
    const int end = kind == CapKind::Flat ? d.draw(StrokeKind::Line, {a, b})
                                          : d.draw(StrokeKind::Arc, {a, b, middle}, {length(b - a) / 2});
    d.relate(K::Coincident, {d.findStroke(end)->points[0], right});
    d.relate(K::Coincident, {d.findStroke(end)->points[1], left});
    if (kind == CapKind::Round) {
        d.relate(K::Tangent, {end, beside});
        // The end of a line or an arc slides along it until this holds it.
        if (d.findStroke(beside)->kind != StrokeKind::Beside) d.relate(K::Tangent, {end, own});
    } else if (isLine(d, beside))
        d.relate(K::Perpendicular, {end, beside});
    else if (isRound(d, beside))
        d.relate(K::OnStroke, {centrePoint(*d.findStroke(beside)), end});
    return end;
}

} // namespace

bool offsetWorks(const Drawing& d, const StrokeChain& chain, double distance, bool roundCorners) {
    const auto sides = sidesOf(d, chain, distance, roundCorners);
    return sides && keepsItsDistance(d, chain, *sides, distance);
}

namespace {

bool works(const Drawing& d, const StrokeChain& chain, const OffsetWish& wish, double distance) {
    for (const double sign : {1.0, -1.0}) {
        if (sign < 0 && !wish.bothSides) break;
        if (!offsetWorks(d, chain, sign * distance, wish.roundCorners)) return false;
    }
    return true;
}

} // namespace

namespace {

/// Only the whole of what another of them is a part of? A box around a trimmed curve catches both.
bool isGuide(const Drawing& d, const Stroke& stroke, const std::vector<int>& ids) {
    return stroke.helper && std::any_of(ids.begin(), ids.end(), [&](int id) {
               const Stroke* s = d.findStroke(id);
               return s && s->kind == StrokeKind::Beside && s->beside == stroke.id;
           });
}

} // namespace

std::vector<StrokeChain> chainsOf(const Drawing& d, const std::vector<int>& ids) {
    struct End {
        std::size_t stroke;
        bool atEnd;
        Vec2 at;
    };
    std::vector<const Stroke*> strokes;
    for (const int id : ids)
        if (const Stroke* s = d.findStroke(id); s && s->kind != StrokeKind::Point && !isGuide(d, *s, ids))
            strokes.push_back(s);
    const auto place = [&](std::size_t i, bool atEnd) { return d.at(endPoints(*strokes[i])[atEnd ? 1 : 0]); };
    /// The one other stroke that ends there; -1 for none or several.
    const auto follower = [&](std::size_t i, bool atEnd, bool& itsEnd) {
        int found = -1, count = 0;
        for (std::size_t j = 0; j < strokes.size(); ++j) {
            if (endPoints(*strokes[j]).empty()) continue;
            for (const bool end : {false, true})
                if ((j != i || end != atEnd) && length(place(j, end) - place(i, atEnd)) < kSamePoint)
                    ++count, found = static_cast<int>(j), itsEnd = end;
        }
        return count == 1 && found != static_cast<int>(i) ? found : -1;
    };
    std::vector<char> used(strokes.size(), 0);
    std::vector<StrokeChain> chains;
    for (std::size_t i = 0; i < strokes.size(); ++i) {
        if (used[i]) continue;
        if (endPoints(*strokes[i]).empty()) {
            chains.push_back({{strokes[i]->id}, {true}, true});
            used[i] = 1;
            continue;
        }
        // Back to where the chain begins, then forward; the first stroke asked for gives the direction.
        std::size_t at = i;
        bool forward = true, itsEnd = false, closed = false;
        for (;;) {
            const int before = follower(at, !forward, itsEnd);
            if (before < 0) break;
            if (static_cast<std::size_t>(before) == i) {
                closed = true, at = i, forward = true;
                break;
            }
            at = static_cast<std::size_t>(before), forward = itsEnd;
        }
        StrokeChain chain;
        chain.closed = closed;
        for (;;) {
            used[at] = 1;
            chain.strokes.push_back(strokes[at]->id);
            chain.forward.push_back(forward);
            const int next = follower(at, forward, itsEnd);
            if (next < 0 || used[static_cast<std::size_t>(next)]) break;
            at = static_cast<std::size_t>(next), forward = !itsEnd;
        }
        chains.push_back(std::move(chain));
    }
    return chains;
}

EditOutcome offsetStrokes(Drawing& d, const std::vector<int>& ids, const OffsetWish& wish) {
    const double distance = wish.bothSides ? std::fabs(wish.distance) : wish.distance;
    if (std::fabs(distance) < kSamePoint) return refused("The distance must be more than 0 mm.");
    const auto chains = chainsOf(d, ids);
    if (chains.empty()) return refused("Choose the strokes first: click them, or drag a box around them.");
    for (const StrokeChain& chain : chains) {
        if (works(d, chain, wish, distance)) continue;
        double low = 0, high = std::fabs(distance);
        const double sign = distance < 0 ? -1 : 1;
        for (int k = 0; k < 24; ++k) {
            const double middle = 0.5 * (low + high);
            (works(d, chain, wish, sign * middle) ? low : high) = middle;
        }
        return refused("At " + formatAmount(std::fabs(distance), "mm", 2) + " beside " +
                       nameOf(d, chain.strokes.front()) + " the offset would run into itself." +
                       (low > 0.01 ? " The largest distance that works is " +
                                         formatAmount(std::floor(low * 100) / 100, "mm", 2) + "."
                                   : std::string()));
    }
    EditOutcome out;
    Following following(d, wish.expression);
    for (const StrokeChain& chain : chains) {
        std::vector<Made> made;
        const Drawing before = d;
        for (const double sign : {1.0, -1.0}) {
            if (sign < 0 && !wish.bothSides) break;
            const auto sides = sidesOf(before, chain, sign * distance, wish.roundCorners);
            made.push_back(drawSides(d, chain, *sides, following));
            out.made.insert(out.made.end(), made.back().strokes.begin(), made.back().strokes.end());
        }
        if (chain.closed || wish.cap == CapKind::Open) continue;
        const auto endOf = [&](std::size_t i, bool last) {
            const auto ends = endPoints(*before.findStroke(chain.strokes[i]));
            return ends[chain.forward[i] == last ? 1 : 0];
        };
        if (!wish.bothSides) {
            for (const bool last : {true, false}) {
                const int own = endOf(last ? chain.strokes.size() - 1 : 0, last);
                const int beside = last ? made[0].last : made[0].first;
                const bool left = (distance > 0) == last;
                out.made.push_back(drawEnd(d, wish.cap, left ? beside : own, left ? own : beside,
                                           last ? made[0].strokes.back() : made[0].strokes.front(),
                                           last ? chain.strokes.back() : chain.strokes.front()));
            }
            continue;
        }
        const Made &left = made[0], &right = made[1];
        out.made.push_back(drawCap(d, wish.cap, left.last, right.last, endOf(chain.strokes.size() - 1, true),
                                   left.strokes.back(), right.strokes.back()));
        // At the beginning the sides have changed places.
        out.made.push_back(drawCap(d, wish.cap, right.first, left.first, endOf(0, false),
                                   right.strokes.front(), left.strokes.front()));
    }
    return out;
}

} // namespace gc

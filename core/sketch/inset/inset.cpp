#include "core/sketch/inset/inset.hpp"

#include "core/base/tolerance.hpp"

#include <algorithm>
#include <array>
#include <map>
#include <numeric>

namespace gc {

namespace {

constexpr int kSteps = 24;                 // of the way that is looked at
constexpr double kNoLength = 1e-9;         // mm, of a corner's way; and of a side's parameter
constexpr double kTangent = 1e-5;          // the sine of the angle between sides that go on as one
constexpr double kFolded = 1e-3;           // 1 - distance x curvature: less is as good as a cusp
constexpr int kFoldSamples = 48;           // along a side
constexpr double kCornerTolerance = 1e-12; // mm
constexpr double kTouching = 1e-7;         // mm, of sides that do not follow each other

struct Meet {
    double onBefore = 1, onAfter = 0;
};
using Corner = std::pair<int, int>; ///< side before, side after
using State = std::map<Corner, Meet>;

/// Where two moved sides meet, by Newton's steps from a place near it, no longer than half a side.
bool findCorner(const InsetSide& before, const InsetSide& after, double by, Meet& m) {
    Vec2 gap;
    for (int k = 0; k < 40; ++k) {
        Vec2 a, b;
        gap = before.moved(m.onBefore, by, &a) - after.moved(m.onAfter, by, &b);
        if (length(gap) < kCornerTolerance) return true;
        const double d = cross(b, a);
        if (std::fabs(d) < 1e-14 * (length(a) * length(b) + 1e-30)) return length(gap) < kNoLength;
        const double stepBefore = -cross(b, gap) / d, stepAfter = -cross(a, gap) / d;
        const double most = std::max(std::fabs(stepBefore), std::fabs(stepAfter));
        const double share = most > 0.5 ? 0.5 / most : 1;
        m.onBefore += share * stepBefore;
        m.onAfter += share * stepAfter;
    }
    gap = before.moved(m.onBefore, by) - after.moved(m.onAfter, by);
    return length(gap) < kNoLength;
}

/// One loop on its way.
class Walk {
  public:
    Walk(const std::vector<InsetSide>& sides, double whole) : m_whole(whole) {
        m_loop.sides = sides;
        m_loop.vanished.resize(sides.size());
        m_alive.resize(sides.size());
        std::iota(m_alive.begin(), m_alive.end(), 0);
    }

    std::optional<InsetStop> run() {
        if (auto stop = begin()) return stop;
        double by = 0;
        for (std::size_t events = 0; std::fabs(by) < std::fabs(m_whole) - 1e-12;) {
            const double next =
                std::fabs(by + m_whole / kSteps) < std::fabs(m_whole) ? by + m_whole / kSteps : m_whole;
            State then = m_state;
            if (look(then, next).what == Found::Nothing) {
                m_state = then;
                by = next;
                record(by);
                continue;
            }
            if (++events > 2 * m_loop.sides.size())
                return InsetStop{InsetStop::Why::Closes, by, anyPlace(), m_loop.sides[0].stroke()};
            const Look first = narrow(by, next);
            if (auto stop = pass(first, by)) return stop;
        }
        for (const auto& [key, index] : m_open) close(index, m_whole, m_state.at(key));
        return std::nullopt;
    }

    InsetLoop take() { return std::move(m_loop); }

  private:
    enum class Found { Nothing, Vanishes, Folds, Opens };
    struct Look {
        Found what = Found::Nothing;
        std::size_t place = 0; ///< among the living sides
    };

    Corner cornerAfter(std::size_t k) const { return {m_alive[k], m_alive[(k + 1) % m_alive.size()]}; }
    Corner cornerBefore(std::size_t k) const {
        return cornerAfter((k + m_alive.size() - 1) % m_alive.size());
    }
    const InsetSide& side(int i) const { return m_loop.sides[static_cast<std::size_t>(i)]; }
    Vec2 anyPlace() const { return side(m_alive.front()).at(0); }

    /// Sides that follow each other in the drawing and are tangent there.
    bool tangent(Corner c) const {
        if ((c.first + 1) % static_cast<int>(m_loop.sides.size()) != c.second) return false;
        const Vec2 a = side(c.first).heading(1), b = side(c.second).heading(0);
        return std::fabs(cross(a, b)) < kTangent && dot(a, b) > 0;
    }

    std::optional<InsetStop> begin() {
        for (std::size_t k = 0; k < m_alive.size(); ++k) {
            const Corner c = cornerAfter(k);
            Meet m;
            if (!tangent(c) && !findCorner(side(c.first), side(c.second), 0, m))
                return InsetStop{InsetStop::Why::Opens, 0, side(c.first).at(1), side(c.first).stroke()};
            m_state[c] = m;
            start(c, addNode(side(c.first).at(1), 0), 0);
        }
        return std::nullopt;
    }

    int addNode(Vec2 at, double by) {
        m_loop.nodes.push_back({at, by});
        return static_cast<int>(m_loop.nodes.size()) - 1;
    }

    void start(Corner c, int node, double by) {
        InsetCorner corner;
        corner.before = c.first, corner.after = c.second;
        corner.from = corner.to = node;
        const bool lines =
            side(c.first).kind() == InsetSide::Kind::Line && side(c.second).kind() == InsetSide::Kind::Line;
        corner.straight = lines || (by == 0 && tangent(c));
        corner.path.push_back({by, m_state.at(c).onBefore, m_state.at(c).onAfter});
        m_open[c] = m_loop.corners.size();
        m_loop.corners.push_back(std::move(corner));
    }

    void record(double by) {
        for (const auto& [key, index] : m_open)
            m_loop.corners[index].path.push_back({by, m_state.at(key).onBefore, m_state.at(key).onAfter});
    }

    bool hasLength(const InsetCorner& c, double by) const {
        return std::fabs(by - c.path.front().by) > kNoLength;
    }

    void close(std::size_t index, double by, Meet at) {
        InsetCorner& c = m_loop.corners[index];
        if (!hasLength(c, by)) return; // it ends where it began
        if (c.path.back().by != by) c.path.push_back({by, at.onBefore, at.onAfter});
        c.to = addNode(side(c.before).moved(at.onBefore, by), by);
    }

    /// Moves all corners on to a distance. What is the first that cannot be?
    Look look(State& state, double by) const {
        const std::size_t n = m_alive.size();
        for (std::size_t k = 0; k < n; ++k) {
            const Corner c = cornerAfter(k);
            if (!isFixed(c) && !findCorner(side(c.first), side(c.second), by, state.at(c)))
                return {Found::Opens, k};
        }
        for (std::size_t k = 0; k < n; ++k) {
            const InsetSide& s = side(m_alive[k]);
            if (s.kind() == InsetSide::Kind::Arc && 1 - by * s.local(0).curvature <= kNoLength)
                return {Found::Vanishes, k};
            const auto [begin, end] = range(state, k);
            if (end - begin <= kNoLength) return {Found::Vanishes, k};
        }
        for (std::size_t k = 0; k < n; ++k) {
            const InsetSide& s = side(m_alive[k]);
            if (s.kind() != InsetSide::Kind::Free) continue;
            const auto [begin, end] = range(state, k);
            for (int i = 0; i <= kFoldSamples; ++i)
                if (1 - by * s.local(begin + (end - begin) * i / kFoldSamples).curvature <= kFolded)
                    return {Found::Folds, k};
        }
        return {};
    }

    bool isFixed(Corner c) const {
        const InsetCorner& corner = m_loop.corners[m_open.at(c)];
        return corner.path.front().by == 0 && tangent(c);
    }

    std::pair<double, double> range(const State& state, std::size_t k) const {
        return {state.at(cornerBefore(k)).onAfter, state.at(cornerAfter(k)).onBefore};
    }

    /// Between a distance at which all is well and one at which it is not: the last good one, in `by`, and
    /// what comes right after it.
    Look narrow(double& by, double bad) {
        Look what;
        for (int k = 0; k < 60 && std::fabs(bad - by) > 1e-11; ++k) {
            const double middle = (by + bad) / 2;
            State then = m_state;
            const Look now = look(then, middle);
            if (now.what == Found::Nothing) {
                m_state = then;
                by = middle;
            } else {
                what = now;
                bad = middle;
            }
        }
        if (what.what == Found::Nothing) {
            State then = m_state;
            what = look(then, bad);
        }
        return what;
    }

    InsetStop stopAt(InsetStop::Why why, std::size_t k, double by) const {
        const InsetSide& s = side(m_alive[k]);
        const auto [begin, end] = range(m_state, k);
        return {why, by, s.moved((begin + end) / 2, by), s.stroke()};
    }

    /// A side has vanished: those beside it go on and meet.
    std::optional<InsetStop> pass(const Look& what, double by) {
        const std::size_t k = what.place, n = m_alive.size();
        if (what.what == Found::Folds) return stopAt(InsetStop::Why::Folds, k, by);
        if (what.what == Found::Opens) return stopAt(InsetStop::Why::Opens, k, by);
        if (n <= 3) return stopAt(InsetStop::Why::Closes, k, by);
        const Corner before = cornerBefore(k), after = cornerAfter(k), joined{before.first, after.second};
        const Vec2 at = (side(before.first).moved(m_state.at(before).onBefore, by) +
                         side(after.second).moved(m_state.at(after).onAfter, by)) *
                        0.5;
        Meet m{m_state.at(before).onBefore, m_state.at(after).onAfter};
        const InsetStop closes = stopAt(InsetStop::Why::Closes, k, by);
        if (!findCorner(side(joined.first), side(joined.second), by, m) ||
            length(side(joined.first).moved(m.onBefore, by) - at) > 1e-4)
            return closes; // lines that run against each other: nothing is left between them
        const int node = nodeFor(before, after, at, by);
        m_loop.vanished[static_cast<std::size_t>(m_alive[k])] = by;
        for (const Corner& c : {before, after}) {
            m_open.erase(c);
            m_state.erase(c);
        }
        m_alive.erase(m_alive.begin() + static_cast<std::ptrdiff_t>(k));
        m_state[joined] = m;
        start(joined, node, by);
        return std::nullopt;
    }

    /// Ends the two corners in one node: a new one, or that of an event at the same distance.
    int nodeFor(Corner before, Corner after, Vec2 at, double by) {
        InsetCorner &a = m_loop.corners[m_open.at(before)], &b = m_loop.corners[m_open.at(after)];
        const bool oldA = !hasLength(a, by), oldB = !hasLength(b, by);
        const int node = oldA ? a.from : oldB ? b.from : addNode(at, by);
        if (oldA && oldB) {
            const int other = b.from;
            for (InsetCorner& c : m_loop.corners) {
                if (c.from == other) c.from = node;
                if (c.to == other) c.to = node;
            }
        }
        for (InsetCorner* c : {&a, &b}) {
            if (!hasLength(*c, by)) continue;
            const Meet m = m_state.at({c->before, c->after});
            if (c->path.back().by != by) c->path.push_back({by, m.onBefore, m.onAfter});
            c->to = node;
        }
        return node;
    }

    InsetLoop m_loop;
    double m_whole;
    std::vector<int> m_alive; ///< the sides that are left, in order
    State m_state;
    std::map<Corner, std::size_t> m_open; ///< corners on their way
};

// ---- does it run into itself?

struct Segment {
    Vec2 a, b;
    std::size_t loop = 0, index = 0, count = 0; ///< which of its loop
};

/// The outline of all loops when it has moved so far, in chords.
std::vector<Segment> chordsAt(const std::vector<InsetLoop>& loops, double by) {
    constexpr int kChords = 24; // of a curved side
    std::vector<Segment> out;
    for (std::size_t l = 0; l < loops.size(); ++l) {
        const InsetLoop& loop = loops[l];
        std::map<int, const InsetCorner*> next, last;
        for (const InsetCorner& c : loop.corners) {
            const double begin = std::fabs(c.path.front().by), end = std::fabs(c.path.back().by);
            if (c.from == c.to || std::fabs(by) < begin || std::fabs(by) > end) continue;
            next[c.before] = &c, last[c.after] = &c;
        }
        std::vector<Vec2> points;
        for (std::size_t i = 0; i < loop.sides.size(); ++i) {
            const int id = static_cast<int>(i);
            if (!next.count(id) || !last.count(id)) continue;
            const double from = loop.placeOf(*last[id], by).onAfter,
                         to = loop.placeOf(*next[id], by).onBefore;
            const int chords = loop.sides[i].kind() == InsetSide::Kind::Line ? 1 : kChords;
            for (int k = 0; k < chords; ++k)
                points.push_back(loop.sides[i].moved(from + (to - from) * k / chords, by));
        }
        // A side that is about to vanish has no chords.
        points.erase(std::unique(points.begin(), points.end(),
                                 [](Vec2 a, Vec2 b) { return length(a - b) < kSamePoint; }),
                     points.end());
        while (points.size() > 1 && length(points.front() - points.back()) < kSamePoint) points.pop_back();
        for (std::size_t i = 0; i < points.size(); ++i)
            out.push_back({points[i], points[(i + 1) % points.size()], l, i, points.size()});
    }
    return out;
}

double distanceTo(Vec2 p, const Segment& s) {
    const Vec2 along = s.b - s.a;
    const double t = std::clamp(dot(p - s.a, along) / dot(along, along), 0.0, 1.0);
    return length(p - s.a - along * t);
}

/// They cross, or touch.
bool meet(const Segment& s, const Segment& t) {
    const auto sideOf = [](Vec2 a, Vec2 b, Vec2 p) { return cross(b - a, p - a); };
    if (sideOf(s.a, s.b, t.a) * sideOf(s.a, s.b, t.b) < 0 &&
        sideOf(t.a, t.b, s.a) * sideOf(t.a, t.b, s.b) < 0)
        return true;
    return std::min({distanceTo(t.a, s), distanceTo(t.b, s), distanceTo(s.a, t), distanceTo(s.b, t)}) <
           kTouching;
}

/// Segments that follow each other meet by right.
bool neighbours(const Segment& s, const Segment& t) {
    if (s.loop != t.loop) return false;
    const std::size_t apart = s.index > t.index ? s.index - t.index : t.index - s.index;
    return apart <= 1 || apart == s.count - 1;
}

std::optional<Vec2> meetsItself(const std::vector<InsetLoop>& loops, double by) {
    auto chords = chordsAt(loops, by);
    const auto left = [](const Segment& s) { return std::min(s.a.x, s.b.x); };
    std::sort(chords.begin(), chords.end(),
              [&](const Segment& s, const Segment& t) { return left(s) < left(t); });
    for (std::size_t i = 0; i < chords.size(); ++i)
        for (std::size_t j = i + 1;
             j < chords.size() && left(chords[j]) <= std::max(chords[i].a.x, chords[i].b.x); ++j)
            if (!neighbours(chords[i], chords[j]) && meet(chords[i], chords[j]))
                return (chords[i].a + chords[i].b) * 0.5;
    return std::nullopt;
}

std::optional<InsetStop> whereItMeets(const std::vector<InsetLoop>& loops, double whole) {
    double good = 0;
    for (int k = 1; k <= kSteps; ++k) {
        double bad = whole * k / kSteps;
        auto at = meetsItself(loops, bad);
        if (!at) {
            good = bad;
            continue;
        }
        for (int i = 0; i < 30; ++i) {
            const double middle = (good + bad) / 2;
            const auto there = meetsItself(loops, middle);
            (there ? bad : good) = middle;
            if (there) at = there;
        }
        return InsetStop{InsetStop::Why::Meets, good, *at, 0};
    }
    return std::nullopt;
}

bool sooner(const InsetStop& a, const std::optional<InsetStop>& b) {
    return !b || std::fabs(a.by) < std::fabs(b->by);
}

std::vector<const InsetCorner*> sorted(std::vector<const InsetCorner*> corners) {
    std::sort(corners.begin(), corners.end(), [](const InsetCorner* a, const InsetCorner* b) {
        return std::fabs(a->path.front().by) < std::fabs(b->path.front().by);
    });
    return corners;
}

} // namespace

std::vector<const InsetCorner*> InsetLoop::cornersBefore(int side) const {
    std::vector<const InsetCorner*> out;
    for (const InsetCorner& c : corners)
        if (c.after == side) out.push_back(&c);
    return sorted(std::move(out));
}

std::vector<const InsetCorner*> InsetLoop::cornersAfter(int side) const {
    std::vector<const InsetCorner*> out;
    for (const InsetCorner& c : corners)
        if (c.before == side) out.push_back(&c);
    return sorted(std::move(out));
}

InsetCorner::Place InsetLoop::placeOf(const InsetCorner& corner, double by) const {
    const auto nearest =
        std::min_element(corner.path.begin(), corner.path.end(), [&](const auto& a, const auto& b) {
            return std::fabs(a.by - by) < std::fabs(b.by - by);
        });
    Meet m{nearest->onBefore, nearest->onAfter};
    const InsetSide &before = sides[static_cast<std::size_t>(corner.before)],
                    &after = sides[static_cast<std::size_t>(corner.after)];
    const bool lines = before.kind() == InsetSide::Kind::Line && after.kind() == InsetSide::Kind::Line;
    if (!corner.straight || lines) findCorner(before, after, by, m);
    return {by, m.onBefore, m.onAfter};
}

Inset insetOf(const std::vector<std::vector<InsetSide>>& loops, double by) {
    Inset out;
    out.by = by;
    for (const auto& sides : loops) {
        Walk walk(sides, by);
        if (const auto stop = walk.run(); stop && sooner(*stop, out.stop)) out.stop = stop;
        out.loops.push_back(walk.take());
    }
    // What one loop cannot do alone is told first where it comes first.
    const double reach = out.stop ? out.stop->by * (1 - 1e-9) : by;
    if (out.stop && reach != 0) {
        std::vector<InsetLoop> shorter;
        for (const auto& sides : loops) {
            Walk walk(sides, reach);
            if (walk.run()) return out;
            shorter.push_back(walk.take());
        }
        if (const auto meets = whereItMeets(shorter, reach)) out.stop = meets;
    } else if (!out.stop) {
        out.stop = whereItMeets(out.loops, by);
    }
    return out;
}

} // namespace gc

#include "core/sketch/solve/sense.hpp"

#include "core/base/at_index.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <tuple>

namespace gc {

namespace {

/// The point whose x is coordinate i.
Vec2 pointIn(const Sense::Coordinates& all, int i) {
    return {all[at(i)], all[at(i) + 1]};
}

/// Numbers points so that those tied together have one number.
class Joints {
  public:
    explicit Joints(const System& system) : m_s(system) {}
    int operator()(int x) {
        const std::tuple key{m_s.classOf[at(x)], m_s.offset[at(x)], m_s.classOf[at(x + 1)],
                             m_s.offset[at(x + 1)]};
        return m_numbers.try_emplace(key, static_cast<int>(m_numbers.size())).first->second;
    }
    std::size_t count() const { return m_numbers.size(); }

  private:
    const System& m_s;
    std::map<std::tuple<int, double, int, double>, int> m_numbers;
};

double side(Vec2 a, Vec2 b, Vec2 c) {
    return cross(b - a, c - a);
}

bool crossEachOther(Vec2 a, Vec2 b, Vec2 c, Vec2 d) {
    return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

bool crossesItself(const std::vector<Vec2>& p) {
    const std::size_t n = p.size();
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t j = i + 2; j < n; ++j)
            if ((i > 0 || j + 1 < n) && crossEachOther(p[i], p[i + 1], p[j], p[(j + 1) % n])) return true;
    return false;
}

} // namespace

/// Rings in which exactly two strokes meet at every joint.
std::vector<Sense::Ring> Sense::ringsOf(const Drawing& d, const System& s) {
    Joints joints(s);
    struct Edge {
        int from, to; ///< joints
        Side side;
    };
    std::vector<Edge> edges;
    for (const Stroke& stroke : d.strokes) {
        const auto ends = endPoints(stroke);
        if (stroke.helper || ends.size() != 2) continue;
        const int a = s.pointAt.at(ends[0]), b = s.pointAt.at(ends[1]);
        const int centre = stroke.kind == StrokeKind::Arc ? s.pointAt.at(stroke.points[2]) : -1;
        edges.push_back({joints(a), joints(b), {a, a, b, centre, true}});
    }
    std::vector<std::vector<std::size_t>> meeting(joints.count());
    for (std::size_t e = 0; e < edges.size(); ++e)
        for (const int j : {edges[e].from, edges[e].to}) meeting[at(j)].push_back(e);
    std::vector<char> used(edges.size(), 0);
    std::vector<Ring> rings;
    for (std::size_t first = 0; first < edges.size(); ++first) {
        Ring ring;
        std::size_t e = first;
        int here = edges[first].from;
        while (!used[e] && meeting[at(here)].size() == 2) {
            used[e] = 1;
            Side side = edges[e].side;
            side.forward = edges[e].from == here;
            side.joint = side.forward ? side.start : side.end;
            ring.push_back(side);
            here = side.forward ? edges[e].to : edges[e].from;
            const auto& next = meeting[at(here)];
            e = next[0] == e ? next.back() : next[0];
        }
        if (e == first && here == edges[first].from && ring.size() > 2) rings.push_back(std::move(ring));
    }
    return rings;
}

Sense::Sense(const Drawing& drawing, const System& s) {
    const auto operand = [&](const Equation& e, int j) { return s.operands[at(e.first + j)]; };
    for (const auto& [id, size] : s.sizeAt) m_signs.push_back({Sign::Size, {size}, 0});
    for (const Equation& e : s.equations) {
        if (e.kind == EquationKind::Parallel || e.kind == EquationKind::Perpendicular)
            m_signs.push_back({e.kind == EquationKind::Parallel ? Sign::Dot : Sign::Cross,
                               {operand(e, 0), operand(e, 2), operand(e, 4), operand(e, 6)},
                               0});
        if (e.kind == EquationKind::TangentCircles && e.sense < 0)
            m_signs.push_back({Sign::Size, {operand(e, 2), operand(e, 5)}, 0});
    }
    for (const Stroke& stroke : drawing.strokes)
        if (stroke.kind == StrokeKind::Arc)
            m_signs.push_back({Sign::ArcTurn,
                               {s.pointAt.at(stroke.points[0]), s.pointAt.at(stroke.points[1]),
                                s.pointAt.at(stroke.points[2])},
                               0});
    m_rings = ringsOf(drawing, s);
    for (const Ring& ring : m_rings) {
        Sign sign{Sign::Ring, {}, 0};
        for (const Side& side : ring) sign.at.push_back(side.joint);
        m_signs.push_back(std::move(sign));
    }
    constexpr std::size_t kMostJoints = 300; // looking for crossings costs the square of it
    std::erase_if(
        m_rings, [&](const Ring& r) { return r.size() > kMostJoints || crossesItself(polygon(r, s.start)); });
    note(s.start);
    double size = 1e-3;
    for (const double v : s.start) size = std::max(size, std::fabs(v));
    std::erase_if(m_signs, [&](const Sign& sign) {
        const double scale = sign.kind == Sign::Size ? size : size * size;
        return sign.kind != Sign::ArcTurn && std::fabs(sign.was) < 1e-9 * scale;
    });
}

double Sense::value(const Sign& sign, const Coordinates& now) {
    const auto p = [&](std::size_t i) { return pointIn(now, sign.at[i]); };
    switch (sign.kind) {
    case Sign::Size:
        return now[at(sign.at[0])] - (sign.at.size() > 1 ? now[at(sign.at[1])] : 0.0);
    case Sign::Cross:
        return cross(p(1) - p(0), p(3) - p(2));
    case Sign::Dot:
        return dot(p(1) - p(0), p(3) - p(2));
    case Sign::ArcTurn:
        return turnBetween(p(0) - p(2), p(1) - p(2));
    case Sign::Ring: {
        double area = 0;
        for (std::size_t i = 0; i < sign.at.size(); ++i) area += cross(p(i), p((i + 1) % sign.at.size()));
        return area;
    }
    }
    return 0;
}

bool Sense::holds(const Sign& sign, const Coordinates& now) {
    const double v = value(sign, now);
    return sign.kind == Sign::ArcTurn ? std::fabs(v - sign.was) < std::numbers::pi : v * sign.was > 0;
}

bool Sense::holds(const Coordinates& now) const {
    return std::all_of(m_signs.begin(), m_signs.end(), [&](const Sign& s) { return holds(s, now); });
}

void Sense::note(const Coordinates& now) {
    for (Sign& s : m_signs) s.was = value(s, now);
}

void Sense::noteTurns(const Coordinates& now) {
    for (Sign& s : m_signs)
        if (s.kind == Sign::ArcTurn) s.was = value(s, now);
}

std::vector<Vec2> Sense::polygon(const Ring& ring, const Coordinates& now) {
    std::vector<Vec2> p;
    for (const Side& side : ring) {
        p.push_back(pointIn(now, side.joint));
        if (side.centre < 0) continue;
        const Vec2 c = pointIn(now, side.centre), a = pointIn(now, side.start) - c;
        const double turn = turnBetween(a, pointIn(now, side.end) - c);
        for (const double part : {0.25, 0.5, 0.75}) {
            const double t = turn * (side.forward ? part : 1 - part);
            p.push_back(c + turnedBy(a, t));
        }
    }
    return p;
}

bool Sense::ringsCross(const Coordinates& now) const {
    return std::any_of(m_rings.begin(), m_rings.end(),
                       [&](const Ring& ring) { return crossesItself(polygon(ring, now)); });
}

std::vector<Sense::Guard> Sense::guards(const Coordinates& before, const Coordinates& after) const {
    constexpr double kLeft = 0.3;
    std::vector<Guard> out;
    const auto keep = [&](int a, int b, double value) {
        out.push_back({EquationKind::Distance, {a, a + 1, b, b + 1}, value});
    };
    const auto vanishing = [&](int a, int b) {
        const Vec2 was = pointIn(before, b) - pointIn(before, a), now = pointIn(after, b) - pointIn(after, a);
        if (dot(was, now) < kLeft * kLeft * dot(was, was)) keep(a, b, kLeft * length(was));
    };
    for (const Sign& s : m_signs) {
        if (holds(s, after)) continue;
        if (s.kind == Sign::Size && s.at.size() == 1)
            out.push_back({EquationKind::Fix, {s.at[0]}, kLeft * s.was});
        if (s.kind == Sign::Cross || s.kind == Sign::Dot)
            vanishing(s.at[0], s.at[1]), vanishing(s.at[2], s.at[3]);
        if (s.kind == Sign::ArcTurn) {
            const double chord = length(pointIn(before, s.at[1]) - pointIn(before, s.at[0]));
            keep(s.at[0], s.at[1], s.was < std::numbers::pi ? kLeft * chord : chord);
        }
    }
    return out;
}

} // namespace gc

#pragma once
/// \file Drawings of any size for tests and timings: a chain of lines and tangent arcs, a grid of linked
/// rectangles, a gear ring, many small pieces. All dimensions hold as drawn.

#include "core/sketch/solve/settle.hpp"

#include <cmath>
#include <numbers>
#include <random>

namespace gc::test {

struct Large {
    std::string name;
    Drawing drawing;
    DimensionValues values;
    std::vector<int> lengths; ///< dimensions that may be changed
    int grip = 0;             ///< a point worth dragging

    int size(RelationKind kind, std::vector<int> of) {
        const int id = drawing.relate(kind, std::move(of));
        values[id] = measured(drawing, *drawing.findRelation(id));
        if (kind == RelationKind::Distance) lengths.push_back(id);
        return id;
    }
    int start(int stroke) const { return drawing.findStroke(stroke)->points[0]; }
    int end(int stroke) const { return drawing.findStroke(stroke)->points[1]; }
    void join(int a, int b) { drawing.relate(RelationKind::Coincident, {a, b}); }
    /// Drops a part of the dimensions, so that much can move.
    void loosen(double part, unsigned seed = 1) {
        std::mt19937 random(seed);
        std::uniform_real_distribution<double> u(0, 1);
        std::vector<int> gone;
        for (const Relation& r : drawing.relations)
            if (wordsOf(r.kind).sized && u(random) < part) gone.push_back(r.id);
        for (const int id : gone) values.erase(id), std::erase(lengths, id);
        std::erase_if(drawing.relations, [&](const Relation& r) {
            return std::find(gone.begin(), gone.end(), r.id) != gone.end();
        });
    }
};

/// Lines and tangent arcs in turn, each dimensioned.
inline Large chain(int strokes, unsigned seed = 1) {
    Large g;
    g.name = "chain";
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> u(0, 1);
    Vec2 p;
    double heading = 0, turnSign = 1;
    int lastLine = 0, lastStroke = 0, lastEnd = 0;
    for (int i = 0; i < strokes; ++i) {
        if (i % 2 == 0) {
            const double l = 5 + 15 * u(random);
            const Vec2 q = p + Vec2{std::cos(heading), std::sin(heading)} * l;
            const int line = g.drawing.draw(StrokeKind::Line, {p, q});
            if (lastStroke) {
                g.join(g.start(line), lastEnd);
                g.drawing.relate(RelationKind::Tangent, {line, lastStroke});
                g.size(RelationKind::AngleBetween, {lastLine, line});
            } else {
                g.join(g.start(line), kOrigin);
                g.drawing.relate(RelationKind::Horizontal, {line});
            }
            g.size(RelationKind::Distance, {line});
            lastLine = lastStroke = line;
            lastEnd = g.end(line);
            if (i <= strokes / 2) g.grip = lastEnd;
            p = q;
        } else {
            const double r = 1 + 2 * u(random);
            double turn = turnSign * (0.5 + 0.9 * u(random));
            if (std::fabs(heading + turn) > 2)
                turnSign = -turnSign, turn = -turn;
            else if (u(random) < 0.5)
                turnSign = -turnSign;
            const double s = turn > 0 ? 1 : -1;
            const Vec2 c = p + Vec2{-std::sin(heading), std::cos(heading)} * (s * r);
            heading += turn;
            const Vec2 q = c + Vec2{std::sin(heading), -std::cos(heading)} * (s * r);
            const int arc = turn > 0 ? g.drawing.draw(StrokeKind::Arc, {p, q, c}, {r})
                                     : g.drawing.draw(StrokeKind::Arc, {q, p, c}, {r});
            g.join(turn > 0 ? g.start(arc) : g.end(arc), lastEnd);
            g.drawing.relate(RelationKind::Tangent, {lastLine, arc});
            g.size(RelationKind::Radius, {arc});
            lastStroke = arc;
            lastEnd = turn > 0 ? g.end(arc) : g.start(arc);
            p = q;
        }
    }
    return g;
}

/// Rectangles beside each other, held by parallels, squares, equal lengths and gaps.
inline Large grid(int strokes) {
    Large g;
    g.name = "grid";
    const int count = std::max(1, strokes / 4), wide = std::max(1, static_cast<int>(std::sqrt(count)));
    std::vector<std::array<int, 4>> all;
    using Kind = RelationKind;
    for (int k = 0; k < count; ++k) {
        const int i = k % wide, j = k / wide;
        const double x = 30 * i, y = 20 * j, w = 12 + i % 3, h = 8 + j % 3;
        const Vec2 at[4] = {{x, y}, {x + w, y}, {x + w, y + h}, {x, y + h}};
        std::array<int, 4> r{};
        for (std::size_t e = 0; e < 4; ++e) r[e] = g.drawing.draw(StrokeKind::Line, {at[e], at[(e + 1) % 4]});
        for (std::size_t e = 0; e < 4; ++e) g.join(g.end(r[e]), g.start(r[(e + 1) % 4]));
        g.drawing.relate(Kind::Perpendicular, {r[0], r[1]});
        g.drawing.relate(Kind::Parallel, {r[0], r[2]});
        g.drawing.relate(Kind::Parallel, {r[1], r[3]});
        if (k == 0) {
            g.join(g.start(r[0]), kOrigin);
            g.drawing.relate(Kind::Horizontal, {r[0]});
            g.size(Kind::Distance, {r[0]});
            g.size(Kind::Distance, {r[1]});
        } else {
            const auto& by = all[static_cast<std::size_t>(i > 0 ? k - 1 : k - wide)];
            g.drawing.relate(Kind::Parallel, {by[0], r[0]});
            g.size(Kind::Distance, {r[0]});
            if (i > 0)
                g.drawing.relate(Kind::Equal, {by[1], r[1]});
            else
                g.size(Kind::Distance, {r[1]});
            const int corner = g.start(r[0]);
            g.size(Kind::Distance, {corner, i > 0 ? by[1] : by[2]});
            g.drawing.relate(Kind::OnStroke, {corner, i > 0 ? by[0] : by[3]});
        }
        if (k == count / 2) g.grip = g.end(r[1]);
        all.push_back(r);
    }
    return g;
}

/// Teeth around a centre that all share.
inline Large gear(int strokes) {
    Large g;
    g.name = "gear ring";
    using Kind = RelationKind;
    const int teeth = std::max(3, strokes / 5);
    const double tip = 2.0 * teeth / std::numbers::pi + 6, root = tip - 5,
                 pitch = 2 * std::numbers::pi / teeth;
    const auto at = [](double r, double a) { return Vec2{r * std::cos(a), r * std::sin(a)}; };
    int firstAxis = 0, lastAxis = 0, firstTip = 0, firstRoot = 0, firstTop = 0;
    (void)firstAxis;
    for (int k = 0; k < teeth; ++k) {
        const double a = k * pitch;
        const int axis = g.drawing.draw(StrokeKind::Line, {{}, at(tip, a)});
        g.join(g.start(axis), kOrigin);
        const int top = g.drawing.draw(StrokeKind::Arc,
                                       {at(tip, a - 0.15 * pitch), at(tip, a + 0.15 * pitch), {}}, {tip});
        const int right =
            g.drawing.draw(StrokeKind::Line, {at(root, a - 0.3 * pitch), at(tip, a - 0.15 * pitch)});
        const int left =
            g.drawing.draw(StrokeKind::Line, {at(root, a + 0.3 * pitch), at(tip, a + 0.15 * pitch)});
        g.join(g.drawing.findStroke(top)->points[2], kOrigin);
        g.join(g.start(top), g.end(right));
        g.join(g.end(top), g.end(left));
        const int bottom = g.drawing.draw(StrokeKind::Circle, {{}}, {root});
        g.join(g.drawing.findStroke(bottom)->points[0], kOrigin);
        g.drawing.relate(Kind::OnStroke, {g.start(right), bottom});
        g.drawing.relate(Kind::OnStroke, {g.end(axis), top});
        g.drawing.relate(Kind::Symmetric, {g.start(right), g.start(left), axis});
        // The tips lie on their circle: across the axis is all that is missing.
        const int chordTip = g.size(Kind::Distance, {g.start(top), g.end(top)});
        const int chordRoot = g.size(Kind::Distance, {g.start(right), g.start(left)});
        const int half = g.drawing.draw(StrokeKind::Point, {at(tip, a)});
        g.join(g.start(half), g.end(axis));
        g.size(Kind::Distance, {g.start(top), g.start(half)});
        if (k == 0) {
            g.drawing.relate(Kind::Horizontal, {axis});
            g.size(Kind::Radius, {top});
            g.size(Kind::Radius, {bottom});
            firstAxis = axis, firstTip = chordTip, firstRoot = chordRoot, firstTop = top;
        } else {
            g.drawing.relate(Kind::Equal, {top, firstTop});
            g.size(Kind::Radius, {bottom});
            g.size(Kind::AngleBetween, {lastAxis, axis});
        }
        if (k == teeth / 2) g.grip = g.start(right);
        lastAxis = axis;
    }
    (void)firstTip, (void)firstRoot;
    return g;
}

/// Slots with a hole and a helper each; every fifth is tied to another.
inline Large pieces(int strokes, unsigned seed = 1) {
    Large g;
    g.name = "pieces";
    using Kind = RelationKind;
    std::mt19937 random(seed);
    std::uniform_real_distribution<double> u(0, 1);
    int tiedTo = 0;
    for (int k = 0; k < std::max(2, strokes / 7); ++k) {
        const double x = 60.0 * (k % 12), y = 60.0 * (k / 12), w = 20 + 10 * u(random), r = 4 + 2 * u(random);
        const int low = g.drawing.draw(StrokeKind::Line, {{x, y}, {x + w, y}});
        const int high = g.drawing.draw(StrokeKind::Line, {{x, y + 2 * r}, {x + w, y + 2 * r}});
        const int right =
            g.drawing.draw(StrokeKind::Arc, {{x + w, y}, {x + w, y + 2 * r}, {x + w, y + r}}, {r});
        const int left = g.drawing.draw(StrokeKind::Arc, {{x, y + 2 * r}, {x, y}, {x, y + r}}, {r});
        g.join(g.start(right), g.end(low)), g.join(g.end(right), g.end(high));
        g.join(g.start(left), g.start(high)), g.join(g.end(left), g.start(low));
        for (const auto& [l, a] : {std::pair{low, right}, {high, right}, {low, left}, {high, left}})
            g.drawing.relate(Kind::Tangent, {l, a});
        g.drawing.relate(Kind::Horizontal, {low});
        g.size(Kind::Radius, {left});
        const int cl = g.drawing.findStroke(left)->points[2], cr = g.drawing.findStroke(right)->points[2];
        g.size(Kind::Distance, {cl, cr});
        const int hole = g.drawing.draw(StrokeKind::Circle, {{x + w / 2, y + r}}, {2});
        const int middle = g.drawing.draw(StrokeKind::Line, {{x, y + r}, {x + w, y + r}});
        g.join(g.start(middle), cl), g.join(g.end(middle), cr);
        g.drawing.relate(Kind::Midpoint, {g.drawing.findStroke(hole)->points[0], middle});
        g.size(Kind::Diameter, {hole});
        const int arm = g.drawing.draw(StrokeKind::Line, {{x, y + 20}, {x - 5, y + 30}});
        g.size(Kind::Distance, {arm});
        g.size(Kind::AngleBetween, {low, arm});
        g.size(Kind::Across, {cl, g.start(arm)});
        g.size(Kind::Along, {cl, g.start(arm)});
        if (tiedTo && k % 5 == 0) {
            g.size(Kind::Distance, {tiedTo, cl});
            g.size(Kind::Along, {kOrigin, cl});
        } else {
            g.drawing.relate(Kind::Fixed, {cl});
        }
        if (k == strokes / 14) g.grip = g.end(arm);
        if (k % 5 == 0) tiedTo = cl;
    }
    return g;
}

inline std::vector<Large> largeDrawings(int strokes) {
    return {chain(strokes | 1), grid(strokes), gear(strokes), pieces(strokes)};
}

} // namespace gc::test

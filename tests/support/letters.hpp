#pragma once
/// \file Drawings as of letters, and walls to lay them onto.

#include "tests/support/sections.hpp"

namespace gc::test {

inline void addRound(Drawing& d, Vec2 at, double rx, double ry) {
    d.draw(StrokeKind::Ellipse,
           {at, {at.x + std::max(rx, ry) * (rx >= ry), at.y + std::max(rx, ry) * (rx < ry)}},
           {std::min(rx, ry)});
}
inline void addPolygon(Drawing& d, const std::vector<Vec2>& corners) {
    for (std::size_t i = 0; i < corners.size(); ++i)
        d.draw(StrokeKind::Line, {corners[i], corners[(i + 1) % corners.size()]});
}

/// Shapes as of letters, with counters, curved and straight, 5 high, from x on.
inline Drawing letters(int count, double from, double y) {
    Drawing d;
    for (int i = 0; i < count; ++i) {
        const double x = from + 4.6 * i;
        if (i % 4 == 0) {
            addRound(d, {x + 2, y + 2.5}, 2, 2.5);
            addRound(d, {x + 2, y + 2.5}, 1.1, 1.7);
        } else if (i % 4 == 1) {
            addPolygon(d, {{x, y},
                           {x + 0.9, y},
                           {x + 1.4, y + 1.3},
                           {x + 2.8, y + 1.3},
                           {x + 3.3, y},
                           {x + 4.2, y},
                           {x + 2.5, y + 5},
                           {x + 1.7, y + 5}});
            addPolygon(d, {{x + 1.7, y + 2.1}, {x + 2.5, y + 2.1}, {x + 2.1, y + 3.4}});
        } else if (i % 4 == 2) {
            d.draw(StrokeKind::Line, {{x, y + 5}, {x, y}});
            d.draw(StrokeKind::Line, {{x, y}, {x + 1.5, y}});
            drawArcThrough(d, {x + 1.5, y}, {x + 4, y + 2.5}, {x + 1.5, y + 5});
            d.draw(StrokeKind::Line, {{x + 1.5, y + 5}, {x, y + 5}});
            addRound(d, {x + 1.6, y + 2.5}, 0.8, 1.4);
        } else {
            addPolygon(d, {{x, y},
                           {x + 1, y},
                           {x + 1, y + 2},
                           {x + 3, y + 2},
                           {x + 3, y},
                           {x + 4, y},
                           {x + 4, y + 5},
                           {x + 3, y + 5},
                           {x + 3, y + 3},
                           {x + 1, y + 3},
                           {x + 1, y + 5},
                           {x, y + 5}});
        }
    }
    return d;
}
/// A turned body under a spline: the wall of a vase.
/// What they enclose, mm².
inline double inkOf(const Drawing& d) {
    double out = 0;
    for (const Region& r : findRegions(d).regions)
        if (r.depth % 2 == 0) out += r.area();
    return out;
}

/// \param by how many times as wide
inline Part vaseOf(double by) {
    Part p;
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 0}, {20 * by, 0}});
    d.draw(StrokeKind::Poles, {{20 * by, 0}, {29 * by, 12}, {27 * by, 26}, {19 * by, 38}, {22 * by, 50}});
    d.draw(StrokeKind::Line, {{22 * by, 50}, {0, 50}});
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(d)}});
    add(p, "revolve");
    return p;
}
inline Part vase() {
    return vaseOf(1);
}
inline std::string vaseWall(const Part& p) {
    return "side " + std::to_string(p.steps[0].drawing("drawing").strokes[1].id) + " of step 2";
}
inline Part loftedWallOf(double by) {
    return lofted({{roundedLine(44 * by, 30, 9), 0},
                   {ellipseLine(25 * by, 19), 24},
                   {roundedLine(38 * by, 34, 12), 50}});
}
inline Part loftedWall() {
    return loftedWallOf(1);
}

} // namespace gc::test

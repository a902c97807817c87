#pragma once
/// \file Random drawings that a person could have meant.

#include "core/sketch/drawing.hpp"
#include "core/sketch/splines.hpp"

#include <numbers>
#include <random>

namespace gc::test {

/// A drawing of a closed chain around the origin: lines, arcs through a third place, splines; perhaps a hole.
inline Drawing randomOutline(std::mt19937& random) {
    const auto between = [&](double a, double b) {
        return a + (b - a) * std::uniform_real_distribution<>()(random);
    };
    Drawing d;
    const int n = 3 + static_cast<int>(random() % 6);
    std::vector<Vec2> corners;
    for (int i = 0; i < n; ++i)
        corners.push_back(
            turnedBy({between(15, 26), 0}, 2 * std::numbers::pi * (i + between(-0.25, 0.25)) / n));
    for (int i = 0; i < n; ++i) {
        const Vec2 a = corners[std::size_t(i)], b = corners[std::size_t((i + 1) % n)], along = b - a;
        const Vec2 out = leftOf(along) * -between(-0.05, 0.12);
        const unsigned what = random() % 3;
        if (what == 0 || length(out) < 0.3)
            d.draw(StrokeKind::Line, {a, b});
        else if (what == 1) {
            const double sagitta = length(out), half = length(along) / 2,
                         r = (half * half + sagitta * sagitta) / (2 * sagitta);
            const Vec2 centre = a + along * 0.5 - unit(out) * (r - sagitta);
            const bool left = cross(a - centre, b - centre) > 0; // arcs are drawn counter-clockwise
            d.draw(StrokeKind::Arc, {left ? a : b, left ? b : a, centre}, {r});
        } else {
            const std::vector<Vec2> nodes{a, a + along * 0.35 + out, a + along * 0.7 + out * 0.8, b};
            std::vector<Vec2> points;
            for (const Vec2 p : nodes) points.push_back(p), points.push_back(p);
            const auto spans = spansFor(nodes);
            relaxHandles(points, spans, std::vector<bool>(nodes.size(), false));
            d.draw(StrokeKind::Spline, points, spans);
        }
    }
    if (random() % 3 == 0) d.draw(StrokeKind::Circle, {{between(-2, 2), between(-2, 2)}}, {between(2, 4)});
    return d;
}

} // namespace gc::test

#pragma once
/// \file Drawings on levels, and lofts through them.

#include "core/base/angles.hpp"
#include "core/sketch/arcs.hpp"
#include "tests/support/built.hpp"

namespace gc::test {

inline std::string inMm(double v) {
    return formatNumber(v, 12) + " mm";
}

/// A drawing on a level of its own, or on a plane by name. \return the chain of its first stroke
inline std::string addSection(Part& p, const Drawing& d, double level) {
    const std::string name = "level " + std::to_string(p.steps.size());
    add(p, "plane", {{"name", name}, {"from", std::string("ground")}, {"distance", inMm(level)}});
    const int id = add(p, "draw",
                       {{"name", "section " + std::to_string(p.steps.size())},
                        {"plane", name},
                        {"drawing", DrawingSlot(d)}})
                       .id;
    return "chain of stroke " + std::to_string(d.strokes[0].id) + " of step " + std::to_string(id);
}
inline std::string addDrawing(Part& p, const Drawing& d, const std::string& plane) {
    const int id = add(p, "draw",
                       {{"name", "line " + std::to_string(p.steps.size())},
                        {"plane", plane},
                        {"drawing", DrawingSlot(d)}})
                       .id;
    return "chain of stroke " + std::to_string(d.strokes[0].id) + " of step " + std::to_string(id);
}

inline Drawing closedLine(const std::vector<Vec2>& corners) {
    Drawing d;
    for (std::size_t i = 0; i < corners.size(); ++i)
        d.draw(StrokeKind::Line, {corners[i], corners[(i + 1) % corners.size()]});
    return d;
}
inline Drawing regularLine(int n, double radius, double turned = 0, Vec2 at = {}) {
    std::vector<Vec2> corners;
    for (int i = 0; i < n; ++i)
        corners.push_back(at + turnedBy({radius, 0}, turned + 2 * std::numbers::pi * i / n));
    return closedLine(corners);
}
inline Drawing circleLine(double r, Vec2 at = {}) {
    Drawing d;
    d.draw(StrokeKind::Circle, {at}, {r});
    return d;
}
inline Drawing ellipseLine(double a, double b) {
    Drawing d;
    d.draw(StrokeKind::Ellipse, {{0, 0}, {a, 0}}, {b});
    return d;
}

/// Of its outline, mm. By Simpson's rule.
inline double ellipseLength(double a, double b) {
    constexpr int kSteps = 2000;
    double sum = 0;
    for (int k = 0; k <= kSteps; ++k) {
        const double t = 2 * kPi * k / kSteps, speed = std::hypot(a * std::sin(t), b * std::cos(t));
        sum += speed * (k == 0 || k == kSteps ? 1 : k % 2 == 1 ? 4 : 2);
    }
    return sum * 2 * kPi / kSteps / 3;
}
inline Drawing roundedLine(double width, double height, double r) {
    Drawing d;
    const double a = width / 2, b = height / 2, k = r * std::sqrt(0.5);
    d.draw(StrokeKind::Line, {{-a + r, -b}, {a - r, -b}});
    drawArcThrough(d, {a - r, -b}, {a - r + k, -b + r - k}, {a, -b + r});
    d.draw(StrokeKind::Line, {{a, -b + r}, {a, b - r}});
    drawArcThrough(d, {a, b - r}, {a - r + k, b - r + k}, {a - r, b});
    d.draw(StrokeKind::Line, {{a - r, b}, {-a + r, b}});
    drawArcThrough(d, {-a + r, b}, {-a + r - k, b - r + k}, {-a, b - r});
    d.draw(StrokeKind::Line, {{-a, b - r}, {-a, -b + r}});
    drawArcThrough(d, {-a, -b + r}, {-a + r - k, -b + r - k}, {-a + r, -b});
    return d;
}

/// A loft through drawings on levels.
inline Part lofted(const std::vector<std::pair<Drawing, double>>& sections, const Slots& more = {}) {
    Part p;
    References refs;
    for (const auto& [d, level] : sections) refs.push_back(addSection(p, d, level));
    Slots slots{{"sections", refs}};
    for (const auto& [key, value] : more) slots[key] = value;
    add(p, "loft", slots);
    return p;
}

inline const Body& lastBody(const RegenResult& r) {
    return r.state.bodies.rbegin()->second.value;
}

} // namespace gc::test

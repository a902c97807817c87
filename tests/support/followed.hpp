#pragma once
/// \file Curves of every kind to be followed, and how far what follows them is away.

#include "core/sketch/arcs.hpp"
#include "core/sketch/beside.hpp"
#include "core/sketch/stroke_run.hpp"
#include "tests/support/offsets.hpp"

#include <catch2/catch.hpp>

#include <functional>

namespace gc::test {

/// The distance of a place from strokes, by looking closely.
inline double away(const Drawing& d, const std::vector<int>& strokes, Vec2 p) {
    double least = 1e300;
    for (const int s : strokes)
        for (const Curve2& c : curvesOf(d, *d.findStroke(s))) {
            // Halved until it cannot be nearer anywhere else: closest approach by samples, then by thirds.
            double best = 0, at = 1e300;
            for (int k = 0; k <= 400; ++k)
                if (const double a = length(c.at(k / 400.0) - p); a < at) at = a, best = k / 400.0;
            double low = std::max(0.0, best - 1 / 400.0), high = std::min(1.0, best + 1 / 400.0);
            for (int k = 0; k < 80; ++k) {
                const double m = low + (high - low) / 3, n = high - (high - low) / 3;
                length(c.at(m) - p) < length(c.at(n) - p) ? high = n : low = m;
            }
            least = std::min(least, length(c.at(0.5 * (low + high)) - p));
        }
    return least;
}

/// Every place of what was made lies at the distance from the strokes that are followed.
inline void checkBeside(const Drawing& d, const std::vector<int>& made, const std::vector<int>& of,
                        double distance) {
    for (const int id : made) {
        const Stroke& s = *d.findStroke(id);
        if (s.kind != StrokeKind::Beside) continue;
        const StrokeRun run(d, s);
        REQUIRE(!run.empty());
        for (int k = 1; k < 60; ++k)
            CHECK(away(d, of, run.at(run.end() * k / 60.0)) == Approx(distance).margin(3e-6));
    }
}

inline int wallOf(const Drawing& d) {
    for (const Relation& r : d.relations)
        if (r.kind == K::Distance && !r.quiet && !r.name.empty()) return r.id;
    return 0;
}

struct Source {
    const char* name;
    std::size_t end; ///< which of its points is moved
    std::function<int(Pen&)> draw;
};

inline const std::vector<Source>& sources() {
    static const std::vector<Source> all{
        {"spline", 2,
         [](Pen& p) {
             return drawSpline(p.d, {{0, 0}, {20, 12}, {45, 6}, {60, 20}});
         }},
        {"poles", 2,
         [](Pen& p) {
             return p.d.draw(S::Poles, {{0, 0}, {15, 20}, {35, 0}, {50, 18}, {70, 10}});
         }},
        {"conic", 2,
         [](Pen& p) {
             return p.d.draw(S::Conic, {{0, 0}, {60, 10}, {25, 40}}, {0.55});
         }},
        {"elliptical arc", 1,
         [](Pen& p) {
             const auto at = [](double a) { return Vec2{40 + 35 * std::cos(a), 30 + 20 * std::sin(a)}; };
             return p.d.draw(S::EllipseArc, {{40, 30}, {75, 30}, at(0.3), at(2.6)}, {20});
         }},
        {"fair curve", 2,
         [](Pen& p) {
             return p.d.draw(S::Fair, {{0, 0}, {12, 9}, {30, 14}, {52, 9}, {66, 14}}, {0.5});
         }},
    };
    return all;
}

} // namespace gc::test

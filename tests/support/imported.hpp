#pragma once
/// \file Looking at drawings that came from files.

#include "core/base/angles.hpp"
#include "core/sketch/arcs.hpp"
#include "core/sketch/edit/part_of.hpp"
#include "core/sketch/region.hpp"

#include <catch2/catch.hpp>

#include <random>

namespace gc::test {

inline double wholeLength(const Drawing& d) {
    double sum = 0;
    for (const Stroke& s : d.strokes) sum += StrokeRun(d, s).length();
    return sum;
}

inline double solidArea(const Drawing& d) {
    double sum = 0;
    for (const Region& r : findRegions(d).regions)
        if (r.depth % 2 == 0) sum += r.area();
    return sum;
}

/// Strokes of every kind, apart from each other, some of them closed.
inline Drawing oneOfEach() {
    Drawing d;
    d.draw(StrokeKind::Line, {{5, 5}, {25, 5}});
    d.draw(StrokeKind::Line, {{25, 5}, {25, 15}});
    d.draw(StrokeKind::Arc, {{25, 15}, {5, 15}, {15, 15}}, {10});
    d.draw(StrokeKind::Line, {{5, 15}, {5, 5}});
    d.draw(StrokeKind::Circle, {{15, 15}}, {4});
    d.draw(StrokeKind::Ellipse, {{60, 20}, {68, 24}}, {5});
    d.draw(StrokeKind::Ellipse, {{90, 20}, {92, 21}}, {9}); // the other axis is the longer one
    d.draw(StrokeKind::EllipseArc, {{60, 60}, {75, 60}, {75, 60}, {60, 67}}, {7});
    d.draw(StrokeKind::Conic, {{10, 50}, {40, 50}, {22, 75}}, {0.5});
    d.draw(StrokeKind::Conic, {{10, 90}, {40, 90}, {22, 110}}, {0.35});
    d.draw(StrokeKind::Conic, {{60, 90}, {90, 90}, {72, 130}}, {0.7});
    d.draw(StrokeKind::Poles, {{100, 60}, {110, 80}, {120, 50}, {135, 75}, {150, 60}, {160, 80}});
    drawSpline(d, {{100, 100}, {112, 109}, {130, 96}, {141, 111}});
    return d;
}

/// Every place along the one lies on the other.
inline void checkSamePlace(const Drawing& one, const Drawing& other, double within) {
    std::vector<Curve2> there;
    for (const Stroke& s : other.strokes)
        for (const Curve2& c : curvesOf(other, s)) there.push_back(c);
    for (const Stroke& s : one.strokes)
        for (const Curve2& c : curvesOf(one, s))
            for (int i = 0; i <= 10; ++i) {
                const Vec2 p = c.at(i / 10.0);
                double least = 1e9;
                for (const Curve2& t : there) least = std::min(least, length(t.at(t.nearest(p)) - p));
                CHECK(least < within);
            }
}

/// Cuts a text anywhere, and changes bytes of it; whatever it becomes is read or refused in a sentence.
template <class Read>
void garble(const std::string& whole, int times, const Read& read) {
    std::mt19937 random(17);
    int refused = 0;
    for (int k = 0; k < times; ++k) {
        std::string text = whole.substr(0, k % 3 == 0 ? random() % (whole.size() + 1) : whole.size());
        const unsigned changes = k % 3 == 0 ? 0 : 1 + random() % 6;
        for (unsigned c = 0; c < changes && !text.empty(); ++c) {
            const std::size_t at = random() % text.size();
            static const char kLikely[] = "0123456789.-eE <>/'\"()azZM\n";
            if (random() % 3)
                text[at] = kLikely[random() % (sizeof kLikely - 1)];
            else if (random() % 2)
                text.erase(at, 1 + random() % 9);
            else
                text[at] = static_cast<char>(random() % 256);
        }
        const auto r = read(text);
        if (r) {
            CHECK(r->drawing.strokes.size() <= 5000);
        } else {
            ++refused;
            CHECK(r.error().sentence.text().size() > 20);
        }
    }
    CHECK(refused > times / 10);
    CHECK(refused < times);
}

} // namespace gc::test

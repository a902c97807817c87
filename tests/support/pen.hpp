#pragma once
/// \file A pen for drawings in tests, and ways to look at them that do not use the solver's equations.

#include "core/base/angles.hpp"
#include "core/sketch/solve/freedom.hpp"

namespace gc::test {

using K = RelationKind;
using S = StrokeKind;

inline constexpr double kGood = 1e-9;

struct Pen {
    Drawing d;
    DimensionValues v;

    int line(Vec2 a, Vec2 b) { return d.draw(S::Line, {a, b}); }
    int circle(Vec2 c, double r) { return d.draw(S::Circle, {c}, {r}); }
    int arc(Vec2 c, double r, double from, double to) {
        const auto at = [&](double a) { return c + Vec2{std::cos(a), std::sin(a)} * r; };
        return d.draw(S::Arc, {at(from), at(to), c}, {r});
    }
    int dot(Vec2 p) { return d.findStroke(d.draw(S::Point, {p}))->points[0]; }
    int from(int s) const { return d.findStroke(s)->points[0]; }
    int to(int s) const { return d.findStroke(s)->points[1]; }
    int centre(int s) const { return centrePoint(*d.findStroke(s)); }
    void join(int p, int q) { d.relate(K::Coincident, {p, q}); }
    void size(K kind, std::vector<int> of, double value) { v[d.relate(kind, std::move(of))] = value; }
    /// A closed ring of lines.
    std::vector<int> ring(const std::vector<Vec2>& at) {
        std::vector<int> lines;
        for (std::size_t i = 0; i < at.size(); ++i) lines.push_back(line(at[i], at[(i + 1) % at.size()]));
        for (std::size_t i = 0; i < at.size(); ++i) join(to(lines[i]), from(lines[(i + 1) % at.size()]));
        return lines;
    }
    Vec2 at(int p) const { return d.at(p); }
    Vec2 along(int l) const { return d.at(to(l)) - d.at(from(l)); }
    double radius(int s) const { return d.findStroke(s)->sizes[0]; }

    Settlement settle() {
        Settler settler(d, v);
        const Settlement s = settler.settle();
        d = settler.drawing();
        return s;
    }
};

inline double area(const Pen& p, const std::vector<int>& ring) {
    double a = 0;
    for (const int l : ring) a += cross(p.at(p.from(l)), p.at(p.to(l))) / 2;
    return std::fabs(a);
}

inline double heightOver(const Pen& p, int line, Vec2 q) {
    const Vec2 u = p.along(line);
    return cross(u, q - p.at(p.from(line))) / length(u);
}

} // namespace gc::test

// Areas as steps keep hold of them.

#include "core/sketch/inside.hpp"
#include "core/sketch/region.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <set>

namespace gc {

double Region::area() const {
    double a = outer.area;
    for (const Loop& h : holes) a += h.area;
    return a;
}

std::vector<int> Region::strokes() const {
    std::set<int> ids;
    for (const Side& s : outer.sides) ids.insert(s.stroke);
    return {ids.begin(), ids.end()};
}

namespace {

/// A stroke of the outer loop with the sense in which it is walked.
std::set<int> sensesOf(const Region& r) {
    std::set<int> out;
    for (const Side& s : r.outer.sides)
        if (s.stroke > 0) out.insert(s.stroke | (s.against ? kAgainst : kAhead));
    return out;
}

} // namespace

void markAreas(std::vector<Region>& regions) {
    std::map<std::vector<int>, int> alike;
    for (const Region& r : regions) ++alike[r.strokes()];
    for (Region& r : regions) {
        const auto senses = sensesOf(r);
        r.marks = alike[r.strokes()] > 1 ? std::vector<int>(senses.begin(), senses.end()) : r.strokes();
        std::erase_if(r.marks, [](int m) { return m < 0; }); // the axis closes many
    }
}

Vec2 middleOf(const Region& region) {
    constexpr double kWithin = 0.05; // mm
    std::vector<Vec2> line;
    for (const Side& s : region.outer.sides)
        for (const Vec2 p : s.curve.sampled(kWithin)) line.push_back(p);
    Vec2 sum;
    double twice = 0;
    const Vec2 o = line.empty() ? Vec2() : line.front();
    for (std::size_t i = 0; i < line.size(); ++i) { // triangles about the first point
        const Vec2 a = line[i] - o, b = line[(i + 1) % line.size()] - o;
        const double w = a.x * b.y - a.y * b.x;
        sum = sum + (a + b) * w;
        twice += w;
    }
    return twice == 0 ? o : o + sum * (1 / (3 * twice));
}

bool Region::contains(Vec2 p) const {
    if (!Inside(outer).around(p)) return false;
    return std::none_of(holes.begin(), holes.end(), [&](const Loop& h) { return Inside(h).around(p); });
}

std::optional<std::size_t> findArea(const std::vector<Region>& regions, const std::vector<int>& marks) {
    std::set<int> wanted, said;
    for (const int m : marks) {
        wanted.insert(strokeOfMark(m));
        if (m != strokeOfMark(m)) said.insert(m);
    }
    double best = 0.5;
    std::vector<std::size_t> found;
    for (std::size_t i = 0; i < regions.size(); ++i) {
        std::set<int> both, all = wanted;
        for (const int s : regions[i].strokes()) {
            if (s < 0) continue; // the axis closes many
            if (wanted.count(s)) both.insert(s);
            all.insert(s);
        }
        const double alike =
            static_cast<double>(both.size()) / static_cast<double>(std::max<std::size_t>(all.size(), 1));
        if (alike > best + 1e-9) best = alike, found.clear();
        if (std::fabs(alike - best) < 1e-9 && best > 0.5 + 1e-9) found.push_back(i);
    }
    if (found.size() > 1 && !said.empty()) // of several with these strokes, the one that is walked so
        std::erase_if(found, [&](std::size_t i) {
            const auto senses = sensesOf(regions[i]);
            return !std::includes(senses.begin(), senses.end(), said.begin(), said.end());
        });
    return found.size() == 1 ? std::optional(found.front()) : std::nullopt;
}

} // namespace gc

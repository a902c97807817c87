#include "core/sketch/united.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/inside.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

bool same(Vec2 a, Vec2 b) {
    return length(a - b) < kSamePoint;
}
Vec2 startOf(const Side& s) {
    return s.curve.at(0);
}
Vec2 endOf(const Side& s) {
    return s.curve.at(1);
}
/// Walked the other way by another area.
bool isShared(const Side& a, const Side& b) {
    return a.stroke == b.stroke && same(startOf(a), endOf(b)) && same(endOf(a), startOf(b)) &&
           same(a.curve.at(0.5), b.curve.at(0.5));
}

/// How far a side turns to the left from where another comes from, -pi to pi.
double turnTo(const Side& from, const Side& to) {
    const Vec2 a = unit(from.curve.slope(1)), b = unit(to.curve.slope(0));
    return std::atan2(cross(a, b), dot(a, b));
}

/// Borders are walked with the area to the left; where several go on, the sharpest turn to the left keeps to
/// the same piece of it.
std::vector<Loop> loopsOf(std::vector<Side> sides) {
    std::vector<Loop> out;
    while (!sides.empty()) {
        Loop loop;
        loop.sides.push_back(sides.front());
        sides.erase(sides.begin());
        while (!same(endOf(loop.sides.back()), startOf(loop.sides.front()))) {
            auto next = sides.end();
            double best = -10;
            for (auto s = sides.begin(); s != sides.end(); ++s) {
                if (!same(startOf(*s), endOf(loop.sides.back()))) continue;
                if (const double t = turnTo(loop.sides.back(), *s); t > best) best = t, next = s;
            }
            if (next == sides.end()) return {}; // not closed: they were no areas of one drawing
            loop.sides.push_back(*next);
            sides.erase(next);
        }
        for (const Side& s : loop.sides) loop.area += s.curve.areaShare();
        out.push_back(std::move(loop));
    }
    return out;
}

} // namespace

std::vector<Region> united(const std::vector<Region>& areas) {
    std::vector<Side> sides;
    for (const Region& r : areas) {
        sides.insert(sides.end(), r.outer.sides.begin(), r.outer.sides.end());
        for (const Loop& h : r.holes) sides.insert(sides.end(), h.sides.begin(), h.sides.end());
    }
    std::vector<bool> gone(sides.size(), false);
    bool any = false;
    for (std::size_t i = 0; i < sides.size(); ++i)
        for (std::size_t j = 0; j < i && !gone[i]; ++j)
            if (!gone[j] && isShared(sides[i], sides[j])) gone[i] = gone[j] = any = true;
    if (!any) return areas;
    std::vector<Side> left;
    for (std::size_t i = 0; i < sides.size(); ++i)
        if (!gone[i]) left.push_back(sides[i]);
    std::vector<Region> out;
    std::vector<Loop> holes;
    for (Loop& l : loopsOf(std::move(left))) {
        if (l.area > 0) {
            out.emplace_back();
            out.back().outer = std::move(l);
        } else {
            holes.push_back(std::move(l));
        }
    }
    if (out.empty()) return areas;
    for (Loop& h : holes) {
        Region* around = nullptr;
        for (Region& r : out)
            if (Inside(r.outer).around(h.sides.front().curve.at(0.37)) &&
                (!around || r.outer.area < around->outer.area))
                around = &r;
        if (!around) return areas;
        around->holes.push_back(std::move(h));
    }
    std::sort(out.begin(), out.end(), [](const Region& a, const Region& b) { return a.area() > b.area(); });
    markAreas(out);
    return out;
}

} // namespace gc

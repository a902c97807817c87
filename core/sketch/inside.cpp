#include "core/sketch/inside.hpp"

#include "core/base/tolerance.hpp"

#include <algorithm>

namespace gc {

namespace {} // namespace

Inside::Inside(const Loop& loop) : m_loop(&loop) {
    for (const Side& s : loop.sides) {
        const auto points = s.curve.sampled(0.01);
        m_line.insert(m_line.end(), points.begin(), points.end() - 1);
        Box box;
        s.curve.bounds(box.low, box.high);
        m_boxes.push_back(box);
        m_whole.low = {std::min(m_whole.low.x, box.low.x), std::min(m_whole.low.y, box.low.y)};
        m_whole.high = {std::max(m_whole.high.x, box.high.x), std::max(m_whole.high.y, box.high.y)};
    }
}

bool Inside::Box::has(Vec2 p) const {
    return p.x > low.x - kSamePoint && p.x < high.x + kSamePoint && p.y > low.y - kSamePoint &&
           p.y < high.y + kSamePoint;
}

bool Inside::holds(Vec2 p) const {
    if (!m_whole.has(p) || !around(p)) return false;
    for (std::size_t i = 0; i < m_boxes.size(); ++i) {
        const Curve2& c = m_loop->sides[i].curve;
        if (m_boxes[i].has(p) && length(c.at(c.nearest(p)) - p) < kSamePoint) return false;
    }
    return true;
}

bool Inside::around(Vec2 p) const {
    bool in = false;
    for (std::size_t i = 0; i < m_line.size(); ++i) {
        const Vec2 a = m_line[i], b = m_line[(i + 1) % m_line.size()];
        if ((a.y > p.y) != (b.y > p.y) && p.x < a.x + (b.x - a.x) * (p.y - a.y) / (b.y - a.y)) in = !in;
    }
    return in;
}

} // namespace gc

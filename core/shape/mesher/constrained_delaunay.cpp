#include "core/shape/mesher/constrained_delaunay.hpp"

#include <algorithm>
#include <cmath>
#include <utility>

namespace gc {

namespace {

constexpr int kMostSteps = 1'000'000; // a walk that long has gone wrong
constexpr int kMostSplits = 50;

constexpr std::size_t next(std::size_t i) {
    return i == 2 ? 0 : i + 1;
}
constexpr std::size_t previous(std::size_t i) {
    return i == 0 ? 2 : i - 1;
}

std::size_t indexOf(const std::array<int, 3>& values, int value) {
    return values[0] == value ? 0 : values[1] == value ? 1 : values[2] == value ? 2 : 3;
}

} // namespace

ConstrainedDelaunay::ConstrainedDelaunay(std::size_t expectedPoints) {
    const Int far = 4 * kLimit;
    m_x = {-far, far, 0};
    m_y = {-far, -far, far};
    m_x.reserve(expectedPoints + kFarPoints);
    m_y.reserve(expectedPoints + kFarPoints);
    m_triangles.reserve(2 * expectedPoints + 8);
    m_triangles.push_back({{0, 1, 2}, {-1, -1, -1}, {false, false, false}});
    m_triangleOf = {0, 0, 0};
}

ConstrainedDelaunay::Int ConstrainedDelaunay::orientation(int a, int b, int c) const {
    return (x(b) - x(a)) * (y(c) - y(a)) - (y(b) - y(a)) * (x(c) - x(a));
}

bool ConstrainedDelaunay::inCircle(int a, int b, int c, int d) const {
    const Int ax = x(a) - x(d), ay = y(a) - y(d), bx = x(b) - x(d), by = y(b) - y(d), cx = x(c) - x(d),
              cy = y(c) - y(d);
    const Int la = ax * ax + ay * ay, lb = bx * bx + by * by, lc = cx * cx + cy * cy;
    const Int ma = bx * cy - by * cx, mb = ax * cy - ay * cx, mc = ax * by - ay * bx;
    // Doubles decide nearly always; 128 bits where they cannot.
    const double ta = static_cast<double>(la) * static_cast<double>(ma),
                 tb = static_cast<double>(lb) * static_cast<double>(mb),
                 tc = static_cast<double>(lc) * static_cast<double>(mc);
    const double sum = ta - tb + tc, bound = (std::fabs(ta) + std::fabs(tb) + std::fabs(tc)) * 1e-15;
    if (std::fabs(sum) > bound) return sum > 0;
    __extension__ using Wide = __int128;
    return Wide(la) * ma - Wide(lb) * mb + Wide(lc) * mc > 0;
}

int ConstrainedDelaunay::locate(int p) const {
    int t = m_last;
    for (int step = 0; step < kMostSteps; ++step) {
        const Triangle& q = at(t);
        bool moved = false;
        // The first edge tried changes with each step, so that the walk cannot go in a circle.
        for (std::size_t k = 0; k < 3 && !moved; ++k) {
            const std::size_t i = (k + static_cast<std::size_t>(step)) % 3;
            if (orientation(q.corner[next(i)], q.corner[previous(i)], p) >= 0) continue;
            if (q.beyond[i] < 0) return -1;
            t = q.beyond[i];
            moved = true;
        }
        if (!moved) return t;
    }
    return -1;
}

void ConstrainedDelaunay::setBeyond(int t, int was, int is) {
    if (t < 0) return;
    for (int& n : at(t).beyond)
        if (n == was) {
            n = is;
            return;
        }
}

/// Turns the edge b-c between the triangles (a, b, c) and (d, c, b) into a-d.
void ConstrainedDelaunay::flip(Place edge) {
    const int t = edge.triangle;
    Triangle& q = at(t);
    const std::size_t i = static_cast<std::size_t>(edge.side);
    const int o = q.beyond[i];
    Triangle& r = at(o);
    const std::size_t j = indexOf(r.beyond, t);
    const int a = q.corner[i], b = q.corner[next(i)], c = q.corner[previous(i)], d = r.corner[j];
    const int abBeyond = q.beyond[previous(i)], caBeyond = q.beyond[next(i)];
    const bool abFixed = q.constrained[previous(i)], caFixed = q.constrained[next(i)];
    const std::size_t jb = indexOf(r.corner, b), jc = indexOf(r.corner, c);
    const int dcBeyond = r.beyond[jb], bdBeyond = r.beyond[jc];
    const bool dcFixed = r.constrained[jb], bdFixed = r.constrained[jc];
    q = {{a, b, d}, {bdBeyond, o, abBeyond}, {bdFixed, false, abFixed}};
    r = {{a, d, c}, {dcBeyond, caBeyond, t}, {dcFixed, caFixed, false}};
    setBeyond(bdBeyond, o, t);
    setBeyond(caBeyond, t, o);
    for (const int v : {a, b, d}) m_triangleOf[static_cast<std::size_t>(v)] = t;
    m_triangleOf[static_cast<std::size_t>(c)] = o;
}

void ConstrainedDelaunay::legalise(int p) {
    while (!m_suspects.empty()) {
        const int t = m_suspects.back();
        m_suspects.pop_back();
        const Triangle& q = at(t);
        const std::size_t i = indexOf(q.corner, p);
        if (i == 3) continue;
        const int o = q.beyond[i];
        if (o < 0 || q.constrained[i]) continue;
        const std::size_t j = indexOf(at(o).beyond, t);
        if (!inCircle(q.corner[0], q.corner[1], q.corner[2], at(o).corner[j])) continue;
        flip({t, static_cast<int>(i)});
        m_suspects.push_back(t);
        m_suspects.push_back(o);
    }
}

void ConstrainedDelaunay::splitTriangle(int t, int p) {
    const Triangle q = at(t);
    const int t1 = static_cast<int>(m_triangles.size()), t2 = t1 + 1;
    const auto [a, b, c] = q.corner;
    at(t) = {{p, a, b}, {q.beyond[2], t1, t2}, {q.constrained[2], false, false}};
    m_triangles.push_back({{p, b, c}, {q.beyond[0], t2, t}, {q.constrained[0], false, false}});
    m_triangles.push_back({{p, c, a}, {q.beyond[1], t, t1}, {q.constrained[1], false, false}});
    setBeyond(q.beyond[0], t, t1);
    setBeyond(q.beyond[1], t, t2);
    for (const int v : {p, a, b}) m_triangleOf[static_cast<std::size_t>(v)] = t;
    m_triangleOf[static_cast<std::size_t>(c)] = t1;
    for (const int s : {t, t1, t2}) m_suspects.push_back(s);
}

/// Four triangles where two met in the edge b-c opposite corner `side` of t.
void ConstrainedDelaunay::splitEdge(int t, int side, int p) {
    const std::size_t i = static_cast<std::size_t>(side);
    const Triangle q = at(t);
    const int o = q.beyond[i];
    const Triangle r = at(o);
    const std::size_t j = indexOf(r.beyond, t);
    const int a = q.corner[i], b = q.corner[next(i)], c = q.corner[previous(i)], d = r.corner[j];
    const std::size_t jb = indexOf(r.corner, b), jc = indexOf(r.corner, c);
    const bool fixed = q.constrained[i];
    const int t1 = static_cast<int>(m_triangles.size()), o1 = t1 + 1;
    at(t) = {{p, a, b}, {q.beyond[previous(i)], o, t1}, {q.constrained[previous(i)], fixed, false}};
    at(o) = {{p, b, d}, {r.beyond[jc], o1, t}, {r.constrained[jc], false, fixed}};
    m_triangles.push_back({{p, c, a}, {q.beyond[next(i)], t, o1}, {q.constrained[next(i)], false, fixed}});
    m_triangles.push_back({{p, d, c}, {r.beyond[jb], t1, o}, {r.constrained[jb], fixed, false}});
    setBeyond(q.beyond[next(i)], t, t1);
    setBeyond(r.beyond[jb], o, o1);
    for (const int v : {p, a, b}) m_triangleOf[static_cast<std::size_t>(v)] = t;
    m_triangleOf[static_cast<std::size_t>(c)] = t1;
    m_triangleOf[static_cast<std::size_t>(d)] = o;
    for (const int s : {t, t1, o, o1}) m_suspects.push_back(s);
}

int ConstrainedDelaunay::insert(Int px, Int py) {
    const int p = static_cast<int>(m_x.size());
    m_x.push_back(px);
    m_y.push_back(py);
    m_triangleOf.push_back(-1);
    const int t = locate(p);
    int known = -1, onEdge = -1;
    if (t >= 0)
        for (std::size_t i = 0; i < 3; ++i) {
            const Triangle& q = at(t);
            if (x(q.corner[i]) == px && y(q.corner[i]) == py) known = q.corner[i];
            if (orientation(q.corner[next(i)], q.corner[previous(i)], p) == 0) onEdge = static_cast<int>(i);
        }
    const bool outside =
        t < 0 || (known < 0 && onEdge >= 0 && at(t).beyond[static_cast<std::size_t>(onEdge)] < 0);
    if (outside || known >= 0) {
        m_x.pop_back();
        m_y.pop_back();
        m_triangleOf.pop_back();
        if (!outside) m_last = t;
        return outside ? -1 : known;
    }
    if (onEdge < 0)
        splitTriangle(t, p);
    else
        splitEdge(t, onEdge, p);
    legalise(p);
    m_last = m_triangleOf[static_cast<std::size_t>(p)];
    return p;
}

/// Visits the triangles at a point, one way round and then the other, until the visitor returns true. The
/// visitor gets the triangle and the index of the point in it.
template <class Visit>
bool ConstrainedDelaunay::around(int point, Visit&& visit) const {
    const int start = m_triangleOf[static_cast<std::size_t>(point)];
    for (const bool forward : {true, false}) {
        int t = start;
        do {
            const Triangle& q = at(t);
            const std::size_t i = indexOf(q.corner, point);
            if (visit(t, i)) return true;
            t = q.beyond[forward ? next(i) : previous(i)];
        } while (t >= 0 && t != start);
        if (t == start) break;
    }
    return false;
}

bool ConstrainedDelaunay::find(int a, int b, Place& place) const {
    return around(a, [&](int t, std::size_t i) {
        const Triangle& q = at(t);
        if (q.corner[next(i)] == b)
            place = {t, static_cast<int>(previous(i))};
        else if (q.corner[previous(i)] == b)
            place = {t, static_cast<int>(next(i))};
        else
            return false;
        return true;
    });
}

bool ConstrainedDelaunay::mark(int a, int b) {
    Place place;
    if (!find(a, b, place)) return false;
    Triangle& q = at(place.triangle);
    const auto side = static_cast<std::size_t>(place.side);
    q.constrained[side] = true;
    if (q.beyond[side] >= 0) {
        Triangle& r = at(q.beyond[side]);
        r.constrained[indexOf(r.beyond, place.triangle)] = true;
    }
    return true;
}

bool ConstrainedDelaunay::constrain(int a, int b) {
    return constrain(a, b, 0);
}

/// The triangle at a that the way to b leaves through its far edge; or the point on the way, if it meets one.
bool ConstrainedDelaunay::crossing(int a, int b, int& triangle, int& through) const {
    const auto ahead = [&](int v) {
        return (x(v) - x(a)) * (x(b) - x(a)) + (y(v) - y(a)) * (y(b) - y(a)) > 0;
    };
    triangle = through = -1;
    return around(a, [&](int t, std::size_t i) {
        const int right = at(t).corner[next(i)], left = at(t).corner[previous(i)];
        const Int r = orientation(a, b, right), l = orientation(a, b, left);
        if (r == 0 && ahead(right))
            through = right;
        else if (l == 0 && ahead(left))
            through = left;
        else if (r < 0 && l > 0)
            triangle = t;
        else
            return false;
        return true;
    });
}

/// The edges between a and b, from a on, that the way crosses; or the point on it, in `through`.
bool ConstrainedDelaunay::collectCrossed(int a, int b, std::vector<std::pair<int, int>>& crossed,
                                         int& through) const {
    int t = -1;
    if (!crossing(a, b, t, through)) return false;
    if (through >= 0) return true;
    std::size_t i = indexOf(at(t).corner, a);
    int right = at(t).corner[next(i)], left = at(t).corner[previous(i)];
    while (true) {
        const Triangle& q = at(t);
        if (q.constrained[i] || q.beyond[i] < 0) return false;
        crossed.emplace_back(left, right);
        const int o = q.beyond[i];
        const int far = at(o).corner[indexOf(at(o).beyond, t)];
        if (far == b) return true;
        const Int side = orientation(a, b, far);
        if (side == 0) {
            through = far;
            return true;
        }
        i = indexOf(at(o).corner, side > 0 ? left : right);
        (side > 0 ? left : right) = far;
        t = o;
    }
}

/// The corners opposite the edge, on its two sides.
std::pair<int, int> ConstrainedDelaunay::opposite(Place edge) const {
    const Triangle& q = at(edge.triangle);
    const auto side = static_cast<std::size_t>(edge.side);
    const Triangle& r = at(q.beyond[side]);
    return {q.corner[side], r.corner[indexOf(r.beyond, edge.triangle)]};
}

bool ConstrainedDelaunay::constrain(int a, int b, int depth) {
    if (a == b || mark(a, b)) return true;
    if (depth > kMostSplits) return false;
    std::vector<std::pair<int, int>> crossed, made;
    int through = -1;
    if (!collectCrossed(a, b, crossed, through)) return false;
    if (through >= 0) return constrain(a, through, depth + 1) && constrain(through, b, depth + 1);
    const std::size_t most = 100 * crossed.size() + 1000;
    for (std::size_t head = 0; head < crossed.size(); ++head) {
        const auto edge = crossed[head];
        Place place;
        if (head > most || !find(edge.first, edge.second, place)) return false;
        const auto [p, d] = opposite(place);
        const Triangle& q = at(place.triangle);
        const auto side = static_cast<std::size_t>(place.side);
        const bool convex =
            orientation(p, q.corner[next(side)], d) > 0 && orientation(p, d, q.corner[previous(side)]) > 0;
        if (!convex) {
            crossed.push_back(edge);
            continue;
        }
        flip(place);
        const Int sp = orientation(a, b, p), sd = orientation(a, b, d);
        if ((sp > 0 && sd < 0) || (sp < 0 && sd > 0))
            crossed.emplace_back(p, d);
        else if (!((p == a && d == b) || (p == b && d == a)))
            made.emplace_back(p, d);
    }
    if (!mark(a, b)) return false;
    restoreDelaunay(made);
    return true;
}

void ConstrainedDelaunay::restoreDelaunay(std::vector<std::pair<int, int>>& edges) {
    for (int pass = 0; pass < 8; ++pass) {
        bool any = false;
        for (auto& edge : edges) {
            Place place;
            if (!find(edge.first, edge.second, place)) continue;
            const Triangle& q = at(place.triangle);
            const auto side = static_cast<std::size_t>(place.side);
            if (q.constrained[side] || q.beyond[side] < 0) continue;
            const auto ends = opposite(place);
            if (!inCircle(q.corner[0], q.corner[1], q.corner[2], ends.second)) continue;
            flip(place);
            edge = ends;
            any = true;
        }
        if (!any) break;
    }
}

std::vector<bool> ConstrainedDelaunay::inside() const {
    std::vector<signed char> state(m_triangles.size(), -1);
    std::vector<int> open{m_triangleOf[0]};
    state[static_cast<std::size_t>(open.front())] = 0;
    while (!open.empty()) {
        const int t = open.back();
        open.pop_back();
        for (std::size_t i = 0; i < 3; ++i) {
            const int o = at(t).beyond[i];
            if (o < 0 || state[static_cast<std::size_t>(o)] >= 0) continue;
            state[static_cast<std::size_t>(o)] =
                static_cast<signed char>(state[static_cast<std::size_t>(t)] ^ (at(t).constrained[i] ? 1 : 0));
            open.push_back(o);
        }
    }
    std::vector<bool> in(state.size());
    for (std::size_t i = 0; i < state.size(); ++i) in[i] = state[i] == 1;
    return in;
}

} // namespace gc

#include "core/sketch/beside.hpp"

#include "core/base/recent.hpp"
#include "core/sketch/splines.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The true offset of a row of curves; u runs from 0 to their number.
class Offset {
  public:
    Offset(std::vector<Curve2> source, double distance, bool closed)
        : m_source(std::move(source)), m_distance(distance), m_closed(closed) {}

    double end() const { return static_cast<double>(m_source.size()); }
    /// The source itself between two parameters within one of its curves.
    Curve2 along(double from, double to) const {
        const double whole = std::floor(from + 1e-9);
        const auto piece = static_cast<std::size_t>(whole) % m_source.size();
        return m_source[piece].part(std::max(0.0, from - whole), to - whole);
    }
    Vec2 at(double u) const {
        const auto [c, t] = split(u);
        return c->at(t) + leftOf(unit(c->slope(t))) * m_distance;
    }
    Vec2 direction(double u) const {
        const auto [c, t] = split(u);
        return unit(c->slope(t));
    }
    /// The parameter of the point that lies nearest to a place.
    double nearest(Vec2 p) const {
        constexpr int kLooks = 24; // a piece
        const int n = kLooks * static_cast<int>(m_source.size());
        const auto away = [&](double u) { return length(at(u) - p); };
        double best = 0, least = 1e300;
        for (int i = 0; i <= n; ++i)
            if (const double a = away(static_cast<double>(i) / kLooks); a < least)
                least = a, best = static_cast<double>(i) / kLooks;
        // Down to where the way to the place has no component along the curve.
        double low = best - 1.0 / kLooks, high = best + 1.0 / kLooks;
        if (!m_closed) low = std::max(low, 0.0), high = std::min(high, end());
        const auto along = [&](double u) { return dot(at(u) - p, direction(u)); };
        double a = along(low), b = along(high);
        if (a > 0 || b < 0) return std::fabs(away(low) - least) < std::fabs(away(high) - least) ? low : high;
        for (int k = 0; k < 200 && high - low > 1e-15 * std::max(1.0, high); ++k) {
            // Regula falsi that never keeps one side for long.
            double m = k % 3 == 2 || b - a < 1e-300 ? 0.5 * (low + high) : low - a * (high - low) / (b - a);
            if (!(m > low && m < high)) m = 0.5 * (low + high);
            const double v = along(m);
            if (v == 0) return m;
            v < 0 ? void((low = m, a = v)) : void((high = m, b = v));
        }
        return 0.5 * (low + high);
    }

  private:
    std::pair<const Curve2*, double> split(double u) const {
        if (m_closed) u -= std::floor(u / end()) * end();
        const double whole = std::clamp(std::floor(u), 0.0, end() - 1);
        return {&m_source[static_cast<std::size_t>(whole)], u - whole};
    }

    std::vector<Curve2> m_source;
    double m_distance;
    bool m_closed;
};

/// One cubic between two parameters with the true ends and directions there. The lengths of its handles are
/// those for which it meets the offset at both thirds: then it lies within the sixth power of its length.
/// \return how far it stands off, mm
double fitPiece(const Offset& o, double from, double to, Curve2& c) {
    c.kind = Curve2::Kind::Cubic;
    const Vec2 p = o.at(from), q = o.at(to), t0 = o.direction(from), t1 = o.direction(to);
    // How fast the offset runs at its ends, by differences within the piece.
    const double h = 1e-4 * (to - from);
    const double first = dot(o.at(from + h) - p, t0) / h * (to - from) / 3,
                 last = dot(q - o.at(to - h), t1) / h * (to - from) / 3;
    double a = first, b = last;
    const auto make = [&] { c.p = {p, p + t0 * a, q - t1 * b, q}; };
    const auto missAt = [&](double t, Vec2& normal) {
        const Vec2 x = c.at(t);
        double u = from + (to - from) * t;
        for (int k = 0; k < 3; ++k) { // to the foot, by the chord speed
            const double speed = std::max(length(o.at(u + h) - o.at(u - h)) / (2 * h), 1e-12);
            u = std::clamp(u + dot(x - o.at(u), o.direction(u)) / speed, from, to);
        }
        normal = leftOf(o.direction(u));
        return dot(x - o.at(u), normal);
    };
    make();
    for (int k = 0; k < 4; ++k) {
        Vec2 n, m;
        const double e = missAt(1.0 / 3, n), f = missAt(2.0 / 3, m);
        const double ea = dot(t0, n) * (4.0 / 9), eb = -dot(t1, n) * (2.0 / 9), fa = dot(t0, m) * (2.0 / 9),
                     fb = -dot(t1, m) * (4.0 / 9);
        const double det = ea * fb - eb * fa;
        if (std::fabs(det) < 1e-14) break; // as good as straight
        const double da = -(e * fb - f * eb) / det, db = -(ea * f - fa * e) / det;
        if (!(std::fabs(da) < 0.5 * std::fabs(first)) || !(std::fabs(db) < 0.5 * std::fabs(last))) break;
        a += da, b += db;
        make();
    }
    if (a < 0.3 * first || a > 3 * first || b < 0.3 * last || b > 3 * last) {
        a = first, b = last;
        make();
    }
    double worst = 0;
    Vec2 n;
    for (const double t : {1.0 / 6, 1.0 / 3, 0.5, 2.0 / 3, 5.0 / 6})
        worst = std::max(worst, std::fabs(missAt(t, n)));
    return worst;
}

void fit(const Offset& o, double from, double to, int depth, std::vector<Curve2>& out) {
    Curve2 c;
    if (fitPiece(o, from, to, c) > kBesideFit && depth > 0) {
        const double middle = 0.5 * (from + to);
        fit(o, from, middle, depth - 1, out);
        fit(o, middle, to, depth - 1, out);
        return;
    }
    out.push_back(c);
}

Curve2 straight(Vec2 from, Vec2 to) {
    Curve2 c;
    c.p = {from, to};
    return c;
}

/// The offset of a whole stroke.
Offset offsetOf(const Drawing& d, const Stroke& source, double distance) {
    std::vector<Curve2> run = curvesOf(d, source);
    const bool closed = source.kind == StrokeKind::Ellipse;
    if (closed) { // quarters, so that the halving begins with something short
        const Curve2 whole = run[0];
        run.clear();
        for (int k = 0; k < 4; ++k) run.push_back(whole.part(k / 4.0, (k + 1) / 4.0));
    }
    return {std::move(run), distance, closed};
}

} // namespace

double besideNearest(const Drawing& d, const Stroke& source, double distance, Vec2 place) {
    return offsetOf(d, source, distance).nearest(place);
}

const Stroke* sourceOf(const Drawing& d, const Stroke& s) {
    return s.kind == StrokeKind::Beside ? d.findStroke(s.beside) : nullptr;
}

bool canBeFollowed(const Stroke& s) {
    switch (s.kind) {
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc:
    case StrokeKind::Conic:
    case StrokeKind::Spline:
    case StrokeKind::Poles:
    case StrokeKind::Fair:
        return true;
    default:
        return false;
    }
}

double besideBy(const Stroke& s) {
    return s.kind == StrokeKind::Beside ? (s.right ? -s.sizes[0] : s.sizes[0]) : 0;
}

int commonSource(const Drawing& d, int a, int b) {
    const Stroke *s = d.findStroke(a), *t = d.findStroke(b);
    if (!s || !t || a == b) return 0;
    const int ofA = s->kind == StrokeKind::Beside ? s->beside : a,
              ofB = t->kind == StrokeKind::Beside ? t->beside : b;
    return ofA == ofB ? ofA : 0;
}

namespace {

std::vector<Curve2> fitted(const Drawing& d, const Stroke& s, const Stroke& source) {
    const Vec2 from = d.at(s.points.front()), to = d.at(s.points.back());
    const Offset o = offsetOf(d, source, besideBy(s));
    double begin = endHeld(s, 0) ? 0 : o.nearest(from), end = endHeld(s, 1) ? o.end() : o.nearest(to);
    if (s.points.size() == 1) end = begin + o.end();
    if (source.kind == StrokeKind::Ellipse && end <= begin) end += o.end();
    if (end - begin < 1e-12) return {straight(from, to)};
    const bool along = besideBy(s) == 0;
    std::vector<Curve2> out;
    constexpr int kHalvings = 7;
    for (double u = begin; u < end - 1e-12;) {
        const double next = std::min(end, std::floor(u + 1e-9) + 1);
        if (along)
            out.push_back(o.along(u, next));
        else
            fit(o, u, next, kHalvings, out);
        u = next;
    }
    if (along) return out; // pieces of the source itself
    // Exactly from point to point: joints are closed to the last bit.
    out.front().p[0] = from;
    out.back().p[3] = s.points.size() == 1 ? from : to;
    return out;
}

/// All that the shape of a follower rests on.
std::vector<double> keyOf(const Drawing& d, const Stroke& s, const Stroke& source) {
    std::vector<double> key{besideBy(s), endHeld(s, 0) ? 1.0 : 0.0, endHeld(s, 1) ? 1.0 : 0.0,
                            static_cast<double>(source.kind), static_cast<double>(s.points.size())};
    for (const Stroke* stroke : {&s, &source}) {
        for (const int p : stroke->points) key.insert(key.end(), {d.at(p).x, d.at(p).y});
        key.insert(key.end(), stroke->sizes.begin(), stroke->sizes.end());
    }
    return key;
}

} // namespace

bool endHeld(const Stroke& s, std::size_t end) {
    return end < s.held.size() && s.held[end];
}

std::vector<Curve2> besideCurves(const Drawing& d, const Stroke& s) {
    const Stroke* source = sourceOf(d, s);
    if (!source || !canBeFollowed(*source) || curvesOf(d, *source).empty())
        return {straight(d.at(s.points.front()), d.at(s.points.back()))};
    // Fitting takes about 0.4 ms: a thousand times what a spline does, and a picture asks ten times for each.
    thread_local Recent<std::vector<double>, std::vector<Curve2>> known(128);
    return known.get(keyOf(d, s, *source), [&] { return fitted(d, s, *source); });
}

void makePlain(Drawing& d, int id) {
    const Stroke s = *d.findStroke(id);
    const std::vector<Curve2> pieces = curvesOf(d, s);
    std::vector<int> points;
    std::vector<double> spans;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        const double before = i == 0 ? 1 : spans.back();
        const double out = i == 0 ? 1 : length(pieces[i - 1].slope(1));
        const double in = i == 0 ? 1 : length(pieces[i].slope(0));
        spans.push_back(out > 1e-12 && in > 1e-12 ? before * in / out : before);
    }
    for (std::size_t i = 0; i <= pieces.size(); ++i) {
        const std::size_t piece = std::min(i, pieces.size() - 1);
        const Vec2 at = pieces[piece].at(i == piece ? 0 : 1), slope = pieces[piece].slope(i == piece ? 0 : 1);
        points.push_back(i == 0                                      ? s.points.front()
                         : i == pieces.size() && s.points.size() > 1 ? s.points.back()
                                                                     : d.addPoint(at));
        const double mean = spans.size() == 1 ? spans[0] : meanSpan(spans, static_cast<int>(i));
        points.push_back(d.addPoint(at + slope * (mean / spans[piece] / 3)));
    }
    Stroke& now = *d.findStroke(id);
    now.kind = StrokeKind::Spline;
    now.points = std::move(points);
    now.sizes = std::move(spans);
    now.held.assign(pieces.size() + 1, true);
    now.beside = 0;
    now.right = false;
}

} // namespace gc

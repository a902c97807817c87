#include "core/exchange/drawings/dxf_spline.hpp"

#include "core/sketch/splines.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kFit = 0.001; ///< mm

/// A pole with its weight multiplied in.
struct H {
    double x = 0, y = 0, w = 1;
    friend H operator*(H a, double k) { return {a.x * k, a.y * k, a.w * k}; }
    friend H operator+(H a, H b) { return {a.x + b.x, a.y + b.y, a.w + b.w}; }
    Vec2 at() const { return {x / w, y / w}; }
};

/// One polynomial piece between two knots, as Bezier poles.
struct Piece {
    std::vector<H> poles;
    double from = 0, to = 1;

    H blossom(double t) const { // de Casteljau
        std::vector<H> p = poles;
        for (std::size_t k = p.size() - 1; k > 0; --k)
            for (std::size_t i = 0; i < k; ++i) p[i] = p[i] * (1 - t) + p[i + 1] * t;
        return p[0];
    }
    Vec2 at(double t) const { return blossom(t).at(); }
    /// By t, at the two ends.
    Vec2 slope(bool end) const {
        const std::size_t n = poles.size() - 1;
        const H &a = end ? poles[n] : poles[0], &b = end ? poles[n - 1] : poles[1];
        const Vec2 d = (b.at() - a.at()) * (static_cast<double>(n) * b.w / a.w);
        return end ? d * -1 : d;
    }
};

/// The Bezier poles of the span between knots k and k + 1: the blossom of the piece at its two ends, so often
/// each (Ramshaw 1987). By local de Boor steps, so that the cost grows with the poles and not with their
/// cube.
std::vector<H> bezierPoles(const std::vector<double>& u, const std::vector<H>& q, std::size_t k,
                           std::size_t p) {
    std::vector<H> out;
    for (std::size_t j = 0; j <= p; ++j) {
        std::vector<H> d(q.begin() + static_cast<std::ptrdiff_t>(k - p),
                         q.begin() + static_cast<std::ptrdiff_t>(k) + 1);
        for (std::size_t r = 1; r <= p; ++r) {
            const double t = r <= p - j ? u[k] : u[k + 1];
            for (std::size_t i = p; i >= r; --i) { // pole k - p + i
                const double low = u[k - p + i], high = u[k + 1 + i - r];
                const double a = (t - low) / (high - low);
                d[i] = d[i - 1] * (1 - a) + d[i] * a;
            }
        }
        out.push_back(d[p]);
    }
    return out;
}

std::vector<Piece> piecesOf(const DxfSpline& s) {
    const auto p = static_cast<std::size_t>(s.degree);
    std::vector<H> q;
    for (std::size_t i = 0; i < s.poles.size(); ++i) {
        const double w = i < s.weights.size() ? s.weights[i] : 1;
        q.push_back({s.poles[i].x * w, s.poles[i].y * w, w});
    }
    std::vector<Piece> out;
    for (std::size_t k = p; k < q.size(); ++k) {
        if (!(s.knots[k + 1] > s.knots[k])) continue;
        Piece piece;
        piece.from = s.knots[k], piece.to = s.knots[k + 1];
        piece.poles = bezierPoles(s.knots, q, k, p);
        out.push_back(std::move(piece));
    }
    return out;
}

bool plain(const Piece& piece) {
    return std::all_of(piece.poles.begin(), piece.poles.end(), [&](const H& h) {
        return std::fabs(h.w - piece.poles[0].w) < 1e-12 * std::fabs(h.w);
    });
}

/// A row of cubics with one direction at every joint is one spline; a corner begins a new one.
void drawCubics(const std::vector<Piece>& pieces, PathCollector& to) {
    std::vector<Vec2> nodes, derivatives;
    std::vector<double> spans;
    const auto close = [&] {
        to.spline(nodes, derivatives, spans);
        nodes.clear(), derivatives.clear(), spans.clear();
    };
    for (const Piece& piece : pieces) {
        const double span = piece.to - piece.from;
        const Vec2 d0 = piece.slope(false) * (1 / span), d1 = piece.slope(true) * (1 / span);
        if (!nodes.empty() &&
            length(derivatives.back() - d0) > 1e-9 * (length(d0) + length(derivatives.back())))
            close();
        if (nodes.empty()) nodes.push_back(piece.at(0)), derivatives.push_back(d0);
        nodes.push_back(piece.at(1));
        derivatives.push_back(d1);
        spans.push_back(span);
    }
    close();
}

/// Cubics with the true ends and directions, halved until they lie on it.
void fitPiece(const Piece& piece, double from, double to, int depth, PathCollector& into) {
    const double h = 1e-6 * (to - from);
    const Vec2 a = piece.at(from), b = piece.at(to);
    const Vec2 u = (piece.at(from + h) - a) * ((to - from) / h),
               v = (b - piece.at(to - h)) * ((to - from) / h);
    Curve2 cubic;
    cubic.kind = Curve2::Kind::Cubic;
    cubic.p = {a, a + u * (1.0 / 3), b - v * (1.0 / 3), b};
    double worst = 0;
    for (int i = 1; i < 8; ++i) {
        const Vec2 q = piece.at(from + (to - from) * i / 8.0);
        worst = std::max(worst, length(cubic.at(cubic.nearest(q)) - q));
    }
    constexpr int kDeepest = 7;
    if (worst < kFit || depth > kDeepest) return into.cubic({cubic.p[0], cubic.p[1], cubic.p[2], cubic.p[3]});
    const double middle = 0.5 * (from + to);
    fitPiece(piece, from, middle, depth + 1, into);
    fitPiece(piece, middle, to, depth + 1, into);
}

bool belongTogether(const DxfSpline& s) {
    constexpr std::size_t kMostPoles = 20000;
    const std::size_t n = s.poles.size(), p = static_cast<std::size_t>(s.degree);
    if (s.degree < 1 || s.degree > 9 || n < p + 1 || n > kMostPoles || s.knots.size() != n + p + 1)
        return false;
    if (!s.weights.empty() && s.weights.size() != n) return false;
    for (const double w : s.weights)
        if (!(w > 1e-9) || w > 1e9) return false;
    for (std::size_t i = 1; i < s.knots.size(); ++i)
        if (!(s.knots[i] >= s.knots[i - 1])) return false;
    return s.knots[n] > s.knots[p];
}

} // namespace

bool drawDxfSpline(const DxfSpline& s, PathCollector& to, bool& fitted) {
    if (s.poles.empty() && s.through.size() > 1 && s.through.size() < 20000) {
        // Even curvature through the points, as it is drawn by hand.
        std::vector<Vec2> points;
        for (const Vec2 p : s.through) points.insert(points.end(), {p, p});
        const auto spans = spansFor(s.through);
        relaxHandles(points, spans, {});
        std::vector<Vec2> derivatives;
        for (std::size_t i = 0; i < s.through.size(); ++i)
            derivatives.push_back((points[2 * i + 1] - points[2 * i]) *
                                  (3 / meanSpan(spans, static_cast<int>(i))));
        to.spline(s.through, derivatives, spans);
        return true;
    }
    if (!belongTogether(s)) return false;
    const auto pieces = piecesOf(s);
    const bool plainAll = std::all_of(pieces.begin(), pieces.end(), plain);
    if (plainAll && s.degree == 3) {
        drawCubics(pieces, to);
        return true;
    }
    for (const Piece& piece : pieces) {
        const auto& p = piece.poles;
        if (s.degree == 1) {
            to.line(piece.at(0), piece.at(1));
        } else if (s.degree == 2) { // its standard form has ends that weigh 1 (Farin, section 12.3)
            to.conic(p[0].at(), p[1].at(), p[2].at(), p[1].w / std::sqrt(p[0].w * p[2].w));
        } else if (s.degree == 3 && plain(piece)) {
            to.cubic({p[0].at(), p[1].at(), p[2].at(), p[3].at()});
        } else {
            fitPiece(piece, 0, 1, 0, to);
            fitted = true;
        }
    }
    return true;
}

} // namespace gc

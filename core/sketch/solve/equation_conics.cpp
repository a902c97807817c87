// The rarer equations, of conics, differentiated by the library.

#include "core/sketch/solve/equation_duals.hpp"

namespace gc::terms {

namespace {

struct DualVec {
    Dual x, y;
};
DualVec operator-(const DualVec& a, const DualVec& b) {
    return {a.x - b.x, a.y - b.y};
}
DualVec operator+(const DualVec& a, const DualVec& b) {
    return {a.x + b.x, a.y + b.y};
}
DualVec operator*(const DualVec& a, double k) {
    return {a.x * k, a.y * k};
}
Dual dot(const DualVec& a, const DualVec& b) {
    return a.x * b.x + a.y * b.y;
}
Dual cross(const DualVec& a, const DualVec& b) {
    return a.x * b.y - a.y * b.x;
}
Dual norm(const DualVec& a) {
    return sqrt(dot(a, a) + kTiny * kTiny);
}

class Duals {
  public:
    Duals(const Equation& e, const double* x) : m_count(e.count), m_x(x) {}
    Dual scalar(int i) const { return Dual(m_x[i], m_count, i); }
    DualVec point(int i) const { return {scalar(i), scalar(i + 1)}; }

  private:
    int m_count;
    const double* m_x;
};

} // namespace

/// F / |grad F| of the ellipse, in its own axes: the distance to first order.
double onEllipse(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    const DualVec c = u.point(2), d = u.point(0) - c, m = u.point(4) - c;
    const Dual a = norm(m), b = u.scalar(6);
    const Dual X = dot(d, m) / a, Y = cross(m, d) / a;
    const Dual f = X * X / (a * a) + Y * Y / (b * b) - 1.0;
    const Dual gx = X / (a * a), gy = Y / (b * b);
    return give(Dual(f / (2.0 * sqrt(gx * gx + gy * gy + kTiny))), e.count, g);
}

/// In barycentric coordinates (i, j, k) of start, apex, end the conic of weight w = rho / (1 - rho) is
/// j^2 = 4 w^2 i k. The residual is divided by the gradient of that, taken in the plane.
double onConic(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    const DualVec p = u.point(0), s = u.point(2), t = u.point(4), q = u.point(6);
    const Dual rho = u.scalar(8), w = rho / (1.0 - rho);
    const Dual area = cross(q - s, t - s);
    const Dual i = cross(q - p, t - p) / area, j = cross(t - p, s - p) / area, k = 1.0 - i - j;
    const Dual f = j * j - 4.0 * w * w * i * k;
    // Gradients of the barycentric coordinates: opposite side turned by a right angle, over the area.
    const auto gradient = [&](const DualVec& from, const DualVec& to) {
        return DualVec{(from.y - to.y) / area, (to.x - from.x) / area};
    };
    const DualVec gi = gradient(q, t), gj = gradient(t, s), gk = gradient(s, q);
    const Dual wi = -4.0 * w * w * k, wj = 2.0 * j, wk = -4.0 * w * w * i;
    const DualVec grad{gi.x * wi + gj.x * wj + gk.x * wk, gi.y * wi + gj.y * wj + gk.y * wk};
    return give(Dual(f / (norm(grad) + kTiny)), e.count, g);
}

/// A line touches an ellipse when its height over the centre is sqrt(a^2 (n.m)^2 + b^2 (n x m)^2), with unit
/// normal n and unit half axis m.
double tangentLineEllipse(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    const DualVec a = u.point(0), d = u.point(2) - a, c = u.point(4), m = u.point(6) - c;
    const Dual l = norm(d), b = u.scalar(8);
    const Dual h = cross(d, c - a) / l;
    const Dual reach = cross(d, m) / l, side = dot(d, m) / l * (b / norm(m));
    return give(Dual(h * e.sense - sqrt(reach * reach + side * side + kTiny * kTiny)), e.count, g);
}

namespace {

/// The unit normal of an ellipse where a point of it lies: the gradient of (X / a)^2 + (Y / b)^2.
DualVec ellipseNormal(const Duals& u, int at) {
    const DualVec c = u.point(at + 2), d = u.point(at) - c, m = u.point(at + 4) - c;
    const Dual a = norm(m), b = u.scalar(at + 6);
    const Dual x = dot(d, m) / (a * a * a), y = cross(m, d) / (a * b * b);
    const DualVec n{(m.x * x - m.y * y) / a, (m.y * x + m.x * y) / a};
    const Dual l = norm(n) + kTiny;
    return {n.x / l, n.y / l};
}

} // namespace

double ellipseEnd(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    const DualVec n = ellipseNormal(u, 0), d = u.point(9) - u.point(7);
    const Dual l = norm(d) + kTiny;
    return give(Dual((e.sense > 0 ? dot(n, d) : cross(n, d)) / l * e.scale), e.count, g);
}

double ellipseEnds(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    return give(Dual(cross(ellipseNormal(u, 0), ellipseNormal(u, 7)) * e.scale), e.count, g);
}

namespace {

/// Curvature at the start of a curve whose first differences of poles are d0 and d1.
Dual curvatureOf(const DualVec& d0, const DualVec& d1, const Dual& factor) {
    const Dual l = norm(d0);
    return factor * cross(d0, d1) / (l * l * l);
}

/// Signed curvature at an end; positive curves left when walking into the stroke from that end.
/// Formulas of end curvatures: Farin, Curves and Surfaces for CAGD, 5th edition, sections 11.2 and 13.4.
Dual curvatureOf(const Equation& e, int end, int at, const Duals& u) {
    const double f = e.endFactors[end];
    const Dual zero(0.0, Row::Zero(e.count));
    switch (e.ends[end]) {
    case CurvatureEnd::Straight:
        return zero;
    case CurvatureEnd::Round:
        return f / u.scalar(at);
    case CurvatureEnd::Spline: {
        const DualVec n0 = u.point(at), n1 = u.point(at + 4);
        const DualVec d0 = (u.point(at + 2) - n0) * (f < 0 ? -1 : 1);
        const DualVec p2 = n1 - (u.point(at + 6) - n1) * f;
        return curvatureOf(d0, p2 - (n0 + d0), zero + 2.0 / 3.0);
    }
    case CurvatureEnd::Poles: {
        const DualVec p1 = u.point(at + 2);
        return curvatureOf(p1 - u.point(at), u.point(at + 4) - p1, zero + f);
    }
    case CurvatureEnd::Conic: {
        const DualVec p1 = u.point(at + 2);
        const Dual rho = u.scalar(at + 6), w = rho / (1.0 - rho);
        return curvatureOf(p1 - u.point(at), u.point(at + 4) - p1, Dual(1.0 / (2.0 * w * w)));
    }
    }
    return zero;
}

int unknownsOf(CurvatureEnd end) {
    constexpr int counts[] = {0, 1, 8, 6, 7};
    return counts[static_cast<int>(end)];
}

} // namespace

double sameCurvature(const Equation& e, const double*, const double* x, double* g) {
    const Duals u(e, x);
    // Walking out of one stroke is walking into the other the opposite way: the signs are opposite.
    const Dual k = curvatureOf(e, 0, 0, u) + curvatureOf(e, 1, unknownsOf(e.ends[0]), u);
    return give(Dual(e.scale * e.scale * k), e.count, g);
}

} // namespace gc::terms

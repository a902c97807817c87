#include "core/shape/length_curve.hpp"

#include <BRep_Tool.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_TrimmedCurve.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

Handle(Geom_Curve) untrimmed(Handle(Geom_Curve) curve) {
    while (const auto trimmed = Handle(Geom_TrimmedCurve)::DownCast(curve)) curve = trimmed->BasisCurve();
    return curve;
}

} // namespace

LengthCurve::LengthCurve(const Handle(Geom_Curve) & curve, double from, double to)
    : m_curve(untrimmed(curve)), m_from(from), m_to(to) {
    constexpr int kEven = 4; // derivatives
    struct Knot {
        double at;
        bool rough;
    };
    std::vector<Knot> knots{{from, true}, {to, true}};
    if (const auto spline = Handle(Geom_BSplineCurve)::DownCast(m_curve))
        for (int i = 1; i <= spline->NbKnots(); ++i)
            if (const double k = spline->Knot(i);
                k > std::min(from, to) + 1e-12 && k < std::max(from, to) - 1e-12)
                knots.push_back({k, spline->Degree() - spline->Multiplicity(i) < kEven});
    std::sort(knots.begin(), knots.end(), [](const Knot& a, const Knot& b) { return a.at < b.at; });
    if (from > to) std::reverse(knots.begin(), knots.end());
    const int parts = isStraight() || isRound() ? 1 : 12;
    m_nodes.push_back({from, 0});
    m_knots.push_back(0);
    m_breaks.push_back(0);
    for (std::size_t i = 0; i + 1 < knots.size(); ++i) {
        for (int k = 1; k <= parts; ++k) {
            const double next = knots[i].at + (knots[i + 1].at - knots[i].at) * k / parts;
            m_nodes.push_back({next, m_nodes.back().along + between(m_nodes.back().parameter, next)});
        }
        m_knots.push_back(m_nodes.back().along);
        if (knots[i + 1].rough) m_breaks.push_back(m_nodes.back().along);
    }
}

LengthCurve LengthCurve::of(const TopoDS_Edge& edge, bool against) {
    double first = 0, last = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, first, last);
    const bool back = (edge.Orientation() == TopAbs_REVERSED) != against;
    return back ? LengthCurve(curve, last, first) : LengthCurve(curve, first, last);
}

bool LengthCurve::isStraight() const {
    return GeomAdaptor_Curve(m_curve).GetType() == GeomAbs_Line;
}

bool LengthCurve::isRound() const {
    return GeomAdaptor_Curve(m_curve).GetType() == GeomAbs_Circle;
}

/// Gauss quadrature with 8 points, which on a twelfth of a span of a spline leaves less than rounding does.
double LengthCurve::between(double a, double b) const {
    static constexpr double at[] = {0.1834346424956498, 0.5255324099163290, 0.7966664774136267,
                                    0.9602898564975363};
    static constexpr double weight[] = {0.3626837833783620, 0.3137066458778873, 0.2223810344533745,
                                        0.1012285362903763};
    const double middle = 0.5 * (a + b), half = 0.5 * (b - a);
    double sum = 0;
    gp_Pnt p;
    gp_Vec d;
    for (int i = 0; i < 4; ++i)
        for (const double sign : {-1.0, 1.0}) {
            m_curve->D1(middle + sign * half * at[i], p, d);
            sum += weight[i] * d.Magnitude();
        }
    return std::fabs(half) * sum;
}

double LengthCurve::parameterAt(double s) const {
    s = std::clamp(s, 0.0, length());
    const auto next = std::lower_bound(m_nodes.begin() + 1, m_nodes.end() - 1, s,
                                       [](const Node& n, double along) { return n.along < along; });
    const Node &a = *(next - 1), &b = *next;
    double t = a.parameter;
    if (b.along > a.along) t += (b.parameter - a.parameter) * (s - a.along) / (b.along - a.along);
    if (isStraight() || isRound()) return t;
    const double sense = m_to > m_from ? 1 : -1;
    constexpr int kRounds = 6;
    for (int round = 0; round < kRounds; ++round) {
        gp_Pnt p;
        gp_Vec d;
        m_curve->D1(t, p, d);
        const double speed = d.Magnitude();
        if (speed < 1e-12) return t;
        const double off = a.along + between(a.parameter, t) - s;
        t -= sense * off / speed;
        if (std::fabs(off) < 1e-11 * (1 + length())) break;
    }
    return t;
}

gp_Pnt LengthCurve::at(double s) const {
    return m_curve->Value(parameterAt(s));
}

gp_Vec LengthCurve::tangent(double s) const {
    gp_Pnt p;
    gp_Vec d;
    m_curve->D1(parameterAt(s), p, d);
    if (m_to < m_from) d.Reverse();
    return d.Normalized();
}

gp_Vec LengthCurve::bend(double s) const {
    gp_Pnt p;
    gp_Vec d, dd;
    m_curve->D2(parameterAt(s), p, d, dd);
    const double speed = d.SquareMagnitude();
    return (dd - d * (dd.Dot(d) / speed)) / speed;
}

} // namespace gc

#include "core/exchange/drawings/drawing_files.hpp"
#include "core/sketch/curve2.hpp"

#include <cmath>
#include <cstdio>
#include <numbers>

namespace gc {

namespace {

class Writer {
  public:
    void group(int code, const std::string& text) { m_out += std::to_string(code) + "\n" + text + "\n"; }
    void group(int code, double v) {
        char buffer[40];
        std::snprintf(buffer, sizeof buffer, "%.12g", v);
        group(code, std::string(buffer));
    }
    void count(int code, std::size_t n) { group(code, std::to_string(n)); }
    void place(int code, Vec2 p) {
        group(code, p.x);
        group(code + 10, p.y);
        group(code + 20, 0.0);
    }
    void begin(const char* kind, const char* subclass) {
        char handle[20];
        std::snprintf(handle, sizeof handle, "%X", m_handle++);
        group(0, std::string(kind));
        group(5, std::string(handle));
        group(100, std::string("AcDbEntity"));
        group(8, std::string("0"));
        group(100, std::string(subclass));
    }
    std::string take() { return std::move(m_out); }

  private:
    std::string m_out;
    int m_handle = 0x100;
};

double degrees(double a) {
    const double d = a * 180 / std::numbers::pi;
    return d < 0 ? d + 360 : d;
}

/// Pieces of one spline, joined: cubics, or a single conic of degree two with its weight.
/// \param spans of the parameter; those that are missing are 1
void writeSpline(Writer& w, const std::vector<Curve2>& pieces, const std::vector<double>& spans) {
    const bool conic = pieces[0].kind == Curve2::Kind::Conic;
    const std::size_t degree = conic ? 2 : 3;
    w.begin("SPLINE", "AcDbSpline");
    w.count(70, conic ? 12 : 8); // planar, rational
    w.count(71, degree);
    w.count(72, degree * (pieces.size() + 1) + 2);
    w.count(73, degree * pieces.size() + 1);
    w.count(74, 0);
    double knot = 0;
    for (std::size_t i = 0; i <= pieces.size(); ++i) {
        const bool outer = i == 0 || i == pieces.size();
        for (std::size_t k = 0; k < degree + (outer ? 1 : 0); ++k) w.group(40, knot);
        knot += i < spans.size() ? spans[i] : 1;
    }
    if (conic)
        for (const double weight : {1.0, pieces[0].weight, 1.0}) w.group(41, weight);
    w.place(10, pieces[0].at(0));
    for (const Curve2& c : pieces)
        for (std::size_t k = 1; k <= degree; ++k) w.place(10, c.p[k]);
}

void writeStroke(Writer& w, const Drawing& d, const Stroke& s) {
    const auto curves = curvesOf(d, s);
    switch (s.kind) {
    case StrokeKind::Point:
        w.begin("POINT", "AcDbPoint");
        w.place(10, d.at(s.points[0]));
        break;
    case StrokeKind::Line:
        w.begin("LINE", "AcDbLine");
        w.place(10, curves[0].at(0));
        w.place(11, curves[0].at(1));
        break;
    case StrokeKind::Circle:
    case StrokeKind::Arc: {
        const bool arc = s.kind == StrokeKind::Arc;
        w.begin(arc ? "ARC" : "CIRCLE", "AcDbCircle");
        const Vec2 c = d.at(centrePoint(s));
        w.place(10, c);
        w.group(40, s.sizes[0]);
        if (!arc) break;
        w.group(100, std::string("AcDbArc"));
        for (const std::size_t end : {0u, 1u}) {
            const Vec2 r = d.at(s.points[end]) - c;
            w.group(50 + static_cast<int>(end), degrees(std::atan2(r.y, r.x)));
        }
        break;
    }
    case StrokeKind::Ellipse:
    case StrokeKind::EllipseArc: {
        // The first axis is the longer one there; angles count from it.
        const Curve2& c = curves[0];
        const bool swap = length(c.p[1]) < length(c.p[2]);
        const Vec2 axis = swap ? c.p[2] : c.p[1];
        const double ratio = length(swap ? c.p[1] : c.p[2]) / length(axis);
        const double quarter = std::numbers::pi / 2;
        const double from = c.from - (swap ? quarter : 0);
        w.begin("ELLIPSE", "AcDbEllipse");
        w.place(10, c.p[0]);
        w.place(11, axis);
        w.group(40, ratio);
        w.group(41, s.kind == StrokeKind::Ellipse ? 0.0 : from);
        w.group(42, s.kind == StrokeKind::Ellipse ? 2 * std::numbers::pi : from + c.turn);
        break;
    }
    default:
        writeSpline(w, curves, s.kind == StrokeKind::Spline ? s.sizes : std::vector<double>());
        break;
    }
}

} // namespace

std::string writeDxf(const Drawing& d) {
    Writer w;
    w.group(0, std::string("SECTION"));
    w.group(2, std::string("HEADER"));
    w.group(9, std::string("$ACADVER"));
    w.group(1, std::string("AC1015"));
    w.group(9, std::string("$INSUNITS"));
    w.count(70, 4);
    w.group(0, std::string("ENDSEC"));
    w.group(0, std::string("SECTION"));
    w.group(2, std::string("ENTITIES"));
    for (const Stroke& s : d.strokes)
        if (!s.helper) writeStroke(w, d, s);
    w.group(0, std::string("ENDSEC"));
    w.group(0, std::string("EOF"));
    return w.take();
}

} // namespace gc

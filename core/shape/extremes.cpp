#include "core/shape/extremes.hpp"

#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBndLib.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace gc {

namespace {

constexpr int kFewest = 16, kMost = 240; // samples along a curve or across a surface
constexpr int kPerSpan = 4;

Vec3 toVec(const gp_XYZ& p) {
    return {p.X(), p.Y(), p.Z()};
}

double along(const gp_XYZ& v, int axis, double sign) {
    return sign * v.Coord(axis + 1);
}

/// How far the box reaches already.
double reached(const Box& box, int axis, double sign) {
    const double low[] = {box.low.x, box.low.y, box.low.z}, high[] = {box.high.x, box.high.y, box.high.z};
    return sign > 0 ? high[axis] : -low[axis];
}

/// Where the slope along an axis changes its sign between two parameters, by halving.
double levelPlace(const BRepAdaptor_Curve& c, double from, double to, int axis) {
    gp_Pnt p;
    gp_Vec v;
    const auto slope = [&](double t) {
        c.D1(t, p, v);
        return v.Coord(axis + 1);
    };
    double a = slope(from);
    if (a * slope(to) > 0) return from;
    constexpr int kHalvings = 52; // to the last bit
    for (int i = 0; i < kHalvings; ++i) {
        const double middle = (from + to) / 2, m = slope(middle);
        (m > 0) == (a > 0) ? void((from = middle, a = m)) : void(to = middle);
    }
    return (from + to) / 2;
}

int spansOf(const BRepAdaptor_Curve& c) {
    return c.GetType() == GeomAbs_BSplineCurve ? c.NbKnots() - 1 : 1;
}

/// A surface over the box of its face's parameters, sampled.
class Grid {
  public:
    Grid(const BRepAdaptor_Surface& surface, const TopoDS_Face& face) : m_surface(surface) {
        BRepTools::UVBounds(face, m_low[0], m_high[0], m_low[1], m_high[1]);
        const bool spline = surface.GetType() == GeomAbs_BSplineSurface;
        const int spans[] = {spline ? surface.NbUKnots() - 1 : 1, spline ? surface.NbVKnots() - 1 : 1};
        for (int k = 0; k < 2; ++k) m_count[k] = std::clamp(kPerSpan * spans[k], kFewest, kMost);
        for (int i = 0; i <= m_count[0]; ++i)
            for (int j = 0; j <= m_count[1]; ++j) m_points.push_back(surface.Value(at(0, i), at(1, j)).XYZ());
    }

    double at(int way, int i) const { return m_low[way] + (m_high[way] - m_low[way]) * i / m_count[way]; }

    /// Calls with the parameters of every sample that no neighbour exceeds.
    template <class Visit>
    void peaks(int axis, double sign, double above, const Visit& visit) const {
        for (int i = 0; i <= m_count[0]; ++i)
            for (int j = 0; j <= m_count[1]; ++j) {
                const double here = value(i, j, axis, sign);
                // What lies between samples can be higher by about what the next one is lower, more where
                // parameters run unevenly.
                constexpr double kDoubt = 4;
                const double lowest = neighbours(i, j, axis, sign, false),
                             highest = neighbours(i, j, axis, sign, true);
                if (highest > here || here + kDoubt * (here - lowest) <= above) continue;
                visit(i, j);
            }
    }

    /// Climbs from a sample as far as it goes within the next samples: by trying the places around, at half
    /// the distance when none is higher. A pole of the surface, where its slopes say nothing, is no
    /// hindrance.
    std::array<double, 2> climb(int i, int j, int axis, double sign) const {
        std::array<double, 2> p{at(0, i), at(1, j)};
        double step[] = {(m_high[0] - m_low[0]) / m_count[0], (m_high[1] - m_low[1]) / m_count[1]};
        double best = value(i, j, axis, sign);
        constexpr int kHalvings = 28;    // a place to 1e-8 of a step is a height to 1e-16 of it
        constexpr int kMostMoves = 4000; // a narrow ridge across both ways is climbed in small steps
        for (int halved = 0, moves = 0; halved < kHalvings && moves < kMostMoves; ++moves) {
            bool higher = false;
            for (const auto& [a, b] :
                 {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}, {1, 1}, {-1, -1}, {1, -1}, {-1, 1}}) {
                const std::array<double, 2> q{std::clamp(p[0] + a * step[0], m_low[0], m_high[0]),
                                              std::clamp(p[1] + b * step[1], m_low[1], m_high[1])};
                const double there = along(m_surface.Value(q[0], q[1]).XYZ(), axis, sign);
                if (there <= best) continue;
                best = there;
                p = q;
                higher = true;
                break;
            }
            if (higher) continue;
            step[0] /= 2;
            step[1] /= 2;
            ++halved;
        }
        return p;
    }

  private:
    double value(int i, int j, int axis, double sign) const {
        return along(m_points[static_cast<std::size_t>(i) * static_cast<std::size_t>(m_count[1] + 1) +
                              static_cast<std::size_t>(j)],
                     axis, sign);
    }
    double neighbours(int i, int j, int axis, double sign, bool highest) const {
        double out = highest ? -1e300 : 1e300;
        for (int a = std::max(0, i - 1); a <= std::min(m_count[0], i + 1); ++a)
            for (int b = std::max(0, j - 1); b <= std::min(m_count[1], j + 1); ++b) {
                if (a == i && b == j) continue;
                const double v = value(a, b, axis, sign);
                out = highest ? std::max(out, v) : std::min(out, v);
            }
        return out;
    }

    const BRepAdaptor_Surface& m_surface;
    double m_low[2], m_high[2];
    int m_count[2];
    std::vector<gp_XYZ> m_points;
};

} // namespace

void addExtremes(Box& box, const TopoDS_Edge& edge) {
    if (BRep_Tool::Degenerated(edge)) return;
    const BRepAdaptor_Curve c(edge);
    const int n = std::clamp(kPerSpan * spansOf(c), kFewest, kMost * kPerSpan);
    const double low = c.FirstParameter(), step = (c.LastParameter() - low) / n;
    std::vector<gp_XYZ> points;
    for (int i = 0; i <= n; ++i) {
        points.push_back(c.Value(low + i * step).XYZ());
        box.add(toVec(points.back()));
    }
    if (c.GetType() == GeomAbs_Line) return;
    for (int axis = 0; axis < 3; ++axis) {
        const auto level = [&](int i) { // between sample i and the next
            const double from = low + i * step;
            box.add(toVec(c.Value(levelPlace(c, from, from + step, axis)).XYZ()));
        };
        // Beside its ends the highest sample may be the end itself: a circle goes on there.
        level(0);
        level(n - 1);
        for (int i = 1; i < n; ++i) {
            const double before = points[static_cast<std::size_t>(i) - 1].Coord(axis + 1),
                         here = points[static_cast<std::size_t>(i)].Coord(axis + 1),
                         after = points[static_cast<std::size_t>(i) + 1].Coord(axis + 1);
            if ((here - before) * (here - after) < 0) continue; // it goes on rising or falling
            level(i - 1);
            level(i);
        }
    }
}

void addInnerExtremes(Box& box, const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face, false);
    if (surface.GetType() == GeomAbs_Plane) return; // its edges are all there is
    const Grid grid(surface, face);
    std::optional<BRepTopAdaptor_FClass2d> inside; // dear: only where there is something to ask
    for (int axis = 0; axis < 3; ++axis)
        for (const double sign : {1.0, -1.0})
            grid.peaks(axis, sign, reached(box, axis, sign), [&](int i, int j) {
                const auto [u, v] = grid.climb(i, j, axis, sign);
                const gp_XYZ p = surface.Value(u, v).XYZ();
                if (along(p, axis, sign) <= reached(box, axis, sign)) return;
                if (!inside) inside.emplace(face, 1e-9);
                if (inside->Perform(gp_Pnt2d(u, v)) != TopAbs_OUT) box.add(toVec(p));
            });
}

/// Faces that the kernel's loose boxes show to lie within what is taken up already are passed over.
Box looseExtentOf(const TopoDS_Shape& shape) {
    Bnd_Box loose;
    BRepBndLib::Add(shape, loose, false);
    Box out;
    if (loose.IsVoid()) return out;
    out.add(toVec(loose.CornerMin()));
    out.add(toVec(loose.CornerMax()));
    return out;
}

Box extentOf(const TopoDS_Shape& shape, const Stop& stop) {
    Box out;
    for (TopExp_Explorer x(shape, TopAbs_EDGE); x.More(); x.Next())
        addExtremes(out, TopoDS::Edge(x.Current()));
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) {
        if (stop && stop()) return out;
        Bnd_Box loose;
        BRepBndLib::Add(x.Current(), loose, false);
        if (loose.IsVoid()) continue;
        const gp_Pnt low = loose.CornerMin(), high = loose.CornerMax();
        const bool within = low.X() >= out.low.x && low.Y() >= out.low.y && low.Z() >= out.low.z &&
                            high.X() <= out.high.x && high.Y() <= out.high.y && high.Z() <= out.high.z;
        if (!within) addInnerExtremes(out, TopoDS::Face(x.Current()));
    }
    return out;
}

} // namespace gc

#include "core/steps/shared/flat_outline.hpp"

#include "core/base/tolerance.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <ElSLib.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

FlatOutline::FlatOutline(const TopoDS_Face& face) : m_plane(BRepAdaptor_Surface(face, false).Plane()) {
    constexpr int kPieces = 32;       // of a curve
    constexpr double kBeyond = 2;     // a curve's furthest place from its chord, as against its middle's
    constexpr double kSpanBeyond = 8; // for curves of many spans, which may wind between two places
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge& edge = TopoDS::Edge(x.Current());
        if (BRep_Tool::Degenerated(edge)) continue;
        const BRepAdaptor_Curve curve(edge);
        const GeomAbs_CurveType type = curve.GetType();
        const int pieces = type == GeomAbs_Line ? 1 : kPieces;
        const double beyond = type == GeomAbs_Line ? 0 : type > GeomAbs_Parabola ? kSpanBeyond : kBeyond;
        const double first = curve.FirstParameter(), each = (curve.LastParameter() - first) / pieces;
        Vec2 from = foot(curve.Value(first));
        for (int k = 0; k < pieces; ++k) {
            const Vec2 to = foot(curve.Value(first + each * (k + 1)));
            double bulge = 0;
            if (beyond > 0)
                bulge = beyond * length(foot(curve.Value(first + each * (k + 0.5))) - (from + to) * 0.5);
            m_chords.push_back({from, to, bulge + BRep_Tool::Tolerance(edge)});
            from = to;
        }
    }
}

FlatOutline::Where FlatOutline::where(const gp_Pnt& p) const {
    const Vec2 at = foot(p);
    bool in = false;
    for (const Chord& c : m_chords) {
        const Vec2 along = c.to - c.from, off = at - c.from;
        const double squared = dot(along, along);
        const double share = squared > 0 ? std::clamp(dot(off, along) / squared, 0.0, 1.0) : 0;
        if (length(off - along * share) <= c.bulge + kKernelPoint) return Where::Near;
        // How often a ray from there crosses the border: the rule of even and odd. Curves meet at the ends of
        // chords as nearly as the kernel tells points apart: a ray through there could slip between them.
        if (std::min(std::fabs(c.from.y - at.y), std::fabs(c.to.y - at.y)) < kSamePoint &&
            std::max(c.from.x, c.to.x) > at.x)
            return Where::Near;
        if ((c.from.y > at.y) != (c.to.y > at.y) &&
            at.x < c.from.x + (at.y - c.from.y) / (c.to.y - c.from.y) * along.x)
            in = !in;
    }
    return in ? Where::In : Where::Out;
}

Vec2 FlatOutline::foot(const gp_Pnt& p) const {
    // Turned, so that rays run through no corners of what people draw along the axes.
    static const double kCos = std::cos(0.3141), kSin = std::sin(0.3141);
    Vec2 at;
    ElSLib::Parameters(m_plane, p, at.x, at.y);
    return {kCos * at.x + kSin * at.y, kCos * at.y - kSin * at.x};
}

} // namespace gc

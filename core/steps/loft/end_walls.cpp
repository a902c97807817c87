#include "core/steps/loft/end_walls.hpp"

#include <BRep_Tool.hxx>

#include <cmath>

namespace gc {

EndWalls::EndWalls(const LoftSection& section) : m_section(section) {
    for (std::size_t i = 0; i < section.pieces().size(); ++i)
        m_walls.push_back(new ShapeAnalysis_Surface(BRep_Tool::Surface(section.beyond(i))));
}

EndWalls::Look EndWalls::at(double share, bool late, const gp_Vec& forward) const {
    const gp_Pnt p = m_section.at(share, late);
    const gp_Vec along = m_section.tangent(share, late);
    const auto& wall = m_walls[m_section.pieceAt(share, late)];
    const gp_Pnt2d uv = wall->ValueOfUV(p, 1e-7);
    gp_Pnt on;
    gp_Vec du, dv, duu, dvv, duv;
    wall->Surface()->D2(uv.X(), uv.Y(), on, du, dv, duu, dvv, duv);
    Look out;
    out.normal = du.Crossed(dv);
    if (out.normal.Magnitude() < 1e-14) return out;
    out.normal.Normalize();
    out.ahead = out.normal.Crossed(along);
    if (out.ahead.Magnitude() < 1e-9) return out;
    out.ahead.Normalize();
    if (out.ahead.Dot(forward) < 0) out.ahead.Reverse();
    // The way ahead in terms of du and dv, and the second fundamental form along it.
    const double e = du.Dot(du), f = du.Dot(dv), g = dv.Dot(dv), det = e * g - f * f;
    const double x = out.ahead.Dot(du), y = out.ahead.Dot(dv);
    const double a = (x * g - y * f) / det, b = (y * e - x * f) / det;
    out.bend = a * a * duu.Dot(out.normal) + 2 * a * b * duv.Dot(out.normal) + b * b * dvv.Dot(out.normal);
    return out;
}

} // namespace gc

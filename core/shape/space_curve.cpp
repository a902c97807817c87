#include "core/shape/space_curve.hpp"

#include "core/shape/kernel.hpp"
#include "core/shape/space_pieces.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <GCPnts_TangentialDeflection.hxx>
#include <GeomAdaptor_Curve.hxx>

#include <algorithm>

namespace gc {

std::vector<TopoDS_Edge> edgesOf(const SpacePieces& pieces) {
    std::vector<TopoDS_Edge> out;
    for (const LengthCurve& c : pieces.curves)
        out.push_back(
            BRepBuilderAPI_MakeEdge(c.curve(), std::min(c.from(), c.to()), std::max(c.from(), c.to()))
                .Edge());
    return out;
}

std::vector<Vec3> SpaceCurve::polyline(double deviation) const {
    constexpr double kTurn = 0.35; // rad from chord to chord
    std::vector<Vec3> out;
    for (const LengthCurve& c : m_pieces->curves) {
        const GeomAdaptor_Curve curve(c.curve(), std::min(c.from(), c.to()), std::max(c.from(), c.to()));
        const GCPnts_TangentialDeflection points(curve, kTurn, deviation);
        std::vector<Vec3> piece;
        for (int i = 1; i <= points.NbPoints(); ++i) piece.push_back(toVec(points.Value(i)));
        if (c.from() > c.to()) std::reverse(piece.begin(), piece.end());
        if (!out.empty() && !piece.empty()) out.pop_back(); // where the next begins
        out.insert(out.end(), piece.begin(), piece.end());
    }
    return out;
}

} // namespace gc

#include "core/steps/shell/studs.hpp"

#include "core/steps/shared/edge_work.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The faces beyond a wire of a face, as far as they hang together without it; empty where they lead back to
/// the face, or one of them is opened.
std::vector<TopoDS_Face> facesBeyond(const ShellPlan& plan, const TopoDS_Face& face,
                                     const TopTools_IndexedMapOfShape& wire) {
    std::vector<TopoDS_Face> out;
    const auto take = [&](const TopoDS_Edge& edge, const TopoDS_Face& from) {
        const TopoDS_Face beyond = faceAcross(*plan.before, edge, from);
        if (beyond.IsNull() || beyond.IsSame(face) || plan.opened.Contains(beyond)) return false;
        if (std::none_of(out.begin(), out.end(), [&](const auto& f) { return f.IsSame(beyond); }))
            out.push_back(beyond);
        return true;
    };
    for (int i = 1; i <= wire.Extent(); ++i)
        if (!take(TopoDS::Edge(wire(i)), face)) return {};
    for (std::size_t k = 0; k < out.size(); ++k) {
        const TopoDS_Face here = out[k];
        for (TopExp_Explorer e(here, TopAbs_EDGE); e.More(); e.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(e.Current());
            if (wire.Contains(edge) || !plan.before->isRealEdge(edge)) continue;
            if (!take(edge, here)) return {};
        }
    }
    return out;
}

/// How far the edges of some faces are from a plane, at most, mm.
double reachOf(const std::vector<TopoDS_Face>& faces, const gp_Pln& plane) {
    constexpr int kLooks = 16;
    double out = 0;
    for (const TopoDS_Face& f : faces)
        for (TopExp_Explorer e(f, TopAbs_EDGE); e.More(); e.Next()) {
            const BRepAdaptor_Curve curve(TopoDS::Edge(e.Current()));
            const double from = curve.FirstParameter(), to = curve.LastParameter();
            for (int k = 0; k <= kLooks; ++k)
                out = std::max(out, plane.Distance(curve.Value(from + (to - from) * k / kLooks)));
        }
    return out;
}

} // namespace

std::vector<Stud> lowStuds(const ShellPlan& plan) {
    constexpr double kLow = 1; // walls
    const NamedShape& shape = *plan.before;
    std::vector<Stud> out;
    for (int i = 1; i <= shape.faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(shape.faces(i));
        const BRepAdaptor_Surface surface(face, false);
        if (plan.opened.Contains(face) || surface.GetType() != GeomAbs_Plane) continue;
        const TopoDS_Wire outer = BRepTools::OuterWire(face);
        for (TopoDS_Iterator w(face); w.More(); w.Next()) {
            if (w.Value().ShapeType() != TopAbs_WIRE || w.Value().IsSame(outer)) continue;
            TopTools_IndexedMapOfShape wire;
            TopExp::MapShapes(w.Value(), TopAbs_EDGE, wire);
            if (!std::all_of(wire.cbegin(), wire.cend(),
                             [&](const TopoDS_Shape& e) { return isHollow(shape, TopoDS::Edge(e)); }))
                continue;
            auto faces = facesBeyond(plan, face, wire);
            const double reach = reachOf(faces, surface.Plane());
            if (!faces.empty() && reach < kLow * std::fabs(plan.offsetOf(i)))
                out.push_back({i, std::move(faces), reach});
        }
    }
    return out;
}

} // namespace gc

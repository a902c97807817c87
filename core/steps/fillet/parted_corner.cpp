#include "core/steps/fillet/parted_corner.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/edge_work.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <Adaptor3d_CurveOnSurface.hxx>
#include <BRepAdaptor_Curve.hxx>
#include <BRepLib_ValidateEdge.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <GeomAdaptor_Curve.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>

namespace gc {

std::optional<PartedCorner> PartedCorner::of(const Body& body, const std::vector<ArmEnd>& arms,
                                             const std::vector<TopoDS_Edge>& between,
                                             const std::vector<TopoDS_Face>& whole) {
    PartedCorner out(body);
    std::vector<TopoDS_Edge> edges = between;
    for (const ArmEnd& a : arms) edges.push_back(a.across);
    if (solidsIn(body.shape().shape) != 1 || !out.part(edges, whole) || !out.takeOut(arms))
        return std::nullopt;
    return out;
}

bool PartedCorner::part(const std::vector<TopoDS_Edge>& edges, const std::vector<TopoDS_Face>& whole) {
    constexpr double kFuzzy = 1e-5; // mm: edges lie on fitted faces as well as they are fitted
    const auto split = std::make_shared<NearOnly<BRepAlgoAPI_Splitter>>();
    split->setUp(m_body.shape().shape, {edges.begin(), edges.end()}, kFuzzy);
    split->build();
    if (split->HasErrors()) return false;
    m_split = split;
    m_shape = onlySolid(split->Shape());
    TopExp::MapShapesAndAncestors(m_shape, TopAbs_EDGE, TopAbs_FACE, m_facesOfEdge);
    for (const TopoDS_Edge& e : edges)
        for (const TopoDS_Shape& now : nowOf(e)) {
            if (!m_facesOfEdge.Contains(now)) return false;
            m_ends.Add(now);
        }
    for (const TopoDS_Face& face : whole)
        for (const TopoDS_Shape& now : nowOf(face)) TopExp::MapShapes(now, TopAbs_EDGE, m_ends);
    return true;
}

std::vector<TopoDS_Shape> PartedCorner::nowOf(const TopoDS_Shape& item) const {
    auto now = toVector(m_split->Modified(item));
    if (now.empty()) now.push_back(item);
    return now;
}

/// From what lies on the corner's side of the arms' ends over all edges but the border.
bool PartedCorner::takeOut(const std::vector<ArmEnd>& arms) {
    TopTools_IndexedMapOfShape beyond;
    for (const ArmEnd& a : arms)
        for (const TopoDS_Shape& s : nowOf(a.across))
            for (const TopoDS_Shape& f : toVector(m_facesOfEdge.FindFromKey(s))) {
                const TopoDS_Edge edge = asIn(TopoDS::Face(f), TopoDS::Edge(s));
                const auto n = normalBeside(edge, TopoDS::Face(f));
                if (!n) return false;
                const BRepAdaptor_Curve c(edge);
                gp_Pnt p;
                gp_Vec along;
                c.D1(0.5 * (c.FirstParameter() + c.LastParameter()), p, along);
                if (edge.Orientation() == TopAbs_REVERSED) along.Reverse();
                (n->Crossed(along).Dot(a.away) < 0 ? m_out : beyond).Add(f); // a face is left of its border
            }
    for (int i = 1; i <= m_out.Extent(); ++i)
        for (TopExp_Explorer x(m_out(i), TopAbs_EDGE); x.More(); x.Next())
            if (!m_ends.Contains(x.Current()))
                for (const TopoDS_Shape& f : toVector(m_facesOfEdge.FindFromKey(x.Current()))) m_out.Add(f);
    for (int i = 1; i <= m_out.Extent(); ++i)
        for (TopExp_Explorer x(m_out(i), TopAbs_EDGE); x.More(); x.Next())
            for (const TopoDS_Shape& f : toVector(m_facesOfEdge.FindFromKey(x.Current())))
                if (!m_out.Contains(f)) m_border.Add(x.Current());
    const bool leaks =
        std::any_of(beyond.cbegin(), beyond.cend(), [&](const TopoDS_Shape& f) { return m_out.Contains(f); });
    return !m_out.IsEmpty() && !leaks && inOrder().size() == static_cast<std::size_t>(m_border.Extent());
}

TopoDS_Face PartedCorner::keptBeside(const TopoDS_Shape& edge) const {
    const auto faces = toVector(m_facesOfEdge.FindFromKey(edge));
    return TopoDS::Face(m_out.Contains(faces[0]) ? faces[1] : faces[0]);
}

std::vector<TopoDS_Edge> PartedCorner::inOrder() const {
    std::vector<TopoDS_Edge> left, out;
    for (int i = 1; i <= m_border.Extent(); ++i)
        left.push_back(asIn(keptBeside(m_border(i)), TopoDS::Edge(m_border(i))));
    out.push_back(left.back());
    left.pop_back();
    while (!left.empty()) {
        const auto next = std::find_if(left.begin(), left.end(), [&](const TopoDS_Edge& e) {
            return TopExp::FirstVertex(e, true).IsSame(TopExp::LastVertex(out.back(), true));
        });
        if (next == left.end()) return {};
        out.push_back(*next);
        left.erase(next);
    }
    return out;
}

std::vector<BorderPlace> PartedCorner::places() const {
    constexpr int kPlaces = 60; // of an edge
    std::vector<BorderPlace> out;
    for (int k = 1; k <= m_border.Extent(); ++k) {
        const TopoDS_Edge edge = TopoDS::Edge(m_border(k));
        const TopoDS_Face face = keptBeside(edge);
        const BRepAdaptor_Curve c(edge);
        for (int i = 0; i <= kPlaces; ++i) {
            const double share = double(i) / kPlaces;
            if (const auto n = normalBeside(edge, face, share))
                out.push_back(
                    {c.Value(c.FirstParameter() + share * (c.LastParameter() - c.FirstParameter())), *n});
        }
    }
    return out;
}

namespace {

/// Its line under the heights. Null where it takes too many knots.
Handle(Geom2d_BSplineCurve) underHeights(const TopoDS_Edge& edge, const CornerPatch& patch) {
    constexpr int kMostPoles = 600;
    const BRepAdaptor_Curve c(edge);
    const auto place = [&](double t) -> std::optional<std::vector<gp_Pnt>> {
        const gp_Vec to(patch.over.Location(), c.Value(t));
        return std::vector{
            gp_Pnt(to.Dot(gp_Vec(patch.over.XDirection())), to.Dot(gp_Vec(patch.over.YDirection())), 0)};
    };
    const auto curves =
        curvesAlong({c.FirstParameter(), c.LastParameter()}, 1, place, {1e-7, 1e-6, 1e-5}, kMostPoles);
    if (curves.empty()) return {};
    return inParameters(curves.front(), {1, 1});
}

/// How far an edge leaves its line on the surface, with something to spare between the places that are looked
/// at, those of the kernel among them.
double farthest(const TopoDS_Edge& edge, const Handle(Geom2d_BSplineCurve) & laid,
                const Handle(Geom_Surface) & on) {
    constexpr int kPlaces = 97;
    constexpr double kSpare = 1.5;
    double from = 0, to = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(edge, from, to);
    BRepLib_ValidateEdge check(
        new GeomAdaptor_Curve(curve, from, to),
        new Adaptor3d_CurveOnSurface(new Geom2dAdaptor_Curve(laid, from, to), new GeomAdaptor_Surface(on)),
        true);
    check.Process();
    double out = std::max(kKernelPoint, check.GetMaxDistance());
    for (int i = 0; i <= kPlaces; ++i) {
        const double t = from + (to - from) * i / kPlaces;
        const gp_Pnt2d uv = laid->Value(t);
        out = std::max(out, on->Value(uv.X(), uv.Y()).Distance(curve->Value(t)));
    }
    return kSpare * out;
}

} // namespace

Result<Body> PartedCorner::closedBy(const CornerPatch& patch, NamePtr name) const {
    const Error failed = errorOf("names.missing", "A face over a corner cannot be closed.");
    BRep_Builder build;
    TopoDS_Face face;
    build.MakeFace(face, patch.heights, kKernelPoint);
    TopoDS_Wire wire;
    build.MakeWire(wire);
    auto border = inOrder();
    std::reverse(border.begin(), border.end()); // it is walked the other way by what closes it
    if (border.empty()) return failed;
    for (const TopoDS_Edge& edge : border) {
        const Handle(Geom2d_BSplineCurve) laid = underHeights(edge, patch);
        if (laid.IsNull()) return failed;
        const double off = farthest(edge, laid, patch.heights);
        build.UpdateEdge(edge, laid, face, off);
        for (TopExp_Explorer x(edge, TopAbs_VERTEX); x.More(); x.Next())
            build.UpdateVertex(TopoDS::Vertex(x.Current()), off);
        build.Add(wire, edge.Reversed());
    }
    wire.Closed(true);
    build.Add(face, wire);
    TopoDS_Shell shell;
    build.MakeShell(shell);
    for (TopExp_Explorer x(m_shape, TopAbs_FACE); x.More(); x.Next())
        if (!m_out.Contains(x.Current())) build.Add(shell, x.Current());
    build.Add(shell, face);
    shell.Closed(true);
    TopoDS_Solid solid;
    build.MakeSolid(solid);
    build.Add(solid, shell);
    NameBuilder names(solid);
    names.carry(m_body.shape(), *m_split);
    names.add(face, name);
    return names.finish();
}

} // namespace gc

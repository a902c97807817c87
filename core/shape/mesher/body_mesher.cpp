#include "core/shape/mesher/body_mesher.hpp"

#include "core/base/triangle.hpp"
#include "core/shape/mesher/kernel_faces.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Tool.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace gc {

namespace {

constexpr int kRepairs = 4, kInnerRepairs = 2, kEdgeParts = 4;
constexpr int kHelps = 4; // rounds with the kernel: faces beside its own may fail, too
constexpr double kFoldedShare = 1e-6;
constexpr int kPolePoints = 8;

std::vector<double> circleParameters(double radius, double from, double to, const MeshBounds& bounds) {
    const double step =
        std::min(bounds.edgeAngle, 2 * std::acos(std::max(0.0, 1 - bounds.deviation / radius)));
    int n = std::max(2, static_cast<int>(std::ceil((to - from) / step - 1e-9)));
    if (to - from > 6) n = std::max(n, 6);
    std::vector<double> out;
    for (int i = 0; i <= n; ++i) out.push_back(from + (to - from) * i / n);
    return out;
}

/// Where one thing of it ends and the next begins: knots, or where it bends unevenly. (The kernel sees none
/// where the fourth derivatives of a spline are continuous.)
std::vector<double> spansOf(const BRepAdaptor_Curve& curve) {
    std::vector<double> out{curve.FirstParameter()};
    const double last = curve.LastParameter();
    if (curve.GetType() == GeomAbs_BSplineCurve && !curve.IsPeriodic()) {
        const Handle(Geom_BSplineCurve) c = curve.BSpline();
        for (int i = 1; i <= c->NbKnots(); ++i)
            if (const double k = c->Knot(i); k > out.back() + 1e-12 && k < last - 1e-12) out.push_back(k);
        out.push_back(last);
        return out;
    }
    const int spans = curve.NbIntervals(GeomAbs_C2);
    TColStd_Array1OfReal limits(1, spans + 1);
    curve.Intervals(limits, GeomAbs_C2);
    for (int i = 2; i <= spans + 1; ++i) out.push_back(limits(i));
    return out;
}

/// Equal shares of sqrt(sag / 0.85 d) and of the turning: 0.85 leaves room for the faces beside the edge.
std::vector<double> curveParameters(const BRepAdaptor_Curve& curve, const MeshBounds& bounds) {
    const std::vector<double> limits = spansOf(curve);
    const std::size_t spans = limits.size() - 1;
    const int parts = spans > 40 ? 3 : spans > 10 ? 4 : spans > 3 ? 6 : 16;
    MeshDensity::Axis axis;
    for (std::size_t i = 0; i < spans; ++i)
        for (int k = 0; k < parts; ++k)
            axis.at.push_back(limits[i] + (limits[i + 1] - limits[i]) * k / parts);
    axis.at.push_back(curve.LastParameter());
    std::vector<Vec3> points, tangents;
    for (const double t : axis.at) {
        gp_Pnt p;
        gp_Vec d;
        curve.D1(t, p, d);
        points.push_back(toVec(p));
        tangents.push_back(unit({d.X(), d.Y(), d.Z()}, {0, 0, 0}));
    }
    axis.steps = {0};
    for (std::size_t i = 1; i < points.size(); ++i) {
        const double l = length(points[i] - points[i - 1]),
                     turn = 2 * std::asin(std::min(1.0, length(tangents[i] - tangents[i - 1]) / 2));
        const double more = std::max(
            {std::sqrt(turn * l / 8 / (0.85 * bounds.deviation)), turn / bounds.edgeAngle, 1e-6 * l});
        axis.steps.push_back(axis.steps.back() + (std::isfinite(more) ? more : 1));
    }
    if (axis.steps.back() < 1e-3) return {axis.at.front(), axis.at.back()};
    int n = std::max(2, axis.count());
    if (curve.IsClosed()) n = std::max(n, 6);
    return axis.quantiles(n);
}

/// Each step in so many.
std::vector<double> inParts(const std::vector<double>& steps, int parts) {
    std::vector<double> out;
    for (std::size_t i = 0; i + 1 < steps.size(); ++i)
        for (int k = 0; k < parts; ++k) out.push_back(steps[i] + (steps[i + 1] - steps[i]) * k / parts);
    out.push_back(steps.back());
    return out;
}

void discretise(const TopoDS_Edge& edge, const MeshBounds& bounds, EdgePoints& out) {
    const BRepAdaptor_Curve curve(edge);
    const double from = curve.FirstParameter(), to = curve.LastParameter();
    if (curve.GetType() == GeomAbs_Line)
        out.t = {from, to};
    else if (curve.GetType() == GeomAbs_Circle)
        out.t = circleParameters(curve.Circle().Radius(), from, to, bounds);
    else
        out.t = curveParameters(curve, bounds);
    out.t = inParts(out.t, bounds.edgeParts);
    out.points.clear();
    for (const double t : out.t) out.points.push_back(toVec(curve.Value(t)));
}

class BodyMesher {
  public:
    BodyMesher(const NamedShape& shape, const MeshBounds& bounds, const Stop& stop, MeshedBody& out)
        : m_shape(shape), m_bounds(bounds), m_stop(stop), m_out(out) {}

    bool mesh(std::pair<int, std::string>& fault, const std::optional<std::chrono::milliseconds>& patience) {
        begin();
        fault = {-1, "stopped"};
        for (std::size_t i = 0; i < m_out.edges.size(); ++i) {
            if (i % kTurn == 0 && stopped()) return false;
            point(i, m_bounds);
        }
        for (std::size_t i = 0; i < m_out.faces.size(); ++i) {
            if (stopped()) return false;
            meshFace(i, m_bounds);
        }
        MeshBounds finer = m_bounds;
        for (int round = 0; round < kRepairs && repair(finer, false); ++round) {
        }
        finer = m_bounds;
        finer.edgeParts = kEdgeParts;
        for (int round = 0; round < kInnerRepairs && repair(finer, true); ++round) {
        }
        for (int round = 0; patience && (anyBad() || markOpen()) && round < kHelps; ++round)
            if (!leaveToKernel(*patience)) return false;
        for (std::size_t i = 0; i < m_out.faces.size(); ++i)
            if (isBad(m_out.faces[i])) {
                fault = {static_cast<int>(i), *m_out.faces[i].fault ? m_out.faces[i].fault : "it folds over"};
                return false;
            }
        return true;
    }

    bool meshByKernel(std::chrono::milliseconds patience) {
        begin();
        return leaveToKernel(patience); // none is done yet
    }

  private:
    void begin() {
        m_out.idCount = m_shape.vertices.Extent();
        m_out.edges.assign(static_cast<std::size_t>(m_shape.edges.Extent()), {});
        m_out.faces.assign(static_cast<std::size_t>(m_shape.faces.Extent()), {});
        m_byKernel.assign(m_out.faces.size(), false);
        m_inside.assign(m_out.faces.size(), m_bounds);
        m_inRows.assign(m_out.faces.size(), true);
    }

    /// Sides of triangles between two points of edges, one way and the other. Those on the border of a face
    /// must pair up with its neighbour's; those inside it do by the way they are made.
    template <class Visit>
    void visitSides(Visit&& visit) const {
        for (std::size_t f = 0; f < m_out.faces.size(); ++f) {
            const Patch& patch = m_out.faces[f];
            const auto id = [&](int corner) { return patch.ids[static_cast<std::size_t>(corner)]; };
            for (const auto& t : patch.triangles)
                for (std::size_t k = 0; k < 3; ++k)
                    if (const int a = id(t[k]), b = id(t[(k + 1) % 3]); a >= 0 && b >= 0 && a != b)
                        visit(edgeKey(static_cast<std::uint32_t>(a), static_cast<std::uint32_t>(b)), a < b,
                              f);
        }
    }

    bool closes() const {
        std::vector<std::uint64_t> there, back;
        visitSides([&](std::uint64_t side, bool up, std::size_t) { (up ? there : back).push_back(side); });
        std::sort(there.begin(), there.end());
        std::sort(back.begin(), back.end());
        return there == back;
    }

    /// Of a closed body: faces whose triangles do not meet their neighbours' along the border are bad.
    bool markOpen() {
        if (!m_out.missing.empty() || closes() || countOpenEdges(m_shape) > 0) return false;
        std::map<std::uint64_t, int> balance;
        visitSides([&](std::uint64_t side, bool up, std::size_t) { balance[side] += up ? 1 : -1; });
        visitSides([&](std::uint64_t side, bool, std::size_t face) {
            if (balance[side] != 0)
                m_out.faces[face].done = m_out.faces[face].fail("its triangles do not meet its neighbours'");
        });
        return true;
    }

    bool anyBad() const { return std::any_of(m_out.faces.begin(), m_out.faces.end(), isBad); }

    /// Bad faces, and those that the kernel did before, get their triangles and the points of their edges
    /// from it; the faces beside them are meshed to these points. False when it was stopped.
    bool leaveToKernel(std::chrono::milliseconds patience) {
        std::vector<std::size_t> which;
        for (std::size_t i = 0; i < m_out.faces.size(); ++i) {
            if (isBad(m_out.faces[i])) m_byKernel[i] = true;
            if (m_byKernel[i]) which.push_back(i);
        }
        auto made = gc::meshByKernel(m_shape, which, m_bounds, patience, m_stop);
        if (!made) return false;
        m_out.rough = made->rough;
        m_out.byKernel = static_cast<int>(which.size());
        m_out.missing.clear();
        std::vector<bool> touched(m_out.edges.size(), false);
        for (auto& [number, points] : made->edges) {
            touched[number] = true;
            m_out.edges[number] = std::move(points);
            giveIds(edge(number), m_out.edges[number]);
        }
        for (auto& [number, face] : made->faces) adopt(number, face);
        for (std::size_t i = 0; i < m_out.faces.size(); ++i) {
            if (m_byKernel[i]) continue;
            bool again = false;
            for (TopExp_Explorer x(face(i), TopAbs_EDGE); x.More() && !again; x.Next())
                again = touched[edgeNumber(x.Current())];
            if (again) meshFace(i, m_inside[i]);
            if (stopped()) return false;
        }
        return true;
    }

    void adopt(std::size_t number, KernelFaces::Face& from) {
        Patch& patch = m_out.faces[number];
        patch = std::move(from.patch);
        if (!patch.done) { // what nobody can do is left out
            m_out.missing.push_back(static_cast<int>(number));
            patch = {};
            patch.done = true;
            return;
        }
        for (const KernelFaces::OnEdge& b : from.border) {
            const EdgePoints& points = m_out.edges[b.edge];
            if (points.ids.empty()) { // a pole
                patch.ids[b.vertex] = vertexId(TopExp::FirstVertex(edge(b.edge)));
                continue;
            }
            patch.ids[b.vertex] = points.ids[b.place];
            patch.points[b.vertex] = points.points[b.place];
        }
    }

    static constexpr std::size_t kTurn = 16; // edges between two looks at whether to go on
    bool stopped() const { return m_stop && m_stop(); }
    static bool isBad(const Patch& patch) { return !patch.done || patch.folded > kFoldedShare; }

    TopoDS_Face face(std::size_t i) const { return TopoDS::Face(m_shape.faces(static_cast<int>(i) + 1)); }
    TopoDS_Edge edge(std::size_t i) const {
        return TopoDS::Edge(m_shape.edges(static_cast<int>(i) + 1).Oriented(TopAbs_FORWARD));
    }
    std::size_t edgeNumber(const TopoDS_Shape& e) const {
        return static_cast<std::size_t>(m_shape.edges.FindIndex(e) - 1);
    }
    int vertexId(const TopoDS_Vertex& v) const { return m_shape.vertices.FindIndex(v) - 1; }

    void point(std::size_t i, const MeshBounds& bounds) {
        const TopoDS_Edge e = edge(i);
        if (BRep_Tool::Degenerated(e)) return;
        EdgePoints& out = m_out.edges[i];
        discretise(e, bounds, out);
        giveIds(e, out);
    }

    /// The ends are those of the edge's vertices.
    void giveIds(const TopoDS_Edge& e, EdgePoints& out) {
        TopoDS_Vertex first, last;
        TopExp::Vertices(e, first, last);
        out.ids.assign(out.t.size(), 0);
        for (std::size_t k = 1; k + 1 < out.t.size(); ++k) out.ids[k] = m_out.idCount++;
        out.ids.front() = vertexId(first);
        out.ids.back() = vertexId(last);
        out.points.front() = toVec(BRep_Tool::Pnt(first));
        out.points.back() = toVec(BRep_Tool::Pnt(last));
    }

    /// Finer points on the edges of bad faces, and their faces once more. False when nothing is bad.
    /// \param inside within bad faces, too: a round that is smaller than some deviations folds otherwise
    bool repair(MeshBounds& finer, bool inside) {
        std::vector<bool> touched(m_out.edges.size(), false);
        std::vector<bool> bad(m_out.faces.size(), false);
        bool any = false;
        const auto edgesOf = [&](std::size_t i, auto&& visit) {
            for (TopExp_Explorer x(face(i), TopAbs_EDGE); x.More(); x.Next()) visit(edgeNumber(x.Current()));
        };
        for (std::size_t i = 0; i < m_out.faces.size(); ++i)
            if (isBad(m_out.faces[i])) {
                any = bad[i] = true;
                edgesOf(i, [&](std::size_t e) { touched[e] = true; });
            }
        if (!any) return false;
        if (finer.edgeParts == 1) { // first: a straight edge need not be so in the parameters of its faces
            finer.edgeParts = kEdgeParts;
        } else {
            finer.deviation /= 4;
            finer.edgeAngle /= 2;
            finer.insideAngle /= 2;
        }
        for (std::size_t e = 0; e < touched.size(); ++e)
            if (touched[e]) point(e, finer);
        for (std::size_t i = 0; i < m_out.faces.size(); ++i) {
            bool again = false;
            edgesOf(i, [&](std::size_t e) { again |= touched[e]; });
            if (bad[i] && inside) {
                m_inRows[i] = m_inside[i] == m_bounds; // a second time without
                m_inside[i] = finer;
            }
            if (again) meshFace(i, m_inside[i]);
        }
        return true;
    }

    bool loopsOf(const TopoDS_Face& f, std::vector<BoundaryLoop>& loops, Patch& patch) const {
        const TopoDS_Face forward = TopoDS::Face(f.Oriented(TopAbs_FORWARD));
        for (TopoDS_Iterator w(forward); w.More(); w.Next()) {
            if (w.Value().ShapeType() != TopAbs_WIRE) continue;
            const TopoDS_Wire wire = TopoDS::Wire(w.Value());
            int edges = 0, visited = 0;
            for (TopoDS_Iterator x(wire); x.More(); x.Next())
                edges +=
                    x.Value().Orientation() == TopAbs_FORWARD || x.Value().Orientation() == TopAbs_REVERSED;
            BoundaryLoop loop;
            for (BRepTools_WireExplorer x(wire, forward); x.More(); x.Next(), ++visited)
                if (!append(x.Current(), forward, loop))
                    return patch.fail("an edge has no curve on the face");
            if (visited != edges) return patch.fail("its edges do not follow one another");
            if (!loop.points.empty()) loops.push_back(std::move(loop));
        }
        return !loops.empty() || patch.fail("it has no boundary");
    }

    bool append(const TopoDS_Edge& e, const TopoDS_Face& forward, BoundaryLoop& loop) const {
        double from = 0, to = 0;
        const Handle(Geom2d_Curve) curve = BRep_Tool::CurveOnSurface(e, forward, from, to);
        if (curve.IsNull()) return false;
        const Geom2dAdaptor_Curve on(curve, from, to);
        const bool reversed = e.Orientation() == TopAbs_REVERSED;
        BoundaryLoop::Segment segment;
        segment.from = loop.points.size();
        segment.degenerate = BRep_Tool::Degenerated(e);
        const auto add = [&](double t, int id, Vec3 p) {
            const gp_Pnt2d q = on.Value(t);
            loop.points.push_back({q.X(), q.Y(), id, p});
        };
        if (segment.degenerate) {
            const TopoDS_Vertex v = TopExp::FirstVertex(e);
            for (int i = 0; i < kPolePoints; ++i) {
                const double f = static_cast<double>(i) / kPolePoints;
                add(reversed ? to + (from - to) * f : from + (to - from) * f, vertexId(v),
                    toVec(BRep_Tool::Pnt(v)));
            }
        } else {
            const EdgePoints& points = m_out.edges[edgeNumber(e)];
            const std::size_t n = points.t.size();
            const double first = points.t.front(), last = points.t.back();
            for (std::size_t i = 0; i + 1 < n; ++i) {
                const std::size_t j = reversed ? n - 1 - i : i;
                double t = points.t[j];
                // Where the curve on the face has its own range (imported bodies), by share of the range.
                if (first != from || last != to) t = from + (to - from) * (t - first) / (last - first);
                add(t, points.ids[j], points.points[j]);
            }
        }
        segment.to = loop.points.size();
        loop.segments.push_back(segment);
        return true;
    }

    void meshFace(std::size_t i, const MeshBounds& bounds) {
        const TopoDS_Face f = face(i);
        TopLoc_Location place;
        Handle(Geom_Surface) surface = BRep_Tool::Surface(f, place);
        if (!place.IsIdentity())
            surface = Handle(Geom_Surface)::DownCast(surface->Transformed(place.Transformation()));
        const auto eval = makeEvaluator(surface);
        Patch& patch = m_out.faces[i];
        patch = {};
        std::vector<BoundaryLoop> loops;
        if (!loopsOf(f, loops, patch)) return;
        PatchSides sides;
        if (m_inRows[i] && !eval->flat() && loops.size() == 1 && findSides(loops.front(), sides) &&
            meshGrid(*eval, sides, bounds, patch)) {
            patch.done = true;
        } else {
            patch = {};
            patch.done = meshFreely(*eval, loops, bounds, patch);
        }
        if (!patch.done) return;
        completeNormals(*eval, patch);
        patch.folded = foldedShare(patch);
        if (patch.triangles.empty()) patch.done = patch.fail("it has no triangles");
        if (f.Orientation() == TopAbs_REVERSED) {
            for (auto& t : patch.triangles) std::swap(t[1], t[2]);
            for (auto& n : patch.normals) n = -n;
        }
    }

    const NamedShape& m_shape;
    MeshBounds m_bounds;
    const Stop& m_stop;
    MeshedBody& m_out;
    std::vector<bool> m_byKernel;     ///< by face
    std::vector<MeshBounds> m_inside; ///< by face: how fine it has to be inside
    std::vector<bool> m_inRows;       ///< by face: may it have rows and columns? These fold at corners
};

} // namespace

bool meshBody(const NamedShape& shape, const MeshBounds& bounds, MeshedBody& out,
              std::pair<int, std::string>& fault, const Stop& stop,
              const std::optional<std::chrono::milliseconds>& patience) {
    return BodyMesher(shape, bounds, stop, out).mesh(fault, patience);
}

bool meshBodyByKernel(const NamedShape& shape, const MeshBounds& bounds, MeshedBody& out,
                      std::chrono::milliseconds patience, const Stop& stop) {
    return BodyMesher(shape, bounds, stop, out).meshByKernel(patience);
}

} // namespace gc

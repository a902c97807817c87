#include "core/shape/mesh.hpp"

#include "core/shape/mesher/mesh_names.hpp"
#include "core/shape/patience.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <IMeshTools_Parameters.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>

#include <unordered_map>

namespace gc {

namespace {

/// Gathers the kernel's triangulations into one mesh with points shared along edges.
class Collector {
  public:
    explicit Collector(const NamedShape& shape, double deviation) : m_shape(shape) {
        m_mesh.deviation = deviation;
        m_next = static_cast<std::uint32_t>(shape.vertices.Extent());
        m_mesh.edges.resize(static_cast<std::size_t>(shape.edges.Extent()));
        m_edgeIds.resize(m_mesh.edges.size());
    }

    bool add(const TopoDS_Face& face) {
        TopLoc_Location place;
        const Handle(Poly_Triangulation) t = BRep_Tool::Triangulation(face, place);
        if (t.IsNull() || t->NbTriangles() == 0) return false;
        const bool turned = face.Orientation() == TopAbs_REVERSED;
        const gp_Trsf& move = place.Transformation();
        MeshFace out;
        out.firstVertex = static_cast<std::uint32_t>(m_mesh.points.size());
        out.vertexCount = static_cast<std::uint32_t>(t->NbNodes());
        out.firstTriangle = static_cast<std::uint32_t>(m_mesh.triangles.size());
        out.triangleCount = static_cast<std::uint32_t>(t->NbTriangles());
        out.name = m_shape.wordsFor(face);
        const BRepAdaptor_Surface surface(face, false);
        for (int i = 1; i <= t->NbNodes(); ++i) {
            m_mesh.points.push_back(toVec(t->Node(i).Transformed(move)));
            m_mesh.normals.push_back(normalAt(surface, t->UVNode(i), turned));
            m_mesh.shared.push_back(kUnset);
        }
        for (int i = 1; i <= t->NbTriangles(); ++i) {
            int a = 0, b = 0, c = 0;
            t->Triangle(i).Get(a, b, c);
            if (turned) std::swap(b, c);
            const auto at = [&](int n) { return out.firstVertex + static_cast<std::uint32_t>(n - 1); };
            m_mesh.triangles.push_back({at(a), at(b), at(c)});
        }
        mendNormals(out);
        shareEdges(face, t, place, out);
        for (std::uint32_t v = out.firstVertex; v < out.firstVertex + out.vertexCount; ++v)
            if (m_mesh.shared[v] == kUnset) m_mesh.shared[v] = m_next++;
        m_mesh.faces.push_back(std::move(out));
        return true;
    }

    TriangleMesh finish() {
        markEdges(m_shape, m_mesh);
        return std::move(m_mesh);
    }

  private:
    static constexpr std::uint32_t kUnset = ~0u;

    static Vec3 normalAt(const BRepAdaptor_Surface& surface, const gp_Pnt2d& uv, bool turned) {
        gp_Pnt p;
        gp_Vec du, dv;
        surface.D1(uv.X(), uv.Y(), p, du, dv);
        const gp_Vec n = du.Crossed(dv);
        const double m = n.Magnitude();
        if (m < 1e-12) return {0, 0, 0}; // a pole: mended from the triangles
        const Vec3 v{n.X() / m, n.Y() / m, n.Z() / m};
        return turned ? -v : v;
    }

    void mendNormals(const MeshFace& face) {
        std::unordered_map<std::uint32_t, Vec3> sums;
        for (std::uint32_t i = face.firstTriangle; i < face.firstTriangle + face.triangleCount; ++i) {
            const auto& t = m_mesh.triangles[i];
            for (const std::uint32_t v : t)
                if (m_mesh.normals[v] == Vec3{})
                    sums[v] += cross(m_mesh.points[t[1]] - m_mesh.points[t[0]],
                                     m_mesh.points[t[2]] - m_mesh.points[t[0]]);
        }
        for (const auto& [v, sum] : sums) m_mesh.normals[v] = unit(sum);
    }

    void shareEdges(const TopoDS_Face& face, const Handle(Poly_Triangulation) & t,
                    const TopLoc_Location& place, const MeshFace& out) {
        for (TopExp_Explorer x(face.Oriented(TopAbs_FORWARD), TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(x.Current());
            const Handle(Poly_PolygonOnTriangulation) polygon =
                BRep_Tool::PolygonOnTriangulation(edge, t, place);
            if (polygon.IsNull()) continue;
            const auto number = static_cast<std::size_t>(m_shape.edges.FindIndex(edge) - 1);
            TopoDS_Vertex first, last;
            TopExp::Vertices(TopoDS::Edge(edge.Oriented(TopAbs_FORWARD)), first, last);
            const auto vertexId = [&](const TopoDS_Vertex& v) {
                return static_cast<std::uint32_t>(m_shape.vertices.FindIndex(v) - 1);
            };
            const int n = polygon->NbNodes();
            auto& ids = m_edgeIds[number];
            if (ids.empty() && !BRep_Tool::Degenerated(edge)) {
                ids.resize(static_cast<std::size_t>(n));
                for (int i = 0; i < n; ++i)
                    ids[static_cast<std::size_t>(i)] = i == 0       ? vertexId(first)
                                                       : i == n - 1 ? vertexId(last)
                                                                    : m_next++;
                for (int i = 1; i <= n; ++i)
                    m_mesh.edges[number].points.push_back(
                        m_mesh.points[out.firstVertex + static_cast<std::uint32_t>(polygon->Node(i) - 1)]);
            }
            for (int i = 0; i < n; ++i) {
                const std::uint32_t v =
                    out.firstVertex + static_cast<std::uint32_t>(polygon->Node(i + 1) - 1);
                if (BRep_Tool::Degenerated(edge))
                    m_mesh.shared[v] = vertexId(first);
                else if (static_cast<std::size_t>(n) == ids.size())
                    m_mesh.shared[v] = ids[static_cast<std::size_t>(i)];
            }
        }
    }

    const NamedShape& m_shape;
    TriangleMesh m_mesh;
    std::vector<std::vector<std::uint32_t>> m_edgeIds;
    std::uint32_t m_next = 0;
};

/// Some faces make the kernel split triangles without end: after a while it is asked for a first cut, which
/// keeps to the edges only. \return how near the triangles are, mm; none: it was left off
std::optional<double> triangulate(const TopoDS_Shape& shape, const MeshOptions& options) {
    constexpr std::chrono::seconds kFirstCut{60};
    IMeshTools_Parameters p;
    p.Deflection = options.deviation;
    p.Angle = options.angle;
    p.InParallel = true;
    const auto run = [&](std::chrono::milliseconds most) {
        const Handle(Patience) patience = new Patience(options.stop, most);
        BRepMesh_IncrementalMesh mesher;
        mesher.SetShape(shape);
        mesher.ChangeParameters() = p;
        mesher.Perform(patience->Start());
        return patience;
    };
    auto patience = run(options.patience);
    if (patience->left()) return std::nullopt;
    if (!patience->over()) return options.deviation;
    BRepTools::Clean(shape);
    p.ControlSurfaceDeflection = false;
    patience = run(kFirstCut);
    if (patience->left()) return std::nullopt;
    return kDeviationUnknown;
}

} // namespace

Result<TriangleMesh> makeKernelMesh(const Body& body, const MeshOptions& options) {
    const NamedShape& s = body.shape();
    return guarded("mesh.face", "The body cannot be drawn: its geometry cannot be cut into triangles.",
                   [&]() -> Result<TriangleMesh> {
                       // Kept on the shape: faces that an edit leaves alone keep their triangles.
                       const auto deviation = triangulate(s.shape, options);
                       if (!deviation) return errorOf("mesh.stopped", "The meshing was stopped.");
                       Collector collector(s, *deviation);
                       for (int i = 1; i <= s.faces.Extent(); ++i)
                           if (!collector.add(TopoDS::Face(s.faces(i)))) {
                               Error e;
                               e.code = "mesh.face";
                               const std::string words = s.wordsFor(s.faces(i));
                               e.culprits = {words.empty() ? "face " + std::to_string(i) : words};
                               e.sentence = phrase("The face %1 cannot be drawn.", e.culprits.front());
                               return e;
                           }
                       return collector.finish();
                   });
}

} // namespace gc

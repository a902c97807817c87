#include "core/shape/mesh.hpp"

#include "core/base/tolerance.hpp"
#include "core/base/triangle.hpp"
#include "core/shape/mesher/body_mesher.hpp"
#include "core/shape/mesher/mesh_names.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <Geom2d_Curve.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <unordered_map>

namespace gc {

namespace {

/// Looking out of the body, beside an edge; nothing where the surface has no normal.
std::optional<gp_Vec> normalBeside(const TopoDS_Edge& edge, const TopoDS_Face& face, double t) {
    double from = 0, to = 0;
    const Handle(Geom2d_Curve) line = BRep_Tool::CurveOnSurface(edge, face, from, to);
    if (line.IsNull()) return std::nullopt;
    const gp_Pnt2d at = line->Value(from + t * (to - from));
    gp_Pnt p;
    gp_Vec du, dv;
    BRep_Tool::Surface(face)->D1(at.X(), at.Y(), p, du, dv);
    gp_Vec n = du.Crossed(dv);
    if (n.Magnitude() < 1e-12) return std::nullopt;
    return face.Orientation() == TopAbs_REVERSED ? -n.Normalized() : n.Normalized();
}

/// The faces go on from each other without a crease, all along. \param crease rad: less than that nobody sees
bool isSmooth(const TopoDS_Edge& edge, const TopoDS_Face& a, const TopoDS_Face& b, double crease) {
    if (BRep_Tool::Degenerated(edge)) return false;
    for (const double t : {0.03, 0.25, 0.5, 0.75, 0.97}) {
        const auto m = normalBeside(edge, a, t), n = normalBeside(edge, b, t);
        if (!m || !n || m->Angle(*n) > crease) return false;
    }
    return true;
}

/// Made of so many flat faces that these can only stand for round ones.
bool isOfFacets(const NamedShape& shape) {
    constexpr int kMany = 300;
    if (shape.faces.Extent() < kMany) return false;
    for (int i = 1; i <= shape.faces.Extent(); ++i)
        if (BRepAdaptor_Surface(TopoDS::Face(shape.faces(i)), false).GetType() != GeomAbs_Plane) return false;
    return true;
}

} // namespace

void markEdges(const NamedShape& shape, TriangleMesh& mesh) {
    const double crease = isOfFacets(shape) ? 0.5 : 0.005; // rad
    for (int i = 1; i <= shape.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(shape.edges(i));
        MeshEdge& out = mesh.edges[static_cast<std::size_t>(i - 1)];
        if (!shape.isRealEdge(edge)) out.points.clear();
        const auto around = toVector(shape.facesOfEdge.FindFromKey(edge));
        if (around.size() != 2 || out.points.empty()) continue;
        const TopoDS_Face a = TopoDS::Face(around[0]), b = TopoDS::Face(around[1]);
        // Most operations of the kernel say it; what we build ourselves, or it joined, does not.
        out.smooth =
            (BRep_Tool::HasContinuity(edge, a, b) && BRep_Tool::Continuity(edge, a, b) > GeomAbs_C0) ||
            isSmooth(edge, a, b, crease);
    }
}

namespace {

TriangleMesh assemble(const NamedShape& shape, const MeshedBody& body, double deviation) {
    TriangleMesh out;
    out.deviation = body.rough ? kDeviationUnknown : deviation;
    out.byKernel = body.byKernel;
    out.missing = body.missing;
    auto next = static_cast<std::uint32_t>(body.idCount);
    for (std::size_t f = 0; f < body.faces.size(); ++f) {
        const Patch& patch = body.faces[f];
        MeshFace face;
        face.name = shape.wordsFor(shape.faces(static_cast<int>(f) + 1));
        face.firstVertex = static_cast<std::uint32_t>(out.points.size());
        face.vertexCount = static_cast<std::uint32_t>(patch.points.size());
        face.firstTriangle = static_cast<std::uint32_t>(out.triangles.size());
        face.triangleCount = static_cast<std::uint32_t>(patch.triangles.size());
        out.points.insert(out.points.end(), patch.points.begin(), patch.points.end());
        out.normals.insert(out.normals.end(), patch.normals.begin(), patch.normals.end());
        for (const int id : patch.ids)
            out.shared.push_back(id >= 0 ? static_cast<std::uint32_t>(id) : next++);
        for (const auto& t : patch.triangles) {
            const auto at = [&](std::size_t k) {
                return face.firstVertex + static_cast<std::uint32_t>(t[k]);
            };
            out.triangles.push_back({at(0), at(1), at(2)});
        }
        out.faces.push_back(std::move(face));
    }
    for (const EdgePoints& edge : body.edges) out.edges.push_back({edge.points, false});
    markEdges(shape, out);
    return out;
}

} // namespace

Result<TriangleMesh> makeMesh(const Body& body, const MeshOptions& options) {
    const auto own =
        guarded("mesh.own", "The body's own triangles could not be made.", [&]() -> Result<TriangleMesh> {
            MeshedBody meshed;
            std::pair<int, std::string> fault;
            const MeshBounds bounds{options.deviation, options.angle, 2 * options.angle};
            if (!meshBody(body.shape(), bounds, meshed, fault, options.stop, options.patience)) {
                if (fault.first < 0) return errorOf("mesh.stopped", "Making the triangles was stopped.");
                Error e;
                e.code = "mesh.own";
                e.sentence = phrase("Face %1 could not be cut into triangles: %2.",
                                    std::to_string(fault.first + 1), fault.second);
                return e;
            }
            return assemble(body.shape(), meshed, options.deviation);
        });
    if (own || own.error().code == "mesh.stopped") return own;
    return makeKernelMesh(body, options);
}

Result<TriangleMesh> makeKernelMesh(const Body& body, const MeshOptions& options) {
    return guarded("mesh.face", "The body cannot be drawn: its geometry cannot be cut into triangles.",
                   [&]() -> Result<TriangleMesh> {
                       MeshedBody meshed;
                       const MeshBounds bounds{options.deviation, options.angle, options.angle};
                       if (!meshBodyByKernel(body.shape(), bounds, meshed, options.patience, options.stop))
                           return errorOf("mesh.stopped", "Making the triangles was stopped.");
                       TriangleMesh mesh = assemble(body.shape(), meshed, options.deviation);
                       if (!mesh.triangles.empty()) return mesh;
                       return errorOf("mesh.face", "None of its faces can be drawn.");
                   });
}

Message missingIn(const TriangleMesh& mesh, const std::string& body) {
    constexpr std::size_t kNamed = 3;
    std::string names;
    for (std::size_t i = 0; i < std::min(kNamed, mesh.missing.size()); ++i) {
        const std::string& own = mesh.faces[static_cast<std::size_t>(mesh.missing[i])].name;
        names += (i > 0 ? ", " : "") + (own.empty() ? "face " + std::to_string(mesh.missing[i] + 1) : own);
    }
    if (mesh.missing.size() > kNamed) names += ", …";
    return phrase("%1 of %2 faces of %3 cannot be cut into triangles and are missing: %4.",
                  std::to_string(mesh.missing.size()), std::to_string(mesh.faces.size()), body, names);
}

double deviationFor(double asked, double diagonal) {
    return asked * std::max(1.0, diagonal / kLargeBody);
}

double meshArea(const TriangleMesh& mesh, const MeshFace& face) {
    double area = 0;
    for (std::uint32_t t = 0; t < face.triangleCount; ++t) {
        const auto& q = mesh.triangles[face.firstTriangle + t];
        const Vec3& a = mesh.points[q[0]];
        area += length(cross(mesh.points[q[1]] - a, mesh.points[q[2]] - a)) / 2;
    }
    return area;
}

double meshArea(const TriangleMesh& mesh) {
    double area = 0;
    for (const MeshFace& face : mesh.faces) area += meshArea(mesh, face);
    return area;
}

double meshVolume(const TriangleMesh& mesh) {
    double sum = 0;
    for (const auto& t : mesh.triangles)
        sum += dot(mesh.points[t[0]], cross(mesh.points[t[1]], mesh.points[t[2]]));
    return sum / 6;
}

int openMeshEdges(const TriangleMesh& mesh) {
    std::unordered_map<std::uint64_t, int> balance;
    for (const auto& t : mesh.triangles)
        for (std::size_t k = 0; k < 3; ++k) {
            const std::uint32_t a = mesh.shared[t[k]], b = mesh.shared[t[(k + 1) % 3]];
            if (a != b) balance[edgeKey(a, b)] += a < b ? 1 : -1;
        }
    int open = 0;
    for (const auto& [key, n] : balance) open += n != 0;
    return open;
}

} // namespace gc

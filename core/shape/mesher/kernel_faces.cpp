#include "core/shape/mesher/kernel_faces.hpp"

#include "core/shape/patience.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_Copy.hxx>
#include <BRepMesh_IncrementalMesh.hxx>
#include <BRepTools.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <IMeshTools_Parameters.hxx>
#include <Poly_PolygonOnTriangulation.hxx>
#include <Poly_Triangulation.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>

namespace gc {

Vec3 kernelNormal(const BRepAdaptor_Surface& surface, const gp_Pnt2d& uv) {
    gp_Pnt p;
    gp_Vec du, dv;
    surface.D1(uv.X(), uv.Y(), p, du, dv);
    const gp_Vec n = du.Crossed(dv);
    const double m = n.Magnitude();
    if (m < 1e-12) return {0, 0, 0};
    return {n.X() / m, n.Y() / m, n.Z() / m};
}

Triangulated triangulate(const TopoDS_Shape& shape, double deviation, double angle,
                         std::chrono::milliseconds patience, const Stop& stop) {
    constexpr std::chrono::seconds kFirstCut{60};
    IMeshTools_Parameters p;
    p.Deflection = deviation;
    p.Angle = angle;
    p.InParallel = true;
    const auto run = [&](std::chrono::milliseconds most) {
        const Handle(Patience) waits = new Patience(stop, most);
        BRepMesh_IncrementalMesh mesher;
        mesher.SetShape(shape);
        mesher.ChangeParameters() = p;
        mesher.Perform(waits->Start());
        return waits;
    };
    auto waited = run(patience);
    if (waited->left()) return Triangulated::Stopped;
    if (!waited->over()) return Triangulated::Whole;
    BRepTools::Clean(shape);
    p.ControlSurfaceDeflection = false;
    waited = run(kFirstCut);
    return waited->left() ? Triangulated::Stopped : Triangulated::Roughly;
}

namespace {

class FaceReader {
  public:
    FaceReader(const NamedShape& shape, KernelFaces& out) : m_shape(shape), m_out(out) {}

    /// \param face of the shape \param worked its copy, with triangles
    void take(std::size_t number, const TopoDS_Face& face, const TopoDS_Face& worked) {
        KernelFaces::Face& out = m_out.faces[number];
        TopLoc_Location place;
        const Handle(Poly_Triangulation) t = BRep_Tool::Triangulation(worked, place);
        if (t.IsNull() || t->NbTriangles() == 0) return;
        const bool turned = face.Orientation() == TopAbs_REVERSED;
        const BRepAdaptor_Surface surface(face, false);
        for (int i = 1; i <= t->NbNodes(); ++i) {
            const Vec3 n = kernelNormal(surface, t->UVNode(i));
            out.patch.add(toVec(t->Node(i).Transformed(place.Transformation())), turned ? -n : n,
                          Vec2{t->UVNode(i).X(), t->UVNode(i).Y()});
        }
        for (int i = 1; i <= t->NbTriangles(); ++i) {
            int a = 0, b = 0, c = 0;
            t->Triangle(i).Get(a, b, c);
            if (turned) std::swap(b, c);
            out.patch.triangles.push_back({a - 1, b - 1, c - 1});
        }
        mendNormals(out.patch);
        // Both are walked in the same order: a copy keeps it.
        TopExp_Explorer own(face.Oriented(TopAbs_FORWARD), TopAbs_EDGE),
            copied(worked.Oriented(TopAbs_FORWARD), TopAbs_EDGE);
        for (; own.More() && copied.More(); own.Next(), copied.Next())
            border(TopoDS::Edge(own.Current()), TopoDS::Edge(copied.Current()), t, place, out);
        out.patch.done = true;
    }

  private:
    /// At poles the triangles say it.
    static void mendNormals(Patch& patch) {
        std::vector<Vec3> sums(patch.points.size());
        for (const auto& t : patch.triangles) {
            const auto at = [&](std::size_t k) { return patch.points[static_cast<std::size_t>(t[k])]; };
            const Vec3 n = cross(at(1) - at(0), at(2) - at(0));
            for (const int v : t) sums[static_cast<std::size_t>(v)] += n;
        }
        for (std::size_t i = 0; i < sums.size(); ++i)
            if (patch.normals[i] == Vec3{}) patch.normals[i] = unit(sums[i]);
    }

    void border(const TopoDS_Edge& edge, const TopoDS_Edge& worked, const Handle(Poly_Triangulation) & t,
                const TopLoc_Location& place, KernelFaces::Face& out) {
        const Handle(Poly_PolygonOnTriangulation) polygon =
            BRep_Tool::PolygonOnTriangulation(worked, t, place);
        if (polygon.IsNull()) return;
        const auto number = static_cast<std::size_t>(m_shape.edges.FindIndex(edge) - 1);
        const auto vertexAt = [&](int i) { return static_cast<std::size_t>(polygon->Node(i) - 1); };
        if (BRep_Tool::Degenerated(edge)) { // one point, whatever the parameter
            for (int i = 1; i <= polygon->NbNodes(); ++i) out.border.push_back({vertexAt(i), number, 0});
            return;
        }
        EdgePoints& points = m_out.edges[number];
        const bool known = !points.points.empty();
        if (known && points.points.size() != static_cast<std::size_t>(polygon->NbNodes())) return;
        double from = 0, to = 0;
        BRep_Tool::Range(edge, from, to);
        for (int i = 1; i <= polygon->NbNodes(); ++i) {
            if (!known) {
                points.points.push_back(out.patch.points[vertexAt(i)]);
                points.t.push_back(polygon->HasParameters()
                                       ? polygon->Parameter(i)
                                       : from + (to - from) * (i - 1) / (polygon->NbNodes() - 1));
            }
            out.border.push_back({vertexAt(i), number, static_cast<std::size_t>(i - 1)});
        }
    }

    const NamedShape& m_shape;
    KernelFaces& m_out;
};

} // namespace

std::optional<KernelFaces> meshByKernel(const NamedShape& shape, const std::vector<std::size_t>& which,
                                        const MeshBounds& bounds, std::chrono::milliseconds patience,
                                        const Stop& stop) {
    TopoDS_Compound some;
    BRep_Builder builder;
    builder.MakeCompound(some);
    for (const std::size_t i : which) builder.Add(some, shape.faces(static_cast<int>(i) + 1));
    const TopoDS_Shape copy = BRepBuilderAPI_Copy(some, false).Shape();
    KernelFaces out;
    const Triangulated how = triangulate(copy, bounds.deviation, bounds.edgeAngle, patience, stop);
    if (how == Triangulated::Stopped) return std::nullopt;
    out.rough = how == Triangulated::Roughly;
    FaceReader reader(shape, out);
    std::size_t k = 0;
    for (TopoDS_Iterator x(copy); x.More() && k < which.size(); x.Next(), ++k)
        reader.take(which[k], TopoDS::Face(shape.faces(static_cast<int>(which[k]) + 1)),
                    TopoDS::Face(x.Value()));
    return out;
}

} // namespace gc

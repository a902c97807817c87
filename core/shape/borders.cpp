#include "core/shape/borders.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>
#include <TopoDS.hxx>

namespace gc {

std::optional<int> wrongBorder(const Body& body, const TriangleMesh& mesh) {
    constexpr double kExact = 1e-6; // of the area
    const NamedShape& s = body.shape();
    for (int i = 0; i < s.faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(s.faces(i + 1));
        if (BRepAdaptor_Surface(face, false).GetType() != GeomAbs_Plane) continue;
        GProp_GProps area, border;
        // As many points as it takes: an edge may run all round, with tight rounds on its way.
        BRepGProp::SurfaceProperties(face, area, kExact);
        BRepGProp::LinearProperties(face, border);
        const double triangles = meshArea(mesh, mesh.faces[static_cast<std::size_t>(i)]);
        if (std::fabs(area.Mass() - triangles) > 2 * mesh.deviation * border.Mass() + kFlat) return i;
    }
    return std::nullopt;
}

} // namespace gc

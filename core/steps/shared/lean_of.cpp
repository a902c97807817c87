#include "core/steps/shared/lean_of.hpp"

#include "core/steps/shared/face_normal.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>

#include <algorithm>
#include <cmath>
#include <functional>

namespace gc {

namespace {

/// Visits places inside a face, with the outward normal there, as long as it is told to go on.
void visit(const TopoDS_Face& face, const std::function<bool(const gp_Pnt&, const gp_Vec&)>& look) {
    constexpr int kNet = 7;
    const BRepAdaptor_Surface surface(face, false);
    BRepTopAdaptor_FClass2d inside(face, 1e-7);
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    for (int i = 0; i < kNet; ++i)
        for (int j = 0; j < kNet; ++j) {
            const gp_Pnt2d uv(u0 + (u1 - u0) * (i + 0.5) / kNet, v0 + (v1 - v0) * (j + 0.5) / kNet);
            if (inside.Perform(uv) != TopAbs_IN) continue;
            gp_Pnt p;
            const auto n = outwardNormal(surface, face.Orientation() == TopAbs_REVERSED, uv, p);
            if (n && !look(p, *n)) return;
        }
}

} // namespace

std::optional<std::pair<double, double>> leanOf(const TopoDS_Face& face, const gp_Dir& pull, gp_Pnt& place) {
    std::optional<std::pair<double, double>> out;
    visit(face, [&](const gp_Pnt& p, const gp_Vec& n) {
        const double lean = std::asin(std::clamp(n.Dot(gp_Vec(pull)), -1.0, 1.0));
        if (!out) out = {lean, lean};
        out = {std::min(out->first, lean), std::max(out->second, lean)};
        place = p;
        return true;
    });
    return out;
}

std::optional<gp_Vec> outwardIn(const TopoDS_Face& face, gp_Pnt& place) {
    std::optional<gp_Vec> out;
    visit(face, [&](const gp_Pnt& p, const gp_Vec& n) {
        out = n;
        place = p;
        return false;
    });
    return out;
}

} // namespace gc

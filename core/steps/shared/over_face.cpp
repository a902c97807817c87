#include "core/steps/shared/over_face.hpp"

#include "core/base/tolerance.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>

#include <algorithm>

namespace gc {

std::vector<gp_Pnt> placesOver(const TopoDS_Face& face, int each, double inset) {
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    const double edge = inset < 0 ? 0.5 / each : inset;
    const auto at = [&](double low, double high, int k) {
        return low + (high - low) * (edge + (1 - 2 * edge) * k / (each - 1));
    };
    BRepTopAdaptor_FClass2d inside(face, kKernelPoint);
    const BRepAdaptor_Surface surface(face);
    std::vector<gp_Pnt> out;
    for (int i = 0; i < each; ++i)
        for (int j = 0; j < each; ++j)
            if (const gp_Pnt2d p(at(u0, u1, i), at(v0, v1, j)); inside.Perform(p) == TopAbs_IN)
                out.push_back(surface.Value(p.X(), p.Y()));
    return out;
}

Crossings::Crossings(const std::vector<TopoDS_Shape>& shapes) {
    for (const TopoDS_Shape& s : shapes) {
        m_all.push_back(std::make_unique<IntCurvesFace_ShapeIntersector>());
        m_all.back()->Load(s, kKernelPoint);
    }
}

std::vector<double> Crossings::of(const gp_Lin& line, double far) {
    std::vector<double> out;
    for (auto& one : m_all) {
        one->Perform(line, 0, far);
        for (int i = 1; one->IsDone() && i <= one->NbPnt(); ++i) out.push_back(one->WParameter(i));
    }
    std::sort(out.begin(), out.end());
    return out;
}

} // namespace gc

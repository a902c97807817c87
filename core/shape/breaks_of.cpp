#include "core/shape/breaks_of.hpp"

#include <GeomAdaptor_Surface.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>

namespace gc {

std::vector<double> spansOf(const GeomAdaptor_Surface& surface, bool alongU) {
    std::vector<double> out;
    if (surface.GetType() == GeomAbs_BSplineSurface) {
        const Handle(Geom_BSplineSurface) s = surface.BSpline();
        for (int i = 1; i <= (alongU ? s->NbUKnots() : s->NbVKnots()); ++i)
            out.push_back(alongU ? s->UKnot(i) : s->VKnot(i));
        return out;
    }
    const bool extruded = surface.GetType() == GeomAbs_SurfaceOfExtrusion;
    if (alongU ? extruded : surface.GetType() == GeomAbs_SurfaceOfRevolution) {
        const auto profile = surface.BasisCurve();
        if (profile->GetType() == GeomAbs_BSplineCurve) {
            const Handle(Geom_BSplineCurve) c = profile->BSpline();
            for (int i = 1; i <= c->NbKnots(); ++i) out.push_back(c->Knot(i));
            return out;
        }
    }
    const int n = alongU ? surface.NbUIntervals(GeomAbs_CN) : surface.NbVIntervals(GeomAbs_CN);
    TColStd_Array1OfReal t(1, n + 1);
    alongU ? surface.UIntervals(t, GeomAbs_CN) : surface.VIntervals(t, GeomAbs_CN);
    for (int i = 1; i <= n + 1; ++i) out.push_back(t(i));
    return out;
}

} // namespace gc

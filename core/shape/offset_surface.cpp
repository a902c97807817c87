#include "core/shape/fitted_offset.hpp"
#include "core/shape/kept_parameters.hpp"

#include <BRepTools_Modifier.hxx>
#include <BSplCLib.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_OffsetSurface.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Geom_SurfaceOfLinearExtrusion.hxx>
#include <Geom_SurfaceOfRevolution.hxx>
#include <Geom_TrimmedCurve.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <functional>
#include <vector>

namespace gc {

namespace {

constexpr int kDegree = 5;

/// The profile of an offset, over the parameter of the profile under it.
using Profile = std::function<gp_Pnt(double)>;

/// Interpolates a profile on refined knots of the one under it. At the basis's own knots the offset of a C2
/// curve is C1 only, so they are kept with multiplicity degree - 1.
Handle(Geom_BSplineCurve) interpolate(const Profile& profile, const std::vector<double>& breaks, int parts) {
    std::vector<double> knots;
    std::vector<int> multiplicities;
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i)
        for (int k = 0; k < parts; ++k) {
            knots.push_back(breaks[i] + (breaks[i + 1] - breaks[i]) * k / parts);
            multiplicities.push_back(k == 0 ? kDegree - 1 : 1);
        }
    knots.push_back(breaks.back());
    multiplicities.push_back(kDegree + 1);
    multiplicities.front() = kDegree + 1;
    const int n = static_cast<int>(knots.size());
    TColStd_Array1OfReal k(1, n);
    TColStd_Array1OfInteger m(1, n);
    int flatCount = 0;
    for (int i = 0; i < n; ++i) {
        k(i + 1) = knots[static_cast<std::size_t>(i)];
        m(i + 1) = multiplicities[static_cast<std::size_t>(i)];
        flatCount += m(i + 1);
    }
    TColStd_Array1OfReal flat(1, flatCount);
    BSplCLib::KnotSequence(k, m, flat);
    const int poles = flatCount - kDegree - 1;
    TColStd_Array1OfReal parameters(1, poles);
    BSplCLib::BuildSchoenbergPoints(kDegree, flat, parameters);
    TColgp_Array1OfPnt points(1, poles);
    TColStd_Array1OfInteger contact(1, poles);
    for (int i = 1; i <= poles; ++i) {
        points(i) = profile(parameters(i));
        contact(i) = 0;
    }
    int problem = 0;
    BSplCLib::Interpolate(kDegree, flat, parameters, contact, points, problem);
    if (problem != 0) return nullptr;
    return new Geom_BSplineCurve(points, k, m, kDegree);
}

double deviation(const Profile& profile, const Geom_BSplineCurve& curve) {
    double worst = 0;
    for (int i = 1; i < curve.NbKnots(); ++i)
        for (const double f : {0.17, 0.5, 0.83}) {
            const double v = curve.Knot(i) + f * (curve.Knot(i + 1) - curve.Knot(i));
            worst = std::max(worst, profile(v).Distance(curve.Value(v)));
        }
    return worst;
}

/// Where the basis profile is less than C3: its knots.
std::vector<double> profileBreaks(const Handle(Geom_Curve) & profile, double from, double to) {
    std::vector<double> breaks{from};
    Handle(Geom_Curve) basis = profile;
    if (const auto trimmed = Handle(Geom_TrimmedCurve)::DownCast(basis)) basis = trimmed->BasisCurve();
    if (const auto spline = Handle(Geom_BSplineCurve)::DownCast(basis))
        for (int i = 1; i <= spline->NbKnots(); ++i)
            if (spline->Knot(i) > from + 1e-9 && spline->Knot(i) < to - 1e-9)
                breaks.push_back(spline->Knot(i));
    breaks.push_back(to);
    return breaks;
}

/// \param basis the profile under it, between two parameters. Null where that takes too many knots.
Handle(Geom_BSplineCurve) fittedProfile(const Profile& profile, const Handle(Geom_Curve) & basis, double from,
                                        double to, double tolerance) {
    constexpr int kMostParts = 64;
    const auto breaks = profileBreaks(basis, from, to);
    for (int parts = 1; parts <= kMostParts; parts *= 2) {
        auto curve = interpolate(profile, breaks, parts);
        if (curve.IsNull() || deviation(profile, *curve) >= tolerance) continue;
        // What closes up with a period goes on doing so: places beyond its ends keep their parameters.
        if (basis->IsPeriodic()) curve->SetPeriodic();
        return curve;
    }
    return nullptr;
}

} // namespace

Handle(Geom_Surface) plainOffset(const Handle(Geom_Surface) & surface, double tolerance) {
    Handle(Geom_Surface) plain = surface;
    if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(plain))
        plain = trimmed->BasisSurface();
    const auto offset = Handle(Geom_OffsetSurface)::DownCast(plain);
    if (offset.IsNull()) return nullptr;
    Handle(Geom_Surface) basis = offset->BasisSurface();
    if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(basis))
        basis = trimmed->BasisSurface();
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    basis->Bounds(u0, u1, v0, v1);
    if (const auto revolved = Handle(Geom_SurfaceOfRevolution)::DownCast(basis); !revolved.IsNull()) {
        const auto curve = fittedProfile([&](double v) { return offset->Value(0, v); },
                                         revolved->BasisCurve(), v0, v1, tolerance);
        return curve.IsNull() ? nullptr : new Geom_SurfaceOfRevolution(curve, revolved->Axis());
    }
    if (const auto extruded = Handle(Geom_SurfaceOfLinearExtrusion)::DownCast(basis); !extruded.IsNull()) {
        const auto curve = fittedProfile([&](double u) { return offset->Value(u, 0); },
                                         extruded->BasisCurve(), u0, u1, tolerance);
        return curve.IsNull() ? nullptr : new Geom_SurfaceOfLinearExtrusion(curve, extruded->Direction());
    }
    return fittedOffset(*offset, tolerance);
}

namespace {

class SwapOffsets : public SwappedSurfaces {
  public:
    explicit SwapOffsets(double tolerance) : m_tolerance(tolerance) {}
    DEFINE_STANDARD_RTTI_INLINE(SwapOffsets, SwappedSurfaces)

  private:
    Handle(Geom_Surface) insteadOf(const TopoDS_Face& face, TopLoc_Location& place) const override {
        return plainOffset(BRep_Tool::Surface(face, place), m_tolerance);
    }

    double m_tolerance;
};

} // namespace

TopoDS_Shape withoutOffsetSurfaces(const TopoDS_Shape& shape, double tolerance,
                                   std::vector<std::pair<TopoDS_Shape, TopoDS_Shape>>& faces) {
    BRepTools_Modifier modifier(shape, new SwapOffsets(tolerance));
    TopTools_IndexedMapOfShape before;
    TopExp::MapShapes(shape, TopAbs_FACE, before);
    faces.clear();
    for (int i = 1; i <= before.Extent(); ++i)
        faces.emplace_back(before(i), modifier.IsDone() ? modifier.ModifiedShape(before(i)) : before(i));
    return modifier.IsDone() ? modifier.ModifiedShape(shape) : shape;
}

} // namespace gc

#include "core/shape/extended_face.hpp"

#include "core/shape/fitted_offset.hpp"

#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <GeomConvert.hxx>
#include <GeomLib.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_ElementarySurface.hxx>
#include <Geom_OffsetSurface.hxx>
#include <Geom_Plane.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_SurfaceOfRevolution.hxx>
#include <Geom_ToroidalSurface.hxx>
#include <Precision.hxx>

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

constexpr double kWhole = 2 * std::numbers::pi;

struct Window {
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
};

Window windowOf(const TopoDS_Face& face) {
    Window w;
    BRepTools::UVBounds(face, w.u0, w.u1, w.v0, w.v1);
    return w;
}

Handle(Geom_Surface) surfaceOf(const TopoDS_Face& face) {
    Handle(Geom_Surface) s = BRep_Tool::Surface(face);
    for (;;) {
        const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(s);
        if (trimmed.IsNull()) return s;
        s = trimmed->BasisSurface();
    }
}

TopoDS_Face faceOn(const Handle(Geom_Surface) & surface, const Window& w) {
    return BRepBuilderAPI_MakeFace(surface, w.u0, w.u1, w.v0, w.v1, Precision::Confusion()).Face();
}

TopoDS_Face wholeOf(const Handle(Geom_Surface) & surface) {
    return BRepBuilderAPI_MakeFace(surface, Precision::Confusion()).Face();
}

/// A cone ends at its apex.
Window withinApex(const Geom_ConicalSurface& cone, Window w, double by) {
    const double apex = -cone.RefRadius() / std::sin(cone.SemiAngle());
    const double low = w.v0 - by, high = w.v1 + by;
    const bool beyond = w.v0 >= apex - Precision::Confusion();
    return {0, kWhole, beyond ? std::max(low, apex) : low, beyond ? high : std::min(high, apex)};
}

/// As a B-spline that is open where it does not close.
Handle(Geom_BSplineSurface) splineOf(const TopoDS_Face& face) {
    const Handle(Geom_Surface) s = surfaceOf(face);
    auto spline = Handle(Geom_BSplineSurface)::DownCast(s);
    if (spline.IsNull()) {
        const Window w = windowOf(face);
        spline = GeomConvert::SurfaceToBSplineSurface(
            new Geom_RectangularTrimmedSurface(s, w.u0, w.u1, w.v0, w.v1));
    } else {
        spline = Handle(Geom_BSplineSurface)::DownCast(spline->Copy());
    }
    if (spline->IsUPeriodic()) spline->SetUNotPeriodic();
    if (spline->IsVPeriodic()) spline->SetVNotPeriodic();
    return spline;
}

/// How far one more span goes on in parameters, that it is about as long as asked: at the border the surface
/// runs on at different speeds, which nearly come to rest at some.
double spanFor(const Geom_BSplineSurface& s, bool after, double unit, double by) {
    constexpr double kSlow = 0.3; // of the usual speed
    const int end = after ? s.NbUPoles() : 1, beside = after ? end - 1 : 2;
    double least = 1e300, sum = 0;
    for (int k = 1; k <= s.NbVPoles(); ++k) {
        const double speed = s.Pole(end, k).Distance(s.Pole(beside, k)) / unit;
        least = std::min(least, speed);
        sum += speed;
    }
    return by / std::max({least, kSlow * sum / s.NbVPoles(), 1e-9});
}

/// One more span along U, straight on from the border. One that bends so that it is as long everywhere (the
/// kernel's) may be bent there several times as much as the surface itself, and fold over when it is moved.
/// Not of rational ones: where their weights go on straight, their places do not.
Handle(Geom_BSplineSurface) straightOn(const Geom_BSplineSurface& s, bool after, double by) {
    const int degree = s.UDegree(), rows = s.NbUPoles(), columns = s.NbVPoles(), knots = s.NbUKnots();
    const double unit = (after ? s.UKnot(knots) - s.UKnot(knots - 1) : s.UKnot(2) - s.UKnot(1)) / degree;
    const double span = spanFor(s, after, unit, by);
    TColgp_Array2OfPnt poles(1, rows + degree, 1, columns);
    for (int k = 1; k <= columns; ++k) {
        for (int i = 1; i <= rows; ++i) poles(after ? i : i + degree, k) = s.Pole(i, k);
        const gp_Pnt end = s.Pole(after ? rows : 1, k), beside = s.Pole(after ? rows - 1 : 2, k);
        const gp_Vec step = gp_Vec(beside, end) * (span / degree / unit);
        for (int i = 1; i <= degree; ++i)
            poles(after ? rows + i : degree + 1 - i, k) = end.Translated(step * i);
    }
    TColStd_Array1OfReal now(1, knots + 1), across(1, s.NbVKnots());
    TColStd_Array1OfInteger times(1, knots + 1), timesAcross(1, s.NbVKnots());
    for (int i = 1; i <= knots; ++i) {
        now(after ? i : i + 1) = s.UKnot(i);
        times(after ? i : i + 1) = s.UMultiplicity(i);
    }
    const int border = after ? knots : 2, end = after ? knots + 1 : 1;
    now(end) = after ? s.UKnot(knots) + span : s.UKnot(1) - span;
    times(end) = degree + 1;
    times(border) = degree;
    s.VKnots(across);
    s.VMultiplicities(timesAcross);
    const Handle(Geom_BSplineSurface) out =
        new Geom_BSplineSurface(poles, now, across, times, timesAcross, degree, s.VDegree());
    if (degree > 1) out->RemoveUKnot(border, degree - 1, 1e-9);
    return out;
}

Handle(Geom_BSplineSurface)
    longer(const Handle(Geom_BSplineSurface) & s, bool alongU, bool after, double by) {
    if (s->IsURational() || s->IsVRational()) {
        constexpr int kContinuity = 1; // more folded within 20 mm
        Handle(Geom_BoundedSurface) out(s);
        GeomLib::ExtendSurfByLength(out, by, kContinuity, alongU, after);
        return Handle(Geom_BSplineSurface)::DownCast(out);
    }
    if (alongU) return straightOn(*s, after, by);
    s->ExchangeUV();
    const auto out = straightOn(*s, after, by);
    out->ExchangeUV();
    return out;
}

/// One more span on each open side. Never across closed sides or poles: these have no beyond.
Handle(Geom_BSplineSurface) extended(const Handle(Geom_BSplineSurface) & spline, double by) {
    auto s = Handle(Geom_BSplineSurface)::DownCast(spline->Copy());
    const auto isPole = [&](bool alongU, bool after) {
        double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
        spline->Bounds(u0, u1, v0, v1);
        const double u = after ? u1 : u0, v = after ? v1 : v0;
        return alongU ? spline->Value(u, v0).Distance(spline->Value(u, (v0 + v1) / 2)) < 1e-6
                      : spline->Value(u0, v).Distance(spline->Value((u0 + u1) / 2, v)) < 1e-6;
    };
    for (const bool alongU : {true, false}) {
        if (alongU ? spline->IsUClosed() : spline->IsVClosed()) continue;
        for (const bool after : {false, true})
            if (!isPole(alongU, after)) s = longer(s, alongU, after, by);
    }
    return s;
}

bool isPlainOrRound(const Handle(Geom_Surface) & s) {
    return s->IsKind(STANDARD_TYPE(Geom_ElementarySurface));
}

} // namespace

Handle(Geom_Surface) shiftedSurface(const Handle(Geom_Surface) & surface, double by) {
    const auto elementary = Handle(Geom_ElementarySurface)::DownCast(surface);
    if (elementary.IsNull()) return nullptr;
    gp_Ax3 position = elementary->Position();
    // A left-handed position turns the normal inward.
    const double out = position.Direct() ? by : -by;
    const double least = Precision::Confusion();
    const gp_Vec axis(position.Direction());
    if (!Handle(Geom_Plane)::DownCast(surface).IsNull()) {
        position.Translate(axis * out);
        return new Geom_Plane(position);
    }
    if (const auto c = Handle(Geom_CylindricalSurface)::DownCast(surface); !c.IsNull())
        return c->Radius() + out > least ? new Geom_CylindricalSurface(position, c->Radius() + out) : nullptr;
    if (const auto c = Handle(Geom_SphericalSurface)::DownCast(surface); !c.IsNull())
        return c->Radius() + out > least ? new Geom_SphericalSurface(position, c->Radius() + out) : nullptr;
    if (const auto c = Handle(Geom_ConicalSurface)::DownCast(surface); !c.IsNull()) {
        const double a = c->SemiAngle(), radius = c->RefRadius() + out * std::cos(a);
        position.Translate(axis * (-out * std::sin(a)));
        return radius > least ? new Geom_ConicalSurface(position, a, radius) : nullptr;
    }
    if (const auto c = Handle(Geom_ToroidalSurface)::DownCast(surface); !c.IsNull()) {
        const double minor = c->MinorRadius() + out;
        if (minor > least && minor < c->MajorRadius())
            return new Geom_ToroidalSurface(position, c->MajorRadius(), minor);
    }
    return nullptr;
}

TopoDS_Face extendedFace(const TopoDS_Face& face, double by) {
    const Handle(Geom_Surface) s = surfaceOf(face);
    Window w = windowOf(face);
    if (!Handle(Geom_Plane)::DownCast(s).IsNull())
        return faceOn(s, {w.u0 - by, w.u1 + by, w.v0 - by, w.v1 + by});
    if (!Handle(Geom_CylindricalSurface)::DownCast(s).IsNull())
        return faceOn(s, {0, kWhole, w.v0 - by, w.v1 + by});
    if (const auto cone = Handle(Geom_ConicalSurface)::DownCast(s); !cone.IsNull())
        return faceOn(s, withinApex(*cone, w, by));
    if (!Handle(Geom_SphericalSurface)::DownCast(s).IsNull() ||
        !Handle(Geom_ToroidalSurface)::DownCast(s).IsNull())
        return wholeOf(s);
    return wholeOf(extended(splineOf(face), by));
}

std::optional<TopoDS_Face> offsetFace(const TopoDS_Face& face, double distance, double tolerance) {
    const Handle(Geom_Surface) s = surfaceOf(face);
    const Window w = windowOf(face);
    if (const auto cone = Handle(Geom_ConicalSurface)::DownCast(s); !cone.IsNull()) {
        const auto moved = Handle(Geom_ConicalSurface)::DownCast(shiftedSurface(s, distance));
        if (moved.IsNull()) return std::nullopt;
        // It ends at its apex.
        const double apex = -moved->RefRadius() / std::sin(moved->SemiAngle());
        const bool beyond = w.v0 >= -cone->RefRadius() / std::sin(cone->SemiAngle()) - Precision::Confusion();
        Window now = w;
        (beyond ? now.v0 : now.v1) = beyond ? std::max(w.v0, apex) : std::min(w.v1, apex);
        return now.v0 < now.v1 ? std::optional(faceOn(moved, now)) : std::nullopt;
    }
    if (const auto moved = shiftedSurface(s, distance); !moved.IsNull()) return faceOn(moved, w);
    if (isPlainOrRound(s)) return std::nullopt; // nothing is left of it
    // Walls that were turned stay surfaces of revolution.
    Handle(Geom_Surface) basis = s;
    if (Handle(Geom_SurfaceOfRevolution)::DownCast(s).IsNull()) basis = splineOf(face);
    const auto plain = plainOffset(new Geom_OffsetSurface(basis, distance), tolerance);
    if (plain.IsNull()) return std::nullopt;
    return Handle(Geom_SurfaceOfRevolution)::DownCast(plain).IsNull() ? wholeOf(plain) : faceOn(plain, w);
}

} // namespace gc

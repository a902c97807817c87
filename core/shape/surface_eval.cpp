#include "core/shape/surface_eval.hpp"

#include "core/shape/bspline_eval.hpp"
#include "core/shape/kernel.hpp"

#include <GeomAdaptor_Curve.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <GeomConvert.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_BezierSurface.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_OffsetSurface.hxx>
#include <Geom_Plane.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_SurfaceOfLinearExtrusion.hxx>
#include <Geom_SurfaceOfRevolution.hxx>
#include <Geom_ToroidalSurface.hxx>
#include <TColStd_Array1OfReal.hxx>

namespace gc {

namespace {

Vec3 toVec(const gp_XYZ& p) {
    return {p.X(), p.Y(), p.Z()};
}

/// A right- or left-handed frame of the kernel.
struct Frame {
    explicit Frame(const gp_Ax3& axes)
        : o(gc::toVec(axes.Location())), x(toVec(axes.XDirection().XYZ())), y(toVec(axes.YDirection().XYZ())),
          z(toVec(axes.Direction().XYZ())), hand(axes.Direct() ? 1 : -1) {}
    Vec3 o, x, y, z;
    double hand;
};

void turn(RowPlan& plan) {
    plan.cosU.resize(plan.u.size());
    plan.sinU.resize(plan.u.size());
    for (std::size_t i = 0; i < plan.u.size(); ++i) {
        plan.cosU[i] = std::cos(plan.u[i]);
        plan.sinU[i] = std::sin(plan.u[i]);
    }
}

std::vector<double> curveBreaks(const Handle(Geom_Curve) & curve, double from, double to) {
    GeomAdaptor_Curve c(curve, from, to);
    const int n = c.NbIntervals(GeomAbs_C2);
    TColStd_Array1OfReal t(1, n + 1);
    c.Intervals(t, GeomAbs_C2);
    std::vector<double> out;
    for (int i = 2; i <= n; ++i) out.push_back(t(i));
    return out;
}

class PlaneEval : public SurfaceEval {
  public:
    explicit PlaneEval(const gp_Ax3& axes) : m_frame(axes), m_normal(cross(m_frame.x, m_frame.y)) {}
    void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* p,
             Vec3* n) const override {
        for (std::size_t i = from; i < to; ++i) at(plan.u[i], v, *p++, *n++);
    }
    void at(double u, double v, Vec3& p, Vec3& n) const override {
        p = m_frame.o + m_frame.x * u + m_frame.y * v;
        n = m_normal;
    }
    bool flat() const override { return true; }

  private:
    Frame m_frame;
    Vec3 m_normal;
};

/// Cylinders (half angle 0) and cones.
class ConeEval : public SurfaceEval {
  public:
    ConeEval(const gp_Ax3& axes, double radius, double halfAngle)
        : m_frame(axes), m_radius(radius), m_sin(std::sin(halfAngle)), m_cos(std::cos(halfAngle)) {}
    void prepare(RowPlan& plan) const override { turn(plan); }
    void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* p,
             Vec3* n) const override {
        for (std::size_t i = from; i < to; ++i) place(plan.cosU[i], plan.sinU[i], v, *p++, *n++);
    }
    void at(double u, double v, Vec3& p, Vec3& n) const override { place(std::cos(u), std::sin(u), v, p, n); }

  private:
    void place(double c, double s, double v, Vec3& p, Vec3& n) const {
        const double r = m_radius + v * m_sin;
        const Vec3 out = m_frame.x * c + m_frame.y * s;
        p = m_frame.o + m_frame.z * (v * m_cos) + out * r;
        n = (out * m_cos - m_frame.z * m_sin) * (r < 0 ? -m_frame.hand : m_frame.hand);
    }
    Frame m_frame;
    double m_radius, m_sin, m_cos;
};

/// Tori, and spheres as tori without a hole.
class TorusEval : public SurfaceEval {
  public:
    TorusEval(const gp_Ax3& axes, double major, double minor)
        : m_frame(axes), m_major(major), m_minor(minor) {}
    void prepare(RowPlan& plan) const override { turn(plan); }
    void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* p,
             Vec3* n) const override {
        const double cv = std::cos(v), sv = std::sin(v);
        for (std::size_t i = from; i < to; ++i) place(plan.cosU[i], plan.sinU[i], cv, sv, *p++, *n++);
    }
    void at(double u, double v, Vec3& p, Vec3& n) const override {
        place(std::cos(u), std::sin(u), std::cos(v), std::sin(v), p, n);
    }

  private:
    void place(double c, double s, double cv, double sv, Vec3& p, Vec3& n) const {
        const Vec3 out = m_frame.x * c + m_frame.y * s, normal = out * cv + m_frame.z * sv;
        p = m_frame.o + out * m_major + normal * m_minor;
        // Where it goes through its axis, it goes round that the other way.
        n = normal * (m_major + m_minor * cv < 0 ? -m_frame.hand : m_frame.hand);
    }
    Frame m_frame;
    double m_major, m_minor;
};

class RevolvedEval : public SurfaceEval {
  public:
    explicit RevolvedEval(const Geom_SurfaceOfRevolution& s)
        : m_curve(s.BasisCurve()), m_origin(gc::toVec(s.Axis().Location())),
          m_axis(toVec(s.Axis().Direction().XYZ())) {}
    void prepare(RowPlan& plan) const override { turn(plan); }
    void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* p,
             Vec3* n) const override {
        const Ring ring(*this, v);
        for (std::size_t i = from; i < to; ++i) ring.place(plan.cosU[i], plan.sinU[i], *p++, *n++);
    }
    void at(double u, double v, Vec3& p, Vec3& n) const override {
        Ring(*this, v).place(std::cos(u), std::sin(u), p, n);
    }
    std::vector<double> breaks(double from, double to, bool alongU) const override {
        return alongU ? std::vector<double>{} : curveBreaks(m_curve, from, to);
    }

  private:
    /// The circle of one v: the profile is evaluated once for it.
    struct Ring {
        Ring(const RevolvedEval& s, double v) {
            gp_Pnt p;
            gp_Vec t;
            s.m_curve->D1(v, p, t);
            const Vec3 d = gc::toVec(p) - s.m_origin, tangent = toVec(t.XYZ());
            const double height = dot(d, s.m_axis);
            centre = s.m_origin + s.m_axis * height;
            radial = d - s.m_axis * height;
            across = cross(s.m_axis, radial);
            Vec3 side = across;
            if (length(radial) < 1e-9) { // on the axis: the side is that of the curve's way into the surface
                side = cross(s.m_axis, tangent);
                if (v > 0.5 * (s.m_curve->FirstParameter() + s.m_curve->LastParameter())) side = -side;
            }
            const Vec3 n = unit(cross(side, tangent), s.m_axis);
            alongNormal = s.m_axis * dot(n, s.m_axis);
            radialNormal = n - alongNormal;
            acrossNormal = cross(s.m_axis, radialNormal);
        }
        void place(double c, double s, Vec3& p, Vec3& n) const {
            p = centre + radial * c + across * s;
            n = alongNormal + radialNormal * c + acrossNormal * s;
        }
        Vec3 centre, radial, across, alongNormal, radialNormal, acrossNormal;
    };
    Handle(Geom_Curve) m_curve;
    Vec3 m_origin, m_axis;
};

class ExtrudedEval : public SurfaceEval {
  public:
    explicit ExtrudedEval(const Geom_SurfaceOfLinearExtrusion& s)
        : m_curve(s.BasisCurve()), m_direction(toVec(s.Direction().XYZ())) {}
    void prepare(RowPlan& plan) const override {
        plan.points.resize(plan.u.size());
        plan.normals.resize(plan.u.size());
        for (std::size_t i = 0; i < plan.u.size(); ++i) at(plan.u[i], 0, plan.points[i], plan.normals[i]);
    }
    void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* p,
             Vec3* n) const override {
        for (std::size_t i = from; i < to; ++i) {
            *p++ = plan.points[i] + m_direction * v;
            *n++ = plan.normals[i];
        }
    }
    void at(double u, double v, Vec3& p, Vec3& n) const override {
        gp_Pnt point;
        gp_Vec t;
        m_curve->D1(u, point, t);
        p = gc::toVec(point) + m_direction * v;
        n = unit(cross(toVec(t.XYZ()), m_direction));
    }
    std::vector<double> breaks(double from, double to, bool alongU) const override {
        return alongU ? curveBreaks(m_curve, from, to) : std::vector<double>{};
    }

  private:
    Handle(Geom_Curve) m_curve;
    Vec3 m_direction;
};

class OffsetEval : public SurfaceEval {
  public:
    OffsetEval(std::unique_ptr<SurfaceEval> basis, double distance)
        : m_basis(std::move(basis)), m_distance(distance) {}
    void prepare(RowPlan& plan) const override { m_basis->prepare(plan); }
    void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* p,
             Vec3* n) const override {
        m_basis->row(plan, v, from, to, p, n);
        for (std::size_t i = 0; i < to - from; ++i) p[i] += n[i] * m_distance;
    }
    void at(double u, double v, Vec3& p, Vec3& n) const override {
        m_basis->at(u, v, p, n);
        p += n * m_distance;
    }
    std::vector<double> breaks(double from, double to, bool alongU) const override {
        return m_basis->breaks(from, to, alongU);
    }

  private:
    std::unique_ptr<SurfaceEval> m_basis;
    double m_distance;
};

class KernelEval : public SurfaceEval {
  public:
    explicit KernelEval(const Handle(Geom_Surface) & surface) : m_surface(surface) {}
    void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* p,
             Vec3* n) const override {
        for (std::size_t i = from; i < to; ++i) at(plan.u[i], v, *p++, *n++);
    }
    void at(double u, double v, Vec3& p, Vec3& n) const override {
        gp_Pnt point;
        gp_Vec du, dv;
        m_surface->D1(u, v, point, du, dv);
        p = gc::toVec(point);
        n = unit(cross(toVec(du.XYZ()), toVec(dv.XYZ())));
    }

  private:
    Handle(Geom_Surface) m_surface;
};

} // namespace

std::vector<double> SurfaceEval::breaks(double, double, bool) const {
    return {};
}

std::unique_ptr<SurfaceEval> makeEvaluator(Handle(Geom_Surface) s) {
    while (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(s))
        s = trimmed->BasisSurface();
    if (const auto a = Handle(Geom_Plane)::DownCast(s)) return std::make_unique<PlaneEval>(a->Position());
    if (const auto a = Handle(Geom_CylindricalSurface)::DownCast(s))
        return std::make_unique<ConeEval>(a->Position(), a->Radius(), 0);
    if (const auto a = Handle(Geom_ConicalSurface)::DownCast(s))
        return std::make_unique<ConeEval>(a->Position(), a->RefRadius(), a->SemiAngle());
    if (const auto a = Handle(Geom_SphericalSurface)::DownCast(s))
        return std::make_unique<TorusEval>(a->Position(), 0, a->Radius());
    if (const auto a = Handle(Geom_ToroidalSurface)::DownCast(s))
        return std::make_unique<TorusEval>(a->Position(), a->MajorRadius(), a->MinorRadius());
    if (const auto a = Handle(Geom_SurfaceOfRevolution)::DownCast(s))
        return std::make_unique<RevolvedEval>(*a);
    if (const auto a = Handle(Geom_SurfaceOfLinearExtrusion)::DownCast(s))
        return std::make_unique<ExtrudedEval>(*a);
    if (const auto a = Handle(Geom_BSplineSurface)::DownCast(s)) return std::make_unique<BSplineEval>(a);
    if (const auto a = Handle(Geom_BezierSurface)::DownCast(s))
        return std::make_unique<BSplineEval>(GeomConvert::SurfaceToBSplineSurface(a));
    if (const auto a = Handle(Geom_OffsetSurface)::DownCast(s))
        return std::make_unique<OffsetEval>(makeEvaluator(a->BasisSurface()), a->Offset());
    return std::make_unique<KernelEval>(s);
}

} // namespace gc

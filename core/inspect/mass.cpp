#include "core/inspect/mass.hpp"

#include "core/shape/breaks_of.hpp"
#include "core/shape/kernel.hpp"

#include <BRepBndLib.hxx>
#include <BRepGProp.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <Bnd_Box.hxx>
#include <GProp_GProps.hxx>
#include <GProp_PrincipalProps.hxx>
#include <Geom2dAdaptor_Curve.hxx>
#include <Geom2d_BSplineCurve.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <Eigen/Dense>

#include <tbb/blocked_range.h>
#include <tbb/parallel_for.h>

#include <algorithm>
#include <numbers>

namespace gc {

namespace {

/// Points and weights of Gauss-Legendre quadrature on 0..1, by Newton's method on the Legendre polynomial
/// (Press et al., Numerical Recipes, section 4.5).
struct Gauss {
    std::vector<double> at, weight;
    explicit Gauss(int n) {
        for (int i = 0; i < n; ++i) {
            double x = std::cos(std::numbers::pi * (i + 0.75) / (n + 0.5)), slope = 1;
            for (int round = 0; round < 100; ++round) {
                double p = 1, before = 0;
                for (int k = 0; k < n; ++k) {
                    const double older = before;
                    before = p;
                    p = ((2 * k + 1) * x * before - k * older) / (k + 1);
                }
                slope = n * (x * p - before) / (x * x - 1);
                const double step = p / slope;
                x -= step;
                if (std::fabs(step) < 1e-16) break;
            }
            at.push_back(0.5 * (1 - x));
            weight.push_back(1 / ((1 - x * x) * slope * slope));
        }
    }
};
/// Exact for polynomials of degree 2 n - 1 in each panel.
const Gauss& gauss(int n) {
    static const Gauss six(6), eight(8), twelve(12);
    return n == 6 ? six : n == 8 ? eight : twelve;
}

/// Area, then the integrals over the cone from the origin to a piece of surface of 1, x, y, z, xx, yy, zz,
/// xy, yz, zx. A function f that is homogeneous of degree k has the volume integral 1 / (k + 3) of the
/// surface integral of f (P . n), by the divergence theorem.
struct Sums {
    std::array<double, 11> s{};
    void add(Vec3 p, Vec3 n, double w) {
        const double cone = w * dot(p, n);
        s[0] += w * length(n);
        s[1] += cone / 3;
        const std::array<double, 3> first{p.x, p.y, p.z};
        for (std::size_t i = 0; i < 3; ++i) s[2 + i] += cone / 4 * first[i];
        const std::array<double, 6> second{p.x * p.x, p.y * p.y, p.z * p.z, p.x * p.y, p.y * p.z, p.z * p.x};
        for (std::size_t i = 0; i < 6; ++i) s[5 + i] += cone / 5 * second[i];
    }
    Sums& operator+=(const Sums& o) {
        for (std::size_t i = 0; i < s.size(); ++i) s[i] += o.s[i];
        return *this;
    }
    Sums operator*(double k) const {
        Sums out = *this;
        for (double& x : out.s) x *= k;
        return out;
    }
};

/// Where a curve is less than endlessly smooth, ends included; as spansOf().
std::vector<double> smoothLimits(const Geom2dAdaptor_Curve& curve) {
    std::vector<double> out{curve.FirstParameter()};
    if (curve.GetType() == GeomAbs_BSplineCurve) {
        const Handle(Geom2d_BSplineCurve) c = curve.BSpline();
        for (int i = 1; i <= c->NbKnots(); ++i)
            if (const double k = c->Knot(i); k > out.back() + 1e-12 && k < curve.LastParameter() - 1e-12)
                out.push_back(k);
        if (!c->IsPeriodic()) {
            out.push_back(curve.LastParameter());
            return out;
        }
        out.resize(1);
    }
    const int n = curve.NbIntervals(GeomAbs_CN);
    TColStd_Array1OfReal t(1, n + 1);
    curve.Intervals(t, GeomAbs_CN);
    for (int i = 2; i <= n + 1; ++i) out.push_back(t(i));
    return out;
}

/// Integrals over one face in its (u, v).
class FaceSums {
  public:
    FaceSums(const TopoDS_Face& face, Vec3 origin)
        : m_face(TopoDS::Face(face.Oriented(TopAbs_FORWARD))), m_origin(origin),
          m_side(face.Orientation() == TopAbs_REVERSED ? -1 : 1) {
        TopLoc_Location place;
        m_geometry = BRep_Tool::Surface(m_face, place);
        if (!place.IsIdentity())
            m_geometry = Handle(Geom_Surface)::DownCast(m_geometry->Transformed(place.Transformation()));
        m_surface.Load(m_geometry);
        BRepTools::UVBounds(m_face, m_u0, m_u1, m_v0, m_v1);
        m_u = panels(true, m_u0, m_u1);
        m_v = panels(false, m_v0, m_v1);
        m_order = (m_u.size() - 1) * (m_v.size() - 1) > 2000 ? 6 : 12;
    }

    /// \param coarse with fewer points, to see how far the sums can be trusted
    std::optional<Sums> integrate(bool coarse) {
        m_points = &gauss(coarse && m_order == 12 ? 8 : m_order);
        if (fillsItsBox()) return overBox();
        return alongBoundary();
    }

  private:
    /// Between neighbours the surface is smooth and turns by an eighth of a circle at most.
    std::vector<double> panels(bool alongU, double from, double to) const {
        std::vector<double> breaks{from};
        const double period = alongU ? (m_surface.IsUPeriodic() ? m_surface.UPeriod() : 0)
                                     : (m_surface.IsVPeriodic() ? m_surface.VPeriod() : 0);
        for (const double limit : spansOf(m_surface, alongU))
            for (const double shift : {-period, 0.0, period})
                if (const double b = limit + shift; b > from + 1e-12 && b < to - 1e-12) breaks.push_back(b);
        breaks.push_back(to);
        std::sort(breaks.begin(), breaks.end());
        breaks.erase(std::unique(breaks.begin(), breaks.end()), breaks.end());
        const bool angle = turns(alongU);
        std::vector<double> out{from};
        for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
            const double width = breaks[i + 1] - breaks[i];
            const int parts =
                angle ? std::max(1, static_cast<int>(std::ceil(width / (std::numbers::pi / 4)))) : 1;
            for (int k = 1; k <= parts; ++k) out.push_back(breaks[i] + width * k / parts);
        }
        return out;
    }
    bool turns(bool alongU) const {
        switch (m_surface.GetType()) {
        case GeomAbs_Cylinder:
        case GeomAbs_Cone:
        case GeomAbs_SurfaceOfRevolution:
            return alongU;
        case GeomAbs_Sphere:
        case GeomAbs_Torus:
            return true;
        default:
            return m_surface.GetType() != GeomAbs_Plane && m_surface.GetType() != GeomAbs_BSplineSurface;
        }
    }

    /// The one wire runs along the sides of the (u, v) box.
    bool fillsItsBox() const {
        int wires = 0;
        for (TopExp_Explorer w(m_face, TopAbs_WIRE); w.More(); w.Next()) ++wires;
        if (wires != 1) return false;
        const double slackU = 1e-9 * (m_u1 - m_u0), slackV = 1e-9 * (m_v1 - m_v0);
        for (TopExp_Explorer x(m_face, TopAbs_EDGE); x.More(); x.Next()) {
            double from = 0, to = 0;
            const Handle(Geom2d_Curve) c =
                BRep_Tool::CurveOnSurface(TopoDS::Edge(x.Current()), m_face, from, to);
            if (c.IsNull()) return false;
            std::array<bool, 4> on{true, true, true, true};
            for (const double f : {0.0, 0.2, 0.5, 0.7, 1.0}) {
                const gp_Pnt2d p = c->Value(from + (to - from) * f);
                on[0] &= std::fabs(p.X() - m_u0) <= slackU;
                on[1] &= std::fabs(p.X() - m_u1) <= slackU;
                on[2] &= std::fabs(p.Y() - m_v0) <= slackV;
                on[3] &= std::fabs(p.Y() - m_v1) <= slackV;
            }
            if (std::none_of(on.begin(), on.end(), [](bool b) { return b; })) return false;
        }
        return true;
    }

    void add(double u, double v, double weight, Sums& sums) const {
        gp_Pnt p;
        gp_Vec du, dv;
        m_surface.D1(u, v, p, du, dv);
        const gp_Vec n = du.Crossed(dv);
        sums.add(toVec(p) - m_origin, Vec3{n.X(), n.Y(), n.Z()} * m_side, weight);
    }

    /// Along u from the panels' first parameter to u, at one v.
    Sums row(double u, double v) const {
        Sums sums;
        for (std::size_t i = 0; i + 1 < m_u.size() && m_u[i] < u; ++i) {
            const double width = std::min(u, m_u[i + 1]) - m_u[i];
            for (std::size_t k = 0; k < m_points->at.size(); ++k)
                add(m_u[i] + width * m_points->at[k], v, width * m_points->weight[k], sums);
        }
        return sums;
    }

    Sums overBox() const {
        Sums sums;
        for (std::size_t j = 0; j + 1 < m_v.size(); ++j) {
            const double width = m_v[j + 1] - m_v[j];
            for (std::size_t k = 0; k < m_points->at.size(); ++k)
                sums += row(m_u1, m_v[j] + width * m_points->at[k]) * (width * m_points->weight[k]);
        }
        return sums;
    }

    /// Along v from the panels' first parameter to v, at one u.
    Sums column(double u, double v) const {
        Sums sums;
        for (std::size_t i = 0; i + 1 < m_v.size() && m_v[i] < v; ++i) {
            const double width = std::min(v, m_v[i + 1]) - m_v[i];
            for (std::size_t k = 0; k < m_points->at.size(); ++k)
                add(u, m_v[i] + width * m_points->at[k], width * m_points->weight[k], sums);
        }
        return sums;
    }

    /// Where an edge's line is less smooth, or comes over where the surface is. \param alongU by its v, else
    /// by its u
    std::vector<double> limitsAlong(const Geom2dAdaptor_Curve& curve, bool alongU) const {
        constexpr int kLooks = 16, kHalvings = 45;
        const std::vector<double>& panels = alongU ? m_v : m_u;
        const auto at = [&](double t) { return alongU ? curve.Value(t).Y() : curve.Value(t).X(); };
        std::vector<double> out = smoothLimits(curve);
        const std::vector<double> own = out;
        for (std::size_t i = 0; i + 1 < own.size(); ++i)
            for (int k = 0; k < kLooks; ++k) {
                const double step = (own[i + 1] - own[i]) / kLooks, from = own[i] + step * k;
                const double a = at(from), b = at(from + step);
                auto next = std::upper_bound(panels.begin(), panels.end(), std::min(a, b));
                for (; next != panels.end() && *next < std::max(a, b); ++next) {
                    double low = from, high = from + step;
                    for (int half = 0; half < kHalvings; ++half) {
                        const double middle = 0.5 * (low + high);
                        ((at(middle) < *next) == (a < b) ? low : high) = middle;
                    }
                    out.push_back(0.5 * (low + high));
                }
            }
        std::sort(out.begin(), out.end());
        return out;
    }

    /// Green's theorem: the sum over the boundary of (integral along u up to the boundary) dv, or of the one
    /// along v times -du: whichever has fewer panels.
    std::optional<Sums> alongBoundary() const {
        Sums sums;
        const bool alongU = m_u.size() <= m_v.size();
        for (TopExp_Explorer x(m_face, TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge edge = TopoDS::Edge(x.Current());
            double from = 0, to = 0;
            const Handle(Geom2d_Curve) c = BRep_Tool::CurveOnSurface(edge, m_face, from, to);
            if (c.IsNull()) return std::nullopt;
            const Geom2dAdaptor_Curve curve(c, from, to);
            const double side = edge.Orientation() == TopAbs_REVERSED ? -1 : 1;
            const std::vector<double> t = limitsAlong(curve, alongU);
            const bool straight = curve.GetType() == GeomAbs_Line && m_surface.GetType() == GeomAbs_Plane;
            const int parts = straight || t.size() > 65 ? 1 : t.size() > 17 ? 2 : 8;
            for (std::size_t i = 0; i + 1 < t.size(); ++i)
                for (int part = 0; part < parts; ++part) {
                    const double width = (t[i + 1] - t[i]) / parts, first = t[i] + width * part;
                    for (std::size_t k = 0; k < m_points->at.size(); ++k) {
                        gp_Pnt2d p;
                        gp_Vec2d d;
                        curve.D1(first + width * m_points->at[k], p, d);
                        const double moves = alongU ? d.Y() : -d.X();
                        if (moves == 0) continue;
                        sums += (alongU ? row(p.X(), p.Y()) : column(p.X(), p.Y())) *
                                (side * moves * width * m_points->weight[k]);
                    }
                }
        }
        return sums;
    }

    TopoDS_Face m_face;
    Vec3 m_origin;
    double m_side;
    Handle(Geom_Surface) m_geometry;
    GeomAdaptor_Surface m_surface;
    double m_u0 = 0, m_u1 = 0, m_v0 = 0, m_v1 = 0;
    std::vector<double> m_u, m_v;
    int m_order = 12;
    const Gauss* m_points = nullptr;
};

std::optional<Sums> guardedSums(const TopoDS_Face& face, Vec3 origin, bool coarse) {
    try {
        return FaceSums(face, origin).integrate(coarse);
    } catch (const Standard_Failure&) {
        return std::nullopt;
    }
}

std::optional<Sums> integrate(const NamedShape& shape, Vec3 origin, bool coarse) {
    const auto n = static_cast<std::size_t>(shape.faces.Extent());
    std::vector<std::optional<Sums>> parts(n);
    tbb::parallel_for(std::size_t(0), n, [&](std::size_t i) {
        parts[i] = guardedSums(TopoDS::Face(shape.faces(static_cast<int>(i) + 1)), origin, coarse);
    });
    Sums sums;
    for (const auto& part : parts) {
        if (!part) return std::nullopt;
        sums += *part;
    }
    return sums;
}

/// For faces whose edges have no curves in (u, v), which only imported bodies have.
Result<MassProperties> byKernel(const NamedShape& shape, Density density) {
    GProp_GProps volume, surface;
    const double reached = BRepGProp::VolumeProperties(shape.shape, volume, 1e-14);
    BRepGProp::SurfaceProperties(shape.shape, surface, 1e-7);
    MassProperties p;
    p.volume = volume.Mass();
    p.area = surface.Mass();
    if (!(p.volume > 0)) {
        Error e;
        e.code = "mass.volume";
        e.sentence = "The body has no volume, or its faces look inward.";
        return e;
    }
    p.errorBound = std::max(1e-9, std::fabs(reached));
    p.mass = p.volume * density.internal();
    p.centre = toVec(volume.CentreOfMass());
    volume.PrincipalProperties().Moments(p.moments[0], p.moments[1], p.moments[2]);
    for (double& m : p.moments) m *= density.internal();
    std::sort(p.moments.begin(), p.moments.end());
    return p;
}

Vec3 middleOf(const NamedShape& shape) {
    Bnd_Box box;
    BRepBndLib::Add(shape.shape, box, false);
    if (box.IsVoid()) return {};
    return (toVec(box.CornerMin()) + toVec(box.CornerMax())) * 0.5;
}

} // namespace

std::optional<double> areaOf(const Body& body, const std::vector<int>& faces) {
    double sum = 0;
    for (const int i : faces) {
        const auto part = guardedSums(TopoDS::Face(body.shape().faces(i + 1)), middleOf(body.shape()), false);
        if (!part) return std::nullopt;
        sum += part->s[0];
    }
    return sum;
}

Result<MassProperties> massProperties(const Body& body, Density density) {
    return guarded(
        "mass.volume", "The volume of the body cannot be worked out.", [&]() -> Result<MassProperties> {
            // About the body's own middle: far from it the sums would cancel.
            const Vec3 origin = middleOf(body.shape());
            const auto fine = integrate(body.shape(), origin, false),
                       coarse = integrate(body.shape(), origin, true);
            Error e;
            e.code = "mass.volume";
            e.sentence = "The volume of the body cannot be worked out.";
            if (!fine || !coarse) return byKernel(body.shape(), density);
            const auto& s = fine->s;
            MassProperties p;
            p.area = s[0];
            p.volume = s[1];
            if (!(p.volume > 0)) {
                e.sentence = "The body has no volume, or its faces look inward.";
                return e;
            }
            p.errorBound = std::max(1e-12, std::fabs(s[1] - coarse->s[1]) / p.volume);
            const double k = density.internal();
            p.mass = p.volume * k;
            const Eigen::Vector3d centre = Eigen::Vector3d(s[2], s[3], s[4]) / p.volume;
            p.centre = origin + Vec3{centre.x(), centre.y(), centre.z()};
            Eigen::Matrix3d second;
            second << s[5], s[8], s[10], s[8], s[6], s[9], s[10], s[9], s[7];
            second -= p.volume * centre * centre.transpose();
            const Eigen::Matrix3d inertia = second.trace() * Eigen::Matrix3d::Identity() - second;
            const Eigen::SelfAdjointEigenSolver<Eigen::Matrix3d> axes(inertia, Eigen::EigenvaluesOnly);
            for (int i = 0; i < 3; ++i) p.moments[static_cast<std::size_t>(i)] = axes.eigenvalues()[i] * k;
            return p;
        });
}

} // namespace gc

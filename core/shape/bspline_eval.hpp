#pragma once
/// \file For .cpp files only: a tensor B-spline surface, one row of v at a time.

#include "core/shape/surface_eval.hpp"

#include <Geom_BSplineSurface.hxx>

namespace gc {

/// Contracts the net of poles along v once a row, then runs along u (de Boor's basis functions; see Piegl and
/// Tiller, The NURBS Book, A2.2 and A3.5). Degrees up to 25, rational or not, periodic or not.
class BSplineEval : public SurfaceEval {
  public:
    explicit BSplineEval(Handle(Geom_BSplineSurface) surface);
    void prepare(RowPlan& plan) const override;
    void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* points,
             Vec3* normals) const override;
    void at(double u, double v, Vec3& point, Vec3& normal) const override;
    std::vector<double> breaks(double from, double to, bool alongU) const override;

  private:
    struct Direction {
        std::size_t degree = 0, poles = 0;
        std::vector<double> knots; // flat
        double period = 0;         // 0: not periodic
        double first() const { return knots[degree]; }
        double last() const { return knots[poles]; }
        double wrapped(double t) const;
        std::size_t span(double t) const;
        /// Values, then first derivatives, of the degree + 1 functions that are not 0 on the span.
        void basis(std::size_t span, double t, double* values, double* slopes) const;
    };
    void raw(double u, double v, Vec3& point, Vec3& normal) const;
    void finish(const double* s, const double* du, const double* dv, Vec3& point, Vec3& normal) const;

    Direction m_u, m_v;
    bool m_rational = false;
    std::vector<double> m_poles; // four numbers each (weighted x, y, z, weight), u fastest
};

} // namespace gc

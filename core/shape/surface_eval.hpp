#pragma once
/// \file For .cpp files only: points and normals of a kernel surface, many at a time.

#include "core/base/vec.hpp"

#include <Geom_Surface.hxx>

#include <cstddef>
#include <memory>
#include <vector>

namespace gc {

/// What an evaluator works out once from a list of u, to use it on many rows of v.
struct RowPlan {
    std::vector<double> u;
    std::vector<double> cosU, sinU;
    std::vector<std::size_t> spans;
    std::vector<double> basis;
    std::vector<Vec3> points, normals;
};

/// A surface S(u, v). Normals are unit vectors along dS/du x dS/dv; where that vanishes (a pole), the limit
/// from inside the surface.
class SurfaceEval {
  public:
    virtual ~SurfaceEval() = default;
    virtual void prepare(RowPlan&) const {}
    /// Points and normals at u[from] ... u[to - 1] of a prepared plan.
    virtual void row(const RowPlan& plan, double v, std::size_t from, std::size_t to, Vec3* points,
                     Vec3* normals) const = 0;
    virtual void at(double u, double v, Vec3& point, Vec3& normal) const = 0;
    /// Parameters strictly between the two where the second derivative may jump, rising.
    virtual std::vector<double> breaks(double from, double to, bool alongU) const;
    virtual bool flat() const { return false; }
};

/// Never null: surfaces without a fast way of their own go through the kernel.
std::unique_ptr<SurfaceEval> makeEvaluator(Handle(Geom_Surface) surface);

} // namespace gc

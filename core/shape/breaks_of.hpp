#pragma once
/// \file For .cpp files: where curves and surfaces are less smooth.

#include <GeomAbs_Shape.hxx>
#include <TColStd_Array1OfReal.hxx>

#include <vector>

class GeomAdaptor_Surface;

namespace gc {

/// Where a surface is less than endlessly smooth along u or along v, ends included. The kernel takes a spline
/// whose fourth derivatives are continuous for endlessly smooth, and its knots for nothing.
std::vector<double> spansOf(const GeomAdaptor_Surface& surface, bool alongU);

/// Where a curve or a surface is less smooth than asked, in order, between two parameters, which are the
/// first and the last. \param count, intervals of the kernel's adaptor, along its only parameter or one of
/// two
template <class Adaptor, class Count, class Intervals>
std::vector<double> breaksOf(const Adaptor& a, const Count& count, const Intervals& intervals, double from,
                             double to, GeomAbs_Shape smooth = GeomAbs_C2) {
    TColStd_Array1OfReal at(1, (a.*count)(smooth) + 1);
    (a.*intervals)(at, smooth);
    std::vector<double> out{from};
    for (const double t : at)
        if (t > from + 1e-9 * (to - from) && t < to - 1e-9 * (to - from)) out.push_back(t);
    out.push_back(to);
    return out;
}

} // namespace gc

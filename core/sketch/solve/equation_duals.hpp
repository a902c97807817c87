#pragma once
/// \file For .cpp files of this folder: equations that are differentiated by the library.

#include "core/sketch/solve/equation_terms.hpp"

#include <Eigen/Core>
#include <unsupported/Eigen/AutoDiff>

namespace gc::terms {

using Row = Eigen::Matrix<double, Eigen::Dynamic, 1, 0, 20, 1>;
using Dual = Eigen::AutoDiffScalar<Row>;

/// The unknown x[i] of an equation.
inline Dual unknown(const Equation& e, const double* x, int i) {
    return Dual(x[i], e.count, i);
}

/// The value, and the derivatives into g where they are asked for.
inline double give(const Dual& d, int count, double* g) {
    if (g)
        for (int i = 0; i < count; ++i) g[i] = i < d.derivatives().size() ? d.derivatives()[i] : 0;
    return d.value();
}

} // namespace gc::terms

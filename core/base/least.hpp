#pragma once
/// \file Where a function is least.

namespace gc {

/// By golden section (Kiefer 1953): the least place of a function that falls and then rises between two
/// places, to within rounding of its values.
template <class Function>
double leastWithin(double low, double high, const Function& f) {
    constexpr double kGolden = 0.6180339887498949;
    double x = high - kGolden * (high - low), y = low + kGolden * (high - low);
    double fx = f(x), fy = f(y);
    for (int i = 0; i < 90; ++i) {
        if (fx < fy) {
            high = y, y = x, fy = fx;
            x = high - kGolden * (high - low), fx = f(x);
        } else {
            low = x, x = y, fx = fy;
            y = low + kGolden * (high - low), fy = f(y);
        }
    }
    return 0.5 * (low + high);
}

} // namespace gc

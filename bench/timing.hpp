#pragma once
/// \file How long something takes.

#include <algorithm>
#include <chrono>
#include <functional>

namespace gc {

inline double msOf(const std::function<void()>& work) {
    const auto start = std::chrono::steady_clock::now();
    work();
    return std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
}

/// Least of several runs: what the work takes when nothing disturbs it.
inline double leastMs(int runs, const std::function<void()>& work) {
    double best = 1e300;
    for (int i = 0; i < runs; ++i) best = std::min(best, msOf(work));
    return best;
}

} // namespace gc

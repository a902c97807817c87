#pragma once
/// \file For .cpp files: whether a shell is what was asked for. The kernel may come out wrong without a word.

#include "core/base/progress.hpp"
#include "core/base/result.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/patience.hpp"

#include <algorithm>
#include <chrono>
#include <map>

namespace gc {

/// What a shell is made of.
struct ShellPlan {
    const NamedShape* before = nullptr;
    TopTools_IndexedMapOfShape opened;
    double offset = 0; ///< along the outward normals: negative inward
    /// Of the faces that get another: by their numbers, from 1.
    std::map<int, double> others{};
    Stop stop{};          ///< asked by the kernel's long loops
    bool quickly = false; ///< the ways that take seconds are not tried
    /// When all ways together have had their time.
    std::chrono::steady_clock::time_point until = std::chrono::steady_clock::time_point::max();
    std::chrono::milliseconds left() const {
        return std::chrono::duration_cast<std::chrono::milliseconds>(until -
                                                                     std::chrono::steady_clock::now());
    }
    double offsetOf(int face) const {
        const auto other = others.find(face);
        return other == others.end() ? offset : other->second;
    }
};

/// For one operation of the kernel: with many faces that get in each other's way it has no end.
inline Handle(Patience) patienceOf(const ShellPlan& plan) {
    constexpr std::chrono::milliseconds kMost{30000};
    return new Patience(plan.stop, std::min(kMost, plan.left()));
}

/// What is wrong with the wall, told by places of it: too thin, missing, or filled up.
/// \param insides the new faces that run beside old ones \param round mm, of what was made round inside: it
/// fills up somewhat more
std::optional<Error> wallFault(const ShellPlan& plan, const NamedShape& now,
                               const std::vector<TopoDS_Shape>& insides, double round = 0);

} // namespace gc

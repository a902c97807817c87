#pragma once
/// \file Which relations say the same twice, and which cannot all hold.

#include "core/sketch/solve/settle.hpp"

#include <functional>

namespace gc {

/// A relation that others imply already. It does no harm; removing it changes nothing.
struct Redundancy {
    int relation = 0;
    std::vector<int> because; ///< the relations that imply it
};

/// Relations that cannot all hold, no one of them to spare: without any one of them the others can.
struct Clash {
    std::vector<int> relations; ///< the likeliest culprit first
};

struct Diagnosis {
    std::vector<Redundancy> redundant;
    std::vector<Clash> clashes;
    bool sound() const { return clashes.empty(); }
};

/// Looks at a drawing where it lies. Redundancies are found only where nothing clashes. Clashing sets are
/// disjoint, at most `mostClashes` of them. The relation added last is looked at first.
///
/// Ties that contradict each other give their set directly. Otherwise the candidates are the relations that
/// the newest one depends on to first order, then those that a least-squares solve leaves unmet, then all;
/// each is checked by solving and thinned by QuickXplain (Junker, AAAI 2004). A large drawing takes seconds:
/// `stop` is asked between solves, and what was found by then comes back.
Diagnosis diagnose(const Drawing& drawing, const DimensionValues& values, int mostClashes = 3,
                   const std::function<bool()>& stop = {});

/// Can these relations alone be met, from where the drawing lies?
bool canHold(const Drawing& drawing, const DimensionValues& values, const std::vector<int>& relations);

} // namespace gc

#pragma once
/// \file Strokes that go on from each other.

#include "core/sketch/curve2.hpp"

#include <map>
#include <set>

namespace gc {

struct ChainLink {
    int stroke = 0;
    bool against = false; ///< walked against its own direction
};

struct Chain {
    std::vector<ChainLink> links; ///< in the order of the walk
    bool closed = false;
    /// What it is called by: the least of its strokes.
    int key() const;
};

/// A stroke with whatever goes on from its ends, as far as just one other stroke does. An open one begins at
/// the end at which its first drawn stroke has nothing before it. Nothing for a stroke that is not there.
Chain chainOf(const std::map<int, std::vector<Curve2>>& strokes, const std::set<int>& helpers, int stroke);

} // namespace gc

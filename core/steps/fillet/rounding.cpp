#include "core/steps/fillet/rounding.hpp"

#include "core/steps/fillet/swallowed.hpp"
#include "core/steps/shared/rounded.hpp"

namespace gc {

Result<WorkedEdges> roundEdges(const Body& body, const std::vector<EdgeChain>& chains, int step,
                               const Progress& progress, bool onlyWhole) {
    // Asked first: upon smaller rounds the kernel may come out wrong and look right.
    if (const auto sharp = withoutSwallowed(body, chains))
        if (auto whole = rounded(sharp->body, sharp->chains, step))
            return WorkedEdges{std::move(*whole), {}, {}};
    return workEdges(
        body, chains,
        [&](const Body& b, const std::vector<EdgeChain>& some) { return rounded(b, some, step); }, progress,
        onlyWhole);
}

} // namespace gc

#include "core/steps/fillet/rounding.hpp"

#include "core/model/arguments.hpp"
#include "core/steps/fillet/across.hpp"
#include "core/steps/fillet/parted_walls.hpp"
#include "core/steps/fillet/rolled_rim.hpp"
#include "core/steps/fillet/round_tool.hpp"
#include "core/steps/fillet/swallowed.hpp"
#include "core/steps/shared/rounded.hpp"

#include <utility>

namespace gc {

namespace {

/// What the kernel left, by a tool of its own.
Result<WorkedEdges> withTools(const Body& body, const std::vector<EdgeChain>& chains, int step,
                              const Progress& progress, bool onlyWhole, Result<WorkedEdges> worked) {
    if (progress.stopped() || (worked && worked->left.empty())) return worked;
    WorkedEdges now = worked ? *worked : WorkedEdges{body, chains, {}, worked.error()};
    std::vector<EdgeChain> left;
    for (EdgeChain& c : now.left) {
        if (progress.stopped()) return stoppedError();
        if (auto made = roundedByTool(body, now.body, c, chains, step))
            now.body = std::move(*made);
        else
            left.push_back(std::move(c));
    }
    if (left.size() == chains.size() || (onlyWhole && !left.empty())) return worked;
    now.left = std::move(left);
    return now;
}

} // namespace

Result<WorkedEdges> roundEdges(const Body& body, const std::vector<EdgeChain>& chains, int step,
                               const Progress& progress, bool onlyWhole, BRepFilletAPI_MakeFillet* added) {
    // Asked first: upon smaller rounds the kernel may come out wrong and look right.
    if (const auto sharp = withoutSwallowed(body, chains))
        if (auto built = rounded(sharp->body, sharp->chains, step))
            return WorkedEdges{std::move(*built), {}, {}};
    bool untried = true;
    int rolls = 3; // not for each of many parts of what it failed at
    auto whole = workEdges(
        body, chains,
        [&](const Body& b, const std::vector<EdgeChain>& some) {
            const bool fades = fadesAt(b, some);
            if (fades && rolls-- > 0)
                if (auto rolled = roundedRims(b, some, step, progress))
                    return Result<Body>(std::move(*rolled));
            const bool jumps = bendJumpsAlong(some);
            if (jumps)
                if (auto apart = roundedParted(b, some, step)) return Result<Body>(std::move(*apart));
            const bool asAsked = some.size() == chains.size() && b.shape().shape.IsSame(body.shape().shape);
            auto made = rounded(b, some, step, asAsked ? std::exchange(added, nullptr) : nullptr);
            // Once, on the body as it was: upon half the rounds much is narrow, and leaving faces out is
            // slow.
            if (made || !std::exchange(untried, false)) return made;
            if (!fades)
                if (auto rolled = roundedRims(b, some, step, progress))
                    return Result<Body>(std::move(*rolled));
            if (!jumps)
                if (auto apart = roundedParted(b, some, step)) return Result<Body>(std::move(*apart));
            auto wide = roundedOverNarrow(b, some, step);
            return wide ? Result<Body>(std::move(*wide)) : made;
        },
        progress, onlyWhole);
    return withTools(body, chains, step, progress, onlyWhole, std::move(whole));
}

} // namespace gc

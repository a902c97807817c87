#include "core/steps/fillet/swallowed.hpp"

#include "core/base/tolerance.hpp"

#include <algorithm>

namespace gc {

namespace {

/// Rounds between two faces that lie beside an edge of the chains and are smaller than what the edge gets.
Rounds swallowedBy(const NamedShape& s, const std::vector<EdgeChain>& chains) {
    Rounds out;
    for (const EdgeChain& c : chains)
        for (const TopoDS_Edge& e : c.edges)
            for (const TopoDS_Shape& f : facesBeside(s, e))
                if (const auto round = roundAt(s, f))
                    if (round->second < largestOf(c) - kFlat) out.add(round->first, round->second);
    return out;
}

} // namespace

std::optional<Unrounded> withoutSwallowed(const Body& body, const std::vector<EdgeChain>& chains) {
    const Rounds rounds = swallowedBy(body.shape(), chains);
    if (rounds.empty()) return std::nullopt;
    auto lifted = withoutRounds(body, rounds);
    if (!lifted) return std::nullopt;
    Unrounded out{lifted->body, {}};
    for (const EdgeChain& c : chains) {
        EdgeChain again = foundAgain(c, body, lifted->body, true);
        if (again.edges.empty()) return std::nullopt;
        out.chains.push_back(std::move(again));
    }
    out.chains.insert(out.chains.end(), lifted->chains.begin(), lifted->chains.end());
    return out;
}

} // namespace gc

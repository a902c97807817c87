// Blend: edges made smooth without a jump in curvature.

#include "core/steps/blend/even_sections.hpp"
#include "core/steps/blend/mitred_blends.hpp"
#include "core/steps/shared/edge_chains.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/worked_names.hpp"
#include "core/units/amount.hpp"

#include <algorithm>

namespace gc {

namespace {

constexpr double kOffRail = 1e-3; // mm: rails of the kernel's rounds from the faces beside them
constexpr double kSeen = 1e-3;    // 1/mm: a jump in curvature that is told

Result<Body> blended(const Body& body, const std::vector<EdgeChain>& chains, int step, double tension,
                     double& jump) {
    const NamedShape& s = body.shape();
    const Message unfit = phrase("A blend as far as a fillet of %1 does not fit at these edges.",
                                 formatAmount(chains.front().first, "mm", 2));
    return guarded("blend.too-large", unfit.text(), [&]() -> Result<Body> {
        BRepFilletAPI_MakeFillet rounds(s.shape);
        for (const EdgeChain& chain : chains)
            for (const TopoDS_Edge& e : chain.edges)
                if (rounds.Contour(e) == 0) rounds.Add(chain.first, e);
        rounds.Build();
        Error e = errorOf("blend.too-large", unfit);
        e.culprits = saidOf(chains.front(), body);
        e.place = middleOf(chains.front());
        if (!rounds.IsDone()) return e;
        const auto rounded = bodyOfWork(body, rounds, step, "blend", chains);
        if (!rounded || !checkBody(*rounded).faults.empty()) return e;
        double most = 0;
        const auto strips = evenStrips(rounds, s, rounded->shape(), tension, most);
        if (!strips) return strips.error();
        auto made = withStrips(*rounded, *strips, kOffRail);
        if (!made) return e;
        jump = std::max(jump, most);
        return made;
    });
}

Result<Body> blendedRoundCorners(const Body& body, const std::vector<EdgeChain>& chains, int step,
                                 double tension, double& jump) {
    auto made = blended(body, chains, step, tension, jump);
    if (made || made.error().code != "blend.corner" || !meetPlainly(body.shape(), chains)) return made;
    auto mitred = mitredBlends(body, chains, step,
                               [&](const EdgeChain& c) { return blended(body, {c}, step, tension, jump); });
    if (!mitred || !checkBody(*mitred).faults.empty()) return made;
    return mitred;
}

std::vector<EdgeChain> doneOf(std::vector<EdgeChain> chains, const std::vector<EdgeChain>& left) {
    std::erase_if(chains, [&](const EdgeChain& c) {
        return std::any_of(left.begin(), left.end(),
                           [&](const EdgeChain& l) { return l.edges.front().IsSame(c.edges.front()); });
    });
    return chains;
}

} // namespace

Result<StepChange> runBlend(const Arguments& args, ModelReader& model, const Progress& progress) {
    return guarded("blend.failed", "These edges cannot be blended.", [&]() -> Result<StepChange> {
        const auto found = findEdges(args.references("edges"), model);
        if (!found) return found.error();
        std::vector<EdgeChain> chains;
        BRepFilletAPI_MakeFillet asks(found->body.shape().shape);
        const double radius = args.number("radius"), tension = args.number("tension");
        const auto added = addChains(found->body, found->items, radius, radius, false, asks, chains);
        if (!added) return added.error();
        if (chains.empty())
            return errorOf("fillet.smooth",
                           "The edges are smooth already: the faces beside them do not meet at an angle.");
        double jump = 0;
        auto worked = workEdges(
            found->body, chains,
            [&](const Body& b, const std::vector<EdgeChain>& some) {
                return blendedRoundCorners(b, some, args.id(), tension, jump);
            },
            progress, args.onlyWhole());
        if (!worked) return worked.error();
        const std::string all = std::to_string(chains.size());
        if (!worked->left.empty() && !isMostlyDone(*worked, chains.size())) {
            if (worked->fault && worked->fault->code == "blend.corner") return *worked->fault;
            return leftOver(*worked, found->body, "blend.too-large", [&](const auto& left, const auto& list) {
                return phrase("A blend as far as a fillet of %1 does not fit at %2 of %3 edges: %4. Make it "
                              "smaller, or let go of what does not take it.",
                              formatAmount(radius, "mm", 2), left, all, list);
            });
        }
        StepChange change(ChangedBody{found->id, worked->body});
        change.checked = true;
        change.notes = found->notes;
        if (const auto done = doneOf(chains, worked->left); haveCornersInCommon(done))
            change.notes.push_back(phrase("Where blends meet in a corner, an edge stays between them."));
        if (jump > kSeen)
            change.notes.push_back(
                phrase("The curvature jumps by up to %1 /mm across the borders of the blend: "
                       "the faces beside it are not smooth enough for less.",
                       formatNumber(jump, 4)));
        if (!worked->left.empty())
            change.doubt =
                leftOver(*worked, found->body, "edges.left", [&](const auto& left, const auto& list) {
                    return phrase(
                        "%1 of %2 edges could not be blended and stay as they are: %3. The others are "
                        "done.",
                        left, all, list);
                });
        return change;
    });
}

} // namespace gc

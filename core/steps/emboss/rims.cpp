#include "core/steps/emboss/rims.hpp"

#include "core/shape/kernel.hpp"
#include "core/steps/shared/rounded.hpp"
#include "core/units/amount.hpp"

#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

namespace {

/// What a face is to a step that embosses.
enum class Role : std::uint8_t { None, Side, Far };
Role roleOf(const NamedShape& s, const TopoDS_Shape& face, int step) {
    Role out = Role::None;
    for (const NamePtr n : s.namesOf(face)) {
        if (n->step != step || !n->parents.empty()) continue;
        if (n->role.starts_with("side")) return Role::Side;
        if (n->role.starts_with("top") || n->role.starts_with("floor")) out = Role::Far;
    }
    return out;
}

/// Of the sides: those at the wall, those at the far end. Numbers from 0.
std::vector<int> rimsOf(const Body& body, bool atWall, bool far, int step) {
    const NamedShape& s = body.shape();
    std::vector<int> out;
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i));
        if (!s.isRealEdge(edge)) continue;
        const auto beside = facesBeside(s, edge);
        if (beside.size() != 2) continue;
        const Role a = roleOf(s, beside[0], step), b = roleOf(s, beside[1], step);
        if (a != Role::Side && b != Role::Side) continue;
        const Role other = a == Role::Side ? b : a;
        if (((other == Role::None && atWall) || (other == Role::Far && far)) && !isSmooth(s, edge))
            out.push_back(i - 1);
    }
    return out;
}

} // namespace

void roundRims(const Arguments& args, StepChange& change, const Progress& progress) {
    const std::string& which = args.text("rims");
    if (which == "sharp") return;
    const bool atWall = which == "wall" || which == "all", far = which == "far" || which == "all";
    const double radius = args.number("rim round");
    for (Change& c : change.list) {
        auto* changed = std::get_if<ChangedBody>(&c);
        if (!changed) continue;
        const Body& body = changed->body;
        const std::vector<int> rims = rimsOf(body, atWall, far, args.id());
        BRepFilletAPI_MakeFillet asks(body.shape().shape);
        std::vector<EdgeChain> chains;
        if (rims.empty() || !addChains(body, rims, radius, radius, false, asks, chains)) continue;
        const auto made = workEdges(
            body, chains,
            [&](const Body& b, const std::vector<EdgeChain>& some) { return rounded(b, some, args.id()); },
            progress, args.onlyWhole());
        const std::size_t left = made ? made->left.size() : chains.size();
        std::optional<Vec3> place;
        if (left > 0) place = middleOf(made ? made->left.front() : chains.front());
        if (made) changed->body = made->body;
        if (left == 0) continue;
        change.doubt = errorOf(
            "emboss.rims",
            phrase(left == chains.size()
                       ? "Its edges cannot be rounded by %1, so they stay sharp. Take a smaller radius."
                       : "Some of its edges cannot be rounded by %1 and stay sharp. Take a smaller radius.",
                   formatAmount(radius, "mm", 2)));
        change.doubt->place = place;
        change.doubt->remedies.push_back({args.id(), "rim round", formatAmount(0.5 * radius, "mm", 2),
                                          phrase("%1", formatAmount(0.5 * radius, "mm", 2)), false});
    }
}

} // namespace gc

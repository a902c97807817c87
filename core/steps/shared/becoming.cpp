#include "core/steps/shared/becoming.hpp"

#include "core/steps/shared/rooting.hpp"

#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>

namespace gc {

Result<Becoming> becomingOf(const Arguments& args, ModelReader& model) {
    Becoming b;
    const std::string& does = args.text("does");
    b.how = does == "taking from" ? Combine::Take : does == "common with" ? Combine::Common : Combine::Add;
    if (does == "as new body") return b;
    b.target = model.bodyIn("target");
    const Body* body = b.target ? model.body(*b.target) : nullptr;
    if (!body)
        return errorOf(
            "becoming.body",
            phrase("There is no body called \"%1\" before this step. Make a new one, or choose another.",
                   args.label("target")));
    b.body = *body;
    return b;
}

namespace {

/// The solids of a tool, each with the names of its own faces.
std::vector<NamedTool> solidsOf(const NamedTool& tool) {
    std::vector<NamedTool> out;
    for (TopExp_Explorer x(tool.shape, TopAbs_SOLID); x.More(); x.Next()) {
        NamedTool one = tool;
        one.shape = x.Current();
        TopTools_IndexedMapOfShape faces;
        TopExp::MapShapes(one.shape, TopAbs_FACE, faces);
        std::erase_if(one.names, [&](const auto& n) { return !faces.Contains(n.first); });
        out.push_back(std::move(one));
    }
    return out;
}

/// Adds what ends on walls of another shape one after the other. Nothing where nothing does, or where that
/// fails.
std::optional<StepChange> joinRooted(const Becoming& becoming, const NamedTool& tool) {
    StepChange change;
    std::vector<NamedTool> solids = solidsOf(tool);
    for (NamedTool& one : solids)
        if (auto root = rooted(becoming.body, one)) {
            change.notes.push_back(phrase(
                "%1 ends on a wall of another shape: it is carried on by up to %2, so that no gap stays.",
                marked(root->face), formatAmount(root->by, "mm", 2)));
            one = std::move(root->tool);
        }
    if (change.notes.empty()) return std::nullopt;
    Body now = becoming.body;
    for (const NamedTool& one : solids) {
        auto joined = combine(now, one, Combine::Add);
        if (!joined) return std::nullopt;
        now = std::move(*joined);
    }
    change.list.push_back(ChangedBody{*becoming.target, now});
    return change;
}

Result<StepChange> join(const Becoming& becoming, const NamedTool& tool) {
    const bool adds = becoming.how == Combine::Add;
    if (adds)
        if (auto change = joinRooted(becoming, tool)) return std::move(*change);
    auto joined = combine(becoming.body, tool, becoming.how);
    if (joined) return StepChange(ChangedBody{*becoming.target, *joined});
    if (adds && joined.error().code == "combine.apart")
        if (const auto gap = lacking(becoming.body, tool))
            return errorOf("combine.gap",
                           phrase("It ends %1 short of the body, so they would stay two pieces. Make it "
                                  "longer by that, or let it go to the next wall.",
                                  formatAmount(*gap, "mm", 2)));
    return joined.error();
}

} // namespace

Result<StepChange> become(const Becoming& becoming, const NamedTool& tool, std::size_t pieces) {
    if (becoming.target) return join(becoming, tool);
    if (pieces > 1)
        return errorOf("becoming.areas",
                       phrase("The drawing encloses %1 areas that do not touch, so the body "
                              "would be as many pieces. Choose one of them in the sentence.",
                              std::to_string(pieces)));
    auto body = bodyOf(tool);
    return body ? Result<StepChange>(StepChange(MadeBody{*body})) : body.error();
}

} // namespace gc

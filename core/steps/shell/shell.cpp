// Shell: a body hollowed to an even wall.

#include "core/steps/shared/find_items.hpp"
#include "core/steps/shell/hollowing.hpp"

namespace gc {

Result<StepChange> runShell(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto id = model.bodyIn("body");
    const Body* before = id ? model.body(*id) : nullptr;
    if (!before)
        return errorOf("shell.body",
                       phrase("There is no body called \"%1\" before this step.", args.label("body")));
    StepChange change;
    ShellWish wish;
    const auto faces = [&](const char* slot, std::vector<int>& out) -> std::optional<Error> {
        if (args.references(slot).empty()) return std::nullopt;
        auto found = findFacesOn(*id, args.references(slot), model);
        if (!found) return found.error();
        out = found->items;
        change.notes.insert(change.notes.end(), found->notes.begin(), found->notes.end());
        return std::nullopt;
    };
    if (auto fault = faces("open", wish.open)) return *fault;
    const double sense = args.text("side") == "outward" ? 1 : -1;
    wish.offset = sense * args.number("wall");
    if (args.text("rest") == "but") {
        if (auto fault = faces("others", wish.others)) return *fault;
        wish.otherOffset = sense * args.number("other wall");
    }
    const bool both = args.text("side") == "half each way";
    auto body = both ? hollowedBothWays(*before, wish, args.id(), progress)
                     : hollowed(*before, wish, args.id(), progress);
    if (!body) return body.error();
    if (args.text("becomes") == "as new body")
        change.list.push_back(MadeBody{std::move(*body)});
    else
        change.list.push_back(ChangedBody{*id, std::move(*body)});
    change.checked = true;
    return change;
}

} // namespace gc

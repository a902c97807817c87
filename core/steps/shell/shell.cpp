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
    std::vector<int> open;
    if (!args.references("open").empty()) {
        auto found = findFacesOn(*id, args.references("open"), model);
        if (!found) return found.error();
        open = found->items;
        change.notes = found->notes;
    }
    const double offset = args.number("wall") * (args.text("side") == "outward" ? 1 : -1);
    auto body = hollowed(*before, open, offset, args.id(), progress);
    if (!body) return body.error();
    change.list.push_back(ChangedBody{*id, std::move(*body)});
    change.checked = true;
    return change;
}

} // namespace gc

#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/find_body.hpp"

namespace gc {

Result<StepChange> runCombine(const Arguments& args, ModelReader& model, const Progress&) {
    const auto body = findBody(args, "body", model);
    if (!body) return body.error();
    const auto tool = findBody(args, "tool", model);
    if (!tool) return tool.error();
    if (body->id == tool->id)
        return errorOf("combine.same",
                       "A body cannot be combined with itself. Choose another one for the second.");
    const std::string& how = args.text("how");
    const auto joined = combine(body->body, toolOf(tool->body, args.id()),
                                how == "less"             ? Combine::Take
                                : how == "where it meets" ? Combine::Common
                                                          : Combine::Add);
    if (!joined) return joined.error();
    StepChange change(ChangedBody{body->id, *joined});
    if (args.text("keep") != "keeping it") change.list.push_back(EndedBody{tool->id});
    return change;
}

} // namespace gc

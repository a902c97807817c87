#include "core/steps/shared/find_body.hpp"

namespace gc {

Result<StepChange> runEnd(const Arguments& args, ModelReader& model, const Progress&) {
    const auto body = findBody(args, "body", model);
    if (!body) return body.error();
    return StepChange(EndedBody{body->id});
}

} // namespace gc

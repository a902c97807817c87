#include "core/steps/shared/find_body.hpp"

namespace gc {

Result<FoundBody> findBody(const Arguments& args, const std::string& slot, ModelReader& model) {
    const auto id = model.bodyIn(slot);
    const Body* body = id ? model.body(*id) : nullptr;
    if (!body)
        return errorOf(
            "body.lost",
            phrase("There is no body called \"%1\" before this step. Choose another one.", args.label(slot)));
    return FoundBody{*id, *body};
}

} // namespace gc

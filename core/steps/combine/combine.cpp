#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/find_body.hpp"

#include <algorithm>

namespace gc {

namespace {

struct Others {
    std::vector<ThingId> ids;
    bool named = false; ///< else those that the body touches, and those that touch these
};
Result<Others> othersOf(const Arguments& args, ThingId body, ModelReader& model) {
    Others out;
    for (const auto& id : model.bodiesIn("tool")) {
        out.named = true;
        if (!id)
            return errorOf("body.lost",
                           phrase("There is no body called \"%1\" before this step. Choose another one.",
                                  args.label("tool")));
        if (*id == body)
            return errorOf("combine.same",
                           "A body cannot be combined with itself. Choose another one for the second.");
        if (std::find(out.ids.begin(), out.ids.end(), *id) == out.ids.end()) out.ids.push_back(*id);
    }
    if (out.named) return out;
    for (const ThingId id : model.bodies())
        if (id != body) out.ids.push_back(id);
    return out;
}

/// Does this only say that the two do not reach each other?
bool reachesNot(const Error& e) {
    return e.code == "combine.apart" || e.code == "combine.touches";
}

} // namespace

Result<StepChange> runCombine(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto body = findBody(args, "body", model);
    if (!body) return body.error();
    const auto others = othersOf(args, body->id, model);
    if (!others) return others.error();
    const std::string& text = args.text("how");
    const Combine how = text == "less"             ? Combine::Take
                        : text == "where it meets" ? Combine::Common
                                                   : Combine::Add;
    Body now = body->body;
    std::vector<ThingId> left = others->ids, used;
    std::optional<Error> apart;
    // What is joined may reach the body only by way of another: round by round, until none is added.
    for (bool more = true; more && !left.empty();) {
        more = false;
        for (auto id = left.begin(); id != left.end();) {
            if (progress.stopped()) return stoppedError();
            if (!others->named && !boxesMeet(looseEnvelope(now), model.box(*id))) {
                ++id;
                continue;
            }
            auto with = combine(now, toolOf(*model.body(*id), args.id()), how);
            if (!with) {
                if (!reachesNot(with.error())) return with.error();
                if (!apart) apart = with.error();
                ++id;
                continue;
            }
            now = std::move(*with);
            used.push_back(*id);
            id = left.erase(id);
            more = true;
        }
        if (how != Combine::Add) break;
    }
    if (used.empty() || (others->named && !left.empty()))
        return apart ? *apart
                     : errorOf("combine.apart", "The body touches no other one. Choose what it is to be "
                                                "combined with, or let them reach each other.");
    StepChange change(ChangedBody{body->id, std::move(now)});
    if (args.text("keep") != "keeping it")
        for (const ThingId id : used) change.list.push_back(EndedBody{id});
    return change;
}

} // namespace gc

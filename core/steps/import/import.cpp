#include "core/exchange/step_file.hpp"
#include "core/steps/step_run.hpp"

#include <algorithm>

namespace gc {

Result<StepChange> runImport(const StepArguments& args, const ModelState& state) {
    Error e;
    const auto& files = *args.attachments;
    const auto it = std::find_if(files.begin(), files.end(),
                                 [&](const Attachment& a) { return a.name == args.text("file"); });
    if (it == files.end()) {
        e.code = "import.file";
        e.sentence = "The part holds no file called \"" + args.text("file") + "\". Choose a STEP file.";
        return e;
    }
    if (state.bodies.count(args.text("body"))) {
        e.code = "import.name";
        e.sentence =
            "There is a body called \"" + args.text("body") + "\" already. Give this one another name.";
        return e;
    }
    auto body = readStep(it->content.text(), args.id, args.content);
    if (!body) return body.error();
    StepChange change;
    change.bodyName = args.text("body");
    change.body = *body;
    const BodyCheck check = checkBody(*body);
    for (const std::string& fault : check.faults) change.notes.push_back("In the file: " + fault + ".");
    if (check.solids > 1)
        change.notes.push_back("The file holds " + std::to_string(check.solids) + " solids.");
    return change;
}

} // namespace gc

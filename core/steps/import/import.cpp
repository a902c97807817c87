#include "core/exchange/step_file.hpp"
#include "core/model/arguments.hpp"
#include "core/shape/body.hpp"

#include <algorithm>

namespace gc {

Result<StepChange> runImport(const Arguments& args, ModelReader&, const Progress&) {
    const std::string* content = args.file("file");
    if (!content)
        return errorOf("import.file",
                       "The part holds no file called \"" + args.label("file") + "\". Choose a STEP file.");
    auto body = readStep(*content, args.id());
    if (!body) return body.error();
    StepChange change(MadeBody{*body});
    const BodyCheck check = checkBody(*body);
    for (const std::string& fault : check.faults) change.notes.push_back("In the file: " + fault + ".");
    if (check.solids > 1)
        change.notes.push_back("The file holds " + std::to_string(check.solids) + " solids.");
    return change;
}

} // namespace gc

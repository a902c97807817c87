#include "core/exchange/step_file.hpp"
#include "core/model/arguments.hpp"
#include "core/shape/body.hpp"

#include <algorithm>

namespace gc {

Result<StepChange> runImport(const Arguments& args, ModelReader&, const Progress&) {
    const std::string* content = args.file("file");
    if (!content)
        return errorOf("import.file", phrase("The part holds no file called \"%1\". Choose a STEP file.",
                                             args.label("file")));
    auto body = readStep(*content, args.id());
    if (!body) return body.error();
    StepChange change(MadeBody{*body});
    const BodyCheck check = checkBody(*body);
    for (const Message& fault : check.faults) change.notes.push_back(phrase("In the file: %1.", fault));
    if (check.solids > 1)
        change.notes.push_back(phrase("The file holds %1 solids.", std::to_string(check.solids)));
    return change;
}

} // namespace gc

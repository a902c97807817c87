#include "core/base/base64.hpp"
#include "core/exchange/step_file.hpp"
#include "core/exchange/stl_file.hpp"
#include "core/model/arguments.hpp"
#include "core/shape/body.hpp"

#include <algorithm>

namespace gc {

namespace {

/// An STL file is held as bytes in a text.
Result<std::vector<NamedBody>> readTriangles(const std::string& content, int step) {
    const bool inWords = content.find("facet") != std::string::npos; // which could be read as base64, too
    const auto bytes = inWords ? std::nullopt : fromBase64(content);
    auto body = readStl(bytes ? *bytes : content, step);
    if (!body && body.error().code == "stl.syntax")
        return errorOf("import.syntax",
                       "This is neither a STEP nor an STL file that can be read. It may be cut "
                       "off; export it anew.");
    if (!body) return body.error();
    return std::vector<NamedBody>{{"", *body}};
}

} // namespace

Result<StepChange> runImport(const Arguments& args, ModelReader&, const Progress&) {
    const std::string* content = args.file("file");
    if (!content)
        return errorOf(
            "import.file",
            phrase("The part holds no file called \"%1\". Choose a STEP or STL file.", args.label("file")));
    const bool step = content->find("ISO-10303-21") != std::string::npos;
    const auto bodies = step ? readStep(*content, args.id()) : readTriangles(*content, args.id());
    if (!bodies) return bodies.error();
    StepChange change;
    for (const NamedBody& b : *bodies) {
        change.list.push_back(MadeBody{b.body, {b.name, b.colour}});
        for (const Message& fault : checkBody(b.body).faults)
            change.notes.push_back(b.name.empty() ? phrase("In the file: %1.", fault)
                                                  : phrase("In the file, %1: %2.", b.name, fault));
    }
    if (!step)
        change.notes.push_back(phrase(
            "It is made of triangles: %1 flat faces, and rounds as coarse as the file. Its lengths are "
            "taken for millimetres. Measure against it and look at it; do not build on its rounds.",
            std::to_string(faceCount(bodies->front().body))));
    if (bodies->size() > 1)
        change.notes.push_back(
            phrase("The file holds %1 solids, each a body now.", std::to_string(bodies->size())));
    return change;
}

} // namespace gc

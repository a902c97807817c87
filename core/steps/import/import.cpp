#include "core/base/base64.hpp"
#include "core/exchange/healing.hpp"
#include "core/exchange/obj_file.hpp"
#include "core/exchange/step_file.hpp"
#include "core/exchange/stl_file.hpp"
#include "core/exchange/threemf_file.hpp"
#include "core/model/arguments.hpp"
#include "core/shape/body.hpp"

#include <algorithm>
#include <map>

namespace gc {

namespace {

/// Files of bytes are held as texts. Words that the other way round could be read as bytes come first.
std::string bytesOf(const std::string& content) {
    if (content.find("facet") != std::string::npos || isObj(content)) return content;
    const auto bytes = fromBase64(content);
    return bytes ? *bytes : content;
}

/// Millimetres for one of the lengths of a file that does not say it.
double unitIn(const Arguments& args) {
    const std::string& unit = args.text("unit");
    return unit == "in inches" ? 25.4 : unit == "in centimetres" ? 10 : unit == "in metres" ? 1000 : 1;
}

Result<std::vector<NamedBody>> readTriangles(const std::string& bytes, const Arguments& args) {
    if (isPacked(bytes)) return read3mf(bytes, args.id());
    if (isObj(bytes)) return readObj(bytes, args.id(), unitIn(args));
    auto bodies = readStl(bytes, args.id(), unitIn(args));
    if (!bodies && bodies.error().code == "stl.syntax")
        return errorOf("import.syntax",
                       "This is neither a STEP nor an STL, OBJ or 3MF file that can be read. It "
                       "may be cut off; export it anew.");
    return bodies;
}

/// What is of triangles says what it is good for. \param aside that it is only to compare with is said
/// already
Message ofTriangles(const std::vector<NamedBody>& bodies, bool saysUnit, const std::string& unit,
                    bool aside) {
    int faces = 0;
    for (const NamedBody& b : bodies) faces += faceCount(b.body);
    const Message what = phrase("It is made of triangles: %1 flat faces, and rounds as coarse as the file.",
                                std::to_string(faces)),
                  use = aside ? Message("Measure against it and look at it; do not build on its rounds.")
                              : Message("Measure against it and look at it; do not build on its rounds. If "
                                        "it is a scan, say in its sentence that it is only to compare with.");
    if (saysUnit) return phrase("%1 %2", what, use);
    return phrase("%1 Its lengths are taken to be %2. %3", what, unit, use);
}

/// What is to be said of a file's bodies. What many have in common is said once.
class Said {
  public:
    void add(const NamedBody& body, const Message& what) {
        if (!m_by.count(what.pattern())) m_order.push_back(what.pattern());
        m_by[what.pattern()].push_back({body.name, what});
    }
    std::vector<Message> notes() const {
        constexpr std::size_t kEach = 3;
        std::vector<Message> out;
        for (const std::string& pattern : m_order) {
            const auto& all = m_by.at(pattern);
            if (all.size() > kEach)
                out.push_back(phrase("In the file, %1 bodies alike: %2", std::to_string(all.size()),
                                     all.front().second));
            else
                for (const auto& [body, what] : all)
                    out.push_back(body.empty() ? phrase("In the file: %1", what)
                                               : phrase("In the file, %1: %2", body, what));
        }
        return out;
    }

  private:
    std::vector<std::string> m_order;
    std::map<std::string, std::vector<std::pair<std::string, Message>>> m_by;
};

void sayFaults(const NamedBody& body, Said& said) {
    const BodyCheck check = checkBody(body.body);
    if (check.solids > 0)
        for (const Message& fault : check.faults) said.add(body, fault);
    else
        said.add(body, phrase("it is a surface, open at %1 edges", std::to_string(check.openEdges)));
}

} // namespace

Result<StepChange> runImport(const Arguments& args, ModelReader&, const Progress& progress) {
    const std::string* content = args.file("file");
    if (!content)
        return errorOf("import.file",
                       phrase("The part holds no file called \"%1\". Choose a STEP, STL, OBJ or 3MF file.",
                              args.label("file")));
    const bool step = content->find("ISO-10303-21") != std::string::npos;
    const std::string bytes = step ? std::string() : bytesOf(*content);
    auto bodies = step ? readStep(*content, args.id()) : readTriangles(bytes, args);
    if (!bodies) return bodies.error();
    StepChange change;
    Said said;
    for (NamedBody& b : *bodies) {
        if (progress.stopped()) return stoppedError();
        for (const Message& note : b.notes) said.add(b, note);
        if (args.text("open") == "closed where it is open" && checkBody(b.body).openEdges > 0) {
            auto closed = closedBody(b.body, args.id());
            if (closed)
                b.body = std::move(*closed);
            else
                said.add(b, closed.error().sentence);
        }
        sayFaults(b, said);
        change.list.push_back(MadeBody{b.body, {b.name, b.colour}});
    }
    change.notes = said.notes();
    if (!step)
        change.notes.push_back(
            ofTriangles(*bodies, isPacked(bytes), args.text("unit").substr(3), args.text("counts") != "yes"));
    if (bodies->size() > 1)
        change.notes.push_back(phrase("The file holds %1 bodies.", std::to_string(bodies->size())));
    return change;
}

} // namespace gc

#include "core/base/base64.hpp"
#include "core/base/hash.hpp"
#include "core/document/body_list.hpp"
#include "core/exchange/healing.hpp"
#include "core/exchange/obj_file.hpp"
#include "core/exchange/step_file.hpp"
#include "core/exchange/stl_file.hpp"
#include "core/exchange/threemf_file.hpp"
#include "core/model/arguments.hpp"
#include "core/shape/body.hpp"

#include <algorithm>
#include <functional>
#include <map>
#include <mutex>
#include <optional>

namespace gc {

namespace {

bool isStepText(const std::string& content) {
    return content.find("ISO-10303-21") != std::string::npos;
}

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
Message ofTriangles(int faces, bool saysUnit, const std::string& unit, bool aside) {
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

/// What a file holds, read once: choosing among its bodies reads nothing anew.
class LastRead {
  public:
    using Bodies = std::vector<NamedBody>;
    Result<Bodies> of(std::uint64_t key, const std::function<Result<Bodies>()>& read) {
        const std::lock_guard lock(m_mutex);
        if (m_key == key && !m_bodies.empty()) return m_bodies;
        auto bodies = read();
        m_bodies = bodies ? *bodies : Bodies();
        m_key = key;
        return bodies;
    }

  private:
    std::mutex m_mutex;
    std::uint64_t m_key = 0;
    Bodies m_bodies; ///< none: of no file yet
};

/// By which bodies of a file are told apart: their names, the place in the file where they have none, and
/// which one of those of one name.
std::vector<std::string> namesFor(const std::vector<NamedBody>& bodies) {
    std::vector<std::string> out;
    std::map<std::string, int> seen;
    for (const NamedBody& b : bodies) {
        std::string name = b.name.empty() ? "body " + std::to_string(out.size() + 1) : b.name;
        std::replace(name.begin(), name.end(), '|', '/'); // it stands between names
        if (const int k = ++seen[name]; k > 1) name += " (" + std::to_string(k) + ")";
        out.push_back(name);
    }
    return out;
}

/// Which of a file's bodies are taken, as the sentence says; all, where it does not.
struct TakenBodies {
    std::vector<std::string> names; ///< of all in the file
    std::vector<bool> taken;
    std::vector<std::string> missing; ///< chosen, but not in the file

    TakenBodies(std::vector<std::string> all, const std::string& which)
        : names(std::move(all)), missing(namesInList(which)) {
        taken.assign(names.size(), missing.empty());
        std::erase_if(missing, [&](const std::string& name) {
            const auto at = std::find(names.begin(), names.end(), name);
            if (at != names.end()) taken[static_cast<std::size_t>(at - names.begin())] = true;
            return at != names.end();
        });
    }
    bool none() const { return std::find(taken.begin(), taken.end(), true) == taken.end(); }
    bool isChosenFrom() const { return names.size() > 1 || !missing.empty(); }
};

Result<std::vector<NamedBody>> bodiesIn(const std::string& content, const Arguments& args) {
    static LastRead last;
    const bool step = isStepText(content); // which says its unit
    const auto id = static_cast<std::uint64_t>(args.id());
    const auto key = Hasher().text(content).text(step ? std::string() : args.text("unit")).number(id).value();
    return last.of(key, [&]() -> Result<std::vector<NamedBody>> {
        if (step) return readStep(content, args.id());
        return readTriangles(bytesOf(content), args);
    });
}

void sayHowMany(std::size_t taken, std::size_t all, std::vector<Message>& notes) {
    if (taken < all)
        notes.push_back(
            phrase("%1 of the %2 bodies in the file are taken.", std::to_string(taken), std::to_string(all)));
    else if (all > 1)
        notes.push_back(phrase("The file holds %1 bodies.", std::to_string(all)));
}

} // namespace

Result<StepChange> runImport(const Arguments& args, ModelReader& model, const Progress& progress) {
    const std::string* content = args.file("file");
    if (!content)
        return errorOf("import.file",
                       phrase("The part holds no file called \"%1\". Choose a STEP, STL, OBJ or 3MF file.",
                              args.label("file")));
    auto bodies = bodiesIn(*content, args);
    if (!bodies) return bodies.error();
    StepChange change;
    const TakenBodies which(namesFor(*bodies), args.text("which"));
    if (which.isChosenFrom())
        for (std::size_t i = 0; i < bodies->size(); ++i)
            model.show(FileBody{which.names[i], (*bodies)[i].body, which.taken[i]});
    if (which.none())
        return errorOf("import.which",
                       phrase("The file holds no body called %1. Choose among those that it holds.",
                              marked(which.missing.front())));
    for (const std::string& name : which.missing)
        change.notes.push_back(
            phrase("The file holds no body called %1 any more; it is left out.", marked(name)));
    Said said;
    int faces = 0;
    for (std::size_t i = 0; i < bodies->size(); ++i) {
        NamedBody& b = (*bodies)[i];
        if (progress.stopped()) return stoppedError();
        if (!which.taken[i]) continue;
        for (const Message& note : b.notes) said.add(b, note);
        if (args.text("open") == "closed where it is open" && checkBody(b.body).openEdges > 0) {
            auto closed = closedBody(b.body, args.id());
            if (closed)
                b.body = std::move(*closed);
            else
                said.add(b, closed.error().sentence);
        }
        sayFaults(b, said);
        faces += faceCount(b.body);
        change.list.push_back(MadeBody{b.body, {b.name, b.colour}, static_cast<int>(i)});
    }
    for (Message& note : said.notes()) change.notes.push_back(std::move(note));
    if (!isStepText(*content))
        change.notes.push_back(ofTriangles(faces, isPacked(bytesOf(*content)), args.text("unit").substr(3),
                                           args.text("counts") != "yes"));
    sayHowMany(change.list.size(), bodies->size(), change.notes);
    return change;
}

} // namespace gc

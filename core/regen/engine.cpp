#include "core/regen/engine.hpp"

#include "core/base/hash.hpp"
#include "core/document/drawing_file.hpp"
#include "core/document/drawing_sizes.hpp"

#include <algorithm>
#include <chrono>

namespace gc {

namespace {

Error slotError(const Error& cause, const SlotWords& slot) {
    Error e = cause;
    e.sentence = "The " + slot.label + ": " + cause.sentence;
    e.culprits.insert(e.culprits.begin(), slot.key);
    return e;
}

Result<Done> readStations(const Step& step, const Part& part, const Values& values, StepArguments& args) {
    const StationCheck check =
        checkStations(step.stations("stations"), args.numbers.at("tolerance"), part.brief.units, values);
    if (check.faults.empty()) {
        args.stations = check.rows;
        return Done{};
    }
    Error e;
    e.code = "stations.row";
    e.position = check.faults.front().row;
    for (const RowFault& f : check.faults) e.culprits.push_back("row " + std::to_string(f.row + 1));
    e.sentence = "Row " + std::to_string(e.position + 1) + ": " + check.faults.front().sentence;
    return e;
}

/// A drawing that lies in a plane of its own and follows nothing is the same whatever the bodies are.
bool leansOnBodies(const StepArguments& args) {
    if (args.kind == "outline") return false;
    if (args.kind != "draw") return true;
    const auto& relations = args.drawing->relations;
    return parseFaceRef(args.text("plane")).ok() ||
           std::any_of(relations.begin(), relations.end(),
                       [](const Relation& r) { return !r.source.empty(); });
}

/// The step and everything it uses, down to the content of its inputs.
std::uint64_t contentOf(const StepArguments& args, const ModelState& state) {
    Hasher h;
    h.number(static_cast<std::uint64_t>(args.id)).text(args.kind);
    for (const auto& [key, v] : args.numbers) h.text(key).real(v);
    for (const auto& [key, t] : args.texts) h.text(key).text(t);
    for (const auto& [key, refs] : args.references) {
        h.text(key).number(refs.size());
        for (const std::string& r : refs) h.text(r);
    }
    for (const StationValues& s : args.stations)
        h.real(s.height).real(s.diameter).real(s.tolerance).number(s.inside ? 1 : 0);
    if (args.drawing) {
        h.text(drawingToJson(*args.drawing).dump());
        for (const auto& [id, size] : args.sizes) h.number(static_cast<std::uint64_t>(id)).real(size);
    }
    if (args.kind == "import")
        for (const Attachment& a : *args.attachments)
            if (a.name == args.texts.at("file")) h.text(a.content.text());
    if (const auto it = args.texts.find("outline"); it != args.texts.end())
        if (const auto o = state.outlines.find(it->second); o != state.outlines.end())
            h.number(o->second->content);
    if (leansOnBodies(args)) // references may lie on any of them
        for (const auto& [name, body] : state.bodies) h.text(name).number(body.content());
    for (const char* slot : {"plane", "from", "to"})
        if (const auto it = args.texts.find(slot); it != args.texts.end())
            if (const auto plane = state.planes.find(it->second); plane != state.planes.end())
                h.number(plane->second->content);
    if (args.kind == "plane") // points and curves may be of any drawing
        for (const auto& [name, outline] : state.outlines) h.text(name).number(outline->content);
    return h.value();
}

} // namespace

Result<StepArguments> Engine::argumentsOf(const Step& step, const Part& part, const Values& values,
                                          const ModelState& state) {
    StepArguments args;
    args.id = step.id;
    args.kind = step.kind;
    args.attachments = &part.attachments;
    const StepWords* words = findStepWords(step.kind);
    if (!words) {
        Error e;
        e.code = "step.kind";
        e.sentence = "This version cannot do \"" + step.kind + "\".";
        return e;
    }
    for (const SlotWords& slot : words->slots) {
        switch (slot.type) {
        case SlotType::Quantity:
        case SlotType::Count: {
            const auto v = evaluateSlot(step, slot.key, part, values);
            if (!v) return slotError(v.error(), slot);
            args.numbers[slot.key] = *v;
            break;
        }
        case SlotType::Face:
        case SlotType::Faces:
        case SlotType::Edges:
        case SlotType::Edge:
        case SlotType::Points:
        case SlotType::Point:
            args.references[slot.key] = step.references(slot.key);
            break;
        case SlotType::Stations:
            break;
        case SlotType::Drawing: {
            args.drawing = &step.drawing(slot.key);
            auto sizes = dimensionSizes(*args.drawing, part.brief.units, values);
            if (!sizes) return sizes.error();
            args.sizes = std::move(*sizes);
            break;
        }
        default:
            args.texts[slot.key] = step.text(slot.key);
            break;
        }
    }
    if (words->slot("stations"))
        if (const auto done = readStations(step, part, values, args); !done) return done.error();
    args.content = contentOf(args, state);
    return args;
}

Result<StepChange> Engine::build(const StepArguments& args, const ModelState& state, bool& cached) {
    if (const auto it = m_cache.find(args.content); it != m_cache.end()) {
        m_order.splice(m_order.begin(), m_order, it->second.place);
        cached = true;
        return it->second.change;
    }
    cached = false;
    auto change = runStep(args, state);
    m_order.push_front(args.content);
    m_cache.emplace(args.content, Entry{change, m_order.begin()});
    while (m_order.size() > kMostEntries) {
        m_cache.erase(m_order.back());
        m_order.pop_back();
    }
    return change;
}

RegenResult Engine::regenerate(const Part& part, const RegenHooks& hooks) {
    RegenResult result;
    auto values = evaluateValues(part.values, part.brief.units);
    const int shown = part.shownSteps();
    for (int i = 0; i < static_cast<int>(part.steps.size()); ++i) {
        const Step& step = part.steps[static_cast<std::size_t>(i)];
        StepReport report;
        report.id = step.id;
        report.number = i + 1;
        report.kind = step.kind;
        report.off = step.off;
        report.later = i >= shown;
        result.before.push_back(result.state);
        if (hooks.cancelled && hooks.cancelled()) {
            result.cancelled = true;
            break;
        }
        if (report.off || report.later) {
            if (hooks.stepDone) hooks.stepDone(report);
            result.steps.push_back(report);
            continue;
        }
        if (hooks.stepStarted) hooks.stepStarted(report);
        const auto start = std::chrono::steady_clock::now();
        Result<StepChange> change = Error{};
        if (!values)
            change = values.error();
        else {
            const auto args = argumentsOf(step, part, *values, result.state);
            change = args ? build(*args, result.state, report.cached) : Result<StepChange>(args.error());
            if (args) report.content = args->content;
        }
        report.milliseconds =
            std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
        if (change) {
            if (change->plane) result.state.planes[change->plane->name] = change->plane;
            if (change->outline) result.state.outlines[change->outline->name] = change->outline;
            if (!change->body.empty()) result.state.bodies[change->bodyName] = change->body;
            report.bodyName = change->bodyName;
            report.notes = change->notes;
        } else {
            report.ok = false;
            report.error = change.error();
        }
        if (hooks.stepDone) hooks.stepDone(report);
        result.steps.push_back(std::move(report));
    }
    return result;
}

} // namespace gc

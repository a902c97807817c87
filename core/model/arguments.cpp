#include "core/model/arguments.hpp"

#include "core/base/hash.hpp"
#include "core/document/axes.hpp"
#include "core/document/body_list.hpp"
#include "core/document/drawing_file.hpp"
#include "core/document/planes.hpp"

#include <algorithm>

namespace gc {

namespace {

Hasher& add(Hasher& h, ThingId id) {
    return h.number(static_cast<std::uint64_t>(id.step)).number(static_cast<std::uint64_t>(id.ordinal));
}

/// What of a drawing decides its shape: not the picture below it, and not where its figures stand.
std::uint64_t shapeHash(const Drawing& drawing, const DimensionValues& sizes) {
    Drawing bare = drawing;
    bare.picture.reset();
    for (Relation& r : bare.relations) {
        r.label = {};
        r.name.clear();
        if (sizes.count(r.id)) r.expression = "-"; // what it comes to counts, not how it is written
    }
    Hasher h;
    h.text(drawingToJson(bare).dump());
    for (const auto& [id, size] : sizes) h.number(static_cast<std::uint64_t>(id)).real(size);
    return h.value();
}

/// The thing that a slot names, as a hash of its id. A plane's text may also be a fixed plane or a face,
/// an axis' an edge: then their words are what counts. Of a list of bodies each counts.
std::uint64_t namedHash(const std::string& text, const ModelState& state) {
    Hasher h;
    for (const auto& id :
         {state.outlineNamed(text), state.planeNamed(text), state.axisNamed(text), state.bodyNamed(text)})
        if (id)
            add(h.number(1), *id);
        else
            h.number(0);
    for (const std::string& name : namesInList(text))
        if (const auto id = state.bodyNamed(name))
            add(h.number(1), *id);
        else
            h.number(0);
    if (fixedPlane(text) || fixedAxis(text) || text == kOwnAxis || parseFaceRef(text) || parseEdgeRef(text))
        h.text(text);
    return h.value();
}

template <class T>
std::uint64_t contentIn(const Entities<T>& things, ThingId id) {
    const auto it = things.find(id);
    return it == things.end() ? 0 : Hasher().number(it->second.content).number(1).value();
}

Box boxIn(const ModelState& state, ThingId id) {
    const auto it = state.bodies.find(id);
    return it == state.bodies.end() ? Box() : looseEnvelope(it->second.value);
}

std::vector<ThingId> restingOn(const ModelState& state, int step) {
    std::vector<ThingId> out;
    for (const auto& [id, body] : state.bodies)
        if (restsOnStep(body.value, step)) out.push_back(id);
    return out;
}

std::uint64_t hashOf(const std::vector<ThingId>& ids) {
    Hasher h;
    for (const ThingId id : ids) add(h, id);
    return h.value();
}

std::vector<ThingId> allOf(const ModelState& state) {
    std::vector<ThingId> out;
    for (const auto& [id, body] : state.bodies) out.push_back(id);
    return out;
}

std::optional<double> valueAt(const StepArguments& arguments, const std::string& slot, int place) {
    const auto it = arguments.series.find(slot);
    return it == arguments.series.end() ? std::optional(arguments.numbers.at(slot)) : it->second(place);
}

} // namespace

Error stoppedError() {
    return errorOf("step.stopped", "The step was stopped.");
}

std::uint64_t StepInputs::lookUp(const Read& read) const {
    Hasher h;
    const StepArguments& a = m_arguments;
    switch (read.what) {
    case Read::What::Number:
        return h.real(a.numbers.at(read.slot)).value();
    case Read::What::Series: {
        const auto v = valueAt(a, read.slot, read.id.step);
        return v ? h.real(*v).value() : 0;
    }
    case Read::What::Text:
        return h.text(a.texts.at(read.slot)).value();
    case Read::What::Picked:
        for (const std::string& r : a.references.at(read.slot)) h.text(r);
        return h.value();
    case Read::What::Rows:
        for (const StationValues& s : a.stations)
            h.real(s.height).real(s.diameter).real(s.tolerance).number(s.inside ? 1 : 0);
        return h.value();
    case Read::What::Drawing:
        return a.drawing ? shapeHash(**a.drawing, a.sizes) : 0;
    case Read::What::File: {
        const auto it = a.files.find(read.slot);
        return it == a.files.end() ? 0 : it->second.hash();
    }
    case Read::What::Named:
        return namedHash(a.texts.at(read.slot), m_state);
    case Read::What::Body:
        return contentIn(m_state.bodies, read.id);
    case Read::What::Outline:
        return contentIn(m_state.outlines, read.id);
    case Read::What::Plane:
        return contentIn(m_state.planes, read.id);
    case Read::What::Axis:
        return contentIn(m_state.axes, read.id);
    case Read::What::Curve:
        return contentIn(m_state.curves, read.id);
    case Read::What::BodiesOn:
        return hashOf(restingOn(m_state, read.id.step));
    case Read::What::Bodies:
        return hashOf(allOf(m_state));
    case Read::What::Box: {
        const Box box = boxIn(m_state, read.id);
        for (const Vec3& v : {box.low, box.high}) h.real(v.x).real(v.y).real(v.z);
        return h.value();
    }
    case Read::What::Label:
        return h.text(a.texts.at(read.slot)).value();
    case Read::What::BodyName: {
        const auto it = m_state.bodies.find(read.id);
        return it == m_state.bodies.end() ? 0 : h.text(it->second.name).value();
    }
    }
    return 0;
}

void StepInputs::note(Read::What what, const std::string& slot, ThingId id) {
    Read read{what, slot, id, 0};
    if (m_known.count(read)) return;
    m_known.insert(read);
    read.found = lookUp(read);
    m_reads.push_back(std::move(read));
}

void StepInputs::forgetNames() {
    std::erase_if(
        m_reads, [](const Read& r) { return r.what == Read::What::Label || r.what == Read::What::BodyName; });
}

std::uint64_t StepInputs::contentOf(const StepArguments& arguments, const std::vector<Read>& reads) {
    Hasher h;
    h.number(static_cast<std::uint64_t>(arguments.id)).text(arguments.kind);
    if (arguments.onlyWhole) h.text("only whole"); // another way may have made it, a little otherwise
    for (const Read& r : reads)
        add(h.number(static_cast<std::uint64_t>(r.what)).text(r.slot), r.id).number(r.found);
    return h.value();
}

double Arguments::number(const std::string& slot) const {
    m_inputs.note(Read::What::Number, slot);
    return m_inputs.arguments().numbers.at(slot);
}

std::optional<double> Arguments::numberAt(const std::string& slot, int place) const {
    m_inputs.note(Read::What::Series, slot, {place, 0});
    return valueAt(m_inputs.arguments(), slot, place);
}

const std::string& Arguments::text(const std::string& slot) const {
    m_inputs.note(Read::What::Text, slot);
    return m_inputs.arguments().texts.at(slot);
}

const References& Arguments::references(const std::string& slot) const {
    m_inputs.note(Read::What::Picked, slot);
    return m_inputs.arguments().references.at(slot);
}

const std::vector<StationValues>& Arguments::stations() const {
    m_inputs.note(Read::What::Rows, {});
    return m_inputs.arguments().stations;
}

const Drawing& Arguments::drawing() const {
    m_inputs.note(Read::What::Drawing, {});
    return **m_inputs.arguments().drawing;
}

const DimensionValues& Arguments::sizes() const {
    m_inputs.note(Read::What::Drawing, {});
    return m_inputs.arguments().sizes;
}

const std::string* Arguments::file(const std::string& slot) const {
    m_inputs.note(Read::What::File, slot);
    const auto& files = m_inputs.arguments().files;
    const auto it = files.find(slot);
    return it == files.end() ? nullptr : &it->second.text();
}

const std::string& Arguments::label(const std::string& slot) const {
    m_inputs.note(Read::What::Label, slot);
    return m_inputs.arguments().texts.at(slot);
}

std::optional<ThingId> ModelReader::outlineIn(const std::string& slot) {
    m_inputs.note(Read::What::Named, slot);
    return m_inputs.state().outlineNamed(m_inputs.arguments().texts.at(slot));
}

std::optional<ThingId> ModelReader::planeIn(const std::string& slot) {
    m_inputs.note(Read::What::Named, slot);
    return m_inputs.state().planeNamed(m_inputs.arguments().texts.at(slot));
}

std::optional<ThingId> ModelReader::axisIn(const std::string& slot) {
    m_inputs.note(Read::What::Named, slot);
    return m_inputs.state().axisNamed(m_inputs.arguments().texts.at(slot));
}

std::optional<ThingId> ModelReader::bodyIn(const std::string& slot) {
    m_inputs.note(Read::What::Named, slot);
    return m_inputs.state().bodyNamed(m_inputs.arguments().texts.at(slot));
}

std::vector<std::optional<ThingId>> ModelReader::bodiesIn(const std::string& slot) {
    m_inputs.note(Read::What::Named, slot);
    std::vector<std::optional<ThingId>> out;
    for (const std::string& name : namesInList(m_inputs.arguments().texts.at(slot)))
        out.push_back(m_inputs.state().bodyNamed(name));
    return out;
}

Box ModelReader::box(ThingId id) {
    m_inputs.note(Read::What::Box, {}, id);
    return boxIn(m_inputs.state(), id);
}

const Outline* ModelReader::outline(ThingId id) {
    m_inputs.note(Read::What::Outline, {}, id);
    const auto it = m_inputs.state().outlines.find(id);
    return it == m_inputs.state().outlines.end() ? nullptr : it->second.value.get();
}

std::optional<Plane> ModelReader::plane(ThingId id) {
    m_inputs.note(Read::What::Plane, {}, id);
    const auto it = m_inputs.state().planes.find(id);
    return it == m_inputs.state().planes.end() ? std::nullopt : std::optional<Plane>(it->second.value);
}

std::optional<Axis> ModelReader::axis(ThingId id) {
    m_inputs.note(Read::What::Axis, {}, id);
    const auto it = m_inputs.state().axes.find(id);
    return it == m_inputs.state().axes.end() ? std::nullopt : std::optional<Axis>(it->second.value);
}

const SpaceCurve* ModelReader::curve(ThingId id) {
    m_inputs.note(Read::What::Curve, {}, id);
    const auto it = m_inputs.state().curves.find(id);
    return it == m_inputs.state().curves.end() ? nullptr : &it->second.value;
}

const Body* ModelReader::body(ThingId id) {
    m_inputs.note(Read::What::Body, {}, id);
    const auto it = m_inputs.state().bodies.find(id);
    return it == m_inputs.state().bodies.end() ? nullptr : &it->second.value;
}

const std::string& ModelReader::nameOf(ThingId body) {
    m_inputs.note(Read::What::BodyName, {}, body);
    return m_inputs.state().bodies.at(body).name;
}

std::vector<ThingId> ModelReader::bodiesOn(int step) {
    m_inputs.note(Read::What::BodiesOn, {}, {step, 0});
    return restingOn(m_inputs.state(), step);
}

std::vector<ThingId> ModelReader::bodies() {
    m_inputs.note(Read::What::Bodies, {});
    return allOf(m_inputs.state());
}

} // namespace gc

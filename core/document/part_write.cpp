// A part as the text of its file.

#include "core/document/drawing_file.hpp"
#include "core/document/part_file.hpp"
#include "core/document/part_json.hpp"
#include "core/document/slot_trait.hpp"

#include <algorithm>
#include <nlohmann/json.hpp>

namespace gc {

namespace {

using Json = nlohmann::ordered_json;

constexpr std::size_t kLineWidth = 100;

/// Short values on one line, long ones broken: what people read and compare.
void print(const Json& value, int indent, std::string& out) {
    const std::string compact = value.dump(-1, ' ', false, Json::error_handler_t::replace);
    const std::string pad(static_cast<std::size_t>(indent) + 1, ' ');
    if (!value.is_structured() || value.empty() ||
        (indent > 0 && compact.size() + pad.size() <= kLineWidth)) {
        out += compact;
        return;
    }
    out += value.is_object() ? '{' : '[';
    bool first = true;
    for (const auto& item : value.items()) {
        out += first ? "\n" : ",\n";
        out += pad;
        if (value.is_object())
            out += Json(item.key()).dump(-1, ' ', false, Json::error_handler_t::replace) + ": ";
        print(item.value(), indent + 1, out);
        first = false;
    }
    out += '\n' + pad.substr(1) + (value.is_object() ? '}' : ']');
}

Json slotToJson(const SlotValue& value) {
    if (const auto* text = std::get_if<std::string>(&value)) return *text;
    if (const auto* refs = std::get_if<References>(&value)) return *refs;
    if (const auto* drawing = std::get_if<DrawingSlot>(&value)) return drawingToJson(**drawing);
    Json rows = Json::array();
    for (const StationRow& r : std::get<Stations>(value)) {
        Json row = {{"height", r.height}, {r.inside ? "inside" : "outside", r.diameter}};
        if (!r.tolerance.empty()) row["tolerance"] = r.tolerance;
        rows.push_back(std::move(row));
    }
    return rows;
}

Json lookToJson(const BodyLook& look) {
    Json j = {{"step", look.body.step}};
    if (look.body.ordinal > 0) j["which"] = look.body.ordinal + 1;
    if (!look.name.empty()) j["name"] = look.name;
    if (!look.material.empty()) j["material"] = look.material;
    if (!look.colour.empty()) j["colour"] = look.colour;
    if (look.hidden) j["hidden"] = true;
    return j;
}

/// A text that says something when it is empty, too: then it is left out.
bool isText(const SlotWords& s) {
    return traitOf(s.type).mayBeEmpty && traitOf(s.type).holds == SlotTrait::Holds::Text &&
           s.type != SlotType::BodiesRef;
}

/// Nobody changed it, and the sheet does not say it as the step is filled now: the reader fills it in.
bool isUnsaid(const Step& step, const StepWords& words, const SlotWords& s) {
    const SlotTrait::Holds holds = traitOf(s.type).holds;
    const bool untouched = holds == SlotTrait::Holds::Picked ? step.references(s.key).empty()
                           : holds == SlotTrait::Holds::Text || holds == SlotTrait::Holds::Number
                               ? step.text(s.key) == s.fallback
                               : false;
    return untouched &&
           std::none_of(words.sentence.begin(), words.sentence.end(), [&](const SentencePiece& p) {
               const bool quiet = p.quiet && s.choiceAt(step.text(s.key)) == 0;
               return p.slot == s.key && !quiet && (!p.shown || p.shown(step));
           });
}

} // namespace

nlohmann::ordered_json stepToJson(const Step& step) {
    Json j = {{"id", step.id}, {"kind", step.kind}};
    if (step.off) j["off"] = true;
    if (const StepWords* words = findStepWords(step.kind))
        for (const SlotWords& s : words->slots)
            if (const auto it = step.slots.find(s.key); it != step.slots.end() &&
                                                        !(isText(s) && step.text(s.key).empty()) &&
                                                        !isUnsaid(step, *words, s))
                j[s.key] = slotToJson(it->second);
    return j;
}

nlohmann::ordered_json headToJson(const Part& part) {
    const Brief& b = part.brief;
    Json targets = Json::array();
    bool ofBodies = !part.looks.empty();
    for (const Target& t : b.targets) {
        Json j = {{"measure", t.measure}, {"allowed", t.allowed}};
        if (!t.body.empty()) j["body"] = t.body;
        if (!t.of.empty()) j["of"] = t.of;
        ofBodies = ofBodies || !t.body.empty() || !t.of.empty();
        targets.push_back(std::move(j));
    }
    Json values = Json::array();
    for (const NamedValue& v : part.values) {
        Json j = {{"name", v.name}, {"expression", v.expression}};
        if (!v.note.empty()) j["note"] = v.note;
        values.push_back(std::move(j));
    }
    Json root = {{"format", "good-curve part"},
                 {"version", ofBodies ? kPartFileVersion : 1},
                 {"name", part.name},
                 {"brief",
                  {{"purpose", b.purpose},
                   {"units",
                    {{"length", b.units.length},
                     {"angle", b.units.angle},
                     {"mass", b.units.mass},
                     {"volume", b.units.volume}}},
                   {"process", b.process},
                   {"material", b.material},
                   {"pull", b.pull},
                   {"fill_line", b.fillLine},
                   {"caution", b.caution},
                   {"targets", targets}}},
                 {"values", values},
                 {"steps", Json::array()},
                 {"bookmark", part.bookmark},
                 {"next_id", part.nextId}};
    if (!part.looks.empty()) {
        root["bodies"] = Json::array();
        for (const BodyLook& l : part.looks) root["bodies"].push_back(lookToJson(l));
    }
    return root;
}

std::string writePart(const Part& part) {
    Json root = headToJson(part);
    for (const Step& s : part.steps) root["steps"].push_back(stepToJson(s));
    if (!part.attachments.empty()) {
        root["attachments"] = Json::array();
        for (const Attachment& a : part.attachments)
            root["attachments"].push_back({{"name", a.name}, {"content", a.content.text()}});
    }
    std::string out;
    print(root, 0, out);
    return out += '\n';
}

} // namespace gc

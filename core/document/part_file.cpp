#include "core/document/part_file.hpp"

#include "core/document/limits.hpp"
#include "core/document/part_json.hpp"
#include "core/document/slot_trait.hpp"

#include "core/document/areas.hpp"

#include "core/base/file.hpp"
#include "core/base/utf8.hpp"
#include "core/document/drawing_file.hpp"

#include <nlohmann/json.hpp>

#include <algorithm>
#include <memory>
#include <set>

namespace gc {

namespace {

using Json = nlohmann::ordered_json;

constexpr int kDeepest = 64;

/// What is read of a file at most: what is nested, how many keys an object has (each new one is compared with
/// all before it), and how many values there are (each takes some hundred bytes of memory). A whole part has
/// far fewer.
class ParseLimits {
  public:
    bool operator()(int depth, Json::parse_event_t event, const Json&) {
        using Event = Json::parse_event_t;
        constexpr int kMostKeys = 1000, kMostValues = 3000000;
        if (depth > kDeepest) throw std::length_error("nested too deeply");
        if (event == Event::object_start) m_keys->push_back(0);
        if (event == Event::object_end) m_keys->pop_back();
        if (event == Event::key && ++m_keys->back() > kMostKeys) throw std::length_error("too many keys");
        if (event == Event::value && ++*m_values > kMostValues) throw std::length_error("too many values");
        return true;
    }

  private: // shared, as the parser copies its callback
    std::shared_ptr<std::vector<int>> m_keys = std::make_shared<std::vector<int>>();
    std::shared_ptr<int> m_values = std::make_shared<int>(0);
};

/// Reads fields with the path of where it is, so that a message can say it. The first fault counts.
class PartReader {
  public:
    /// \param intro what a fault's sentence begins with, then where it is and what
    explicit PartReader(const char* intro) : m_intro(intro) {}

    Result<Part> read(const Json& root) {
        Part part;
        part.name = text(root, "name", "New part");
        readBrief(root, part.brief);
        for (const Json& v : list(root, "values")) {
            const Here here(*this, "a value");
            part.values.push_back({text(v, "name"), text(v, "expression"), text(v, "note", "")});
        }
        const Json& steps = list(root, "steps");
        if (steps.size() > kMostSteps) fault("The part has more than 5000 steps.");
        std::set<int> ids;
        for (std::size_t i = 0; i < steps.size() && !m_error; ++i) {
            const Here here(*this, "step " + std::to_string(i + 1));
            part.steps.push_back(readStep(steps[i]));
            if (!ids.insert(part.steps.back().id).second) fault("Two steps have the same id.");
        }
        for (const Json& b : list(root, "bodies")) {
            const Here here(*this, "a body");
            part.looks.push_back(readLook(b));
        }
        part.bookmark = static_cast<int>(number(root, "bookmark", -1, -1, kMostSteps));
        part.nextId = static_cast<int>(number(root, "next_id", 1, 1, 1e9));
        if (!ids.empty()) part.nextId = std::max(part.nextId, *ids.rbegin() + 1);
        for (const Json& a : list(root, "attachments")) {
            const Here here(*this, "an attachment");
            part.attachments.push_back({text(a, "name"), text(a, "content")});
        }
        if (m_error) return *m_error;
        return part;
    }

  private:
    /// Names the entry that is being read for as long as it lives.
    class Here {
      public:
        Here(PartReader& reader, std::string where) : m_reader(reader) {
            reader.m_where.push_back(std::move(where));
        }
        ~Here() { m_reader.m_where.pop_back(); }

      private:
        PartReader& m_reader;
    };

    void fault(const std::string& what) {
        if (m_error) return;
        Error e;
        e.code = "part.content";
        std::string where;
        for (const std::string& w : m_where) where += w + ": ";
        e.culprits = m_where;
        e.sentence = phrase(m_intro, where, what);
        m_error = e;
    }

    std::string text(const Json& j, const char* key,
                     const std::optional<std::string>& fallback = std::nullopt) {
        const auto it = j.is_object() ? j.find(key) : j.end();
        if (!j.is_object() || it == j.end()) {
            if (!fallback) fault(std::string("\"") + key + "\" is missing.");
            return fallback.value_or("");
        }
        if (!it->is_string()) {
            fault(std::string("\"") + key + "\" should be a text.");
            return {};
        }
        return it->get<std::string>();
    }

    double number(const Json& j, const char* key, double fallback, double least, double most) {
        const auto it = j.is_object() ? j.find(key) : j.end();
        if (!j.is_object() || it == j.end()) return fallback;
        if (!it->is_number() || !(it->get<double>() >= least) || !(it->get<double>() <= most)) {
            fault(std::string("\"") + key + "\" should be a number from " + formatNumber(least) + " to " +
                  formatNumber(most) + ".");
            return fallback;
        }
        return it->get<double>();
    }

    bool truth(const Json& j, const char* key) {
        const auto it = j.find(key);
        if (it == j.end()) return false;
        if (!it->is_boolean()) fault(std::string("\"") + key + "\" should be true or false.");
        return it->is_boolean() && it->get<bool>();
    }

    const Json& list(const Json& j, const char* key) {
        static const Json none = Json::array();
        const auto it = j.is_object() ? j.find(key) : j.end();
        if (!j.is_object() || it == j.end()) return none;
        if (!it->is_array()) {
            fault(std::string("\"") + key + "\" should be a list.");
            return none;
        }
        return *it;
    }

    void readBrief(const Json& root, Brief& brief) {
        const Here here(*this, "brief");
        const auto it = root.find("brief");
        if (it == root.end()) return;
        if (!it->is_object()) return fault("It should be an object.");
        const Json& j = *it;
        brief.process = text(j, "process", brief.process);
        brief.material = text(j, "material", brief.material);
        brief.pull = text(j, "pull", brief.pull);
        if (brief.pull != "up" && brief.pull != "front" && brief.pull != "side")
            fault("\"pull\" should be up, front or side.");
        brief.fillLine = text(j, "fill_line", "");
        brief.purpose = text(j, "purpose", "");
        brief.caution = text(j, "caution", "");
        if (const auto u = j.find("units"); u != j.end()) {
            readUnit(*u, "length", kLength, brief.units.length);
            readUnit(*u, "angle", kAngle, brief.units.angle);
            readUnit(*u, "mass", kMass, brief.units.mass);
            readUnit(*u, "volume", kVolume, brief.units.volume);
        }
        for (const Json& t : list(j, "targets")) {
            const Here inTarget(*this, "a target");
            brief.targets.push_back({text(t, "measure"), text(t, "allowed"), text(t, "body", "")});
            Target& target = brief.targets.back();
            for (const Json& picked : list(t, "of")) {
                if (picked.is_string())
                    target.of.push_back(picked.get<std::string>());
                else
                    fault("\"of\" should be a list of texts.");
            }
            const MeasureWords* measure = findMeasure(target.measure);
            if (!m_error && !measure) fault("There is no measure called \"" + target.measure + "\".");
            if (!m_error && static_cast<int>(target.of.size()) != measure->ofPicked)
                fault("The measure \"" + target.measure + "\" is of " + std::to_string(measure->ofPicked) +
                      " picked things, not of " + std::to_string(target.of.size()) + ".");
        }
    }

    BodyLook readLook(const Json& j) {
        BodyLook look;
        if (!j.is_object()) {
            fault("It should be an object.");
            return look;
        }
        look.body.step = static_cast<int>(number(j, "step", 0, 1, 1e9));
        look.body.ordinal = static_cast<int>(number(j, "which", 1, 1, kMostSteps)) - 1;
        look.name = text(j, "name", "");
        look.material = text(j, "material", "");
        look.colour = text(j, "colour", "");
        look.hidden = truth(j, "hidden");
        const bool plain = look.colour.size() == 7 && look.colour[0] == '#' &&
                           look.colour.find_first_not_of("0123456789abcdefABCDEF", 1) == std::string::npos;
        if (!look.colour.empty() && !plain) fault("\"colour\" should look like \"#c08a6b\".");
        return look;
    }

    void readUnit(const Json& j, const char* key, Dimension dimension, std::string& out) {
        const std::string symbol = text(j, key, out);
        const auto unit = findUnit(symbol);
        if (!unit || !(unit->dimension == dimension))
            return fault("\"" + symbol + "\" is not a unit of " + key + ".");
        out = symbol;
    }

    Step readStep(const Json& j) {
        Step step;
        if (!j.is_object()) {
            fault("It should be an object.");
            return step;
        }
        step.id = static_cast<int>(number(j, "id", 0, 1, 1e9));
        if (step.id < 1) fault("\"id\" is missing.");
        step.kind = text(j, "kind");
        step.off = truth(j, "off");
        const StepWords* words = findStepWords(step.kind);
        if (!words) {
            fault("This version does not know a step of kind \"" + step.kind + "\".");
            return step;
        }
        for (const SlotWords& s : words->slots) step.slots[s.key] = readSlot(j, s);
        for (const auto& item : j.items())
            if (!words->slot(item.key()) && item.key() != "id" && item.key() != "kind" && item.key() != "off")
                fault("This version does not know \"" + item.key() + "\" of a " + step.kind + ".");
        return step;
    }

    SlotValue readSlot(const Json& j, const SlotWords& slot) {
        const SlotTrait& trait = traitOf(slot.type);
        if (trait.holds == SlotTrait::Holds::Rows) return readStations(j, slot.key.c_str());
        if (trait.holds == SlotTrait::Holds::Drawing) {
            Drawing drawing;
            const auto it = j.find(slot.key);
            if (it != j.end())
                if (const auto wrong = readDrawing(*it, drawing)) fault(*wrong);
            return DrawingSlot(std::move(drawing));
        }
        if (holdsReferences(slot.type)) {
            References refs;
            for (const Json& r : list(j, slot.key.c_str())) {
                if (!r.is_string()) {
                    fault("A reference should be a text.");
                    break;
                }
                refs.push_back(r.get<std::string>());
                if (const std::string why = whyNoReference(slot.type, refs.back()); !why.empty()) fault(why);
            }
            return refs;
        }
        std::string value = text(j, slot.key.c_str(), slot.fallback);
        if (!slot.choices.empty() && slot.choiceAt(value) == slot.choices.size())
            fault("\"" + value + "\" is not one of the choices for " + slot.label + ".");
        if (slot.type == SlotType::AreaRef && !areasIn(value))
            fault("An area should be the ids of the strokes around it, like \"3 5 8\".");
        return value;
    }

    Stations readStations(const Json& j, const char* key) {
        Stations rows;
        for (const Json& r : list(j, key)) {
            const Here here(*this, "station row " + std::to_string(rows.size() + 1));
            if (!r.is_object()) {
                fault("It should be an object.");
                break;
            }
            StationRow row;
            row.inside = r.contains("inside");
            row.height = text(r, "height");
            row.diameter = text(r, row.inside ? "inside" : "outside");
            row.tolerance = text(r, "tolerance", "");
            rows.push_back(std::move(row));
            if (m_error) break;
        }
        return rows;
    }

    const char* m_intro;
    std::vector<std::string> m_where;
    std::optional<Error> m_error;
};

constexpr const char* kFileFault = "The part file has a fault. %1%2";

} // namespace

Result<Part> readPart(const std::string& text) {
    Error e;
    if (text.empty()) {
        e.code = "part.syntax";
        e.sentence = "The file is empty.";
        return e;
    }
    Json root;
    try {
        root = Json::parse(text, ParseLimits());
    } catch (const Json::parse_error& fault) {
        e.code = "part.syntax";
        e.position = static_cast<int>(fault.byte);
        e.sentence =
            fault.byte + 2 >= text.size()
                ? "The file stops in the middle: it was cut off. Look for an older copy of it."
                : "The file is damaged at byte " + std::to_string(fault.byte) + " and cannot be read.";
        return e;
    } catch (const std::exception&) {
        e.code = "part.syntax";
        e.sentence = "The file is damaged and cannot be read.";
        return e;
    }
    return partFromJson(root);
}

Result<Part> partFromJson(const nlohmann::ordered_json& root) {
    Error e;
    const auto format = root.is_object() ? root.find("format") : root.end();
    if (!root.is_object() || format == root.end() || *format != "good-curve part") {
        e.code = "part.format";
        e.sentence = "This is not a Good Curve part.";
        return e;
    }
    const auto version = root.find("version");
    if (version == root.end() || !version->is_number_integer() || *version < 1) {
        e.code = "part.format";
        e.sentence = "The part file does not say which version of the format it is in.";
        return e;
    }
    if (*version > kPartFileVersion) {
        e.code = "part.newer";
        e.sentence = phrase("This part was saved by a newer Good Curve (format %1, this program reads up to "
                            "%2). Update Good Curve to open it; the file is left as it is.",
                            version->dump(), std::to_string(kPartFileVersion));
        return e;
    }
    return PartReader(kFileFault).read(root);
}

std::optional<Error> whyNotReadable(const Part& now, const Part& before) {
    Json root = headToJson(now);
    const bool sameHead = root == headToJson(before);
    if (sameHead)
        root = Json{{"format", root["format"]}, {"version", root["version"]}, {"steps", Json::array()}};
    std::map<int, const Step*> old;
    for (const Step& s : before.steps) old[s.id] = &s;
    for (const Step& s : now.steps)
        if (const auto it = old.find(s.id); it == old.end() || !(*it->second == s))
            root["steps"].push_back(stepToJson(s));
    const auto refused = [](Message why) { return errorOf("part.unreadable", std::move(why)); };
    if (now.steps.size() > kMostSteps) return refused("A part can have 5000 steps at the most.");
    for (const Attachment& a : now.attachments)
        if (a.content.text().size() > kMostAttachedBytes)
            return refused(
                phrase("\"%1\" is larger than %2 MB, which is more than a part can hold of one file.", a.name,
                       std::to_string(kMostAttachedBytes >> 20)));
    for (const Attachment& a : now.attachments) {
        const bool known =
            std::any_of(before.attachments.begin(), before.attachments.end(), [&](const Attachment& b) {
                return b.name == a.name && b.content.hash() == a.content.hash();
            });
        if (!known && !(isUtf8(a.name) && isUtf8(a.content.text())))
            return refused(phrase("\"%1\" holds bytes that are no text and cannot be kept in a part.",
                                  madeUtf8(a.name)));
    }
    if (sameHead && root["steps"].empty()) return std::nullopt;
    try {
        const Json back = Json::parse(root.dump());
        if (const auto read = PartReader("This cannot be kept in a part. %1%2").read(back); !read)
            return read.error();
    } catch (const Json::exception&) {
        return refused("This cannot be kept in a part: a text in it is damaged. Type it anew.");
    }
    return std::nullopt;
}

Result<Part> loadPart(const std::filesystem::path& path) {
    const auto text = readFile(path);
    if (!text) return text.error();
    auto part = readPart(*text);
    if (!part) {
        Error e = part.error();
        e.sentence = phrase("\"%1\" cannot be opened. %2", path.filename().string(), e.sentence);
        return e;
    }
    return part;
}

/// Nothing is called saved that could not be opened again.
Result<Done> savePart(const Part& part, const std::filesystem::path& path) {
    const std::string text = writePart(part);
    if (const auto back = readPart(text); !back) {
        Error e = back.error();
        e.sentence =
            phrase("Not saved, as it could not be opened again: %1 Take the last edit back.", e.sentence);
        return e;
    }
    return writeFileAtomically(path, text);
}

} // namespace gc

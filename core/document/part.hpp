#pragma once
/// \file A part as a plain value: its brief, its named values, its steps. Undo is an earlier value.

#include "core/base/result.hpp"
#include "core/base/vec.hpp"
#include "core/document/measure_words.hpp"
#include "core/document/step_kind.hpp"
#include "core/names/reference.hpp"
#include "core/sketch/drawing.hpp"
#include "core/units/expression.hpp"

#include <map>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <variant>
#include <vector>

namespace gc {

/// One measured row of a profile. Texts are kept as typed; they are expressions.
struct StationRow {
    std::string height;
    std::string diameter;
    bool inside = false;   ///< the diameter was measured inside the wall
    std::string tolerance; ///< empty: the outline's own
    friend bool operator==(const StationRow&, const StationRow&) = default;
};

using References = std::vector<std::string>;
using Stations = std::vector<StationRow>;
/// A drawing, shared by all the earlier values of a part that have the same one.
class DrawingSlot {
  public:
    DrawingSlot() : m_drawing(std::make_shared<const Drawing>()) {}
    explicit DrawingSlot(Drawing drawing) : m_drawing(std::make_shared<const Drawing>(std::move(drawing))) {}
    const Drawing& operator*() const { return *m_drawing; }
    friend bool operator==(const DrawingSlot& a, const DrawingSlot& b) {
        return a.m_drawing == b.m_drawing || *a.m_drawing == *b.m_drawing;
    }

  private:
    std::shared_ptr<const Drawing> m_drawing;
};

/// What a slot holds: a text (expression, choice, name), references, a table, or a drawing.
using SlotValue = std::variant<std::string, References, Stations, DrawingSlot>;

/// The slots of a step, shared by all the earlier values of a part in which they are the same: a copy of a
/// part costs a pointer a step, whatever the steps hold. Whoever changes a slot gets slots of its own.
class SlotValues {
  public:
    using Map = std::map<std::string, SlotValue>;

    SlotValue& operator[](const std::string& slot) { return own()[slot]; }
    const SlotValue& at(const std::string& slot) const { return m_map->at(slot); }
    Map::const_iterator find(const std::string& slot) const { return std::as_const(*m_map).find(slot); }
    std::size_t count(const std::string& slot) const { return m_map->count(slot); }
    std::size_t size() const { return m_map->size(); }
    bool empty() const { return m_map->empty(); }
    Map::const_iterator begin() const { return std::as_const(*m_map).begin(); }
    Map::const_iterator end() const { return std::as_const(*m_map).end(); }
    /// To change many of them.
    Map& own() {
        if (m_map.use_count() > 1) m_map = std::make_shared<Map>(*m_map);
        return *m_map;
    }
    friend bool operator==(const SlotValues& a, const SlotValues& b) {
        return a.m_map == b.m_map || *a.m_map == *b.m_map;
    }

  private:
    std::shared_ptr<Map> m_map = std::make_shared<Map>();
};

struct Step {
    int id = 0; ///< never changes, never used again
    std::string kind;
    bool off = false;
    SlotValues slots;

    const std::string& text(const std::string& slot) const;
    const References& references(const std::string& slot) const;
    const Stations& stations(const std::string& slot) const;
    const Drawing& drawing(const std::string& slot) const;
    friend bool operator==(const Step&, const Step&) = default;
};

/// "mass 100 ± 3 g", "mass of lid ≤ 20 g".
struct Target {
    std::string measure;
    std::string allowed;
    std::string body{}; ///< the name of the one body that it is about; empty: all of them
    /// Of a measure of picked things: "face: top of step 2", "edge: …", "point: …", "body: lid".
    References of{};
    friend bool operator==(const Target&, const Target&) = default;
};

/// What an allowed-text means, in mm, rad, g, mm³.
struct AllowedRange {
    std::optional<double> least, most;
};

/// Reads "100 ± 3 g", ">= 2 mm", "≤ 4", "2 … 4 mm", "1", "= 1".
Result<AllowedRange> parseAllowed(const std::string& text, Dimension dimension, const UnitSystem& units,
                                  const NameLookup& names = {});

struct Brief {
    UnitSystem units;
    std::string process = "injection moulded";
    std::string material = "polypropylene";
    std::string pull = "up"; ///< the direction in which the tool opens: up, front, side
    std::string fillLine;    ///< expression of the height of the fill line above the ground; may be empty
    std::string purpose;     ///< what the part is for, in words
    std::string caution;     ///< what to bear in mind; shown beside the checks
    std::vector<Target> targets;
};

/// A text that many earlier values of a part share.
class SharedText {
  public:
    SharedText(std::string text) : m_held(std::make_shared<Held>(std::move(text))) {}
    const std::string& text() const { return m_held->text; }
    /// Of the content, worked out once however many share it.
    std::uint64_t hash() const;

  private:
    struct Held {
        explicit Held(std::string t) : text(std::move(t)) {}
        const std::string text;
        std::once_flag hashed;
        std::uint64_t hash = 0;
    };
    std::shared_ptr<Held> m_held;
};

/// A file that travels with the part: an imported shape, or a picture in base64.
struct Attachment {
    std::string name;
    SharedText content;
};

/// What a person said about one body, beyond what its step makes.
struct BodyLook {
    ThingId body;
    std::string name{};     ///< of the second and later bodies of a step; the first is named in its sentence
    std::string material{}; ///< empty: the brief's
    std::string colour{};   ///< "#c08a6b"; empty: the next of the palette
    bool hidden = false;
    friend bool operator==(const BodyLook&, const BodyLook&) = default;
};

struct Part {
    std::string name = "New part";
    Brief brief;
    std::vector<NamedValue> values;
    std::vector<Step> steps;
    std::vector<BodyLook> looks; ///< of the bodies that differ from the brief

    int bookmark = -1; ///< how many steps stand before the bookmark; -1: all
    int nextId = 1;
    std::vector<Attachment> attachments;

    /// Steps before the bookmark.
    int shownSteps() const;
    const Step* findStep(int id) const;
    Step* findStep(int id);
    int placeOf(int id) const; ///< number in the sheet from 1; 0 when it is not there
};

/// A new step with every slot at its fallback and an id of its own. It is not yet in the sheet.
Step newStep(Part& part, const std::string& kind);

/// The drawing that a step holds; nothing for a step that is none.
const Drawing* drawingOf(const Step& step);

/// Everything of a sort that steps make by a name of their own, in the order of the sheet.
std::vector<std::string> namesOf(const Part& part, Thing thing);
/// The names of what is made before a step, for its slots to choose from; before the bookmark for a step that
/// is not in the sheet yet.
std::vector<std::string> namesBefore(const Part& part, int step, Thing thing);
/// Lets a file travel with the part under its own name, or under "name 2.ending" where another has that.
/// \return the name it got
std::string attach(Part& part, const std::string& name, SharedText content);
/// Does the step need the attachment to be built, and does it use it at all?
bool buildsFrom(const Step& step, const std::string& file);
bool usesFile(const Step& step, const std::string& file);
/// The step that makes the thing of that name; nothing when there is none.
const Step* makerOf(const Part& part, Thing thing, const std::string& name);
/// A name that nothing in the part has: the wanted one, or with a number behind it.
std::string freeName(const Part& part, const std::string& wanted);
/// Gives what a step makes another name, and says so wherever it is named. No result is touched by it.
/// \return why that name cannot be given, in a sentence; empty when it was.
std::string renameThing(Part& part, int step, const std::string& slot, const std::string& name);

/// Puts a step before another, in the sheet; 0: to the end. Nothing changes where one of them is not there.
void putStep(Part& part, int step, int before);

/// The name of a body: as its step calls it, or as it was named afterwards. "lid 2" where nobody named it.
std::string nameOfBody(const Part& part, ThingId body);
/// What was said about a body; the fallbacks where nothing was.
BodyLook lookOf(const Part& part, ThingId body);
/// How many bodies the sheet makes before this one.
std::size_t placeAmongBodies(const Part& part, ThingId body);
/// Its colour, "#c08a6b": its own, or that of its place among all bodies that the sheet makes.
std::string colourOf(const Part& part, ThingId body);
/// Gives a body another name, everywhere. \return why it cannot be, empty when it was done
std::string renameBody(Part& part, ThingId body, const std::string& name);
/// Takes over what the file that a body came from calls it, unless a person gave it a name, and its colour;
/// empty: nothing. Where something else has that name, a number goes behind it.
void takeOver(Part& part, ThingId body, const std::string& name, const std::string& colour);
/// Says something about a body; what differs in nothing from the fallbacks is not kept.
void setLook(Part& part, const BodyLook& look);

/// One word of a sentence as the sheet shows it.
struct SentenceWord {
    std::string text;
    std::string slot;       ///< empty for plain words
    std::string expression; ///< what was typed, where the text shows its value instead
    /// Of a slot that holds several: each of them; the text has them all.
    std::vector<std::string> items{};
};
using Values = std::map<std::string, Amount>;
/// The named values as far as they can be evaluated: none of them when one is at fault.
Values valuesOf(const Part& part);
/// A step's sentence, for the sheet and for reading aloud. References are put in words that need no ids, and
/// an expression that is more than a number shows what it comes to.
std::vector<SentenceWord> sentenceOf(const Step& step, const Part& part);
/// As the sheet has it, or with all that an open sentence offers.
enum class SaidIn { Sheet, OpenSentence };
/// The same where the values are known: for many steps at once.
std::vector<SentenceWord> sentenceOf(const Step& step, const Part& part, const Values& values,
                                     SaidIn where = SaidIn::Sheet);
/// Everything that sentences of other steps may speak of: while it is the same, a step that stayed reads the
/// same.
std::uint64_t spokenOf(const Part& part);
std::string sentenceText(const Step& step, const Part& part);
/// Does the step's sentence show this slot, as it is filled now?
bool isShown(const Step& step, const std::string& slot);
/// The slot that takes the very place of a click on a face, as the step is filled now; empty: none.
std::string spotSlot(const Step& step);

/// A reference to a face or an edge in words that need no ids; other texts come back as they are.
std::string referenceInWords(const std::string& reference, const Part& part);
/// A thing that was picked to be measured (Target::of) in words.
std::string pickedInWords(const std::string& picked, const Part& part);
/// What a target is about: "Mass of lid", "Distance of rim to floor".
std::string targetInWords(const Target& target, const Part& part);
/// "step 4, Shell", as the sheet counts.
std::string stepInWords(int id, const Part& part);
/// A sentence with every marked reference and step in the words of the sheet.
std::string spoken(const std::string& sentence, const Part& part);

/// Puts a text into a slot as a user typed it there. Where the slot holds just the name of a value and the
/// new text does not use that name, the value itself is changed, so that everything that uses it follows.
/// \return the name of the value that was changed, or nothing.
std::optional<std::string> typeIntoSlot(Part& part, int stepId, const std::string& slot,
                                        const std::string& text);

/// What a click on a face or edge does to a slot's references: a face slot holds just the last one; elsewhere
/// a second click lets go.
void togglePick(References& references, const std::string& picked, SlotType type);

/// Evaluates a quantity or count slot against the part's values and the slot's limits. \param place what n is
/// in a slot that has another value for each place
Result<double> evaluateSlot(const Step& step, const std::string& slot, const Part& part, const Values& values,
                            int place = 1);
/// Does the slot's value change from place to place?
bool changesByPlace(const Step& step, const SlotWords& slot);

/// The stations in mm, with every bad row pointed at: text that is no number, a diameter that is not
/// positive, two rows at one point. Rows must run along the profile: see checkStations.
struct StationValues {
    double height = 0, diameter = 0;
    bool inside = false;
    double tolerance = 0;
};
struct RowFault {
    int row = 0; ///< from 0
    Message sentence;
};
struct StationCheck {
    std::vector<StationValues> rows;
    std::vector<RowFault> faults;
};
StationCheck checkStations(const Stations& stations, double tolerance, const UnitSystem& units,
                           const Values& values);

} // namespace gc

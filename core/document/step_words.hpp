#pragma once
/// \file What can be done in words: a verb, its slots and its sentence. Kinds of steps (step_kind.hpp) and
/// edits of a drawing (edit_words.hpp) are described by them. Nothing here computes a shape.

#include "core/base/thing.hpp"
#include "core/units/amount.hpp"

#include <optional>
#include <string>
#include <vector>

namespace gc {

struct Step;

enum class SlotType {
    Quantity,   ///< an expression of a dimension
    Count,      ///< an expression for a whole number
    Choice,     ///< one of a few words
    Words,      ///< a text of any sort; empty says something, too
    NewName,    ///< a name that the step gives: an outline, a body
    BodyRef,    ///< the name of a body made before
    BodiesRef,  ///< names of bodies made before (body_list.hpp); empty: those that the step touches
    OutlineRef, ///< the name of an outline made before
    AreaRef,    ///< one area of an outline, by the ids of the strokes around it; empty: all of it
    Face,       ///< one face
    Faces,      ///< any number of faces
    Edges,      ///< edges or rules
    Edge,       ///< one edge of a body or stroke of a drawing
    Curves,     ///< any number of edges, strokes and chains of strokes
    Sections,   ///< any number of closed lines and points, in order
    Point,      ///< one point
    Points,     ///< any number of points
    Threads,    ///< which places of sections go to each other: set by pulling at them in the stand
    PlaneRef,   ///< a plane: see planes.hpp
    AxisRef,    ///< an axis: see axes.hpp
    Stations,   ///< a table of measured heights and diameters
    File,       ///< the name of an embedded file
    FileBodies, ///< which of the bodies in a file, by name (body_list.hpp); empty: all of them
    Drawing,    ///< strokes, relations and dimensions
};

/// Does such a slot hold references to what is picked in the stand?
bool holdsReferences(SlotType type);
/// Does it hold just one of them?
bool holdsOne(SlotType type);
/// Why a text is no reference for such a slot; empty when it is one.
std::string whyNoReference(SlotType type, const std::string& text);

/// One of a few: its key is what the file holds, its words are what a person reads. Most keys are their
/// words.
struct Choice {
    std::string key, words;
    Choice(const char* both) : key(both), words(both) {}
    Choice(const std::string& both) : key(both), words(both) {}
    Choice(std::string inTheFile, std::string forPeople)
        : key(std::move(inTheFile)), words(std::move(forPeople)) {}
};

/// What a slot holds and what may be put into it.
struct SlotWords {
    std::string key;
    std::string label; ///< "wall", for lists and messages
    SlotType type = SlotType::Quantity;
    Dimension dimension;              ///< Quantity only
    std::string fallback;             ///< the text of a new step's slot
    std::vector<Choice> choices;      ///< Choice only
    std::vector<std::string> endings; ///< File: of such files, "step"
    std::string filesCalled;          ///< File: "STEP files"
    double least = 0;                 ///< in internal units; exclusive for quantities, inclusive for counts
    double most = 1e6;
    std::string prefix;        ///< written before the value ("⌀ ")
    bool leastAllowed = false; ///< the least value itself is allowed too
    /// Choice: those that Alt+R goes round where no slot has the focus; empty: all of them, if it is the
    /// first.
    std::vector<std::string> flips{};
    /// Quantity: what is said instead where a person drags the end of it to a face or a corner.
    struct Reaches {
        std::string choice;             ///< the slot that says what ends it
        std::string byLength;           ///< and what it says for a length
        std::string toFace, faceSlot;   ///< for a face, and where that goes
        std::string toPoint, pointSlot; ///< the same for a point
    };
    std::optional<Reaches> reaches{};
    std::optional<Thing> names{}; ///< NewName: what the name is given to
    /// Of those that may be empty: nothing can be done before something is picked for it.
    bool needed = false;
    std::string usual{}; ///< what it usually is, and who says so: shown beside its label
    /// Of a number that is another one for each of several things: n in its expression is the thing's number.
    bool eachPlace = false;

    /// The place of a key among the choices; their number when it is none of them.
    std::size_t choiceAt(const std::string& choice) const;
};

/// A piece of a sentence: words, or a slot.
struct SentencePiece {
    std::string words;                    ///< when slot is empty
    std::string slot;                     ///< the slot's key
    bool (*shown)(const Step&) = nullptr; ///< nothing: always
    /// A choice that is rarely made: while it is the first, only the open sentence has it.
    bool quiet = false;
};

struct StepWords {
    std::string kind;    ///< "shell": in the file
    std::string verb;    ///< "Shell": what is typed
    std::string purpose; ///< "Hollow a body to an even wall": a tip
    std::string group;   ///< "hollow and lean"
    std::string stage;   ///< "Finish"
    std::vector<SlotWords> slots;
    std::vector<SentencePiece> sentence;

    const SlotWords* slot(const std::string& key) const;
};

/// The words of a kind of step; nothing for a kind that this version does not know.
const StepWords* findStepWords(const std::string& kind);
/// The same, or the words of an edit of a drawing.
const StepWords* findWords(const std::string& kind);
/// The name of a thing made before, of which sort such a slot holds; nothing for other slots.
std::optional<Thing> namedBySlot(SlotType type);

} // namespace gc

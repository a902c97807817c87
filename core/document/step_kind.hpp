#pragma once
/// \file A kind of step as its folder in core/steps describes it, all of it free of the kernel: words, roles
/// of the faces that it makes, what it may be asked to try. The file, the sheet, the sentence bar, references
/// and remedies come from this one description; nothing else in the program names a kind.
///
/// `gc_step_kind(shell)` in core/steps/kinds.cmake registers the two halves: `StepKind shellKind()` of
/// shell/words.cpp and `Result<StepChange> runShell(…)` of shell/*.cpp.

#include "core/document/step_words.hpp"

namespace gc {

struct Part;

/// A role that faces made by such a step have.
struct RoleWords {
    std::string role;      ///< "wall"; "side" where the id of a stroke follows
    bool numbered = false; ///< "side 12", "face 3": the number is part of the role
};

/// Where a step is filled in besides its sentence.
enum class FilledIn { Sentence, Stations, DrawingTable };

/// A number of the step that may be turned to make a target hold.
struct TriedSlot {
    std::string slot;
    std::vector<std::string> measures; ///< keys of the targets that it decides
};

struct StepKind {
    StepWords words;
    std::vector<RoleWords> roles{};
    FilledIn filledIn = FilledIn::Sentence;
    /// How many closed pieces a body that it makes or changes is; 0: as many as there are.
    int pieces = 1;
    /// What comes from elsewhere is what it is: its faults are told, not refused.
    bool mayBeUnsound = false;
    /// The slot whose size decides whether the step works ("radius"); empty: none.
    std::string decidingSlot{};
    std::vector<TriedSlot> tried{};
    /// Fills the slots of a new step from the part, beyond their fallbacks. Nothing: the fallbacks do.
    void (*defaults)(Step& step, const Part& part) = nullptr;
    /// Other words for the role of a face, where the part knows better ("arc 3"). Empty: the role itself.
    std::string (*roleInWords)(const Step& step, const Part& part, const std::string& role) = nullptr;

    const std::string& key() const { return words.kind; }
    /// Does a step of this kind make faces of that role?
    bool makes(const std::string& role) const;
};

/// Every kind, in the order of the work.
const std::vector<StepKind>& allKinds();
/// Nothing for a kind that this version does not know.
const StepKind* findKind(const std::string& key);
/// The slot by which a step names what it makes; nothing when it makes nothing of that sort.
const SlotWords* namingSlot(const StepKind& kind, Thing thing);
/// What the step calls the thing that it makes; empty when it makes none as it is filled now.
std::string nameGiven(const Step& step, Thing thing);
/// Where the step is filled in; its sentence for a kind that is not known.
FilledIn filledIn(const Step& step);

} // namespace gc

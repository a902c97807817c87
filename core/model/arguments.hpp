#pragma once
/// \file What a step is given: its own slots, evaluated, and through the reader whatever it leans on. Both
/// record what is read. That record, with what was read, is the identity of the result: what a step never
/// looked at cannot make its result stale, and what it did look at cannot be forgotten.

#include "core/base/progress.hpp"
#include "core/model/aids.hpp"
#include "core/model/model.hpp"
#include "core/sketch/solve/system.hpp"

#include <functional>
#include <set>

namespace gc {

/// A step with all its expressions evaluated: numbers in mm, rad; counts as whole numbers.
struct StepArguments {
    int id = 0;
    std::string kind;
    std::map<std::string, double> numbers;
    /// Of slots that change from place to place: the value at one, from 1 on; nothing where it is none that
    /// the slot may be.
    std::map<std::string, std::function<std::optional<double>(int place)>> series;
    std::map<std::string, std::string> texts;
    std::map<std::string, References> references;
    std::vector<StationValues> stations;
    std::optional<DrawingSlot> drawing;
    DimensionValues sizes;                   ///< of the drawing's dimensions
    std::map<std::string, SharedText> files; ///< the attachments that its slots name, by slot
    /// Only that is asked whether it works as a whole: nothing is tried piece by piece. Of trials, not of
    /// parts.
    bool onlyWhole = false;
};

/// One thing that a step looked at, and what it found there.
struct Read {
    enum class What : std::uint8_t {
        Number, ///< a slot's
        Series, ///< a slot's at a place, which the id counts
        Text,   ///< a slot's: a choice, an area
        Picked, ///< a slot's references
        Rows,   ///< a table of stations
        Drawing,
        File,     ///< the content of the file that a slot names
        Named,    ///< which thing a slot names: its id, never its name
        Body,     ///< by id
        Outline,  ///< by id
        Plane,    ///< by id
        Axis,     ///< by id
        Curve,    ///< by id
        BodiesOn, ///< which bodies have faces that rest on a step
        Bodies,   ///< which bodies there are
        Box,      ///< about how far a body reaches, by id
        Label,    ///< how a slot is written, for a sentence
        BodyName, ///< what a body is called, for a sentence
    };
    What what{};
    std::string slot{};
    ThingId id{};
    std::uint64_t found = 0;
    friend auto operator<=>(const Read&, const Read&) = default;
};

/// What a step's run looks at: answers and keeps a record.
class StepInputs {
  public:
    StepInputs(const StepArguments& arguments, const ModelState& state)
        : m_arguments(arguments), m_state(state) {}

    /// What such a read finds now.
    std::uint64_t lookUp(const Read& read) const;
    /// Everything that was read so far, in order, each once.
    const std::vector<Read>& reads() const { return m_reads; }
    /// The identity of a result that rests on these reads.
    static std::uint64_t contentOf(const StepArguments& arguments, const std::vector<Read>& reads);

    /// What a reference came to. It rests on what was read, and is no read of its own.
    void meant(const std::string& reference, Meant what) { m_meant[reference] = what; }
    const std::map<std::string, Meant>& meant() const { return m_meant; }

    /// What is shown beside it rests on what was read, too.
    StepAids& aids() { return m_aids; }

    void note(Read::What what, const std::string& slot, ThingId id = {});
    /// Names are part of sentences only: a result without a sentence does not rest on them.
    void forgetNames();
    const StepArguments& arguments() const { return m_arguments; }
    const ModelState& state() const { return m_state; }

  private:
    const StepArguments& m_arguments;
    const ModelState& m_state;
    std::vector<Read> m_reads;
    std::set<Read> m_known;
    std::map<std::string, Meant> m_meant;
    StepAids m_aids;
};

/// The step's own slots. A slot that it does not have is a programming error.
class Arguments {
  public:
    explicit Arguments(StepInputs& inputs) : m_inputs(inputs) {}

    int id() const { return m_inputs.arguments().id; }
    bool onlyWhole() const { return m_inputs.arguments().onlyWhole; }
    double number(const std::string& slot) const;
    /// For a place, from 1 on; nothing where it is none that the slot may be.
    std::optional<double> numberAt(const std::string& slot, int place) const;
    const std::string& text(const std::string& slot) const;
    const References& references(const std::string& slot) const;
    const std::vector<StationValues>& stations() const;
    const Drawing& drawing() const;
    const DimensionValues& sizes() const;
    /// The content of the file that the slot names; nothing when the part has none of that name.
    const std::string* file(const std::string& slot) const;
    /// What a person reads in the slot, for sentences: see StepInputs::forgetNames.
    const std::string& label(const std::string& slot) const;

  private:
    StepInputs& m_inputs;
};

/// Everything that the steps before have made.
class ModelReader {
  public:
    explicit ModelReader(StepInputs& inputs) : m_inputs(inputs) {}

    /// The outline, plane, axis or body that a slot of the step names; nothing when it is not there.
    std::optional<ThingId> outlineIn(const std::string& slot);
    std::optional<ThingId> planeIn(const std::string& slot);
    std::optional<ThingId> axisIn(const std::string& slot);
    std::optional<ThingId> bodyIn(const std::string& slot);
    /// The bodies that a slot lists; nothing in the place of one that is not there.
    std::vector<std::optional<ThingId>> bodiesIn(const std::string& slot);

    /// A thing by its id; nothing when it is not there.
    const Outline* outline(ThingId id);
    std::optional<Plane> plane(ThingId id);
    std::optional<Axis> axis(ThingId id);
    const SpaceCurve* curve(ThingId id);
    const Body* body(ThingId id);
    /// A box that holds a body: to see that it is out of the way without resting on its shape.
    Box box(ThingId id);
    /// What a person calls it, for sentences.
    const std::string& nameOf(ThingId body);

    /// The bodies that have faces which rest on a step, in the order of ids.
    std::vector<ThingId> bodiesOn(int step);
    /// All bodies, in the order of ids.
    std::vector<ThingId> bodies();
    /// Shown while the step is filled in.
    void show(Handle handle) { m_inputs.aids().handles.push_back(std::move(handle)); }
    void show(Thread thread) { m_inputs.aids().threads.push_back(std::move(thread)); }
    void show(FileBody body) { m_inputs.aids().fileBodies.push_back(std::move(body)); }
    void show(Body tool, bool takes) {
        m_inputs.aids().tool = std::move(tool);
        m_inputs.aids().takes = takes;
    }
    /// A reference came to so many faces or edges: where it comes to others later, that is told.
    void meant(const std::string& reference, Meant what) { m_inputs.meant(reference, what); }

  private:
    StepInputs& m_inputs;
};

/// Looks at a state outside of any step.
class FreeReader {
  public:
    explicit FreeReader(const ModelState& state) : m_inputs(m_none, state), m_reader(m_inputs) {}
    operator ModelReader&() { return m_reader; }

  private:
    StepArguments m_none;
    StepInputs m_inputs;
    ModelReader m_reader;
};

/// Runs a kind of step. Errors are values; a run that was stopped gives the error "step.stopped".
using StepFunction = Result<StepChange>(const Arguments& arguments, ModelReader& model,
                                        const Progress& progress);

Error stoppedError();

} // namespace gc

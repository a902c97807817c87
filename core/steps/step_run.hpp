#pragma once
/// \file Running steps: a kind's run is found, what it read is recorded, what it made is checked.

#include "core/model/arguments.hpp"

namespace gc {

/// The run of each kind, by its key (made by core/steps/kinds.cmake).
const std::map<std::string, StepFunction*>& stepRuns();

/// What a run came to, and all that it rests on.
struct StepOutcome {
    Result<StepChange> change;
    std::vector<Read> reads;
    StepAids aids{}; ///< of a step that fails, too
};

/// Runs the step of its kind and checks what it made: valid, closed, as many pieces as the kind allows.
StepOutcome runStep(const StepArguments& args, const ModelState& state, const Progress& progress = {});

/// The largest value of the kind's deciding slot that works, found by building it. Nothing when none down to
/// a hundredth of the failing value works. \param tries how many builds at most
std::optional<Remedy> findLargestThatWorks(const StepArguments& args, const ModelState& state,
                                           const UnitSystem& units, const Progress& progress = {},
                                           int tries = 9);

} // namespace gc

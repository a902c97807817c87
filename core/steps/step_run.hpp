#pragma once
/// \file Running steps: what a step is given, what it changes, and how kinds are found.

#include "core/base/plane.hpp"
#include "core/document/part.hpp"
#include "core/shape/body.hpp"
#include "core/sketch/fair_curve.hpp"
#include "core/sketch/region.hpp"
#include "core/sketch/solve/system.hpp"

#include <map>
#include <memory>

namespace gc {

/// The curves of each stroke, by its id.
using StrokeCurves = std::map<int, std::vector<Curve2>>;

/// A profile in the half plane: x = radius, y = height. Through stations it is a wall that is closed to the
/// axis by a level line at each end; drawn, it is what the drawing encloses.
struct Outline {
    std::string name;
    int step = 0;
    FairCurve wall;
    std::vector<StationValues> stations;
    std::vector<Region> regions; ///< of a drawing, the solid ones; empty for stations
    std::vector<Region> faces;   ///< of a drawing: everything that it encloses
    std::vector<Vec2> polyline;  ///< of a drawing: its outer loops for a picture, one after the other
    Plane plane;                 ///< what it lies in; the front plane for stations
    StrokeCurves strokes;        ///< of a drawing
    std::map<int, Vec2> points;  ///< of a drawing
    std::uint64_t content = 0;
};

/// A plane that a step made.
struct MadePlane {
    std::string name;
    int step = 0;
    Plane plane;
    std::uint64_t content = 0;
};

/// Everything that the steps before have made.
struct ModelState {
    std::map<std::string, std::shared_ptr<const Outline>> outlines;
    std::map<std::string, Body> bodies;
    std::map<std::string, std::shared_ptr<const MadePlane>> planes;
};

/// A step with all its expressions evaluated: numbers in mm, rad; counts as whole numbers.
struct StepArguments {
    int id = 0;
    std::string kind;
    std::map<std::string, double> numbers;
    std::map<std::string, std::string> texts;
    std::map<std::string, References> references;
    std::vector<StationValues> stations;
    const Drawing* drawing = nullptr; ///< lives as long as the part
    DimensionValues sizes;            ///< of the drawing's dimensions
    const std::vector<Attachment>* attachments = nullptr;
    std::uint64_t content = 0; ///< hash of the step and of all its inputs: the identity of what it makes

    double number(const std::string& slot) const { return numbers.at(slot); }
    const std::string& text(const std::string& slot) const { return texts.at(slot); }
};

/// What a step makes: an outline, a plane, or a new value for one body.
struct StepChange {
    std::shared_ptr<const Outline> outline;
    std::shared_ptr<const MadePlane> plane;
    std::string bodyName;
    Body body;
    std::vector<std::string> notes; ///< "Flange top is now 2 pieces; both are used."
};

using StepFunction = Result<StepChange> (*)(const StepArguments&, const ModelState&);

Result<StepChange> runOutline(const StepArguments& args, const ModelState& state);
Result<StepChange> runDraw(const StepArguments& args, const ModelState& state);
Result<StepChange> runPlane(const StepArguments& args, const ModelState& state);
Result<StepChange> runRevolve(const StepArguments& args, const ModelState& state);
Result<StepChange> runImport(const StepArguments& args, const ModelState& state);
Result<StepChange> runShell(const StepArguments& args, const ModelState& state);
Result<StepChange> runFillet(const StepArguments& args, const ModelState& state);
Result<StepChange> runHole(const StepArguments& args, const ModelState& state);

/// Runs the step of its kind and checks what it made: valid, closed, one solid.
Result<StepChange> runStep(const StepArguments& args, const ModelState& state);

/// The slot whose size decides whether such a step works ("radius", "wall"); empty when there is none.
std::string decidingSlot(const std::string& kind);

/// The largest value of the deciding slot that works, found by building it. Nothing when none down to a
/// hundredth of the failing value works. \param tries how many builds at most.
std::optional<Remedy> findLargestThatWorks(const StepArguments& args, const ModelState& state,
                                           const UnitSystem& units, int tries = 9);

} // namespace gc

#pragma once
/// \file What steps make out of each other: outlines, planes, axes, curves and bodies. Each is told apart by
/// its id; names are labels that a person may change at any time.

#include "core/base/plane.hpp"
#include "core/document/part.hpp"
#include "core/shape/body.hpp"
#include "core/shape/space_curve.hpp"
#include "core/sketch/fair_curve.hpp"
#include "core/sketch/region.hpp"

#include <map>
#include <memory>
#include <set>
#include <variant>

namespace gc {

/// The curves of each stroke, by its id.
using StrokeCurves = std::map<int, std::vector<Curve2>>;

/// A profile in the half plane: x = radius, y = height. Through stations it is a wall that is closed to the
/// axis by a level line at each end; drawn, it is what the drawing encloses.
struct Outline {
    FairCurve wall;
    std::vector<StationValues> stations;
    std::vector<Region> regions; ///< of a drawing, the solid ones; empty for stations
    std::vector<Region> faces;   ///< of a drawing: everything that it encloses
    std::vector<Vec2> polyline;  ///< of a drawing: its outer loops for a picture, one after the other
    Plane plane;                 ///< what it lies in; the front plane for stations
    StrokeCurves strokes;        ///< of a drawing
    std::set<int> helpers;       ///< those of its strokes that guide others and bound nothing
    std::map<int, Vec2> points;  ///< of a drawing
    std::map<int, int> cutFrom;  ///< of strokes that were cut off others: which
    /// Of a drawing: all of it, as it was settled. Nothing for stations.
    std::shared_ptr<const Drawing> drawing;
    /// Of strokes that are not the drawing's own (sides of a wall along it): the role of the face that they
    /// make.
    std::map<int, std::string> madeRoles;

    bool drawn() const { return wall.curve.poleCount() == 0; }
    /// A stroke and those that it was a part of once: a reference to any of these means it, too.
    std::vector<int> lineage(int stroke) const;
    /// The roles of the face that a stroke makes when it is moved or turned: "side 12", and those of its
    /// lineage.
    std::vector<std::string> rolesOf(int stroke) const;
};

/// A line in space with a direction.
struct Axis {
    Vec3 origin, direction{0, 0, 1};
    friend bool operator==(const Axis&, const Axis&) = default;
};

/// A thing as it is now, with what a person calls it.
template <class T>
struct Entity {
    T value{};
    std::string name;
    std::uint64_t content = 0; ///< equal contents mean equal values
};

template <class T>
using Entities = std::map<ThingId, Entity<T>>;

/// What a file calls a body, and how it colours it: for a person to take over.
struct BodyOffer {
    std::string name, colour; ///< "#c08a6b"; empty: it says nothing
    friend bool operator==(const BodyOffer&, const BodyOffer&) = default;
};

/// Everything that the steps before have made.
struct ModelState {
    Entities<std::shared_ptr<const Outline>> outlines;
    Entities<Plane> planes;
    Entities<Axis> axes;
    Entities<SpaceCurve> curves;
    Entities<Body> bodies;
    std::map<ThingId, BodyOffer> offers; ///< of bodies from files

    /// The thing of that name; nothing when there is none.
    std::optional<ThingId> outlineNamed(const std::string& name) const;
    std::optional<ThingId> planeNamed(const std::string& name) const;
    std::optional<ThingId> axisNamed(const std::string& name) const;
    std::optional<ThingId> bodyNamed(const std::string& name) const;
    /// For tests and programs: the body of that name. An unknown name is a programming error.
    const Body& body(const std::string& name) const;
    const Outline& outline(const std::string& name) const;
};

// ---- what a step may do

struct MadeOutline {
    std::shared_ptr<const Outline> outline;
};
struct MadePlane {
    Plane plane;
};
struct MadeAxis {
    Axis axis;
};
struct MadeCurve {
    SpaceCurve curve;
};
struct MadeBody {
    Body body;
    BodyOffer offer{};
    std::optional<int> ordinal{}; ///< nothing: the next one
};
/// A body that was there has another shape now.
struct ChangedBody {
    ThingId id;
    Body body;
};
/// A body is used up: cut away, or become part of another.
struct EndedBody {
    ThingId id;
};
using Change = std::variant<MadeOutline, MadePlane, MadeAxis, MadeCurve, MadeBody, ChangedBody, EndedBody>;

/// How many faces or edges a reference came to.
struct Meant {
    int items = 0;
    bool edges = false;
    friend bool operator==(const Meant&, const Meant&) = default;
};

/// What a step does, in order. The first new thing of a sort has the ordinal 0, the next 1, and so on.
struct StepChange {
    std::vector<Change> list;
    std::vector<Message> notes;         ///< "Flange top is now 2 pieces; both are used."
    std::optional<Error> doubt;         ///< it stands, but is hardly meant: what, where, and a way out
    std::map<std::string, Meant> meant; ///< what each reference came to
    bool checked = false;               ///< the kind has looked itself whether its bodies are sound

    StepChange() = default;
    explicit StepChange(Change only) { list.push_back(std::move(only)); }
};

/// Carries out what a step does. \param content identity of the step's result
/// \return the bodies that are new or other than before, and those that ended.
std::vector<ThingId> apply(const StepChange& change, const Step& step, const Part& part,
                           std::uint64_t content, ModelState& state);

} // namespace gc

#pragma once
/// \file What the window draws beside the bodies and may pick: planes, drawings in space, points, and what a
/// drawing on the table can follow.

#include "core/regen/engine.hpp"
#include "core/shape/places.hpp"
#include "core/sketch/trace.hpp"

namespace gc {

/// A plane that steps can name.
struct PlaneGuide {
    std::string name; ///< as slots name it
    Plane plane;
};
/// The three fixed planes, then those that steps made.
std::vector<PlaneGuide> planeGuides(const ModelState& state);

/// An axis that a step made, drawn as long as what it goes through and a little longer.
struct AxisGuide {
    std::string name;
    Vec3 from, to;
};
std::vector<AxisGuide> axisGuides(const ModelState& state);

struct StrokeGuide {
    std::string reference;    ///< "stroke 12 of step 3"
    std::string chain;        ///< "chain of stroke 11 of step 3": that and what goes on from it
    std::vector<Vec3> points; ///< a polyline within 0.02 mm
};
/// An area that a drawing encloses.
struct AreaGuide {
    std::string area;                     ///< as slots name it: "3 5 8"
    std::vector<std::vector<Vec3>> loops; ///< its border and its holes, closed polylines within 0.02 mm
};
struct DrawingGuide {
    int step = 0;
    Plane plane;
    std::vector<StrokeGuide> strokes;
    std::vector<AreaGuide> areas;
};
std::vector<DrawingGuide> drawingGuides(const ModelState& state);

/// Points of bodies, and of drawings.
std::vector<PlaceOnBody> pickablePlaces(const ModelState& state);

/// What a drawing of the part can follow: traces of the bodies as they are before it. Empty for other steps.
std::vector<Trace> followable(const Part& part, const RegenResult& built, int step);

} // namespace gc

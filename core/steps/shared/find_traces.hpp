#pragma once
/// \file What bodies leave in the plane of a drawing: their edges seen straight on, the cuts through their
/// faces, and the points where edges run through it.

#include "core/model/arguments.hpp"
#include "core/sketch/trace.hpp"

namespace gc {

/// The traces of one source ("projection of where wall of step 2 meets floor of step 2"); as many as it
/// leaves. Errors: those of findFaces and findEdges; "trace.nothing" when it leaves nothing there.
/// Circles and ellipses stay what they are; other curves become splines within 0.001 mm.
Result<std::vector<Trace>> tracesOf(const std::string& source, const Plane& plane, ModelReader& model);

/// The traces of the sources that a drawing names, each source once. What a source is at fault for is told.
std::vector<Trace> tracesFor(const Drawing& drawing, const Plane& plane, ModelReader& model,
                             std::vector<Message>& faults);

/// Everything that can be followed: of every edge and face that has a name of its own, of every stroke of
/// these drawings that is no helper, and of these curves in space.
std::vector<Trace> allTraces(const Plane& plane, ModelReader& model,
                             const std::vector<ThingId>& drawings = {},
                             const std::vector<ThingId>& curves = {});

} // namespace gc

#pragma once
/// \file For .cpp files of this folder: one area turned about an axis in its plane.

#include "core/model/arguments.hpp"
#include "core/steps/shared/ended_solid.hpp"
#include "core/steps/shared/profile.hpp"

namespace gc {

/// How far an area is turned.
struct Turn {
    Axis axis;
    double from = 0, to = 0;        ///< rad, counter-clockwise about the axis from where the area lies
    std::vector<TopoDS_Shape> ends; ///< faces that end it before `to`; none as a rule
    std::string said;               ///< the reference to them
    bool full() const;              ///< all round
};

/// What the slots say.
Result<Turn> turnOf(const Arguments& args, ModelReader& model, const Outline& outline);

/// "revolve.axis": an area lies on both sides of the axis, or the axis leaves the drawing's plane; with the
/// place. \param called what a person calls the outline
std::optional<Error> whyNotTurned(const Outline& outline, const Region& area, const Axis& axis,
                                  const std::string& called);

/// The solid of one area.
Swept turned(Profile profile, const Turn& turn);

} // namespace gc

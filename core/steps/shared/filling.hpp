#pragma once
/// \file For .cpp files: what of a drawing becomes solid, by the slots "fill", "thickness" and "wall side"
/// (see addFilling in words.hpp).

#include "core/model/arguments.hpp"
#include "core/sketch/edit/thin_wall.hpp"

namespace gc {

/// Is a wall along its strokes meant, not what it encloses?
bool isWall(const Arguments& args);

/// The outline with a wall along its strokes for its areas. Its sides are called "side N" where the stroke
/// itself is, "far side N" beside it, "cap 1" and "cap 2" at the ends of an open one.
Result<Outline> wallAlong(const Arguments& args, const Outline& outline,
                          const std::optional<WallAxis>& axis = {});

/// By the slot "wall side".
WallSide wallSideOf(const Arguments& args);
/// The outline with a wall that was laid along it, its sides called as above.
Outline withWall(const Outline& outline, const ThinWall& wall, WallSide side);

/// What of a drawing becomes solid: its areas that are meant, or a wall along its strokes.
struct Filled {
    const Outline* drawn = nullptr;
    std::optional<Outline> wall;
    std::vector<Region> areas;
    std::vector<Message> notes;
    const Outline& outline() const { return wall ? *wall : *drawn; }
};

/// The drawing that the slot "outline" names, by the slots "area", "fill" and so on. \param kind of step, for
/// the codes of errors: ".outline" where there is none, ".stations" where it goes through stations, and those
/// of meantAreas \param verb "Extrude"
Result<Filled> filledFor(const Arguments& args, ModelReader& model, const std::string& kind,
                         const std::string& verb);

} // namespace gc

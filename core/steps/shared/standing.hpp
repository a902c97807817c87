#pragma once
/// \file For .cpp files: what stands on the walls of bodies and begins in a drawing: bosses, ribs, snap arms.

#include "core/model/arguments.hpp"
#include "core/steps/shared/becoming.hpp"
#include "core/steps/shared/ended_solid.hpp"
#include "core/steps/shared/laying.hpp"
#include "core/steps/shared/straight_looks.hpp"

#include <algorithm>

namespace gc {

/// The walls on which something stands, by the slots "top", "high", "target" and "side" (see addTop and
/// addStanding in words.hpp).
struct Footing {
    double sense = 1; ///< the way from the drawing to them: along its normal, or against it
    double lift = 0;  ///< so far along its normal before the drawing it begins, mm
    std::vector<TopoDS_Shape> bodies;
    double far = 0; ///< so far along, mm, nothing of the bodies is left
    Becoming becoming;
    /// Of each place, mm: how far it is to the wall from where it begins, how thick that is, and how much
    /// room is behind it. Nothing for a place that lies within a body.
    struct Foot {
        double distance = 0, wall = 0, room = 0;
        /// So far on from where it begins is surely past that, and before the wall, mm.
        double justPast() const { return std::min(0.02, distance / 2); }
    };
    std::vector<std::optional<Foot>> feet;
    std::vector<bool> beyond; ///< of each place: no wall lies ahead of it

    double farthestFoot() const;
    /// The thinnest wall below a place; 0 where there is none.
    double thinnestWall() const;
};

/// What is drawn where no wall lies ahead.
enum class Beyond { IsTold, IsLeftOut };

/// \param places of the drawing; the wall is looked for from each of them, along the normal both ways
/// \param mayRise it may begin above the drawing: it has the slots of addTop
/// \param beyond what becomes of places with no wall ahead
/// Errors: "becoming.body"; "standing.none" where no wall lies ahead of a place that needs one, or all lie
/// within a body; "standing.flat" where all lie on the wall itself.
Result<Footing> standingOn(const Arguments& args, ModelReader& model, const std::vector<Vec3>& places,
                           const Vec3& normal, bool mayRise, Beyond beyond = Beyond::IsTold);
/// "standing.none".
Error noWallAhead(const Vec3& place);
/// The bodies of the slot "target"; where it is empty all that there are.
Result<std::vector<ThingId>> bodiesToStandOn(const Arguments& args, ModelReader& model);
/// The same as standingOn of many places, told by triangles. \param looks along the normal, one for each of
/// those bodies
Result<Footing> standingByLooks(const Arguments& args, ModelReader& model, const std::vector<Vec3>& places,
                                const Plane& drawing, const std::vector<StraightLooks>& looks);

/// A point of a drawing at which something stands.
struct DrawnPlace {
    int stroke = 0;
    Vec2 at;
    std::string called; ///< "point 3"
};
/// What stands at the points of a drawing, and where it begins.
struct StandingPlaces {
    std::vector<DrawnPlace> places;
    Footing footing;
    Outline top; ///< the drawing, in the plane in which it begins
};
/// \param kind of step, for the codes of errors: ".outline" where there is no drawing, ".points" where it has
/// no points; and those of standingOn
Result<StandingPlaces> standingPlaces(const Arguments& args, ModelReader& model, const std::string& kind);

/// Of a solid that begins in the drawing the pieces in which places lie are put among the solids, up to the
/// walls. \param tools what else ends it, and is where it begins
/// Errors: "standing.open" where a part of it meets no wall.
Result<Done> addStanding(Swept whole, const Footing& standing, const std::vector<gp_Pnt>& places,
                         ToolOfSolids& into, const std::vector<TopoDS_Shape>& tools = {});

/// Its solids; where they run through each other they are joined.
Result<NamedTool> joinedSolids(const ToolOfSolids& made);

/// By the slots of addFoot: where faces of the step meet others in a hollow, on every body that it changed.
/// Where that cannot be rounded it stays sharp, and that is its doubt.
void roundFeet(const Arguments& args, StepChange& change);

/// What stands on a wall and is thick against it makes that sink on its far side: told, with what is usual.
/// \param thickness at the foot, mm \param slot by which it is set, \param current what that is now, mm
/// \param perSlot by how much it grows where that grows by one
std::optional<Error> sinkDoubt(const Footing& standing, double thickness, int step, const std::string& slot,
                               double current, double perSlot = 1);

} // namespace gc

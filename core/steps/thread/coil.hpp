#pragma once
/// \file For .cpp files: the solid of a thread around a round wall.

#include "core/base/angles.hpp"
#include "core/model/model.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/drawn_section.hpp"

#include <Geom_BSplineSurface.hxx>
#include <gp_Ax2.hxx>

namespace gc {

/// A round wall, seen along its axis.
struct RoundWall {
    Axis axis;           ///< upward; its origin is at the lower end of the wall
    double radius = 0;   ///< at the lower end, mm
    double slope = 0;    ///< growth of the radius along the axis
    double height = 0;   ///< mm
    bool outside = true; ///< the material lies within
    double radiusAt(double level) const { return radius + slope * level; }
};

enum class ThreadProfile { Trapezoid, Triangular, Rounded, Drawn };

/// Sizes in mm and rad. The profile lies in the plane through the axis, its depth square to that.
struct Coil {
    RoundWall wall;
    ThreadProfile profile = ThreadProfile::Trapezoid;
    double pitch = 3, turns = 2, level = 0; ///< of its middle where it begins
    double depth = 1.2, base = 2.2, crest = 0.8;
    double runout = 0; ///< rad from either end over which it sinks into the wall
    double angle = 0;  ///< where it begins
    bool left = false, cut = false;
    double clearance = 0; ///< to the thread of its partner, whose wall is as far from this one
    int number = 1;       ///< of several starts
    DrawnSection drawn{}; ///< of a drawn profile, which gives the depth and the base

    /// Half of the width at a depth: the flanks, continued into the wall.
    double halfWidth(double depthThere) const;
    /// How deep the crest is after an angle from its beginning: less where it runs out.
    double depthAt(double turned) const;
    /// What the roles of its faces end with: " 2" of the second of several starts.
    std::string suffix() const;
    /// How far it goes into the wall, so that nothing is left open between them.
    double sunk() const;
};

/// A line along the coil by its place in the profile: how deep at full depth, and on the lower (-1) or upper
/// (1) flank or, of a drawn one, how far from its middle along the axis. Within the wall it stays as deep as
/// it is.
struct CoilPlace {
    double depth;
    double side;
    bool sunk = false;
};

/// One face along the thread: a polynomial across by its poles, along these from end to end.
struct CoilStrip {
    std::string role;
    std::vector<CoilPlace> poles;
    Handle(Geom_BSplineSurface) surface; ///< across from 0 to 1, and turned, rad
};

/// The faces of a coil, from within the wall to its crest and back, fitted.
class CoilShape {
  public:
    /// Nothing where it cannot be fitted.
    static std::optional<CoilShape> of(const Coil& coil);

    const Coil& coil() const { return m_coil; }
    double all() const { return m_coil.turns * 2 * kPi; } ///< rad
    /// Lower flank, crest, upper flank, foot; of a drawn profile its pieces, and the foot.
    const std::vector<CoilStrip>& strips() const { return m_strips; }
    /// How deep a line is after an angle from the beginning, mm: less where the thread runs out.
    double depthAt(double turned, const CoilPlace& place) const;
    gp_Pnt at(double turned, double depth, double side) const;
    /// Angles at which the run-outs end and begin, with both ends.
    std::vector<double> breaks() const;

  private:
    explicit CoilShape(const Coil& coil);
    Coil m_coil;
    gp_Ax2 m_frame;
    std::vector<CoilStrip> m_strips;
};

/// Nothing where the kernel fails.
std::optional<NamedTool> solidOf(const CoilShape& shape, int step);

} // namespace gc

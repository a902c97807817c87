#pragma once
/// \file For .cpp files of this folder: copies of a detail that are fitted to a wall which is another one
/// where they stand: turned with it, and their walls made longer or shorter to end on it.

#include "core/steps/repeat/placements.hpp"
#include "core/steps/repeat/walls.hpp"
#include "core/steps/shared/loop_2d.hpp"

namespace gc {

/// How the detail stands on the wall of its first mouth: in the middle of the mouth, and square to the wall.
struct Stand {
    gp_Pnt at;
    gp_Dir up;
};

/// Where details stand on a wall after they were moved away from it.
class Seats {
  public:
    /// \param square turned with the wall; else only moved along the detail's own way
    Seats(const Detail& detail, Walls& walls, bool square);
    const Stand& own() const { return m_own; }
    const gp_Vec& way() const { return m_way; }
    /// The motion with what brings it back onto a wall. Nothing where there is none.
    std::optional<gp_Trsf> seated(const gp_Trsf& by);

  private:
    const Detail& m_detail;
    Walls& m_walls;
    bool m_square;
    Stand m_own;
    gp_Vec m_way; ///< that of the detail's walls
};
/// How a detail stands.
Stand standOf(const Detail& detail);
/// The way that its walls go at its first mouth: an axis, or that of straight edges.
std::optional<gp_Vec> ownWay(const Detail& detail);

/// A copy with its own edges, and how its mouths lie in the parameters of the walls.
struct FittedCopy {
    std::vector<TopoDS_Shape> faces; ///< in the order of the detail's
    std::vector<TopoDS_Wire> loops;  ///< in the order of its mouths; on the walls, taken forward
    std::vector<Outline2d> outlines;
    std::vector<TopoDS_Face> hosts; ///< that each mouth lies in
    bool overSeam = false; ///< a mouth lies over the line at which its wall closes up: it is of no use
};

/// Fits one copy. Nothing where its walls cannot be made longer or shorter (they are neither flat nor turned
/// nor drawn along a line), or do not meet what they shall end on.
/// \param hosts the face that each mouth is to lie in \param places known ones of these
std::optional<FittedCopy> fitted(const Detail& detail, const gp_Trsf& by,
                                 const std::vector<TopoDS_Face>& hosts,
                                 const std::vector<const KnownPlaces*>& places);

/// Does every mouth lie on its face after that motion as it is?
bool liesOnItself(const Detail& detail, const gp_Trsf& by);

} // namespace gc

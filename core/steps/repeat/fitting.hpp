#pragma once
/// \file For .cpp files of this folder: copies of a detail that are fitted to a wall which is another one
/// where they stand: turned with it, and their walls made longer or shorter to end on it.

#include "core/steps/repeat/placements.hpp"
#include "core/steps/shared/detail.hpp"
#include "core/steps/shared/loop_2d.hpp"

#include <Geom_Surface.hxx>

namespace gc {

/// Places of a surface from places near it: found from the nearest one that is known already.
class KnownPlaces {
  public:
    KnownPlaces(Handle(Geom_Surface) surface, const gp_Pnt2d& first);
    const Geom_Surface& surface() const { return *m_surface; }
    gp_Pnt2d nearTo(const gp_Pnt& p) const;
    /// The nearest place; nothing where there is none.
    std::optional<gp_Pnt2d> footOf(const gp_Pnt& p) const;
    void add(const gp_Pnt2d& uv) { m_known.emplace_back(m_surface->Value(uv.X(), uv.Y()), uv); }

  private:
    Handle(Geom_Surface) m_surface;
    std::vector<std::pair<gp_Pnt, gp_Pnt2d>> m_known;
};

/// How the detail stands on the wall of its first mouth: in the middle of the mouth, and square to the wall.
struct Stand {
    gp_Pnt at;
    gp_Dir up;
};

/// Where details stand on a wall after they were moved away from it.
class Seats {
  public:
    /// \param square turned with the wall; else only moved along the detail's own way
    Seats(const Detail& detail, bool square);
    const Stand& own() const { return m_own; }
    /// The motion with what brings it back onto the wall. Nothing where the wall does not go on there.
    std::optional<gp_Trsf> seated(const gp_Trsf& by);

  private:
    std::optional<gp_Pnt2d> landed(const gp_Pnt& p, const gp_Vec& way) const;

    KnownPlaces m_places;
    bool m_reversed, m_square;
    Stand m_own;
    gp_Vec m_way; ///< that of the detail's walls
};

/// A copy with its own edges, and how its mouths lie in the parameters of the walls.
struct FittedCopy {
    std::vector<TopoDS_Shape> faces; ///< in the order of the detail's
    std::vector<TopoDS_Wire> loops;  ///< in the order of its mouths; on the walls, taken forward
    std::vector<Outline2d> outlines;
    std::vector<std::vector<TopoDS_Edge>>
        edges;             ///< of each loop, in the order that they have in the detail's
    bool overSeam = false; ///< a mouth lies over the line at which its wall closes up: it is of no use
};

/// Fits copies of a detail, one after the other.
class Fitting {
  public:
    /// \param places where each mouth lies on its wall
    Fitting(const Detail& detail, const std::vector<gp_Pnt2d>& places);
    /// Nothing where its walls cannot be made longer or shorter (they are neither flat nor turned nor drawn
    /// along a line), or do not meet the wall there.
    std::optional<FittedCopy> at(const gp_Trsf& by);

  private:
    const Detail& m_detail;
    std::vector<KnownPlaces> m_places; ///< of a mouth's wall
};

/// The middle of a loop in the parameters of a face taken forward.
gp_Pnt2d middleOf(const Mouth& mouth);

/// Does every mouth lie on its face after that motion as it is?
bool liesOnItself(const Detail& detail, const gp_Trsf& by);

} // namespace gc

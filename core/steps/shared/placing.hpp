#pragma once
/// \file For .cpp files: which wall each area of a drawing comes to lie on, and whether it lies within it.

#include "core/shape/kernel.hpp"
#include "core/steps/shared/far_sides.hpp"
#include "core/steps/shared/laying.hpp"
#include "core/steps/shared/lifted.hpp"

#include <IntCurvesFace_ShapeIntersector.hxx>

namespace gc {

/// Places of an area: along its borders, and within.
std::vector<Vec2> placesOf(const Region& area);

/// How a drawing is laid onto walls.
struct LayingBy {
    Plane drawing;
    bool ahead = true;    ///< along the drawing's normal, else against it
    bool wrapped = false; ///< in true length, from its middle on; else straight
};

/// Where a line from a place of the drawing meets the walls first.
struct Hit {
    TopoDS_Face face;
    gp_Pnt2d there;
    double far = 0; ///< mm
};
class WallsAhead {
  public:
    WallsAhead(const std::vector<TopoDS_Face>& walls, const LayingBy& by);
    std::optional<Hit> under(Vec2 place);

  private:
    std::vector<TopoDS_Face> m_walls;
    Plane m_drawing;
    Vec3 m_way;
    IntCurvesFace_ShapeIntersector m_lines;
};

class OverWalls;

/// An area and the wall under it.
struct LaidArea {
    const Region* area = nullptr;
    TopoDS_Face wall;
    std::shared_ptr<const Laying> laying;     ///< into the wall's own parameters
    Window window;                            ///< of the near and the far end
    Window unrolled;                          ///< of the near end, before whole turns were taken off
    std::vector<std::vector<gp_Pnt2d>> loops; ///< places along the near end
    bool within = false;                      ///< it meets no border of the wall
    bool overSeam = false;                    ///< but the line at which the wall closes up
    std::shared_ptr<const OverWalls> over;    ///< all walls at once, where it is wrapped
};

/// One area straight onto the wall that a line from one of its places meets. Errors: as of layAreas.
Result<LaidArea> layOn(const Region& area, Vec2 place, const Hit& hit, const LayingBy& by,
                       const ReliefShape& shape);

/// Errors: "emboss.miss" where an area does not come onto the walls, with the other way round where that
/// does; "emboss.around" where it is longer than the wall is round; "emboss.uneven" where it cannot be
/// wrapped; those of FarSides.
Result<std::vector<LaidArea>> layAreas(const std::vector<Region>& areas,
                                       const std::vector<TopoDS_Face>& walls, const LayingBy& by,
                                       const ReliefShape& shape);

/// How far the seam of a wall has to be turned so that no area lies over it, and neither does what is in the
/// wall already: rad along its own parameter. Nothing where there is no room.
std::optional<double> seamTurn(const TopoDS_Face& wall, const std::vector<LaidArea>& areas);

} // namespace gc

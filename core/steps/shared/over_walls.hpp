#pragma once
/// \file For .cpp files: a drawing laid onto walls that lie side by side, as if these were one.

#include "core/base/result.hpp"
#include "core/steps/shared/geodesics.hpp"
#include "core/steps/shared/lifted.hpp"
#include "core/steps/shared/placing.hpp"

#include <BRepTopAdaptor_FClass2d.hxx>

#include <memory>
#include <optional>
#include <vector>

namespace gc {

/// One of the walls.
class WallBeside {
  public:
    explicit WallBeside(const TopoDS_Face& face);
    const TopoDS_Face& face() const { return m_face; }
    const Handle(Geom_Surface) & surface() const { return m_surface; }
    const Geodesics& lines() const { return m_lines; }
    bool holds(const gp_Pnt2d& uv) const { return m_inside->Perform(uv) != TopAbs_OUT; }
    /// Out of the body, of length 1; nothing at a pole.
    std::optional<gp_Vec> outAt(const gp_Pnt2d& uv) const;

  private:
    TopoDS_Face m_face;
    Handle(Geom_Surface) m_surface;
    Geodesics m_lines;
    std::shared_ptr<BRepTopAdaptor_FClass2d> m_inside;
};

class OverWalls {
  public:
    struct Place {
        std::size_t wall = 0;
        gp_Pnt at;
        gp_Vec out;         ///< out of the body, of length 1
        bool beyond = true; ///< it lies on none of them, but where one would go on
        int rounds = 0;     ///< how often the way there came over the line at which a wall closes up
    };
    virtual ~OverWalls() = default;
    /// Where places of the drawing come to lie, mm. Empty where one of them is not known.
    /// \param ys ascending
    virtual std::vector<Place> column(double x, const std::vector<double>& ys) const = 0;
};

/// Along the drawing's normal, each place onto the wall that is met first.
/// \param met a place of the drawing for each of the walls, and where it lies
std::unique_ptr<OverWalls> straightOver(const std::vector<std::pair<Vec2, Hit>>& met, const Plane& drawing);

/// Wrapped (see laidAround()): where a straightest line comes to a border it goes on over the next wall, over
/// a sharp edge as if the walls were unfolded.
class AroundWalls : public OverWalls {
  public:
    /// On one of the walls.
    struct On {
        std::size_t wall = 0;
        Going going;
        int rounds = 0; ///< how often it came over the line at which a wall without a period closes up
    };
    /// Nothing where the wall stands square to the drawing. \param place of the drawing that lies there
    static std::unique_ptr<AroundWalls> from(const std::vector<TopoDS_Face>& walls, const Plane& drawing,
                                             Vec2 place, const Hit& there);

    const WallBeside& wall(std::size_t i) const { return m_walls[i]; }
    /// Where the level line through the first place is at another x.
    On levelAt(double x) const;
    /// The same for one wall alone.
    LevelLine levelOn(const On& on) const;
    std::vector<Place> column(double x, const std::vector<double>& ys) const override;

  private:
    AroundWalls(const std::vector<TopoDS_Face>& walls, Vec2 place);
    On along(On from, double by) const;
    std::optional<On> overBorder(const On& at) const;
    std::optional<gp_Vec> upAt(const On& on) const;

    std::vector<WallBeside> m_walls;
    Vec2 m_place;
    double m_turn = 1; ///< -1: upward lies to the right of the level line, seen from outside
    mutable std::vector<std::pair<double, On>> m_level; ///< what is known of it
};

/// "emboss.border": a part of the drawing comes onto none of the walls.
Error beyondWalls();

/// The walls under a window of the drawing as one surface, on the drawing's own parameters, moved out of them
/// by lengths in mm, square to them or along a direction. Errors: "emboss.border" where they meet in a sharp
/// edge, or where the drawing comes onto none; "emboss.folds" where they are bent more closely than they are
/// moved.
Result<std::vector<LiftedSurface>> wallsAsOne(const OverWalls& over, const Window& window,
                                              const std::vector<double>& by,
                                              const std::optional<gp_Dir>& along);

} // namespace gc

#pragma once
/// \file For .cpp files: the round that takes the place of what folds over when a wall is moved.

#include "core/shape/fit_grid.hpp"
#include "core/steps/shell/fold_crease.hpp"

#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>

#include <map>

namespace gc {

/// A ball rolled along a crease: a round along all of it, over w, from one of its lines on the face to the
/// other, over s from 0 to 1. Where the crease ends within the surface it goes over into what the wall is
/// moved to there.
class FoldRound {
  public:
    FoldRound(const FoldSheets& sheets, FoldCrease crease);

    /// False where it cannot be fitted.
    bool fit();
    const Handle(Geom_BSplineSurface) & surface() const { return m_surface; }

    double last() const { return m_w.back(); } ///< w, from 0
    /// Of one of its two lines, on the wall's surface. Nothing where that cannot be followed.
    std::optional<gp_Pnt2d> lineAt(int line, double w) const;
    /// About where a place of the wall between the lines lies, as w and s.
    gp_Pnt2d near(const gp_Pnt2d& uv) const;
    /// Where the round runs beside what a place of one of its lines, or of its ends within the wall, is moved
    /// to, as w and s. Nothing where that cannot be followed.
    std::optional<gp_Pnt2d> beside(const gp_Pnt2d& uv) const;
    const FoldCrease& crease() const { return m_crease; }
    double radius() const { return m_sheets.radius(); } ///< mm, of the ball
    const Handle(Geom_Surface) & wall() const { return m_sheets.wall.surface; }
    /// Does a place of the wall lie between the lines?
    bool covers(const gp_Pnt2d& uv) const;

  private:
    /// The round at one w.
    struct Row {
        CreasePlace place;
        double wall = 0;              ///< the share of the wall in it rather than of the rolled ball
        std::vector<double> length{}; ///< of what the wall is moved to, up to places at even shares, mm
        gp_Vec to[2]{};               ///< from the crease to both sides of the round
        double angle = 0;             ///< between these
    };
    std::optional<CreasePlace> creaseAt(double w) const;
    double wallShare(double w) const;
    const std::optional<Row>& rowAt(double w);
    std::optional<Row> makeRow(double w) const;
    std::optional<gp_Pnt> at(const Row& row, double s) const;
    std::optional<gp_Pnt> onWall(const Row& row, double s) const;
    std::optional<GridDirection> along();
    /// All of them known, or the round is lost.
    std::vector<gp_Pnt> places(double w, const std::vector<double>& s);

    FoldSheets m_sheets;
    FoldCrease m_crease;
    std::vector<double> m_w;                     ///< of the crease's places
    Handle(Geom2d_BSplineCurve) m_lines[2];      ///< over w, nearly
    std::optional<double> m_calm[2];             ///< w up to which, or from which on, nothing folds over
    std::map<double, std::optional<Row>> m_rows; ///< while it is fitted
    std::optional<Row> m_ends[2];                ///< within the wall
    bool m_lost = false;
    Handle(Geom_BSplineSurface) m_surface;
};

} // namespace gc

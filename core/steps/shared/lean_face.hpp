#pragma once
/// \file For .cpp files of this folder: one leaning side of a prism as a face, in the frame of the drawing (x
/// across, y up, z before it).

#include "core/shape/fit_direction.hpp"
#include "core/sketch/inset/inset_side.hpp"

#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Vertex.hxx>
#include <gp_Ax3.hxx>
#include <gp_Pnt.hxx>
#include <gp_Pnt2d.hxx>

#include <optional>

namespace gc {

/// One half of a prism: from the drawing to one side of it.
struct LeanHalf {
    double sense = 1;  ///< +1: before the drawing, -1: behind it
    double height = 0; ///< mm
    double lean = 0;   ///< rad from the drawing's normal; positive: inward
    /// How far the sides have moved at a height.
    double movedAt(double at) const { return std::tan(lean) * at; }
};

/// Rows of poles along a free side: where it lies in the drawing, and where it has moved to.
class LeanRows {
  public:
    /// \param from the least parameter that is needed, \param to the greatest
    /// \param moves how far the side has moved in each row, mm
    /// Nothing where it cannot be fitted within kSurfaceFit.
    static std::optional<LeanRows> of(const InsetSide& side, double from, double to,
                                      const std::vector<double>& moves);

    /// \param height of the row over the drawing
    Handle(Geom_BSplineCurve) curve(std::size_t row, double height) const;
    /// A ruled surface from the first row to another; its second parameter is the length along the rulings.
    Handle(Geom_Surface) ruled(std::size_t row, const LeanHalf& half) const;

  private:
    explicit LeanRows(FitDirection direction) : m_direction(std::move(direction)) {}
    bool fit(const InsetSide& side, const std::vector<double>& moves);
    double farthest(const InsetSide& side, const std::vector<double>& moves) const;

    FitDirection m_direction;
    std::vector<std::vector<Vec2>> m_rows;
};

/// One side on one half.
class LeanFace {
  public:
    /// \param rows of a free side, with the row of this half's far end
    LeanFace(const InsetSide& side, const LeanHalf& half, const LeanRows* rows, std::size_t row);

    const Handle(Geom_Surface) & surface() const { return m_surface; }
    bool flat() const { return m_side->kind() == InsetSide::Kind::Line; }
    /// Does the surface's normal look into the solid?
    bool looksIn() const;
    /// Where on the surface a place of the side lies, at a height over the drawing.
    gp_Pnt2d at(double t, double height) const;

    /// The edge of the side at a height, in the direction of the walk, with its curve on this surface.
    /// Nothing where the kernel refuses.
    std::optional<TopoDS_Edge> level(double from, double to, const TopoDS_Vertex& a, const TopoDS_Vertex& b,
                                     double height) const;
    /// Lays a level edge of the other half on this surface.
    void lay(const TopoDS_Edge& edge, const LeanFace& other) const;

  private:
    TopoDS_Edge roundLevel(double from, double to, const TopoDS_Vertex& a, const TopoDS_Vertex& b,
                           double height) const;
    gp_Ax3 place(double height) const;

    const InsetSide* m_side;
    LeanHalf m_half;
    const LeanRows* m_rows;
    std::size_t m_row;
    double m_zero = 0, m_shift = 0; ///< of a round side: the angle at which its surface begins, and there u
    Handle(Geom_Surface) m_surface;
};

/// An edge on a curve from one vertex to another, which the curve meets at these parameters.
TopoDS_Edge edgeOn(const Handle(Geom_Curve) & curve, const TopoDS_Vertex& a, const TopoDS_Vertex& b,
                   double from, double to);

inline gp_Pnt inFrame(Vec2 p, double z) {
    return {p.x, p.y, z};
}

} // namespace gc

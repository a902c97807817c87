#pragma once
/// \file For .cpp files: a round wall that coils are set onto, and the line at which it closes up.

#include "core/steps/thread/coil.hpp"

#include <Geom2d_Curve.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>

namespace gc {

class WallWithSeam {
  public:
    /// Nothing where it has no straight seam, or another edge between the levels of the coils.
    static std::optional<WallWithSeam> of(const TopoDS_Face& face, const std::vector<CoilShape>& coils);

    const TopoDS_Face& face() const { return m_face; } ///< taken forward
    const Handle(Geom_Surface) & surface() const { return m_surface; }
    /// All edges but the seam, as the face has them.
    const std::vector<TopoDS_Edge>& borders() const { return m_borders; }
    double left() const { return m_left; } ///< where it closes up, by its first parameter

    /// In its parameters, to a turn.
    gp_Pnt2d placeOf(const gp_Pnt& p) const;
    /// A place of the seam that the border of a coil goes over. \param v its second parameter
    void cross(double v, const TopoDS_Vertex& at) { m_crossings.emplace_back(v, at); }
    /// What of the seam lies beside the coils, each piece once either way. Empty where they do not come out
    /// where they went in.
    std::vector<TopoDS_Edge> seamPieces();

  private:
    bool keepsClear(const TopoDS_Edge& edge, double v0, double v1) const;
    bool readSeam(double v0, double v1);
    double vOf(double t) const { return m_first->Value(t).Y(); }
    double atV(double v) const { return m_from + (v - vOf(m_from)) / m_along; }
    TopoDS_Edge seamBetween(double v, const TopoDS_Vertex& low, double w, const TopoDS_Vertex& high) const;

    TopoDS_Face m_face;
    Handle(Geom_Surface) m_surface;
    std::vector<TopoDS_Edge> m_borders;
    TopoDS_Edge m_seam;
    Handle(Geom2d_Curve) m_first, m_second; ///< the seam as the face has it, forward and reversed
    double m_from = 0, m_to = 0;            ///< of the seam
    double m_along = 1;                     ///< of the second parameter, for one of the seam
    double m_left = 0;
    std::vector<std::pair<double, TopoDS_Vertex>> m_crossings;
};

} // namespace gc

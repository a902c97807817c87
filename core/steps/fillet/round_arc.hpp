#pragma once
/// \file For .cpp files: the arc along which a ball rolls off from one wall over a face to the next, and
/// surfaces of such arcs.

#include "core/shape/fit_grid.hpp"
#include "core/steps/fillet/ball.hpp"

#include <map>

namespace gc {

/// Poles of the arc from the ball's touch on the first wall over the third face to the one on the second,
/// times their weights, and the weight between them last, as a point: two quadratic pieces (Piegl, Tiller:
/// The NURBS book, 7.3).
std::vector<gp_Pnt> arcOf(const Ball& ball);
/// A place of it. \param v 0 on the first wall, 1 on the second
gp_Pnt placeOnArc(const Ball& ball, double v);

/// u along, v across. \param rows what arcOf gives, by u
Handle(Geom_BSplineSurface)
    skinned(const GridDirection& u, const std::function<std::vector<gp_Pnt>(double)>& rows);

/// A face that cuts the arcs aslant.
class AslantEnd {
  public:
    /// \param near a place of it where they may meet it \param end 0 or 1: at which end of the way it lies
    AslantEnd(const TopoDS_Face& face, const gp_Pnt2d& near, double end)
        : m_face(face), m_near(near), m_end(end) {}

    /// How far along the way its place at a share across lies on the face. Nothing where none does.
    std::optional<double> at(double v, const std::function<Ball(double t)>& ballAt);

  private:
    FaceSurface m_face;
    gp_Pnt2d m_near;
    double m_end;
    std::map<double, double> m_known; ///< by the share across
};

/// The same between ends that cut the arcs aslant.
struct AslantRound {
    std::function<Ball(double t)> ballAt;        ///< along, also somewhat before 0 and beyond 1
    std::function<double(double v)> first, last; ///< where its ends are, by the place across
    Ball at(double u, double v) const { return ballAt(first(v) + (last(v) - first(v)) * u); }
};
/// Nothing where it takes too many poles.
std::optional<Handle(Geom_BSplineSurface)> skinned(const AslantRound& round, int mostPoles);
/// The same through places of any kind. \param u, v where it may be less smooth, from 0 to 1
std::optional<Handle(Geom_BSplineSurface)> skinned(const std::function<gp_Pnt(double u, double v)>& place,
                                                   const std::vector<double>& u, const std::vector<double>& v,
                                                   int mostPoles);

} // namespace gc

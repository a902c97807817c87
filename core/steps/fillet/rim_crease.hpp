#pragma once
/// \file For .cpp files: the crease between two walls that goes down from a corner of a rim, and where balls
/// that roll along the rim on both sides of it come to it.

#include "core/steps/shared/moved_borders.hpp"

#include <TopoDS_Vertex.hxx>

namespace gc {

/// A border of the rim, its faces moved to where the middle of the ball is, up to one of its ends.
struct RimEnd {
    const MovedBorder& border;
    bool last = false; ///< by the parameter of the edge
    double parameter() const { return last ? border.last() : border.first(); }
};

class RimCrease {
  public:
    RimCrease() = default;
    RimCrease(const TopoDS_Edge& edge, const TopoDS_Vertex& corner);

    const TopoDS_Edge& edge() const { return m_edge; }
    gp_Pnt at(double parameter) const { return m_curve->Value(parameter); }
    /// Of two parameters the one farther from the corner.
    double farther(double one, double other) const;
    bool isWithin(double parameter) const;

    /// Where along the rim the ball touches both walls, too; where these run on from each other at the
    /// corner, the end. Nothing where it does nowhere.
    std::optional<double> touchesBoth(const NamedShape& shape, const RimEnd& end,
                                      const MovedFace& other) const;
    /// Where the line along which the ball touches its wall comes over the crease: the parameter along the
    /// rim and that of the crease. Nothing where it does not.
    std::optional<gp_Pnt2d> crossedBy(const RimEnd& end, double radius) const;

  private:
    TopoDS_Edge m_edge;
    TopoDS_Vertex m_corner;
    double m_first = 0, m_last = 1; // before the curve, which sets them
    Handle(Geom_Curve) m_curve;
    bool m_up = true; ///< it begins at the corner
};

} // namespace gc

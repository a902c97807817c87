#pragma once
/// \file For .cpp files: how two faces meet along an edge.

#include "core/shape/foot_point.hpp"
#include "core/shape/kernel.hpp"

#include <Geom2d_Curve.hxx>

#include <optional>

namespace gc {

/// One place of an edge.
struct FaceMeeting {
    double kink = 0; ///< between the outward normals of its faces, rad
    double jump = 0; ///< of the curvature across it, 1/mm
    bool hollow = false;
    Vec3 at;
};

class EdgeMeeting {
  public:
    EdgeMeeting(const TopoDS_Edge& edge, const TopoDS_Face& one, const TopoDS_Face& other);
    bool known() const { return m_one.known() && m_other.known() && !m_curve.IsNull(); }
    /// By the share of the curve's own parameter. Nothing where a face has no normal.
    std::optional<FaceMeeting> at(double share) const;

  private:
    /// A face beside the edge.
    class Beside {
      public:
        Beside(const TopoDS_Edge& edge, const TopoDS_Face& face);
        bool known() const { return !m_on.IsNull(); }
        /// Does it lie to the left of the edge's own direction, seen from outside?
        bool left() const { return !m_backward; }
        SurfacePlace at(double t) const { return placeOf(m_face.surface(), m_on->Value(t)); }
        std::optional<gp_Vec> outward(const SurfacePlace& p) const { return m_face.outward(p); }

      private:
        FaceSurface m_face;
        Handle(Geom2d_Curve) m_on;
        bool m_backward = false;
    };

    Beside m_one, m_other;
    double m_from = 0, m_to = 0; // before the curve, which sets them
    Handle(Geom_Curve) m_curve;
};

} // namespace gc

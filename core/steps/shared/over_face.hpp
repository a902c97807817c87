#pragma once
/// \file For .cpp files: places spread over a face, and what lines from them meet.

#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Lin.hxx>
#include <gp_Pnt.hxx>

#include <memory>
#include <vector>

namespace gc {

/// How far a flat face goes along the two parameters of its plane.
struct FaceSpan {
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0; ///< mm
    bool filled = false;                   ///< known to be all of that rectangle
};
FaceSpan spanOf(const TopoDS_Face& face);

/// Places within a flat face, in rows along its two parameters. \param each how many in a row
/// \param inset of the first and last row from the border of its box, as a share of that; negative: half a
/// row
std::vector<gp_Pnt> placesOver(const TopoDS_Face& face, int each, double inset = -1);

/// Where lines cross some shapes.
class Crossings {
  public:
    explicit Crossings(const std::vector<TopoDS_Shape>& shapes);
    /// In ascending order, mm along the line from its place on.
    std::vector<double> of(const gp_Lin& line, double far);

  private:
    std::vector<std::unique_ptr<IntCurvesFace_ShapeIntersector>> m_all;
};

} // namespace gc

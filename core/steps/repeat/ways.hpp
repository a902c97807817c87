#pragma once
/// \file For .cpp files of this folder: walls of a detail as lines that lead to its mouth.

#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Pnt.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec.hxx>

#include <memory>
#include <optional>

namespace gc {

/// A place of a line that leads to a mouth.
struct OnWay {
    gp_Pnt at;
    gp_Vec along; ///< for each unit of its height
};

/// A wall beside a mouth as lines side by side, each of which leads to the mouth. The edges of the wall that
/// end there are among them.
class Ways {
  public:
    virtual ~Ways() = default;
    /// \param t from one end of the mouth's edge to the other, 0 to 1
    virtual OnWay at(double t, double height) const = 0;
    virtual double heightAt(double t) const = 0; ///< about where the mouth was
    /// In the wall's parameters; where those need no curve, of no meaning.
    virtual gp_Pnt2d parametersAt(double t, double height) const = 0;
    virtual bool hasParameters() const = 0;
};

/// \param ahead an edge of a mouth, taken forward \param left, right the edges of the wall that end at its
/// first and last corner; null where there is none
/// Null where the wall is neither flat between straight edges, nor turned, nor drawn along a line, nor ruled.
std::unique_ptr<Ways> waysOf(const TopoDS_Edge& ahead, const TopoDS_Face& wall, const TopoDS_Edge& left,
                             const TopoDS_Edge& right);

/// A wall that is a spline ruled between two lines, as reliefs have, has no more than it shows: it gets a
/// surface that goes on straight to both sides, and a motion can then make it longer. Others stay as they
/// are. \param wall and its edges are changed
void goOnBeyond(const TopoDS_Face& wall);

} // namespace gc

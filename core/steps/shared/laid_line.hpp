#pragma once
/// \file For .cpp files: lines that lie on a surface, known in space and in its parameters: edges that are
/// shared from the start.

#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Surface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <TopoDS_Vertex.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pnt.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec2d.hxx>

#include <vector>

namespace gc {

/// A line in space and on a surface, by the same parameter from 0 to 1.
struct LaidLine {
    Handle(Geom_BSplineCurve) curve;
    Handle(Geom2d_BSplineCurve) laid;
    double off = 1e-7; ///< mm between the two

    gp_Pnt start() const { return curve->StartPoint(); }
};

/// A curve of scaled parameters (x and y of its places) as one in parameters. \param scale mm to one
/// parameter
Handle(Geom2d_BSplineCurve) inParameters(const Handle(Geom_BSplineCurve) & c, const gp_Vec2d& scale);
/// How far a line leaves the one on the surface, as the kernel will find it; never less than what is fitted
/// to.
double offBetween(const LaidLine& line, const Handle(Geom_Surface) & surface);
/// A straight line in parameters from one place to another, over a range of parameters.
Handle(Geom2d_BSplineCurve) straightLaid(const gp_Pnt2d& a, const gp_Pnt2d& b, double from, double to);
/// Twice the area that lines enclose in parameters, counter-clockwise positive.
double turnOf(const std::vector<LaidLine>& lines);
/// A stretch of a curve as an edge from corner to corner.
TopoDS_Edge edgeBetween(const Handle(Geom_Curve) & curve, double from, double to, const TopoDS_Vertex& a,
                        const TopoDS_Vertex& b, double tolerance);
/// The line as an edge of a face.
TopoDS_Edge edgeOf(const LaidLine& line, const TopoDS_Vertex& a, const TopoDS_Vertex& b,
                   const TopoDS_Face& on);

/// A closed row of lines on one face, a row beside it on another, and straight edges between their corners.
struct LaidLoop {
    std::vector<TopoDS_Edge> foot, crest; ///< each from a corner to the next
    std::vector<TopoDS_Edge> up;          ///< up[i] from where foot[i] begins to where crest[i] does
};
/// \param feet, crests as many, in the order of the walk \param low, high the faces that they are on, taken
/// forward
LaidLoop laidLoop(const std::vector<LaidLine>& feet, const std::vector<LaidLine>& crests,
                  const TopoDS_Face& low, const TopoDS_Face& high);
/// A closed wire, walked as its edges are or the other way.
TopoDS_Wire wireOf(const std::vector<TopoDS_Edge>& edges, bool against);
/// The border of a side: along the i-th foot, up, back along its crest, and down.
TopoDS_Wire borderOfSide(const LaidLoop& loop, std::size_t i);

} // namespace gc

#pragma once
/// \file For .cpp files: a row of walls that run on smoothly from each other, across borders from end to end,
/// as one surface.

#include <Geom2d_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <TopoDS_Edge.hxx>
#include <TopoDS_Face.hxx>
#include <gp_Pnt2d.hxx>
#include <gp_Vec.hxx>

#include <array>
#include <optional>
#include <vector>

namespace gc {

/// A face of free form that fills its rectangle of parameters, with one edge on each side.
struct WallPatch {
    int number = 0; ///< of the face, from 1
    TopoDS_Face face;
    Handle(Geom_Surface) surface;
    std::array<double, 2> low{}, high{}; ///< its parameters
    std::array<TopoDS_Edge, 4> sides;    ///< at low u, high u, low v and high v, as they lie in the face
};
/// Nothing for other faces.
std::optional<WallPatch> wallPatch(const TopoDS_Face& face, int number);

/// A patch in a row: x goes across it from the patch before to the next one, y along the borders between
/// them, both from 0 to 1.
struct RowPiece {
    const WallPatch* patch = nullptr;
    std::size_t in = 0;      ///< the side where x is 0
    bool flipped = false;    ///< y runs against the parameter
    double from = 0, to = 1; ///< the part of x that is taken

    std::size_t out() const { return in ^ 1U; }
    /// The side where y is 0, or 1.
    std::size_t along(bool high) const { return (in < 2 ? 2U : 0U) + (high != flipped ? 1U : 0U); }
    gp_Pnt2d uv(double x, double y) const;
    /// The other way.
    gp_Pnt2d xy(const gp_Pnt2d& uv) const;
    gp_Pnt at(double x, double y) const;
    /// The derivative by x.
    gp_Vec across(double x, double y) const;
    /// Does the normal of (x, y) point along that of (u, v)?
    bool sameSide() const { return (in < 2) == ((in % 2 == 0) != flipped); }
};

/// Do two pieces meet along the whole border between them, smoothly?
bool runOnSmoothly(const RowPiece& piece, const RowPiece& next);

/// One behind the other.
struct WallRow {
    std::vector<RowPiece> pieces;
    bool ring = false;                   ///< the last meets the first
    std::vector<double> ends;            ///< u where each begins, and where the last ends: mm, about
    Handle(Geom_BSplineSurface) surface; ///< u from ends.front() to ends.back(), v from 0 to 1

    /// Fits the surface to the pieces. False where it does not go through them.
    bool fit();

  private:
    gp_Pnt place(double u, double y) const;
    double pace(std::size_t joint, double y) const;
};

} // namespace gc

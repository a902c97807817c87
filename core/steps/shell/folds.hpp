#pragma once
/// \file For .cpp files: faces that are bent more than they are to be moved, and what is moved of them.

#include "core/shape/foot_point.hpp"

#include <Geom_Surface.hxx>

#include <optional>
#include <vector>

namespace gc {

/// A place of a surface that was moved along its normal, with its derivatives (Weingarten's equations; do
/// Carmo, Differential geometry of curves and surfaces, 3.2).
struct SheetPlace {
    gp_Pnt at;
    gp_Vec du, dv;
};

/// A surface that is moved along its normal.
struct Sheet {
    Handle(Geom_Surface) surface;
    double by = 0; ///< mm along the surface's own normal

    /// Nothing at a pole.
    std::optional<SheetPlace> moved(const gp_Pnt2d& uv) const;
};

/// How far a place folds over when it is moved by t: t k - 1 for the principal curvature k for which that is
/// the larger (do Carmo, 3.5, problem 11).
struct FoldBend {
    double excess = -1; ///< it folds over from 0 on
    double radius = 0;  ///< 1 / |k|, mm, where it does
    gp_Vec2d across;    ///< the direction of k in the surface's parameters, 1 mm long on it
    gp_Vec2d along;     ///< square to it
};
/// Nothing at a pole.
std::optional<FoldBend> foldAt(const Sheet& sheet, const gp_Pnt2d& uv);

/// How a face is moved.
Sheet sheetOf(const TopoDS_Face& face, double by);

/// The tightest radius of a face, mm, where it folds over; nothing where it does not. \param by mm along its
/// outward normal
std::optional<double> foldsOver(const TopoDS_Face& face, double by);

/// Of each stretch of a face that folds over, the place where it does so most.
std::vector<gp_Pnt2d> foldedPlaces(const TopoDS_Face& face, double by);

} // namespace gc

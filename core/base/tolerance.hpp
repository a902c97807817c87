#pragma once
/// \file How near is the same, how flat is flat: the tolerances that more than one place goes by, each with
/// its reason. A tolerance that one algorithm alone needs stands there, with its own.

namespace gc {

/// mm. Two places of a drawing nearer than this are one. Ten times what the kernel takes for one point, so
/// that what a drawing joins the kernel joins, too; a hundredth of what any workshop can measure.
inline constexpr double kSamePoint = 1e-6;

/// mm. The kernel's own: two points of shapes nearer than this are one (its "confusion").
inline constexpr double kKernelPoint = 1e-7;

/// mm. How far a face or a curve may leave its plane or its line and still be said to be flat or straight:
/// what the kernel's own operations leave on faces that began flat stays a tenth of it.
inline constexpr double kFlat = 1e-6;

/// The sine of the angle between directions that count as parallel, or its cosine as square: over 100 m it is
/// a tenth of a micrometre.
inline constexpr double kParallel = 1e-9;

/// A vector shorter than this has no direction; mm, or of unit vectors.
inline constexpr double kNoDirection = 1e-12;

/// mm. A fitted curve that is shown or drawn along: below what a person sees at any size of the stand.
inline constexpr double kCurveFit = 1e-3;

/// mm. A fitted surface that is part of the body: no more than what counts as flat, so that no measure sees
/// it.
inline constexpr double kSurfaceFit = 1e-6;

/// mm. Places that were written to a file as figures with two decimals, and read again: both may be off by
/// half of the last digit, in each of two files.
inline constexpr double kWrittenPlace = 0.02;

/// mm. Pieces whose middles lie nearer than this along an axis have no order there: an edit of a hundredth
/// must not swap them.
inline constexpr double kOrderApart = 0.01;

/// mm. How far the triangles that are measured on leave the surface: a hundredth of the thinnest wall that is
/// moulded.
inline constexpr double kMeasureDeviation = 0.02;

/// mm. Diagonal of the largest body that is shown and measured as finely as any other: beyond it the work
/// would grow with the square of the size, while people look at the same number of pixels.
inline constexpr double kLargeBody = 2000;

} // namespace gc

#pragma once
/// \file Plane drawings from and to SVG and DXF files. Lengths in mm, y up.

#include "core/base/result.hpp"
#include "core/sketch/drawing.hpp"

namespace gc {

struct ImportedDrawing {
    Drawing drawing;            ///< its strokes are held together: they move as one
    std::vector<Message> notes; ///< what was left out or fitted, in sentences
};

/// The most strokes that one file may bring.
inline constexpr std::size_t kMostImported = 5000;
/// And the most points of them all.
inline constexpr std::size_t kMostImportedPoints = 40000;

/// Paths (all commands), lines, polylines, polygons, rectangles, circles and ellipses with their transforms;
/// groups and reused elements. Sizes with units are true to size; a bare number is 1/96 inch (SVG 1.1,
/// section 7.10; CSS Values 4, section 6.2). The lower left corner of the page is the origin.
/// Errors: "svg.syntax", "svg.empty", "svg.large".
Result<ImportedDrawing> readSvg(const std::string& content);

/// Text DXF: LINE, ARC, CIRCLE, ELLIPSE, LWPOLYLINE and POLYLINE with bulges, SPLINE, POINT, and INSERT of
/// blocks of these. $INSUNITS says the unit; without it a number is a millimetre. Errors: "dxf.syntax",
/// "dxf.binary", "dxf.empty", "dxf.large".
Result<ImportedDrawing> readDxf(const std::string& content);

/// Path data as in SVG, but y up and in mm: strokes held together. Errors: "path.empty", "path.large".
Result<Drawing> drawingFromPath(const std::string& data);

/// By the suffix of the file's name.
Result<ImportedDrawing> readDrawingFile(const std::string& name, const std::string& content);

/// Lines, arcs and cubics as they are; conics that are no parabolas within 0.0001 mm. Helpers are left out.
std::string writeSvg(const Drawing& drawing);

/// Everything exact: conics and splines as (rational) splines. Helpers are left out.
std::string writeDxf(const Drawing& drawing);

} // namespace gc

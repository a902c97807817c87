#pragma once
/// \file A body as a small picture for a list, drawn by the processor: from a corner, lit from above.

#include <QColor>
#include <QImage>
#include <QVector3D>

#include <cstdint>
#include <vector>

namespace gc::app {

/// \param triangles three corners each \param size in pixels \param pixels of the screen for each of these
/// Transparent where the body is not; all of it where there are no triangles.
QImage smallPicture(const std::vector<QVector3D>& points, const std::vector<std::uint32_t>& triangles,
                    QSize size, double pixels, const QColor& colour);

} // namespace gc::app

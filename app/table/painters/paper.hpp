#pragma once
/// \file The squares of the paper, its axes, and the areas that are closed.

#include "app/table/painters/scene.hpp"

class QPainter;

namespace gc::app {

/// \param bottom where the words at the bottom may stand, pixels
void paintPaper(QPainter& p, const TableScene& scene, double bottom);
void paintAreas(QPainter& p, const TableScene& scene);

} // namespace gc::app

#pragma once
/// \file Strokes with what is known about them, their nodes and handles, and what does not close.

#include "app/table/painters/scene.hpp"

class QPainter;

namespace gc::app {

void paintStrokes(QPainter& p, const TableScene& scene);
/// Held handles of splines, and the poles that lead one; not of what moves as one.
void paintHandles(QPainter& p, const TableScene& scene);
void paintNodes(QPainter& p, const TableScene& scene);
void paintTroubles(QPainter& p, const TableScene& scene);
/// A motion that is still loose, so far along, pixels.
void paintMotion(QPainter& p, const TableScene& scene, const FreeMotion& motion, double by);
/// What an edit under way would make of the drawing.
void paintPreview(QPainter& p, const TableScene& scene, const Drawing& preview);

} // namespace gc::app

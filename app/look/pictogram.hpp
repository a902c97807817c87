#pragma once
/// \file The pictograms of verbs: a kind of step has its own in its folder, a tool of the table beside the
/// tools. All are drawn in one stroke style on a square of 18, in the colour of the pen.

#include <QString>

class QPainter;
class QRectF;

namespace gc::app {

/// \param verb a kind of step, "tool:line" or "edit:text"
QString pictogramFile(const QString& verb);
void drawPictogram(QPainter& painter, const QString& verb, const QRectF& box);

} // namespace gc::app

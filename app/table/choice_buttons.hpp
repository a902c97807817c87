#pragma once
/// \file What can be said of the things that are chosen on the table, and what can be done to them.

namespace gc::app {

class DrawingTable;

void addChoiceButtons(DrawingTable& table);
/// What else the figure that is open can be.
void addFigureButtons(DrawingTable& table);

} // namespace gc::app

#pragma once
/// \file What the painters of the table look at.

#include "app/table/drawing_model.hpp"
#include "app/table/table_view.hpp"

#include <set>

namespace gc::app {

struct TableScene {
    const DrawingModel& model;
    const TableView& view;
    std::set<int> marked;                ///< what is chosen, and what is being measured
    std::vector<std::vector<int>> areas; ///< the strokes around each area that is chosen
    int hover = 0;
    QPointF pointer;
    bool choosing = true;   ///< things are being chosen, not drawn
    bool chainOpen = false; ///< a chain is being drawn: its end is no trouble

    const Drawing& drawing() const { return model.drawing(); }
    QPointF toScreen(Vec2 p) const { return view.toScreen(p); }
    bool isMarked(int id) const { return marked.count(id) > 0; }
};

/// Letters and what came from files move as one: nodes and handles would drown them.
std::set<int> groupedStrokes(const Drawing& drawing);

} // namespace gc::app

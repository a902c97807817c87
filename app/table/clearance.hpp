#pragma once
/// \file Whether what lies over the table would hide something of the drawing.

#include "app/table/figures.hpp"
#include "app/table/table_view.hpp"

namespace gc::app {

/// Does a stroke or a shown figure of the drawing run through a box on the screen?
bool runsThrough(const Drawing& drawing, const TableView& view, const Figures& figures, const QRectF& box);

/// The same for one thing that lies over the table, worked out anew only when something changed.
class Clearance {
  public:
    /// The drawing is another.
    void forget() { m_known = false; }
    bool covers(const Drawing& drawing, const TableView& view, const Figures& figures, const QRectF& box) {
        if (!m_known || !(view == m_view) || box != m_box) {
            m_covers = runsThrough(drawing, view, figures, box);
            m_known = true, m_view = view, m_box = box;
        }
        return m_covers;
    }

  private:
    bool m_known = false, m_covers = false;
    TableView m_view;
    QRectF m_box;
};

} // namespace gc::app

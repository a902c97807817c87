#pragma once
/// \file The room of outlines: measured stations in their table, or a drawing on the drawing table.

#include "app/rooms/outline/drawing_reading.hpp"
#include "app/rooms/outline/stations_page.hpp"
#include "app/rooms/room.hpp"
#include "app/table/drawing_table.hpp"
#include "core/document/areas.hpp"

namespace gc::app {

class OutlineRoom : public Room {
    Q_OBJECT
  public:
    OutlineRoom(House& house, QObject* parent);
    QWidget* page() const override;
    QList<QWidget*> pages() const override { return {m_stations, m_table}; }
    Wants wants() const override;
    void enter() override;
    void leave() override;
    bool verb(const QString& kind) override;
    void stepKept(int step) override { showOutline(step); }
    /// Escape leaves a file that is being read, wherever the keyboard is.
    bool eventFilter(QObject* watched, QEvent* e) override;

    StationsPage* stationsPage() const { return m_stations; }
    DrawingTable* table() const { return m_table; }
    DrawingModel* drawing() const { return m_drawing; }
    /// The step whose drawing lies on the table while one is in this room; 0: none.
    int openDrawing() const { return m_inside && m_atTable ? m_drawing->step() : 0; }
    /// Opens an outline where it is made: stations in their table, a drawing on the drawing table.
    void showOutline(int step);
    /// Asks for a picture to draw over.
    void askPicture();
    /// Lines and curves from an SVG or DXF file onto the drawing table, once they are read.
    void bringIn(const QString& path);
    bool bringingIn() const { return m_reading->running(); }
    /// The drawing on the table as an SVG or DXF file, by its suffix.
    void writeOut(const QString& path);
    /// Lays a picture file under the drawing on the table.
    void layPicture(const QString& path);

  private:
    void connectForge();
    void connectTable();
    void connectSentences();
    void connectPicking();
    bool isDrawn(int step) const;
    void showOnlyDrawing();
    void layTable();
    void showPicture();
    void putName(int dimension);
    void takeIn(const QString& path, const Result<ImportedDrawing>& read);
    void beginOnAreas(const QString& kind, const Areas& areas);
    void toolTaken(const QString& key);

    StationsPage* m_stations;
    DrawingModel* m_drawing;
    DrawingTable* m_table;
    DrawingReading* m_reading;
    int m_readFor = 0; ///< the step whose drawing asked for it
    bool m_atTable = false, m_inside = false;
    std::optional<SharedText> m_shownPicture; ///< what the table's picture was read from
};

} // namespace gc::app

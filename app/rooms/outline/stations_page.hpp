#pragma once
/// \file Measured stations: their table, and the profile drawn through them.

#include "app/link/scene.hpp"
#include "app/shell/session.hpp"

#include <QLabel>
#include <QTableWidget>

class QVBoxLayout;

namespace gc::app {

class ForgeLink;

/// The measured profile drawn to scale: stations, the fair curve and the misses. Stations can be dragged.
class ProfilePlot : public QWidget {
    Q_OBJECT
  public:
    explicit ProfilePlot(QWidget* parent = nullptr);
    void show(const std::vector<StationValues>& stations, const OutlineView* outline, int chosen,
              const UnitSystem& units);
    QPointF stationAt(int i) const {
        return toScreen(m_stations[static_cast<std::size_t>(i)].diameter / 2,
                        m_stations[static_cast<std::size_t>(i)].height);
    }

  Q_SIGNALS:
    void stationDragged(int row, double diameter, bool done);
    void stationChosen(int row);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mousePressEvent(QMouseEvent* e) override;
    void mouseMoveEvent(QMouseEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;

  private:
    QPointF toScreen(double radius, double height) const;
    double radiusAt(double x) const;
    std::vector<StationValues> m_stations;
    OutlineView m_outline;
    UnitSystem m_units;
    int m_chosen = -1, m_dragged = -1;
};

class StationsPage : public QWidget {
    Q_OBJECT
  public:
    StationsPage(Session* session, ForgeLink* forge, QWidget* parent = nullptr);
    void showStep(int id);
    int step() const { return m_step; }
    QTableWidget* table() const { return m_table; }
    ProfilePlot* plot() const { return m_plot; }

  Q_SIGNALS:
    void message(const QString& text);
    void previewAsked(const Part& part);

  protected:
    bool eventFilter(QObject* o, QEvent* e) override;

  private:
    void refresh();
    void refreshResiduals();
    void commit(Stations rows, const QString& what);
    Stations rows() const;
    void paste();
    void addRow();
    void makeButtons(QVBoxLayout* layout);
    void goOn(int row, int column);
    void left(int row);
    void deleteRow(int row);
    std::string inUnits(double mm) const;

    Session* m_session;
    ForgeLink* m_forge;
    int m_step = 0;
    bool m_filling = false;
    int m_fresh = -1; ///< the row that was begun by itself
    QLabel* m_title;
    QTableWidget* m_table;
    ProfilePlot* m_plot;
    QLabel* m_faults;
};

} // namespace gc::app

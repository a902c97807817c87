#pragma once
/// \file The pages beside the stand: stations, brief, proof board, release.

#include "app/link/scene.hpp"
#include "app/shell/session.hpp"

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QTableWidget>
#include <QWidget>

#include <array>

class QFormLayout;
class QVBoxLayout;

namespace gc::app {

class ForgeLink;

/// The measured profile drawn to scale: stations, the fair curve and the misses. Stations can be dragged.
class ProfilePlot : public QWidget {
    Q_OBJECT
  public:
    explicit ProfilePlot(QWidget* parent = nullptr);
    void show(const std::vector<StationValues>& stations, const OutlineView* outline, int chosen);
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

    Session* m_session;
    ForgeLink* m_forge;
    int m_step = 0;
    bool m_filling = false;
    QLabel* m_title;
    QTableWidget* m_table;
    ProfilePlot* m_plot;
    QLabel* m_faults;
};

class BriefPage : public QWidget {
    Q_OBJECT
  public:
    BriefPage(Session* session, QWidget* parent = nullptr);
    QTableWidget* targets() const { return m_targets; }

  Q_SIGNALS:
    void message(const QString& text);

  private:
    QFormLayout* makeForm();
    void makeTables(QVBoxLayout* layout);
    void connectFields();
    void connectTables();
    void valueTyped(int row, int column);
    void refresh();
    void commit(const std::function<void(Part&)>& change, const QString& what);

    Session* m_session;
    bool m_filling = false;
    QLineEdit *m_name, *m_fillLine;
    QComboBox *m_process, *m_material, *m_pull, *m_length, *m_add;
    QPushButton *m_remove, *m_addValue;
    QPlainTextEdit *m_purpose, *m_caution;
    QTableWidget *m_targets, *m_values;
    QLabel* m_density;
};

/// The proof board: claim, measured, allowed, verdict, where; and ways out of what fails.
class ProofPage : public QWidget {
    Q_OBJECT
  public:
    ProofPage(Session* session, ForgeLink* forge, QWidget* parent = nullptr);
    void setActive(int index);
    QRect rowRect(int i) const;
    QRect remedyRect(int i) const;

  Q_SIGNALS:
    void targetClicked(int index);
    void remedyTaken(const RemedyView& remedy);

  protected:
    void paintEvent(QPaintEvent* e) override;
    void mouseReleaseEvent(QMouseEvent* e) override;

  private:
    std::array<int, 5> columns() const;
    void paintHeading(QPainter& p) const;
    void paintRow(QPainter& p, int i) const;
    int paintAdvice(QPainter& p, int after) const;
    void paintCaution(QPainter& p, int below) const;

    Session* m_session;
    ForgeLink* m_forge;
    int m_active = -1, m_solving = -1;
    std::vector<RemedyView> m_remedies;
    int m_solvedFor = -1;
};

class ReleasePage : public QWidget {
    Q_OBJECT
  public:
    explicit ReleasePage(QWidget* parent = nullptr);
    QPushButton* button(const QString& ending) const;

  Q_SIGNALS:
    void exportAsked(const QString& ending);
    void proofSheetAsked(const QString& ending);

  private:
    std::map<QString, QPushButton*> m_buttons;
};

QWidget* pageFrame(QWidget* page);

} // namespace gc::app

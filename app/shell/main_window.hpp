#pragma once
/// \file The window: puts the pieces side by side and carries what one says to the others.

#include "app/link/forge_link.hpp"
#include "app/rooms/pages.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/sheet/gauges.hpp"
#include "app/sheet/sheet.hpp"
#include "app/shell/chrome.hpp"
#include "app/shell/selection.hpp"
#include "app/shell/session.hpp"
#include "app/stand/stand.hpp"
#include "app/table/drawing_table.hpp"

#include <QHash>
#include <QMainWindow>
#include <QStackedWidget>

namespace gc::app {

class BodiesStrip;

class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    MainWindow();

    Session* session() { return m_session; }
    ForgeLink* forge() { return m_forge; }
    Stand* stand() { return m_stand; }
    Sheet* sheet() { return m_sheet; }
    Gauges* gauges() { return m_gauges; }
    SentenceBar* bar() { return m_bar; }
    /// Lines and curves from an SVG or DXF file onto the drawing table.
    void bringIn(const QString& path);
    /// The drawing on the table as an SVG or DXF file, by its suffix.
    void writeOut(const QString& path);
    StageLine* stages() { return m_stages; }
    VerbPanel* verbs() { return m_verbs; }
    StationsPage* stationsPage() { return m_stations; }
    BriefPage* briefPage() { return m_brief; }
    DrawingTable* table() { return m_table; }
    DrawingModel* drawingModel() { return m_drawing; }
    ProofPage* proofPage() { return m_proof; }
    ReleasePage* releasePage() { return m_release; }

    BodiesStrip* bodies() const { return m_bodies; }
    void setStage(const QString& stage);
    /// Opens an outline where it is made: stations in their table, a drawing on the drawing table.
    void tableVerb(const QString& kind);
    void showOnlyDrawing();
    void showOutline(int step);
    /// Lays a picture file under the drawing on the table.
    void layPicture(const QString& path);
    void useDarkTheme(bool dark);
    /// Offers work that an earlier window left behind; true when it was taken.
    bool offerLostWork();
    /// Exports without asking for a name: for tests and for the release page after it asked.
    void exportTo(const QString& path);
    bool writeProofSheet(const QString& path);

  protected:
    void closeEvent(QCloseEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;

  private:
    void connectAll();
    void connectVerbs();
    void connectPicking();
    void connectPages();
    void connectRelease();
    void connectTable();
    void makeShortcuts();
    QString suggestedPath(const QString& ending) const;
    void makeStandButtons();
    void placeStandButtons();
    void partChanged();
    void askAboutFailing(const QString& path, const std::vector<int>& steps);
    void dressBodies();
    void showTargets();
    void gaugeClicked(int index);
    void layTable();
    void showPicture();
    void exportBodies(const QString& path, const std::vector<ThingId>& bodies, bool evenIfStepsFail = false);
    void refreshTitle();
    void openMenu(const QPoint& at);
    void open();
    void save(bool elsewhere);
    bool mayLeave();
    void applyTheme();

    Session* m_session;
    ForgeLink* m_forge;
    StageLine* m_stages;
    VerbPanel* m_verbs;
    Stand* m_stand;
    Sheet* m_sheet;
    SentenceBar* m_bar;
    Gauges* m_gauges;
    QStackedWidget* m_pages;
    QHash<QString, QWidget*> m_pageOf; ///< by stage; none: the stand alone
    StationsPage* m_stations;
    BriefPage* m_brief;
    ProofPage* m_proof;
    ReleasePage* m_release;
    DrawingModel* m_drawing;
    DrawingTable* m_table;
    QList<QPushButton*> m_standButtons, m_sights;
    QPushButton *m_cut = nullptr, *m_ray = nullptr, *m_ball = nullptr, *m_lean = nullptr;
    BodiesStrip* m_bodies = nullptr;
    Selection* m_selection = nullptr;
    std::map<QString, std::vector<ThingId>> m_exports; ///< which bodies each file was asked to hold
    std::optional<SharedText> m_shownPicture;          ///< what the table's picture was read from
    QTimer m_titleTimer;
};

} // namespace gc::app

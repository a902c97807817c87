#pragma once
/// \file The window: puts the pieces side by side, and goes from room to room.

#include "app/link/forge_link.hpp"
#include "app/rooms/outline/outline_room.hpp"
#include "app/rooms/room.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/sheet/gauges.hpp"
#include "app/sheet/sheet.hpp"
#include "app/shell/chrome.hpp"
#include "app/shell/selection.hpp"
#include "app/shell/session.hpp"
#include "app/stand/stand.hpp"

#include <QMainWindow>
#include <QStackedWidget>
#include <QTimer>

class QGridLayout;

namespace gc::app {

class BodiesStrip;
class BriefRoom;
class PartFiles;
class ProveRoom;
class FirstPart;
class Measuring;
class ReleaseRoom;
class StandButtons;
class StartRoom;

class MainWindow : public QMainWindow {
    Q_OBJECT
  public:
    MainWindow();

    Session* session() { return m_session; }
    ForgeLink* forge() { return m_forge; }
    PartFiles* files() { return m_files; }
    StageLine* stages() { return m_stages; }
    VerbPanel* verbs() { return m_verbs; }
    Stand* stand() { return m_stand; }
    Sheet* sheet() { return m_sheet; }
    SentenceBar* bar() { return m_bar; }
    Gauges* gauges() { return m_gauges; }
    BodiesStrip* bodies() const { return m_bodies; }
    Measuring* measuring() const { return m_measuring; }

    StartRoom* start() { return m_start; }
    FirstPart* firstPart() { return m_firstPart; }
    BriefRoom* brief() { return m_brief; }
    OutlineRoom* outline() { return m_outline; }
    ProveRoom* prove() { return m_prove; }
    ReleaseRoom* release() { return m_release; }
    DrawingTable* table() { return m_outline->table(); }
    DrawingModel* drawingModel() { return m_outline->drawing(); }

    void setStage(const QString& stage);
    void useDarkTheme(bool dark);

  protected:
    void closeEvent(QCloseEvent* e) override;
    void resizeEvent(QResizeEvent* e) override;
    void keyPressEvent(QKeyEvent* e) override;

  private:
    void makeFrame();
    void makeStand();
    void makeRooms();
    void makeStart();
    void connectAll();
    void beginPart(const QString& way);
    void beginFirstPart();
    void goWhereItBelongs();
    void connectVerbs();
    void makeShortcuts();
    void showDraftFault();
    Part withOffers(Part part) const;
    void beginVerb(const QString& kind);
    void measure(bool on);
    void arrange();
    void partChanged();
    void refreshTitle();
    void openMenu(const QPoint& at);
    void applyTheme();
    void escape();

    Session* m_session;
    ForgeLink* m_forge;
    PartFiles* m_files;
    // The frame, from above to below
    StageLine* m_stages;
    VerbPanel* m_verbs;
    QStackedWidget* m_pages;
    Stand* m_stand;
    Sheet* m_sheet;
    SentenceBar* m_bar;
    Gauges* m_gauges;
    QGridLayout* m_grid;
    BodiesStrip* m_bodies;
    Measuring* m_measuring;
    StandButtons* m_buttons;
    Selection* m_selection;
    // The rooms
    House m_house;
    StartRoom* m_start;
    FirstPart* m_firstPart;
    BriefRoom* m_brief;
    OutlineRoom* m_outline;
    ProveRoom* m_prove;
    ReleaseRoom* m_release;
    std::vector<Room*> m_rooms; ///< in the order of the stages
    Room* m_room = nullptr;
    QTimer m_titleTimer;
};

} // namespace gc::app

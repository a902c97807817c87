#pragma once
/// \file The one broker for what is chosen: stand, sheet, bar and drawing table say to it what they want
/// picked and what was, and it says to each what it has to show.

#include "app/link/scene.hpp"

#include <QObject>

#include <functional>
#include <optional>
#include <string>

namespace gc {
struct Step;
}

namespace gc::app {

class ForgeLink;
struct HandleDrag;
struct ThreadPull;
class SentenceBar;
class Session;
class Sheet;
class Stand;
class FileBodiesPanel;
class WaysStrip;

class Selection : public QObject {
    Q_OBJECT
  public:
    struct Use {
        Session* session;
        ForgeLink* forge;
        Stand* stand;
        Sheet* sheet;
        SentenceBar* bar;
    };
    Selection(const Use& use, QObject* parent);

    /// The step whose drawing lies on the table now; 0: none.
    std::function<int()> drawing;

    /// A slot of a step in the sheet is filled by clicks in the stand, until end().
    void pickFor(int step, const QString& slot);
    /// Several fit what a step refers to: they are marked in the stand, and a click on one answers.
    void askWhich(int step);
    bool active() const { return m_step != 0 || m_measuring; }
    void end();
    /// The sentence in the bar is another: what it wants can be picked, what it has is marked.
    void showDraft();
    /// Nothing is wanted and nothing marked.
    void showNothing();
    /// Clicks go to whoever measures, until end().
    void measure();
    /// Asks the forge for what is shown besides: for a room that has changed.
    void look();

  Q_SIGNALS:
    /// Something of this step is to be picked in the stand, which may be covered.
    void standWanted(int step);
    /// Something to be measured.
    void measured(const Pick& pick);
    void measuringEnded();
    /// The plane that this step leans on was picked.
    void planeTaken(int step);

  private:
    void stepChosen(int id);
    void stepPointedAt(int id);
    bool answerWhich(const QStringList& refs);
    void offer(Picking picking);
    static QStringList pickedIn(const Step& step);
    void showHandlesOf(const Step* step);
    void takeAids();
    void handleDragged(const HandleDrag& drag);
    void handleTyped(const QString& slot, const QString& text);
    void threadPulled(const ThreadPull& pull);
    void fileBodiesTaken(const QString& names);
    const Step* handled() const;
    void boxed(const QStringList& refs);
    QString areaWords(int drawnBy, const QString& area) const;
    void showAreasOf(const Step* step);
    void picked(const Pick& pick);
    void sayOtherwise(const QString& was, const QString& now);

    Use m_use;
    WaysStrip* m_ways;
    FileBodiesPanel* m_fileBodies;
    std::optional<QuestionView> m_which; ///< what is asked in the stand
    bool m_measuring = false;
    int m_step = 0; ///< of the sheet, for which is picked
    QString m_slot;
    int m_aidsOf = 0; ///< the step whose handles are shown; 0: none
    /// Which way a size went when it was taken, and which it goes past nothing.
    std::optional<std::pair<std::string, std::string>> m_dragFrom;
};

} // namespace gc::app

#pragma once
/// \file A room: what the window is for one stage of the work.

#include <QList>
#include <QObject>
#include <QString>

#include <functional>

class QKeyEvent;
class QWidget;

namespace gc::app {

class ForgeLink;
class Gauges;
class Selection;
class SentenceBar;
class Session;
class Sheet;
class Stand;
class VerbPanel;

/// What every room of the window shares.
struct House {
    Session* session = nullptr;
    ForgeLink* forge = nullptr;
    Stand* stand = nullptr;
    Sheet* sheet = nullptr;
    SentenceBar* bar = nullptr;
    Gauges* gauges = nullptr;
    VerbPanel* verbs = nullptr;
    Selection* selection = nullptr;
    QWidget* window = nullptr;                    ///< dialogs open over it
    std::function<void(const QString& stage)> go; ///< to another room
};

class Room : public QObject {
    Q_OBJECT
  public:
    /// What a room wants around it while one is in it.
    struct Wants {
        bool verbs = false;  ///< the verbs of its stage, on the left
        bool tools = false;  ///< the tools of the table in their place
        bool guides = false; ///< planes, axes and outlines in the stand
        bool stand = true;   ///< the stand is seen
        bool part = true;    ///< so are the sheet and the gauges
        int drawing = 0;     ///< what this step's drawing can follow is looked up
    };

    Room(const QString& stage, House& house, QObject* parent)
        : QObject(parent), m_stage(stage), m_house(house) {}

    const QString& stage() const { return m_stage; }
    /// Beside the stand, or in its place; null: the stand alone.
    virtual QWidget* page() const { return nullptr; }
    /// All that page() may ever be: the window takes them in.
    virtual QList<QWidget*> pages() const { return page() ? QList<QWidget*>{page()} : QList<QWidget*>{}; }
    virtual Wants wants() const { return {}; }
    virtual void enter() {}
    virtual void leave() {}
    /// A verb that is no step: a tool, an edit. \return whether it is one of this room's
    virtual bool verb(const QString& /*kind*/) { return false; }
    /// A step that was just kept belongs here: it is shown.
    virtual void stepKept(int /*step*/) {}
    /// A key that nothing else had a use for. \return whether it meant something here
    virtual bool key(QKeyEvent* e);

  protected:
    House& house() const { return m_house; }

  private:
    QString m_stage;
    House& m_house;
};

} // namespace gc::app

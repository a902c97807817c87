#pragma once
/// \file Opening, saving and leaving parts, and the questions that go with it.

#include "core/document/journal.hpp"

#include <QObject>
#include <QString>

class QAbstractButton;
class QMessageBox;
class QWidget;

namespace gc::app {

class SentenceBar;
class Session;

class PartFiles : public QObject {
    Q_OBJECT
  public:
    PartFiles(Session* session, SentenceBar* bar, QWidget* window);

    /// What the window begins with: lost work, if a person wants to go on with it, else the file, else a new
    /// part.
    void begin(const QString& file);
    /// Whether the part before it was left.
    bool startNew();
    /// Whether it was left for the example.
    bool openExample(const QString& key);
    void open();
    void open(const QString& path);
    void save(bool elsewhere);
    /// Asks about edits that are not saved. \return whether the part may be left
    bool mayLeave();
    /// Offers work that earlier windows left behind, one after the other; true when one was taken. What is
    /// neither taken nor let go is offered again at the next start.
    bool offerLostWork();

  Q_SIGNALS:
    /// There is no part yet: the window asks how to begin.
    void nothingOpen();

  private:
    bool openUnlessHeld(const QString& path);
    QString askWhere() const;
    bool mayOverwrite(QString& path);
    bool letGo(const RecoveredWork& work);

    Session* m_session;
    SentenceBar* m_bar;
    QWidget* m_window;
};

} // namespace gc::app

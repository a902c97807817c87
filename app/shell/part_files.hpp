#pragma once
/// \file Opening, saving and leaving parts, and the questions that go with it.

#include <QObject>
#include <QString>

class QWidget;

namespace gc::app {

class SentenceBar;
class Session;

class PartFiles : public QObject {
    Q_OBJECT
  public:
    PartFiles(Session* session, SentenceBar* bar, QWidget* window);

    void startNew();
    void open();
    void open(const QString& path);
    void save(bool elsewhere);
    /// Asks about edits that are not saved. \return whether the part may be left
    bool mayLeave();
    /// Offers work that an earlier window left behind; true when it was taken.
    bool offerLostWork();

  private:
    Session* m_session;
    SentenceBar* m_bar;
    QWidget* m_window;
};

} // namespace gc::app

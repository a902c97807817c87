#pragma once
/// \file A question in the middle of the work.

#include <QList>
#include <QMessageBox>
#include <QStringList>

class QPushButton;

namespace gc::app {

/// With its answers in words of our own. Esc and the close button mean the last of them.
class Question {
  public:
    /// \param name for tests
    Question(QWidget* window, const char* name, const QString& text, const QStringList& answers);
    /// The number of the answer, from 0.
    int ask();

  private:
    QMessageBox m_box;
    QList<QPushButton*> m_answers;
};

} // namespace gc::app

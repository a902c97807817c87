#pragma once
/// \file A first part in five steps: a strip that says what to do next in the real window, and sees that it
/// was done.

#include "app/rooms/room.hpp"

#include <QFrame>

class QLabel;

namespace gc::app {

class FirstPart : public QFrame {
    Q_OBJECT
  public:
    FirstPart(House& house, QWidget* parent);
    /// On the herb pot, which is open.
    void begin();
    void end();
    /// 1 to 5; 6 when all are done; 0: it does not run.
    int step() const { return m_step; }
    /// A file of the part was written.
    void fileWritten();
    /// The view was turned.
    void viewTurned();

  private:
    void look();
    void show(int step);
    bool thinnestFails() const;

    House& m_house;
    QLabel* m_count;
    QLabel* m_words;
    int m_step = 0;
};

} // namespace gc::app

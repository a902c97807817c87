#pragma once
/// \file For window tests: answers to the questions that stop everything else.

#include "tests/window/hand.hpp"

#include <QApplication>
#include <QMessageBox>
#include <QPushButton>
#include <QTimer>

namespace gc::test {

/// Answers the questions that come up, each by the button of that text ("" presses Esc), in their order.
class Answers : public QObject {
  public:
    Answers(Hand& hand, QStringList answers) : m_hand(hand), m_answers(std::move(answers)) {
        m_timer.setInterval(50);
        connect(&m_timer, &QTimer::timeout, this, &Answers::look);
        m_timer.start();
    }
    QStringList asked() const { return m_asked; }

  private:
    void look() {
        auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        if (!box || !box->isVisible()) return;
        m_timer.stop();
        m_asked << box->objectName();
        const QString answer =
            m_answers.isEmpty() ? QString() : m_answers.takeFirst(); // one too many must not hang
        QPushButton* wanted = nullptr;
        for (QPushButton* b : box->findChildren<QPushButton*>())
            if (b->text() == answer) wanted = b;
        if (wanted && Hand::steady([&] { return QPointF(wanted->mapToGlobal(QPoint())); }))
            m_hand.click(wanted, QPointF(wanted->rect().center()));
        else
            box->reject();
        m_timer.start();
    }

    Hand& m_hand;
    QTimer m_timer;
    QStringList m_answers, m_asked;
};

} // namespace gc::test

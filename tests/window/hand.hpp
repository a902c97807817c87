#pragma once
/// \file A scripted hand: real mouse and key events through the X server, and waiting for conditions.

#include <QPoint>
#include <QString>
#include <QWidget>

#include <functional>
#include <vector>

namespace gc::test {

class Hand {
  public:
    explicit Hand(QWidget* window);
    ~Hand();

    void moveTo(QWidget* widget, QPointF at);
    void click(QWidget* widget, QPointF at, bool shift = false);
    void rightClick(QWidget* widget, QPointF at);
    /// Fast enough to be one.
    void doubleClick(QWidget* widget, QPointF at);
    /// Presses, moves in steps, releases.
    void drag(QWidget* widget, QPointF from, QPointF to);
    /// From place to place, with Ctrl held if asked.
    /// \param held what to look at before the button is let go
    void drag(QWidget* widget, const std::vector<QPointF>& way, bool control = false,
              const std::function<void()>& held = {});
    void type(const QString& text);
    void press(const char* keysym, bool control = false);
    void alt(const char* keysym);

    /// Lets the window live until the condition holds. False when it does not within the time.
    static bool wait(const std::function<bool()>& condition, int milliseconds = 30000);
    static void settle();
    /// Waits until a place stays where it is for a tenth of a second: layouts move after the event that
    /// changes them. False when it does not within ten seconds.
    static bool steady(const std::function<QPointF()>& place);

  private:
    void key(unsigned long keysym);
    void motion(int x, int y);
    void button(bool down, unsigned which = 1);
    void focus();
    struct Impl;
    Impl* m;
};

} // namespace gc::test

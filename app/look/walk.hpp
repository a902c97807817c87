#pragma once
/// \file Walking by keys over things that a widget paints itself: arrows go on and back, Enter or the space
/// bar takes the one that is reached.

#include "app/look/keys_in_use.hpp"
#include "app/look/theme.hpp"

#include <QKeyEvent>
#include <QPainter>
#include <QWidget>

#include <algorithm>
#include <optional>

namespace gc::app {

class Walk {
  public:
    int at() const { return m_at; }
    void goTo(int thing) { m_at = thing; }
    /// \param taken the thing that Enter took \return whether the key meant something
    bool key(const QKeyEvent& e, int count, std::optional<int>& taken) {
        if (count == 0) return false;
        m_at = std::clamp(m_at, 0, count - 1);
        switch (e.key()) {
        case Qt::Key_Right:
        case Qt::Key_Down:
            m_at = std::min(m_at + 1, count - 1);
            return true;
        case Qt::Key_Left:
        case Qt::Key_Up:
            m_at = std::max(m_at - 1, 0);
            return true;
        case Qt::Key_Home:
            m_at = 0;
            return true;
        case Qt::Key_End:
            m_at = count - 1;
            return true;
        case Qt::Key_Return:
        case Qt::Key_Enter:
        case Qt::Key_Space:
            taken = m_at;
            return true;
        default:
            return false;
        }
    }
    /// Around the thing that is reached, while the widget has the keys and they are what is used.
    static void paint(QPainter& p, const QWidget& widget, const QRect& thing) {
        if (!widget.hasFocus() || !keysInUse() || thing.isEmpty()) return;
        p.setPen(QPen(theme().accent, 2));
        p.setBrush(Qt::NoBrush);
        p.drawRoundedRect(QRectF(thing).adjusted(1, 1, -1, -1), 7, 7);
    }

  private:
    int m_at = 0;
};

} // namespace gc::app

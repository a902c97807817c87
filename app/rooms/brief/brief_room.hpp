#pragma once
/// \file The room of the brief.

#include "app/rooms/brief/brief_page.hpp"
#include "app/rooms/room.hpp"

class QScrollArea;

namespace gc::app {

class BriefRoom : public Room {
    Q_OBJECT
  public:
    BriefRoom(House& house, QObject* parent);
    ~BriefRoom() override;
    QWidget* page() const override;
    BriefPage* brief() const { return m_brief; }

  private:
    BriefPage* m_brief;
    QScrollArea* m_scroll; ///< the brief is long: it scrolls in a low window
};

} // namespace gc::app

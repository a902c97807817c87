#pragma once
/// \file Where the window is before there is a part.

#include "app/rooms/room.hpp"
#include "app/rooms/start/start_page.hpp"

namespace gc::app {

inline const QString kStartStage = QStringLiteral("Start");

class StartRoom : public Room {
    Q_OBJECT
  public:
    StartRoom(House& house, QObject* parent)
        : Room(kStartStage, house, parent), m_page(new StartPage(house.window)) {}
    QWidget* page() const override { return m_page; }
    StartPage* startPage() const { return m_page; }
    Wants wants() const override {
        Wants w;
        w.stand = false;
        w.part = false;
        return w;
    }
    void enter() override;

  private:
    StartPage* m_page;
};

} // namespace gc::app

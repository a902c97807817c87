#pragma once
/// \file The rooms of the stand itself, with the verbs of their stage: Form and Finish.

#include "app/rooms/room.hpp"

namespace gc::app {

class StandRoom : public Room {
    Q_OBJECT
  public:
    StandRoom(const QString& stage, bool guides, House& house, QObject* parent)
        : Room(stage, house, parent), m_guides(guides) {}
    Wants wants() const override {
        Wants w;
        w.verbs = true;
        w.guides = m_guides;
        return w;
    }

  private:
    bool m_guides;
};

} // namespace gc::app

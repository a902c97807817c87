#pragma once
/// \file The room of the proof: the board of what is asked, and the places in the stand that it speaks of.

#include "app/rooms/prove/proof_page.hpp"
#include "app/rooms/room.hpp"

namespace gc::app {

class ProveRoom : public Room {
    Q_OBJECT
  public:
    ProveRoom(House& house, QObject* parent);
    QWidget* page() const override { return m_board; }
    ProofPage* board() const { return m_board; }
    /// Goes there, and shows where a target is missed or only just met.
    void showTarget(int index);

  private:
    void take(const RemedyView& remedy);

    ProofPage* m_board;
};

} // namespace gc::app

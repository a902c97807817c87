#include "app/rooms/room.hpp"

#include "app/sentence/sentence_bar.hpp"
#include "app/stand/stand.hpp"

#include <QKeyEvent>

namespace gc::app {

bool Room::key(QKeyEvent* e) {
    // Only over the stand: elsewhere a digit is meant for a figure.
    if (e->key() >= Qt::Key_1 && e->key() <= Qt::Key_7 && m_house.stand->underMouse()) {
        m_house.stand->lookFrom(e->key() - Qt::Key_0);
        return true;
    }
    if (e->key() == Qt::Key_Home && m_house.stand->isVisible()) {
        m_house.stand->fit();
        return true;
    }
    const bool letter = !e->text().isEmpty() && e->text()[0].isLetter() && e->modifiers() == Qt::NoModifier;
    if (!letter || m_house.bar->active()) return false;
    m_house.bar->verbField()->setFocus(); // just start typing a verb
    m_house.bar->verbField()->setText(e->text());
    return true;
}

} // namespace gc::app

#include "app/rooms/start/start_room.hpp"

#include "app/sentence/sentence_bar.hpp"

namespace gc::app {

void StartRoom::enter() {
    m_page->refresh();
    house().bar->say(tr("Choose how to begin, or a part to look at."));
}

} // namespace gc::app

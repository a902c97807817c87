#include "app/rooms/brief/brief_room.hpp"

#include "app/link/forge_link.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/sheet/gauges.hpp"

#include <QScrollArea>

namespace gc::app {

BriefRoom::BriefRoom(House& house, QObject* parent)
    : Room(QStringLiteral("Brief"), house, parent), m_brief(new BriefPage(house.session)),
      m_scroll(new QScrollArea(house.window)) {
    m_scroll->setWidget(m_brief);
    m_scroll->setWidgetResizable(true);
    m_scroll->setFrameShape(QFrame::NoFrame);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff); // the page is as wide as there is room
    connect(m_brief->unitsChoice(), &UnitsChoice::previewAsked, this, [this](const Part& p) {
        Room::house().forge->build(p, true);
        Room::house().gauges->setWaiting(tr("of before"));
    });
    connect(m_brief->unitsChoice(), &UnitsChoice::previewLeft, this, [this] {
        Room::house().gauges->setWaiting({});
        Room::house().forge->build(Room::house().session->part());
    });
    connect(m_brief, &BriefPage::message, house.bar, &SentenceBar::say);
}

BriefRoom::~BriefRoom() = default;

QWidget* BriefRoom::page() const {
    return m_scroll;
}

} // namespace gc::app

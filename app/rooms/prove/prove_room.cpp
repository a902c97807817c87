#include "app/rooms/prove/prove_room.hpp"

#include "app/link/forge_link.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/sheet/gauges.hpp"
#include "app/stand/stand.hpp"
#include "core/document/measure_words.hpp"

namespace gc::app {

namespace {

Overlay overlayFor(const std::string& measure) {
    using Shows = MeasureWords::Shows;
    const MeasureWords* words = findMeasure(measure);
    switch (words ? words->shows : Shows::Nothing) {
    case Shows::WallByRay:
        return Overlay::WallRay;
    case Shows::WallByBall:
        return Overlay::WallBall;
    case Shows::Lean:
        return Overlay::Lean;
    case Shows::Stripes:
        return Overlay::Stripes;
    case Shows::Deviation:
        return Overlay::Deviation;
    case Shows::Nothing:
        break;
    }
    return Overlay::None;
}

} // namespace

ProveRoom::ProveRoom(House& house, QObject* parent)
    : Room(QStringLiteral("Prove"), house, parent), m_board(new ProofPage(house.session, house.forge)) {
    connect(house.gauges, &Gauges::clicked, this, &ProveRoom::showTarget);
    connect(m_board, &ProofPage::targetClicked, this, &ProveRoom::showTarget);
    connect(m_board, &ProofPage::remedyTaken, this, &ProveRoom::take);
}

void ProveRoom::showTarget(int index) {
    const auto& targets = house().forge->targets();
    if (index < 0 || index >= static_cast<int>(targets.size())) return;
    const TargetView& t = targets[static_cast<std::size_t>(index)];
    house().gauges->setActive(index);
    house().go(stage());
    m_board->setActive(index);
    const Overlay overlay = overlayFor(t.measure.toStdString());
    house().stand->setOverlay(overlay, &t);
    if (t.at && overlay != Overlay::None) house().stand->flyTo(*t.at);
}

void ProveRoom::take(const RemedyView& remedy) {
    Part p = house().session->part();
    if (remedy.before)
        putStep(p, remedy.step, *remedy.before);
    else
        typeIntoSlot(p, remedy.step, remedy.slot.toStdString(), remedy.value.toStdString());
    if (!house().session->commit(p, remedy.sentence)) return;
    house().bar->say(tr("✓ %1. Ctrl+Z takes it back.").arg(remedy.sentence));
}

} // namespace gc::app

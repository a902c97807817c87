#include "app/rooms/start/first_part.hpp"

#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/sheet/gauges.hpp"
#include "app/stand/stand.hpp"

#include <QHBoxLayout>
#include <QLabel>
#include <QPushButton>

#include <algorithm>

namespace gc::app {

namespace {

constexpr int kSteps = 5;

QString wordsOf(int step) {
    switch (step) {
    case 1:
        return QObject::tr(
            "This pot's wall is <b>2.4 mm</b>. In the sheet on the right, in step 4, click that "
            "figure, type <b>1.6</b> and press Enter.");
    case 2:
        return QObject::tr(
            "The whole pot follows. Below, the gauge <b>Thinnest wall</b> turned to <b>■</b>: it is "
            "thinner than the brief asks. Click that gauge.");
    case 3:
        return QObject::tr(
            "The pot shows where it is thin. The board names ways to mend it, tried before they are "
            "offered. Click one.");
    case 4:
        return QObject::tr(
            "It holds again. Drag in the empty space beside the pot to turn it and look at it from "
            "below.");
    case 5:
        return QObject::tr(
            "Last: click <b>Release</b> above, and write the pot to a file, for a printer or a "
            "toolmaker.");
    default:
        return QObject::tr(
            "<b>✓ Done.</b> Change, look, mend, release: that is the way of every part. The menu under "
            "its name has New part and Save.");
    }
}

} // namespace

FirstPart::FirstPart(House& house, QWidget* parent) : QFrame(parent), m_house(house) {
    setObjectName(QStringLiteral("firstPart"));
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(18, 9, 12, 9);
    row->setSpacing(14);
    m_count = new QLabel(this);
    m_count->setFont(textFont(14, QFont::Bold));
    m_words = new QLabel(this);
    m_words->setFont(textFont(13));
    m_words->setWordWrap(true);
    m_words->setTextFormat(Qt::RichText);
    auto* close = new QPushButton(tr("Leave it"), this);
    close->setFocusPolicy(Qt::TabFocus); // Enter belongs to the sentences
    connect(close, &QPushButton::clicked, this, &FirstPart::end);
    row->addWidget(m_count);
    row->addWidget(m_words, 1);
    row->addWidget(close);
    connect(house.forge, &ForgeLink::measuresChanged, this, &FirstPart::look);
    connect(house.forge, &ForgeLink::finished, this, &FirstPart::look);
    connect(house.gauges, &Gauges::clicked, this, [this](int) {
        if (m_step == 2 && thinnestFails()) show(3);
    });
    hide();
}

void FirstPart::begin() {
    show(1);
    setVisible(true);
    m_house.stand->setFocus(); // not on our own button
}

void FirstPart::end() {
    m_step = 0;
    setVisible(false);
}

void FirstPart::show(int step) {
    m_step = step;
    m_count->setText(step > kSteps ? QString() : tr("%1 of %2").arg(step).arg(kSteps));
    m_words->setText(wordsOf(step));
}

bool FirstPart::thinnestFails() const {
    const auto& targets = m_house.forge->targets();
    return std::any_of(targets.begin(), targets.end(), [](const TargetView& t) {
        return t.measure == QLatin1String("thinnest wall") && t.verdict == QLatin1String("fails");
    });
}

/// What was asked is seen by what it did, however it was done.
void FirstPart::look() {
    if (!m_house.forge->hasMeasured()) return;
    if (m_step == 1 && thinnestFails()) show(2);
    if (m_step == 3 && !thinnestFails()) show(4);
}

void FirstPart::viewTurned() {
    if (m_step == 4) show(5);
}

void FirstPart::fileWritten() {
    if (m_step == kSteps) show(kSteps + 1);
}

} // namespace gc::app

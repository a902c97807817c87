#include "app/rooms/start/start_page.hpp"

#include "app/look/theme.hpp"
#include "app/rooms/start/start_card.hpp"
#include "app/shell/session.hpp"

#include <QDateTime>
#include <QDir>
#include <QFileInfo>
#include <QLabel>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>

namespace gc::app {

namespace {

QLabel* heading(const QString& text, QWidget* parent) {
    auto* label = new QLabel(text, parent);
    label->setFont(textFont(15, QFont::Bold));
    return label;
}

} // namespace

const QList<Example>& examples() {
    static const QList<Example> all{
        {QStringLiteral("herb-pot"), QObject::tr("Herb pot"), QObject::tr("Stations, a shell, holes")},
        {QStringLiteral("saucer"), QObject::tr("Saucer"), QObject::tr("A drawn half, turned")},
        {QStringLiteral("seed-box"), QObject::tr("Seed box"), QObject::tr("Two bodies that fit")},
        {QStringLiteral("tap-cover"), QObject::tr("Tap cover"), QObject::tr("Sides that lean, lugs on them")},
        {QStringLiteral("rail-hook"), QObject::tr("Rail hook"), QObject::tr("A section swept along a line")},
        {QStringLiteral("sprinkler-rose"), QObject::tr("Sprinkler rose"),
         QObject::tr("Round to oval, guided")},
        {QStringLiteral("timer-box"), QObject::tr("Timer box"), QObject::tr("Bosses, ribs, a lid that fits")},
        {QStringLiteral("plant-label"), QObject::tr("Plant label"),
         QObject::tr("A name raised on a drawn leaf")}};
    return all;
}

StartPage::StartPage(QWidget* parent) : QWidget(parent) {
    auto* across = new QHBoxLayout(this);
    across->setContentsMargins(40, 26, 40, 26);
    across->setSpacing(36);
    auto* column = new QVBoxLayout;
    column->setSpacing(14);
    column->addWidget(heading(tr("Begin a part"), this));
    column->addWidget(ways());
    column->addSpacing(14);
    column->addWidget(heading(tr("Look at a finished part, or change it"), this));
    column->addWidget(parts());
    column->addStretch();
    across->addLayout(column, 1);
    across->addWidget(sideColumn());
    refresh();
}

StartCard* StartPage::addCard(const QString& key, const QString& title, const QString& about,
                              const QString& pictogram) {
    auto* card = new StartCard(title, about, pictogram, this);
    m_cards[key] = card;
    return card;
}

QWidget* StartPage::ways() {
    struct Way {
        QString key, title, about, pictogram;
    };
    const Way all[] = {{QStringLiteral("outline"), tr("From measurements"),
                        tr("Diameters at heights, as a caliper gives them"), QStringLiteral("outline")},
                       {QStringLiteral("draw"), tr("From a drawing"),
                        tr("Lines, arcs and splines with sizes, on the table"), QStringLiteral("draw")},
                       {QStringLiteral("picture"), tr("From a picture"),
                        tr("Draw over a photo or a scan, set to scale"), QStringLiteral("tool:picture")},
                       {QStringLiteral("import"), tr("From a STEP file"),
                        tr("Take a body in, check it and go on with it"), QStringLiteral("import")}};
    auto* box = new QWidget(this);
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(12);
    int at = 0;
    for (const Way& w : all) {
        StartCard* card = addCard(w.key, w.title, w.about, w.pictogram);
        const QString key = w.key;
        connect(card, &StartCard::clicked, this, [this, key] { Q_EMIT beginAsked(key); });
        grid->addWidget(card, at / 2, at % 2);
        ++at;
    }
    return box;
}

QWidget* StartPage::parts() {
    auto* box = new QWidget(this);
    auto* grid = new QGridLayout(box);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(12);
    constexpr int kColumns = 4;
    int at = 0;
    for (const Example& e : examples()) {
        StartCard* card = addCard(e.key, e.name, e.about, {});
        card->setPicture(QPixmap(QStringLiteral(":/examples/%1.png").arg(e.key)));
        const QString key = e.key;
        connect(card, &StartCard::clicked, this, [this, key] { Q_EMIT exampleAsked(key); });
        grid->addWidget(card, at / kColumns, at % kColumns);
        ++at;
    }
    return box;
}

QWidget* StartPage::sideColumn() {
    auto* box = new QWidget(this);
    box->setFixedWidth(300);
    auto* column = new QVBoxLayout(box);
    column->setContentsMargins(0, 0, 0, 0);
    column->setSpacing(14);
    column->addWidget(heading(tr("New here?"), box));
    StartCard* guide =
        addCard(QStringLiteral("guide"), tr("A first part in five steps"),
                tr("Change a wall, see what it does, mend it, write a file"), QStringLiteral("tool:choose"));
    connect(guide, &StartCard::clicked, this, &StartPage::guideAsked);
    column->addWidget(guide);
    column->addSpacing(14);
    column->addWidget(heading(tr("Recent parts"), box));
    m_recent = new QVBoxLayout;
    m_recent->setSpacing(4);
    column->addLayout(m_recent);
    auto* open = new QPushButton(tr("Open another …"), box);
    connect(open, &QPushButton::clicked, this, &StartPage::openAsked);
    column->addWidget(open);
    column->addStretch();
    return box;
}

void StartPage::refresh() {
    while (QLayoutItem* item = m_recent->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    const QStringList files = Session::recentFiles().mid(0, 6);
    if (files.isEmpty()) {
        auto* none = new QLabel(tr("None yet: parts that you save are listed here."), this);
        none->setWordWrap(true);
        none->setFont(textFont(12));
        m_recent->addWidget(none);
    }
    for (const QString& path : files) {
        const QFileInfo info(path);
        auto* button =
            new QPushButton(info.completeBaseName() + QStringLiteral("   ") +
                                QLocale().toString(info.lastModified().date(), QLocale::ShortFormat),
                            this);
        button->setToolTip(QDir::toNativeSeparators(path));
        button->setStyleSheet(QStringLiteral("text-align:left; padding:7px 12px;"));
        connect(button, &QPushButton::clicked, this, [this, path] { Q_EMIT recentAsked(path); });
        m_recent->addWidget(button);
    }
}

StartCard* StartPage::card(const QString& key) const {
    const auto it = m_cards.find(key);
    return it == m_cards.end() ? nullptr : it->second;
}

} // namespace gc::app

#include "app/stand/bodies_strip.hpp"

#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "app/stand/stand.hpp"
#include "core/process/material.hpp"

#include <QColorDialog>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QMenu>
#include <QPainter>
#include <QScrollArea>
#include <QScrollBar>
#include <QToolButton>
#include <QWidgetAction>

namespace gc::app {

namespace {

constexpr int kSwatch = 16, kColumns = 6;

QIcon swatchIcon(const QColor& colour, bool hollow = false) {
    QPixmap picture(kSwatch * 2, kSwatch * 2);
    picture.setDevicePixelRatio(2);
    picture.fill(Qt::transparent);
    QPainter p(&picture);
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(hollow ? colour : theme().line, hollow ? 2 : 1));
    p.setBrush(hollow ? QBrush(Qt::NoBrush) : QBrush(colour));
    p.drawRoundedRect(QRectF(1.5, 1.5, kSwatch - 3, kSwatch - 3), 4, 4);
    return QIcon(picture);
}

/// To a tenth; what is lighter than that, to a thousandth. \param mass g
QString inShort(double mass, const std::string& unit) {
    const std::string tenths = formatAmount(mass, unit, 1);
    return QString::fromStdString(tenths == formatAmount(0, unit, 1) ? formatAmount(mass, unit, 3) : tenths);
}

} // namespace

BodiesStrip::BodiesStrip(Session* session, ForgeLink* forge, Stand* stand)
    : QFrame(stand), m_session(session), m_forge(forge), m_stand(stand) {
    setObjectName(QStringLiteral("bodiesStrip"));
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(6, 4, 8, 4);
    m_scroll = new QScrollArea(this);
    m_scroll->setObjectName(QStringLiteral("bodiesScroll"));
    m_scroll->setFrameShape(QFrame::NoFrame);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_scroll->setFocusPolicy(Qt::NoFocus);
    m_scroll->setWidgetResizable(true);
    m_rowsHolder = new QWidget;
    m_rowsHolder->setObjectName(QStringLiteral("bodiesRows"));
    m_list = new QVBoxLayout(m_rowsHolder);
    m_list->setContentsMargins(0, 0, 0, 0);
    m_list->setSpacing(0);
    m_scroll->setWidget(m_rowsHolder);
    all->addWidget(m_scroll);
    m_scroll->setStyleSheet(QStringLiteral("#bodiesScroll, #bodiesRows { background: transparent; }"));
    stand->installEventFilter(this);
    hide();
    connect(forge, &ForgeLink::meshesChanged, this, &BodiesStrip::dress);
    connect(session, &Session::partChanged, this, &BodiesStrip::dress);
    connect(forge, &ForgeLink::measuresChanged, this, &BodiesStrip::weigh);
}

void BodiesStrip::dress() {
    const Part& part = m_session->part();
    std::map<ThingId, BodyStyle> styles;
    std::map<ThingId, QColor> shown;
    const auto& colours = theme().bodies;
    for (const auto& [id, mesh] : m_forge->meshes()) {
        const BodyLook look = lookOf(part, id);
        const auto rank = static_cast<qsizetype>(placeAmongBodies(part, id));
        const QColor colour = look.colour.empty() ? colours[rank % colours.size()]
                                                  : QColor(QString::fromStdString(look.colour));
        styles[id] = {colour, look.hidden};
        shown[id] = colour;
    }
    list(shown);
    m_stand->setStyles(styles);
}

BodiesStrip::Row BodiesStrip::makeRow(ThingId body) {
    const auto button = [this] {
        auto* b = new QToolButton(m_rowsHolder);
        b->setAutoRaise(true);
        b->setFocusPolicy(Qt::NoFocus);
        b->setCursor(Qt::PointingHandCursor);
        b->setFont(textFont(12, QFont::DemiBold));
        return b;
    };
    Row row{button(), button(), nullptr};
    row.swatch->setIconSize({kSwatch, kSwatch});
    row.swatch->setToolTip(tr("Colour, material and name of this body"));
    row.name->setToolTip(tr("Hide or show this body. It is weighed and written to files all the same. While "
                            "bodies are chosen or something is measured, it is taken instead."));
    connect(row.swatch, &QToolButton::clicked, this, [this, body] { openChoices(body); });
    connect(row.name, &QToolButton::clicked, this, [this, body] {
        if (m_stand->takesBodies()) {
            m_stand->takeBody(QString::fromStdString(nameOfBody(m_session->part(), body)));
            return;
        }
        BodyLook look = lookOf(m_session->part(), body);
        look.hidden = !look.hidden;
        const QString called = QString::fromStdString(nameOfBody(m_session->part(), body));
        setLook(look, look.hidden ? tr("%1 hidden").arg(called) : tr("%1 shown").arg(called));
    });
    row.mass = new QLabel(m_rowsHolder);
    row.mass->setFont(textFont(12));
    row.mass->setToolTip(tr("Its mass, in the material that is chosen for it"));
    auto* line = new QHBoxLayout;
    line->setSpacing(2);
    line->addWidget(row.swatch);
    line->addWidget(row.name);
    line->addStretch();
    line->addWidget(row.mass);
    m_list->addLayout(line);
    return row;
}

void BodiesStrip::list(const std::map<ThingId, QColor>& bodies) {
    const bool same = m_rows.size() == bodies.size() &&
                      std::equal(m_rows.begin(), m_rows.end(), bodies.begin(),
                                 [](const auto& a, const auto& b) { return a.first == b.first; });
    if (!same) {
        while (QLayoutItem* item = m_list->takeAt(0)) {
            if (item->layout())
                while (QLayoutItem* inner = item->layout()->takeAt(0)) {
                    if (inner->widget()) inner->widget()->deleteLater();
                    delete inner;
                }
            delete item;
        }
        m_rows.clear();
        for (const auto& [id, colour] : bodies) m_rows[id] = makeRow(id);
    }
    const Part& part = m_session->part();
    for (const auto& [id, row] : m_rows) {
        const BodyLook look = lookOf(part, id);
        // What is only tried has its name from the forge.
        const auto mesh = m_forge->meshes().find(id);
        const bool tried = !part.findStep(id.step) && mesh != m_forge->meshes().end();
        const QString called = tried && !mesh->second.name.isEmpty()
                                   ? mesh->second.name
                                   : QString::fromStdString(nameOfBody(part, id));
        row.swatch->setIcon(swatchIcon(bodies.at(id), look.hidden));
        row.name->setText(look.hidden ? tr("%1, hidden").arg(called) : called);
        row.name->setStyleSheet(QStringLiteral("QToolButton { border: none; color: %1; }")
                                    .arg((look.hidden ? theme().inkSoft : theme().ink).name()));
        row.swatch->setStyleSheet(QStringLiteral("QToolButton { border: none; }"));
    }
    setVisible(m_rows.size() > 1);
    weigh();
}

/// How heavy each is, once that is known.
void BodiesStrip::weigh() {
    const UnitSystem& units = m_session->part().brief.units;
    for (const auto& [id, row] : m_rows) {
        const auto mass = m_forge->masses().find(id);
        row.mass->setText(mass == m_forge->masses().end() ? QString() : inShort(mass->second, units.mass));
        row.mass->setStyleSheet(QStringLiteral("color: %1;").arg(theme().inkSoft.name()));
    }
    fit();
}

/// As high as its rows are, and as the stand leaves room for: the others are scrolled to.
void BodiesStrip::fit() {
    constexpr int kAround = 150, kLeast = 80; // px of the stand above and below
    constexpr int kBeside = 4;                // px to the bar
    m_list->setContentsMargins(0, 0, 0, 0);
    m_list->invalidate();
    m_list->activate();
    const QSize rows = m_rowsHolder->sizeHint();
    const int most = std::max(kLeast, m_stand->height() - kAround);
    const int bar = rows.height() > most ? m_scroll->verticalScrollBar()->sizeHint().width() : 0;
    m_list->setContentsMargins(0, 0, bar > 0 ? kBeside : 0, 0);
    m_scroll->setFixedSize(rows.width() + (bar > 0 ? bar + kBeside : 0), std::min(rows.height(), most));
    layout()->activate();
    adjustSize();
    Q_EMIT placed();
}

bool BodiesStrip::eventFilter(QObject* of, QEvent* e) {
    if (of == m_stand && e->type() == QEvent::Resize && isVisible()) fit();
    return QFrame::eventFilter(of, e);
}

QToolButton* BodiesStrip::name(ThingId body) const {
    const auto it = m_rows.find(body);
    return it == m_rows.end() ? nullptr : it->second.name;
}

QToolButton* BodiesStrip::swatch(ThingId body) const {
    const auto it = m_rows.find(body);
    return it == m_rows.end() ? nullptr : it->second.swatch;
}

void BodiesStrip::setLook(const BodyLook& look, const QString& what) {
    Part p = m_session->part();
    gc::setLook(p, look);
    m_session->commit(p, what);
}

void BodiesStrip::openChoices(ThingId body) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->setObjectName(QStringLiteral("bodyChoices"));
    addColours(menu, body);
    menu->addSeparator();
    addMaterials(menu, body);
    menu->addSeparator();
    if (const auto alike = madeWith(body); alike.size() > 1)
        menu->addAction(tr("All %1 of this step like it").arg(alike.size()), this,
                        [this, body, alike] { makeAlike(body, alike); });
    menu->addAction(tr("Rename …"), this, [this, body] { rename(body); });
    menu->popup(swatch(body)->mapToGlobal(QPoint(0, swatch(body)->height())));
}

/// The bodies that the same step made: letters, copies.
std::vector<ThingId> BodiesStrip::madeWith(ThingId body) const {
    std::vector<ThingId> out;
    for (const auto& [id, row] : m_rows)
        if (id.step == body.step) out.push_back(id);
    return out;
}

/// In the colour that it has now, and of its material.
void BodiesStrip::makeAlike(ThingId body, const std::vector<ThingId>& others) {
    Part p = m_session->part();
    const BodyLook its = lookOf(p, body);
    const std::string colour = colourOf(p, body);
    for (const ThingId id : others) {
        BodyLook look = lookOf(p, id);
        look.colour = colour;
        look.material = its.material;
        look.hidden = its.hidden;
        gc::setLook(p, look);
    }
    m_session->commit(
        p, tr("%1 bodies like %2").arg(others.size()).arg(QString::fromStdString(nameOfBody(p, body))));
}

void BodiesStrip::addColours(QMenu* menu, ThingId body) {
    auto* field = new QWidget(menu);
    auto* grid = new QGridLayout(field);
    grid->setContentsMargins(10, 6, 10, 6);
    grid->setSpacing(2);
    const auto take = [this, body](const QString& colour) {
        BodyLook look = lookOf(m_session->part(), body);
        look.colour = colour.toStdString();
        setLook(look, tr("colour of %1").arg(QString::fromStdString(nameOfBody(m_session->part(), body))));
    };
    int k = 0;
    for (const QColor& colour : theme().bodies + theme().dyes) {
        auto* b = new QToolButton(field);
        b->setAutoRaise(true);
        b->setIcon(swatchIcon(colour));
        b->setToolTip(colour.name());
        connect(b, &QToolButton::clicked, menu, [menu, take, colour] {
            menu->close();
            take(colour.name());
        });
        grid->addWidget(b, k / kColumns, k % kColumns);
        ++k;
    }
    auto* action = new QWidgetAction(menu);
    action->setDefaultWidget(field);
    menu->addAction(action);
    menu->addAction(tr("Another colour …"), this, [this, body, take] {
        const QColor now(QString::fromStdString(colourOf(m_session->part(), body)));
        const QColor chosen = QColorDialog::getColor(now, window(), tr("Colour of the body"));
        if (chosen.isValid()) take(chosen.name());
    });
    if (!lookOf(m_session->part(), body).colour.empty())
        menu->addAction(tr("Its usual colour"), this, [take] { take({}); });
}

void BodiesStrip::addMaterials(QMenu* menu, ThingId body) {
    const std::string now = lookOf(m_session->part(), body).material;
    QMenu* list =
        menu->addMenu(now.empty() ? tr("Material") : tr("Material: %1").arg(QString::fromStdString(now)));
    const auto add = [&](const QString& words, const std::string& material) {
        QAction* a = list->addAction(words, this, [this, body, material] {
            BodyLook look = lookOf(m_session->part(), body);
            look.material = material;
            setLook(look,
                    tr("material of %1").arg(QString::fromStdString(nameOfBody(m_session->part(), body))));
        });
        a->setCheckable(true);
        a->setChecked(material == now);
    };
    const QString brief = QString::fromStdString(m_session->part().brief.material);
    add(tr("As the brief says: %1").arg(brief), {});
    list->addSeparator();
    const auto materials = loadMaterials();
    if (!materials) {
        list->addAction(inWords(materials.error().sentence))->setEnabled(false);
        return;
    }
    for (const Material& m : *materials) add(QString::fromStdString(m.name), m.name);
}

/// The name becomes a field in its place.
void BodiesStrip::rename(ThingId body) {
    QToolButton* label = name(body);
    if (!label) return;
    auto* field = new QLineEdit(QString::fromStdString(nameOfBody(m_session->part(), body)), parentWidget());
    field->setObjectName(QStringLiteral("bodyName"));
    field->setFont(textFont(13));
    const QPoint at = label->mapTo(parentWidget(), QPoint(0, 0));
    constexpr int kWide = 170;
    field->setGeometry(std::min(at.x(), parentWidget()->width() - kWide - 8), at.y(), kWide, 28);
    field->selectAll();
    field->show();
    field->raise();
    field->setFocus();
    connect(field, &QLineEdit::editingFinished, this, [this, field, body] {
        if (!field->isVisible()) return; // hiding takes the focus away, too
        field->hide();
        field->deleteLater();
        Part p = m_session->part();
        const std::string called = field->text().trimmed().toStdString();
        const bool other = called != nameOfBody(p, body);
        const std::string why = renameBody(p, body, called);
        if (!why.empty())
            Q_EMIT message(QStringLiteral("■ ") + QString::fromStdString(why));
        else if (other)
            m_session->commit(p, tr("body called %1").arg(field->text().trimmed()));
    });
}

} // namespace gc::app

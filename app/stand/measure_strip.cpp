#include "app/stand/measure_strip.hpp"

#include "app/look/theme.hpp"

#include <QClipboard>
#include <QGridLayout>
#include <QGuiApplication>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <QLabel>
#include <QLineEdit>
#include <QToolButton>

namespace gc::app {

namespace {
constexpr int kAbove = 62; // pixels: above the scale and the sights
}

QString readingLabel(const QString& key) {
    static const std::map<QString, const char*> all{
        {QStringLiteral("distance"), QT_TRANSLATE_NOOP("MeasureStrip", "distance")},
        {QStringLiteral("least distance"), QT_TRANSLATE_NOOP("MeasureStrip", "least distance")},
        {QStringLiteral("angle"), QT_TRANSLATE_NOOP("MeasureStrip", "angle")},
        {QStringLiteral("diameter"), QT_TRANSLATE_NOOP("MeasureStrip", "diameter")},
        {QStringLiteral("radius"), QT_TRANSLATE_NOOP("MeasureStrip", "radius")},
        {QStringLiteral("length"), QT_TRANSLATE_NOOP("MeasureStrip", "length")},
        {QStringLiteral("area"), QT_TRANSLATE_NOOP("MeasureStrip", "area")},
        {QStringLiteral("volume"), QT_TRANSLATE_NOOP("MeasureStrip", "volume")}};
    const auto it = all.find(key);
    return it == all.end() ? key : QCoreApplication::translate("MeasureStrip", it->second);
}

MeasureStrip::MeasureStrip(QWidget* parent) : QFrame(parent) {
    setObjectName(QStringLiteral("measureStrip"));
    m_grid = new QGridLayout(this);
    m_grid->setContentsMargins(12, 8, 10, 8);
    m_grid->setHorizontalSpacing(10);
    m_grid->setVerticalSpacing(2);
    parent->installEventFilter(this);
    hide();
}

void MeasureStrip::clear() {
    m_allowed = nullptr;
    while (QLayoutItem* item = m_grid->takeAt(0)) {
        if (QWidget* w = item->widget()) {
            w->hide();
            w->deleteLater();
        }
        delete item;
    }
}

QToolButton* MeasureStrip::button(const QString& text, const QString& name) {
    auto* b = new QToolButton(this);
    b->setText(text);
    b->setObjectName(name);
    b->setFont(textFont(12, QFont::DemiBold));
    b->setFocusPolicy(Qt::NoFocus);
    b->setCursor(Qt::PointingHandCursor);
    return b;
}

void MeasureStrip::show(const QStringList& picked, const std::vector<ReadingView>& readings,
                        const QString& fault) {
    clear();
    m_readings = readings;
    addHead(picked);
    int row = 1;
    if (!fault.isEmpty()) {
        auto* label = new QLabel(QStringLiteral("■ ") + fault, this);
        label->setFont(textFont(12));
        label->setWordWrap(true);
        label->setStyleSheet(QStringLiteral("color: %1").arg(theme().fail.name()));
        m_grid->addWidget(label, row++, 0, 1, 4);
    }
    for (int i = 0; i < static_cast<int>(readings.size()); ++i) addReading(row++, i);
    for (QWidget* w : findChildren<QWidget*>())
        if (w->parent() == this && m_grid->indexOf(w) >= 0) w->show();
    QFrame::show();
    place();
    raise();
}

void MeasureStrip::addHead(const QStringList& picked) {
    auto* head = new QWidget(this);
    auto* line = new QHBoxLayout(head);
    line->setContentsMargins(0, 0, 0, 2);
    line->setSpacing(6);
    auto* label = new QLabel(picked.isEmpty()     ? tr("Click a point, an edge, a drawn line or a face; "
                                                           "a whole body in the list of bodies.")
                             : picked.size() == 1 ? tr("Measured:")
                                                  : tr("Between"),
                             head);
    label->setFont(textFont(12));
    line->addWidget(label);
    for (int i = 0; i < picked.size(); ++i) {
        if (i > 0) {
            auto* and_ = new QLabel(tr("and"), head);
            and_->setFont(textFont(12));
            line->addWidget(and_);
        }
        auto* chip = button(inWords(picked[i]) + QStringLiteral("  ×"), QStringLiteral("chip%1").arg(i));
        chip->setToolTip(tr("Let go of it"));
        connect(chip, &QToolButton::clicked, this, [this, i] { Q_EMIT letGo(i); });
        line->addWidget(chip);
    }
    if (picked.size() == 1) {
        auto* more = new QLabel(tr("A second click measures between the two."), head);
        more->setFont(textFont(11));
        more->setStyleSheet(QStringLiteral("color: %1").arg(theme().inkSoft.name()));
        line->addWidget(more);
    }
    line->addStretch();
    m_grid->addWidget(head, 0, 0, 1, 5);
}

void MeasureStrip::addReading(int row, int index) {
    const ReadingView& r = m_readings[static_cast<std::size_t>(index)];
    auto* label = new QLabel(readingLabel(r.key), this);
    auto* value = new QLabel(r.text, this);
    label->setFont(textFont(13));
    value->setFont(textFont(14, QFont::Bold));
    value->setObjectName(QStringLiteral("value ") + r.key);
    for (QLabel* l : {label, value}) {
        l->setProperty("reading", index);
        l->installEventFilter(this);
    }
    m_grid->addWidget(label, row, 0);
    m_grid->addWidget(value, row, 1);
    QToolButton* copy = button(tr("Copy"), QStringLiteral("copy ") + r.key);
    connect(copy, &QToolButton::clicked, this,
            [text = r.text] { QGuiApplication::clipboard()->setText(text); });
    m_grid->addWidget(copy, row, 2);
    if (r.key == QLatin1String("area") || r.key == QLatin1String("volume"))
        return; // the brief asks for volumes
    QToolButton* keep = button(tr("Keep as target"), QStringLiteral("keep ") + r.key);
    connect(keep, &QToolButton::clicked, this, [this, index] { askAllowed(index); });
    m_grid->addWidget(keep, row, 3);
}

/// In the place of the button: what shall be allowed.
void MeasureStrip::askAllowed(int index) {
    const ReadingView r = m_readings[static_cast<std::size_t>(index)];
    QToolButton* keep = keepButton(r.key);
    if (!keep) return;
    m_allowed = new QLineEdit(QStringLiteral("≥ ") + r.text, this);
    m_allowed->setObjectName(QStringLiteral("allowed"));
    m_allowed->setFont(textFont(13, QFont::DemiBold));
    m_allowed->setMinimumWidth(130);
    m_allowed->setToolTip(
        tr("What is allowed: \"≥ 30 mm\", \"30 ± 0.2 mm\". Enter keeps it, Esc leaves it."));
    m_grid->replaceWidget(keep, m_allowed);
    keep->hide();
    keep->deleteLater();
    m_allowed->selectAll();
    m_allowed->setFocus(Qt::MouseFocusReason);
    m_allowed->installEventFilter(this);
    m_allowed->setProperty("key", r.key);
    place();
}

QToolButton* MeasureStrip::copyButton(const QString& key) const {
    return findChild<QToolButton*>(QStringLiteral("copy ") + key);
}

QToolButton* MeasureStrip::keepButton(const QString& key) const {
    return findChild<QToolButton*>(QStringLiteral("keep ") + key);
}

bool MeasureStrip::eventFilter(QObject* o, QEvent* e) {
    if (o == parent() && e->type() == QEvent::Resize) place();
    if (o == m_allowed && e->type() == QEvent::KeyPress) { // neither key is the window's
        const int key = static_cast<QKeyEvent*>(e)->key();
        if (key == Qt::Key_Escape) m_allowed->hide();
        if (key == Qt::Key_Return || key == Qt::Key_Enter)
            Q_EMIT kept(m_allowed->property("key").toString(), m_allowed->text().trimmed());
        if (key == Qt::Key_Escape || key == Qt::Key_Return || key == Qt::Key_Enter) return true;
    }
    const QVariant reading = o->property("reading");
    if (reading.isValid() && e->type() == QEvent::Enter) Q_EMIT pointedAt(reading.toInt());
    return QFrame::eventFilter(o, e);
}

void MeasureStrip::place() {
    m_grid->invalidate();
    m_grid->activate();
    const QSize want = sizeHint();
    const QWidget* around = parentWidget();
    const QSize size(std::min(want.width(), around->width() - 24), want.height());
    setGeometry((around->width() - size.width()) / 2, around->height() - size.height() - kAbove, size.width(),
                size.height());
}

} // namespace gc::app

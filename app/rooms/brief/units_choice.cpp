#include "app/rooms/brief/units_choice.hpp"

#include "app/look/theme.hpp"
#include "core/document/units_change.hpp"

#include <QHBoxLayout>

namespace gc::app {

namespace {

QString inPlural(const QString& unit) {
    if (unit == QLatin1String("in")) return UnitsChoice::tr("inches");
    if (unit == QLatin1String("cm")) return UnitsChoice::tr("centimetres");
    return UnitsChoice::tr("millimetres");
}

} // namespace

UnitsChoice::UnitsChoice(Session* session, QWidget* parent) : QWidget(parent), m_session(session) {
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(8);
    m_words = new QLabel(this);
    m_words->setWordWrap(true);
    m_words->setFont(textFont(12));
    m_anew = new QPushButton(this);
    m_keep = new QPushButton(tr("Keep the size"), this);
    layout->addWidget(m_words, 1);
    layout->addWidget(m_anew);
    layout->addWidget(m_keep);
    connect(m_anew, &QPushButton::clicked, this, &UnitsChoice::showAnew);
    connect(m_keep, &QPushButton::clicked, this, &UnitsChoice::keep);
    connect(session, &Session::partChanged, this, [this] {
        if (m_changing) return;
        m_other.reset(); // the part went on: it is too late to choose
        hide();
    });
    hide();
}

void UnitsChoice::change(const std::string& length) {
    const Part before = m_session->part();
    if (before.brief.units.length == length) return;
    UnitSystem now = before.brief.units;
    now.length = length;
    const UnitsChanged changed = inUnits(before, now);
    m_before = QString::fromStdString(before.brief.units.length);
    m_said.clear();
    for (const std::string& s : changed.said) m_said << QString::fromStdString(s);
    m_changing = true;
    const bool taken =
        m_session->commit(changed.part, tr("lengths in %1").arg(QString::fromStdString(length)));
    m_changing = false;
    m_other.reset();
    if (taken && !m_said.isEmpty()) {
        m_other = before;
        m_other->brief.units = now;
    }
    offer();
}

void UnitsChoice::offer() {
    setVisible(m_other.has_value());
    if (!m_other) return;
    m_shown = false;
    const QString unit = QString::fromStdString(m_other->brief.units.length);
    const int n = static_cast<int>(m_said.size());
    m_words->setText((n == 1 ? tr("The part keeps its size: one figure had no unit and stays in %1.")
                             : tr("The part keeps its size: %2 figures had no unit and stay in %1.").arg(n))
                         .arg(inPlural(m_before)));
    m_words->setToolTip(m_said.join(QLatin1Char('\n')));
    m_anew->setText(tr("Or read as %1 …").arg(inPlural(unit)));
    m_keep->setText(tr("Good"));
}

/// First it is seen, then it is taken.
void UnitsChoice::showAnew() {
    if (!m_other) return;
    const QString unit = QString::fromStdString(m_other->brief.units.length);
    if (m_shown) {
        const Part other = *std::exchange(m_other, std::nullopt);
        hide();
        m_session->commit(other, tr("figures read in %1").arg(unit));
        return;
    }
    m_shown = true;
    constexpr int kNamed = 3;
    QStringList some;
    for (const QString& s : m_said.mid(0, kNamed)) some << s + QLatin1Char(' ') + unit;
    if (m_said.size() > kNamed) some << tr("and %1 more").arg(m_said.size() - kNamed);
    m_words->setText(tr("The stand shows it: %1.").arg(some.join(QStringLiteral("; "))));
    m_anew->setText(tr("Read them so"));
    m_keep->setText(tr("Keep the size"));
    Q_EMIT previewAsked(*m_other);
}

void UnitsChoice::keep() {
    const bool shown = std::exchange(m_shown, false);
    m_other.reset();
    hide();
    if (shown) Q_EMIT previewLeft();
}

} // namespace gc::app

#include "app/shell/measuring.hpp"

#include "app/link/forge_link.hpp"
#include "app/look/words.hpp"
#include "app/shell/session.hpp"
#include "app/stand/measure_strip.hpp"
#include "app/stand/stand.hpp"

namespace gc::app {

Measuring::Measuring(Session* session, ForgeLink* forge, Stand* stand, QObject* parent)
    : QObject(parent), m_session(session), m_forge(forge), m_stand(stand), m_strip(new MeasureStrip(stand)) {
    m_strip->inWords = [this](const QString& p) {
        return QString::fromStdString(pickedInWords(p.toStdString(), m_session->part()));
    };
    connect(m_strip, &MeasureStrip::letGo, this, [this](int picked) {
        m_picked.removeAt(picked);
        ask();
    });
    connect(m_strip, &MeasureStrip::pointedAt, this, &Measuring::point);
    connect(m_strip, &MeasureStrip::kept, this, &Measuring::keep);
    connect(forge, &ForgeLink::readingsTaken, this, &Measuring::show);
    connect(forge, &ForgeLink::bodiesShown, this, [this] { // as the part is now
        if (m_active && !m_picked.isEmpty()) ask();
    });
}

void Measuring::begin() {
    m_active = true;
    m_picked.clear();
    ask();
    Q_EMIT changed(true);
}

void Measuring::end() {
    if (!m_active) return;
    m_active = false;
    m_picked.clear();
    m_strip->hide();
    m_stand->showReading(std::nullopt);
    m_stand->setChosen({});
    Q_EMIT changed(false);
}

/// The first two are measured, a third begins anew.
void Measuring::take(const Pick& pick) {
    const char* kind = pick.kind == Picking::Points   ? "point: "
                       : pick.kind == Picking::Edges  ? "edge: "
                       : pick.kind == Picking::Curves ? "curve: "
                       : pick.kind == Picking::Bodies ? "body: "
                                                      : "face: ";
    const QString picked = QLatin1String(kind) + pick.refs.first();
    if (m_picked.removeAll(picked) == 0) { // a second click lets go
        if (m_picked.size() > 1) m_picked.clear();
        m_picked << picked;
    }
    m_pointed = 0;
    ask();
}

void Measuring::ask() {
    QStringList refs;
    for (const QString& p : m_picked) refs << p.section(QStringLiteral(": "), 1);
    m_stand->setChosen(refs);
    if (m_picked.isEmpty()) return show({}, {});
    m_forge->read(m_picked);
}

void Measuring::show(const std::vector<ReadingView>& readings, const QString& fault) {
    if (!m_active) return;
    m_strip->show(m_picked, readings, fault);
    point(m_pointed);
}

void Measuring::point(int reading) {
    m_pointed = reading;
    const auto& all = m_strip->readings();
    if (reading < 0 || static_cast<std::size_t>(reading) >= all.size())
        return m_stand->showReading(std::nullopt);
    m_stand->showReading(all[static_cast<std::size_t>(reading)]);
}

void Measuring::keep(const QString& key, const QString& allowed) {
    Part p = m_session->part();
    Target target{key.toStdString(), allowed.toStdString()};
    for (const QString& picked : m_picked) target.of.push_back(picked.toStdString());
    const auto range = parseAllowed(target.allowed, findMeasure(target.measure)->dimension, p.brief.units);
    if (!range) {
        Q_EMIT message(QStringLiteral("■ ") + inWords(range.error().sentence));
        return;
    }
    const QString words = QString::fromStdString(targetInWords(target, p));
    p.brief.targets.push_back(std::move(target));
    m_session->commit(p, tr("target added"));
    Q_EMIT message(tr("%1 %2 is a target now: its gauge stands below.").arg(words, allowed));
}

} // namespace gc::app

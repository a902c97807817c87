#include "app/sheet/gauges.hpp"

#include "app/look/theme.hpp"
#include "core/document/measure_words.hpp"

#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace gc::app {

QString verdictText(const QString& v) {
    if (v == QLatin1String("holds")) return QObject::tr("✓ holds");
    if (v == QLatin1String("watch")) return QObject::tr("▲ watch");
    if (v == QLatin1String("fails")) return QObject::tr("■ fails");
    if (v == QLatin1String("measuring")) return QObject::tr("… measuring");
    return QObject::tr("– none");
}

QColor verdictColour(const QString& v) {
    const Theme& t = theme();
    return v == QLatin1String("holds")   ? t.good
           : v == QLatin1String("watch") ? t.watch
           : v == QLatin1String("fails") ? t.fail
                                         : t.inkSoft;
}

std::vector<TargetView> targetsOf(const Part& part, const std::vector<TargetView>& measured) {
    std::vector<TargetView> out;
    for (const Target& t : part.brief.targets) {
        TargetView v;
        v.measure = QString::fromStdString(t.measure);
        v.allowed = QString::fromStdString(t.allowed);
        v.ofBody = QString::fromStdString(t.body);
        v.label = QString::fromStdString(targetInWords(t, part));
        const auto same = std::find_if(measured.begin(), measured.end(), [&](const TargetView& m) {
            return m.label == v.label && m.allowed == v.allowed;
        });
        if (same != measured.end()) v = *same;
        v.verdict = QStringLiteral("measuring");
        out.push_back(std::move(v));
    }
    return out;
}

Gauges::Gauges(QWidget* parent) : QWidget(parent) {
    setMouseTracking(true);
    setFocusPolicy(Qt::TabFocus);
    setAccessibleName(tr("Gauges"));
    setFixedHeight(74);
}

void Gauges::setTargets(const std::vector<TargetView>& targets, bool measuring) {
    if (!m_waiting.isEmpty()) return;
    m_targets = targets;
    m_measuring = measuring;
    update();
}

QString Gauges::verdictOf(const TargetView& g) const {
    return m_measuring && g.verdict == QLatin1String("none") ? QStringLiteral("measuring") : g.verdict;
}

QString Gauges::sign(const TargetView& g) const {
    return m_waiting.isEmpty() ? verdictText(verdictOf(g)) : m_waiting;
}

QString Gauges::valueText(const TargetView& g) {
    return g.text.isEmpty() ? QStringLiteral("–") : g.text;
}

QString Gauges::words(int index) const {
    const TargetView& g = m_targets.at(static_cast<std::size_t>(index));
    return g.label + QLatin1Char(' ') + valueText(g) + QLatin1Char(' ') + sign(g);
}

void Gauges::setWaiting(const QString& why) {
    m_waiting = why;
    update();
}

void Gauges::setActive(int index) {
    m_active = index;
    update();
}

QRect Gauges::gaugeRect(int i) const {
    const int n = std::max(1, static_cast<int>(m_targets.size()));
    return {width() * i / n, 0, width() * (i + 1) / n - width() * i / n, height()};
}

void Gauges::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    p.fillRect(rect(), t.paperDeep);
    p.setPen(t.line);
    p.drawLine(0, 0, width(), 0);
    if (m_targets.empty()) {
        p.setFont(textFont(13));
        p.setPen(t.inkSoft);
        p.drawText(rect(), Qt::AlignCenter,
                   tr("No target yet. Ask for a mass, a wall or a fill volume in the stage Brief."));
        return;
    }
    for (int i = 0; i < static_cast<int>(m_targets.size()); ++i) paintGauge(p, i);
    Walk::paint(p, *this, gaugeRect(std::min(m_walk.at(), static_cast<int>(m_targets.size()) - 1)));
}

void Gauges::keyPressEvent(QKeyEvent* e) {
    std::optional<int> taken;
    if (!m_walk.key(*e, static_cast<int>(m_targets.size()), taken)) return QWidget::keyPressEvent(e);
    if (taken) Q_EMIT clicked(*taken);
    update();
}

void Gauges::paintGauge(QPainter& p, int i) const {
    const Theme& t = theme();
    const TargetView& g = m_targets[static_cast<std::size_t>(i)];
    const QRect r = gaugeRect(i);
    if (i == m_active || i == m_hover)
        p.fillRect(r.adjusted(1, 1, 0, 0), i == m_active ? t.accentSoft : t.paper);
    p.setPen(t.line);
    if (i > 0) p.drawLine(r.left(), 0, r.left(), height());
    const QRect in = r.adjusted(12, 8, -12, -8);
    paintWords(p, g, in);
    paintBand(p, g, QRectF(in.left(), in.bottom() - 8, in.width(), 7));
}

/// What is measured and its verdict, below them the value and what is allowed.
void Gauges::paintWords(QPainter& p, const TargetView& g, const QRect& in) const {
    const Theme& t = theme();
    const bool waits = !m_waiting.isEmpty();
    const QString sign = this->sign(g), verdict = verdictOf(g);
    const QFont bold = textFont(12, QFont::Bold);
    const int signWidth = QFontMetrics(bold).horizontalAdvance(sign);
    p.setFont(textFont(12));
    p.setPen(t.ink);
    const bool room = QFontMetrics(p.font()).horizontalAdvance(g.label) + signWidth + 8 <= in.width();
    p.drawText(in, Qt::AlignLeft | Qt::AlignTop,
               p.fontMetrics().elidedText(g.label, Qt::ElideRight, in.width() - (room ? signWidth : 16) - 4));
    p.setFont(bold);
    p.setPen(waits ? t.inkSoft : verdictColour(verdict));
    p.drawText(in, Qt::AlignRight | Qt::AlignTop, room ? sign : waits ? QStringLiteral("…") : sign.left(1));
    p.setFont(textFont(15, QFont::Bold));
    p.setPen(waits ? t.inkSoft : t.ink);
    const QString value = valueText(g);
    p.drawText(in.adjusted(0, 18, 0, 0), Qt::AlignLeft | Qt::AlignTop, value);
    const int used = p.fontMetrics().horizontalAdvance(value) + 6;
    p.setFont(textFont(12));
    p.setPen(t.inkSoft);
    p.drawText(in.adjusted(used, 21, 0, 0), Qt::AlignLeft | Qt::AlignTop,
               p.fontMetrics().elidedText(g.allowed, Qt::ElideRight, in.width() - used));
}

/// Where the value lies; the band runs a little beyond the allowed zone on both sides.
void Gauges::paintBand(QPainter& p, const TargetView& g, const QRectF& band) {
    const Theme& t = theme();
    p.setPen(Qt::NoPen);
    p.setBrush(t.line);
    p.drawRoundedRect(band, 3.5, 3.5);
    if (!g.least && !g.most) return;
    double low = g.least.value_or(0), high = g.most.value_or(g.least.value_or(0) * 2);
    if (high <= low) {
        low -= std::max(1.0, std::fabs(low));
        high += std::max(1.0, std::fabs(high));
    }
    const double reach = high - low, from = low - 0.5 * reach, to = high + 0.5 * reach;
    const auto x = [&](double v) {
        return band.left() + band.width() * std::clamp((v - from) / (to - from), 0.015, 0.985);
    };
    const double a = g.least ? x(*g.least) : band.left(), b = g.most ? x(*g.most) : band.right();
    p.setBrush(t.band);
    p.drawRoundedRect(QRectF(a - (b - a < 6 ? 4 : 0), band.top(), std::max(8.0, b - a), band.height()), 3.5,
                      3.5);
    if (!g.value) return;
    p.setBrush(t.ink);
    p.drawRoundedRect(QRectF(x(*g.value) - 1.5, band.top() - 3, 3, band.height() + 6), 1.5, 1.5);
}

int Gauges::at(QPoint p) const {
    for (int i = 0; i < static_cast<int>(m_targets.size()); ++i)
        if (gaugeRect(i).contains(p)) return i;
    return -1;
}

void Gauges::mouseReleaseEvent(QMouseEvent* e) {
    if (const int i = at(e->pos()); i >= 0) Q_EMIT clicked(i);
}

void Gauges::mouseMoveEvent(QMouseEvent* e) {
    m_hover = at(e->pos());
    setCursor(m_hover >= 0 ? Qt::PointingHandCursor : Qt::ArrowCursor);
    if (m_hover >= 0) { // a place or a note that is not known yet makes no empty box
        const TargetView& t = m_targets[static_cast<std::size_t>(m_hover)];
        setToolTip(QStringLiteral("%1\n%2").arg(t.where, t.note).trimmed());
    }
    update();
}

void Gauges::leaveEvent(QEvent*) {
    m_hover = -1;
    update();
}

} // namespace gc::app

#include "app/rooms/prove/proof_page.hpp"
#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/sheet/gauges.hpp"

#include "core/process/material.hpp"

#include <QMouseEvent>
#include <QPainter>

#include <algorithm>

namespace gc::app {

namespace {
constexpr int kTop = 74, kRow = 32;
}

ProofPage::ProofPage(Session* session, ForgeLink* forge, QWidget* parent)
    : QWidget(parent), m_session(session), m_forge(forge) {
    connect(forge, &ForgeLink::measuresChanged, this, [this] { update(); });
    connect(forge, &ForgeLink::solved, this, [this](int target, const std::vector<RemedyView>& remedies) {
        m_solving = -1;
        m_solvedFor = target;
        m_remedies = remedies;
        update();
    });
    connect(session, &Session::partChanged, this, [this] {
        m_remedies.clear();
        m_solvedFor = m_solving = -1;
        update();
    });
}

void ProofPage::setActive(int index) {
    m_active = index;
    const auto& targets = m_forge->targets();
    if (index >= 0 && index < static_cast<int>(targets.size()) &&
        targets[static_cast<std::size_t>(index)].verdict == QLatin1String("fails") && m_solvedFor != index) {
        m_solving = index;
        m_remedies.clear();
        m_forge->solveTarget(index);
    }
    update();
}

QRect ProofPage::rowRect(int i) const {
    return {10, kTop + i * kRow, width() - 20, kRow};
}

QRect ProofPage::remedyRect(int i) const {
    const int y = kTop + static_cast<int>(m_forge->targets().size()) * kRow + 70;
    return {18, y + i * 52, width() - 36, 46};
}

void ProofPage::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    paintHeading(p);
    const int count = static_cast<int>(m_forge->targets().size());
    for (int i = 0; i < count; ++i) paintRow(p, i);
    const int after = kTop + count * kRow;
    p.setPen(theme().line);
    p.drawLine(16, after, width() - 16, after);
    paintCaution(p, m_active >= 0 && m_active < count ? paintAdvice(p, after) : after + 16);
}

/// Figures and what is allowed are always whole; what is left over goes to where, and the names give way
/// first.
std::array<int, 5> ProofPage::columns() const {
    constexpr int kLeft = 42, kSince = 64, kGap = 14;
    const QFontMetrics plain(textFont(13)), bold(textFont(13, QFont::Bold)), small(textFont(11));
    int claim = small.horizontalAdvance(tr("claim")), measured = small.horizontalAdvance(tr("measured")),
        allowed = small.horizontalAdvance(tr("allowed"));
    for (const TargetView& v : m_forge->targets()) {
        claim = std::max(claim, plain.horizontalAdvance(v.label));
        measured = std::max(measured, bold.horizontalAdvance(v.text));
        allowed = std::max(allowed, plain.horizontalAdvance(v.allowed));
    }
    const int since = width() - kSince, figures = measured + allowed + 2 * kGap;
    // On a wide board names stand well apart from their figures.
    const int generous = std::max(claim + kGap, static_cast<int>(width() * 0.31) - kLeft);
    const int names = std::clamp(since - kLeft - figures - 40, 60, generous);
    const int m = kLeft + names, air = std::max(0, std::min(24, (since - m - figures) / 6));
    return {kLeft, m, m + measured + kGap + air, m + figures + 2 * air, since};
}

void ProofPage::paintHeading(QPainter& p) const {
    const Theme& t = theme();
    p.setFont(textFont(15, QFont::Bold));
    p.setPen(t.ink);
    p.drawText(QRect(18, 10, 200, 26), Qt::AlignVCenter, tr("Proof board"));
    const auto count = [this](const char* verdict) {
        const auto& targets = m_forge->targets();
        return std::count_if(targets.begin(), targets.end(),
                             [&](const TargetView& v) { return v.verdict == QLatin1String(verdict); });
    };
    const Brief& brief = m_session->part().brief;
    const QString summary =
        tr("%1 %2 · %3 hold, %4 to watch, %5 fail")
            .arg(QString::fromStdString(brief.process), QString::fromStdString(brief.material))
            .arg(count("holds"))
            .arg(count("watch"))
            .arg(count("fails"));
    p.setFont(textFont(12));
    p.setPen(t.inkSoft);
    p.drawText(QRect(120, 10, width() - 136, 26), Qt::AlignVCenter | Qt::AlignRight,
               p.fontMetrics().elidedText(summary, Qt::ElideLeft, width() - 136));
    const QString headings[] = {tr("claim"), tr("measured"), tr("allowed"), tr("where"), tr("since")};
    p.setFont(textFont(11));
    const auto at = columns();
    for (std::size_t c = 0; c < 5; ++c)
        if (c + 1 == at.size() || at[c + 1] - at[c] > 36)
            p.drawText(QRect(at[c], kTop - 26, 200, 20), Qt::AlignVCenter, headings[c]);
}

void ProofPage::paintRow(QPainter& p, int i) const {
    const Theme& t = theme();
    const TargetView& v = m_forge->targets()[static_cast<std::size_t>(i)];
    const QRect r = rowRect(i);
    p.setPen(QPen(i == m_active ? t.accent : t.line, i == m_active ? 1.4 : 1));
    if (i == m_active) {
        p.setBrush(t.card);
        p.drawRoundedRect(QRectF(r).adjusted(0.5, 1, -0.5, -1), 6, 6);
    } else
        p.drawLine(r.topLeft() + QPoint(6, 0), r.topRight() - QPoint(6, 0));
    p.setFont(textFont(13, QFont::Bold));
    p.setPen(verdictColour(v.verdict));
    p.drawText(QRect(18, r.top(), 20, kRow), Qt::AlignVCenter, verdictText(v.verdict).left(1));
    const auto column = columns();
    const auto cell = [&](std::size_t c, const QString& text, QFont::Weight weight, const QColor& colour) {
        p.setFont(textFont(13, weight));
        p.setPen(colour);
        const int right = c + 1 < column.size() ? column[c + 1] - 6 : width() - 12;
        if (right - column[c] < 30) return; // no room for anything that could be read
        p.drawText(QRect(column[c], r.top(), right - column[c], kRow), Qt::AlignVCenter,
                   p.fontMetrics().elidedText(text, Qt::ElideRight, right - column[c]));
    };
    cell(0, v.label, QFont::Medium, t.ink);
    cell(1, v.text.isEmpty() ? QStringLiteral("–") : v.text, QFont::Bold, t.ink);
    cell(2, v.allowed, QFont::Medium, t.ink);
    cell(3, v.where.isEmpty() ? v.note : v.where, QFont::Medium, t.inkSoft);
    if (v.since != 0) cell(4, tr("step %1").arg(m_session->part().placeOf(v.since)), QFont::Medium, t.ink);
}

/// What the chosen target is and what to do about it. \return where the next thing may begin
int ProofPage::paintAdvice(QPainter& p, int after) const {
    const Theme& t = theme();
    const TargetView& v = m_forge->targets()[static_cast<std::size_t>(m_active)];
    p.setFont(textFont(14, QFont::Bold));
    p.setPen(t.ink);
    p.drawText(QRect(18, after + 12, width() - 36, 22), Qt::AlignVCenter,
               tr("%1: what it is and what to do").arg(v.label));
    p.setFont(textFont(12));
    p.setPen(t.inkSoft);
    QString words = v.verdict == QLatin1String("fails")
                        ? tr("%1 is measured, %2 is allowed.").arg(v.text, v.allowed)
                        : tr("Nothing needs to be done.");
    if (!v.note.isEmpty()) words += QLatin1Char(' ') + v.note;
    if (m_solving == m_active)
        words += QLatin1Char(' ') + tr("Trying sizes that would help …");
    else if (m_solvedFor == m_active && m_remedies.empty())
        words += QLatin1Char(' ') + tr("No single number that was tried mends this.");
    p.drawText(QRect(18, after + 34, width() - 36, 32), Qt::TextWordWrap | Qt::AlignTop, words);
    int below = after + 70;
    for (int i = 0; m_solvedFor == m_active && i < static_cast<int>(m_remedies.size()); ++i) {
        const RemedyView& remedy = m_remedies[static_cast<std::size_t>(i)];
        const QRect r = remedyRect(i);
        p.setPen(Qt::NoPen);
        p.setBrush(t.accentSoft);
        p.drawRoundedRect(r, 7, 7);
        p.setFont(textFont(13, QFont::Bold));
        p.setPen(t.accent);
        p.drawText(r.adjusted(12, 5, -10, -22), Qt::AlignVCenter, remedy.sentence);
        p.setFont(textFont(11));
        p.setPen(t.ink);
        const QString then = tr("then: ") + remedy.then.mid(0, 5).join(QStringLiteral(", "));
        p.drawText(r.adjusted(12, 24, -10, -4), Qt::AlignVCenter,
                   p.fontMetrics().elidedText(then, Qt::ElideRight, r.width() - 22));
        below = r.bottom() + 12;
    }
    return below;
}

void ProofPage::paintCaution(QPainter& p, int below) const {
    const Brief& brief = m_session->part().brief;
    QString words = tr("Caution: ") + QString::fromStdString(brief.caution);
    for (const Process& process : processes())
        if (process.name == brief.process)
            words += QLatin1Char(' ') + QString::fromStdString(process.caution);
    p.setFont(textFont(12));
    p.setPen(theme().inkSoft);
    const int tall =
        p.fontMetrics().boundingRect(QRect(0, 0, width() - 36, 400), Qt::TextWordWrap, words).height();
    p.drawText(QRect(18, std::max(below, height() - tall - 8), width() - 36, tall),
               Qt::TextWordWrap | Qt::AlignTop, words);
}

void ProofPage::mouseReleaseEvent(QMouseEvent* e) {
    for (int i = 0; i < static_cast<int>(m_forge->targets().size()); ++i)
        if (rowRect(i).contains(e->pos())) {
            Q_EMIT targetClicked(i);
            return;
        }
    for (int i = 0; m_solvedFor == m_active && i < static_cast<int>(m_remedies.size()); ++i)
        if (remedyRect(i).contains(e->pos())) {
            const RemedyView r = m_remedies[static_cast<std::size_t>(i)];
            Q_EMIT remedyTaken(r);
            return;
        }
}

} // namespace gc::app

#include "app/sheet/sheet.hpp"

#include "app/look/theme.hpp"
#include "core/units/said_in.hpp"

#include <QContextMenuEvent>
#include <QKeyEvent>
#include <QMenu>
#include <QMouseEvent>
#include <QPainter>

#include <algorithm>
#include <cmath>

namespace gc::app {

namespace {
constexpr int kLeft = 30, kMargin = 70, kTop = 9, kBottom = 9, kWayInset = 20;
}

StepRow::StepRow(int id, QWidget* parent)
    : QWidget(parent), m_id(id), m_flow(new SentenceFlow(SentenceFlow::Size::Sheet, this)) {
    setFocusPolicy(Qt::StrongFocus);
    connect(m_flow, &SentenceFlow::pressedElsewhere, this, [this] { Q_EMIT chosen(m_id); });
}

void StepRow::show(const Step& step, const Around& around, const StepView& view, const OutlineView* outline,
                   bool later) {
    double residual = -1;
    if (outline)
        for (const double r : outline->residuals) residual = std::max(residual, std::fabs(r));
    const bool sameWords = m_step == step && m_spoken == around.spoken;
    if (sameWords && m_number == around.number && m_view == view && m_later == later &&
        m_residual == residual)
        return;
    m_number = around.number;
    m_view = view;
    m_off = step.off;
    m_later = later;
    m_residual = residual;
    m_flow->setFaded(m_off || m_later);
    m_flow->setSentence(step, around.part, around.values);
    m_part = around.part;
    m_step = step;
    m_spoken = around.spoken;
    updateGeometry();
    resizeEvent(nullptr);
    update();
}

void StepRow::setChosen(bool chosen) {
    m_chosen = chosen;
    update();
}

QStringList StepRow::marginLines() const {
    if (m_off) return {tr("off")};
    if (m_later) return {tr("later")};
    if (!m_view.known) return {tr("…")};
    if (!m_view.ok) return {m_view.question ? tr("▲ asks") : tr("■ fails")};
    QStringList lines;
    if (m_residual >= 0)
        lines << tr("residual")
              << QString::fromStdString(saidIn(m_part->brief.units, formatAmount(m_residual, "mm", 2)));
    if (m_view.volumeChange) {
        const double cm3 = *m_view.volumeChange / 1000;
        const QString sign = cm3 < 0 ? QStringLiteral("−") : QStringLiteral("+");
        const QString change = QStringLiteral("%1 cm³").arg(std::fabs(cm3), 0, 'f',
                                                            std::fabs(cm3) < 10    ? 2
                                                            : std::fabs(cm3) < 100 ? 1
                                                                                   : 0);
        lines << sign + QString::fromStdString(saidIn(m_part->brief.units, change.toStdString()));
    }
    const double ms = m_view.milliseconds;
    if (m_residual < 0)
        lines << (ms < 1      ? tr("< 1 ms")
                  : ms < 1000 ? tr("%1 ms").arg(ms, 0, 'f', 0)
                              : tr("%1 s").arg(ms / 1000, 0, 'f', 1));
    return lines;
}

QString StepRow::told() const {
    if (!m_view.ok) return m_view.error;
    QStringList lines = m_view.notes;
    if (!m_view.doubt.isEmpty()) lines.prepend(QStringLiteral("▲ ") + m_view.doubt);
    return lines.join(QLatin1Char('\n'));
}

int StepRow::errorHeight(int width) const {
    const QString text = told();
    if (m_off || m_later || text.isEmpty()) return 0;
    const QFontMetrics metrics(textFont(12));
    int h = metrics.boundingRect(QRect(0, 0, width - kLeft - 10 - kWayInset, 2000), Qt::TextWordWrap, text)
                .height() +
            16;
    for (const QString& way : ways()) h += wayHeight(way, width - kLeft - 10);
    return h + (m_view.trying ? 20 : 0) + 4;
}

/// \param width of the box
int StepRow::wayHeight(const QString& way, int width) const {
    const QFontMetrics bold(textFont(12, QFont::Bold));
    return bold.boundingRect(QRect(0, 0, width - kWayInset, 2000), Qt::TextWordWrap, way).height() + 6;
}

int StepRow::heightForWidth(int width) const {
    const int w = std::max(160, width);
    // Room for both lines of the margin always: they come and go while a part is built, and nothing may move
    // from under the pointer.
    const int lines = std::max(m_flow->heightForWidth(w - kLeft - kMargin), 2 * 18);
    return kTop + lines + kBottom + errorHeight(w);
}

void StepRow::resizeEvent(QResizeEvent*) {
    const int w = std::max(60, width() - kLeft - kMargin);
    m_flow->setGeometry(kLeft, kTop, w, m_flow->heightForWidth(w));
}

void StepRow::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    if (m_chosen || hasFocus()) {
        p.setPen(QPen(t.accent, 1.4));
        p.setBrush(t.card);
        p.drawRoundedRect(QRectF(rect()).adjusted(1, 1, -1, -1), 8, 8);
    } else {
        p.setPen(QPen(t.line, 1));
        p.drawLine(kLeft, height() - 1, width() - 10, height() - 1);
    }
    p.setFont(textFont(12));
    p.setPen(t.inkSoft);
    p.drawText(QRect(4, kTop, kLeft - 12, 22), Qt::AlignRight | Qt::AlignVCenter, QString::number(m_number));
    const QStringList lines = marginLines();
    for (int i = 0; i < lines.size(); ++i) {
        p.setFont(textFont(11, !m_view.ok && !m_off && !m_later ? QFont::Bold : QFont::Medium));
        p.setPen(!m_view.ok && !m_off && !m_later ? t.fail : t.inkSoft);
        p.drawText(QRect(width() - kMargin, kTop + 2 + 17 * i, kMargin - 10, 17),
                   Qt::AlignRight | Qt::AlignVCenter, lines[i]);
    }
    m_remedyRects.clear();
    const int h = errorHeight(width());
    if (h == 0) return;
    const QRect box(kLeft, height() - h - kBottom + 4, width() - kLeft - 10, h - 4);
    p.setPen(Qt::NoPen);
    p.setBrush(t.accentSoft);
    p.drawRoundedRect(box, 7, 7);
    p.setFont(textFont(12));
    p.setPen(t.ink);
    QRect used;
    p.drawText(box.adjusted(10, 8, -10, -8), Qt::TextWordWrap | Qt::AlignTop, told(), &used);
    int y = used.bottom() + 5;
    QFont bold = textFont(12, QFont::Bold);
    bold.setUnderline(true);
    for (const QString& way : ways()) {
        p.setFont(bold);
        p.setPen(t.accent);
        const QRect room(box.left() + 10, y + 2, box.width() - kWayInset, wayHeight(way, box.width()) - 6);
        QRect at;
        p.drawText(room, Qt::TextWordWrap | Qt::AlignTop, way, &at);
        m_remedyRects.push_back(at.adjusted(-2, -2, 2, 2));
        y += wayHeight(way, box.width());
    }
    if (m_view.trying) {
        p.setPen(t.inkSoft);
        p.drawText(QRect(box.left() + 10, y, box.width(), 18), Qt::AlignVCenter,
                   tr("trying other sizes and orders …"));
    }
}

void StepRow::mousePressEvent(QMouseEvent* e) {
    if (e->button() != Qt::LeftButton) return;
    m_pressed = true;
    m_dragging = false;
    m_pressAt = e->pos();
    Q_EMIT chosen(m_id);
}

void StepRow::mouseMoveEvent(QMouseEvent* e) {
    if (!m_pressed) return;
    if (!m_dragging && (e->pos() - m_pressAt).manhattanLength() < 8) return;
    m_dragging = true;
    setCursor(Qt::ClosedHandCursor);
    Q_EMIT dragged(m_id, e->globalPosition().toPoint(), false);
}

void StepRow::mouseReleaseEvent(QMouseEvent* e) {
    unsetCursor();
    const bool wasDragging = m_dragging;
    m_pressed = m_dragging = false;
    if (wasDragging) {
        Q_EMIT dragged(m_id, e->globalPosition().toPoint(), true);
        return;
    }
    for (std::size_t i = 0; i < m_remedyRects.size(); ++i)
        if (m_remedyRects[i].contains(e->pos())) return takeWay(i);
}

QStringList StepRow::ways() const {
    constexpr qsizetype kMostAnswers = 4; // the rest is clicked in the stand
    QStringList out;
    for (const RemedyView& r : m_view.remedies)
        out << (r.tried ? tr("Tried: %1").arg(r.sentence) : r.sentence);
    if (!m_view.question || !m_part) return out;
    out << tr("Show them in the stand");
    for (const QString& a : m_view.question->answers.mid(0, kMostAnswers))
        out << tr("Take %1").arg(QString::fromStdString(referenceInWords(a.toStdString(), *m_part)));
    return out;
}

void StepRow::takeWay(std::size_t i) {
    if (i < m_view.remedies.size()) {
        const RemedyView remedy = m_view.remedies[i];
        Q_EMIT remedyAsked(remedy);
        return;
    }
    if (!m_view.question) return;
    const auto line = static_cast<qsizetype>(i - m_view.remedies.size());
    if (line == 0) {
        Q_EMIT whichAsked(m_id);
        return;
    }
    const QuestionView question = *m_view.question;
    if (line <= question.answers.size()) Q_EMIT answered(m_id, question.about, question.answers[line - 1]);
}

void StepRow::openMenu(const QPoint& global) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(m_off ? tr("Switch this step on") : tr("Switch this step off"), this,
                    [this] { Q_EMIT offAsked(m_id); });
    menu->addAction(tr("Delete this step"), this, [this] { Q_EMIT deleteAsked(m_id); });
    menu->popup(global);
}

void StepRow::contextMenuEvent(QContextMenuEvent* e) {
    openMenu(e->globalPos());
}

void StepRow::keyPressEvent(QKeyEvent* e) {
    if (e->key() == Qt::Key_Delete)
        Q_EMIT deleteAsked(m_id);
    else if (e->key() == Qt::Key_Space)
        Q_EMIT offAsked(m_id);
    else if (e->key() == Qt::Key_Down || e->key() == Qt::Key_Up)
        focusNextPrevChild(e->key() == Qt::Key_Down);
    else
        QWidget::keyPressEvent(e);
}

BookmarkRow::BookmarkRow(QWidget* parent) : QWidget(parent) {
    setCursor(Qt::SizeVerCursor);
    setToolTip(tr("The bookmark: the part is shown as it is here, and new steps go in here. Drag it."));
}

void BookmarkRow::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.setFont(textFont(11, QFont::Bold));
    p.setPen(theme().accent);
    const QString words = tr("▸ you are here");
    p.drawText(QRect(8, 0, width(), height()), Qt::AlignVCenter, words);
    const int x = 16 + p.fontMetrics().horizontalAdvance(words);
    p.setPen(QPen(theme().accent, 1.6));
    p.drawLine(x, height() / 2, width() - 10, height() / 2);
}

void BookmarkRow::mouseMoveEvent(QMouseEvent* e) {
    if (e->buttons() & Qt::LeftButton) Q_EMIT dragged(e->globalPosition().toPoint(), false);
}

void BookmarkRow::mouseReleaseEvent(QMouseEvent* e) {
    Q_EMIT dragged(e->globalPosition().toPoint(), true);
}

} // namespace gc::app

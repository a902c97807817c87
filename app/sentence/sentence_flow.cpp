#include "app/sentence/sentence_flow.hpp"

#include "app/look/words.hpp"

#include "app/look/theme.hpp"
#include "core/document/slot_trait.hpp"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <QTextLayout>

#include <algorithm>
#include <cmath>
#include <utility>

namespace gc::app {

namespace {

constexpr int kCross = 16; // pixels, behind each of several

bool isNumber(const SlotWords& slot) {
    return traitOf(slot.type).holds == SlotTrait::Holds::Number;
}

} // namespace

SentenceFlow::SentenceFlow(Size size, QWidget* parent) : QWidget(parent), m_size(size) {
    setMouseTracking(true);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    policy.setHeightForWidth(true);
    setSizePolicy(policy);
}

const SlotWords* SentenceFlow::slotWords(const QString& slot) const {
    const StepWords* words = findWords(m_step.kind);
    return words ? words->slot(slot.toStdString()) : nullptr;
}

QString SentenceFlow::rawText(const QString& slot) const {
    return QString::fromStdString(m_step.text(slot.toStdString()));
}

void SentenceFlow::setSentence(const Step& step, std::shared_ptr<const Part> part, const Values& values) {
    m_step = step;
    m_part = std::move(part);
    const auto before = std::exchange(m_words, {});
    for (const SentenceWord& w :
         sentenceOf(step, *m_part, values, m_size == Size::Bar ? SaidIn::OpenSentence : SaidIn::Sheet)) {
        // Words of core are put into the person's language; what the person typed and named is not.
        const SlotWords* slot = w.slot.empty() ? nullptr : slotWords(QString::fromStdString(w.slot));
        const bool ours = !slot || !slot->choices.empty();
        const QString text = ours ? inWords(w.text) : QString::fromStdString(w.text);
        if (w.slot.empty()) { // plain words wrap one by one
            for (const QString& piece : text.split(QLatin1Char(' '), Qt::SkipEmptyParts)) {
                const bool joins = piece.startsWith(QLatin1Char(',')) || piece.startsWith(QLatin1Char('.'));
                if (joins && piece.size() == 1)
                    m_words.push_back({piece, {}, {}, {}, true});
                else
                    m_words.push_back({piece, {}, {}, {}, joins});
            }
        } else if (m_size == Size::Bar && !w.items.empty()) {
            for (std::size_t i = 0; i < w.items.size(); ++i)
                m_words.push_back({QString::fromStdString(w.items[i]),
                                   QString::fromStdString(w.slot),
                                   {},
                                   {},
                                   false,
                                   static_cast<int>(i)});
        } else
            m_words.push_back(
                {text, QString::fromStdString(w.slot), QString::fromStdString(w.expression), {}, false});
    }
    const bool same = std::equal(before.begin(), before.end(), m_words.begin(), m_words.end(),
                                 [](const Word& a, const Word& b) { return a.says(b); });
    if (same) {
        m_words = before; // where its words stand is known
        return;
    }
    m_knownWidth = -1;
    relayOut();
}

QFont SentenceFlow::fontOf(const Word& w) const {
    const int px = m_size == Size::Sheet ? 13 : 16;
    const SlotWords* s = w.slot.isEmpty() ? nullptr : slotWords(w.slot);
    const bool number = s && (isNumber(*s) || traitOf(s->type).filled == SlotTrait::Filled::OnPage);
    return textFont(px, number ? QFont::Bold : QFont::Medium);
}

/// Of a word that takes several lines: each as far as it is filled, from the top left of the first.
QList<QRectF> SentenceFlow::linesOf(const Word& w, double width) const {
    QTextLayout text(w.text, fontOf(w));
    QList<QRectF> out;
    text.beginLayout();
    double y = 0;
    for (QTextLine line = text.createLine(); line.isValid(); line = text.createLine()) {
        line.setLineWidth(width);
        line.setPosition({0, y});
        y += line.height();
        out << line.naturalTextRect();
    }
    text.endLayout();
    return out;
}

int SentenceFlow::layOut(int width, std::vector<Word>& words) const {
    const bool bar = m_size == Size::Bar;
    const int line = bar ? 36 : 22, pad = bar ? 10 : 1, gap = bar ? 8 : 4;
    int x = 0, y = 0;
    const auto isSign = [](const Word& w) { return w.joinsLeft && w.text.size() == 1; };
    for (std::size_t i = 0; i < words.size(); ++i) {
        Word& w = words[i];
        const QFontMetrics metrics(fontOf(w));
        const int inner = w.slot.isEmpty() ? 0 : pad;
        const int most = std::max(40, width - 2);
        int wide = metrics.horizontalAdvance(w.text) + 2 * inner + (w.item >= 0 ? kCross : 0);
        int high = line, end = wide; // where what comes next begins
        if (wide > most) {           // a long list of references takes several lines of its own
            const int room = most - 2 * inner + 2 - (w.item >= 0 ? kCross : 0);
            const QRect wrapped = metrics.boundingRect(QRect(0, 0, room, 1000), Qt::TextWordWrap, w.text);
            wide = end = most;
            if (!bar) end = static_cast<int>(linesOf(w, most - 2 * inner + 2).last().width()) + 2 * inner;
            high = std::max(line, wrapped.height() + (bar && inner > 0 ? 14 : 4));
        }
        const int before = x == 0 ? 0 : w.joinsLeft ? (bar && w.text.size() == 1 ? 2 : 0) : gap;
        // A comma never begins a line: the word before it takes it along.
        const bool taken = i + 1 < words.size() && isSign(words[i + 1]);
        const int with = taken ? QFontMetrics(fontOf(words[i + 1])).horizontalAdvance(words[i + 1].text) : 0;
        if (x > 0 && x + before + wide + with > width && !isSign(w)) {
            x = 0;
            y += line;
        }
        const int at = x == 0 ? 0 : x + before;
        w.rect = QRect(at, y, wide, high);
        x = at + end;
        if (high > line) y += high - line;
    }
    return y + line;
}

void SentenceFlow::relayOut() {
    layOut(std::max(60, width()), m_words);
    updateGeometry();
    update();
}

int SentenceFlow::heightForWidth(int width) const {
    if (width == m_knownWidth) return m_knownHeight;
    auto words = m_words;
    m_knownWidth = width;
    return m_knownHeight = layOut(std::max(60, width), words);
}

QSize SentenceFlow::sizeHint() const {
    return {200, heightForWidth(std::max(60, width()))};
}

void SentenceFlow::resizeEvent(QResizeEvent*) {
    relayOut();
}

QRect SentenceFlow::crossOf(const Word& w) {
    return {w.rect.right() - kCross - 4, w.rect.top(), kCross + 4, w.rect.height()};
}

QRect SentenceFlow::crossRect(const QString& slot, int item) const {
    for (const Word& w : m_words)
        if (w.slot == slot && w.item == item) return crossOf(w);
    return {};
}

QRect SentenceFlow::slotRect(const QString& slot) const {
    for (const Word& w : m_words)
        if (w.slot == slot) return w.rect;
    return {};
}

void SentenceFlow::setActiveSlot(const QString& slot) {
    m_active = slot;
    update();
}

void SentenceFlow::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const Theme& t = theme();
    for (std::size_t i = 0; i < m_words.size(); ++i) {
        const Word& w = m_words[i];
        p.setFont(fontOf(w));
        const bool slot = !w.slot.isEmpty(), active = slot && w.slot == m_active,
                   hover = slot && m_hover == static_cast<int>(i);
        if (slot && m_size == Size::Bar) {
            p.setPen(QPen(active ? t.accent : hover ? t.halo : t.line, active ? 1.6 : 1.2));
            p.setBrush(active ? t.accentSoft : t.card);
            p.drawRoundedRect(QRectF(w.rect).adjusted(0.8, 2.8, -0.8, -2.8), 7, 7);
        } else if (slot) {
            if (hover || active) {
                p.setPen(Qt::NoPen);
                p.setBrush(t.accentSoft);
                p.drawRoundedRect(QRectF(w.rect).adjusted(-2, 1, 2, -1), 4, 4);
            }
            QPen under(active ? t.accent : t.inkSoft, 1);
            under.setStyle(w.expression.isEmpty() ? Qt::DotLine : Qt::SolidLine);
            p.setPen(under);
            const bool several = w.rect.height() > 22;
            const auto lines =
                several ? linesOf(w, w.rect.width()) : QList<QRectF>{QRectF(0, 0, w.rect.width() - 2, 1)};
            const double down = w.rect.bottom() - 2.0;
            for (qsizetype k = 0; k < lines.size(); ++k) {
                const double y = down - (lines.last().bottom() - lines[k].bottom());
                p.drawLine(QPointF(w.rect.left() + 1, y), QPointF(w.rect.left() + 1 + lines[k].width(), y));
            }
        }
        p.setPen(m_faded ? t.inkSoft : active ? t.accent : t.ink);
        const int inner = !slot ? 0 : m_size == Size::Bar ? 10 : 1;
        p.drawText(w.rect.adjusted(inner, 0, -inner + 2 - (w.item >= 0 ? kCross : 0), -1),
                   Qt::AlignVCenter | Qt::AlignLeft | Qt::TextWordWrap, w.text);
        if (w.item >= 0) { // lets go of just this one
            const QPointF c = QRectF(crossOf(w)).center();
            p.setPen(QPen(hover ? t.ink : t.inkSoft, 1.6, Qt::SolidLine, Qt::RoundCap));
            p.drawLine(c - QPointF(3.5, 3.5), c + QPointF(3.5, 3.5));
            p.drawLine(c - QPointF(3.5, -3.5), c + QPointF(3.5, -3.5));
        }
    }
}

int SentenceFlow::wordAt(QPoint p) const {
    for (std::size_t i = m_words.size();
         i-- > 0;) // what begins beside the last line of another is before that
        if (!m_words[i].slot.isEmpty() && m_words[i].rect.adjusted(-2, 0, 2, 0).contains(p))
            return static_cast<int>(i);
    return -1;
}

void SentenceFlow::leaveEvent(QEvent*) {
    m_hover = -1;
    update();
}

void SentenceFlow::mousePressEvent(QMouseEvent* e) {
    m_press = e->button() == Qt::LeftButton ? wordAt(e->pos()) : -1;
    m_pressAt = e->pos();
    m_scrubbing = false;
    if (m_press < 0) {
        e->ignore(); // the row takes it: choose, drag
        Q_EMIT pressedElsewhere();
    }
}

namespace {

/// What a slot is, and what it usually is.
QString labelOf(const SlotWords& s) {
    const QString label = inWords(s.label);
    return s.usual.empty() ? label : label + QStringLiteral(": ") + inWords(s.usual);
}

} // namespace

void SentenceFlow::mouseMoveEvent(QMouseEvent* e) {
    if (m_press < 0) {
        const int now = wordAt(e->pos());
        if (now != m_hover) {
            m_hover = now;
            const SlotWords* s = now >= 0 ? slotWords(m_words[static_cast<std::size_t>(now)].slot) : nullptr;
            setCursor(!s ? Qt::ArrowCursor : isNumber(*s) ? Qt::SizeHorCursor : Qt::PointingHandCursor);
            if (s)
                setToolTip(now >= 0 && !m_words[static_cast<std::size_t>(now)].expression.isEmpty()
                               ? QStringLiteral("= ") + m_words[static_cast<std::size_t>(now)].expression
                               : labelOf(*s));
            update();
        }
        e->ignore();
        return;
    }
    const Word& w = m_words[static_cast<std::size_t>(m_press)];
    const SlotWords* s = slotWords(w.slot);
    if (!s || !isNumber(*s)) return;
    const int moved = e->pos().x() - m_pressAt.x();
    if (!m_scrubbing && std::abs(moved) < 5) return;
    if (!m_scrubbing) m_scrubStart = w.expression.isEmpty() ? rawText(w.slot) : w.text;
    m_scrubbing = true;
    scrub(moved, false);
}

void SentenceFlow::scrub(int pixels, bool done) {
    const Word& w = m_words[static_cast<std::size_t>(m_press)];
    const SlotWords* s = slotWords(w.slot);
    QString start = m_scrubStart;
    const QString prefix = QString::fromStdString(s->prefix);
    if (!prefix.isEmpty() && start.startsWith(prefix)) start = start.mid(prefix.size());
    const bool count = traitOf(s->type).whole;
    const Dimension d = count ? kNumber : s->dimension;
    const UnitSystem& units = m_part->brief.units;
    const auto value = evaluate(start.toStdString(), d, units);
    if (!value) return;
    const std::string symbol = units.symbolFor(d);
    const double unit = units.factorFor(d), shown = value->value / unit;
    // A pixel is a five-hundredth of a large size, and never less than what people read.
    const double grain = count ? 1 : std::fabs(shown) >= 100 ? 0.5 : std::fabs(shown) >= 20 ? 0.1 : 0.05;
    double now = shown + std::round(pixels / (count ? 12.0 : 3.0)) * grain;
    const double least = s->least / unit;
    if (now <= least) now = s->leastAllowed || count ? least : grain;
    now = std::min(now, s->most / unit);
    const QString text = count ? QString::number(static_cast<int>(now))
                               : QString::fromStdString(formatAmount(now * unit, symbol, 2));
    Q_EMIT scrubbed(w.slot, text, done);
}

void SentenceFlow::mouseReleaseEvent(QMouseEvent* e) {
    const int press = m_press;
    if (press < 0) {
        e->ignore();
        return;
    }
    if (m_scrubbing) {
        scrub(e->pos().x() - m_pressAt.x(), true);
        m_press = -1;
        m_scrubbing = false;
        return;
    }
    m_press = -1;
    if (wordAt(e->pos()) != press) return;
    const Word w = m_words[static_cast<std::size_t>(press)];
    if (w.item >= 0 && crossOf(w).contains(e->pos())) {
        Q_EMIT letGo(w.slot, w.item);
        return;
    }
    const SlotWords* s = slotWords(w.slot);
    if (!s) return;
    switch (traitOf(s->type).filled) {
    case SlotTrait::Filled::OnPage:
        Q_EMIT tableAsked(w.slot);
        break;
    case SlotTrait::Filled::Picked:
        Q_EMIT pickAsked(w.slot);
        break;
    case SlotTrait::Filled::FromList:
        openMenu(w);
        break;
    case SlotTrait::Filled::Typed:
        edit(w.slot);
        break;
    }
}

void SentenceFlow::edit(const QString& slot) {
    closeEditor(false);
    const QRect r = slotRect(slot);
    if (r.isNull()) return;
    m_editing = slot;
    m_editor = new QLineEdit(this);
    m_editor->setObjectName(QStringLiteral("slotEditor"));
    m_editor->setFont(textFont(m_size == Size::Sheet ? 13 : 16, QFont::DemiBold));
    m_editor->setText(rawText(slot));
    m_editor->installEventFilter(this);
    m_editor->setGeometry(r.left() - 8, r.top() - 3, r.width() + 34, r.height() + 6);
    growEditor();
    connect(m_editor, &QLineEdit::textEdited, this, &SentenceFlow::growEditor);
    if (m_editor->geometry().bottom() > height())
        m_editor->move(m_editor->x(), std::max(0, height() - m_editor->height()));
    m_editor->show();
    m_editor->setFocus(Qt::MouseFocusReason);
    m_editor->selectAll();
    setActiveSlot(slot);
}

/// As long as what stands in it, as far as there is room.
void SentenceFlow::growEditor() {
    constexpr int kLeast = 118;
    const int text = m_editor->fontMetrics().horizontalAdvance(m_editor->text()) + 34;
    const int wide = std::min(std::max({m_editor->width(), text, kLeast}), width());
    m_editor->setGeometry(std::max(0, std::min(m_editor->x(), width() - wide)), m_editor->y(), wide,
                          m_editor->height());
}

void SentenceFlow::closeEditor(bool keep) {
    if (!m_editor) return;
    QLineEdit* editor = m_editor;
    m_editor = nullptr;
    const QString text = editor->text().trimmed(), slot = m_editing;
    editor->removeEventFilter(this);
    const bool hadFocus = editor->hasFocus();
    editor->hide();
    if (hadFocus && parentWidget()) parentWidget()->setFocus(); // keys go to the row, and on to the window
    editor->deleteLater();
    m_editing.clear();
    setActiveSlot({});
    if (keep && text != rawText(slot)) Q_EMIT typed(slot, text);
}

bool SentenceFlow::eventFilter(QObject* o, QEvent* e) {
    if (o != m_editor) return QWidget::eventFilter(o, e);
    if (e->type() == QEvent::MouseButtonDblClick) { // of a figure all is meant, not a word of it
        m_editor->selectAll();
        return true;
    }
    if (e->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(e)->key();
        if (key == Qt::Key_Return || key == Qt::Key_Enter) {
            closeEditor(true);
            return true;
        }
        if (key == Qt::Key_Escape) {
            closeEditor(false);
            return true;
        }
        if (key == Qt::Key_Tab) { // on to the next number
            const QString from = m_editing;
            closeEditor(true);
            bool after = false;
            for (const Word& w : m_words) {
                const SlotWords* s = w.slot.isEmpty() ? nullptr : slotWords(w.slot);
                if (after && s && (isNumber(*s))) {
                    edit(w.slot);
                    break;
                }
                after = after || w.slot == from;
            }
            return true;
        }
    }
    if (e->type() == QEvent::FocusOut) closeEditor(true);
    return QWidget::eventFilter(o, e);
}

} // namespace gc::app

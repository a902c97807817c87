#include "app/sheet/sheet.hpp"

#include "app/link/forge_link.hpp"
#include "app/look/theme.hpp"
#include "app/look/words.hpp"
#include "app/sentence/take_file.hpp"
#include "core/document/answer.hpp"
#include "core/document/slot_trait.hpp"

#include <QPainter>
#include <QScrollArea>
#include <QScrollBar>
#include <QTimer>

#include <algorithm>
#include <utility>

namespace gc::app {

namespace {
constexpr int kRowsAtOnce = 30; ///< as many as a tall window shows; some ten milliseconds

/// Rows stacked by their height for the width; the sheet places them itself so that it can drag them.
class RowList : public QWidget {
  public:
    std::function<void()> place;

  protected:
    void resizeEvent(QResizeEvent*) override {
        if (place) place();
    }
};
} // namespace

Sheet::Sheet(Session* session, ForgeLink* forge, QWidget* parent)
    : QWidget(parent), m_session(session), m_forge(forge) {
    m_scroll = new QScrollArea(this);
    m_scroll->setWidgetResizable(true);
    m_scroll->setFrameShape(QFrame::NoFrame);
    m_scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    auto* list = new RowList;
    list->place = [this] { place(); };
    m_list = list;
    m_scroll->setWidget(list);
    m_bookmark = new BookmarkRow(m_list);
    m_gap = new QWidget(m_list);
    m_gap->hide();
    connect(m_bookmark, &BookmarkRow::dragged, this, &Sheet::dropBookmark);
    connect(session, &Session::partChanged, this, &Sheet::rebuild);
    connect(forge, &ForgeLink::stepsChanged, this, &Sheet::refresh);
    connect(forge, &ForgeLink::outlinesChanged, this, &Sheet::refresh);
    connect(forge, &ForgeLink::finished, this, [this] {
        refresh();
        tellOfTrial();
        update();
    });
}

StepRow* Sheet::row(int id) const {
    const auto it = std::find_if(m_rows.begin(), m_rows.end(), [id](StepRow* r) { return r->id() == id; });
    return it == m_rows.end() ? nullptr : *it;
}

void Sheet::rebuild() {
    const Part& part = m_session->part();
    std::vector<StepRow*> rows;
    int fresh = 0;
    for (const Step& step : part.steps) {
        StepRow* r = row(step.id);
        if (!r) {
            if (++fresh >
                kRowsAtOnce) { // hundreds of rows at once would be felt: the rest comes at once after
                QTimer::singleShot(0, this, &Sheet::rebuild);
                break;
            }
            r = new StepRow(step.id, m_list);
            const int id = step.id;
            connect(r, &StepRow::chosen, this, &Sheet::choose);
            connect(r, &StepRow::dragged, this, &Sheet::dropStep);
            connect(r, &StepRow::pointedAt, this, &Sheet::stepPointedAt);
            connect(r, &StepRow::offAsked, this, [this](int which) {
                Part p = m_session->part();
                Step* s = p.findStep(which);
                s->off = !s->off;
                m_session->commit(p, s->off ? tr("step %1 off").arg(p.placeOf(which))
                                            : tr("step %1 on").arg(p.placeOf(which)));
            });
            connect(r, &StepRow::deleteAsked, this, [this](int which) {
                Part p = m_session->part();
                const int place = p.placeOf(which);
                std::erase_if(p.steps, [&](const Step& s) { return s.id == which; });
                if (p.bookmark >= place) --p.bookmark;
                m_session->commit(p, tr("step %1 deleted").arg(place));
                Q_EMIT message(tr("Step %1 is deleted. Ctrl+Z brings it back.").arg(place));
            });
            connect(r, &StepRow::remedyAsked, this, [this](const RemedyView& remedy) { take(remedy); });
            connect(r, &StepRow::whichAsked, this, &Sheet::whichAsked);
            connect(r, &StepRow::answered, this, &Sheet::answer);
            connect(r->sentence(), &SentenceFlow::typed, this,
                    [this, id](const QString& slot, const QString& text) { typed(id, slot, text); });
            connect(r->sentence(), &SentenceFlow::chosen, this,
                    [this, id](const QString& slot, const QString& text) { setSlot(id, slot, text); });
            connect(r->sentence(), &SentenceFlow::scrubbed, this,
                    [this, id](const QString& slot, const QString& text, bool done) {
                        scrubbed(id, slot, text, done);
                    });
            connect(r->sentence(), &SentenceFlow::tableAsked, this,
                    [this, id](const QString&) { Q_EMIT tableAsked(id); });
            connect(r->sentence(), &SentenceFlow::fileAsked, this,
                    [this, id](const QString& slot) { replaceFile(id, slot); });
            connect(r->sentence(), &SentenceFlow::pickAsked, this,
                    [this, id](const QString& slot) { Q_EMIT pickAsked(id, slot); });
            r->QWidget::show();
        }
        rows.push_back(r);
    }
    for (StepRow* r : m_rows)
        if (std::find(rows.begin(), rows.end(), r) == rows.end()) {
            r->hide();
            r->deleteLater();
        }
    m_rows = std::move(rows);
    if (!part.findStep(m_chosen)) m_chosen = 0;
    refresh();
}

void Sheet::refresh() {
    const auto shared = std::make_shared<const Part>(m_session->part());
    const Part& part = *shared;
    const Values values = valuesOf(part);
    const std::uint64_t spoken = spokenOf(part);
    const int shown = part.shownSteps();
    for (std::size_t i = 0; i < m_rows.size() && i < part.steps.size(); ++i) {
        const Step* step = &part.steps[i]; // rows stand in the order of the steps
        const auto view = m_forge->steps().find(step->id);
        const auto outline = m_forge->outlines().find(step->id);
        const bool hasOutline = filledIn(*step) == FilledIn::Stations && outline != m_forge->outlines().end();
        m_rows[i]->show(*step, {shared, values, spoken, static_cast<int>(i) + 1},
                        view == m_forge->steps().end() ? StepView() : view->second,
                        hasOutline ? &outline->second : nullptr, static_cast<int>(i) >= shown);
        m_rows[i]->setChosen(m_rows[i]->id() == m_chosen);
    }
    place();
    update();
}

void Sheet::place() {
    m_scroll->setGeometry(1, 44, width() - 1, height() - 44);
    const int w = m_scroll->viewport()->width();
    const int shown = m_session->part().shownSteps();
    int y = 0;
    for (std::size_t i = 0; i <= m_rows.size(); ++i) {
        if (static_cast<int>(i) == shown) {
            m_bookmark->setGeometry(0, y + 2, w, 22);
            y += 26;
        }
        if (i == m_rows.size()) break;
        const int h = m_rows[i]->heightForWidth(w - 8);
        m_rows[i]->setGeometry(4, y, w - 8, h);
        y += h;
    }
    m_list->setMinimumHeight(y + 8);
    m_bookmark->show();
}

void Sheet::resizeEvent(QResizeEvent*) {
    place();
}

void Sheet::choose(int id) {
    m_chosen = id;
    for (StepRow* r : m_rows) r->setChosen(r->id() == id);
    // All of it, with what is wrong beneath its sentence.
    if (StepRow* r = row(id)) m_scroll->ensureWidgetVisible(r, 0, 8);
    Q_EMIT stepChosen(id);
}

void Sheet::answer(int step, const QString& about, const QString& answer) {
    Part p = m_session->part();
    Step* s = p.findStep(step);
    if (!s || !sayOtherwise(*s, about.toStdString(), answer.toStdString())) return;
    m_session->commit(p, tr("step %1: %2 is meant")
                             .arg(p.placeOf(step))
                             .arg(QString::fromStdString(referenceInWords(answer.toStdString(), p))));
}

/// What is done to a drawing is a text for programs: its sentence says it to people.
void Sheet::take(const RemedyView& remedy) {
    if (remedy.before) {
        Part p = m_session->part();
        putStep(p, remedy.step, *remedy.before);
        m_session->commit(p, tr("step %1 put elsewhere").arg(p.placeOf(remedy.step)));
        return;
    }
    const Step* s = m_session->part().findStep(remedy.step);
    setSlot(remedy.step, remedy.slot, remedy.value, s && drawingOf(*s) ? remedy.sentence : QString());
}

/// \param said what is done, in words; empty: the slot and its text are
void Sheet::setSlot(int step, const QString& slot, const QString& text, const QString& said) {
    Part p = m_session->part();
    const auto value = typeIntoSlot(p, step, slot.toStdString(), text.toStdString());
    m_session->commit(p, said.isEmpty() ? tr("%1 %2").arg(value ? QString::fromStdString(*value) : slot, text)
                                        : said);
    if (value)
        Q_EMIT message(
            tr("%1 is now %2; everything that uses it follows.").arg(QString::fromStdString(*value), text));
}

/// Another file instead of the one that a step reads: what rests on its bodies follows, as far as it finds
/// again what it was given.
void Sheet::replaceFile(int step, const QString& slot) {
    Part p = m_session->part();
    Step* s = p.findStep(step);
    const StepWords* words = findStepWords(s->kind);
    const TakenFile taken = takeFile(window(), *words, *words->slot(slot.toStdString()), p);
    if (!taken.fault.isEmpty()) Q_EMIT message(taken.fault);
    if (taken.name.empty()) return;
    s->slots[slot.toStdString()] = taken.name;
    m_session->commit(p, tr("file %1").arg(QString::fromStdString(taken.name)));
}

void Sheet::typed(int step, const QString& slot, const QString& text) {
    Part p = m_session->part();
    typeIntoSlot(p, step, slot.toStdString(), text.toStdString());
    const Step* s = p.findStep(step);
    const StepWords* words = s ? findStepWords(s->kind) : nullptr;
    const SlotWords* sw = words ? words->slot(slot.toStdString()) : nullptr;
    if (!sw) return;
    if (traitOf(sw->type).holds == SlotTrait::Holds::Number) {
        const auto v = evaluateSlot(*s, slot.toStdString(), p, valuesOf(p));
        if (!v) { // nothing is lost: the old number stays, and the text can be mended
            Q_EMIT message(QStringLiteral("■ ") + inWords(v.error().sentence));
            row(step)->sentence()->edit(slot);
            for (QLineEdit* e : row(step)->sentence()->findChildren<QLineEdit*>(QStringLiteral("slotEditor")))
                if (e->isVisible()) e->setText(text);
            return;
        }
    } else if (sw->names) { // told here why it cannot be; where it is named elsewhere it follows
        Part renamed = m_session->part();
        const std::string why = renameThing(renamed, step, slot.toStdString(), text.toStdString());
        if (!why.empty()) {
            Q_EMIT message(QStringLiteral("■ ") + QString::fromStdString(why));
            return;
        }
    } else if (text.isEmpty()) {
        Q_EMIT message(tr("■ This needs at least one letter."));
        return;
    }
    setSlot(step, slot, text);
}

void Sheet::scrubbed(int step, const QString& slot, const QString& text, bool done) {
    if (done) return setSlot(step, slot, text);
    Part p = m_session->part();
    typeIntoSlot(p, step, slot.toStdString(), text.toStdString());
    if (StepRow* r = row(step)) {
        const Step* s = p.findStep(step);
        r->forgetShown();
        r->sentence()->setSentence(*s, std::make_shared<const Part>(p), valuesOf(p));
    }
    Q_EMIT previewAsked(p);
}

void Sheet::dragSizes(int step, const SlotValues& values, bool done) {
    Part p = m_session->part();
    Step* s = p.findStep(step);
    if (!s) return;
    for (const auto& [slot, value] : values) {
        // A name of a value stays what it is: the value itself changes.
        if (const auto* text = std::get_if<std::string>(&value))
            typeIntoSlot(p, step, slot, *text);
        else
            s->slots[slot] = value;
    }
    if (done) {
        m_session->commit(p, tr("step %1 dragged").arg(p.placeOf(step)));
        return;
    }
    if (StepRow* r = row(step)) {
        r->forgetShown();
        r->sentence()->setSentence(*p.findStep(step), std::make_shared<const Part>(p), valuesOf(p));
    }
    Q_EMIT previewAsked(p);
}

int Sheet::gapAt(const QPoint& global) const {
    const int y = m_list->mapFromGlobal(global).y();
    int gap = 0;
    for (StepRow* r : m_rows)
        if (y > r->geometry().center().y()) ++gap;
    return gap;
}

void Sheet::dropStep(int id, const QPoint& global, bool done) {
    const int gap = gapAt(global), from = m_session->part().placeOf(id) - 1;
    const int y = m_rows.empty()                          ? 0
                  : gap < static_cast<int>(m_rows.size()) ? m_rows[static_cast<std::size_t>(gap)]->y()
                                                          : m_rows.back()->geometry().bottom();
    m_gap->setStyleSheet(QStringLiteral("background:%1;").arg(theme().halo.name()));
    m_gap->setGeometry(10, y - 1, m_list->width() - 20, 3);
    m_gap->setVisible(!done);
    m_gap->raise();
    const int to = gap > from ? gap - 1 : gap;
    if (from < 0) return;
    Part p = m_session->part();
    putStep(p, id, gap < static_cast<int>(p.steps.size()) ? p.steps[static_cast<std::size_t>(gap)].id : 0);
    if (!done) { // built as it would be, so that what breaks is said before it is let go
        if (m_triedPlace < 0) {
            m_failBefore.clear();
            for (const auto& [step, view] : m_forge->steps())
                if (view.known && !view.ok) m_failBefore.insert(step);
            m_triedPlace = from;
        }
        if (to != m_triedPlace) Q_EMIT previewAsked(p);
        m_triedPlace = to;
        return;
    }
    const bool tried = std::exchange(m_triedPlace, -1) >= 0;
    if (to != from)
        m_session->commit(p, tr("step %1 moved to %2").arg(from + 1).arg(to + 1));
    else if (tried)
        m_forge->build(m_session->part());
}

/// What a dragged step breaks where it is now.
void Sheet::tellOfTrial() {
    if (m_triedPlace < 0) return;
    QStringList broken;
    QString why;
    for (const Step& s : m_session->part().steps) {
        const auto view = m_forge->steps().find(s.id);
        if (view == m_forge->steps().end() || view->second.ok || m_failBefore.count(s.id)) continue;
        if (broken.isEmpty()) why = view->second.error;
        broken << QString::number(m_session->part().placeOf(s.id));
    }
    if (broken.isEmpty()) return Q_EMIT message(tr("✓ There it works."));
    Q_EMIT message(
        broken.size() == 1
            ? tr("▲ There step %1 would fail: %2").arg(broken.first(), why)
            : tr("▲ There steps %1 would fail. The first: %2").arg(broken.join(QStringLiteral(", ")), why));
}

void Sheet::dropBookmark(const QPoint& global, bool done) {
    const int gap = gapAt(global);
    m_bookmark->move(m_bookmark->x(),
                     std::clamp(m_list->mapFromGlobal(global).y() - 10, 0, m_list->height() - 20));
    m_bookmark->raise();
    if (!done) return;
    Part p = m_session->part();
    const int wanted = gap >= static_cast<int>(p.steps.size()) ? -1 : gap;
    if (wanted == p.bookmark) return place();
    p.bookmark = wanted;
    m_session->commit(p, wanted < 0 ? tr("bookmark to the end") : tr("bookmark after step %1").arg(gap));
}

void Sheet::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.fillRect(rect(), theme().paper);
    p.setPen(theme().line);
    p.drawLine(0, 0, 0, height());
    p.setFont(textFont(15, QFont::Bold));
    p.setPen(theme().ink);
    p.drawText(QRect(14, 10, 200, 26), Qt::AlignVCenter, tr("Build sheet"));
    double ms = 0;
    for (const auto& [id, s] : m_forge->steps())
        if (m_session->part().findStep(id)) ms += s.cached ? 0 : s.milliseconds;
    p.setFont(textFont(12));
    p.setPen(theme().inkSoft);
    const int n = static_cast<int>(m_session->part().steps.size());
    const QString state = m_forge->busy() ? tr("building …") : tr("%1 s").arg(ms / 1000, 0, 'f', 2);
    p.drawText(QRect(0, 10, width() - 16, 26), Qt::AlignRight | Qt::AlignVCenter,
               (n == 1 ? tr("1 step · %1").arg(state) : tr("%1 steps · %2").arg(n).arg(state)));
}

} // namespace gc::app

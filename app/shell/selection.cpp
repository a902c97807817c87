#include "app/shell/selection.hpp"

#include "app/link/forge_link.hpp"
#include "app/sentence/file_bodies_panel.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/sentence/ways_strip.hpp"
#include "app/sheet/sheet.hpp"
#include "app/shell/session.hpp"
#include "app/stand/stand.hpp"
#include "core/document/areas.hpp"
#include "core/document/body_list.hpp"
#include "core/document/slot_trait.hpp"

#include <algorithm>

namespace gc::app {

Selection::Selection(const Use& use, QObject* parent) : QObject(parent), m_use(use) {
    connect(use.stand, &Stand::picked, this, &Selection::picked);
    connect(use.stand, &Stand::boxed, this, &Selection::boxed);
    connect(use.stand, &Stand::handleDragged, this, &Selection::handleDragged);
    connect(use.stand, &Stand::threadPulled, this, &Selection::threadPulled);
    connect(use.stand, &Stand::handleTyped, this, &Selection::handleTyped);
    connect(use.forge, &ForgeLink::aidsChanged, this, &Selection::takeAids);
    use.stand->areaWords = [this](int step, const QString& area) { return areaWords(step, area); };
    m_ways = new WaysStrip(use.stand);
    m_fileBodies = new FileBodiesPanel(use.stand);
    connect(m_fileBodies, &FileBodiesPanel::taken, this, &Selection::fileBodiesTaken);
    connect(m_ways, &WaysStrip::entered, use.stand, &Stand::clearHover);
    connect(m_ways, &WaysStrip::wayChosen, this, &Selection::sayOtherwise);
    connect(use.bar, &SentenceBar::kept, m_ways, &QWidget::hide);
    connect(use.bar, &SentenceBar::dropped, m_ways, &QWidget::hide);
    connect(use.sheet, &Sheet::pickAsked, this, &Selection::pickFor);
    connect(use.sheet, &Sheet::whichAsked, this, &Selection::askWhich);
    connect(use.sheet, &Sheet::stepChosen, this, &Selection::stepChosen);
    connect(use.sheet, &Sheet::stepPointedAt, this, &Selection::stepPointedAt);
}

void Selection::stepChosen(int id) {
    if (m_step != 0 && id != m_step) end();
    const auto view = m_use.forge->steps().find(id);
    const bool there = view != m_use.forge->steps().end();
    m_use.stand->showPlace(there ? view->second.place : std::nullopt, there && view->second.gone);
    if (!m_use.bar->active()) showHandlesOf(m_use.session->part().findStep(id));
}

/// What the step made lights up in the stand: faces, and the strokes of a drawing.
void Selection::stepPointedAt(int id) {
    if (m_use.bar->active() || active()) return; // the marks say what is picked
    QStringList refs;
    if (id != 0) refs << QStringLiteral("%1 of step %2").arg(QLatin1String(kEverything)).arg(id);
    const auto drawn = m_use.forge->drawings().find(id);
    if (drawn != m_use.forge->drawings().end())
        for (const StrokeView& s : drawn->second.strokes) refs << s.ref;
    const Step* step = m_use.session->part().findStep(id);
    for (const Thing thing : {Thing::Plane, Thing::Axis})
        if (step && !nameGiven(*step, thing).empty()) refs << QString::fromStdString(nameGiven(*step, thing));
    m_use.stand->setChosen(refs);
}

void Selection::showDraft() {
    const auto& draft = m_use.bar->draft();
    m_use.stand->setSeveral(m_use.bar->wantsSeveral());
    offer(m_use.bar->wants());
    m_use.stand->setChosen(draft ? pickedIn(*draft) : QStringList());
    showAreasOf(draft ? &*draft : nullptr);
    showHandlesOf(draft ? &*draft : nullptr);
}

void Selection::showNothing() {
    offer(Picking::Nothing);
    m_use.stand->setChosen({});
    showAreasOf(nullptr);
    showHandlesOf(nullptr);
}

void Selection::pickFor(int step, const QString& slot) {
    const Step* s = m_use.session->part().findStep(step);
    const StepWords* words = s ? findStepWords(s->kind) : nullptr;
    if (!words) return;
    m_step = step;
    m_slot = slot;
    const Picking picking = pickingFor(words->slot(slot.toStdString())->type);
    Q_EMIT standWanted(step);
    m_use.stand->setSeveral(!traitOf(words->slot(slot.toStdString())->type).one);
    offer(picking);
    QStringList refs;
    for (const std::string& r : s->references(slot.toStdString())) refs << QString::fromStdString(r);
    if (picking == Picking::Bodies)
        for (const std::string& name : namesInList(s->text(slot.toStdString())))
            refs << QString::fromStdString(name);
    if (picking == Picking::Planes || picking == Picking::Axes)
        refs << QString::fromStdString(s->text(slot.toStdString()));
    m_use.stand->setChosen(refs);
    showAreasOf(s);
    if (StepRow* row = m_use.sheet->row(step)) row->sentence()->setActiveSlot(slot);
    m_use.sheet->choose(step);
    // What can be picked is what the step was given: show the part as it was before it.
    Part p = m_use.session->part();
    p.bookmark = p.placeOf(step) - 1;
    m_use.forge->build(p, true);
    m_use.bar->say(
        picking == Picking::Edges ? tr("Click edges in the stand; a second click lets go. Enter or Esc ends.")
        : picking == Picking::Planes ? tr("Click a plane or a flat face in the stand. Esc ends.")
        : picking == Picking::Axes   ? tr("Click a straight or round edge, a drawn line, a round face or an "
                                            "axis in the stand. Esc ends.")
        : picking == Picking::Bodies ? tr("Click a body in the stand. Enter or Esc ends.")
        : picking == Picking::Areas
            ? tr("Click inside the areas in the stand; a second click lets go. Enter or Esc ends.")
        : picking == Picking::Curves   ? tr("Click an edge or a drawn curve in the stand. Enter or Esc ends.")
        : picking == Picking::Sections ? tr("Click drawings, faces or points in the stand, in order; a "
                                            "second click lets go. Enter or Esc "
                                            "ends.")
        : picking == Picking::Points
            ? tr("Click a corner, the middle of an edge, or a spot of a face. Enter or Esc ends.")
            : tr("Click faces in the stand; a second click lets go. Enter or Esc ends."));
}

/// Several fit what a step refers to: they are marked in the stand, and a click on one answers.
void Selection::askWhich(int step) {
    const auto view = m_use.forge->steps().find(step);
    if (view == m_use.forge->steps().end() || !view->second.question) return;
    const QuestionView question = *view->second.question;
    const QString sentence = view->second.error;
    end();
    m_step = step;
    m_which = question;
    const bool edges = question.answers.value(0).startsWith(QLatin1String("where "));
    offer(edges ? Picking::Edges : Picking::Faces);
    m_use.stand->setChosen(question.answers);
    m_use.sheet->choose(step);
    Part p = m_use.session->part(); // as it was given to the step
    p.bookmark = p.placeOf(step) - 1;
    m_use.forge->build(p, true);
    m_use.bar->say(tr("%1 Click it in the stand; Esc ends.").arg(sentence));
}

/// \return false when the pick is none of those that were marked
bool Selection::answerWhich(const QStringList& refs) {
    const QuestionView question = *m_which;
    for (const QString& ref : refs) {
        if (!question.answers.contains(ref)) continue;
        const int step = m_step;
        end();
        m_use.sheet->answer(step, question.about, ref);
        return true;
    }
    m_use.bar->say(tr("That is none of those that are marked. Click one of them, or Esc."));
    return false;
}

void Selection::measure() {
    end();
    m_measuring = true;
    m_use.stand->setSeveral(false);
    offer(Picking::Anything);
}

void Selection::end() {
    if (m_measuring) {
        m_measuring = false;
        offer(Picking::Nothing);
        Q_EMIT measuringEnded();
        return;
    }
    if (m_step == 0) return;
    m_which.reset();
    if (StepRow* row = m_use.sheet->row(m_step)) row->sentence()->setActiveSlot({});
    m_step = 0;
    m_ways->hide();
    offer(Picking::Nothing);
    m_use.stand->setChosen({});
    m_use.forge->build(m_use.session->part());
}

void Selection::offer(Picking picking) {
    m_use.stand->setPicking(picking);
    look();
}

/// Everything that was picked for a step: references, and the planes it leans on.
QStringList Selection::pickedIn(const Step& step) {
    QStringList out;
    const StepWords* words = findWords(step.kind);
    for (const SlotWords& s : words->slots) {
        for (const std::string& r : step.references(s.key)) out << QString::fromStdString(r);
        if (!traitOf(s.type).isPickedText() || !isShown(step, s.key)) continue;
        if (s.type == SlotType::BodiesRef)
            for (const std::string& name : namesInList(step.text(s.key))) out << QString::fromStdString(name);
        else if (s.type != SlotType::AreaRef)
            out << QString::fromStdString(step.text(s.key));
    }
    return out;
}

void Selection::picked(const Pick& pick) {
    const QStringList& refs = pick.refs;
    if (m_measuring) {
        Q_EMIT measured(pick);
        return;
    }
    if (m_use.bar->active()) {
        const auto before = m_use.bar->draft();
        m_use.bar->fill(pick);
        if (m_use.bar->draft() == before) return;
        const References now = m_use.bar->references();
        const bool taken = std::find(now.begin(), now.end(), refs.first().toStdString()) != now.end();
        m_ways->offer(taken ? refs : QStringList(), m_use.stand->inWords);
        return;
    }
    if (m_step == 0) return;
    if (m_which) {
        answerWhich(refs);
        return;
    }
    Part p = m_use.session->part();
    Step* s = p.findStep(m_step);
    References now = s->references(m_slot.toStdString());
    const std::string ref = refs.first().toStdString();
    const SlotWords* words = findStepWords(s->kind)->slot(m_slot.toStdString());
    if (words->type == SlotType::AreaRef || words->type == SlotType::BodiesRef) {
        const std::string was = s->text(words->key);
        s->slots[words->key] = words->type == SlotType::AreaRef ? withArea(was, ref) : withName(was, ref);
        const int step = m_step;
        const QString slot = m_slot;
        m_use.session->commit(p, tr("%1 picked").arg(QString::fromStdString(words->label)));
        return pickFor(step, slot);
    }
    if (traitOf(words->type).isPickedText()) {
        s->slots[m_slot.toStdString()] = ref;
        const int step = m_step;
        end();
        m_use.session->commit(p, tr("%1 picked").arg(QString::fromStdString(words->label)));
        Q_EMIT planeTaken(step);
        return;
    }
    togglePick(now, ref, words->type);
    if (const std::string spot = spotSlot(*s);
        words->type == SlotType::Face && !pick.spot.isEmpty() && !spot.empty())
        s->slots[spot] = References{pick.spot.toStdString()};
    s->slots[m_slot.toStdString()] = now;
    const bool taken = std::find(now.begin(), now.end(), ref) != now.end();
    const int step = m_step;
    const QString slot = m_slot;
    m_use.session->commit(p, tr("%1 picked").arg(QString::fromStdString(words->label)));
    pickFor(step, slot);
    m_ways->offer(taken ? refs : QStringList(), m_use.stand->inWords);
}

/// The same pick in other words: a rule instead of the item, or the other way about.
void Selection::sayOtherwise(const QString& was, const QString& now) {
    if (m_use.bar->active()) return m_use.bar->sayOtherwise(was, now);
    if (m_step == 0) return;
    Part p = m_use.session->part();
    Step* s = p.findStep(m_step);
    References refs = s->references(m_slot.toStdString());
    std::replace(refs.begin(), refs.end(), was.toStdString(), now.toStdString());
    s->slots[m_slot.toStdString()] = refs;
    const int step = m_step;
    const QString slot = m_slot;
    m_use.session->commit(p, tr("said otherwise"));
    pickFor(step, slot);
}

} // namespace gc::app

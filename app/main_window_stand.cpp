// What the window does with the stand: its buttons, and picking faces and edges on it.

#include "app/bodies_strip.hpp"
#include "app/main_window.hpp"

#include "app/theme.hpp"
#include "app/ways_strip.hpp"

#include <algorithm>

namespace gc::app {

void MainWindow::makeStandButtons() {
    auto make = [&](const QString& text, const QString& tip, bool checkable) {
        auto* b = new QPushButton(text, m_stand);
        b->setFont(textFont(12, QFont::DemiBold));
        b->setToolTip(tip);
        b->setCheckable(checkable);
        b->setFocusPolicy(Qt::NoFocus);
        b->setCursor(Qt::PointingHandCursor);
        return b;
    };
    m_cut = make(tr("Cut-away"), tr("Cut the part open; drag the cut"), true);
    m_ray = make(tr("Wall, ray"), tr("Wall straight through, as a colour map"), true);
    m_ball = make(tr("Wall, ball"), tr("Wall as the largest ball that fits"), true);
    m_lean = make(tr("Lean"), tr("How far walls lean from the pull"), true);
    m_standButtons = {m_cut, m_ray, m_ball, m_lean};
    connect(m_cut, &QPushButton::toggled, m_stand, &Stand::setCut);
    for (const auto& [button, overlay] :
         {std::pair{m_ray, Overlay::WallRay}, {m_ball, Overlay::WallBall}, {m_lean, Overlay::Lean}}) {
        const Overlay o = overlay;
        connect(button, &QPushButton::clicked, this, [this, o](bool on) {
            m_gauges->setActive(-1);
            m_stand->setOverlay(on ? o : Overlay::None);
        });
    }
    connect(m_stand, &Stand::overlayChanged, this, [this] {
        m_ray->setChecked(m_stand->overlay() == Overlay::WallRay);
        m_ball->setChecked(m_stand->overlay() == Overlay::WallBall);
        m_lean->setChecked(m_stand->overlay() == Overlay::Lean);
    });
    const QString sights[] = {tr("Front"), tr("Back"),  tr("Left"),  tr("Right"),
                              tr("Above"), tr("Below"), tr("Corner")};
    for (int i = 0; i < 7; ++i) {
        auto* b = make(QStringLiteral("%1 %2").arg(sights[i]).arg(i + 1),
                       tr("Look from here: key %1").arg(i + 1), false);
        b->setFont(textFont(12));
        b->setObjectName(QStringLiteral("sight"));
        connect(b, &QPushButton::clicked, this, [this, i] { m_stand->lookFrom(i + 1); });
        m_sights << b;
    }
}

void MainWindow::placeStandButtons() {
    int x = 14, y = 14;
    for (QPushButton* b : m_standButtons) {
        b->adjustSize();
        if (x > 14 && x + b->width() + 8 > m_stand->width()) { // a second line where the stand is narrow
            x = 14;
            y += b->height() + 6;
        }
        b->move(x, y);
        x += b->width() + 6;
    }
    if (m_bodies)
        m_bodies->move(m_stand->width() - m_bodies->width() - 12, m_stand->width() < 640 ? y + 44 : 14);
    const bool listed = m_bodies && m_bodies->isVisibleTo(m_stand);
    m_stand->setOverlayTop((m_stand->width() < 640 ? y + 40 : 14) + (listed ? m_bodies->height() + 10 : 0));
    int total = 0;
    for (QPushButton* b : m_sights) {
        b->adjustSize();
        b->resize(b->fontMetrics().horizontalAdvance(b->text()) + 14, 24);
        total += b->width();
    }
    const bool room = total + 230 < m_stand->width();
    x = m_stand->width() - total - 12;
    for (QPushButton* b : m_sights) {
        b->setVisible(room);
        b->move(x, m_stand->height() - 34);
        x += b->width();
    }
}

void MainWindow::connectPicking() {
    connect(m_stand, &Stand::picked, this, &MainWindow::picked);
    connect(m_stand, &Stand::planeDragged, this, &MainWindow::planeDragged);
    m_bodies = new BodiesStrip(m_session, m_stand);
    connect(m_bodies, &BodiesStrip::message, m_bar, &SentenceBar::say);
    connect(m_bodies, &BodiesStrip::placed, this, &MainWindow::placeStandButtons);
    m_ways = new WaysStrip(m_stand);
    connect(m_ways, &WaysStrip::entered, m_stand, &Stand::clearHover);
    connect(m_ways, &WaysStrip::wayChosen, this, &MainWindow::sayOtherwise);
    connect(m_bar, &SentenceBar::kept, m_ways, &QWidget::hide);
    connect(m_bar, &SentenceBar::dropped, m_ways, &QWidget::hide);
    connect(m_sheet, &Sheet::pickAsked, this, &MainWindow::pickForStep);
    connect(m_sheet, &Sheet::whichAsked, this, &MainWindow::askWhich);
    connect(m_sheet, &Sheet::stepChosen, this, [this](int id) {
        if (m_pickStep != 0 && id != m_pickStep) endPicking();
        const auto view = m_forge->steps().find(id);
        m_stand->showLost(view == m_forge->steps().end() ? std::nullopt : view->second.place);
        if (!m_bar->active()) showHandleOf(m_session->part().findStep(id));
    });
}

void MainWindow::pickForStep(int step, const QString& slot) {
    const Step* s = m_session->part().findStep(step);
    const StepWords* words = s ? findStepWords(s->kind) : nullptr;
    if (!words) return;
    m_pickStep = step;
    m_pickSlot = slot;
    const Picking picking = pickingFor(words->slot(slot.toStdString())->type);
    if (m_stages->stage() == QLatin1String("Outline") && filledIn(*s) == FilledIn::DrawingTable)
        setStage(QStringLiteral("Form"));
    standPicks(picking);
    QStringList refs;
    for (const std::string& r : s->references(slot.toStdString())) refs << QString::fromStdString(r);
    if (picking == Picking::Planes) refs << QString::fromStdString(s->text(slot.toStdString()));
    m_stand->setChosen(refs);
    if (StepRow* row = m_sheet->row(step)) row->sentence()->setActiveSlot(slot);
    m_sheet->choose(step);
    // What can be picked is what the step was given: show the part as it was before it.
    Part p = m_session->part();
    p.bookmark = p.placeOf(step) - 1;
    m_forge->build(p, true);
    m_bar->say(
        picking == Picking::Edges ? tr("Click edges in the stand; a second click lets go. Enter or Esc ends.")
        : picking == Picking::Planes ? tr("Click a plane or a flat face in the stand. Esc ends.")
        : picking == Picking::Curves ? tr("Click an edge or a drawn curve in the stand. Enter or Esc ends.")
        : picking == Picking::Points
            ? tr("Click a corner, the middle of an edge, or a spot of a face. Enter or Esc ends.")
            : tr("Click faces in the stand; a second click lets go. Enter or Esc ends."));
}

/// Several fit what a step refers to: they are marked in the stand, and a click on one answers.
void MainWindow::askWhich(int step) {
    const auto view = m_forge->steps().find(step);
    if (view == m_forge->steps().end() || !view->second.question) return;
    const QuestionView question = *view->second.question;
    const QString sentence = view->second.error;
    endPicking();
    m_pickStep = step;
    m_which = question;
    const bool edges = question.answers.value(0).startsWith(QLatin1String("where "));
    standPicks(edges ? Picking::Edges : Picking::Faces);
    m_stand->setChosen(question.answers);
    m_sheet->choose(step);
    Part p = m_session->part(); // as it was given to the step
    p.bookmark = p.placeOf(step) - 1;
    m_forge->build(p, true);
    m_bar->say(tr("%1 Click it in the stand; Esc ends.").arg(sentence));
}

/// \return false when the pick is none of those that were marked
bool MainWindow::answerWhich(const QStringList& refs) {
    const QuestionView question = *m_which;
    for (const QString& ref : refs) {
        if (!question.answers.contains(ref)) continue;
        const int step = m_pickStep;
        endPicking();
        m_sheet->answer(step, question.about, ref);
        return true;
    }
    m_bar->say(tr("That is none of those that are marked. Click one of them, or Esc."));
    return false;
}

void MainWindow::endPicking() {
    if (m_pickStep == 0) return;
    m_which.reset();
    if (StepRow* row = m_sheet->row(m_pickStep)) row->sentence()->setActiveSlot({});
    m_pickStep = 0;
    m_ways->hide();
    standPicks(Picking::Nothing);
    m_stand->setChosen({});
    m_forge->build(m_session->part());
}

void MainWindow::standPicks(Picking picking) {
    m_stand->setPicking(picking);
    const bool drawing = m_pages->currentWidget() == m_table && m_pages->isVisible();
    m_forge->look(picking == Picking::Points, drawing ? m_drawing->step() : 0);
}

/// Everything that was picked for a step: references, and the planes it leans on.
QStringList MainWindow::pickedIn(const Step& step) {
    QStringList out;
    const StepWords* words = findWords(step.kind);
    for (const SlotWords& s : words->slots) {
        for (const std::string& r : step.references(s.key)) out << QString::fromStdString(r);
        if (s.type == SlotType::PlaneRef && isShown(step, s.key))
            out << QString::fromStdString(step.text(s.key));
    }
    return out;
}

/// A plane that lies away from another can be dragged.
void MainWindow::showHandleOf(const Step* step) {
    const bool drags = step && !draggedSlot(*step).empty();
    m_stand->setPlaneHandle(drags ? QString::fromStdString(nameGiven(*step, Thing::Plane)) : QString());
}

void MainWindow::planeDragged(const QString& name, double by, bool done) {
    const Part& part = m_session->part();
    const Step* step = nullptr;
    const bool drafted = m_bar->active() && !draggedSlot(*m_bar->draft()).empty();
    step = drafted ? &*m_bar->draft() : makerOf(part, Thing::Plane, name.toStdString());
    if (!step) return;
    const std::string slot = draggedSlot(*step);
    const QString key = QString::fromStdString(slot);
    if (!m_planeFrom) {
        const auto now = evaluateSlot(*step, slot, part, valuesOf(part));
        m_planeFrom = now ? *now : 0;
        m_planeTo = *m_planeFrom;
    }
    if (!done) m_planeTo = *m_planeFrom + by;
    const QString text = QString::fromStdString(formatAmount(m_planeTo, part.brief.units.length, 2));
    if (done) m_planeFrom.reset();
    if (drafted) {
        if (!done) m_bar->fillText(key, text);
        return;
    }
    m_sheet->dragNumber(step->id, key, text, done);
}

void MainWindow::picked(const Pick& pick) {
    const QStringList& refs = pick.refs;
    if (m_bar->active()) {
        const auto before = m_bar->draft();
        m_bar->fill(pick);
        if (m_bar->draft() == before) return;
        const References now = m_bar->references();
        const bool taken = std::find(now.begin(), now.end(), refs.first().toStdString()) != now.end();
        m_ways->offer(taken ? refs : QStringList(), m_stand->inWords);
        return;
    }
    if (m_pickStep == 0) return;
    if (m_which) {
        answerWhich(refs);
        return;
    }
    Part p = m_session->part();
    Step* s = p.findStep(m_pickStep);
    References now = s->references(m_pickSlot.toStdString());
    const std::string ref = refs.first().toStdString();
    const SlotWords* words = findStepWords(s->kind)->slot(m_pickSlot.toStdString());
    if (words->type == SlotType::PlaneRef) {
        s->slots[m_pickSlot.toStdString()] = ref;
        const int step = m_pickStep;
        const bool drawing = filledIn(*s) == FilledIn::DrawingTable;
        endPicking();
        m_session->commit(p, tr("%1 picked").arg(QString::fromStdString(words->label)));
        return drawing ? showOutline(step) : void();
    }
    togglePick(now, ref, words->type);
    if (const std::string spot = spotSlot(*s);
        words->type == SlotType::Face && !pick.spot.isEmpty() && !spot.empty())
        s->slots[spot] = References{pick.spot.toStdString()};
    s->slots[m_pickSlot.toStdString()] = now;
    const bool taken = std::find(now.begin(), now.end(), ref) != now.end();
    const int step = m_pickStep;
    const QString slot = m_pickSlot;
    m_session->commit(p, tr("%1 picked").arg(QString::fromStdString(words->label)));
    pickForStep(step, slot);
    m_ways->offer(taken ? refs : QStringList(), m_stand->inWords);
}

/// The same pick in other words: a rule instead of the item, or the other way about.
void MainWindow::sayOtherwise(const QString& was, const QString& now) {
    if (m_bar->active()) return m_bar->sayOtherwise(was, now);
    if (m_pickStep == 0) return;
    Part p = m_session->part();
    Step* s = p.findStep(m_pickStep);
    References refs = s->references(m_pickSlot.toStdString());
    std::replace(refs.begin(), refs.end(), was.toStdString(), now.toStdString());
    s->slots[m_pickSlot.toStdString()] = refs;
    const int step = m_pickStep;
    const QString slot = m_pickSlot;
    m_session->commit(p, tr("said otherwise"));
    pickForStep(step, slot);
}

} // namespace gc::app

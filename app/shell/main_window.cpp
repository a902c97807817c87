#include "app/shell/main_window.hpp"

#include "app/look/theme.hpp"
#include "app/rooms/brief/brief_room.hpp"
#include "app/rooms/form/stand_room.hpp"
#include "app/rooms/prove/prove_room.hpp"
#include "app/rooms/release/release_room.hpp"
#include "app/rooms/start/first_part.hpp"
#include "app/rooms/start/start_room.hpp"
#include "app/shell/measuring.hpp"
#include "app/shell/part_files.hpp"
#include "app/stand/bodies_strip.hpp"
#include "app/stand/stand_buttons.hpp"
#include "core/document/planes.hpp"

#include <QApplication>
#include <QCloseEvent>
#include <QFileInfo>
#include <QGridLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QScreen>
#include <QShortcut>

#include <algorithm>

namespace gc::app {

MainWindow::MainWindow() {
    m_session = new Session(this);
    m_forge = new ForgeLink(this);
    makeFrame();
    makeStand();
    makeRooms();
    makeStart();
    connectAll();
    setMinimumSize(1024, 700);
    const QSize room = screen() ? screen()->availableSize() : QSize(1280, 800);
    resize(std::min(1280, room.width()), std::min(800, room.height()));
    setStage(QStringLiteral("Finish"));
    applyTheme();
}

void MainWindow::makeFrame() {
    auto* central = new QWidget(this);
    setCentralWidget(central);
    m_stages = new StageLine(central);
    m_verbs = new VerbPanel(central);
    m_pages = new QStackedWidget(central);
    m_stand = new Stand(m_forge, central);
    m_bar = new SentenceBar(m_session, central);
    m_sheet = new Sheet(m_session, m_forge, central);
    m_gauges = new Gauges(central);
    m_grid = new QGridLayout(central);
    m_grid->setContentsMargins(0, 0, 0, 0);
    m_grid->setSpacing(0);
    m_grid->addWidget(m_stages, 0, 0, 1, 4);
    m_grid->addWidget(m_verbs, 2, 0); // row 1 is for the first part's steps
    m_grid->addWidget(m_pages, 2, 1);
    m_grid->addWidget(m_stand, 2, 2);
    m_grid->addWidget(m_sheet, 2, 3, 2, 1);
    m_grid->addWidget(m_bar, 3, 0, 1, 3);
    m_grid->addWidget(m_gauges, 4, 0, 1, 4);
    m_grid->setRowStretch(2, 1);
    m_files = new PartFiles(m_session, m_bar, this);
    QWidget* order[] = {m_stages, m_verbs, m_pages, m_stand, m_bar, m_sheet, m_gauges};
    for (std::size_t i = 0; i + 1 < std::size(order); ++i) setTabOrder(order[i], order[i + 1]);
}

void MainWindow::makeStand() {
    m_stand->inWords = [this](const QString& r) {
        const std::string ref = r.toStdString();
        return QString::fromStdString(fixedPlane(ref) ? planeInWords(m_session->part(), ref)
                                                      : referenceInWords(ref, m_session->part()));
    };
    m_bodies = new BodiesStrip(m_session, m_forge, m_stand);
    m_buttons = new StandButtons(m_stand, m_bodies);
    m_selection = new Selection({m_session, m_forge, m_stand, m_sheet, m_bar}, this);
    m_measuring = new Measuring(m_session, m_forge, m_stand, this);
    connect(m_buttons, &StandButtons::measureAsked, this, &MainWindow::measure);
    connect(m_measuring, &Measuring::changed, m_buttons, &StandButtons::setMeasuring);
    connect(m_measuring, &Measuring::message, m_bar, &SentenceBar::say);
    connect(m_selection, &Selection::measured, m_measuring, &Measuring::take);
    connect(m_selection, &Selection::measuringEnded, m_measuring, &Measuring::end);
    connect(m_bodies, &BodiesStrip::message, m_bar, &SentenceBar::say);
    connect(m_buttons, &StandButtons::overlayChosen, this, [this] { m_gauges->setActive(-1); });
}

void MainWindow::makeRooms() {
    m_house = {m_session, m_forge, m_stand,     m_sheet, m_bar,
               m_gauges,  m_verbs, m_selection, this,    [this](const QString& stage) { setStage(stage); }};
    m_brief = new BriefRoom(m_house, this);
    m_outline = new OutlineRoom(m_house, this);
    m_prove = new ProveRoom(m_house, this);
    m_release = new ReleaseRoom(m_house, this);
    m_start = new StartRoom(m_house, this);
    m_rooms = {m_start,
               m_brief,
               m_outline,
               new StandRoom(QStringLiteral("Form"), true, m_house, this),
               new StandRoom(QStringLiteral("Finish"), false, m_house, this),
               m_prove,
               m_release};
    for (const Room* room : m_rooms)
        for (QWidget* page : room->pages()) m_pages->addWidget(page);
}

void MainWindow::makeStart() {
    m_firstPart = new FirstPart(m_house, centralWidget());
    m_grid->addWidget(m_firstPart, 1, 0, 1, 4);
    StartPage* page = m_start->startPage();
    connect(m_files, &PartFiles::nothingOpen, this, [this] { setStage(kStartStage); });
    connect(page, &StartPage::beginAsked, this, &MainWindow::beginPart);
    connect(page, &StartPage::exampleAsked, m_files, &PartFiles::openExample);
    connect(page, &StartPage::guideAsked, this, &MainWindow::beginFirstPart);
    connect(page, &StartPage::openAsked, m_files, qOverload<>(&PartFiles::open));
    connect(page, &StartPage::recentAsked, m_files, qOverload<const QString&>(&PartFiles::open));
    connect(m_stand, &Stand::turned, m_firstPart, &FirstPart::viewTurned);
    connect(m_forge, &ForgeLink::exported, m_firstPart, [this](const QString&, const QString& error) {
        if (error.isEmpty()) m_firstPart->fileWritten();
    });
}

void MainWindow::beginPart(const QString& way) {
    if (!m_files->startNew()) return;
    if (way == QLatin1String("picture")) {
        beginVerb(QStringLiteral("draw"));
        m_outline->askPicture();
    } else {
        beginVerb(way);
    }
}

void MainWindow::beginFirstPart() {
    if (!m_files->openExample(QStringLiteral("herb-pot"))) return;
    setStage(QStringLiteral("Finish"));
    m_firstPart->begin();
}

/// Where another part is looked at first: what has only drawings on the table, an empty one in its brief.
void MainWindow::goWhereItBelongs() {
    const Part& part = m_session->part();
    if (part.steps.empty()) return setStage(QStringLiteral("Brief"));
    int drawing = 0;
    for (const Step& s : part.steps)
        if (filledIn(s) != FilledIn::Sentence) drawing = s.id;
    if (drawing && namesOf(part, Thing::Body).empty()) {
        m_outline->showOutline(drawing);
    } else if (m_room == m_start || m_room == m_brief || m_room == m_outline) {
        setStage(QStringLiteral("Finish"));
    } else {
        m_room->enter();
        arrange();
    }
}

void MainWindow::connectAll() {
    connect(m_session, &Session::partChanged, this, &MainWindow::partChanged);
    connect(m_session, &Session::stateChanged, this, &MainWindow::refreshTitle);
    const auto fails = [this](const QString& s) { m_bar->say(QStringLiteral("■ ") + s); };
    connect(m_session, &Session::problem, m_bar, fails);
    connect(m_forge, &ForgeLink::problem, m_bar, fails);
    connect(m_forge, &ForgeLink::restarted, m_bar,
            [this](const QString& s) { m_bar->say(QStringLiteral("▲ ") + s); });
    connect(m_forge, &ForgeLink::measuresChanged, this,
            [this] { m_gauges->setTargets(m_forge->targets(), !m_forge->wallsKnown()); });
    connect(m_stages, &StageLine::stageAsked, this, &MainWindow::setStage);
    connect(m_stages, &StageLine::menuAsked, this, &MainWindow::openMenu);
    connect(m_sheet, &Sheet::message, m_bar, &SentenceBar::say);
    connect(m_sheet, &Sheet::previewAsked, this, [this](const Part& p) {
        m_forge->build(p, true);
        m_gauges->setTargets(targetsOf(p, m_forge->targets()), true); // values of before, until it is let go
    });
    connect(m_sheet, &Sheet::tableAsked, m_outline, &OutlineRoom::showOutline);
    connectVerbs();
    makeShortcuts();
    m_titleTimer.setInterval(20000);
    connect(&m_titleTimer, &QTimer::timeout, this, &MainWindow::refreshTitle);
    m_titleTimer.start();
}

void MainWindow::measure(bool on) {
    m_selection->end();
    if (!on) return;
    if (m_bar->active()) m_bar->drop();
    if (!m_stand->isVisible()) setStage(QStringLiteral("Form"));
    m_selection->measure();
    m_measuring->begin();
}

void MainWindow::beginVerb(const QString& kind) {
    if (kind == kMeasure) return measure(true);
    if (m_room->verb(kind)) return;
    const StepWords* words = findStepWords(kind.toStdString());
    if (!words) return;
    m_selection->end();
    setStage(QString::fromStdString(words->stage));
    m_bar->begin(kind);
    m_verbs->setActive(m_bar->active() ? kind : QString());
    const bool hasTable = findKind(kind.toStdString())->filledIn != FilledIn::Sentence;
    if (hasTable) m_bar->keep(); // that is where it is filled in
}

void MainWindow::connectVerbs() {
    connect(m_verbs, &VerbPanel::verbAsked, this, &MainWindow::beginVerb);
    connect(m_bar, &SentenceBar::verbTyped, this, &MainWindow::beginVerb);
    connect(m_bar, &SentenceBar::draftChanged, this, [this] {
        m_selection->showDraft();
        m_forge->setTrial(m_bar->draft()->id);
        m_forge->build(m_bar->withDraft(), true);
        m_gauges->setWaiting(tr("after Enter"));
    });
    connect(m_forge, &ForgeLink::stepsChanged, this, &MainWindow::showDraftFault);
    connect(m_bar, &SentenceBar::kept, this, [this](const Part& part, const QString& what) {
        m_forge->setTrial(0);
        m_gauges->setWaiting({});
        m_verbs->setActive({});
        m_stand->showPlace(std::nullopt, false);
        m_selection->showNothing();
        if (!m_session->commit(withOffers(part), what)) return;
        if (!part.steps.empty())
            m_room->stepKept(part.steps[static_cast<std::size_t>(part.shownSteps() - 1)].id);
    });
    connect(m_bar, &SentenceBar::dropped, this, [this] {
        m_forge->setTrial(0);
        m_gauges->setWaiting({});
        m_verbs->setActive({});
        m_stand->showPlace(std::nullopt, false);
        m_selection->showNothing();
        m_forge->build(m_session->part());
    });
}

/// A step that was just filled in, with the names and colours that its file has for its bodies.
Part MainWindow::withOffers(Part part) const {
    if (part.steps.empty()) return part;
    const int step = part.steps[static_cast<std::size_t>(part.shownSteps() - 1)].id;
    for (const auto& [id, mesh] : m_forge->meshes())
        if (id.step == step)
            takeOver(part, id, mesh.offeredName.toStdString(), mesh.offeredColour.toStdString());
    return part;
}

/// A sentence that cannot be built says why while it is typed.
void MainWindow::showDraftFault() {
    if (!m_bar->active() || m_bar->editing()) return;
    const auto view = m_forge->steps().find(m_bar->draft()->id);
    if (view == m_forge->steps().end() || !view->second.known) return;
    // That is said by the slot itself.
    const bool waits = m_bar->waitsForPick() || (!view->second.ok && view->second.asksPick);
    const bool wrong = !view->second.ok && !waits;
    const bool doubtful = !waits && view->second.ok && !view->second.doubt.isEmpty();
    if (wrong)
        m_bar->showFault(QStringLiteral("■ ") + view->second.error, view->second.remedies);
    else if (doubtful)
        m_bar->showFault(QStringLiteral("▲ ") + view->second.doubt, view->second.remedies);
    else
        m_bar->showFault({});
    m_stand->showPlace(wrong || doubtful ? view->second.place : std::nullopt, view->second.gone);
}

void MainWindow::makeShortcuts() {
    auto shortcut = [this](const QKeySequence& keys, auto action) {
        connect(new QShortcut(keys, this), &QShortcut::activated, this, action);
    };
    // One press, one thing: what was changed last in an open sentence, then the sentence, then kept edits.
    const auto undo = [this] { m_bar->undo() ? void() : m_session->undo(); };
    const auto redo = [this] { m_bar->redo() ? void() : m_session->redo(); };
    shortcut(QKeySequence::Undo, undo);
    shortcut(QKeySequence::Redo, redo);
    shortcut(QKeySequence(Qt::CTRL | Qt::Key_Y), redo);
    shortcut(QKeySequence::Save, [this] { m_files->save(false); });
    shortcut(QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { m_files->save(true); });
    shortcut(QKeySequence::Open, [this] { m_files->open(); });
    shortcut(QKeySequence::New, [this] { m_files->startNew(); });
    shortcut(QKeySequence(Qt::ALT | Qt::Key_R), [this] { m_bar->turnRound(); });
    shortcut(QKeySequence(Qt::ALT | Qt::Key_Return), [this] { m_bar->takeWay(); });
}

void MainWindow::partChanged() {
    if (m_bar->active()) {
        m_bar->blockSignals(true);
        m_bar->drop();
        m_bar->blockSignals(false);
        m_verbs->setActive({});
    }
    m_gauges->setWaiting({});
    m_forge->build(m_session->part());
    if (!m_session->history().canUndo() &&
        !m_session->history().canRedo()) { // another part: the room opens on it
        m_firstPart->end();
        m_selection->end(); // what is picked or measured was the other's
        m_gauges->setActive(-1);
        m_stand->beginPart();
        goWhereItBelongs();
    }
    m_sheet->update();
    // Gauges stand there from the start, measuring; what was measured before stays until it is measured anew.
    m_gauges->setTargets(targetsOf(m_session->part(), m_forge->targets()), true);
}

void MainWindow::refreshTitle() {
    const QString name = QString::fromStdString(m_session->part().name);
    const UnitSystem& u = m_session->part().brief.units;
    m_stages->setTitle(name, QStringLiteral("%1 · %2, %3")
                                 .arg(m_session->savedWords(), QString::fromStdString(u.length),
                                      QString::fromStdString(u.mass)));
    setWindowTitle(tr("%1 – Good Curve").arg(name));
}

// ---- from room to room

void MainWindow::setStage(const QString& stage) {
    const auto room =
        std::find_if(m_rooms.begin(), m_rooms.end(), [&](const Room* r) { return r->stage() == stage; });
    if (room == m_rooms.end()) return;
    if (m_room && m_room != *room) m_room->leave();
    m_room = *room;
    m_stages->setStage(stage);
    m_verbs->setStage(stage);
    m_room->enter();
    arrange();
}

/// Puts around a room what it wants.
void MainWindow::arrange() {
    const Room::Wants wants = m_room->wants();
    m_verbs->showTools(wants.tools);
    if (!wants.tools) m_verbs->setActive({});
    m_verbs->setVisible(wants.verbs);
    m_stand->showGuides(wants.guides);
    m_stand->setVisible(wants.stand);
    m_sheet->setVisible(wants.part);
    m_gauges->setVisible(wants.part);
    m_selection->look();
    QWidget* page = m_room->page();
    if (page) m_pages->setCurrentWidget(page);
    m_pages->setVisible(page != nullptr);
    m_grid->setColumnStretch(1, page ? 7 : 0);
    m_grid->setColumnStretch(2, wants.stand ? 5 : 0);
}

void MainWindow::escape() {
    if (m_bar->active()) return m_bar->drop();
    if (m_selection->active()) return m_selection->end();
    m_gauges->setActive(-1);
    m_stand->setOverlay(Overlay::None);
}

void MainWindow::keyPressEvent(QKeyEvent* e) {
    switch (e->key()) {
    case Qt::Key_Escape:
        return escape();
    case Qt::Key_Return:
    case Qt::Key_Enter:
        m_bar->active() ? void(m_bar->keep()) : m_selection->end();
        return;
    default:
        if (m_stand->isVisible() && m_stand->pickByKey(e->key())) return;
        if (m_stand->isVisible() && e->key() == Qt::Key_N && !e->modifiers() && m_stand->nextUnder()) return;
        if (!m_room->key(e)) QMainWindow::keyPressEvent(e);
    }
}

// ---- the menu, the look, the end

void MainWindow::openMenu(const QPoint& at) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    const auto add = [&](const QString& text, const QKeySequence& keys, auto action) {
        QAction* a = menu->addAction(text, this, action);
        a->setShortcut(keys); // to be read: the window's own shortcuts do it
        a->setShortcutContext(Qt::WidgetShortcut);
        a->setShortcutVisibleInContextMenu(true);
        return a;
    };
    add(tr("New part"), QKeySequence::New, [this] { m_files->startNew(); });
    menu->addAction(tr("Ways to begin"), this, [this] { setStage(kStartStage); });
    auto* shipped = menu->addMenu(tr("Examples"));
    for (const Example& e : examples())
        shipped->addAction(e.name, this, [this, key = e.key] { m_files->openExample(key); });
    add(tr("Open …"), QKeySequence::Open, [this] { m_files->open(); });
    auto* recent = menu->addMenu(tr("Recent parts"));
    for (const QString& f : Session::recentFiles())
        recent->addAction(QFileInfo(f).fileName(), this, [this, f] { m_files->open(f); });
    recent->setEnabled(!recent->isEmpty());
    menu->addSeparator();
    add(tr("Save"), QKeySequence::Save, [this] { m_files->save(false); });
    add(tr("Save as …"), QKeySequence(Qt::CTRL | Qt::SHIFT | Qt::Key_S), [this] { m_files->save(true); });
    menu->addSeparator();
    const History& h = m_session->history();
    add(h.canUndo() ? tr("Undo: %1").arg(QString::fromStdString(h.undoWords())) : tr("Undo"),
        QKeySequence::Undo, [this] { m_session->undo(); })
        ->setEnabled(h.canUndo());
    add(h.canRedo() ? tr("Redo: %1").arg(QString::fromStdString(h.redoWords())) : tr("Redo"),
        QKeySequence::Redo, [this] { m_session->redo(); })
        ->setEnabled(h.canRedo());
    menu->addSeparator();
    menu->addAction(theme().dark ? tr("Light theme") : tr("Dark theme"), this,
                    [this] { useDarkTheme(!theme().dark); });
    menu->popup(at);
}

void MainWindow::applyTheme() {
    qApp->setStyleSheet(applicationStyle());
    QPalette palette;
    palette.setColor(QPalette::Window, theme().paper);
    palette.setColor(QPalette::WindowText, theme().ink);
    palette.setColor(QPalette::Base, theme().card);
    palette.setColor(QPalette::Text, theme().ink);
    palette.setColor(QPalette::PlaceholderText, theme().inkSoft);
    qApp->setPalette(palette);
    for (QWidget* w : findChildren<QWidget*>()) w->update();
}

void MainWindow::useDarkTheme(bool dark) {
    setDarkTheme(dark);
    applyTheme();
    m_session->partChanged();
}

void MainWindow::resizeEvent(QResizeEvent* e) {
    constexpr int kSmall = 1180, kNarrowSheet = 286, kSheet = 330; // px
    m_sheet->setFixedWidth(width() < kSmall ? kNarrowSheet : kSheet);
    QMainWindow::resizeEvent(e);
}

void MainWindow::closeEvent(QCloseEvent* e) {
    if (!m_files->mayLeave()) return e->ignore();
    m_session->endCleanly();
    e->accept();
}

} // namespace gc::app

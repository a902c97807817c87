#include "app/shell/main_window.hpp"

#include "app/look/theme.hpp"
#include "core/document/planes.hpp"

#include <QApplication>
#include <QCloseEvent>
#include <QFileDialog>
#include <QFileInfo>
#include <QGridLayout>
#include <QKeyEvent>
#include <QMenu>
#include <QMessageBox>
#include <QScreen>
#include <QScrollArea>
#include <QShortcut>

#include <algorithm>

namespace gc::app {

MainWindow::MainWindow() {
    m_session = new Session(this);
    m_forge = new ForgeLink(this);
    auto* central = new QWidget(this);
    setCentralWidget(central);
    auto* grid = new QGridLayout(central);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setSpacing(0);
    m_stages = new StageLine(central);
    m_verbs = new VerbPanel(central);
    m_pages = new QStackedWidget(central);
    m_stations = new StationsPage(m_session, m_forge);
    m_brief = new BriefPage(m_session);
    m_proof = new ProofPage(m_session, m_forge);
    m_release = new ReleasePage;
    m_drawing = new DrawingModel(m_session, this);
    m_table = new DrawingTable(m_drawing);
    auto* briefScroll = new QScrollArea; // the brief is long: it scrolls in a low window
    briefScroll->setWidget(m_brief);
    briefScroll->setWidgetResizable(true);
    briefScroll->setFrameShape(QFrame::NoFrame);
    for (QWidget* page :
         {static_cast<QWidget*>(m_stations), static_cast<QWidget*>(briefScroll),
          static_cast<QWidget*>(m_proof), static_cast<QWidget*>(m_release), static_cast<QWidget*>(m_table)})
        m_pages->addWidget(page);
    m_pageOf = {{"Outline", m_stations}, {"Brief", briefScroll}, {"Prove", m_proof}, {"Release", m_release}};
    m_stand = new Stand(m_forge, central);
    m_stand->inWords = [this](const QString& r) {
        const std::string ref = r.toStdString();
        return QString::fromStdString(fixedPlane(ref) ? planeInWords(m_session->part(), ref)
                                                      : referenceInWords(ref, m_session->part()));
    };
    m_bar = new SentenceBar(m_session, central);
    m_sheet = new Sheet(m_session, m_forge, central);
    m_sheet->setFixedWidth(330);
    m_gauges = new Gauges(central);
    grid->addWidget(m_stages, 0, 0, 1, 4);
    grid->addWidget(m_verbs, 1, 0);
    grid->addWidget(m_pages, 1, 1);
    grid->addWidget(m_stand, 1, 2);
    grid->addWidget(m_sheet, 1, 3, 2, 1);
    grid->addWidget(m_bar, 2, 0, 1, 3);
    grid->addWidget(m_gauges, 3, 0, 1, 4);
    grid->setRowStretch(1, 1);
    grid->setColumnStretch(2, 5);
    makeStandButtons();
    connectAll();
    setMinimumSize(1024, 700);
    const QSize room = screen() ? screen()->availableSize() : QSize(1280, 800);
    resize(std::min(1280, room.width()), std::min(800, room.height()));
    setStage(QStringLiteral("Finish"));
    applyTheme();
}

void MainWindow::connectAll() {
    connect(m_session, &Session::partChanged, this, &MainWindow::partChanged);
    connect(m_session, &Session::stateChanged, this, &MainWindow::refreshTitle);
    connect(m_session, &Session::problem, m_bar,
            [this](const QString& s) { m_bar->say(QStringLiteral("■ ") + s); });
    connect(m_forge, &ForgeLink::problem, m_bar,
            [this](const QString& s) { m_bar->say(QStringLiteral("■ ") + s); });
    connect(m_forge, &ForgeLink::restarted, m_bar,
            [this](const QString& s) { m_bar->say(QStringLiteral("▲ ") + s); });
    connect(m_forge, &ForgeLink::measuresChanged, this,
            [this] { m_gauges->setTargets(m_forge->targets(), !m_forge->wallsKnown()); });
    connect(m_forge, &ForgeLink::exported, this, [this](const QString& path, const QString& error) {
        m_bar->say(error.isEmpty() ? tr("✓ Written: %1").arg(path) : QStringLiteral("■ ") + error);
    });
    connect(m_forge, &ForgeLink::exportAsks, this, &MainWindow::askAboutFailing, Qt::QueuedConnection);
    connect(m_forge, &ForgeLink::meshesChanged, this, &MainWindow::dressBodies);
    connect(m_stages, &StageLine::stageAsked, this, &MainWindow::setStage);
    connect(m_stages, &StageLine::menuAsked, this, &MainWindow::openMenu);
    connectVerbs();
    connectPicking();
    connectPages();
    connectRelease();
    connectTable();
    makeShortcuts();
    m_titleTimer.setInterval(20000);
    connect(&m_titleTimer, &QTimer::timeout, this, &MainWindow::refreshTitle);
    m_titleTimer.start();
}

void MainWindow::connectVerbs() {
    auto beginVerb = [this](const QString& kind) {
        if (kind.startsWith(QLatin1String("tool:")) || kind.startsWith(QLatin1String("edit:")))
            return tableVerb(kind);
        m_selection->end();
        setStage(QString::fromStdString(findStepWords(kind.toStdString())->stage));
        m_bar->begin(kind);
        m_verbs->setActive(m_bar->active() ? kind : QString());
        const bool hasTable = findKind(kind.toStdString())->filledIn != FilledIn::Sentence;
        if (hasTable) m_bar->keep(); // that is where it is filled in
    };
    connect(m_verbs, &VerbPanel::verbAsked, this, beginVerb);
    connect(m_bar, &SentenceBar::verbTyped, this, beginVerb);
    connect(m_bar, &SentenceBar::draftChanged, this, [this] {
        m_selection->showDraft();
        m_forge->build(m_bar->withDraft(), true);
    });
    connect(m_bar, &SentenceBar::kept, this, [this](const Part& part, const QString& what) {
        m_verbs->setActive({});
        m_selection->showNothing();
        m_session->commit(part, what);
        if (!part.steps.empty() && m_stages->stage() == QLatin1String("Outline"))
            showOutline(part.steps[static_cast<std::size_t>(part.shownSteps() - 1)].id);
    });
    connect(m_bar, &SentenceBar::dropped, this, [this] {
        m_verbs->setActive({});
        m_selection->showNothing();
        m_forge->build(m_session->part());
    });
}

void MainWindow::connectPages() {
    connect(m_sheet, &Sheet::message, m_bar, &SentenceBar::say);
    connect(m_stations, &StationsPage::message, m_bar, &SentenceBar::say);
    connect(m_brief, &BriefPage::message, m_bar, &SentenceBar::say);
    connect(m_sheet, &Sheet::previewAsked, this, [this](const Part& p) { m_forge->build(p, true); });
    connect(m_stations, &StationsPage::previewAsked, this,
            [this](const Part& p) { m_forge->build(p, true); });
    connect(m_sheet, &Sheet::tableAsked, this, [this](int step) {
        setStage(QStringLiteral("Outline"));
        showOutline(step);
    });
    connect(m_gauges, &Gauges::clicked, this, &MainWindow::gaugeClicked);
    connect(m_proof, &ProofPage::targetClicked, this, &MainWindow::gaugeClicked);
    connect(m_proof, &ProofPage::remedyTaken, this, [this](const RemedyView& r) {
        Part p = m_session->part();
        typeIntoSlot(p, r.step, r.slot.toStdString(), r.value.toStdString());
        m_session->commit(p, r.sentence);
        m_bar->say(tr("✓ %1. Ctrl+Z takes it back.").arg(r.sentence));
    });
}

void MainWindow::makeShortcuts() {
    auto shortcut = [this](const QKeySequence& keys, auto action) {
        connect(new QShortcut(keys, this), &QShortcut::activated, this, action);
    };
    shortcut(QKeySequence::Undo, [this] { m_session->undo(); });
    shortcut(QKeySequence::Redo, [this] { m_session->redo(); });
    shortcut(QKeySequence(Qt::CTRL | Qt::Key_Y), [this] { m_session->redo(); });
    shortcut(QKeySequence::Save, [this] { save(false); });
    shortcut(QKeySequence::Open, [this] { open(); });
    shortcut(QKeySequence(Qt::ALT | Qt::Key_R), [this] { m_bar->turnRound(); });
}

void MainWindow::partChanged() {
    if (m_bar->active()) {
        m_bar->blockSignals(true);
        m_bar->drop();
        m_bar->blockSignals(false);
        m_verbs->setActive({});
    }
    m_forge->build(m_session->part());
    m_sheet->update();
    dressBodies();
    showTargets();
}

/// Gauges stand there from the start, measuring; what was measured before stays until it is measured anew.
void MainWindow::showTargets() {
    std::vector<TargetView> shown;
    const auto& measured = m_forge->targets();
    for (const Target& t : m_session->part().brief.targets) {
        TargetView v;
        v.measure = QString::fromStdString(t.measure);
        v.allowed = QString::fromStdString(t.allowed);
        v.ofBody = QString::fromStdString(t.body);
        const auto same = std::find_if(measured.begin(), measured.end(), [&](const TargetView& m) {
            return m.measure == v.measure && m.allowed == v.allowed && m.ofBody == v.ofBody;
        });
        if (same != measured.end())
            v = *same;
        else
            v.label = QString::fromStdString(findMeasure(t.measure)->label +
                                             (t.body.empty() ? "" : " of " + t.body));
        v.verdict = QStringLiteral("measuring");
        shown.push_back(std::move(v));
    }
    m_gauges->setTargets(shown, true);
}

void MainWindow::refreshTitle() {
    const QString name = QString::fromStdString(m_session->part().name);
    const UnitSystem& u = m_session->part().brief.units;
    m_stages->setTitle(name, QStringLiteral("%1 · %2, %3")
                                 .arg(m_session->savedWords(), QString::fromStdString(u.length),
                                      QString::fromStdString(u.mass)));
    setWindowTitle(tr("%1 – Good Curve").arg(name));
}

void MainWindow::setStage(const QString& stage) {
    m_stages->setStage(stage);
    m_verbs->setStage(stage);
    if (stage == QLatin1String("Outline")) showOnlyDrawing();
    QWidget* page = m_pageOf.value(stage);
    if (page == m_table && !m_session->part().findStep(m_drawing->step()))
        m_pageOf[stage] = page = m_stations;
    const bool drawing = page == m_table;
    m_drawing->watch(drawing);
    m_verbs->showTools(drawing);
    m_bar->showTableWords(drawing);
    if (!drawing && m_bar->editing()) m_bar->drop();
    m_stand->showGuides(stage == QLatin1String("Outline") || stage == QLatin1String("Form"));
    m_forge->look(m_stand->picking() == Picking::Points, drawing ? m_drawing->step() : 0);
    m_stand->setVisible(!drawing); // the table lies where it stood
    if (!drawing) m_verbs->setActive({});
    m_pages->setVisible(page);
    auto* grid = static_cast<QGridLayout*>(centralWidget()->layout());
    grid->setColumnStretch(1, page ? 7 : 0);
    grid->setColumnStretch(2, drawing ? 0 : 5);
    if (page) m_pages->setCurrentWidget(page);
    m_verbs->setVisible(stage == QLatin1String("Outline") || stage == QLatin1String("Form") ||
                        stage == QLatin1String("Finish"));
    QMetaObject::invokeMethod(
        this, [this] { placeStandButtons(); }, Qt::QueuedConnection);
}

namespace {

Overlay overlayFor(const std::string& measure) {
    using Shows = MeasureWords::Shows;
    const MeasureWords* words = findMeasure(measure);
    switch (words ? words->shows : Shows::Nothing) {
    case Shows::WallByRay:
        return Overlay::WallRay;
    case Shows::WallByBall:
        return Overlay::WallBall;
    case Shows::Lean:
        return Overlay::Lean;
    case Shows::Nothing:
        break;
    }
    return Overlay::None;
}

} // namespace

void MainWindow::gaugeClicked(int index) {
    const auto& targets = m_forge->targets();
    if (index < 0 || index >= static_cast<int>(targets.size())) return;
    const TargetView& t = targets[static_cast<std::size_t>(index)];
    m_gauges->setActive(index);
    setStage(QStringLiteral("Prove"));
    m_proof->setActive(index);
    const Overlay overlay = overlayFor(t.measure.toStdString());
    m_stand->setOverlay(overlay, &t);
    if (t.at && overlay != Overlay::None) m_stand->flyTo(*t.at);
}

void MainWindow::openMenu(const QPoint& at) {
    auto* menu = new QMenu(this);
    menu->setAttribute(Qt::WA_DeleteOnClose);
    menu->addAction(tr("New part"), this, [this] {
        if (mayLeave()) m_session->startNew();
    });
    menu->addAction(tr("Open …"), this, [this] { open(); });
    auto* recent = menu->addMenu(tr("Recent parts"));
    for (const QString& f : Session::recentFiles())
        recent->addAction(QFileInfo(f).fileName(), this, [this, f] {
            if (mayLeave()) m_session->open(f);
        });
    recent->setEnabled(!recent->isEmpty());
    menu->addSeparator();
    menu->addAction(tr("Save"), this, [this] { save(false); });
    menu->addAction(tr("Save as …"), this, [this] { save(true); });
    menu->addSeparator();
    const History& h = m_session->history();
    auto* undo =
        menu->addAction(h.canUndo() ? tr("Undo: %1").arg(QString::fromStdString(h.undoWords())) : tr("Undo"),
                        m_session, &Session::undo);
    undo->setEnabled(h.canUndo());
    auto* redo =
        menu->addAction(h.canRedo() ? tr("Redo: %1").arg(QString::fromStdString(h.redoWords())) : tr("Redo"),
                        m_session, &Session::redo);
    redo->setEnabled(h.canRedo());
    menu->addSeparator();
    menu->addAction(theme().dark ? tr("Light theme") : tr("Dark theme"), this,
                    [this] { useDarkTheme(!theme().dark); });
    menu->popup(at);
}

void MainWindow::open() {
    if (!mayLeave()) return;
    const QString path =
        QFileDialog::getOpenFileName(this, tr("Open a part"), QFileInfo(m_session->file()).absolutePath(),
                                     tr("Good Curve parts (*.goodcurve)"));
    if (!path.isEmpty()) m_session->open(path);
}

void MainWindow::save(bool elsewhere) {
    QString path = m_session->file();
    if (path.isEmpty() || elsewhere)
        path = QFileDialog::getSaveFileName(this, tr("Save the part"),
                                            path.isEmpty() ? QString::fromStdString(m_session->part().name) +
                                                                 QStringLiteral(".goodcurve")
                                                           : path);
    if (path.isEmpty()) return;
    if (!path.endsWith(QLatin1String(".goodcurve"))) path += QStringLiteral(".goodcurve");
    if (m_session->save(path)) m_bar->say(tr("✓ Saved: %1").arg(path));
}

bool MainWindow::mayLeave() {
    if (!m_session->changed() || m_session->history().now().steps.empty()) return true;
    QMessageBox ask(
        QMessageBox::NoIcon, tr("Good Curve"),
        tr("\"%1\" has changes that are not saved.").arg(QString::fromStdString(m_session->part().name)),
        QMessageBox::NoButton, this);
    auto* keep = ask.addButton(tr("Save"), QMessageBox::AcceptRole);
    auto* letGo = ask.addButton(tr("Let them go"), QMessageBox::DestructiveRole);
    ask.addButton(tr("Stay here"), QMessageBox::RejectRole);
    ask.exec();
    if (ask.clickedButton() == keep) {
        save(false);
        return !m_session->changed();
    }
    return ask.clickedButton() == letGo;
}

bool MainWindow::offerLostWork() {
    const auto lost = findLostWork(journalFolder());
    if (lost.empty()) return false;
    const RecoveredWork& w = lost.front();
    QMessageBox ask(QMessageBox::NoIcon, tr("Good Curve"),
                    tr("\"%1\" was not closed properly. %n edit(s) are kept, the last: %2.", nullptr, w.edits)
                        .arg(QString::fromStdString(w.part.name), QString::fromStdString(w.lastEdit)),
                    QMessageBox::NoButton, this);
    ask.setObjectName(QStringLiteral("lostWork"));
    auto* take = ask.addButton(tr("Go on with it"), QMessageBox::AcceptRole);
    auto* letGo = ask.addButton(tr("Let it go"), QMessageBox::DestructiveRole);
    ask.exec();
    std::error_code ignored;
    if (ask.clickedButton() == take) {
        m_session->takeOver(w);
        return true;
    }
    if (ask.clickedButton() == letGo) std::filesystem::remove(w.journal, ignored);
    return false;
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

void MainWindow::closeEvent(QCloseEvent* e) {
    if (!mayLeave()) return e->ignore();
    m_session->endCleanly();
    e->accept();
}

void MainWindow::keyPressEvent(QKeyEvent* e) {
    const int key = e->key();
    if (key == Qt::Key_Escape) {
        if (m_bar->active())
            m_bar->drop();
        else if (m_selection->active())
            m_selection->end();
        else {
            m_gauges->setActive(-1);
            m_stand->setOverlay(Overlay::None);
        }
    } else if (key == Qt::Key_Return || key == Qt::Key_Enter) {
        if (m_bar->active())
            m_bar->keep();
        else
            m_selection->end();
    } else if (key >= Qt::Key_1 && key <= Qt::Key_7)
        m_stand->lookFrom(key - Qt::Key_0);
    else if (!m_bar->active() && !e->text().isEmpty() && e->text()[0].isLetter() &&
             e->modifiers() == Qt::NoModifier) {
        m_bar->verbField()->setFocus(); // just start typing a verb
        m_bar->verbField()->setText(e->text());
    } else
        QMainWindow::keyPressEvent(e);
}

void MainWindow::resizeEvent(QResizeEvent* e) {
    QMainWindow::resizeEvent(e);
    QMetaObject::invokeMethod(
        this, [this] { placeStandButtons(); }, Qt::QueuedConnection);
}

} // namespace gc::app

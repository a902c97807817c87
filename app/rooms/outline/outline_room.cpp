#include "app/rooms/outline/outline_room.hpp"

#include "app/link/forge_link.hpp"
#include "app/look/words.hpp"
#include "app/sentence/sentence_bar.hpp"
#include "app/shell/ask_file.hpp"
#include "app/shell/chrome.hpp"
#include "app/shell/selection.hpp"
#include "app/stand/stand.hpp"
#include "core/base/file.hpp"
#include "core/document/areas.hpp"
#include "core/document/planes.hpp"
#include "core/document/slot_trait.hpp"
#include "core/exchange/drawings/drawing_files.hpp"

#include <QFileDialog>
#include <QFileInfo>
#include <QKeyEvent>

namespace gc::app {

OutlineRoom::OutlineRoom(House& shared, QObject* parent)
    : Room(QStringLiteral("Outline"), shared, parent),
      m_stations(new StationsPage(shared.session, shared.forge)),
      m_drawing(new DrawingModel(shared.session, this)), m_table(new DrawingTable(m_drawing)),
      m_reading(new DrawingReading(this)) {
    connect(m_reading, &DrawingReading::done, this,
            [this](const QString& path, const auto& read) { takeIn(path, *read); });
    m_table->installEventFilter(this);
    shared.window->installEventFilter(this);
    connect(m_stations, &StationsPage::message, shared.bar, &SentenceBar::say);
    connect(m_stations, &StationsPage::previewAsked, shared.forge,
            [this](const Part& p) { house().forge->build(p, true); });
    connectForge();
    connectTable();
    connectSentences();
    connectPicking();
}

void OutlineRoom::connectForge() {
    Stand* stand = house().stand;
    ForgeLink* forge = house().forge;
    m_table->ghost().draw = [stand](const Camera& camera, QSize size, std::optional<QVector4D> cut) {
        return stand->ghost(camera, size, cut);
    };
    m_table->ghost().corners = [stand] { return stand->corners(); };
    // The stand, which draws it, shows another part's bodies when all of them are there.
    for (const auto shown : {&ForgeLink::meshesChanged, &ForgeLink::bodiesShown})
        connect(forge, shown, m_table, [this] { m_table->ghost().stale(); });
    connect(forge, &ForgeLink::guidesChanged, this, &OutlineRoom::layTable);
    connect(forge, &ForgeLink::lookChanged, this, [this] {
        if (m_atTable) m_table->setTraces(house().forge->traces());
    });
}

void OutlineRoom::connectTable() {
    connect(m_table, &DrawingTable::message, house().bar, &SentenceBar::say);
    connect(m_table, &DrawingTable::planePickAsked, this,
            [this] { house().selection->pickFor(m_drawing->step(), QStringLiteral("plane")); });
    connect(m_table, &DrawingTable::pictureAsked, this, &OutlineRoom::askPicture);
    connect(m_table, &DrawingTable::areaAsked, this, &OutlineRoom::beginOnAreas);
    connect(m_table, &DrawingTable::toolChanged, this, &OutlineRoom::toolTaken);
    connect(m_drawing, &DrawingModel::changed, this, [this] {
        showPicture();
        // Undone to before it was there: nothing lies on the table any more.
        if (!m_drawing->step() && m_inside && m_atTable) house().go(stage());
    });
}

void OutlineRoom::connectSentences() {
    SentenceBar* bar = house().bar;
    connect(m_table, &DrawingTable::editAsked, this,
            [this](const Step& edit) { house().bar->beginEdit(edit, m_drawing->names()); });
    connect(m_table, &DrawingTable::nameAsked, this, &OutlineRoom::putName);
    connect(bar, &SentenceBar::editChanged, m_table, &DrawingTable::previewEdit);
    connect(bar, &SentenceBar::editKept, this, [this](const Step& edit) {
        if (m_table->keepEdit(edit)) house().bar->drop();
    });
    connect(bar, &SentenceBar::editDropped, this, [this] {
        m_table->previewEdit(std::nullopt);
        m_table->setFocus();
    });
}

/// The figure that was clicked stands in the slot of the sentence that is at hand, by its name.
void OutlineRoom::putName(int dimension) {
    SentenceBar* bar = house().bar;
    if (!bar->editing()) return;
    const Step edit = *bar->draft();
    const QString slot = bar->sentence()->activeSlot();
    const SlotWords* s = findWords(edit.kind)->slot(slot.toStdString());
    if (!s || traitOf(s->type).holds != SlotTrait::Holds::Number) return;
    // Giving a name is an edit of the drawing, which ends the sentence.
    const QString name = m_drawing->nameOfDimension(dimension);
    if (!bar->editing()) bar->beginEdit(edit, m_drawing->names());
    bar->fillText(slot, name);
}

/// A drawing's plane is picked in the stand, which the table covers; picked, the table comes back.
void OutlineRoom::connectPicking() {
    house().selection->drawing = [this] { return openDrawing(); };
    connect(house().selection, &Selection::standWanted, this, [this](int step) {
        if (m_inside && isDrawn(step)) house().go(QStringLiteral("Form"));
    });
    connect(house().selection, &Selection::planeTaken, this, [this](int step) {
        if (isDrawn(step)) showOutline(step);
    });
}

QWidget* OutlineRoom::page() const {
    return m_atTable ? static_cast<QWidget*>(m_table) : m_stations;
}

Room::Wants OutlineRoom::wants() const {
    Wants w;
    w.verbs = true;
    w.tools = m_atTable;
    w.guides = true;
    w.stand = !m_atTable; // the table lies where it stood
    w.drawing = m_atTable ? m_drawing->step() : 0;
    return w;
}

void OutlineRoom::enter() {
    m_inside = true;
    showOnlyDrawing();
    if (m_atTable && !house().session->part().findStep(m_drawing->step())) m_atTable = false;
    m_drawing->watch(m_atTable);
    house().bar->showTableWords(m_atTable);
    if (!m_atTable && house().bar->editing()) house().bar->drop();
}

void OutlineRoom::leave() {
    m_inside = false;
    m_drawing->watch(false);
    house().bar->showTableWords(false);
    if (house().bar->editing()) house().bar->drop();
}

bool OutlineRoom::isDrawn(int step) const {
    const Step* s = house().session->part().findStep(step);
    return s && filledIn(*s) == FilledIn::DrawingTable;
}

/// A part without stations whose drawing is not on the table yet: it is what the room is about.
void OutlineRoom::showOnlyDrawing() {
    const Part& part = house().session->part();
    if (part.findStep(m_drawing->step())) return;
    const Step* drawn = nullptr;
    for (const Step& s : part.steps) {
        if (filledIn(s) == FilledIn::Stations) return;
        if (filledIn(s) == FilledIn::DrawingTable) drawn = &s;
    }
    if (!drawn) return;
    m_atTable = true;
    m_drawing->showStep(drawn->id);
    m_table->fit();
    m_table->setTool(QStringLiteral("choose"));
}

void OutlineRoom::showOutline(int step) {
    m_atTable = isDrawn(step);
    if (m_atTable)
        m_drawing->showStep(step);
    else
        m_stations->showStep(step);
    house().go(stage());
    if (!m_atTable) return;
    layTable();
    m_table->ghost().stale();
    m_table->fit();
    m_table->setTool(m_drawing->drawing().strokes.empty() ? QStringLiteral("line")
                                                          : QStringLiteral("choose"));
}

/// Where the drawing on the table lies, as it was built last.
void OutlineRoom::layTable() {
    const auto& built = house().forge->drawings();
    if (const auto drawn = built.find(m_drawing->step()); drawn != built.end())
        return m_table->setPlane(drawn->second.plane);
    // It could not be built: its plane may have been.
    if (!isDrawn(m_drawing->step())) return;
    const Step* step = m_drawing->drawnStep();
    for (const PlaneView& p : house().forge->planes())
        if (p.name.toStdString() == step->text("plane"))
            m_table->setPlane(asItLies(p.plane, step->text("seen"), step->text("up")));
}

/// A tool of the table, or an edit of what is chosen on it.
bool OutlineRoom::verb(const QString& kind) {
    const bool edit = kind.startsWith(QLatin1String("edit:"));
    if (!edit && !kind.startsWith(QLatin1String("tool:"))) return false;
    if (kind == QLatin1String("tool:done")) {
        house().go(QStringLiteral("Form"));
    } else if (edit) {
        m_table->askEdit(kind);
    } else if (kind == QLatin1String("tool:bring")) {
        const QString path = QFileDialog::getOpenFileName(house().window, tr("Bring in a drawing"), {},
                                                          tr("Drawings (*.svg *.dxf *.SVG *.DXF)"));
        if (!path.isEmpty()) bringIn(path);
    } else if (kind == QLatin1String("tool:write")) {
        const QString path =
            askWhereToWrite(house().window, tr("Write this drawing"), tr("drawing"),
                            tr("SVG, in millimetres (*.svg);;DXF, exact (*.dxf)"), QStringLiteral("svg"));
        if (!path.isEmpty()) writeOut(path);
    } else {
        if (house().bar->editing()) house().bar->drop();
        m_table->setTool(kind.section(QLatin1Char(':'), 1));
    }
    return true;
}

void OutlineRoom::toolTaken(const QString& key) {
    for (const ToolKind& t : allTools())
        if (t.key == key) {
            house().verbs->setActive(QStringLiteral("tool:") + t.key);
            house().bar->say(t.tip);
        }
}

void OutlineRoom::beginOnAreas(const QString& kind, const Areas& areas) {
    const Step* drawn = m_drawing->drawnStep();
    if (!drawn) return;
    const QString outline = QString::fromStdString(nameGiven(*drawn, Thing::Outline));
    SentenceBar* bar = house().bar;
    house().go(QStringLiteral("Form"));
    bar->begin(kind);
    for (const SlotWords& s : findStepWords(kind.toStdString())->slots) {
        if (s.type == SlotType::OutlineRef) bar->fillText(QString::fromStdString(s.key), outline);
        if (s.type == SlotType::AreaRef)
            bar->fillText(QString::fromStdString(s.key), QString::fromStdString(areaText(areas)));
    }
}

// ---- files

void OutlineRoom::bringIn(const QString& path) {
    m_readFor = m_drawing->step();
    house().bar->say(tr("Reading %1 … Esc leaves it.").arg(QFileInfo(path).fileName()));
    m_reading->start(path);
}

void OutlineRoom::takeIn(const QString& path, const Result<ImportedDrawing>& read) {
    SentenceBar* bar = house().bar;
    if (!read) return bar->say(QStringLiteral("■ ") + inWords(read.error().sentence));
    if (!openDrawing() || m_drawing->step() != m_readFor)
        return bar->say(QStringLiteral("▲ ") + tr("%1 was read, but its drawing is no longer on the table. "
                                                  "Open it and bring the file in again.")
                                                   .arg(QFileInfo(path).fileName()));
    if (!m_table->bringIn(read->drawing)) return; // the bar says why
    QStringList said{tr("%1 lines and curves from %2. They move as one.")
                         .arg(read->drawing.strokes.size())
                         .arg(QFileInfo(path).fileName())};
    for (const Message& note : read->notes) said << inWords(note);
    bar->say((read->notes.empty() ? QStringLiteral("✓ ") : QStringLiteral("▲ ")) +
             said.join(QLatin1Char(' ')));
}

bool OutlineRoom::eventFilter(QObject* watched, QEvent* e) {
    const bool escape = e->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(e)->key() == Qt::Key_Escape;
    if (!escape || !m_reading->cancel()) return Room::eventFilter(watched, e);
    house().bar->say(tr("Left. The drawing is as it was."));
    return true;
}

void OutlineRoom::writeOut(const QString& path) {
    const Drawing& d = m_drawing->drawing();
    const bool dxf = path.endsWith(QLatin1String(".dxf"), Qt::CaseInsensitive);
    const auto written = writeFileAtomically(path.toStdString(), dxf ? writeDxf(d) : writeSvg(d));
    house().bar->say(written
                         ? QStringLiteral("✓ ") + tr("Written to %1, true to size in millimetres.").arg(path)
                         : QStringLiteral("■ ") + inWords(written.error().sentence));
}

void OutlineRoom::askPicture() {
    const QString path = QFileDialog::getOpenFileName(house().window, tr("A picture to draw over"), {},
                                                      tr("Pictures (*.png *.jpg *.jpeg *.PNG *.JPG *.JPEG)"));
    if (!path.isEmpty()) layPicture(path);
}

void OutlineRoom::layPicture(const QString& path) {
    const QString why = m_drawing->layPicture(path);
    if (!why.isEmpty()) return house().bar->say(QStringLiteral("■ ") + why);
    m_table->setTool(QStringLiteral("picture"));
    m_table->fit();
    house().bar->say(tr("Click two places whose distance you know; it sets the picture to scale."));
}

/// Decoding takes a while: only when it is another picture.
void OutlineRoom::showPicture() {
    const auto& placed = m_drawing->drawing().picture;
    std::optional<SharedText> content;
    for (const Attachment& a : house().session->part().attachments)
        if (placed && a.name == placed->file) content = a.content;
    if (content.has_value() == m_shownPicture.has_value() &&
        (!content || &content->text() == &m_shownPicture->text()))
        return; // the very text: it is kept, so that no other can have its place
    m_shownPicture = content;
    m_table->setPicture(m_drawing->picture());
}

} // namespace gc::app

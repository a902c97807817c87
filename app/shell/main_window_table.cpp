#include "app/look/words.hpp"
#include "app/shell/main_window.hpp"
#include "core/base/file.hpp"
#include "core/document/areas.hpp"
#include "core/document/planes.hpp"
#include "core/exchange/drawings/drawing_files.hpp"

#include <QFileDialog>
#include <QFileInfo>

namespace gc::app {

void MainWindow::connectTable() {
    connect(m_table, &DrawingTable::message, m_bar, &SentenceBar::say);
    m_table->ghost().draw = [this](const Camera& camera, QSize size, std::optional<QVector4D> cut) {
        return m_stand->ghost(camera, size, cut);
    };
    m_table->ghost().corners = [this] { return m_stand->corners(); };
    connect(m_forge, &ForgeLink::meshesChanged, m_table, [this] { m_table->ghost().stale(); });
    connect(m_forge, &ForgeLink::guidesChanged, this, &MainWindow::layTable);
    connect(m_forge, &ForgeLink::lookChanged, this, [this] {
        if (m_pages->currentWidget() == m_table) m_table->setTraces(m_forge->traces());
    });
    connect(m_table, &DrawingTable::planePickAsked, this,
            [this] { m_selection->pickFor(m_drawing->step(), QStringLiteral("plane")); });
    connect(m_table, &DrawingTable::pictureAsked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(
            this, tr("A picture to draw over"), {}, tr("Pictures (*.png *.jpg *.jpeg *.PNG *.JPG *.JPEG)"));
        if (!path.isEmpty()) layPicture(path);
    });
    connect(m_table, &DrawingTable::editAsked, m_bar, &SentenceBar::beginEdit);
    connect(m_table, &DrawingTable::areaAsked, this,
            [this](const QString& kind, const std::vector<int>& strokes) {
                const Step* drawn = m_session->part().findStep(m_drawing->step());
                if (!drawn) return;
                const QString outline = QString::fromStdString(nameGiven(*drawn, Thing::Outline));
                setStage(QStringLiteral("Form"));
                m_bar->begin(kind);
                for (const SlotWords& s : findStepWords(kind.toStdString())->slots) {
                    if (s.type == SlotType::OutlineRef)
                        m_bar->fillText(QString::fromStdString(s.key), outline);
                    if (s.type == SlotType::AreaRef)
                        m_bar->fillText(QString::fromStdString(s.key),
                                        QString::fromStdString(areaText(strokes)));
                }
            });
    connect(m_bar, &SentenceBar::editChanged, m_table, &DrawingTable::previewEdit);
    connect(m_bar, &SentenceBar::editKept, this, [this](const Step& edit) {
        if (m_table->keepEdit(edit)) m_bar->drop();
    });
    connect(m_bar, &SentenceBar::editDropped, this, [this] {
        m_table->previewEdit(std::nullopt);
        m_table->setFocus();
    });
    connect(m_table, &DrawingTable::toolChanged, this, [this](const QString& key) {
        for (const ToolKind& t : allTools())
            if (t.key == key) {
                m_verbs->setActive(QStringLiteral("tool:") + t.key);
                m_bar->say(t.tip);
            }
    });
    connect(m_drawing, &DrawingModel::changed, this, [this] {
        showPicture();
        // Undone to before it was there: nothing lies on the table any more.
        if (!m_drawing->step() && m_pages->currentWidget() == m_table) setStage(m_stages->stage());
    });
}

/// Where the drawing on the table lies, as it was built last.
void MainWindow::layTable() {
    const auto drawn = m_forge->drawings().find(m_drawing->step());
    if (drawn != m_forge->drawings().end()) return m_table->setPlane(drawn->second.plane);
    // It could not be built: its plane may have been.
    const Step* step = m_session->part().findStep(m_drawing->step());
    if (!step || filledIn(*step) != FilledIn::DrawingTable) return;
    for (const PlaneView& p : m_forge->planes())
        if (p.name.toStdString() == step->text("plane"))
            m_table->setPlane(asItLies(p.plane, step->text("seen"), step->text("up")));
}

/// Decoding takes a while: only when it is another picture.
void MainWindow::showPicture() {
    const auto& placed = m_drawing->drawing().picture;
    std::optional<SharedText> content;
    for (const Attachment& a : m_session->part().attachments)
        if (placed && a.name == placed->file) content = a.content;
    if (content.has_value() == m_shownPicture.has_value() &&
        (!content || &content->text() == &m_shownPicture->text()))
        return; // the very text: it is kept, so that no other can have its place
    m_shownPicture = content;
    m_table->setPicture(m_drawing->picture());
}

void MainWindow::layPicture(const QString& path) {
    const QString why = m_drawing->layPicture(path);
    if (!why.isEmpty()) return m_bar->say(QStringLiteral("■ ") + why);
    m_table->setTool(QStringLiteral("picture"));
    m_table->fit();
    m_bar->say(tr("Click two places whose distance you know; it sets the picture to scale."));
}

/// A part without stations whose drawing is not on the table yet: it is what the stage is about.
void MainWindow::showOnlyDrawing() {
    const Part& part = m_session->part();
    if (part.findStep(m_drawing->step())) return;
    const Step* drawn = nullptr;
    for (const Step& s : part.steps) {
        if (filledIn(s) == FilledIn::Stations) return;
        if (filledIn(s) == FilledIn::DrawingTable) drawn = &s;
    }
    if (!drawn) return;
    m_pageOf[QStringLiteral("Outline")] = m_table;
    m_drawing->showStep(drawn->id);
    m_table->fit();
    m_table->setTool(QStringLiteral("choose"));
}

/// A tool of the table, or an edit of what is chosen on it.
void MainWindow::tableVerb(const QString& kind) {
    if (kind == QLatin1String("tool:done")) return setStage(QStringLiteral("Form"));
    if (kind.startsWith(QLatin1String("edit:"))) return m_table->askEdit(kind);
    if (kind == QLatin1String("tool:bring")) {
        const QString path = QFileDialog::getOpenFileName(this, tr("Bring in a drawing"), {},
                                                          tr("Drawings (*.svg *.dxf *.SVG *.DXF)"));
        return path.isEmpty() ? void() : bringIn(path);
    }
    if (kind == QLatin1String("tool:write")) {
        const QString path =
            QFileDialog::getSaveFileName(this, tr("Write this drawing"), tr("drawing.svg"),
                                         tr("SVG, in millimetres (*.svg);;DXF, exact (*.dxf)"));
        return path.isEmpty() ? void() : writeOut(path);
    }
    if (m_bar->editing()) m_bar->drop();
    m_table->setTool(kind.section(QLatin1Char(':'), 1));
}

void MainWindow::bringIn(const QString& path) {
    constexpr std::size_t kMost = 64u << 20;
    const auto content = readFile(path.toStdString(), kMost);
    if (!content) return m_bar->say(QStringLiteral("■ ") + inWords(content.error().sentence));
    const auto read = readDrawingFile(path.toStdString(), *content);
    if (!read) return m_bar->say(QStringLiteral("■ ") + inWords(read.error().sentence));
    m_table->bringIn(read->drawing);
    QStringList said{tr("%1 lines and curves from %2. They move as one.")
                         .arg(read->drawing.strokes.size())
                         .arg(QFileInfo(path).fileName())};
    for (const Message& note : read->notes) said << inWords(note);
    m_bar->say((read->notes.empty() ? QStringLiteral("✓ ") : QStringLiteral("▲ ")) +
               said.join(QLatin1Char(' ')));
}

void MainWindow::writeOut(const QString& path) {
    const Drawing& d = m_drawing->drawing();
    const bool dxf = path.endsWith(QLatin1String(".dxf"), Qt::CaseInsensitive);
    const auto written = writeFileAtomically(path.toStdString(), dxf ? writeDxf(d) : writeSvg(d));
    m_bar->say(written ? QStringLiteral("✓ ") + tr("Written to %1, true to size in millimetres.").arg(path)
                       : QStringLiteral("■ ") + inWords(written.error().sentence));
}

void MainWindow::showOutline(int step) {
    const Step* s = m_session->part().findStep(step);
    const bool drawn = s && filledIn(*s) == FilledIn::DrawingTable;
    m_pageOf[QStringLiteral("Outline")] = drawn ? static_cast<QWidget*>(m_table) : m_stations;
    if (drawn)
        m_drawing->showStep(step);
    else
        m_stations->showStep(step);
    setStage(QStringLiteral("Outline"));
    if (!drawn) return;
    layTable();
    m_table->ghost().stale();
    m_table->fit();
    m_table->setTool(m_drawing->drawing().strokes.empty() ? QStringLiteral("line")
                                                          : QStringLiteral("choose"));
}

} // namespace gc::app

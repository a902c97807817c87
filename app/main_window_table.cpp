#include "app/main_window.hpp"

namespace gc::app {

void MainWindow::connectTable() {
    connect(m_table, &DrawingTable::message, m_bar, &SentenceBar::say);
    connect(m_table, &DrawingTable::editAsked, m_bar, &SentenceBar::beginEdit);
    connect(m_bar, &SentenceBar::editChanged, m_table, &DrawingTable::previewEdit);
    connect(m_bar, &SentenceBar::editKept, this, [this](const Step& edit) {
        if (m_table->keepEdit(edit)) m_bar->drop();
    });
    connect(m_bar, &SentenceBar::editDropped, this, [this] {
        m_table->previewEdit(std::nullopt);
        m_table->setFocus();
    });
    connect(m_table, &DrawingTable::toolChanged, this, [this](Tool tool) {
        for (const ToolWords& t : allTools())
            if (t.tool == tool) {
                m_verbs->setActive(QStringLiteral("tool:") + t.key);
                m_bar->say(t.tip);
            }
    });
    connect(m_drawing, &DrawingModel::changed, this, [this] {
        // Undone to before it was there: nothing lies on the table any more.
        if (!m_drawing->step() && m_pages->currentWidget() == m_table) setStage(m_stages->stage());
    });
}

/// A tool of the table, or an edit of what is chosen on it.
void MainWindow::tableVerb(const QString& kind) {
    if (kind == QLatin1String("tool:done")) return setStage(QStringLiteral("Form"));
    if (kind.startsWith(QLatin1String("edit:"))) return m_table->askEdit(kind);
    if (m_bar->editing()) m_bar->drop();
    for (const ToolWords& t : allTools())
        if (kind.endsWith(QLatin1Char(':') + t.key)) m_table->setTool(t.tool);
}

void MainWindow::showOutline(int step) {
    const Step* s = m_session->part().findStep(step);
    const bool drawn = s && s->kind == "draw";
    m_pageOf[QStringLiteral("Outline")] = drawn ? static_cast<QWidget*>(m_table) : m_stations;
    if (drawn)
        m_drawing->showStep(step);
    else
        m_stations->showStep(step);
    setStage(QStringLiteral("Outline"));
    if (!drawn) return;
    m_table->fit();
    m_table->setTool(m_drawing->drawing().strokes.empty() ? Tool::Line : Tool::Choose);
}

} // namespace gc::app

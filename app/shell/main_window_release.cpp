#include "app/look/theme.hpp"
#include "app/rooms/export_choice.hpp"
#include "app/shell/main_window.hpp"
#include "app/stand/bodies_strip.hpp"

#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>

#include <algorithm>

// Files for others, and how the bodies of a part are told apart.

namespace gc::app {

/// Beside the part's file, named like the part.
QString MainWindow::suggestedPath(const QString& ending) const {
    return QFileInfo(m_session->file()).absolutePath() + QLatin1Char('/') +
           QString::fromStdString(m_session->part().name)
               .toLower()
               .replace(QLatin1Char(' '), QLatin1Char('-')) +
           ending;
}

void MainWindow::connectRelease() {
    connect(m_release, &ReleasePage::exportAsked, this, [this](const QString& ending) {
        const QString path = QFileDialog::getSaveFileName(this, tr("Export"), suggestedPath(ending));
        if (!path.isEmpty()) exportTo(path);
    });
    connect(m_release, &ReleasePage::proofSheetAsked, this, [this](const QString& ending) {
        const QString path = QFileDialog::getSaveFileName(this, tr("Proof sheet"),
                                                          suggestedPath(QStringLiteral("-proof") + ending));
        if (!path.isEmpty() && writeProofSheet(path)) m_bar->say(tr("✓ Written: %1").arg(path));
    });
}

void MainWindow::exportTo(const QString& path) {
    const auto& meshes = m_forge->meshes();
    if (!path.endsWith(QLatin1String(".stl"), Qt::CaseInsensitive) || meshes.size() < 2)
        return exportBodies(path, {});
    const Part& part = m_session->part();
    std::vector<ExportChoice::Body> bodies;
    for (const auto& [id, mesh] : meshes)
        bodies.push_back({id, QString::fromStdString(nameOfBody(part, id)), lookOf(part, id).hidden});
    ExportChoice choice(bodies, this);
    if (choice.exec() != QDialog::Accepted) return m_bar->say(tr("Nothing is written."));
    const auto wanted = choice.bodies();
    if (!choice.apart())
        return exportBodies(path, wanted.size() == bodies.size() ? std::vector<ThingId>() : wanted);
    const QFileInfo file(path);
    for (const ThingId id : wanted)
        exportBodies(file.path() + QLatin1Char('/') + file.completeBaseName() + QLatin1Char('-') +
                         QString::fromStdString(nameOfBody(part, id))
                             .replace(QLatin1Char(' '), QLatin1Char('-'))
                             .remove(QLatin1Char('/')) +
                         QStringLiteral(".stl"),
                     {id});
}

void MainWindow::exportBodies(const QString& path, const std::vector<ThingId>& bodies, bool evenIfStepsFail) {
    m_exports[path] = bodies;
    m_forge->exportPart(m_session->part(), path, evenIfStepsFail, bodies);
}

/// Steps fail, so the file would show less than the sheet says: that is not done without a word.
void MainWindow::askAboutFailing(const QString& path, const std::vector<int>& steps) {
    QStringList numbers;
    for (const int id : steps) numbers << QString::number(m_session->part().placeOf(id));
    const QString which = numbers.size() == 1 ? tr("Step %1 fails").arg(numbers.front())
                                              : tr("Steps %1 fail").arg(numbers.join(QStringLiteral(", ")));
    QMessageBox ask(
        QMessageBox::NoIcon, tr("Good Curve"),
        tr("%1, so the file would show the part without what is missing there. Nothing is written "
           "yet.")
            .arg(which),
        QMessageBox::NoButton, this);
    ask.setObjectName(QStringLiteral("failingSteps"));
    auto* write = ask.addButton(tr("Write it all the same"), QMessageBox::AcceptRole);
    ask.addButton(tr("Mend it first"), QMessageBox::RejectRole);
    ask.exec();
    if (ask.clickedButton() == write)
        exportBodies(path, m_exports[path], true);
    else
        m_bar->say(tr("▲ Not written. %1: the sheet says why.").arg(which));
}

/// Bodies that nobody gave a colour are told apart by ours, in the order in which the sheet makes them.
void MainWindow::dressBodies() {
    const Part& part = m_session->part();
    std::map<ThingId, BodyStyle> styles;
    std::map<ThingId, QColor> shown;
    const auto& colours = theme().bodies;
    for (const auto& [id, mesh] : m_forge->meshes()) {
        const BodyLook look = lookOf(part, id);
        const auto rank = static_cast<qsizetype>(placeAmongBodies(part, id));
        const QColor colour = look.colour.empty() ? colours[rank % colours.size()]
                                                  : QColor(QString::fromStdString(look.colour));
        styles[id] = {colour, look.hidden};
        shown[id] = colour;
    }
    m_bodies->show(shown);
    m_stand->setStyles(styles);
}

} // namespace gc::app

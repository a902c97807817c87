#include "app/main_window.hpp"
#include "app/theme.hpp"

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
    m_forge->exportPart(m_session->part(), path);
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
        m_forge->exportPart(m_session->part(), path, true);
    else
        m_bar->say(tr("▲ Not written. %1: the sheet says why.").arg(which));
}

/// Bodies that nobody gave a colour are told apart by ours, in the order in which the sheet makes them.
void MainWindow::dressBodies() {
    const Part& part = m_session->part();
    std::map<ThingId, BodyStyle> styles;
    std::vector<int> makers;
    for (const Step& s : part.steps)
        if (!nameGiven(s, Thing::Body).empty()) makers.push_back(s.id);
    const auto& colours = theme().bodies;
    for (const auto& [id, mesh] : m_forge->meshes()) {
        const BodyLook look = lookOf(part, id);
        const auto rank = std::find(makers.begin(), makers.end(), id.step) - makers.begin() + id.ordinal;
        styles[id] = {look.colour.empty() ? colours[static_cast<qsizetype>(rank) % colours.size()]
                                          : QColor(QString::fromStdString(look.colour)),
                      look.hidden};
    }
    m_stand->setStyles(styles);
}

} // namespace gc::app

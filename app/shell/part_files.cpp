#include "app/shell/part_files.hpp"

#include "app/sentence/sentence_bar.hpp"
#include "app/shell/session.hpp"

#include <QFileDialog>
#include <QFileInfo>
#include <QMessageBox>
#include <QPushButton>

#include <filesystem>

namespace gc::app {

PartFiles::PartFiles(Session* session, SentenceBar* bar, QWidget* window)
    : QObject(window), m_session(session), m_bar(bar), m_window(window) {}

void PartFiles::startNew() {
    if (mayLeave()) m_session->startNew();
}

void PartFiles::open(const QString& path) {
    if (mayLeave()) m_session->open(path);
}

void PartFiles::open() {
    if (!mayLeave()) return;
    const QString path =
        QFileDialog::getOpenFileName(m_window, tr("Open a part"), QFileInfo(m_session->file()).absolutePath(),
                                     tr("Good Curve parts (*.goodcurve)"));
    if (!path.isEmpty()) m_session->open(path);
}

void PartFiles::save(bool elsewhere) {
    QString path = m_session->file();
    if (path.isEmpty() || elsewhere)
        path = QFileDialog::getSaveFileName(m_window, tr("Save the part"),
                                            path.isEmpty() ? QString::fromStdString(m_session->part().name) +
                                                                 QStringLiteral(".goodcurve")
                                                           : path);
    if (path.isEmpty()) return;
    if (!path.endsWith(QLatin1String(".goodcurve"))) path += QStringLiteral(".goodcurve");
    if (m_session->save(path)) m_bar->say(tr("✓ Saved: %1").arg(path));
}

bool PartFiles::mayLeave() {
    if (!m_session->changed() || m_session->history().now().steps.empty()) return true;
    QMessageBox ask(
        QMessageBox::NoIcon, tr("Good Curve"),
        tr("\"%1\" has changes that are not saved.").arg(QString::fromStdString(m_session->part().name)),
        QMessageBox::NoButton, m_window);
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

bool PartFiles::offerLostWork() {
    const auto lost = findLostWork(journalFolder());
    if (lost.empty()) return false;
    const RecoveredWork& w = lost.front();
    QMessageBox ask(QMessageBox::NoIcon, tr("Good Curve"),
                    tr("\"%1\" was not closed properly. %n edit(s) are kept, the last: %2.", nullptr, w.edits)
                        .arg(QString::fromStdString(w.part.name), QString::fromStdString(w.lastEdit)),
                    QMessageBox::NoButton, m_window);
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

} // namespace gc::app

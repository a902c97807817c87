#include "app/shell/part_files.hpp"

#include "app/sentence/sentence_bar.hpp"
#include "app/shell/ask_file.hpp"
#include "app/shell/question.hpp"
#include "app/shell/session.hpp"

#include <QDateTime>
#include <QFileDialog>
#include <QFileInfo>
#include <QLocale>

#include <filesystem>

namespace gc::app {

namespace {

QString nameOf(const QString& path) {
    return QFileInfo(path).fileName();
}

} // namespace

PartFiles::PartFiles(Session* session, SentenceBar* bar, QWidget* window)
    : QObject(window), m_session(session), m_bar(bar), m_window(window) {}

void PartFiles::begin(const QString& file) {
    if (offerLostWork()) {
        const bool other = !file.isEmpty() && QFileInfo(file).absoluteFilePath() != m_session->file();
        if (other)
            m_bar->say(
                tr("▲ \"%1\" was not opened, as this window went on with lost work. The menu opens it.")
                    .arg(nameOf(file)));
        return;
    }
    if (!file.isEmpty() && openUnlessHeld(file)) return;
    m_session->startNew();
    Q_EMIT nothingOpen();
}

bool PartFiles::openExample(const QString& key) {
    if (!mayLeave()) return false;
    m_session->openExample(key);
    return true;
}

bool PartFiles::startNew() {
    if (!mayLeave()) return false;
    m_session->startNew();
    return true;
}

void PartFiles::open(const QString& path) {
    if (mayLeave()) openUnlessHeld(path);
}

void PartFiles::open() {
    if (!mayLeave()) return;
    const QString path =
        QFileDialog::getOpenFileName(m_window, tr("Open a part"), QFileInfo(m_session->file()).absolutePath(),
                                     tr("Good Curve parts (*.goodcurve)"));
    if (!path.isEmpty()) openUnlessHeld(path);
}

bool PartFiles::openUnlessHeld(const QString& path) {
    const bool own = QFileInfo(path).absoluteFilePath() == m_session->file();
    if (!own && QFileInfo::exists(path) && Session::isOpenElsewhere(path)) {
        Question ask(m_window, "heldFile",
                     tr("\"%1\" is open in another window. Edits that are saved in one of them are lost when "
                        "the other "
                        "is saved after it.")
                         .arg(nameOf(path)),
                     {tr("Open it all the same"), tr("Leave it")});
        if (ask.ask() != 0) return false;
    }
    return m_session->open(path);
}

QString PartFiles::askWhere() const {
    const QString name =
        m_session->file().isEmpty()
            ? QString::fromStdString(m_session->part().name).replace(QLatin1Char('/'), QLatin1Char('-')) +
                  QStringLiteral(".goodcurve")
            : m_session->file();
    return askWhereToWrite(m_window, tr("Save the part"), name, tr("Good Curve parts (*.goodcurve)"),
                           QStringLiteral("goodcurve"));
}

void PartFiles::save(bool elsewhere) {
    QString path = m_session->file();
    if (path.isEmpty() || elsewhere) path = askWhere();
    if (path.isEmpty() || !mayOverwrite(path)) return;
    if (m_session->save(path)) m_bar->say(tr("✓ Saved: %1").arg(path));
}

/// What somebody else has saved meanwhile is not overwritten without a word. \param path another one, where
/// that is wanted
bool PartFiles::mayOverwrite(QString& path) {
    for (;;) {
        const Session::Conflict conflict = m_session->conflictAt(path);
        if (conflict == Session::Conflict::None) return true;
        const bool changed = conflict == Session::Conflict::ChangedOnDisk;
        Question ask(
            m_window, "conflict",
            changed ? tr("\"%1\" was changed on disk since it was opened here. Saving overwrites what was "
                         "changed there.")
                          .arg(nameOf(path))
                    : tr("\"%1\" is open in another window, which would not know of it.").arg(nameOf(path)),
            {tr("Save under another name"), tr("Overwrite it"), tr("Do not save")});
        const int answer = ask.ask();
        if (answer == 1) return true;
        if (answer == 2) return false;
        path = askWhere();
        if (path.isEmpty()) return false;
    }
}

bool PartFiles::mayLeave() {
    if (!m_session->worthKeeping()) return true;
    Question ask(
        m_window, "unsaved",
        tr("\"%1\" has changes that are not saved.").arg(QString::fromStdString(m_session->part().name)),
        {tr("Save"), tr("Let them go"), tr("Stay here")});
    const int answer = ask.ask();
    if (answer == 0) save(false);
    return answer == 1 || (answer == 0 && !m_session->changed());
}

bool PartFiles::offerLostWork() {
    const auto lost = findLostWork(journalFolder());
    for (std::size_t i = 0; i < lost.size(); ++i) {
        const RecoveredWork& w = lost[i];
        QStringList text{
            tr("\"%1\" was not closed properly, %2. %3, the last: %4.")
                .arg(QString::fromStdString(w.part.name),
                     QLocale().toString(QDateTime::fromSecsSinceEpoch(w.lastWritten), QLocale::ShortFormat),
                     w.edits == 1 ? tr("One edit is kept") : tr("%1 edits are kept").arg(w.edits),
                     QString::fromStdString(w.lastEdit))};
        if (!w.file.empty()) text << tr("File: %1").arg(QString::fromStdString(w.file.string()));
        if (w.skipped > 0)
            text << (w.skipped == 1
                         ? tr("▲ The journal is damaged at one place: look at the part before you save it.")
                         : tr("▲ The journal is damaged at %1 places: look at the part before you save it.")
                               .arg(w.skipped));
        if (lost.size() > 1) text << tr("Lost work %1 of %2.").arg(i + 1).arg(lost.size());
        Question ask(m_window, "lostWork", text.join(QLatin1Char('\n')),
                     {tr("Go on with it"), tr("Let it go"), tr("Later")});
        const int answer = ask.ask();
        if (answer == 0) {
            m_session->takeOver(w);
            return true;
        }
        if (answer == 1) letGo(w);
    }
    return false;
}

bool PartFiles::letGo(const RecoveredWork& work) {
    Question sure(
        m_window, "letGo",
        tr("The edits of \"%1\" are gone for good then.").arg(QString::fromStdString(work.part.name)),
        {tr("Let them go"), tr("Keep them for later")});
    if (sure.ask() != 0) return false;
    std::error_code ignored;
    return std::filesystem::remove(work.journal, ignored);
}

} // namespace gc::app

#include "app/shell/session.hpp"
#include "app/look/words.hpp"

#include "core/base/file.hpp"
#include "core/document/part_file.hpp"

#include <QDateTime>
#include <QFile>
#include <QFileInfo>
#include <QSettings>

namespace gc::app {

Session::Session(QObject* parent) : QObject(parent) {}

void Session::begin(Part part, const QString& file, bool changed) {
    auto old = std::move(m_journal); // it goes only when the new one is whole
    holdFile(file);
    m_changed = changed;
    m_recovered = false;
    m_savedAt = changed ? 0 : QDateTime::currentMSecsSinceEpoch();
    m_saved = part;
    m_history = History(std::move(part));
    auto journal = Journal::start(journalFolder(), m_saved, file.toStdString());
    m_behind = !journal;
    if (journal) m_journal = std::move(*journal);
    if (old) old->discard();
    dropTakenOver();
    if (!journal) Q_EMIT problem(inWords(journal.error().sentence));
    Q_EMIT partChanged();
    Q_EMIT stateChanged();
}

/// From now on this is the file, and this what it holds.
void Session::holdFile(const QString& file) {
    if (file != m_file) m_claim.reset();
    m_file = file;
    m_onDisk = file.isEmpty() ? std::nullopt : contentHash(file.toStdString());
    if (!file.isEmpty() && !m_claim) m_claim = FileClaim::take(journalFolder(), file.toStdString());
}

void Session::startNew() {
    Part part;
    part.brief.targets = {
        {"mass", "≤ 100 g"}, {"thinnest wall", "≥ 2 mm"}, {"lean", "≥ 1°"}, {"pieces", "1"}};
    begin(std::move(part), {}, true);
}

void Session::openExample(const QString& key) {
    QFile file(QStringLiteral(":/examples/%1.goodcurve").arg(key));
    if (!file.open(QIODevice::ReadOnly)) return;
    if (auto part = readPart(file.readAll().toStdString())) begin(std::move(*part), {}, true);
}

bool Session::open(const QString& path) {
    auto part = loadPart(path.toStdString());
    if (!part) {
        Q_EMIT problem(inWords(part.error().sentence));
        return false;
    }
    begin(std::move(*part), QFileInfo(path).absoluteFilePath(), false);
    remember(path);
    return true;
}

/// The old journal goes only after all of it is in the new one.
void Session::takeOver(const RecoveredWork& work) {
    begin(work.part, QString::fromStdString(work.file.string()), true);
    m_recovered = true;
    if (work.fileHash) m_onDisk = work.fileHash; // what is there now may be another's work
    m_takenOver = work.journal;
    keepInJournal(tr("recovered"));
}

/// What was taken over is in the journal of this window, in its file, or was let go knowingly.
void Session::dropTakenOver() {
    const std::filesystem::path old = std::exchange(m_takenOver, {});
    if (old.empty()) return;
    std::error_code ignored;
    std::filesystem::remove(old, ignored);
    syncFolder(old.parent_path());
}

/// Where there is no journal, or it could not be written, all is tried again with every edit.
void Session::keepInJournal(const QString& what) {
    Result<Done> done = Done{};
    if (!m_journal) {
        auto journal = Journal::start(journalFolder(), m_saved, m_file.toStdString());
        if (journal)
            m_journal = std::move(*journal);
        else
            done = journal.error();
    }
    if (m_journal) done = m_journal->append(m_history.now(), what.toStdString());
    m_behind = !done;
    if (!done) return Q_EMIT problem(inWords(done.error().sentence));
    dropTakenOver();
}

bool Session::commit(const Part& part, const QString& what) {
    if (const auto why = whyNotReadable(part, m_history.now())) {
        Q_EMIT problem(inWords(why->sentence));
        Q_EMIT partChanged(); // what shows the edit already goes back
        return false;
    }
    m_history.commit(part, what.toStdString());
    edited(what);
    return true;
}

void Session::edited(const QString& what) {
    m_changed = true;
    keepInJournal(what);
    Q_EMIT partChanged();
    Q_EMIT stateChanged();
}

void Session::undo() {
    if (!m_history.canUndo()) return;
    m_history.undo();
    edited(tr("undo"));
}

void Session::redo() {
    if (!m_history.canRedo()) return;
    m_history.redo();
    edited(tr("redo"));
}

Session::Conflict Session::conflictAt(const QString& path) const {
    const bool own = !m_file.isEmpty() && QFileInfo(path).absoluteFilePath() == m_file;
    if (!own) return isOpenElsewhere(path) ? Conflict::OpenElsewhere : Conflict::None;
    const auto now = contentHash(path.toStdString());
    return now && now != m_onDisk ? Conflict::ChangedOnDisk : Conflict::None;
}

bool Session::isOpenElsewhere(const QString& path) {
    return !FileClaim::take(journalFolder(), path.toStdString());
}

bool Session::save(const QString& path) {
    const auto done = savePart(part(), path.toStdString());
    if (!done) {
        Q_EMIT problem(inWords(done.error().sentence));
        return false;
    }
    holdFile(QFileInfo(path).absoluteFilePath());
    m_changed = false;
    m_recovered = false;
    m_saved = part();
    m_savedAt = QDateTime::currentMSecsSinceEpoch();
    if (m_journal) {
        const auto restarted = m_journal->restart(part(), path.toStdString());
        m_behind = m_behind && !restarted;
        if (!restarted) Q_EMIT problem(inWords(restarted.error().sentence));
    }
    dropTakenOver();
    remember(path);
    Q_EMIT stateChanged();
    return true;
}

void Session::endCleanly() {
    if (m_journal) m_journal->discard();
    m_journal.reset();
    m_claim.reset();
    dropTakenOver();
}

QString Session::savedWords() const {
    if (!journalled()) return tr("▲ edits are not kept on disk: save often");
    if (m_file.isEmpty()) return tr("not saved yet");
    if (m_changed) return tr("changed since it was saved");
    const qint64 seconds = (QDateTime::currentMSecsSinceEpoch() - m_savedAt) / 1000;
    return seconds < 60     ? tr("saved just now")
           : seconds < 3600 ? tr("saved %1 min ago").arg(seconds / 60)
                            : tr("saved");
}

QStringList Session::recentFiles() {
    QStringList files = QSettings().value(QStringLiteral("recent")).toStringList();
    files.erase(
        std::remove_if(files.begin(), files.end(), [](const QString& f) { return !QFileInfo::exists(f); }),
        files.end());
    return files;
}

void Session::remember(const QString& file) {
    QStringList files = recentFiles();
    const QString path = QFileInfo(file).absoluteFilePath();
    files.removeAll(path);
    files.prepend(path);
    while (files.size() > 8) files.removeLast();
    QSettings().setValue(QStringLiteral("recent"), files);
}

} // namespace gc::app

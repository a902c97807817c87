#include "app/shell/session.hpp"
#include "app/look/words.hpp"

#include "core/document/part_file.hpp"

#include <QDateTime>
#include <QFileInfo>
#include <QSettings>

namespace gc::app {

Session::Session(QObject* parent) : QObject(parent) {}

void Session::begin(Part part, const QString& file, bool changed) {
    if (m_journal) m_journal->discard();
    m_file = file;
    m_changed = changed;
    m_savedAt = changed ? 0 : QDateTime::currentMSecsSinceEpoch();
    auto journal = Journal::start(journalFolder(), part, file.toStdString());
    if (journal)
        m_journal = std::move(*journal);
    else {
        m_journal.reset();
        Q_EMIT problem(inWords(journal.error().sentence));
    }
    m_history = History(std::move(part));
    Q_EMIT partChanged();
    Q_EMIT stateChanged();
}

void Session::startNew() {
    Part part;
    part.brief.targets = {
        {"mass", "≤ 100 g"}, {"thinnest wall", "≥ 2 mm"}, {"lean", "≥ 1°"}, {"pieces", "1"}};
    begin(std::move(part), {}, true);
}

bool Session::open(const QString& path) {
    auto part = loadPart(path.toStdString());
    if (!part) {
        Q_EMIT problem(inWords(part.error().sentence));
        return false;
    }
    begin(std::move(*part), path, false);
    remember(path);
    return true;
}

void Session::takeOver(const RecoveredWork& work) {
    begin(work.part, QString::fromStdString(work.file.string()), true);
    if (m_journal) journalled(tr("recovered"));
    std::error_code ignored;
    std::filesystem::remove(work.journal, ignored);
}

void Session::journalled(const QString& what) {
    if (!m_journal) return;
    if (const auto done = m_journal->append(m_history.now(), what.toStdString()); !done)
        Q_EMIT problem(inWords(done.error().sentence));
}

void Session::commit(const Part& part, const QString& what) {
    m_history.commit(part, what.toStdString());
    m_changed = true;
    journalled(what);
    Q_EMIT partChanged();
    Q_EMIT stateChanged();
}

void Session::undo() {
    if (!m_history.canUndo()) return;
    m_history.undo();
    m_changed = true;
    journalled(tr("undo"));
    Q_EMIT partChanged();
    Q_EMIT stateChanged();
}

void Session::redo() {
    if (!m_history.canRedo()) return;
    m_history.redo();
    m_changed = true;
    journalled(tr("redo"));
    Q_EMIT partChanged();
    Q_EMIT stateChanged();
}

bool Session::save(const QString& path) {
    const auto done = savePart(part(), path.toStdString());
    if (!done) {
        Q_EMIT problem(inWords(done.error().sentence));
        return false;
    }
    m_file = path;
    m_changed = false;
    m_savedAt = QDateTime::currentMSecsSinceEpoch();
    if (m_journal) {
        const auto restarted = m_journal->restart(part(), path.toStdString());
        if (!restarted) Q_EMIT problem(inWords(restarted.error().sentence));
    }
    remember(path);
    Q_EMIT stateChanged();
    return true;
}

void Session::endCleanly() {
    if (m_journal) m_journal->discard();
    m_journal.reset();
}

QString Session::savedWords() const {
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

#pragma once
/// \file The open part: its history, its file and its journal.

#include "core/document/claim.hpp"
#include "core/document/history.hpp"
#include "core/document/journal.hpp"

#include <QObject>

namespace gc::app {

class Session : public QObject {
    Q_OBJECT
  public:
    explicit Session(QObject* parent = nullptr);

    const Part& part() const { return m_history.now(); }
    QString file() const { return m_file; }
    bool changed() const { return m_changed; }
    /// Something was done that a file does not hold: it must not go unasked.
    bool worthKeeping() const {
        return m_changed && (m_history.canUndo() || m_history.canRedo() || m_recovered);
    }
    /// Edits are kept on disk as they are made. While they are not, savedWords() says so.
    bool journalled() const { return m_journal && !m_behind; }
    const History& history() const { return m_history; }
    QString savedWords() const;

    /// An edit is on disk in the journal before this returns and anything shows it as done. What could not be
    /// read back from a file is refused in words. \return whether it was taken
    bool commit(const Part& part, const QString& what);
    void undo();
    void redo();

    bool open(const QString& path);
    bool save(const QString& path);
    /// What saving there would overwrite.
    enum class Conflict {
        None,
        ChangedOnDisk, ///< the file is not what was opened or saved last
        OpenElsewhere, ///< another window has it open
    };
    Conflict conflictAt(const QString& path) const;
    /// Is it open in another window?
    static bool isOpenElsewhere(const QString& path);
    void startNew();
    /// A copy of a part that comes with the program. \param key the name of its file
    void openExample(const QString& key);
    /// Takes over what an earlier window left behind.
    void takeOver(const RecoveredWork& work);
    void endCleanly();

    static QStringList recentFiles();

  Q_SIGNALS:
    void partChanged();
    void stateChanged(); ///< saved, changed, named
    void problem(const QString& sentence);

  private:
    void begin(Part part, const QString& file, bool changed);
    void edited(const QString& what);
    void keepInJournal(const QString& what);
    void dropTakenOver();
    void holdFile(const QString& file);
    static void remember(const QString& file);

    History m_history{Part{}};
    std::unique_ptr<Journal> m_journal;
    std::unique_ptr<FileClaim> m_claim; ///< on the file
    std::filesystem::path m_takenOver;  ///< the journal of lost work, until all of it is kept elsewhere
    QString m_file;
    std::optional<std::uint64_t> m_onDisk; ///< what the file held when it was opened or saved last
    Part m_saved;                          ///< as it was then
    bool m_changed = false;
    bool m_behind = false;    ///< the last edit is not in the journal
    bool m_recovered = false; ///< it came from a journal
    qint64 m_savedAt = 0;
};

} // namespace gc::app

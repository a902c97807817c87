#pragma once
/// \file The open part: its history, its file and its journal.

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
    const History& history() const { return m_history; }
    QString savedWords() const;

    /// An edit is on disk in the journal before this returns and anything shows it as done.
    void commit(const Part& part, const QString& what);
    void undo();
    void redo();

    bool open(const QString& path);
    bool save(const QString& path);
    void startNew();
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
    void journalled(const QString& what);
    static void remember(const QString& file);

    History m_history{Part{}};
    std::unique_ptr<Journal> m_journal;
    QString m_file;
    bool m_changed = false;
    qint64 m_savedAt = 0;
};

} // namespace gc::app

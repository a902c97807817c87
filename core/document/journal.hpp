#pragma once
/// \file The journal: every committed edit is on disk before it is shown as done, so that even a killed
/// window loses nothing.
///
/// A journal is a text file. Its first line is "good-curve journal 1", then one record a line:
/// length in bytes, FNV-1a hash in hex, and JSON. The first record holds the whole part and the path of its
/// file, every later one a JSON patch (RFC 6902) on the state before. A torn last line is left out.

#include "core/document/part.hpp"

#include <filesystem>
#include <vector>

namespace gc {

/// What an earlier window left behind.
struct RecoveredWork {
    std::filesystem::path journal;
    std::filesystem::path file; ///< where the part was opened from; empty for a new one
    Part part;
    int edits = 0; ///< how many edits after the last save
    std::string lastEdit;
};

/// The journal of one open part. Holds a lock on its file for as long as it lives, so that another window
/// does not offer it as lost work.
class Journal {
  public:
    /// Starts a journal for a part as it was opened. Errors: "journal.unwritable".
    static Result<std::unique_ptr<Journal>> start(const std::filesystem::path& folder, const Part& part,
                                                  const std::filesystem::path& file);
    ~Journal();
    Journal(const Journal&) = delete;
    Journal& operator=(const Journal&) = delete;

    /// Appends the edit and returns once it is on disk.
    Result<Done> append(const Part& part, const std::string& what);
    /// Begins again from the state that was just saved to the file.
    Result<Done> restart(const Part& part, const std::filesystem::path& file);
    /// Removes the journal: all is saved or was let go knowingly.
    void discard();

    const std::filesystem::path& path() const { return m_path; }

  private:
    Journal() = default;
    Result<Done> write(const std::string& json);

    std::filesystem::path m_path;
    int m_fd = -1;
    std::string m_lastState; ///< JSON of the part at the last record
};

/// ~/.local/state/good-curve or what XDG_STATE_HOME says.
std::filesystem::path journalFolder();

/// Work in journals that no living window holds, newest first. Journals without an edit are removed.
std::vector<RecoveredWork> findLostWork(const std::filesystem::path& folder);

/// Reads one journal as far as it is whole.
Result<RecoveredWork> readJournal(const std::filesystem::path& path);

} // namespace gc

#pragma once
/// \file The journal: every committed edit is on disk before it is shown as done, so that even a killed
/// window loses nothing.
///
/// A journal is a text file. Its first line is "good-curve journal 2", then one record a line:
/// length in bytes, FNV-1a hash in hex, and JSON. A record of a state says what is other than before: "head"
/// (all but steps and attachments), "order" (the steps' ids), "changed" (steps, as in the part file), "files"
/// (names and hashes); the first one says all and where the part's file is. The content of an attachment is a
/// record of its own, once. So a commit costs what it changed. A record that is torn or damaged is passed
/// over: those after it say what is other than at the last that was written whole. Journals of the first
/// format (a JSON patch a commit) are read up to the first fault.

#include "core/document/part.hpp"

#include <nlohmann/json_fwd.hpp>

#include <cstdint>
#include <filesystem>
#include <set>
#include <vector>

namespace gc {

/// What an earlier window left behind.
struct RecoveredWork {
    std::filesystem::path journal;
    std::filesystem::path file;            ///< where the part was opened from, absolute; empty for a new one
    std::optional<std::uint64_t> fileHash; ///< of what that file held then; nothing in journals of before
    std::int64_t lastWritten = 0;          ///< seconds since 1970
    Part part;
    int edits = 0;   ///< how many edits after the last save
    int skipped = 0; ///< places where records were damaged
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

    /// Appends the edit and returns once it is on disk. When it fails, nothing of it stays behind, and the
    /// next one says what is other since the last that was kept.
    Result<Done> append(const Part& part, const std::string& what);
    /// Begins again from the state that was just saved to the file. When it fails the journal stays as it
    /// was.
    Result<Done> restart(const Part& part, const std::filesystem::path& file);
    /// Removes the journal: all is saved or was let go knowingly.
    void discard();

    const std::filesystem::path& path() const { return m_path; }

  private:
    Journal() = default;
    /// Records of the content of attachments that the journal does not hold yet.
    std::string attachments(const Part& part);
    nlohmann::json difference(const Part& part);
    /// What a journal begins with: its header and all of the part.
    std::string beginning(const Part& part, const std::filesystem::path& file);
    /// Puts a journal with this content in the place of the one that is there, or leaves that.
    Result<Done> replace(const std::string& content);
    Result<Done> write(const std::string& lines);

    std::filesystem::path m_path;
    int m_fd = -1;
    std::uint64_t m_whole = 0; ///< bytes that are whole records
    bool m_torn = false;       ///< something is behind them
    Part m_base;               ///< the part at the first record, and its file
    std::filesystem::path m_file;
    Part m_last;                    ///< the part at the last record
    std::string m_lastHead;         ///< its head, as written
    std::set<std::uint64_t> m_held; ///< hashes of attachments
};

/// ~/.local/state/good-curve or what XDG_STATE_HOME says.
std::filesystem::path journalFolder();

/// Work in journals that no living window holds, newest first. Journals without an edit are removed.
std::vector<RecoveredWork> findLostWork(const std::filesystem::path& folder);

/// Reads one journal as far as it is whole.
Result<RecoveredWork> readJournal(const std::filesystem::path& path);

} // namespace gc

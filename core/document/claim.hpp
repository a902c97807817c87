#pragma once
/// \file Which window has which file open.

#include <filesystem>
#include <memory>

namespace gc {

/// Held for as long as a window has a file open. Another window that opens the same file learns of it; a
/// window that dies holds nothing any more.
class FileClaim {
  public:
    /// \param folder where claims are kept, see journalFolder()
    /// \return nothing when another living window holds the file
    static std::unique_ptr<FileClaim> take(const std::filesystem::path& folder,
                                           const std::filesystem::path& file);
    ~FileClaim();
    FileClaim(const FileClaim&) = delete;
    FileClaim& operator=(const FileClaim&) = delete;

  private:
    FileClaim() = default;

    std::filesystem::path m_lock;
    int m_fd = -1;
};

} // namespace gc

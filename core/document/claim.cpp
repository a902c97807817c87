#include "core/document/claim.hpp"

#include "core/base/hash.hpp"

#include <cstdio>
#include <fcntl.h>
#include <sys/file.h>
#include <sys/stat.h>
#include <unistd.h>

namespace gc {

namespace {

/// The same for every way in which a file can be called: through links, from any folder.
std::string lockName(const std::filesystem::path& file) {
    std::error_code failed;
    auto whole = std::filesystem::weakly_canonical(std::filesystem::absolute(file, failed), failed);
    if (failed) whole = file;
    char name[32];
    std::snprintf(name, sizeof name, "%016llx.open",
                  static_cast<unsigned long long>(Hasher().text(whole.string()).value()));
    return name;
}

/// Is what was locked still what the name leads to? The one who held it may have taken the name away
/// meanwhile.
bool leadsTo(const std::filesystem::path& path, int fd) {
    struct stat named {
    }, held{};
    return ::stat(path.c_str(), &named) == 0 && ::fstat(fd, &held) == 0 && named.st_ino == held.st_ino &&
           named.st_dev == held.st_dev;
}

} // namespace

std::unique_ptr<FileClaim> FileClaim::take(const std::filesystem::path& folder,
                                           const std::filesystem::path& file) {
    std::error_code failed;
    std::filesystem::create_directories(folder, failed);
    std::unique_ptr<FileClaim> claim(new FileClaim);
    claim->m_lock = folder / lockName(file);
    constexpr int kTries = 20;
    for (int k = 0; k < kTries; ++k) {
        const int fd = ::open(claim->m_lock.c_str(), O_CREAT | O_RDWR | O_CLOEXEC | O_NONBLOCK, 0600);
        if (fd < 0)
            return claim; // no room for it: nobody can be told, which must not keep a file from being opened
        if (::flock(fd, LOCK_EX | LOCK_NB) != 0) {
            ::close(fd);
            return nullptr;
        }
        if (leadsTo(claim->m_lock, fd)) {
            claim->m_fd = fd;
            return claim;
        }
        ::close(fd);
    }
    return claim;
}

FileClaim::~FileClaim() {
    if (m_fd < 0) return;
    ::unlink(m_lock.c_str());
    ::close(m_fd);
}

} // namespace gc

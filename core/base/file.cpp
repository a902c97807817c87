#include "core/base/file.hpp"

#include "core/base/hash.hpp"

#include <cerrno>
#include <cstdlib>
#include <cstring>
#include <fcntl.h>
#include <sys/stat.h>
#include <unistd.h>

namespace gc {

namespace {

/// Closes the descriptor at the end of its scope.
struct Descriptor {
    int fd;
    ~Descriptor() {
        if (fd >= 0) ::close(fd);
    }
};

bool writeAll(int fd, std::string_view content) {
    while (!content.empty()) {
        const ssize_t n = ::write(fd, content.data(), content.size());
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return false;
        content.remove_prefix(static_cast<std::size_t>(n));
    }
    return true;
}

} // namespace

Result<std::string> readFile(const std::filesystem::path& path, std::size_t mostBytes) {
    // A pipe without a writer would keep a blocking open waiting for ever.
    const Descriptor file{::open(path.c_str(), O_RDONLY | O_CLOEXEC | O_NONBLOCK)};
    const std::string name = path.filename().string();
    if (file.fd < 0)
        return errno == ENOENT ? errorOf("file.missing", phrase("There is no file \"%1\".", path.string()))
                               : errorOf("file.unreadable",
                                         phrase("\"%1\" cannot be read: %2.", name, std::strerror(errno)));
    struct stat info {};
    if (::fstat(file.fd, &info) != 0 || !S_ISREG(info.st_mode))
        return errorOf("file.unreadable", phrase("\"%1\" is not a file.", name));
    std::string content;
    char buffer[1 << 16];
    for (;;) {
        const ssize_t n = ::read(file.fd, buffer, sizeof buffer);
        if (n < 0 && errno == EINTR) continue;
        if (n < 0) return errorOf("file.unreadable", phrase("\"%1\" cannot be read to its end.", name));
        if (n == 0) break;
        content.append(buffer, static_cast<std::size_t>(n));
        if (content.size() > mostBytes)
            return errorOf("file.too-large",
                           phrase("\"%1\" is larger than %2 MB, which is more than is read.", name,
                                  std::to_string(mostBytes >> 20)));
    }
    return content;
}

namespace {

/// What a new file may be, as the person's mask says.
mode_t newFileMode() {
    const mode_t mask = ::umask(0);
    ::umask(mask);
    return 0666 & ~mask;
}

/// Where a path leads to, through links; the path itself where that cannot be told.
std::filesystem::path behindLinks(std::filesystem::path path) {
    constexpr int kMostLinks = 40; // as the system itself
    std::error_code failed;
    for (int k = 0; k < kMostLinks && std::filesystem::is_symlink(path, failed); ++k) {
        const auto target = std::filesystem::read_symlink(path, failed);
        if (failed) break;
        path = target.is_absolute() ? target : path.parent_path() / target;
    }
    return path;
}

std::filesystem::path folderOf(const std::filesystem::path& path) {
    return path.has_parent_path() ? path.parent_path() : std::filesystem::path(".");
}

} // namespace

Result<Done> writeFileAtomically(const std::filesystem::path& link, std::string_view content) {
    const std::filesystem::path path = behindLinks(link);
    const auto failure = [&] {
        return errorOf("file.unwritable",
                       phrase("\"%1\" cannot be written: %2. Choose another place or free some room.",
                              link.string(), std::strerror(errno)));
    };
    struct stat old {};
    const bool there = ::stat(path.c_str(), &old) == 0;
    if (there && !S_ISREG(old.st_mode)) {
        errno = S_ISDIR(old.st_mode) ? EISDIR : EINVAL;
        return failure();
    }
    if (there && ::faccessat(AT_FDCWD, path.c_str(), W_OK, AT_EACCESS) != 0)
        return errorOf(
            "file.read-only",
            phrase("\"%1\" may only be read. Make it writable or choose another name.", link.string()));
    // A short name of its own: with one made from the target's, long names would become too long.
    std::string beside = (folderOf(path) / ".good-curve-XXXXXX").string();
    {
        const Descriptor file{::mkstemp(beside.data())};
        if (file.fd < 0) return failure();
        ::fchmod(file.fd, there ? old.st_mode & 07777 : newFileMode());
        if (!writeAll(file.fd, content) || ::fsync(file.fd) != 0) {
            const auto e = failure();
            ::unlink(beside.c_str());
            return e;
        }
    }
    if (::rename(beside.c_str(), path.c_str()) != 0) {
        const auto e = failure();
        ::unlink(beside.c_str());
        return e;
    }
    syncFolder(folderOf(path));
    return Done{};
}

void syncFolder(const std::filesystem::path& folder) {
    const Descriptor directory{::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC)};
    if (directory.fd >= 0) ::fsync(directory.fd);
}

std::optional<std::uint64_t> contentHash(const std::filesystem::path& path) {
    const auto content = readFile(path);
    if (!content) return std::nullopt;
    return Hasher().text(*content).value();
}

std::filesystem::path dataDirectory() {
    if (const char* set = std::getenv("GOOD_CURVE_DATA"); set && *set) return set;
    std::error_code ignored;
    const auto program = std::filesystem::read_symlink("/proc/self/exe", ignored);
    const auto installed = program.parent_path().parent_path() / "share" / "good-curve";
    if (std::filesystem::exists(installed / "materials.json", ignored)) return installed;
    return std::filesystem::path(GC_SOURCE_DIR) / "data";
}

} // namespace gc

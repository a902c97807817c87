#include "core/base/file.hpp"

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
    const Descriptor file{::open(path.c_str(), O_RDONLY | O_CLOEXEC)};
    const std::string name = path.filename().string();
    if (file.fd < 0)
        return errno == ENOENT ? errorOf("file.missing", phrase("There is no file \"%1\".", path.string()))
                               : errorOf("file.unreadable",
                                         phrase("\"%1\" cannot be read: %2.", name, std::strerror(errno)));
    struct stat info {};
    if (::fstat(file.fd, &info) != 0 || S_ISDIR(info.st_mode))
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

Result<Done> writeFileAtomically(const std::filesystem::path& path, std::string_view content) {
    const auto failure = [&] {
        return errorOf("file.unwritable",
                       phrase("\"%1\" cannot be written: %2. Choose another place or free some room.",
                              path.string(), std::strerror(errno)));
    };
    std::string beside = path.string() + ".XXXXXX";
    {
        const Descriptor file{::mkstemp(beside.data())};
        if (file.fd < 0) return failure();
        struct stat old {};
        ::fchmod(file.fd, ::stat(path.c_str(), &old) == 0 ? old.st_mode & 07777 : 0644);
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
    const auto folder = path.has_parent_path() ? path.parent_path() : std::filesystem::path(".");
    const Descriptor directory{::open(folder.c_str(), O_RDONLY | O_DIRECTORY | O_CLOEXEC)};
    if (directory.fd >= 0) ::fsync(directory.fd);
    return Done{};
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

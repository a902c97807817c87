#pragma once
/// \file For hard tests: a real disk of its own that can be filled to the last byte.

#include "tests/support/temporary_folder.hpp"

#include <array>
#include <string>

#include <fcntl.h>
#include <sys/mount.h>
#include <unistd.h>

namespace gc::test {

class SmallDisk {
  public:
    explicit SmallDisk(int kilobytes) {
        const std::string size = "size=" + std::to_string(kilobytes) + "k";
        m_mounted = ::mount("tmpfs", m_folder.path().c_str(), "tmpfs", 0, size.c_str()) == 0;
    }
    ~SmallDisk() {
        if (m_mounted) ::umount2(m_folder.path().c_str(), MNT_DETACH);
    }
    SmallDisk(const SmallDisk&) = delete;
    SmallDisk& operator=(const SmallDisk&) = delete;

    /// It takes the right to mount.
    bool mounted() const { return m_mounted; }
    const std::filesystem::path& path() const { return m_folder.path(); }
    void fill() {
        const int fd = ::open((path() / "filler").c_str(), O_WRONLY | O_CREAT | O_APPEND | O_CLOEXEC, 0600);
        const std::array<char, 4096> some{};
        for (std::size_t n = some.size(); n > 0;)
            if (::write(fd, some.data(), n) <= 0) n /= 2;
        ::close(fd);
        m_full = true;
    }
    void free() {
        std::filesystem::remove(path() / "filler");
        m_full = false;
    }
    bool full() const { return m_full; }

  private:
    TemporaryFolder m_folder;
    bool m_mounted = false, m_full = false;
};

} // namespace gc::test

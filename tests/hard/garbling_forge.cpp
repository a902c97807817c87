#include "tests/hard/garbling_forge.hpp"

#include "core/base/file.hpp"

#include <QCoreApplication>

#include <array>
#include <filesystem>
#include <random>
#include <thread>

#include <sys/stat.h>
#include <sys/wait.h>
#include <unistd.h>

namespace gc::test {

namespace {

bool writeAll(int fd, const std::string& bytes) {
    for (std::size_t at = 0; at < bytes.size();) {
        const ssize_t n = ::write(fd, bytes.data() + at, bytes.size() - at);
        if (n <= 0) return false;
        at += static_cast<std::size_t>(n);
    }
    return true;
}

/// Hands on what comes until it ends.
template <class Change>
void pass(int from, int to, Change change) {
    std::array<char, 1 << 14> buffer;
    for (ssize_t n = 0; (n = ::read(from, buffer.data(), buffer.size())) > 0;) {
        std::string bytes(buffer.data(), static_cast<std::size_t>(n));
        change(bytes);
        if (!writeAll(to, bytes)) break;
    }
}

void spoil(std::string& bytes, std::mt19937& random) {
    if (bytes.empty() || random() % 6 != 0) return;
    const std::size_t at = random() % bytes.size();
    switch (random() % 4) {
    case 0:
        bytes[at] = static_cast<char>(random());
        break;
    case 1:
        bytes.erase(at, 1 + random() % 40);
        break;
    case 2:
        bytes.insert(at, bytes.substr(at / 2, 1 + random() % 40));
        break;
    default:
        for (int k = 0; k < 30; ++k) bytes[random() % bytes.size()] = static_cast<char>(random());
    }
}

} // namespace

QByteArray garblingForge(const std::string& path, unsigned seed) {
    const std::string self = QCoreApplication::applicationFilePath().toStdString();
    (void)writeFileAtomically(path, "#!/bin/sh\nexec " + self + " --garble " + std::to_string(seed) + "\n");
    ::chmod(path.c_str(), 0700);
    return QByteArray::fromStdString(path);
}

int garble(unsigned seed) {
    const auto forge = std::filesystem::canonical("/proc/self/exe").parent_path() / "good-curve-forge";
    int to[2], from[2];
    if (::pipe(to) != 0 || ::pipe(from) != 0) return 1;
    const pid_t child = ::fork();
    if (child == 0) {
        ::dup2(to[0], STDIN_FILENO);
        ::dup2(from[1], STDOUT_FILENO);
        for (const int fd : {to[0], to[1], from[0], from[1]}) ::close(fd);
        ::execl(forge.c_str(), forge.c_str(), static_cast<char*>(nullptr));
        ::_exit(1);
    }
    ::close(to[0]);
    ::close(from[1]);
    std::thread input([&] {
        pass(STDIN_FILENO, to[1], [](std::string&) {});
        ::close(to[1]);
    });
    std::mt19937 random(seed);
    pass(from[0], STDOUT_FILENO, [&](std::string& bytes) { spoil(bytes, random); });
    ::_exit(0); // the window went, or the worker did
}

} // namespace gc::test

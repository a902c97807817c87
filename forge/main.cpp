/// good-curve-forge: the worker that holds the geometry kernel. Reads frames from standard input, writes
/// frames to standard output; started by the window, not by people.

#include "forge/worker.hpp"

#include <cerrno>
#include <csignal>
#include <cstdlib>
#include <malloc.h>
#include <sys/resource.h>
#include <thread>
#include <unistd.h>

namespace {

constexpr rlim_t kDefaultMegabytes = 6000;

void limitMemory() {
    const char* set = std::getenv("GOOD_CURVE_FORGE_MB");
    const rlim_t bytes = (set ? std::strtoull(set, nullptr, 10) : kDefaultMegabytes) << 20;
    const rlimit limit{bytes, bytes};
    ::setrlimit(RLIMIT_AS, &limit);
}

void writeAll(int fd, const std::string& bytes) {
    std::size_t at = 0;
    while (at < bytes.size()) {
        const ssize_t n = ::write(fd, bytes.data() + at, bytes.size() - at);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) ::_exit(0); // the window is gone
        at += static_cast<std::size_t>(n);
    }
}

} // namespace

int main() {
    std::signal(SIGPIPE, SIG_IGN);
    limitMemory();
    ::mallopt(M_ARENA_MAX, 2); // one for the worker and one for its helpers: each arena keeps what it had
    (void)::nice(5);           // where both want the processor, the window goes first
    // Frames go to a descriptor of their own: whatever the kernel prints ends up on standard error.
    const int out = ::dup(STDOUT_FILENO);
    ::dup2(STDERR_FILENO, STDOUT_FILENO);
    gc::forge::Worker worker([out](const gc::Frame& frame) { writeAll(out, gc::encodeFrame(frame)); });
    std::thread reader([&worker] {
        gc::FrameReader frames;
        char buffer[1 << 16];
        for (;;) {
            const ssize_t n = ::read(STDIN_FILENO, buffer, sizeof buffer);
            if (n < 0 && errno == EINTR) continue;
            if (n <= 0) break;
            frames.feed(buffer, static_cast<std::size_t>(n));
            for (;;) {
                auto frame = frames.next();
                if (!frame) ::_exit(3);
                if (!frame->has_value()) break;
                auto message = gc::say::decodeToForge(**frame);
                if (!message) ::_exit(3);
                worker.post(std::move(*message));
            }
        }
        ::_exit(0); // the window is gone: there is nobody to work for
    });
    worker.run();
    reader.join();
}

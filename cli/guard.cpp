#include "cli/guard.hpp"

#include <atomic>
#include <cerrno>
#include <csignal>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <new>
#include <poll.h>
#include <sys/resource.h>
#include <sys/wait.h>
#include <unistd.h>

namespace gc::cli {

namespace {

constexpr int kBadInput = 2;
constexpr int kOutOfMemory = 77; ///< exit code of the working process alone

long setting(const char* name, long fallback) {
    const char* set = std::getenv(name);
    const long v = set ? std::strtol(set, nullptr, 10) : 0;
    return v > 0 ? v : fallback;
}

void limitMemory() {
    constexpr long kMegabytes = 4000;
    const rlim_t bytes = static_cast<rlim_t>(setting("GOOD_CURVE_CLI_MB", kMegabytes)) << 20;
    const rlimit limit{bytes, bytes};
    ::setrlimit(RLIMIT_AS, &limit);
    const rlimit noCore{0, 0};
    ::setrlimit(RLIMIT_CORE, &noCore);
}

[[noreturn]] void workIn(int pipe, const std::function<int(const Watcher&)>& work) {
    limitMemory();
    std::set_new_handler([] { ::_exit(kOutOfMemory); });
    const int code = work(Watcher(pipe));
    ::_exit(saidAll() ? code : kBadInput);
}

/// Listens until the pipe is closed or silent for too long. \return false for silence
bool listen(int pipe, long seconds, std::string& doing) {
    std::string line;
    for (;;) {
        pollfd waiting{pipe, POLLIN, 0};
        const int ready = ::poll(&waiting, 1, static_cast<int>(seconds * 1000));
        if (ready < 0 && errno == EINTR) continue;
        if (ready <= 0) return false;
        char buffer[512];
        const ssize_t n = ::read(pipe, buffer, sizeof buffer);
        if (n < 0 && errno == EINTR) continue;
        if (n <= 0) return true;
        for (ssize_t i = 0; i < n; ++i) {
            if (buffer[i] != '\n') {
                line += buffer[i];
                continue;
            }
            if (!line.empty()) doing = line;
            line.clear();
        }
    }
}

} // namespace

void Watcher::doing(const std::string& what) const {
    const std::string line = what + "\n";
    if (m_pipe >= 0) (void)!::write(m_pipe, line.data(), line.size());
}

void Watcher::alive() const {
    using Clock = std::chrono::steady_clock;
    static std::atomic<Clock::rep> last{0};
    constexpr auto kEvery = std::chrono::milliseconds(300);
    const auto now = Clock::now().time_since_epoch();
    auto before = last.load();
    if (m_pipe < 0 || now - Clock::duration(before) < kEvery) return;
    if (last.compare_exchange_strong(before, now.count())) (void)!::write(m_pipe, "\n", 1);
}

bool saidAll() {
    if (std::fflush(stdout) == 0 && std::ferror(stdout) == 0) return true;
    std::fprintf(stderr, "What was found out cannot be written out: %s. Make room, or write it elsewhere.\n",
                 std::strerror(errno));
    return false;
}

int guarded(const std::string& file, const std::function<int(const Watcher&)>& work) {
    int ends[2];
    std::fflush(nullptr);
    const pid_t child = ::pipe(ends) == 0 ? ::fork() : -1;
    if (child < 0) {
        std::fprintf(stderr, "No second process could be started. Close other programs and try again.\n");
        return kBadInput;
    }
    if (child == 0) {
        ::close(ends[0]);
        workIn(ends[1], work);
    }
    ::close(ends[1]);
    constexpr long kSeconds = 60;
    const long seconds = setting("GOOD_CURVE_CLI_SECONDS", kSeconds);
    std::string doing = "the beginning";
    const bool ended = listen(ends[0], seconds, doing);
    if (!ended) ::kill(child, SIGKILL);
    ::close(ends[0]);
    int status = 0;
    while (::waitpid(child, &status, 0) < 0 && errno == EINTR) {
    }
    const bool memory = WIFEXITED(status) && WEXITSTATUS(status) == kOutOfMemory;
    if (ended && WIFEXITED(status) && !memory) return WEXITSTATUS(status);
    const std::string how = !ended   ? "took longer than " + std::to_string(seconds) + " s"
                            : memory ? "needed more memory than it may have"
                                     : "crashed";
    std::fprintf(stderr, "\"%s\": the geometry kernel %s at %s. Change or leave out what is done there.\n",
                 file.c_str(), how.c_str(), doing.c_str());
    return kBadInput;
}

} // namespace gc::cli

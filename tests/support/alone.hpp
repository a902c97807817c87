#pragma once
/// \file Work of the kernel that may end the process, looked at from outside.

#include <catch2/catch.hpp>

#include <csignal>
#include <functional>
#include <string>
#include <sys/wait.h>
#include <unistd.h>
#include <utility>

namespace gc::test {

/// What a function says in a process of its own; false where that did not end by itself. \param seconds after
/// which it is ended
inline std::pair<bool, std::string> alone(const std::function<std::string()>& says, unsigned seconds = 60) {
    int ends[2];
    REQUIRE(pipe(ends) == 0);
    const pid_t child = fork();
    if (child == 0) {
        for (const int signal : {SIGSEGV, SIGABRT, SIGFPE}) std::signal(signal, SIG_DFL);
        alarm(seconds);
        std::string said;
        try {
            said = says();
        } catch (...) {
            said = "thrown";
        }
        const auto written = write(ends[1], said.data(), said.size());
        _exit(written == static_cast<ssize_t>(said.size()) ? 0 : 1);
    }
    close(ends[1]);
    std::string said;
    char buffer[256];
    for (ssize_t n; (n = read(ends[0], buffer, sizeof buffer)) > 0;)
        said.append(buffer, static_cast<size_t>(n));
    close(ends[0]);
    int status = 0;
    waitpid(child, &status, 0);
    return {WIFEXITED(status) && WEXITSTATUS(status) == 0, said};
}

} // namespace gc::test

#pragma once
/// \file The kernel in a process of its own, with limits: what it does to itself is then only an error.

#include <chrono>
#include <functional>
#include <string>

namespace gc::cli {

/// By this the working process says that it lives and what it is doing. Without a process of its own it says
/// nothing.
class Watcher {
  public:
    Watcher() = default;
    explicit Watcher(int pipe) : m_pipe(pipe) {}
    void doing(const std::string& what) const;
    /// Cheap: says something a few times a second at most. May be called from any thread.
    void alive() const;

  private:
    int m_pipe = -1;
};

/// Whether all that was printed has really been written: a full disk is told, and is no success.
bool saidAll();

/// Runs the work in a process with a memory limit (GOOD_CURVE_CLI_MB, 4000), and ends it when it says nothing
/// for 60 s (GOOD_CURVE_CLI_SECONDS). \return its exit code; 2 with a sentence on standard error when it
/// crashed, hung or ran out of memory
int guarded(const std::string& file, const std::function<int(const Watcher&)>& work);

} // namespace gc::cli

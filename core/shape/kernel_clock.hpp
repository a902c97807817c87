#pragma once
/// \file How long the kernel's own operations take, beside what is looked at before and after them: for
/// bench/.

#include <chrono>

namespace gc {

/// Counts from its making to its end, on this thread.
class KernelCall {
  public:
    KernelCall() = default;
    ~KernelCall() { total() += std::chrono::duration<double, std::milli>(Clock::now() - m_start).count(); }
    KernelCall(const KernelCall&) = delete;
    KernelCall& operator=(const KernelCall&) = delete;

    /// Of all on this thread so far, ms.
    static double milliseconds() { return total(); }

  private:
    using Clock = std::chrono::steady_clock;
    static double& total() {
        thread_local double ms = 0;
        return ms;
    }
    Clock::time_point m_start = Clock::now();
};

/// What an operation of the kernel's gives.
template <class Operation>
auto inKernel(const Operation& operation) {
    const KernelCall counted;
    return operation();
}

} // namespace gc

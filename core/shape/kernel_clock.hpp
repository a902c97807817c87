#pragma once
/// \file How long the kernel's own operations take, and the proof that it was right in them, beside what is
/// looked at before and after them: for bench/.

#include <chrono>
#include <optional>
#include <utility>

namespace gc {

/// Counts from its making to its end, on this thread.
template <class What>
class Counted {
  public:
    Counted() = default;
    ~Counted() { total() += std::chrono::duration<double, std::milli>(Clock::now() - m_start).count(); }
    Counted(const Counted&) = delete;
    Counted& operator=(const Counted&) = delete;

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

struct ItsOperations;
struct ItsProofs;
using KernelCall = Counted<ItsOperations>;
using KernelProof = Counted<ItsProofs>;

/// What an operation of the kernel's gives.
template <class Operation>
auto inKernel(const Operation& operation) {
    const KernelCall counted;
    return operation();
}

/// One of its operations: making it and letting it go count, too.
template <class Operation>
class KernelOwned {
  public:
    template <class... Arguments>
    explicit KernelOwned(Arguments&&... arguments) {
        const KernelCall counted;
        m_operation.emplace(std::forward<Arguments>(arguments)...);
    }
    ~KernelOwned() {
        const KernelCall counted;
        m_operation.reset();
    }
    KernelOwned(const KernelOwned&) = delete;
    KernelOwned& operator=(const KernelOwned&) = delete;
    Operation& operator*() { return *m_operation; }

  private:
    std::optional<Operation> m_operation;
};

} // namespace gc

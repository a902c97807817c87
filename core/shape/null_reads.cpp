#include "core/shape/null_reads.hpp"

#include <Standard_ErrorHandler.hxx>

#include <csignal>
#include <cstdint>
#include <mutex>

namespace gc {

namespace {

constexpr std::uintptr_t kNothing = 1 << 16; ///< nothing is ever mapped below: vm.mmap_min_addr
thread_local NullReads* innermost = nullptr;
struct sigaction before;

/// The kernel keeps a list of its own try blocks, each in the frame of a function, and walks it whenever a
/// progress ends. Frames that are left by a jump would stay in it. What finds the first of them is private
/// there: an explicit instantiation may name it.
using FindTryBlock = Standard_PErrorHandler (*)(Standard_HandlerStatus, Standard_Boolean);
FindTryBlock finder();
template <FindTryBlock kFind>
struct FinderGiver {
    friend FindTryBlock finder() { return kFind; }
};
template struct FinderGiver<&Standard_ErrorHandler::FindHandler>;

/// Takes those of this thread out of the list that lie in frames below a place of the stack (it grows
/// downward).
void leaveTryBlocksBelow(const void* place) {
    while (const Standard_PErrorHandler block = finder()(Standard_HandlerVoid, false)) {
        if (reinterpret_cast<std::uintptr_t>(block) > reinterpret_cast<std::uintptr_t>(place)) return;
        block->Unlink();
    }
}

} // namespace

struct NullReadListener {
    static void heard(int number, siginfo_t* info, void* context) {
        NullReads* watch = innermost;
        if (watch && info->si_code == SEGV_MAPERR &&
            reinterpret_cast<std::uintptr_t>(info->si_addr) < kNothing) {
            innermost = watch->m_before;
            leaveTryBlocksBelow(watch); // while their frames are still what they were
            siglongjmp(watch->m_point, 1);
        }
        if (before.sa_flags & SA_SIGINFO)
            before.sa_sigaction(number, info, context);
        else if (before.sa_handler != SIG_DFL && before.sa_handler != SIG_IGN)
            before.sa_handler(number);
        else {
            std::signal(number, SIG_DFL);
            std::raise(number); // also where nothing was read, but the signal was sent
        }
    }
    /// Looked at each time: whoever listened before may have come back.
    static void listen() {
        static std::mutex one;
        const std::lock_guard<std::mutex> lock(one);
        struct sigaction now {};
        sigaction(SIGSEGV, nullptr, &now);
        if ((now.sa_flags & SA_SIGINFO) && now.sa_sigaction == heard) return;
        before = now;
        struct sigaction mine {};
        mine.sa_flags = SA_SIGINFO | SA_NODEFER;
        mine.sa_sigaction = heard;
        sigaction(SIGSEGV, &mine, nullptr);
    }
};

NullReads::NullReads() : m_before(innermost) {
    NullReadListener::listen();
    innermost = this;
}

NullReads::~NullReads() {
    innermost = m_before;
}

} // namespace gc

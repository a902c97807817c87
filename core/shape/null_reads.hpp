#pragma once
/// \file For .cpp files: the kernel reads through handles to nothing where it should have said that it
/// cannot.
///
/// Such a read touches the empty page at address 0 and spoils nothing, so the operation can be given up like
/// one that throws: what it had on its way is not freed, and that is all. Every other fault of memory ends
/// the process as ever, for after that nothing can be trusted. See docs/kernel.md for where this was met.

#include <csetjmp>

namespace gc {

/// While one lives, such a read on its thread comes back to its point:
///     NullReads watch;
///     if (sigsetjmp(watch.point(), 1) != 0) ...it was read...
/// They may be nested. Our own reads through nothing are told by the
/// sanitizer of undefined behaviour, which sees them before.
class NullReads {
  public:
    NullReads();
    ~NullReads();
    NullReads(const NullReads&) = delete;
    NullReads& operator=(const NullReads&) = delete;

    sigjmp_buf& point() { return m_point; }

  private:
    NullReads* m_before;
    sigjmp_buf m_point;

    friend struct NullReadListener;
};

} // namespace gc

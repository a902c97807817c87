#pragma once
/// \file For .cpp files: the kernel's long operations are left when asked, and when their time is over.

#include "core/base/progress.hpp"

#include <Message_ProgressIndicator.hxx>

#include <atomic>
#include <chrono>
#include <thread>

namespace gc {

/// Handed to an operation by Start(). The kernel may ask from threads of its own; the stop is asked only on
/// the one that it belongs to.
class Patience : public Message_ProgressIndicator {
  public:
    Patience(const Stop& stop, std::chrono::milliseconds most)
        : m_stop(stop), m_thread(std::this_thread::get_id()), m_end(Clock::now() + most) {}
    Standard_Boolean UserBreak() override {
        if (m_stop && std::this_thread::get_id() == m_thread && m_stop()) m_left = true;
        return m_left || Clock::now() > m_end;
    }
    void Show(const Message_ProgressScope& /*scope*/, const Standard_Boolean /*force*/) override {}
    bool left() const { return m_left; }
    bool over() const { return Clock::now() > m_end; }

  private:
    using Clock = std::chrono::steady_clock;
    Stop m_stop;
    std::thread::id m_thread;
    Clock::time_point m_end;
    std::atomic<bool> m_left{false};
};

} // namespace gc

#pragma once
/// \file The forge's thread of work: takes up jobs by their priority, leaves off what is not wanted any more,
/// and gives signs of life meanwhile.

#include "forge/jobs/job.hpp"

#include <atomic>
#include <chrono>
#include <condition_variable>
#include <list>
#include <mutex>
#include <thread>

namespace gc::forge {

class Worker {
  public:
    using Send = std::function<void(const Frame&)>;
    explicit Worker(Send send);
    ~Worker();

    /// Called by the reading thread. A newer part drops what it makes pointless; what waits for an answer
    /// gets one.
    void post(say::ToForge message);
    /// No more messages will come: finish what is asked and return from run().
    void close();
    /// Works until closed.
    void run();

  private:
    using Clock = std::chrono::steady_clock;
    using Jobs = std::list<std::unique_ptr<Job>>;

    void say(const say::ToWindow& message);
    void take(say::ToForge message);
    void add(std::unique_ptr<Job> job);
    std::unique_ptr<Job> next();
    bool turn();
    bool dropped(const Job& job) const;
    bool exportWaitsFor(int revision) const;
    void dropOutdated(Jobs& gone);
    void runJob(Job& job);
    void interject();
    void watch();
    void misbehave(const std::string& how);
    void returnMemory();

    Send m_send;
    std::mutex m_sending;
    mutable std::mutex m_mutex;
    std::condition_variable m_arrived, m_watching;
    std::list<say::ToForge> m_messages; ///< as they came, for the working thread to take
    Jobs m_jobs;
    bool m_closed = false;
    int m_newest = 0;           ///< the newest part that was asked for
    std::vector<int> m_stopped; ///< asks that are not wanted any more
    Job* m_running = nullptr;
    bool m_within = false; ///< a job runs within another's turn
    std::thread::id m_thread;
    std::atomic<Clock::rep> m_lastTurn{0}, m_lastSign{0};
    std::atomic<bool> m_busy{false}, m_inKernel{false};
    std::string m_doing;
    Workshop m_workshop;
    std::thread m_watcher;
};

} // namespace gc::forge

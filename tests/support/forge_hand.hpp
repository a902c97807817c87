#pragma once
/// \file For tests and benches: the forge's worker as the window has it, without a window.

#include "core/document/part_file.hpp"
#include "forge/worker.hpp"

#include <algorithm>
#include <chrono>
#include <condition_variable>
#include <functional>
#include <stdexcept>
#include <thread>

namespace gc::test {

/// A worker on a thread of its own, and all that it said with the time of it.
class ForgeHand {
  public:
    using Clock = std::chrono::steady_clock;
    struct Said {
        Clock::time_point at;
        say::ToWindow message;
    };

    ForgeHand() : m_worker([this](const Frame& f) { hear(f); }), m_thread([this] { m_worker.run(); }) {}
    ~ForgeHand() {
        m_worker.close();
        m_thread.join();
    }
    void post(say::ToForge m) { m_worker.post(std::move(m)); }
    void build(const Part& part, int revision, bool preview = false) {
        say::PartToBuild m;
        m.revision = revision;
        m.preview = preview;
        Part bare = part;
        for (const Attachment& a : part.attachments) {
            post(say::FileContent{a.content.hash(), a.content.text()});
            m.files.push_back({a.name, a.content.hash()});
        }
        bare.attachments.clear();
        m.text = writePart(bare);
        post(m);
    }
    /// Waits for a message of a sort that fits; nothing after the time.
    template <class M>
    std::optional<M> wait(const std::function<bool(const M&)>& fits = {},
                          std::chrono::milliseconds most = std::chrono::seconds(60)) {
        std::unique_lock lock(m_mutex);
        std::optional<M> found;
        m_heard.wait_for(lock, most, [&] {
            for (const Said& s : m_said)
                if (const auto* m = std::get_if<M>(&s.message); m && (!fits || fits(*m))) {
                    found = *m;
                    return true;
                }
            return false;
        });
        return found;
    }
    bool done(int revision) {
        return wait<say::Done>([=](const say::Done& d) { return d.revision == revision; }).has_value();
    }
    template <class M>
    int count(const std::function<bool(const M&)>& fits = {}) {
        const std::lock_guard lock(m_mutex);
        return static_cast<int>(std::count_if(m_said.begin(), m_said.end(), [&](const Said& s) {
            const auto* m = std::get_if<M>(&s.message);
            return m && (!fits || fits(*m));
        }));
    }
    std::vector<Said> said() {
        const std::lock_guard lock(m_mutex);
        return m_said;
    }
    void forget() {
        const std::lock_guard lock(m_mutex);
        m_said.clear();
    }

  private:
    void hear(const Frame& f) {
        auto m = say::decodeToWindow(f);
        if (!m) throw std::runtime_error(m.error().sentence);
        const std::lock_guard lock(m_mutex);
        m_said.push_back({Clock::now(), std::move(*m)});
        m_heard.notify_all();
    }

    std::mutex m_mutex;
    std::condition_variable m_heard;
    std::vector<Said> m_said;
    forge::Worker m_worker;
    std::thread m_thread;
};

} // namespace gc::test

#include "forge/worker.hpp"

#include <algorithm>
#include <csignal>
#include <cstdlib>
#include <malloc.h>
#include <string_view>

namespace gc::forge {

namespace {

using namespace std::chrono_literals;

constexpr auto kSignEvery = 400ms;
/// How long a call of the kernel may go on that gives no sign of its own: the window counts silence from the
/// last sign of life, and is told that it lives for so long.
constexpr auto kKernelPatience = 60s;

} // namespace

Worker::Worker(Send send) : m_send(std::move(send)) {
    m_workshop.say = [this](const say::ToWindow& m) { say(m); };
    m_workshop.turn = [this] { return turn(); };
    m_workshop.schedule = [this](std::unique_ptr<Job> job) { add(std::move(job)); };
    m_watcher = std::thread([this] { watch(); });
}

Worker::~Worker() {
    close();
    m_watcher.join();
}

void Worker::say(const say::ToWindow& message) {
    const Frame frame = say::encode(message);
    const std::lock_guard lock(m_sending);
    m_lastSign = Clock::now().time_since_epoch().count();
    m_send(frame);
}

void Worker::post(say::ToForge message) {
    {
        const std::lock_guard lock(m_mutex);
        if (const auto* part = std::get_if<say::PartToBuild>(&message))
            m_newest = std::max(m_newest, part->revision);
        if (const auto* stop = std::get_if<say::StopAsking>(&message)) m_stopped.push_back(stop->ask);
        m_messages.push_back(std::move(message));
    }
    m_arrived.notify_one();
}

void Worker::close() {
    {
        const std::lock_guard lock(m_mutex);
        m_closed = true;
    }
    m_arrived.notify_one();
    m_watching.notify_all();
}

void Worker::add(std::unique_ptr<Job> job) {
    const std::lock_guard lock(m_mutex);
    m_jobs.push_back(std::move(job));
}

/// Turns a message into a job, on the working thread.
void Worker::take(say::ToForge message) {
    std::visit(
        [&](auto& m) {
            using M = std::decay_t<decltype(m)>;
            if constexpr (std::is_same_v<M, say::FileContent>)
                m_workshop.files.insert_or_assign(m.hash, SharedText(std::move(m.content)));
            else if constexpr (std::is_same_v<M, say::PartToBuild>)
                add(buildJob(m_workshop, std::move(m)));
            else if constexpr (std::is_same_v<M, say::LookFor>) {
                m_workshop.look = m;
                add(lookJob());
            } else if constexpr (std::is_same_v<M, say::NameItem>)
                add(nameJob(std::move(m)));
            else if constexpr (std::is_same_v<M, say::FindItems>)
                add(findJob(std::move(m)));
            else if constexpr (std::is_same_v<M, say::TakeReadings>)
                add(readJob(std::move(m)));
            else if constexpr (std::is_same_v<M, say::ExportBodies>)
                add(exportJob(m_workshop, std::move(m)));
            else if constexpr (std::is_same_v<M, say::SolveTarget>)
                add(solveJob(m_workshop, m));
            else if constexpr (std::is_same_v<M, say::Misbehave>) {
                if (std::getenv("GOOD_CURVE_DEBUG")) misbehave(m.how);
            }
        },
        message);
}

/// Under the lock.
bool Worker::exportWaitsFor(int revision) const {
    const auto asks = [&](int r) { return r == revision; };
    return std::any_of(
               m_jobs.begin(), m_jobs.end(),
               [&](const auto& j) { return j->priority() == Priority::Export && asks(j->revision()); }) ||
           std::any_of(m_messages.begin(), m_messages.end(), [&](const say::ToForge& m) {
               const auto* e = std::get_if<say::ExportBodies>(&m);
               return e && asks(e->revision);
           });
}

/// Under the lock: is the job not wanted any more?
bool Worker::dropped(const Job& job) const {
    if (m_closed) return true;
    if (job.ask() != 0 && std::find(m_stopped.begin(), m_stopped.end(), job.ask()) != m_stopped.end())
        return true;
    if (!job.supersedable() || job.revision() >= m_newest) return false;
    return job.priority() != Priority::Build || !exportWaitsFor(job.revision());
}

void Worker::dropOutdated(Jobs& gone) {
    for (auto it = m_jobs.begin(); it != m_jobs.end();) {
        const auto here = it++;
        if (dropped(**here)) gone.splice(gone.end(), m_jobs, here);
    }
}

std::unique_ptr<Job> Worker::next() {
    for (;;) {
        say::ToForge message;
        Jobs gone;
        {
            std::unique_lock lock(m_mutex);
            m_arrived.wait(lock, [&] { return m_closed || !m_messages.empty() || !m_jobs.empty(); });
            if (m_closed) return nullptr;
            if (m_messages.empty()) {
                dropOutdated(gone);
                // What is to be exported is written before another part takes its place.
                const auto ready = std::find_if(m_jobs.begin(), m_jobs.end(), [&](const auto& j) {
                    return j->priority() == Priority::Export && m_workshop.whole &&
                           j->revision() == m_workshop.revision;
                });
                const auto best =
                    std::min_element(m_jobs.begin(), m_jobs.end(), [](const auto& a, const auto& b) {
                        return a->priority() < b->priority();
                    });
                const auto it = ready != m_jobs.end() && (*best)->priority() != Priority::Look ? ready : best;
                if (it == m_jobs.end()) continue;
                auto job = std::move(*it);
                m_jobs.erase(it);
                return job;
            }
            message = std::move(m_messages.front());
            m_messages.pop_front();
        }
        take(std::move(message));
    }
}

void Worker::runJob(Job& job) {
    m_doing = job.doing();
    m_lastTurn = Clock::now().time_since_epoch().count();
    m_inKernel = job.inKernel();
    say(say::Alive{m_doing}); // what it does is known, should it die of it
    static const char* const hangsAt =
        std::getenv("GOOD_CURVE_DEBUG") ? std::getenv("GOOD_CURVE_HANG_AT") : nullptr;
    if (hangsAt && std::string_view(hangsAt) == m_doing) misbehave("hang"); // for tests
    job.run(m_workshop);
    m_inKernel = false;
}

/// What is quick is done within the turn of what takes long: pointing at things never waits, and what is to
/// be exported as it stands need not wait for its measures.
void Worker::interject() {
    const bool building = m_running->priority() == Priority::Build;
    for (;;) {
        say::ToForge message;
        std::unique_ptr<Job> job;
        bool any = false;
        {
            const std::lock_guard lock(m_mutex);
            if (!m_messages.empty()) {
                message = std::move(m_messages.front());
                m_messages.pop_front();
                any = true;
            } else {
                const auto it = std::find_if(m_jobs.begin(), m_jobs.end(), [&](const auto& j) {
                    return !dropped(*j) && (j->priority() == Priority::Look ||
                                            (j->priority() == Priority::Export && !building &&
                                             m_workshop.whole && j->revision() == m_workshop.revision));
                });
                if (it == m_jobs.end()) return;
                job = std::move(*it);
                m_jobs.erase(it);
            }
        }
        if (any)
            take(std::move(message));
        else
            job->run(m_workshop);
    }
}

bool Worker::turn() {
    const auto now = Clock::now();
    if (std::this_thread::get_id() == m_thread && !m_within) {
        m_lastTurn = now.time_since_epoch().count();
        m_within = true;
        interject();
        m_within = false;
        if (now.time_since_epoch() - Clock::duration(m_lastSign) > kSignEvery) say(say::Alive{m_doing});
    }
    const std::lock_guard lock(m_mutex);
    return m_running && dropped(*m_running);
}

void Worker::run() {
    m_thread = std::this_thread::get_id();
    while (auto job = next()) {
        {
            const std::lock_guard lock(m_mutex);
            m_running = job.get();
        }
        m_busy = true;
        runJob(*job);
        m_busy = false;
        {
            const std::lock_guard lock(m_mutex);
            m_running = nullptr;
            std::erase(m_stopped, job->ask());
        }
        job.reset();
        returnMemory();
    }
    Jobs gone;
    const std::lock_guard lock(m_mutex);
    gone.swap(m_jobs);
}

/// Speaks for the kernel, which is silent while it works: for as long as such a call may reasonably take.
/// Whoever stops the whole process silences this, too.
void Worker::watch() {
    std::unique_lock lock(m_mutex);
    while (!m_watching.wait_for(lock, kSignEvery, [&] { return m_closed; })) {
        const auto now = Clock::now().time_since_epoch();
        const bool patient = now - Clock::duration(m_lastTurn) < kKernelPatience;
        const bool silent = now - Clock::duration(m_lastSign) > kSignEvery;
        if (!m_busy || !m_inKernel || !patient || !silent) continue;
        lock.unlock();
        say(say::Alive{"build"});
        lock.lock();
    }
}

/// What the last part needed and the next may not goes back to the system while nobody waits: else the
/// allocator keeps the pages between what lives long, and an afternoon of edits grows the worker.
void Worker::returnMemory() {
    {
        const std::lock_guard lock(m_mutex);
        if (!m_jobs.empty() || !m_messages.empty()) return;
    }
    ::malloc_trim(0);
}

/// For tests of what the window does when the kernel goes wrong.
void Worker::misbehave(const std::string& how) {
    if (how == "crash") std::raise(SIGSEGV);
    if (how == "hang") {
        m_busy = false; // as if it sat in a loop of ours that nobody thought of
        for (;;) std::this_thread::sleep_for(1s);
    }
    if (how == "memory")
        for (std::vector<std::vector<char>> hoard;;) hoard.emplace_back(64u << 20, 'x');
    if (how == "nonsense") {
        Frame frame{
            {{"type", "guides"}, {"revision", 1}, {"planes", {{{"name", "x"}, {"frame", {1, 2, 3}}}}}}, {}};
        const std::lock_guard lock(m_sending);
        m_send(frame);
    }
}

} // namespace gc::forge

#pragma once
/// \file The forge's work: takes parts, regenerates them from the first changed step, and streams back
/// results.

#include "core/regen/guides.hpp"
#include "core/regen/measure.hpp"
#include "forge/protocol.hpp"

#include <condition_variable>
#include <deque>
#include <functional>
#include <mutex>

namespace gc {

/// Appends a point's coordinates to a blob.
inline void put(std::vector<float>& out, Vec3 v) {
    out.push_back(static_cast<float>(v.x));
    out.push_back(static_cast<float>(v.y));
    out.push_back(static_cast<float>(v.z));
}

class Worker {
  public:
    using Send = std::function<void(const Frame&)>;
    explicit Worker(Send send) : m_send(std::move(send)) {}

    /// Called by the reading thread. A newer part supersedes an older one at the next step boundary.
    void post(Frame frame);
    /// No more frames will come: finish what is asked and return from run().
    void close();
    /// Works until closed.
    void run();

  private:
    void returnMemory();
    void handle(const Frame& frame);
    void buildPart(const Frame& frame);
    void sendOutlines(int revision);
    void sendGuides(int revision);
    void sendLook(int revision);
    void sendMeshes(int revision, double deviation, bool fine);
    void sendMeasures(const Frame& frame, int revision);
    void sendMargins(int revision);
    void sendRemedies(int revision);
    void sendSince(int revision);
    using Judged = std::pair<Verdict, bool>;
    std::map<std::string, Judged> judge(const ModelState& state, Measurer& measurer,
                                        const std::vector<Material>& materials);
    const std::map<std::string, Judged>& judgeEarlier(const ModelState& state,
                                                      const std::vector<Material>& materials);
    void exportFile(const Frame& frame);
    void solveTarget(const Frame& frame);
    void misbehave(const std::string& how);
    bool superseded() const;

    Send m_send;
    mutable std::mutex m_mutex;
    std::condition_variable m_arrived;
    std::deque<Frame> m_queue;
    bool m_closed = false;

    Engine m_engine;
    Measurer m_measurer, m_sinceMeasurer;
    std::map<std::string, std::map<std::string, Judged>> m_judged; ///< by all that the verdicts rest on
    std::map<std::string, Judged> m_unfinished;
    Part m_part;
    /// What the window looks at besides the part: points that can be picked, what a drawing can follow.
    struct Look {
        bool places = false;
        int traces = 0; ///< a drawing's step; 0: none
    } m_look;
    int m_revision = 0; ///< of the part that was built last
    RegenResult m_regen;
    std::map<std::uint64_t, double> m_volumes;                            ///< by content of a body, mm^3
    double m_fineMs = 0;                                                  ///< what the last fine mesh took
    std::map<std::string, std::pair<std::uint64_t, double>> m_sentMeshes; ///< body -> content, deviation
};

} // namespace gc

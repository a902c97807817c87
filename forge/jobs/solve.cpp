// Which number makes a failing target hold.

#include "forge/jobs/job.hpp"

namespace gc::forge {

namespace {

class Solve : public Job {
  public:
    Solve(Workshop& w, say::SolveTarget m) : m_workshop(w), m_message(m) {
        m_answer.ask = m.ask;
        m_answer.target = m.target;
        m_answer.stopped = true;
    }
    ~Solve() override { m_workshop.say(m_answer); }
    Priority priority() const override { return Priority::Solve; }
    const char* doing() const override { return "solve"; }
    int revision() const override { return m_message.revision; }
    int ask() const override { return m_message.ask; }
    bool supersedable() const override { return true; }
    bool inKernel() const override { return true; }

    void run(Workshop& w) override {
        if (!w.whole || w.revision != m_message.revision || m_message.target < 0) return;
        const auto materials = loadMaterials();
        if (materials)
            for (const TargetRemedy& r :
                 findTargetRemedies(w.part, static_cast<std::size_t>(m_message.target), w.engine, w.measurer,
                                    *materials, w.turn)) {
                say::TargetRemedyWords words{wordsOf(r.remedy), {}, r.othersFailing};
                for (const auto& [label, value] : r.then) words.then.push_back({label, value});
                m_answer.remedies.push_back(std::move(words));
            }
        m_answer.stopped = w.turn();
    }

  private:
    Workshop& m_workshop;
    say::SolveTarget m_message;
    say::Solved m_answer;
};

} // namespace

std::unique_ptr<Job> solveJob(Workshop& w, say::SolveTarget message) {
    return std::make_unique<Solve>(w, message);
}

} // namespace gc::forge

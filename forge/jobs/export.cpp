// Writes bodies to a file: of the very part that was asked for, whole, and not without saying which steps
// fail.

#include "core/exchange/export.hpp"
#include "core/document/aside.hpp"
#include "forge/jobs/job.hpp"

#include <algorithm>

namespace gc::forge {

namespace {

class Export : public Job {
  public:
    Export(Workshop& w, say::ExportBodies m) : m_workshop(w), m_message(std::move(m)) {
        m_answer.ask = m_message.ask;
        m_answer.path = m_message.path;
        m_answer.stopped = true;
    }
    ~Export() override { m_workshop.say(m_answer); }
    Priority priority() const override { return Priority::Export; }
    const char* doing() const override { return "export"; }
    bool inKernel() const override { return true; }
    int revision() const override { return m_message.revision; }
    int ask() const override { return m_message.ask; }

    void run(Workshop& w) override {
        if (!w.whole || w.revision != m_message.revision) return; // it is gone: answered as stopped
        m_answer.stopped = false;
        for (const StepReport& s : w.regen.steps)
            if (!s.ok) m_answer.failingSteps.push_back(s.id);
        if (!m_answer.failingSteps.empty() && !m_message.evenIfStepsFail) return;
        m_answer.failingSteps.clear();
        std::vector<NamedBody> bodies;
        for (const auto& [id, body] : w.regen.state.bodies)
            if (wanted(id, w.part)) bodies.push_back({body.name, body.value, colourOf(w.part, id)});
        const auto done = exportBodies(bodies, w.part.name, m_message.path);
        if (!done) m_answer.fault = faultOf(done.error());
        if (done)
            for (const Message& note : *done) m_answer.notes.push_back(spoken(note.text(), w.part));
    }

  private:
    /// Those that were asked for, else all of the product.
    bool wanted(ThingId id, const Part& part) const {
        if (m_message.bodies.empty()) return !isAside(part, id);
        return std::any_of(m_message.bodies.begin(), m_message.bodies.end(),
                           [&](const say::BodyId& b) { return ThingId(b) == id; });
    }

    Workshop& m_workshop;
    say::ExportBodies m_message;
    say::Exported m_answer;
};

} // namespace

std::unique_ptr<Job> exportJob(Workshop& w, say::ExportBodies message) {
    return std::make_unique<Export>(w, std::move(message));
}

} // namespace gc::forge

// The largest size of a failing step that works, found by trying.

#include "forge/jobs/job.hpp"

namespace gc::forge {

namespace {

class TryRemedy : public PartJob {
  public:
    TryRemedy(int revision, TicketPtr ticket, std::size_t step)
        : PartJob(revision, std::move(ticket)), m_step(step) {}
    Priority priority() const override { return Priority::Remedy; }
    const char* doing() const override { return "remedy"; }
    bool inKernel() const override { return true; }

  protected:
    bool work(Workshop& w) override {
        const StepReport& s = w.regen.steps.at(m_step);
        const Step* step = w.part.findStep(s.id);
        const auto args = Engine::argumentsOf(*step, w.part, valuesOf(w.part));
        if (!args) return true;
        w.say(say::StepStarted{revision(), s.id, true});
        const auto remedy =
            findLargestThatWorks(*args, w.regen.before[m_step], w.part.brief.units, Progress(w.turn));
        if (w.turn()) return false;
        say::RemedyTried m{revision(), s.id, std::nullopt};
        if (remedy) m.remedy = wordsOf(*remedy);
        w.say(std::move(m));
        return true;
    }

  private:
    std::size_t m_step;
};

} // namespace

std::unique_ptr<Job> remedyJob(int revision, TicketPtr ticket, std::size_t step) {
    return std::make_unique<TryRemedy>(revision, std::move(ticket), step);
}

} // namespace gc::forge

// The largest size of a failing step that works, and the places in the sheet where it works as it is, found
// by trying.

#include "core/regen/orders.hpp"
#include "forge/jobs/job.hpp"

namespace gc::forge {

namespace {

class TryRemedy : public PartJob {
  public:
    TryRemedy(int revision, TicketPtr ticket, std::size_t step, bool orders)
        : PartJob(revision, std::move(ticket)), m_step(step), m_orders(orders) {}
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
        const StepKind* kind = findKind(step->kind);
        std::optional<Remedy> remedy;
        if (kind && !kind->decidingSlot.empty() &&
            isShown(*step, kind->decidingSlot)) // a full round has no size
            remedy =
                findLargestThatWorks(*args, w.regen.before[m_step], w.part.brief.units, Progress(w.turn));
        if (w.turn()) return false;
        say::RemedyTried m{revision(), s.id, std::nullopt, {}};
        if (remedy) m.remedy = wordsOf(*remedy);
        const auto materials = m_orders ? loadMaterials() : Result<std::vector<Material>>(Error{});
        if (materials)
            for (const Remedy& r : findOrders(w.part, s.id, w.engine, w.measurer, *materials, w.turn))
                m.orders.push_back(wordsOf(r));
        if (w.turn()) return false;
        w.say(std::move(m));
        return true;
    }

  private:
    std::size_t m_step;
    bool m_orders;
};

} // namespace

std::unique_ptr<Job> remedyJob(int revision, TicketPtr ticket, std::size_t step, bool orders) {
    return std::make_unique<TryRemedy>(revision, std::move(ticket), step, orders);
}

} // namespace gc::forge

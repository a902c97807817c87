// Since which step each target that does not hold has its verdict: the part is measured after earlier and
// earlier steps, as long as any verdict stays what it is now.

#include "core/base/hash.hpp"
#include "core/document/part_file.hpp"
#include "forge/jobs/job.hpp"

namespace gc::forge {

namespace {

class Since : public PartJob {
  public:
    using PartJob::PartJob;
    Priority priority() const override { return Priority::Since; }
    const char* doing() const override { return "since"; }
    bool inKernel() const override { return true; }

  protected:
    bool work(Workshop& w) override {
        const auto materials = loadMaterials();
        if (!materials || w.regen.steps.empty()) return true;
        const auto now = judge(w, w.regen.state, w.measurer, *materials);
        if (w.turn()) return false;
        say::SinceFound m{revision(), std::vector<int>(now.size(), 0)};
        std::vector<std::size_t> open;
        for (std::size_t t = 0; t < now.size(); ++t)
            if (now[t].first == Verdict::Fails || now[t].first == Verdict::Watch) open.push_back(t);
        for (std::size_t i = w.regen.steps.size(); i-- > 0 && !open.empty();) {
            const StepReport& step = w.regen.steps[i];
            const ModelState& before = w.regen.before[i];
            if (!step.ok || step.off || step.later || step.bodies.empty()) continue;
            const auto was =
                before.bodies.empty() ? std::vector<Judged>() : judgeEarlier(w, before, *materials);
            if (w.turn()) return false;
            std::erase_if(open, [&](std::size_t t) {
                if (t < was.size() && was[t] == now[t]) return false;
                m.steps[t] = step.id;
                return true;
            });
        }
        w.say(std::move(m));
        return true;
    }

  private:
    static std::vector<Judged> judge(Workshop& w, const ModelState& state, Measurer& measurer,
                                     const std::vector<Material>& materials) {
        std::vector<Judged> out;
        if (const auto measured = measurer.measure(w.part, state, materials, {true, w.turn}))
            for (const MeasuredTarget& t : measured->targets)
                out.push_back({t.verdict, t.value && t.allowed.least && *t.value < *t.allowed.least});
        return out;
    }

    /// Of a state behind an earlier step, kept: an edit of a late step leaves the early states as they are.
    static std::vector<Judged> judgeEarlier(Workshop& w, const ModelState& state,
                                            const std::vector<Material>& materials) {
        constexpr std::size_t kMost = 400;
        Part asked; // all that verdicts rest on besides the bodies
        asked.brief = w.part.brief;
        asked.values = w.part.values;
        asked.looks = w.part.looks;
        Hasher h;
        h.text(writePart(asked));
        for (const auto& [id, body] : state.bodies)
            h.number(static_cast<std::uint64_t>(id.step)).text(body.name).number(body.content);
        const auto known = w.judged.find(h.value());
        if (known != w.judged.end()) return known->second;
        auto judged = judge(w, state, w.sinceMeasurer, materials);
        if (w.turn()) return {};
        if (w.judged.size() > kMost) w.judged.clear();
        return w.judged[h.value()] = std::move(judged);
    }
};

} // namespace

std::unique_ptr<Job> sinceJob(int revision, TicketPtr ticket) {
    return std::make_unique<Since>(revision, std::move(ticket));
}

} // namespace gc::forge

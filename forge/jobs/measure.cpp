// The measures of a part against its brief: first what is quick, then walls, lean and fill.

#include "forge/jobs/job.hpp"
#include "forge/jobs/surface.hpp"

namespace gc::forge {

namespace {

say::HistogramBars bars(const WallField& field, const SampledSurface& surface) {
    const WallHistogram h = histogram(field, surface);
    return {field.any, field.thinnest.value, field.thickest.value, h.low, h.high, h.areas};
}

class Measure : public PartJob {
  public:
    Measure(int revision, TicketPtr ticket, bool walls)
        : PartJob(revision, std::move(ticket)), m_walls(walls) {}
    Priority priority() const override { return m_walls ? Priority::MeasureFull : Priority::MeasureQuick; }
    const char* doing() const override { return "measure"; }
    bool inKernel() const override { return true; } // distances between bodies are its own, and silent

  protected:
    bool work(Workshop& w) override {
        const auto materials = loadMaterials();
        if (!materials) {
            w.say(say::Failed{revision(), faultOf(materials.error())});
            return true;
        }
        const auto measures = w.measurer.measure(w.part, w.regen.state, *materials, {m_walls, w.turn});
        if (w.turn()) return false;
        if (!measures) {
            w.say(say::Failed{revision(), faultOf(measures.error())});
            return true;
        }
        sayTargets(w, *measures);
        if (!m_walls) return true;
        for (const BodyMeasures& b : measures->bodies) {
            w.volumes[b.content] = b.mass.volume;
            if (b.surface) sayValues(w, b);
            if (w.turn()) return false;
        }
        sayMargins(w);
        return true;
    }

  private:
    void sayTargets(Workshop& w, const PartMeasures& measures) const {
        say::MeasuresTaken m;
        m.revision = revision();
        m.walls = m_walls;
        m.mass = measures.mass;
        m.volume = measures.volume;
        for (const BodyMeasures& b : measures.bodies) m.bodies.push_back({b.id, b.mass.mass, b.material});
        for (const MeasuredTarget& t : measures.targets) {
            say::TargetFared f;
            f.measure = t.target.measure;
            f.ofBody = t.target.body;
            f.label = t.label;
            f.allowed = t.target.allowed;
            f.verdict = verdictWord(t.verdict);
            f.where = t.where;
            f.note = t.note;
            f.body = t.body;
            f.text = t.value ? formatMeasure(*t.value, t.dimension, w.part.brief.units) : "";
            f.value = t.value;
            f.least = t.allowed.least;
            f.most = t.allowed.most;
            f.at = t.at;
            m.targets.push_back(std::move(f));
        }
        w.say(std::move(m));
    }

    void sayValues(Workshop& w, const BodyMeasures& b) const {
        say::BodyValues m;
        m.revision = revision();
        m.body = b.id;
        m.ray = b.ray.thickness;
        m.ball = b.ball.thickness;
        m.lean = b.lean.degrees;
        for (std::size_t i = 0; i < m.lean.size(); ++i)
            if (b.lean.passedOver[i]) m.lean[i] = std::nanf("");
        m.away.assign(m.ray.size(), std::nanf(""));
        if (b.deviation) {
            m.away = b.deviation->away;
            m.awayFrom = b.deviatesFrom;
            m.inside = b.deviation->inside.value;
            m.outside = b.deviation->outside.value;
            m.most = b.deviation->within;
        }
        m.faces = patchesOf(b.surface->mesh, b.surface->faceOf, {&m.ray, &m.ball, &m.lean, &m.away}, b.id,
                            Level::Values, w.sent);
        m.rayBars = bars(b.ray, *b.surface);
        m.ballBars = bars(b.ball, *b.surface);
        w.say(std::move(m));
    }

    /// What each step did to the volume: for the margin of the sheet.
    void sayMargins(Workshop& w) const {
        constexpr std::size_t kMost = 2000;
        const auto volumeOf = [&](const Body& body) {
            const auto known = w.volumes.find(body.content());
            if (known != w.volumes.end()) return known->second;
            const auto p = massProperties(body, Density(1e-3));
            if (w.volumes.size() > kMost) w.volumes.clear();
            return w.volumes[body.content()] = p ? p->volume : 0;
        };
        say::MarginsTaken m;
        m.revision = revision();
        for (std::size_t i = 0; i < w.regen.steps.size(); ++i) {
            const StepReport& s = w.regen.steps[i];
            if (!s.ok || s.bodies.empty()) continue;
            double change = 0;
            for (const ThingId id : s.bodies)
                for (const auto& [state, sign] :
                     {std::pair{&w.regen.after(i), 1}, std::pair{&std::as_const(w.regen.before[i]), -1}})
                    if (const auto body = state->bodies.find(id); body != state->bodies.end())
                        change += sign * volumeOf(body->second.value);
            m.steps.push_back({s.id, change});
            if (w.turn()) return;
        }
        w.say(std::move(m));
    }

    bool m_walls;
};

} // namespace

std::unique_ptr<Job> measureJob(int revision, TicketPtr ticket, bool walls) {
    return std::make_unique<Measure>(revision, std::move(ticket), walls);
}

} // namespace gc::forge

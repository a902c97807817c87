// Builds a part from the first step that changed, and hands on to whoever shows and measures it.

#include "core/document/part_file.hpp"
#include "forge/jobs/job.hpp"

namespace gc::forge {

namespace {

constexpr double kNoticeableMs = 40; // to make a picture

class Build : public PartJob {
  public:
    Build(Workshop& w, say::PartToBuild message)
        : PartJob(message.revision, std::make_shared<RevisionTicket>(w, message.revision)),
          m_message(std::move(message)) {
        // Files are taken as they come, in the order of the messages: from now on only these are held.
        std::map<std::uint64_t, SharedText> held;
        for (const say::FileUse& f : m_message.files)
            if (const auto known = w.files.find(f.hash); known != w.files.end()) {
                m_attachments.push_back({f.name, known->second});
                held.insert(*known);
            }
        w.files = std::move(held);
    }
    Priority priority() const override { return Priority::Build; }
    const char* doing() const override { return "build"; }
    bool inKernel() const override { return true; }

  protected:
    bool work(Workshop& w) override {
        auto part = read();
        if (!part) {
            w.say(say::Failed{revision(), faultOf(part.error())});
            return true;
        }
        RegenHooks hooks;
        hooks.cancelled = w.turn;
        hooks.preview = m_message.preview;
        hooks.stepStarted = [&](const StepReport& s) { w.say(say::StepStarted{revision(), s.id, false}); };
        hooks.stepDone = [&](const StepReport& s) { w.say(fared(s)); };
        RegenResult regen = w.engine.regenerate(*part, hooks);
        if (regen.cancelled) return false;
        w.part = std::move(*part);
        w.regen = std::move(regen);
        w.revision = revision();
        w.whole = true;
        sayOutlines(w);
        sayGuides(w);
        handOn(w);
        return true;
    }

  private:
    Result<Part> read() const {
        if (m_message.version != say::kVersion)
            return errorOf("message.version",
                           "The window and its worker are of different versions. Install Good "
                           "Curve anew.");
        auto part = readPart(m_message.text);
        if (!part) return part;
        part->attachments = m_attachments;
        return part;
    }

    say::StepFared fared(const StepReport& s) const {
        say::StepFared m;
        m.revision = revision();
        m.id = s.id;
        m.number = s.number;
        m.off = s.off;
        m.later = s.later;
        m.ok = s.ok;
        m.cached = s.cached;
        m.milliseconds = s.milliseconds;
        m.notes.assign(s.notes.begin(), s.notes.end());
        if (s.error)
            m.fault = faultOf(*s.error);
        else if (s.doubt)
            m.fault = faultOf(*s.doubt);
        return m;
    }

    void sayOutlines(Workshop& w) const {
        constexpr int kPoints = 240;
        for (const auto& [id, entity] : w.regen.state.outlines) {
            const Outline& outline = *entity.value;
            say::StationsFared m{revision(), id.step, outline.wall.residuals, outline.wall.bendingEnergy, {}};
            const auto add = [&](Vec2 p) {
                m.curve.push_back(static_cast<float>(p.x));
                m.curve.push_back(static_cast<float>(p.y));
            };
            for (const Vec2 p : outline.polyline) add(p);
            for (int i = 0; i <= kPoints && !outline.drawn(); ++i)
                add(outline.wall.curve.at(static_cast<double>(i) / kPoints));
            w.say(std::move(m));
        }
    }

    void sayGuides(Workshop& w) const {
        say::GuidesShown m;
        m.revision = revision();
        for (const PlaneGuide& g : planeGuides(w.regen.state)) m.planes.push_back({g.name, g.plane});
        for (const AxisGuide& g : axisGuides(w.regen.state)) m.axes.push_back({g.name, g.from, g.to});
        for (const DrawingGuide& g : drawingGuides(w.regen.state)) {
            say::DrawingShown d{g.step, g.plane, {}, {}};
            const auto add = [&m](const std::vector<Vec3>& line) {
                const auto first = static_cast<std::uint32_t>(m.points.size() / 3);
                for (const Vec3& p : line)
                    for (const double v : {p.x, p.y, p.z}) m.points.push_back(static_cast<float>(v));
                return std::pair(first, static_cast<std::uint32_t>(line.size()));
            };
            for (const StrokeGuide& s : g.strokes) {
                const auto [first, count] = add(s.points);
                d.strokes.push_back({s.reference, s.chain, first, count});
            }
            for (const AreaGuide& a : g.areas) {
                say::AreaShown shown{a.area, {}};
                for (const auto& loop : a.loops) {
                    const auto [first, count] = add(loop);
                    shown.loops.insert(shown.loops.end(), {first, count});
                }
                d.areas.push_back(std::move(shown));
            }
            m.drawings.push_back(std::move(d));
        }
        w.say(std::move(m));
    }

    void handOn(Workshop& w) const {
        // The fine picture at once where it takes no longer than anybody notices.
        const bool quick = w.fineMs <= kNoticeableMs;
        if (m_message.shown) w.schedule(meshJob(revision(), ticket(), quick, true));
        if (w.look.any()) w.schedule(lookJob());
        tryRemedies(w);
        if (!m_message.measured) return;
        w.schedule(measureJob(revision(), ticket(), false));
        if (!quick) w.schedule(meshJob(revision(), ticket(), true, false));
        if (m_message.preview) return;
        w.schedule(measureJob(revision(), ticket(), true));
        w.schedule(sinceJob(revision(), ticket()));
    }

    /// For what fails; of a sentence that is still open, too. They wait for all else, and the next part ends
    /// them.
    void tryRemedies(Workshop& w) const {
        for (std::size_t i = 0; i < w.regen.steps.size(); ++i) {
            const StepReport& s = w.regen.steps[i];
            const StepKind* kind = findKind(s.kind);
            const bool partly = s.ok && s.doubt && s.doubt->code == "edges.left";
            if (!kind || (s.ok && !partly)) continue;
            // A sentence that is still open has its place yet to take.
            const bool orders = kind->words.stage == "Finish" && !m_message.preview;
            if (orders || !kind->decidingSlot.empty()) w.schedule(remedyJob(revision(), ticket(), i, orders));
        }
    }

    say::PartToBuild m_message;
    std::vector<Attachment> m_attachments;
};

} // namespace

std::unique_ptr<Job> buildJob(Workshop& w, say::PartToBuild message) {
    return std::make_unique<Build>(w, std::move(message));
}

} // namespace gc::forge

// What a person points at: points, what a drawing can follow, how an item is called and which items are
// meant. Quick, and answered within other work.

#include "core/regen/picked.hpp"
#include "core/shape/body.hpp"
#include "forge/jobs/job.hpp"

#include <algorithm>

namespace gc::forge {

namespace {

class LookJob : public Job {
  public:
    Priority priority() const override { return Priority::Look; }
    const char* doing() const override { return "look"; }
};

class Look : public LookJob {
  public:
    void run(Workshop& w) override {
        if (!w.whole || !w.look.any()) return;
        if (w.look.aidsOf) sayAids(w);
        if (!w.look.places && !w.look.tracesOf) return;
        say::LookShown m;
        m.revision = w.revision;
        m.tracesOf = w.look.tracesOf;
        if (w.look.places)
            for (const PlaceOnBody& p : pickablePlaces(w.regen.state)) m.places.push_back({p.at, p.refs});
        if (w.look.tracesOf)
            for (const Trace& t : followable(w.part, w.regen, w.look.tracesOf))
                m.traces.push_back({t.source, wordsOf(t.kind).key, t.piece, t.pieces, t.at, t.sizes});
        w.say(std::move(m));
    }

  private:
    static void sayAids(Workshop& w) {
        say::AidsShown m;
        m.revision = w.revision;
        m.step = w.look.aidsOf;
        for (const StepReport& s : w.regen.steps)
            if (s.id == m.step) {
                m.takes = s.aids.takes;
                for (const Handle& h : s.aids.handles)
                    m.handles.push_back({h.slot, h.turns, h.from, h.direction, h.arm, h.value, h.way, h.loose,
                                         h.turnsRound, h.turnsInto, h.counts.some, h.counts.whole,
                                         h.counts.more});
                for (const Thread& t : s.aids.threads) m.threads.push_back(shown(t));
                // What was added is seen as a part of the body.
                if (!s.aids.tool.empty() && (s.aids.takes || !s.ok)) addTool(m, s.aids.tool, w.turn);
                for (const FileBody& b : s.aids.fileBodies) addFileBody(m, b, w);
            }
        w.say(std::move(m));
    }

    static say::ThreadShown shown(const Thread& t) {
        say::ThreadShown out{t.from, t.to, t.pulled, {}, {}, t.slot, t.choice, t.chosen};
        for (const Thread::Place& p : t.starts) out.starts.push_back({p.at, p.says});
        for (const Thread::Place& p : t.ends) out.ends.push_back({p.at, p.says});
        return out;
    }

    /// With a picture, as long as there are not too many triangles in all.
    static void addFileBody(say::AidsShown& m, const FileBody& body, const Workshop& w) {
        constexpr std::size_t kMostCorners = 1'000'000;   // of triangles
        constexpr double kShare = 1.0 / 80, kAngle = 0.5; // of its size; rad
        const Vec3 size = looseEnvelope(body.body).size();
        say::FileBodyShown shown{body.name, sizeText(size, w.part.brief.units), body.taken};
        const auto mesh = m.bodyTriangles.size() < kMostCorners
                              ? makeMesh(body.body, {kShare * length(size), kAngle, w.turn})
                              : Result<TriangleMesh>(Error{});
        if (mesh) {
            for (const Vec3& p : mesh->points)
                for (const double c : {p.x, p.y, p.z}) m.bodyPoints.push_back(static_cast<float>(c));
            for (const auto& t : mesh->triangles)
                m.bodyTriangles.insert(m.bodyTriangles.end(), t.begin(), t.end());
            shown.points = static_cast<std::uint32_t>(mesh->points.size());
            shown.triangles = static_cast<std::uint32_t>(mesh->triangles.size());
        }
        m.fileBodies.push_back(std::move(shown));
    }
    static std::string sizeText(const Vec3& size, const UnitSystem& units) {
        std::string out;
        for (const double c : {size.x, size.y, size.z})
            out += (out.empty() ? "" : " × ") + formatNumber(c / units.factorFor(kLength), 1);
        return out + " " + units.symbolFor(kLength);
    }

    static void addTool(say::AidsShown& m, const Body& tool, const Stop& stop) {
        constexpr double kDeviation = 0.25, kAngle = 0.5; // mm, rad
        const double suited = deviationFor(kDeviation, length(looseEnvelope(tool).size()));
        const auto mesh = makeMesh(tool, {suited, kAngle, stop});
        if (!mesh) return; // a picture less
        const auto add = [](std::vector<float>& to, const Vec3& v) {
            for (const double c : {v.x, v.y, v.z}) to.push_back(static_cast<float>(c));
        };
        for (const Vec3& p : mesh->points) add(m.points, p);
        for (const Vec3& n : mesh->normals) add(m.normals, n);
        for (const auto& t : mesh->triangles) m.triangles.insert(m.triangles.end(), t.begin(), t.end());
        for (const MeshEdge& e : mesh->edges) {
            m.edgeSizes.push_back(static_cast<std::uint32_t>(e.points.size()));
            for (const Vec3& p : e.points) add(m.lines, p);
        }
    }
};

class NameIt : public LookJob {
  public:
    explicit NameIt(say::NameItem m) : m_message(std::move(m)) {}
    int ask() const override { return m_message.ask; }
    void run(Workshop& w) override {
        say::ItemNamed answer{m_message.ask, {}, false};
        const auto body = w.regen.state.bodies.find(m_message.body);
        answer.stale = body == w.regen.state.bodies.end() || body->second.content != m_message.content;
        if (!answer.stale && !isMadeBy(body->second.value, m_message.edge, m_message.item, m_message.step))
            answer.references = m_message.edge ? referencesForEdge(body->second.value, m_message.item)
                                               : referencesForFace(body->second.value, m_message.item);
        for (std::string& r : answer.references) // where another body has it, too, the body is named
            if (isElsewhere(w, r)) r = onBody(r, m_message.body);
        w.say(std::move(answer));
    }

  private:
    bool isElsewhere(const Workshop& w, const std::string& reference) const {
        const auto edge = m_message.edge ? parseEdgeRef(reference) : Result<EdgeRef>(Error{});
        const auto face = m_message.edge ? Result<FaceRefPtr>(Error{}) : parseFaceRef(reference);
        return std::any_of(w.regen.state.bodies.begin(), w.regen.state.bodies.end(), [&](const auto& b) {
            return b.first != ThingId(m_message.body) && ((edge && resolveEdges(b.second.value, *edge)) ||
                                                          (face && resolveFaces(b.second.value, **face)));
        });
    }

    say::NameItem m_message;
};

class Find : public LookJob {
  public:
    explicit Find(say::FindItems m) : m_message(std::move(m)) {}
    int ask() const override { return m_message.ask; }
    void run(Workshop& w) override {
        say::ItemsFound answer{m_message.ask, {}};
        for (const std::string& text : m_message.references) {
            const auto face = parseFaceRef(text);
            const auto edge = parseEdgeRef(text);
            for (const auto& [id, body] : w.regen.state.bodies) {
                // In a slot of edges "rim of" is the edges round a face; as a face it is what a shell left.
                if ((edge && edge->body && *edge->body != id) ||
                    (face && (*face)->body && *(*face)->body != id))
                    continue;
                const auto edges = edge ? resolveEdges(body.value, *edge) : Result<Resolution>(Error{});
                const auto faces = face ? resolveFaces(body.value, **face) : Result<Resolution>(Error{});
                if (edges)
                    for (const int i : edges->items) answer.items.push_back({id, true, i});
                if (faces)
                    for (const int i : faces->items) answer.items.push_back({id, false, i});
            }
        }
        w.say(std::move(answer));
    }

  private:
    say::FindItems m_message;
};

class Read : public LookJob {
  public:
    explicit Read(say::TakeReadings m) : m_message(std::move(m)) {}
    int ask() const override { return m_message.ask; }
    void run(Workshop& w) override {
        say::ReadingsTaken answer{m_message.ask, {}, std::nullopt};
        const auto all = readingsOf(w.regen.state, m_message.picked);
        if (all)
            for (const Reading& r : *all)
                answer.readings.push_back({r.key, readingText(r, w.part.brief.units), r.value, r.at, r.to});
        else
            answer.fault = faultOf(inWordsOf(w.part, all.error()));
        w.say(std::move(answer));
    }

  private:
    /// As a person reads it.
    static Error inWordsOf(const Part& part, Error e) {
        e.sentence = spoken(e.sentence.text(), part);
        return e;
    }

    say::TakeReadings m_message;
};

} // namespace

std::unique_ptr<Job> readJob(say::TakeReadings message) {
    return std::make_unique<Read>(std::move(message));
}
std::unique_ptr<Job> lookJob() {
    return std::make_unique<Look>();
}
std::unique_ptr<Job> nameJob(say::NameItem message) {
    return std::make_unique<NameIt>(std::move(message));
}
std::unique_ptr<Job> findJob(say::FindItems message) {
    return std::make_unique<Find>(std::move(message));
}

} // namespace gc::forge

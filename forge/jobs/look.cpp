// What a person points at: points, what a drawing can follow, how an item is called and which items are
// meant. Quick, and answered within other work.

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
        if (!w.whole || (!w.look.places && !w.look.tracesOf)) return;
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
};

class NameIt : public LookJob {
  public:
    explicit NameIt(say::NameItem m) : m_message(std::move(m)) {}
    int ask() const override { return m_message.ask; }
    void run(Workshop& w) override {
        say::ItemNamed answer{m_message.ask, {}};
        const auto body = w.regen.state.bodies.find(m_message.body);
        if (body != w.regen.state.bodies.end() && body->second.content == m_message.content)
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

} // namespace

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

// The bodies as triangles for the stand: coarse first where fine ones take time.

#include "core/shape/bending.hpp"
#include "core/shape/places.hpp"
#include "forge/jobs/job.hpp"
#include "forge/jobs/surface.hpp"

#include <chrono>

namespace gc::forge {

namespace {

constexpr double kCoarse = 0.25, kFine = 0.05; // mm, deviation of the triangles

std::vector<std::uint32_t> facesOfVertices(const TriangleMesh& mesh) {
    std::vector<std::uint32_t> out(mesh.points.size(), 0);
    for (std::uint32_t f = 0; f < mesh.faces.size(); ++f)
        for (std::uint32_t v = 0; v < mesh.faces[f].vertexCount; ++v) out[mesh.faces[f].firstVertex + v] = f;
    return out;
}

class Mesh : public PartJob {
  public:
    Mesh(int revision, TicketPtr ticket, bool fine, bool first)
        : PartJob(revision, std::move(ticket)), m_fine(fine), m_first(first) {}
    Priority priority() const override { return m_first ? Priority::Mesh : Priority::Refine; }
    const char* doing() const override { return "mesh"; }

  protected:
    bool work(Workshop& w) override {
        const double deviation = m_fine ? kFine : kCoarse;
        const Level level = m_fine ? Level::Fine : Level::Coarse;
        for (const auto& [id, body] : w.regen.state.bodies) {
            const auto shown = w.shown.find(id);
            if (shown != w.shown.end() && shown->second.first == body.content &&
                shown->second.second <= deviation)
                continue;
            if (!show(w, id, body.value, level, deviation)) return false;
            w.shown[id] = {body.content, deviation};
        }
        if (!m_first) return true;
        std::erase_if(w.shown, [&](const auto& s) { return !w.regen.state.bodies.count(s.first); });
        w.sent.forgetAllBut(w.regen.state.bodies);
        say::BodiesShown all;
        all.revision = revision();
        for (const auto& [id, body] : w.regen.state.bodies) {
            const auto offer = w.regen.state.offers.find(id);
            const BodyOffer offered = offer == w.regen.state.offers.end() ? BodyOffer() : offer->second;
            all.bodies.push_back({id, body.name, offered.name, offered.colour});
        }
        w.say(std::move(all));
        return true;
    }

  private:
    bool show(Workshop& w, ThingId id, const Body& body, Level level, double deviation) {
        using Clock = std::chrono::steady_clock;
        constexpr double kFineAngle = 0.25, kCoarseAngle = 0.5; // rad between normals
        const auto started = Clock::now();
        const double suited = deviationFor(deviation, length(looseEnvelope(body).size()));
        const auto mesh = makeMesh(body, {suited, m_fine ? kFineAngle : kCoarseAngle, w.turn});
        if (m_fine) w.fineMs = std::chrono::duration<double, std::milli>(Clock::now() - started).count();
        if (!mesh) {
            if (mesh.error().code == "mesh.stopped") return false;
            w.say(say::Failed{revision(), faultOf(mesh.error())});
            return true;
        }
        if (m_first && !mesh->missing.empty()) { // the rest is shown
            const std::string name = w.regen.state.bodies.at(id).name;
            w.say(say::Failed{
                revision(), faultOf(errorOf("mesh.missing", spoken(missingIn(*mesh, name).text(), w.part)))});
        }
        say::BodySurface m;
        m.revision = revision();
        m.body = id;
        m.content = body.content();
        m.fine = m_fine;
        m.bends = bendingOf(*mesh);
        m.faces = patchesOf(*mesh, facesOfVertices(*mesh), {&m.bends}, id, level, w.sent);
        for (std::size_t f = 0; f < mesh->faces.size(); ++f)
            m.flat.push_back(planeOfFace(body, static_cast<int>(f)).has_value() ? 1 : 0);
        for (const MeshEdge& e : mesh->edges) {
            m.edgeSizes.push_back(static_cast<std::uint32_t>(e.points.size()));
            m.edgeSmooth.push_back(e.smooth ? 1 : 0);
            for (const Vec3& p : e.points)
                for (const double c : {p.x, p.y, p.z}) m.lines.push_back(static_cast<float>(c));
            for (const Vec3& b : bendingAlong(e.points))
                for (const double c : {b.x, b.y, b.z}) m.lineBends.push_back(static_cast<float>(c));
        }
        w.say(std::move(m));
        return true;
    }

    bool m_fine, m_first;
};

} // namespace

std::unique_ptr<Job> meshJob(int revision, TicketPtr ticket, bool fine, bool first) {
    return std::make_unique<Mesh>(revision, std::move(ticket), fine, first);
}

} // namespace gc::forge

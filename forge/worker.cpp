#include "forge/worker.hpp"

#include "core/document/part_file.hpp"
#include "core/exchange/export.hpp"

#include <algorithm>
#include <chrono>
#include <csignal>
#include <cstdlib>
#include <malloc.h>
#include <thread>

namespace gc {

namespace {

using Json = nlohmann::json;

constexpr double kCoarse = 0.25, kFine = 0.05; // mm, deviation of the display meshes
constexpr double kNoticeableMs = 40;           // to make a mesh

Json remedyJson(const Remedy& r) {
    return {{"step", r.step}, {"slot", r.slot}, {"value", r.value}, {"sentence", r.sentence}};
}

Json errorJson(const Error& e) {
    Json remedies = Json::array();
    for (const Remedy& r : e.remedies) remedies.push_back(remedyJson(r));
    return {{"code", e.code},
            {"sentence", e.sentence},
            {"culprits", e.culprits},
            {"remedies", remedies},
            {"position", e.position}};
}

Json stepJson(const StepReport& s) {
    return {{"id", s.id},         {"number", s.number},
            {"kind", s.kind},     {"off", s.off},
            {"later", s.later},   {"ok", s.ok},
            {"cached", s.cached}, {"ms", s.milliseconds},
            {"notes", s.notes},   {"error", s.error ? errorJson(*s.error) : Json(nullptr)}};
}

/// Positions, normals, triangles and the face of each vertex, as blobs.
std::vector<std::string> meshBlobs(const TriangleMesh& mesh) {
    std::vector<float> points, normals;
    for (const Vec3& p : mesh.points) put(points, p);
    for (const Vec3& n : mesh.normals) put(normals, n);
    std::vector<std::uint32_t> triangles, faceOf(mesh.points.size(), 0);
    for (std::uint32_t f = 0; f < mesh.faces.size(); ++f)
        for (std::uint32_t i = mesh.faces[f].firstTriangle;
             i < mesh.faces[f].firstTriangle + mesh.faces[f].triangleCount; ++i)
            for (const std::uint32_t v : mesh.triangles[i]) {
                triangles.push_back(v);
                faceOf[v] = f;
            }
    return {blobOf(points), blobOf(normals), blobOf(triangles), blobOf(faceOf)};
}

Json wallJson(const WallField& f, const WallHistogram& h) {
    return {{"any", f.any}, {"min", f.thinnest.value}, {"max", f.thickest.value},
            {"low", h.low}, {"high", h.high},          {"areas", h.areas}};
}

} // namespace

void Worker::post(Frame frame) {
    {
        const std::lock_guard lock(m_mutex);
        if (frame.type() == "part") // an older part that waits is of no use any more
            m_queue.erase(
                std::remove_if(m_queue.begin(), m_queue.end(),
                               [](const Frame& f) { return f.type() == "part" || f.type() == "solve"; }),
                m_queue.end());
        m_queue.push_back(std::move(frame));
    }
    m_arrived.notify_one();
}

void Worker::close() {
    {
        const std::lock_guard lock(m_mutex);
        m_closed = true;
    }
    m_arrived.notify_one();
}

bool Worker::superseded() const {
    const std::lock_guard lock(m_mutex);
    return m_closed ||
           std::any_of(m_queue.begin(), m_queue.end(), [](const Frame& f) { return f.type() == "part"; });
}

void Worker::run() {
    for (;;) {
        Frame frame;
        {
            std::unique_lock lock(m_mutex);
            m_arrived.wait(lock, [&] { return m_closed || !m_queue.empty(); });
            if (m_queue.empty()) return;
            frame = std::move(m_queue.front());
            m_queue.pop_front();
        }
        handle(frame);
        returnMemory();
    }
}

/// What the last part needed and the next may not goes back to the system while nobody waits: else the
/// allocator keeps the pages between what lives long, and an afternoon of edits grows the worker.
void Worker::returnMemory() {
    {
        const std::lock_guard lock(m_mutex);
        if (!m_queue.empty()) return;
    }
    ::malloc_trim(0);
}

void Worker::handle(const Frame& frame) {
    const std::string type = frame.type();
    if (type == "part")
        buildPart(frame);
    else if (type == "look") {
        m_look = {frame.header.value("places", false), frame.header.value("traces", 0)};
        sendLook(m_revision);
    } else if (type == "export")
        exportFile(frame);
    else if (type == "solve")
        solveTarget(frame);
    else if (type == "debug" && std::getenv("GOOD_CURVE_DEBUG"))
        misbehave(frame.header.value("how", ""));
}

void Worker::buildPart(const Frame& frame) {
    const int revision = frame.header.value("revision", 0);
    const auto finish = [&](bool cancelled) {
        m_send({{{"type", "done"}, {"revision", revision}, {"cancelled", cancelled}}, {}});
    };
    auto part = readPart(frame.header.value("part", ""));
    if (!part) {
        m_send({{{"type", "failed"}, {"revision", revision}, {"error", errorJson(part.error())}}, {}});
        return finish(false);
    }
    m_part = std::move(*part);
    RegenHooks hooks;
    hooks.cancelled = [this] { return superseded(); };
    hooks.stepStarted = [&](const StepReport& s) {
        m_send({{{"type", "step-started"}, {"revision", revision}, {"id", s.id}}, {}});
    };
    hooks.stepDone = [&](const StepReport& s) {
        m_send({{{"type", "step"}, {"revision", revision}, {"step", stepJson(s)}}, {}});
    };
    m_regen = m_engine.regenerate(m_part, hooks);
    m_revision = revision;
    if (m_regen.cancelled) return finish(true);
    sendOutlines(revision);
    sendGuides(revision);
    // The fine picture at once where it takes no longer than anybody notices.
    const bool quick = m_fineMs <= kNoticeableMs;
    sendMeshes(revision, quick ? kFine : kCoarse, quick);
    if (!superseded()) sendLook(revision);
    if (superseded()) return finish(true);
    sendMeasures(frame, revision);
    if (superseded()) return finish(true);
    sendMeshes(revision, kFine, true);
    if (!frame.header.value("preview", false)) {
        sendMargins(revision);
        sendRemedies(revision);
        if (!superseded()) sendSince(revision);
    }
    finish(superseded());
}

void Worker::sendOutlines(int revision) {
    for (const auto& [id, entity] : m_regen.state.outlines) {
        const Outline* outline = entity.value.get();
        std::vector<float> points;
        for (const Vec2 p : outline->polyline) {
            points.push_back(static_cast<float>(p.x));
            points.push_back(static_cast<float>(p.y));
        }
        for (int i = 0; i <= 240 && outline->polyline.empty() && outline->wall.curve.poleCount() > 0; ++i) {
            const Vec2 p = outline->wall.curve.at(i / 240.0);
            points.push_back(static_cast<float>(p.x));
            points.push_back(static_cast<float>(p.y));
        }
        m_send({{{"type", "outline"},
                 {"revision", revision},
                 {"step", id.step},
                 {"name", entity.name},
                 {"residuals", outline->wall.residuals},
                 {"energy", outline->wall.bendingEnergy}},
                {blobOf(points)}});
    }
}

void Worker::sendMeshes(int revision, double deviation, bool fine) {
    Json present = Json::array();
    for (const auto& [id, entity] : m_regen.state.bodies) present.push_back(entity.name);
    for (const auto& [id, entity] : m_regen.state.bodies) {
        const std::string& name = entity.name;
        const Body& body = entity.value;
        const auto sent = m_sentMeshes.find(name);
        if (sent != m_sentMeshes.end() && sent->second.first == body.content() &&
            sent->second.second <= deviation)
            continue;
        const auto started = std::chrono::steady_clock::now();
        const auto mesh = makeMesh(body, {deviation, fine ? 0.25 : 0.5});
        if (fine)
            m_fineMs =
                std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - started).count();
        if (!mesh) {
            m_send({{{"type", "failed"}, {"revision", revision}, {"error", errorJson(mesh.error())}}, {}});
            continue;
        }
        Json faces = Json::array(), edges = Json::array(), flat = Json::array();
        for (std::size_t i = 0; i < mesh->faces.size(); ++i) {
            faces.push_back(referencesForFace(body, static_cast<int>(i)));
            flat.push_back(planeOfFace(body, static_cast<int>(i)).has_value());
        }
        std::vector<float> lines;
        for (std::size_t i = 0; i < mesh->edges.size(); ++i) {
            const MeshEdge& e = mesh->edges[i];
            if (e.points.empty()) continue;
            edges.push_back({{"first", lines.size() / 3},
                             {"count", e.points.size()},
                             {"smooth", e.smooth},
                             {"refs", referencesForEdge(body, static_cast<int>(i))}});
            for (const Vec3& p : e.points) put(lines, p);
        }
        auto blobs = meshBlobs(*mesh);
        blobs.push_back(blobOf(lines));
        m_send({{{"type", "mesh"},
                 {"revision", revision},
                 {"body", name},
                 {"fine", fine},
                 {"faces", faces},
                 {"flat", flat},
                 {"edges", edges}},
                std::move(blobs)});
        m_sentMeshes[name] = {body.content(), deviation};
        if (superseded()) return;
    }
    for (auto it = m_sentMeshes.begin(); it != m_sentMeshes.end();)
        it = m_regen.state.bodyNamed(it->first) ? std::next(it) : m_sentMeshes.erase(it);
    m_send({{{"type", "bodies"}, {"revision", revision}, {"names", present}}, {}});
}

void Worker::sendMeasures(const Frame& frame, int revision) {
    const auto materials = loadMaterials();
    if (!materials) {
        m_send({{{"type", "failed"}, {"revision", revision}, {"error", errorJson(materials.error())}}, {}});
        return;
    }
    for (const bool walls : {false, true}) {
        if (walls && frame.header.value("preview", false)) return;
        const auto measures =
            m_measurer.measure(m_part, m_regen.state, *materials, {walls, [this] { return superseded(); }});
        if (superseded()) return;
        if (!measures) {
            m_send(
                {{{"type", "failed"}, {"revision", revision}, {"error", errorJson(measures.error())}}, {}});
            return;
        }
        Json targets = Json::array();
        for (const MeasuredTarget& t : measures->targets) {
            Json j = {{"measure", t.target.measure},
                      {"label", t.label},
                      {"allowed", t.target.allowed},
                      {"verdict", verdictWord(t.verdict)},
                      {"where", t.where},
                      {"note", t.note},
                      {"body", t.body},
                      {"text", t.value ? formatMeasure(*t.value, t.dimension, m_part.brief.units) : ""}};
            if (t.value) j["value"] = *t.value;
            if (t.allowed.least) j["least"] = *t.allowed.least;
            if (t.allowed.most) j["most"] = *t.allowed.most;
            if (t.at) j["at"] = {t.at->x, t.at->y, t.at->z};
            targets.push_back(std::move(j));
        }
        m_send({{{"type", "measures"},
                 {"revision", revision},
                 {"walls", walls},
                 {"targets", targets},
                 {"mass", measures->mass},
                 {"volume", measures->volume}},
                {}});
        if (!walls) continue;
        for (const BodyMeasures& b : measures->bodies) {
            m_volumes[b.content] = b.mass.volume;
            if (!b.surface) continue;
            auto blobs = meshBlobs(b.surface->mesh);
            blobs.push_back(blobOf(b.ray.thickness));
            blobs.push_back(blobOf(b.ball.thickness));
            std::vector<float> lean = b.lean.degrees;
            for (std::size_t i = 0; i < lean.size(); ++i)
                if (b.lean.passedOver[i]) lean[i] = std::nanf("");
            blobs.push_back(blobOf(lean));
            m_send({{{"type", "field"},
                     {"revision", revision},
                     {"body", b.name},
                     {"ray", wallJson(b.ray, histogram(b.ray, *b.surface))},
                     {"ball", wallJson(b.ball, histogram(b.ball, *b.surface))}},
                    std::move(blobs)});
        }
    }
}

/// What each step did to the volume: for the margin of the sheet.
void Worker::sendMargins(int revision) {
    auto volumeOf = [&](const Body& body) {
        const auto known = m_volumes.find(body.content());
        if (known != m_volumes.end()) return known->second;
        const auto p = massProperties(body, Density(1e-3));
        if (m_volumes.size() > 500) m_volumes.clear();
        return m_volumes[body.content()] = p ? p->volume : 0;
    };
    Json list = Json::array();
    for (std::size_t i = 0; i < m_regen.steps.size(); ++i) {
        const StepReport& s = m_regen.steps[i];
        if (!s.ok || s.bodies.empty()) continue;
        double change = 0;
        for (const ThingId id : s.bodies)
            for (const auto& [state, sign] : {std::pair{&m_regen.after(i), 1}, {&m_regen.before[i], -1}})
                if (const auto body = state->bodies.find(id); body != state->bodies.end())
                    change += sign * volumeOf(body->second.value);
        list.push_back({{"id", s.id}, {"volume", change}});
        if (superseded()) return;
    }
    m_send({{{"type", "margins"}, {"revision", revision}, {"steps", list}}, {}});
}

/// How each target is judged on a state: its verdict, and whether it is below its range. Too heavy before a
/// step and too light after it is not the same failure.
std::map<std::string, Worker::Judged> Worker::judge(const ModelState& state, Measurer& measurer,
                                                    const std::vector<Material>& materials) {
    std::map<std::string, Judged> out;
    const auto measured = measurer.measure(m_part, state, materials, {true, [this] { return superseded(); }});
    if (measured)
        for (const MeasuredTarget& t : measured->targets)
            out[t.target.measure] = {t.verdict, t.value && t.allowed.least && *t.value < *t.allowed.least};
    return out;
}

/// The same for a state behind an earlier step, kept: an edit of a late step leaves the early states as they
/// are.
const std::map<std::string, Worker::Judged>& Worker::judgeEarlier(const ModelState& state,
                                                                  const std::vector<Material>& materials) {
    Part asked; // all that verdicts rest on besides the bodies
    asked.brief = m_part.brief;
    asked.values = m_part.values;
    std::string key = writePart(asked);
    for (const auto& [id, body] : state.bodies) key += body.name + std::to_string(body.content);
    const auto known = m_judged.find(key);
    if (known != m_judged.end()) return known->second;
    if (m_judged.size() > 40) m_judged.clear();
    auto judged = judge(state, m_sinceMeasurer, materials);
    return superseded() ? (m_unfinished = std::move(judged)) : (m_judged[key] = std::move(judged));
}

/// Since which step each target that does not hold has its verdict: the part is measured after earlier and
/// earlier steps, as long as any verdict stays what it is now.
void Worker::sendSince(int revision) {
    const auto materials = loadMaterials();
    if (!materials || m_regen.steps.empty()) return;
    std::map<std::string, Judged> open = judge(m_regen.state, m_measurer, *materials);
    std::erase_if(open, [](const auto& t) {
        return t.second.first != Verdict::Fails && t.second.first != Verdict::Watch;
    });
    Json list = Json::array();
    for (std::size_t i = m_regen.steps.size(); i-- > 0 && !open.empty() && !superseded();) {
        const StepReport& step = m_regen.steps[i];
        const ModelState& before = m_regen.before[i];
        if (!step.ok || step.off || step.later || step.bodies.empty()) continue;
        const auto was =
            before.bodies.empty() ? std::map<std::string, Judged>() : judgeEarlier(before, *materials);
        std::erase_if(open, [&](const auto& t) {
            const auto same = was.find(t.first);
            if (same != was.end() && same->second == t.second) return false;
            list.push_back({{"measure", t.first}, {"step", step.id}});
            return true;
        });
    }
    if (!superseded()) m_send({{{"type", "since"}, {"revision", revision}, {"targets", list}}, {}});
}

void Worker::sendRemedies(int revision) {
    for (std::size_t i = 0; i < m_regen.steps.size(); ++i) {
        const StepReport& s = m_regen.steps[i];
        const StepKind* kind = findKind(s.kind);
        if (s.ok || !kind || kind->decidingSlot.empty() || superseded()) continue;
        const Step* step = m_part.findStep(s.id);
        const auto args = Engine::argumentsOf(*step, m_part, valuesOf(m_part));
        if (!args) continue;
        m_send({{{"type", "step-started"}, {"revision", revision}, {"id", s.id}, {"trying", true}}, {}});
        const auto remedy = findLargestThatWorks(*args, m_regen.before[i], m_part.brief.units);
        Json j = {{"type", "remedy"}, {"revision", revision}, {"step", s.id}};
        if (remedy) j["remedy"] = remedyJson(*remedy);
        m_send({j, {}});
    }
}

void Worker::exportFile(const Frame& frame) {
    std::vector<NamedBody> bodies;
    for (const auto& [id, body] : m_regen.state.bodies) bodies.push_back({body.name, body.value});
    const std::string path = frame.header.value("path", "");
    const auto done = exportBodies(bodies, m_part.name, path);
    m_send({{{"type", "exported"}, {"path", path}, {"error", done ? Json(nullptr) : errorJson(done.error())}},
            {}});
}

void Worker::solveTarget(const Frame& frame) {
    const auto index = frame.header.value("target", std::size_t{0});
    const auto materials = loadMaterials();
    Json list = Json::array();
    if (materials)
        for (const TargetRemedy& r : findTargetRemedies(m_part, index, m_engine, m_measurer, *materials,
                                                        [this] { return superseded(); })) {
            Json then = Json::array();
            for (const auto& [label, value] : r.then) then.push_back({label, value});
            list.push_back({{"remedy", remedyJson(r.remedy)}, {"then", then}, {"others", r.othersFailing}});
        }
    m_send({{{"type", "solved"}, {"target", index}, {"remedies", list}, {"cancelled", superseded()}}, {}});
}

/// For tests of what the window does when the kernel goes wrong.
void Worker::misbehave(const std::string& how) {
    if (how == "crash") std::raise(SIGSEGV);
    if (how == "hang")
        for (;;) std::this_thread::sleep_for(std::chrono::seconds(1));
    if (how == "memory")
        for (std::vector<std::vector<char>> hoard;;) hoard.emplace_back(64u << 20, 'x');
}

} // namespace gc

#include "core/regen/measure.hpp"

#include "core/base/tolerance.hpp"
#include "core/document/aside.hpp"
#include "core/measures/measure.hpp"
#include "core/regen/picked.hpp"
#include "core/shape/borders.hpp"
#include "core/units/said_in.hpp"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace gc {

/// A part with what its brief asks for, worked out once.
struct MeasuredPart {
    const Part& part;
    const ModelState& state;
    Values values;
    std::optional<double> fillLine;
    bool fills = false; ///< a target asks what a body holds, or there is a fill line
    bool edges = false; ///< a target asks what its edges are like
};

namespace {

NameLookup lookupIn(const Values& values) {
    return [&values](const std::string& name) -> std::optional<Amount> {
        const auto it = values.find(name);
        return it == values.end() ? std::nullopt : std::optional<Amount>(it->second);
    };
}

Vec3 pullDirection(const std::string& word) {
    if (word == "front") return {0, -1, 0};
    if (word == "side") return {1, 0, 0};
    return {0, 0, 1};
}

std::optional<double> fillLineOf(const Part& part, const Values& values) {
    if (part.brief.fillLine.empty()) return std::nullopt;
    const auto line = evaluate(part.brief.fillLine, kLength, part.brief.units, lookupIn(values));
    return line ? std::optional<double>(line->value) : std::nullopt;
}

/// The material of a body: its own, or the brief's.
Result<const Material*> materialOf(const Part& part, ThingId body, const std::vector<Material>& materials) {
    const std::string own = lookOf(part, body).material;
    const std::string& name = own.empty() ? part.brief.material : own;
    if (const Material* m = findMaterial(materials, name)) return m;
    Error e = errorOf("measure.material", phrase("The material \"%1\" is not in the materials file. Choose "
                                                 "another in the brief, or add it to the file.",
                                                 name));
    e.culprits = {name};
    return e;
}

/// Edge length of the sampled surface: fine enough to find thin places, coarse enough to be quick.
double sampleEdge(const Box& box) {
    return std::clamp(length(box.size()) / 70, 0.3, 6.0);
}

} // namespace

std::string verdictWord(Verdict v) {
    switch (v) {
    case Verdict::Holds:
        return "holds";
    case Verdict::Watch:
        return "watch";
    case Verdict::Fails:
        return "fails";
    case Verdict::Measuring:
        return "measuring";
    case Verdict::None:
        break;
    }
    return "none";
}

std::string verdictSign(Verdict v) {
    switch (v) {
    case Verdict::Holds:
        return "✓";
    case Verdict::Watch:
        return "▲";
    case Verdict::Fails:
        return "■";
    case Verdict::Measuring:
        return "…";
    case Verdict::None:
        break;
    }
    return "–";
}

Verdict judge(double value, const AllowedRange& a, Dimension dimension) {
    // A limit that is met to the last digit that people see is met.
    const double grain =
        dimension == kNumber
            ? 1e-9
            : 1e-6 * std::max({1.0, std::fabs(a.least.value_or(0)), std::fabs(a.most.value_or(0))});
    if ((a.least && value < *a.least - grain) || (a.most && value > *a.most + grain)) return Verdict::Fails;
    if (dimension == kNumber) return Verdict::Holds;
    double margin = 0;
    if (a.least && a.most)
        margin = 0.1 * 0.5 * (*a.most - *a.least);
    else
        margin = 0.02 * std::fabs(a.least ? *a.least : a.most.value_or(0));
    const bool near = (a.least && value < *a.least + margin) || (a.most && value > *a.most - margin);
    return near && margin > 0 ? Verdict::Watch : Verdict::Holds;
}

std::string formatMeasure(double value, Dimension dimension, const UnitSystem& units) {
    if (dimension == kNumber) return formatNumber(value, 0);
    std::string unit = units.symbolFor(dimension);
    constexpr double kMany = 10000; // from there on the larger unit reads better
    if (unit == "g" && std::fabs(value) >= kMany) unit = "kg";
    if (unit == "ml" && std::fabs(value) >= kMany * 1000) unit = "l";
    const double shown = std::fabs(value / findUnit(unit)->factor);
    const int decimals = dimension == kAngle    ? 1
                         : dimension == kLength ? (std::fabs(value) >= 1000 ? 0
                                                   : std::fabs(value) >= 10 ? 1
                                                                            : 2)
                         : shown >= 1000        ? 0
                         : shown >= 10          ? 1
                                                : 2;
    return formatAmount(value, unit, decimals);
}

namespace {

/// The exact volume against that of the triangles: two ways that share nothing but the surfaces. And flat
/// faces by their borders, for what a small one of them is wrong by is little beside the whole.
std::optional<Error> disagreement(const BodyMeasures& m, const Body& body) {
    if (m.check.openEdges > 0) return std::nullopt; // its triangles enclose nothing
    const double fromMesh = meshVolume(*m.mesh),
                 most = 2 * m.mesh->deviation * m.mass.area + 1e-6 * m.mass.volume;
    if (std::fabs(fromMesh - m.mass.volume) <= most && !wrongBorder(body, *m.mesh)) return std::nullopt;
    Error e;
    e.code = "measure.disagree";
    e.culprits = {m.name};
    e.sentence = phrase("Two ways to work out the volume of %1 disagree: %2 and %3. Its faces may cross one "
                        "another; check the last steps, and do not rely on its mass.",
                        m.name, formatAmount(m.mass.volume, "cm³", 2), formatAmount(fromMesh, "cm³", 2));
    return e;
}

} // namespace

namespace {

Error tooIntricate(const std::string& body) {
    Error e;
    e.code = "measure.mesh";
    e.culprits = {body};
    e.sentence = phrase("The walls of %1 cannot be measured: a face of it is too intricate to be followed. "
                        "Check the last steps, which may have made it fold.",
                        body);
    return e;
}

Error notClosed(int edges, const std::string& body) {
    Error e;
    e.code = "measure.open";
    e.culprits = {body};
    e.sentence = phrase("%1 is open at %2 edges: it has no volume and no wall. Its size can be measured.",
                        body, std::to_string(edges));
    return e;
}

Error notWhole(const TriangleMesh& mesh, const std::string& body) {
    Error e;
    e.code = "measure.missing";
    e.culprits = {body};
    e.sentence = phrase("The walls of %1 cannot be measured. %2", body, missingIn(mesh, body));
    return e;
}

void measureWalls(BodyMeasures& m, const Body& body, const MeasuredPart& p, const Stop& stop) {
    const RayScene scene(*m.mesh);
    auto surface = std::make_shared<SampledSurface>(sampleSurface(*m.mesh, sampleEdge(m.box)));
    m.surface = surface;
    const auto left = [&] { return stop && stop(); };
    if (left()) return;
    m.ray = wallByRay(body, *surface, scene, stop);
    m.ball = wallByBall(body, *surface, scene, stop);
    m.lean = leanOf(*surface, scene, pullDirection(p.part.brief.pull), stop);
    if (p.edges && !left()) m.seams = seamsOf(body, stop);
    if (!p.fills || left()) return;
    m.brim = fillVolume(*m.mesh, scene, m.box, std::nullopt);
    if (p.fillLine && !left()) m.line = fillVolume(*m.mesh, scene, m.box, *p.fillLine);
}

bool asks(const Part& part, MeasureWords::Needs what) {
    return std::any_of(part.brief.targets.begin(), part.brief.targets.end(), [what](const Target& t) {
        const MeasureWords* m = findMeasure(t.measure);
        return m && m->needs == what;
    });
}

/// Where the volume is in doubt, a target that rests on it does not simply hold.
void noteDoubt(MeasuredTarget& t, const std::vector<const BodyMeasures*>& bodies) {
    for (const BodyMeasures* b : bodies)
        if (b->error && t.note.empty()) {
            t.note = b->error->sentence;
            if (t.verdict == Verdict::Holds) t.verdict = Verdict::Watch;
        }
}

/// What a measure of picked things is taken on; a note where one of them is not there.
MeasuredOn picksOf(const Target& target, const MeasuredPart& p, MeasuredTarget& t) {
    MeasuredOn on;
    for (const std::string& text : target.of) {
        auto thing = pickedThing(p.state, text);
        if (!thing) {
            t.note = spoken(thing.error().sentence.text(), p.part);
            on.picked.clear();
            return on;
        }
        on.picked.push_back(std::move(*thing));
    }
    return on;
}

MeasuredTarget measured(const Target& target, const MeasuredPart& p, const std::vector<BodyMeasures>& bodies,
                        bool walls) {
    MeasuredTarget t;
    t.target = target;
    const MeasureWords* words = findMeasure(target.measure);
    MeasureFunction* take = findMeasureTake(target.measure);
    t.label = targetInWords(target, p.part);
    t.dimension = words ? words->dimension : kNumber;
    std::vector<const BodyMeasures*> about;
    for (const BodyMeasures& b : bodies)
        if (target.body.empty() ? !isAside(p.part, b.id) : target.body == b.name) about.push_back(&b);
    if (!target.body.empty() && about.empty()) {
        t.note = phrase("There is no body called \"%1\" now.", target.body);
        t.understood = false;
    }
    if (words && words->needs != MeasureWords::Needs::Shape && !walls && !about.empty()) {
        t.verdict = Verdict::Measuring;
    } else if (take && (words->ofPicked > 0 || !about.empty())) {
        const MeasuredOn on = words->ofPicked > 0 ? picksOf(target, p, t) : MeasuredOn{about, {}};
        Taken taken = take(target.measure, on);
        if (!taken.note.empty() || t.note.empty()) t.note = std::move(taken.note);
        t.value = taken.value;
        t.at = taken.at;
        t.body = std::move(taken.body);
        t.where = referenceInWords(taken.where, p.part);
    }
    const auto allowed = parseAllowed(target.allowed, t.dimension, p.part.brief.units, lookupIn(p.values));
    if (!allowed) {
        t.note = allowed.error().sentence;
        t.understood = false;
    } else {
        t.allowed = *allowed;
        if (t.value) t.verdict = judge(*t.value, *allowed, t.dimension);
    }
    if (words && (words->ofVolume || !t.value)) noteDoubt(t, about);
    const UnitSystem& units = p.part.brief.units;
    t.where = saidIn(units, t.where), t.note = saidIn(units, t.note);
    return t;
}

} // namespace

std::optional<BodyMeasures> Measurer::prepare(ThingId id, const Entity<Body>& body, const Material& material,
                                              const MeasuredPart& p, const MeasureOptions& options) {
    // What is only there to compare with has no wall that anybody asks for.
    const auto names = [&](const Target& t) { return t.body == body.name; };
    const auto& targets = p.part.brief.targets;
    const bool walls =
        options.walls && (!isAside(p.part, id) || std::any_of(targets.begin(), targets.end(), names));
    Key key{body.value.content(),
            material.name + "|" + std::to_string(material.density.internal()) + "|" + p.part.brief.pull +
                std::string(p.fills ? "|fill" : "") + (p.edges ? "|edges" : ""),
            walls};
    if (p.fillLine) key.settings += "|" + std::to_string(*p.fillLine);
    BodyMeasures m;
    bool quickDone = false;
    if (const auto last = m_last.find(id); last != m_last.end()) {
        const Key& other = last->second.first;
        if (other.content == key.content && other.settings == key.settings) {
            m = last->second.second;
            m.name = body.name;
            if (other.walls || !key.walls) return m;
            quickDone = true;
        }
    }
    const auto stopped = [&] { return options.stop && options.stop(); };
    if (!quickDone) {
        m.id = id;
        m.name = body.name;
        m.material = material.name;
        m.content = key.content;
        m.check = checkBody(body.value);
        if (stopped()) return std::nullopt; // each of these may take tens of milliseconds
        m.box = envelope(body.value, options.stop);
        if (stopped()) return std::nullopt;
        if (m.check.openEdges > 0)
            m.error = notClosed(m.check.openEdges, body.name);
        else if (auto mass = massProperties(body.value, material.density))
            m.mass = *mass;
        else
            m.error = mass.error();
    }
    if (walls && m.check.openEdges == 0) {
        if (stopped()) return std::nullopt;
        const double deviation = deviationFor(kMeasureDeviation, length(m.box.size()));
        auto mesh = makeMesh(body.value, {deviation, 0.25, options.stop});
        if (mesh && mesh->deviation > deviation) {
            m.error = tooIntricate(body.name);
        } else if (mesh && !mesh->missing.empty()) {
            m.error = notWhole(*mesh, body.name);
        } else if (mesh) {
            m.mesh = std::make_shared<TriangleMesh>(std::move(*mesh));
            if (!m.error) m.error = disagreement(m, body.value);
            measureWalls(m, body.value, p, options.stop);
        } else {
            m.error = mesh.error();
        }
    }
    if (stopped()) return std::nullopt; // incomplete and not remembered
    m_last[id] = {key, m};
    return m;
}

namespace {

/// The imported body that others are compared with: one that is there for it, else one of triangles, else
/// any; of these the one of the most faces.
std::optional<ThingId> scanAmong(const Part& part, const ModelState& state) {
    std::optional<ThingId> best;
    std::tuple<bool, bool, int> most{false, false, 0};
    for (const auto& [id, body] : state.bodies) {
        const Step* maker = part.findStep(id.step);
        if (!maker || maker->kind != "import") continue;
        const std::tuple now{isAside(part, id), isFaceted(body.value), faceCount(body.value)};
        if (now > most) most = now, best = id;
    }
    return best;
}

} // namespace

void Measurer::compare(const Part& part, const ModelState& state, std::vector<BodyMeasures>& bodies,
                       const Stop& stop) {
    const auto id = scanAmong(part, state);
    std::erase_if(m_deviations, [&](const auto& kept) { return !id || !state.bodies.count(kept.first); });
    if (!id) return;
    const auto& scan = state.bodies.at(*id);
    if (m_scan.content != scan.value.content() || !m_scan.mesh) {
        m_scan = {scan.value.content(), nullptr};
        auto mesh = makeMesh(scan.value, {kMeasureDeviation, 0.25, stop});
        if (!mesh) return;
        m_scan.mesh = std::make_shared<TriangleMesh>(std::move(*mesh));
    }
    for (BodyMeasures& b : bodies) {
        const Step* maker = part.findStep(b.id.step);
        if (b.id == *id || !b.surface || (maker && maker->kind == "import")) continue;
        Compared& known = m_deviations[b.id];
        if (known.surface != b.surface || known.scan != m_scan.content) {
            DeviationField made = deviationFrom(*b.surface, *m_scan.mesh, stop);
            if (!made.any()) return;
            made.from = scan.name;
            known = {b.surface, m_scan.content, std::make_shared<DeviationField>(std::move(made))};
        }
        b.deviation = known.field;
        b.deviatesFrom = *id;
    }
}

Result<PartMeasures> Measurer::measure(const Part& part, const ModelState& state,
                                       const std::vector<Material>& materials,
                                       const MeasureOptions& options) {
    MeasuredPart p{part, state, valuesOf(part), std::nullopt, false};
    p.fillLine = fillLineOf(part, p.values);
    p.fills = p.fillLine || asks(part, MeasureWords::Needs::Fill);
    p.edges = asks(part, MeasureWords::Needs::Edges);
    PartMeasures result;
    for (const auto& [id, body] : state.bodies) {
        const auto material = materialOf(part, id, materials);
        if (!material) return material.error();
        auto m = prepare(id, body, **material, p, options);
        if (!m) return result; // stopped
        if (!isAside(part, id)) {
            result.volume += m->mass.volume;
            result.mass += m->mass.mass;
        }
        result.bodies.push_back(std::move(*m));
    }
    std::erase_if(m_last, [&](const auto& kept) { return !state.bodies.count(kept.first); });
    if (options.walls) compare(part, state, result.bodies, options.stop);
    if (options.stop && options.stop()) return result;
    for (const Target& target : part.brief.targets)
        result.targets.push_back(measured(target, p, result.bodies, options.walls));
    return result;
}

} // namespace gc

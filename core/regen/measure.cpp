#include "core/regen/measure.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kMeasureDeviation = 0.02; // mm, of the mesh that is measured on

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
    Error e = errorOf("measure.material", "The material \"" + name +
                                              "\" is not in the materials file. Choose another in the brief, "
                                              "or add it to the file.");
    e.culprits = {name};
    return e;
}

/// Edge length of the sampled surface: fine enough to find thin places, coarse enough to be quick.
double sampleEdge(const Box& box) {
    return std::clamp(length(box.size()) / 70, 0.3, 6.0);
}

void measureWalls(BodyMeasures& m, const Body& body, const Part& part, const std::optional<double>& line,
                  const Stop& stop) {
    const RayScene scene(*m.mesh);
    auto surface = std::make_shared<SampledSurface>(sampleSurface(*m.mesh, sampleEdge(m.box)));
    m.surface = surface;
    const auto left = [&] { return stop && stop(); };
    if (left()) return;
    m.ray = wallByRay(body, *surface, scene, stop);
    m.ball = wallByBall(body, *surface, scene, stop);
    m.lean = leanOf(*surface, scene, pullDirection(part.brief.pull), stop);
    const bool asksFill = std::any_of(part.brief.targets.begin(), part.brief.targets.end(),
                                      [](const Target& t) { return t.measure.rfind("fill", 0) == 0; });
    if ((!asksFill && !line) || left()) return;
    m.brim = fillVolume(*m.mesh, scene, m.box, std::nullopt);
    if (line && !left()) m.line = fillVolume(*m.mesh, scene, m.box, *line);
}

/// What each kind of target takes from the bodies that it is about.
void takeValue(MeasuredTarget& t, const std::vector<const BodyMeasures*>& bodies, bool walls) {
    const std::string& key = t.target.measure;
    auto over = [&](auto&& value, auto&& better, auto&& place) {
        for (const BodyMeasures* body : bodies) {
            const BodyMeasures& b = *body;
            const std::optional<double> v = value(b);
            if (!v || (t.value && !better(*v, *t.value))) continue;
            t.value = v;
            t.body = b.name;
            place(b);
        }
    };
    auto sum = [&](auto&& value) {
        double total = 0;
        for (const BodyMeasures* b : bodies) total += value(*b);
        t.value = total;
    };
    auto wall = [&](WallField BodyMeasures::*field, bool thin) {
        over(
            [&](const BodyMeasures& b) {
                const WallField& f = b.*field;
                return f.any ? std::optional<double>(thin ? f.thinnest.value : f.thickest.value)
                             : std::nullopt;
            },
            [&](double a, double b) { return thin ? a < b : a > b; },
            [&](const BodyMeasures& b) {
                const WallExtreme& e = thin ? (b.*field).thinnest : (b.*field).thickest;
                t.at = e.at;
                t.where = e.face;
            });
    };
    auto fill = [&](FillResult BodyMeasures::*result) {
        over([&](const BodyMeasures& b) { return std::optional<double>((b.*result).volume); },
             [](double a, double b) { return a > b; },
             [&](const BodyMeasures& b) {
                 const FillResult& f = b.*result;
                 t.where = f.holdsAnything ? "level at " + formatAmount(f.level, "mm", 1) : "";
                 t.note = f.note;
                 t.at = Vec3{b.box.centre().x, b.box.centre().y, f.level};
             });
    };
    auto extent = [&](double Vec3::*axis) {
        Box all;
        for (const BodyMeasures* b : bodies) {
            all.add(b->box.low);
            all.add(b->box.high);
        }
        if (!all.empty()) t.value = all.size().*axis;
    };
    if (bodies.empty()) return;
    if (key == "mass")
        sum([](const BodyMeasures& b) { return b.mass.mass; });
    else if (key == "volume")
        sum([](const BodyMeasures& b) { return b.mass.volume; });
    else if (key == "pieces")
        sum([](const BodyMeasures& b) { return b.check.solids; });
    else if (key == "open edges")
        sum([](const BodyMeasures& b) { return b.check.openEdges; });
    else if (key == "width")
        extent(&Vec3::x);
    else if (key == "depth")
        extent(&Vec3::y);
    else if (key == "height")
        extent(&Vec3::z);
    else if (!walls)
        t.verdict = Verdict::Measuring;
    else if (key == "thinnest wall")
        wall(&BodyMeasures::ray, true);
    else if (key == "thickest wall, ray")
        wall(&BodyMeasures::ray, false);
    else if (key == "thinnest wall, ball")
        wall(&BodyMeasures::ball, true);
    else if (key == "thickest wall")
        wall(&BodyMeasures::ball, false);
    else if (key == "fill brim")
        fill(&BodyMeasures::brim);
    else if (key == "fill line")
        fill(&BodyMeasures::line);
    else if (key == "lean")
        over(
            [](const BodyMeasures& b) {
                return b.lean.any ? std::optional<double>(b.lean.least.value * M_PI / 180) : std::nullopt;
            },
            [](double a, double b) { return a < b; },
            [&](const BodyMeasures& b) {
                t.at = b.lean.least.at;
                t.where = b.lean.least.face;
                if (b.lean.undercutArea > 0) t.note = "Undercut: the tool cannot leave here.";
            });
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
    const std::string unit = units.symbolFor(dimension);
    const double shown = std::fabs(value / units.factorFor(dimension));
    const int decimals = dimension == kAngle ? 1 : shown >= 1000 ? 0 : shown >= 10 ? 1 : 2;
    return formatAmount(value, unit, decimals);
}

namespace {

/// The exact volume against that of the triangles: two ways that share nothing but the surfaces.
std::optional<Error> disagreement(const BodyMeasures& m) {
    if (m.check.openEdges > 0) return std::nullopt; // its triangles enclose nothing
    const double fromMesh = meshVolume(*m.mesh),
                 most = 2 * m.mesh->deviation * m.mass.area + 1e-6 * m.mass.volume;
    if (std::fabs(fromMesh - m.mass.volume) <= most) return std::nullopt;
    Error e;
    e.code = "measure.disagree";
    e.culprits = {m.name};
    e.sentence = "Two ways to work out the volume of " + m.name +
                 " disagree: " + formatAmount(m.mass.volume, "cm³", 2) + " and " +
                 formatAmount(fromMesh, "cm³", 2) +
                 ". Its faces may cross one another; check the last steps, and do not rely on its mass.";
    return e;
}

} // namespace

Result<PartMeasures> Measurer::measure(const Part& part, const ModelState& state,
                                       const std::vector<Material>& materials,
                                       const MeasureOptions& options) {
    const Values values = valuesOf(part);
    const auto line = fillLineOf(part, values);
    PartMeasures result;
    for (const auto& [id, entity] : state.bodies) {
        const Body& body = entity.value;
        const auto material = materialOf(part, id, materials);
        if (!material) return material.error();
        Key key;
        key.content = body.content();
        key.settings = (*material)->name + "|" + part.brief.pull + "|" + (line ? std::to_string(*line) : "");
        for (const Target& t : part.brief.targets)
            if (t.measure.rfind("fill", 0) == 0) key.settings += "|fill";
        key.walls = options.walls;
        BodyMeasures m;
        if (const auto last = m_last.find(id); last != m_last.end()) {
            Key other = last->second.first;
            if (other.content == key.content && other.settings == key.settings) {
                m = last->second.second;
                m.name = entity.name;
                if (other.walls || !key.walls) {
                    result.bodies.push_back(std::move(m));
                    continue;
                }
            }
        }
        if (m.material.empty()) { // else the quick pass did this already
            m.id = id;
            m.name = entity.name;
            m.material = (*material)->name;
            m.content = key.content;
            m.check = checkBody(body);
            m.box = envelope(body, options.stop);
            if (auto mass = massProperties(body, (*material)->density))
                m.mass = *mass;
            else
                m.error = mass.error();
        }
        if (options.walls) {
            if (options.stop && options.stop()) return result;
            if (auto mesh = makeMesh(body, {kMeasureDeviation, 0.25, options.stop})) {
                m.mesh = std::make_shared<TriangleMesh>(std::move(*mesh));
                if (!m.error) m.error = disagreement(m);
                measureWalls(m, body, part, line, options.stop);
            } else
                m.error = mesh.error();
        }
        if (options.stop && options.stop()) return result; // incomplete and not remembered
        m_last[id] = {key, m};
        result.bodies.push_back(std::move(m));
    }
    std::erase_if(m_last, [&](const auto& kept) { return !state.bodies.count(kept.first); });
    for (const BodyMeasures& b : result.bodies) {
        result.volume += b.mass.volume;
        result.mass += b.mass.mass;
    }
    for (const Target& target : part.brief.targets) {
        MeasuredTarget t;
        t.target = target;
        const MeasureWords* words = findMeasure(target.measure);
        t.label = words ? words->label : target.measure;
        t.dimension = words ? words->dimension : kNumber;
        std::vector<const BodyMeasures*> about;
        for (const BodyMeasures& b : result.bodies)
            if (target.body.empty() || target.body == b.name) about.push_back(&b);
        if (!target.body.empty()) t.label += " of " + target.body;
        if (!target.body.empty() && about.empty())
            t.note = "There is no body called \"" + target.body + "\" now.";
        takeValue(t, about, options.walls);
        t.where = referenceInWords(t.where, part);
        const auto allowed = parseAllowed(target.allowed, t.dimension, part.brief.units, lookupIn(values));
        if (!allowed)
            t.note = allowed.error().sentence;
        else {
            t.allowed = *allowed;
            if (t.value) t.verdict = judge(*t.value, *allowed, t.dimension);
        }
        if (target.measure == "mass" || target.measure == "volume")
            for (const BodyMeasures* b : about)
                if (b->error && t.note.empty()) {
                    t.note = b->error->sentence;
                    if (t.verdict == Verdict::Holds) t.verdict = Verdict::Watch;
                }
        result.targets.push_back(std::move(t));
    }
    return result;
}

} // namespace gc

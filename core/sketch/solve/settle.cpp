#include "core/sketch/solve/settle.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace gc {

namespace {

constexpr double kGrabWeight = 1e3;

/// The point whose x is coordinate i.
Vec2 pointIn(const std::vector<double>& all, int i) {
    return {all[static_cast<std::size_t>(i)], all[static_cast<std::size_t>(i) + 1]};
}

double extent(const std::vector<double>& start, const System& system) {
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    for (const auto& [id, at] : system.pointAt) {
        if (id == kOrigin) continue;
        const Vec2 p{start[static_cast<std::size_t>(at)], start[static_cast<std::size_t>(at) + 1]};
        low = {std::min(low.x, p.x), std::min(low.y, p.y)};
        high = {std::max(high.x, p.x), std::max(high.y, p.y)};
    }
    const double e = high.x < low.x ? 0 : std::max(high.x - low.x, high.y - low.y);
    double most = e;
    for (const auto& [id, at] : system.sizeAt)
        most = std::max(most, std::fabs(start[static_cast<std::size_t>(at)]));
    return std::max(most, 1e-3);
}

} // namespace

Settler::Settler(const Drawing& drawing, const DimensionValues& values, SettleOptions options)
    : m_options(options), m_drawing(drawing) {
    compileNow(values);
}

void Settler::compileNow(const DimensionValues& values) {
    m_values = values;
    m_system = std::make_unique<System>(compile(m_drawing, values));
    m_components = componentsOf(*m_system);
    m_z = m_system->unknowns;
    m_size = extent(m_system->start, *m_system);
    m_weight.assign(m_z.size(), 1.0);
    // A shoulder ratio is no length: moving it by one is like moving a point by the size of the drawing.
    for (const Stroke& s : m_drawing.strokes)
        if (s.kind == StrokeKind::Conic)
            if (const int c = m_system->classOf[static_cast<std::size_t>(m_system->sizeAt.at(s.id))]; c >= 0)
                m_weight[static_cast<std::size_t>(c)] = m_size * m_size;
    watchSense();
}

// ---- sense

namespace {

/// Closed rings of strokes that bound something.
std::vector<Settler::Ring> simpleRings(const Drawing& d, const System& s) {
    struct Side {
        int from, to;
        int stroke;
        int fromAt, toAt;
    };
    std::vector<Side> sides;
    const auto node = [&](int pointId) {
        // Points that share both unknowns are one node; take the x class and the y class as its key.
        return s.pointAt.at(pointId);
    };
    std::map<std::pair<std::pair<int, double>, std::pair<int, double>>, int> nodes;
    const auto key = [&](int at) {
        const auto x = static_cast<std::size_t>(at);
        return std::pair{std::pair{s.classOf[x], s.offset[x]}, std::pair{s.classOf[x + 1], s.offset[x + 1]}};
    };
    std::vector<int> place; // node -> x coordinate
    std::vector<std::vector<int>> at;
    const auto number = [&](int pointId) {
        const int c = node(pointId);
        const auto [it, isNew] = nodes.try_emplace(key(c), static_cast<int>(place.size()));
        if (isNew) {
            place.push_back(c);
            at.emplace_back();
        }
        return it->second;
    };
    for (const Stroke& stroke : d.strokes) {
        if (stroke.helper) continue;
        const auto ends = endPoints(stroke);
        if (ends.size() != 2) continue;
        const Side side{number(ends[0]), number(ends[1]), stroke.id, node(ends[0]), node(ends[1])};
        for (const int n : {side.from, side.to})
            at[static_cast<std::size_t>(n)].push_back(static_cast<int>(sides.size()));
        sides.push_back(side);
    }
    std::vector<char> used(sides.size(), 0);
    std::vector<Settler::Ring> rings;
    for (std::size_t first = 0; first < sides.size(); ++first) {
        if (used[first]) continue;
        Settler::Ring ring;
        int side = static_cast<int>(first), here = sides[first].from;
        bool closed = false;
        while (!used[static_cast<std::size_t>(side)]) {
            used[static_cast<std::size_t>(side)] = 1;
            if (at[static_cast<std::size_t>(here)].size() != 2) break;
            const Side& s1 = sides[static_cast<std::size_t>(side)];
            ring.joints.push_back(place[static_cast<std::size_t>(here)]);
            ring.strokes.push_back(s1.stroke);
            ring.leaves.push_back(s1.from == here ? s1.fromAt : s1.toAt);
            here = s1.from == here ? s1.to : s1.from;
            const auto& next = at[static_cast<std::size_t>(here)];
            if (next.size() != 2) break;
            side = next[0] == side ? next[1] : next[0];
            closed = side == static_cast<int>(first);
            if (closed) break;
        }
        if (closed && ring.joints.size() > 2) rings.push_back(std::move(ring));
    }
    return rings;
}

} // namespace

/// Every coordinate of the drawing for unknowns z.
std::vector<double> Settler::expanded(std::span<const double> z) const {
    std::vector<double> all(m_system->start.size());
    for (std::size_t i = 0; i < all.size(); ++i) all[i] = m_system->coordinate(z, static_cast<int>(i));
    return all;
}

double Settler::watched(const Watched& w, std::span<const double> all) const {
    const auto p = [&](std::size_t i) {
        const auto x = static_cast<std::size_t>(w.at[i]);
        return Vec2{all[x], all[x + 1]};
    };
    switch (w.kind) {
    case Watched::Product: {
        double v = all[static_cast<std::size_t>(w.at[0])];
        if (w.at.size() > 1) v -= all[static_cast<std::size_t>(w.at[1])];
        return v;
    }
    case Watched::Cross:
        return cross(p(1) - p(0), p(3) - p(2));
    case Watched::Dot:
        return dot(p(1) - p(0), p(3) - p(2));
    case Watched::ArcTurn: {
        const Vec2 a = p(0) - p(2), b = p(1) - p(2);
        const double turn = std::atan2(cross(a, b), dot(a, b));
        return turn < 0 ? turn + 2 * std::numbers::pi : turn;
    }
    case Watched::Loop: {
        double area = 0;
        for (std::size_t i = 0; i < w.at.size(); ++i) area += cross(p(i), p((i + 1) % w.at.size()));
        return area;
    }
    }
    return 0;
}

void Settler::watchSense() {
    m_watched.clear();
    const System& s = *m_system;
    const auto operand = [&](const Equation& e, int j) {
        return s.operands[static_cast<std::size_t>(e.first + j)];
    };
    for (const auto& [id, at] : s.sizeAt) m_watched.push_back({Watched::Product, {at}, 0});
    for (const Equation& e : s.equations) switch (e.kind) {
        case EquationKind::Parallel:
        case EquationKind::Perpendicular:
            m_watched.push_back({e.kind == EquationKind::Parallel ? Watched::Dot : Watched::Cross,
                                 {operand(e, 0), operand(e, 2), operand(e, 4), operand(e, 6)},
                                 0});
            break;
        case EquationKind::TangentCircles:
            if (e.sense < 0) m_watched.push_back({Watched::Product, {operand(e, 2), operand(e, 5)}, 0});
            break;
        default:
            break;
        }
    for (const Stroke& stroke : m_drawing.strokes)
        if (stroke.kind == StrokeKind::Arc)
            m_watched.push_back({Watched::ArcTurn,
                                 {s.pointAt.at(stroke.points[0]), s.pointAt.at(stroke.points[1]),
                                  s.pointAt.at(stroke.points[2])},
                                 0});
    m_rings = simpleRings(m_drawing, s);
    for (const Ring& ring : m_rings) m_watched.push_back({Watched::Loop, ring.joints, 0});
    constexpr std::size_t kMostJoints = 300; // looking for crossings costs the square of it
    std::erase_if(m_rings, [&](const Ring& ring) { return ring.joints.size() > kMostJoints; });
    if (ringsCross(s.start)) m_rings.clear(); // it did before: there is nothing to keep
    // As drawn: sizes that are worked into the unknowns are new already in m_z.
    for (Watched& w : m_watched) w.was = watched(w, s.start);
    // What lies on the edge between two senses has none yet.
    std::erase_if(m_watched, [&](const Watched& w) {
        if (w.kind == Watched::ArcTurn) return false;
        const double scale = w.kind == Watched::Product ? m_size : m_size * m_size;
        return std::fabs(w.was) < 1e-9 * scale;
    });
}

bool Settler::holds(const Watched& w, std::span<const double> all) const {
    const double now = watched(w, all);
    if (w.kind == Watched::ArcTurn) return std::fabs(now - w.was) < std::numbers::pi;
    return now * w.was > 0;
}

bool Settler::senseHolds(std::span<const double> z) const {
    const std::vector<double> all = expanded(z);
    return std::all_of(m_watched.begin(), m_watched.end(), [&](const Watched& w) { return holds(w, all); });
}

/// Where the smallest motion would turn something over, what vanishes on the way (a radius, the length of a
/// line or of an arc) is held at a third of what it was: the rest of the drawing moves instead.
bool Settler::addGuards() {
    const std::vector<double>& before = m_system->start;
    const std::vector<double> after = expanded(m_z);
    constexpr double kLeft = 0.3;
    const std::size_t had = m_system->equations.size();
    const auto add = [&](EquationKind kind, std::vector<int> coordinates, double value) {
        Equation e;
        e.kind = kind;
        e.first = static_cast<int>(m_system->operands.size());
        e.count = static_cast<int>(coordinates.size());
        e.value = value;
        const auto same = [&](const Equation& other) {
            return other.kind == kind && other.relation == 0 && other.count == e.count &&
                   std::equal(coordinates.begin(), coordinates.end(),
                              m_system->operands.begin() + other.first);
        };
        if (std::any_of(m_system->equations.begin(), m_system->equations.end(), same)) return;
        m_system->operands.insert(m_system->operands.end(), coordinates.begin(), coordinates.end());
        m_system->equations.push_back(e);
    };
    const auto vanishing = [&](int a, int b) {
        const Vec2 was = pointIn(before, b) - pointIn(before, a), now = pointIn(after, b) - pointIn(after, a);
        if (dot(was, now) < kLeft * kLeft * dot(was, was))
            add(EquationKind::Distance, {a, a + 1, b, b + 1}, kLeft * length(was));
    };
    for (const Watched& w : m_watched) {
        if (holds(w, after)) continue;
        if (w.kind == Watched::Product && w.at.size() == 1) add(EquationKind::Fix, {w.at[0]}, kLeft * w.was);
        if (w.kind == Watched::Cross || w.kind == Watched::Dot)
            vanishing(w.at[0], w.at[1]), vanishing(w.at[2], w.at[3]);
        if (w.kind == Watched::ArcTurn) {
            const double chord = length(pointIn(before, w.at[1]) - pointIn(before, w.at[0]));
            const bool shrinks = w.was < std::numbers::pi;
            add(EquationKind::Distance, {w.at[0], w.at[0] + 1, w.at[1], w.at[1] + 1},
                shrinks ? kLeft * chord : chord);
        }
    }
    if (m_system->equations.size() == had) return false;
    splitAgain();
    return true;
}

void Settler::dropGuards() {
    const std::size_t had = m_system->equations.size();
    while (!m_system->equations.empty() && m_system->equations.back().relation == 0)
        m_system->equations.pop_back();
    if (m_system->equations.size() != had) splitAgain();
}

void Settler::splitAgain() {
    m_components = componentsOf(*m_system);
    if (!m_springs.empty())
        for (Component& part : m_components) part.setSprings(m_springs);
}

// ---- solving

/// Newton without a pull: onto the relations from nearby, with the last factor as long as that serves.
bool Settler::project(Component& part, Eigen::VectorXd& z, Settlement& out) {
    Eigen::VectorXd weights(part.unknowns());
    for (int i = 0; i < part.unknowns(); ++i)
        weights[i] = weightOf(part.globalUnknowns()[static_cast<std::size_t>(i)]);
    double worst = part.evaluate(z, false), d = m_options.damping;
    bool fresh = false;
    for (int k = 0; k < m_options.mostSteps && worst > m_options.tolerance; ++k) {
        Eigen::VectorXd r = part.residuals(), dz = part.step(r, nullptr);
        const double most = dz.lpNorm<Eigen::Infinity>();
        if (most > m_options.stepCap * m_size) dz *= m_options.stepCap * m_size / most;
        Eigen::VectorXd trial = z + dz;
        const double next = part.evaluate(trial, false);
        ++out.steps;
        if (next < (fresh ? 0.95 : 0.2) * worst) {
            z = trial;
            worst = next;
            fresh = false;
            if (next < 0.2 * worst || worst <= m_options.tolerance) continue;
            if (next < 0.2 * r.lpNorm<Eigen::Infinity>()) continue;
        } else if (fresh) {
            d = std::max(d, 1e-12) * 100;
            if (d > 1e-2) break;
        }
        part.evaluate(z, true);
        if (!part.factor(weights, d)) return false;
        fresh = true;
    }
    return worst <= m_options.accept;
}

bool Settler::solve(Component& part, const std::vector<double>& anchor, Settlement& out) {
    Eigen::VectorXd z = part.gather(m_z), home = part.gather(anchor), weights(part.unknowns());
    for (int i = 0; i < part.unknowns(); ++i)
        weights[i] = weightOf(part.globalUnknowns()[static_cast<std::size_t>(i)]);
    double worst = part.evaluate(z, true), d = m_options.damping;
    if (worst <= m_options.tolerance) return true;
    for (int k = 0; k < m_options.mostSteps && worst > m_options.tolerance; ++k) {
        if (!part.factor(weights, d)) break;
        ++out.steps;
        const Eigen::VectorXd r = part.residuals();
        const double before = r.squaredNorm();
        // The first steps stay as near as they can to where all began; the last only close in.
        const Eigen::VectorXd back = part.pull(weights, home, z);
        Eigen::VectorXd dz = part.step(r, k < 4 ? &back : nullptr);
        const double most = dz.lpNorm<Eigen::Infinity>();
        if (!std::isfinite(most)) break;
        if (most > m_options.stepCap * m_size) dz *= m_options.stepCap * m_size / most;
        bool better = false;
        for (int half = 0; half < 5 && !better; ++half, dz *= 0.5) {
            part.evaluate(z + dz, false);
            better = part.residuals().squaredNorm() < before * (1 - 1e-6);
            if (better) z += dz;
        }
        if (!better) d = std::max(d, 1e-12) * 100;
        worst = part.evaluate(z, true);
        if (better) d = std::max(m_options.damping, d * 0.1);
        if (d > 1e3) break;
    }
    if (worst > m_options.accept) return false;
    part.scatter(z, m_z);
    return true;
}

Settlement Settler::solveAll(const std::vector<double>& anchor) {
    Settlement out;
    out.solved = true;
    for (Component& part : m_components) out.solved = solve(part, anchor, out) && out.solved;
    report(out);
    return out;
}

/// Looks at every relation as it is now.
void Settler::report(Settlement& out) {
    std::vector<std::pair<double, int>> misses;
    out.residual = 0;
    for (const Equation& e : m_system->equations) {
        const double r = std::fabs(m_system->residual(e, m_z));
        out.residual = std::max(out.residual, r);
        if (r > m_options.accept) misses.push_back({-r, e.relation});
    }
    for (const System::Repeated& r : m_system->repeated)
        if (r.clashes) misses.push_back({-r.missedBy, r.relation});
    out.solved = misses.empty();
    std::sort(misses.begin(), misses.end());
    for (const auto& [miss, id] : misses)
        if (std::find(out.unmet.begin(), out.unmet.end(), id) == out.unmet.end()) out.unmet.push_back(id);
}

/// Solves, and where something would turn over, solves again with guards.
Settlement Settler::settleOnce(const std::vector<double>& before) {
    constexpr int kMostRounds = 6;
    m_z = before;
    Settlement out = solveAll(before);
    out.senseKept = senseHolds(m_z);
    for (int round = 0; round < kMostRounds && out.solved && !out.senseKept && addGuards(); ++round) {
        m_z = before;
        const int steps = out.steps;
        out = solveAll(before);
        out.steps += steps;
        out.senseKept = out.solved && senseHolds(m_z);
    }
    dropGuards();
    std::erase(out.unmet, 0);
    if (out.senseKept && ringsCross(expanded(m_z))) out.senseKept = false;
    return out;
}

Settlement Settler::settle() {
    const std::vector<double> before = m_z;
    Settlement out = settleOnce(before);
    if (!out.senseKept) {
        // The smallest motion leaves loose corners behind, and sides are drawn across them. With springs
        // along the strokes corners go with their neighbours.
        holdShape(true);
        const int steps = out.steps;
        out = settleOnce(before);
        out.steps += steps;
        holdShape(false);
    }
    if (!out.solved || !out.senseKept) {
        m_z = before;
        return out;
    }
    m_system->write(m_z, m_drawing);
    m_system->start = expanded(m_z);
    for (Watched& w : m_watched) w.was = watched(w, m_system->start);
    return out;
}

/// Springs along strokes, and only a light hold on places: shape counts for more than place.
void Settler::holdShape(bool on) {
    constexpr double kLight = 1e-3;
    m_springs.clear();
    const auto join = [&](int p, int q) {
        const auto i = static_cast<std::size_t>(p), j = static_cast<std::size_t>(q);
        const System& s = *m_system;
        const double apart = s.start[i] - s.start[j];
        if (s.classOf[i] < 0 && s.classOf[j] < 0) return;
        if (s.classOf[i] < 0)
            m_springs.push_back({s.classOf[j], -1, s.offset[i] - apart - s.offset[j]});
        else if (s.classOf[j] < 0)
            m_springs.push_back({s.classOf[i], -1, s.offset[j] + apart - s.offset[i]});
        else
            m_springs.push_back({s.classOf[i], s.classOf[j], apart - s.offset[i] + s.offset[j]});
    };
    if (on)
        for (const Stroke& s : m_drawing.strokes)
            for (std::size_t i = 0; i < s.points.size() && s.points.size() > 1; ++i)
                for (const int axis : {0, 1})
                    if (i > 0 || s.points.size() > 2)
                        join(m_system->pointAt.at(s.points[i]) + axis,
                             m_system->pointAt.at(s.points[i > 0 ? i - 1 : s.points.size() - 1]) + axis);
    for (Component& part : m_components) part.setSprings(m_springs);
    for (double& w : m_weight) w *= on ? kLight : 1 / kLight;
}

namespace {

double side(Vec2 a, Vec2 b, Vec2 c) {
    return cross(b - a, c - a);
}

bool crossEachOther(Vec2 a, Vec2 b, Vec2 c, Vec2 d) {
    return side(a, b, c) * side(a, b, d) < 0 && side(c, d, a) * side(c, d, b) < 0;
}

} // namespace

/// Does a ring, its arcs as chords over their middles, cross itself?
bool Settler::ringsCross(const std::vector<double>& all) const {
    const auto at = [&](int x) { return pointIn(all, x); };
    for (const Ring& ring : m_rings) {
        std::vector<Vec2> p;
        for (std::size_t i = 0; i < ring.joints.size(); ++i) {
            p.push_back(at(ring.joints[i]));
            const Stroke& s = *m_drawing.findStroke(ring.strokes[i]);
            if (s.kind != StrokeKind::Arc) continue;
            const Vec2 c = at(m_system->pointAt.at(s.points[2])),
                       a = at(m_system->pointAt.at(s.points[0])) - c,
                       b = at(m_system->pointAt.at(s.points[1])) - c;
            double turn = std::atan2(cross(a, b), dot(a, b));
            if (turn < 0) turn += 2 * std::numbers::pi;
            const bool forward = m_system->pointAt.at(s.points[0]) == ring.leaves[i];
            for (const double part : {0.25, 0.5, 0.75}) {
                const double t = turn * (forward ? part : 1 - part);
                p.push_back(
                    c + Vec2{a.x * std::cos(t) - a.y * std::sin(t), a.x * std::sin(t) + a.y * std::cos(t)});
            }
        }
        const std::size_t n = p.size();
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t j = i + 2; j < n; ++j)
                if ((i > 0 || j + 1 < n) && crossEachOther(p[i], p[i + 1], p[j], p[(j + 1) % n])) return true;
    }
    return false;
}

Settlement Settler::change(const DimensionValues& wanted) {
    // From what the dimensions are now, in as many parts as it takes.
    DimensionValues from;
    for (const Relation& r : m_drawing.relations)
        if (wordsOf(r.kind).sized && !r.readOnly) {
            const auto it = m_values.find(r.id);
            from[r.id] = it == m_values.end() ? measured(m_drawing, r) : it->second;
        }
    const Drawing whole = m_drawing;
    const DimensionValues valuesBefore = m_values;
    Settlement total;
    double done = 0, part = 1;
    const double least = std::pow(0.5, m_options.mostHalvings);
    while (done < 1 - 1e-12) {
        const double to = std::min(1.0, done + part);
        DimensionValues now = m_values;
        for (const auto& [id, value] : wanted) {
            const auto it = from.find(id);
            now[id] = it == from.end() ? value : it->second + (value - it->second) * to;
        }
        const Drawing kept = m_drawing;
        compileNow(now);
        Settlement s = settle();
        total.steps += s.steps;
        if (s.solved && s.senseKept) {
            done = to;
            part = std::min(1.0, part * 2);
            total.residual = s.residual;
            continue;
        }
        m_drawing = kept;
        part = (to - done) / 2;
        if (part >= least && s.unmet.size() + (s.senseKept ? 0 : 1) > 0) continue;
        total.unmet = s.unmet;
        total.residual = s.residual;
        total.senseKept = s.senseKept;
        m_drawing = whole;
        compileNow(valuesBefore);
        return total;
    }
    total.solved = true;
    return total;
}

// ---- dragging

void Settler::grab(const std::vector<int>& pointIds) {
    m_grabbed.clear();
    for (const int id : pointIds)
        if (const auto it = m_system->pointAt.find(id); it != m_system->pointAt.end())
            m_grabbed.insert(m_grabbed.end(), {it->second, it->second + 1});
    std::set<int> classes;
    for (const int c : m_grabbed) classes.insert(m_system->classOf[static_cast<std::size_t>(c)]);
    prepareDrag(classes);
}

void Settler::grabSize(int strokeId) {
    m_grabbed.clear();
    if (const auto it = m_system->sizeAt.find(strokeId); it != m_system->sizeAt.end())
        m_grabbed = {it->second};
    std::set<int> classes;
    for (const int c : m_grabbed) classes.insert(m_system->classOf[static_cast<std::size_t>(c)]);
    prepareDrag(classes);
}

/// Finds the parts that hold what is grabbed and chooses their order of elimination, so that the first move
/// costs no more than the next.
void Settler::prepareDrag(const std::set<int>& classes) {
    m_dragStart = m_z;
    m_dragged.clear();
    for (std::size_t k = 0; k < m_components.size(); ++k) {
        Component& part = m_components[k];
        const auto& own = part.globalUnknowns();
        if (std::none_of(own.begin(), own.end(), [&](int g) { return classes.count(g) > 0; })) continue;
        m_dragged.push_back(static_cast<int>(k));
        part.evaluate(part.gather(m_z), true);
        part.factor(Eigen::VectorXd::Ones(part.unknowns()), m_options.damping);
    }
}

Settlement Settler::drag(Vec2 by) {
    std::vector<std::pair<int, double>> targets;
    for (std::size_t i = 0; i < m_grabbed.size(); ++i) {
        const int c = m_system->classOf[static_cast<std::size_t>(m_grabbed[i])];
        if (c >= 0) targets.push_back({c, m_dragStart[static_cast<std::size_t>(c)] + (i % 2 ? by.y : by.x)});
    }
    return pull(targets);
}

Settlement Settler::dragSize(double radius) {
    std::vector<std::pair<int, double>> targets;
    for (const int g : m_grabbed) {
        const auto at = static_cast<std::size_t>(g);
        if (m_system->classOf[at] >= 0)
            targets.push_back(
                {m_system->classOf[at], std::max(radius, 1e-3 * m_size) - m_system->offset[at]});
    }
    return pull(targets);
}

/// One move of the pointer: the smallest motion from where the drag began that brings what is grabbed to its
/// target, one or a few steps, each with its own factor; then onto the relations with the factor at hand.
Settlement Settler::pull(const std::vector<std::pair<int, double>>& targets) {
    Settlement out;
    out.solved = true;
    const std::vector<double> before = m_z;
    std::vector<double> anchor = m_dragStart;
    std::vector<double> kept;
    for (const auto& [c, value] : targets) {
        anchor[static_cast<std::size_t>(c)] = value;
        kept.push_back(m_weight[static_cast<std::size_t>(c)]);
        m_weight[static_cast<std::size_t>(c)] = kGrabWeight;
        m_z[static_cast<std::size_t>(c)] = value; // right for what no relation holds; the rest is solved
    }
    for (const int k : m_dragged) {
        Component& part = m_components[static_cast<std::size_t>(k)];
        Eigen::VectorXd z = part.gather(before), home = part.gather(anchor), weights(part.unknowns());
        for (int i = 0; i < part.unknowns(); ++i)
            weights[i] = weightOf(part.globalUnknowns()[static_cast<std::size_t>(i)]);
        const double reach = (home - z).lpNorm<Eigen::Infinity>();
        bool sound = true;
        for (int step = 0; step < 3 && sound; ++step) {
            part.evaluate(z, true);
            sound = part.factor(weights, m_options.damping);
            if (!sound) break;
            const Eigen::VectorXd back = part.pull(weights, home, z), r = part.residuals();
            Eigen::VectorXd dz = part.step(r, &back);
            ++out.steps;
            const double most = dz.lpNorm<Eigen::Infinity>();
            if (!std::isfinite(most)) sound = false;
            if (most > m_options.stepCap * m_size) dz *= m_options.stepCap * m_size / most;
            if (sound) z += dz;
            if (most < 0.05 * reach || most < 0.01 * m_size) break;
        }
        if (sound && project(part, z, out))
            part.scatter(z, m_z);
        else
            out.solved = false;
    }
    std::size_t i = 0;
    for (const auto& [c, value] : targets) m_weight[static_cast<std::size_t>(c)] = kept[i++];
    out.senseKept = out.solved && senseHolds(m_z);
    if (!out.solved || !out.senseKept)
        m_z = before; // the drawing waits where it is until the pointer comes back to where it can follow
    else
        noteTurns();
    return out;
}

/// An arc may turn far in a drag, only not at once: what counts is from move to move.
void Settler::noteTurns() {
    const std::vector<double> all = expanded(m_z);
    for (Watched& w : m_watched)
        if (w.kind == Watched::ArcTurn) w.was = watched(w, all);
}

void scaleDrawing(Drawing& drawing, double factor) {
    for (DrawnPoint& p : drawing.points) p.at = p.at * factor;
    for (Stroke& s : drawing.strokes)
        if (s.kind != StrokeKind::Conic)
            for (double& size : s.sizes) size *= factor;
    for (Relation& r : drawing.relations) {
        for (Vec2& p : r.where) p = p * factor;
        r.label = r.label * factor;
    }
}

} // namespace gc

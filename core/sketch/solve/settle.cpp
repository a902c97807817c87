#include "core/sketch/solve/settle.hpp"

#include "core/sketch/beside.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kGrabWeight = 1e3;

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
    // Copies go after their original rather than it after them. Not much more easily: the factor, which does
    // not choose its pivots, loses as many digits as there are links in a chain of such.
    constexpr double kEasily = 0.1;
    for (const int a : m_system->copies)
        if (const int c = m_system->classOf[static_cast<std::size_t>(a)]; c >= 0)
            m_weight[static_cast<std::size_t>(c)] = std::min(m_weight[static_cast<std::size_t>(c)], kEasily);
    m_sense = Sense(m_drawing, *m_system);
}

/// Every coordinate of the drawing for unknowns z.
std::vector<double> Settler::expanded(std::span<const double> z) const {
    std::vector<double> all(m_system->start.size());
    for (std::size_t i = 0; i < all.size(); ++i) all[i] = m_system->coordinate(z, static_cast<int>(i));
    return all;
}

/// Where the smallest motion would turn something over, the rest of the drawing moves instead.
bool Settler::addGuards() {
    const std::size_t had = m_system->equations.size();
    for (const Sense::Guard& guard : m_sense.guards(m_system->start, expanded(m_z))) {
        const auto same = [&](const Equation& e) {
            return e.kind == guard.kind && e.relation == 0 &&
                   std::equal(guard.coordinates.begin(), guard.coordinates.end(),
                              m_system->operands.begin() + e.first);
        };
        if (std::any_of(m_system->equations.begin(), m_system->equations.end(), same)) continue;
        Equation e;
        e.kind = guard.kind;
        e.first = static_cast<int>(m_system->operands.size());
        e.count = static_cast<int>(guard.coordinates.size());
        e.value = guard.value;
        m_system->operands.insert(m_system->operands.end(), guard.coordinates.begin(),
                                  guard.coordinates.end());
        m_system->equations.push_back(e);
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

/// Shortens a step that goes too far. \return how far it went, mm
double Settler::cap(Eigen::VectorXd& step) const {
    const double most = step.lpNorm<Eigen::Infinity>(), farthest = m_options.stepCap * m_size;
    if (most > farthest) step *= farthest / most;
    return most;
}

/// Newton without a pull: onto the relations from nearby, with the last factor as long as that serves.
bool Settler::project(Component& part, Eigen::VectorXd& z, Settlement& out) {
    const Eigen::VectorXd weights = part.gather(m_weight);
    double worst = part.evaluate(z, false), d = m_options.damping;
    bool fresh = false;
    for (int k = 0; k < m_options.mostSteps && worst > m_options.tolerance; ++k) {
        Eigen::VectorXd dz = part.step(part.residuals(), nullptr);
        cap(dz);
        const Eigen::VectorXd trial = z + dz;
        const double next = part.evaluate(trial, false);
        ++out.steps;
        if (next < (fresh ? 0.95 : 0.2) * worst) {
            const bool fast = next < 0.2 * worst;
            z = trial;
            worst = next;
            fresh = false;
            if (fast || worst <= m_options.tolerance) continue;
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

bool Settler::solve(Component& part, const std::vector<double>& anchor, Settlement& out, bool eager) {
    Eigen::VectorXd z = part.gather(m_z), home = part.gather(anchor);
    const Eigen::VectorXd weights = part.gather(m_weight);
    double worst = part.evaluate(z, true), d = m_options.damping;
    if (worst <= m_options.tolerance) return true;
    for (int k = 0; k < m_options.mostSteps && worst > m_options.tolerance; ++k) {
        if (!part.factor(weights, d)) break;
        ++out.steps;
        const Eigen::VectorXd r = part.residuals();
        const double before = r.squaredNorm();
        // The first steps stay as near as they can to where all began; the last only close in.
        const Eigen::VectorXd back = part.pull(weights, home, z);
        Eigen::VectorXd dz = part.step(r, k < 4 && !eager ? &back : nullptr);
        if (!std::isfinite(eager ? dz.norm() : cap(dz))) break;
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
    // Where lines are nearly parallel what hangs on them has a long way to go: once more with steps as long
    // as they come. Not in large parts, where it would only double the time that a clash takes to be told.
    constexpr int kSmall = 600; // equations
    for (Component& part : m_components)
        out.solved =
            (solve(part, anchor, out, false) || (part.rows() < kSmall && solve(part, anchor, out, true))) &&
            out.solved;
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
    out.senseKept = m_sense.holds(expanded(m_z));
    for (int round = 0; round < kMostRounds && out.solved && !out.senseKept && addGuards(); ++round) {
        m_z = before;
        const int steps = out.steps;
        out = solveAll(before);
        out.steps += steps;
        out.senseKept = out.solved && m_sense.holds(expanded(m_z));
    }
    dropGuards();
    std::erase(out.unmet, 0);
    if (out.senseKept && m_sense.ringsCross(expanded(m_z))) out.senseKept = false;
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
    m_sense.note(m_system->start);
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
    followMade();
    total.solved = true;
    return total;
}

/// A fair curve is fitted anew where its stations went, and lengths along curves are taken anew: what follows
/// them then goes after them.
void Settler::followMade() {
    constexpr int kMost = 24;
    const bool any = std::any_of(m_drawing.strokes.begin(), m_drawing.strokes.end(),
                                 [&](const Stroke& s) {
                                     const Stroke* source = sourceOf(m_drawing, s);
                                     return source && source->kind == StrokeKind::Fair;
                                 }) ||
                     std::any_of(m_drawing.relations.begin(), m_drawing.relations.end(),
                                 [](const Relation& r) { return r.kind == RelationKind::Carried; });
    for (int k = 0; any && k < kMost; ++k) {
        const Drawing before = m_drawing;
        compileNow(m_values);
        const Settlement s = settle();
        if (!s.solved || !s.senseKept) return;
        double moved = 0;
        for (const DrawnPoint& p : before.points) moved = std::max(moved, length(m_drawing.at(p.id) - p.at));
        if (moved < m_options.accept) return;
    }
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
        Eigen::VectorXd z = part.gather(before), home = part.gather(anchor);
        const Eigen::VectorXd weights = part.gather(m_weight);
        const double reach = (home - z).lpNorm<Eigen::Infinity>();
        bool sound = true;
        for (int step = 0; step < 3 && sound; ++step) {
            part.evaluate(z, true);
            sound = part.factor(weights, m_options.damping);
            if (!sound) break;
            const Eigen::VectorXd back = part.pull(weights, home, z), r = part.residuals();
            Eigen::VectorXd dz = part.step(r, &back);
            ++out.steps;
            const double most = cap(dz);
            sound = std::isfinite(most);
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
    out.senseKept = out.solved && m_sense.holds(expanded(m_z));
    if (!out.solved || !out.senseKept)
        m_z = before; // the drawing waits where it is until the pointer comes back to where it can follow
    else
        m_sense.noteTurns(expanded(m_z));
    return out;
}

} // namespace gc

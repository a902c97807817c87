#include "core/sketch/solve/clash.hpp"

#include "core/sketch/solve/elimination.hpp"

#include <algorithm>
#include <cmath>
#include <random>
#include <set>

namespace gc {

namespace {

std::vector<int> allRelations(const Drawing& d) {
    std::vector<int> ids;
    for (const Relation& r : d.relations)
        if (!r.readOnly) ids.push_back(r.id);
    return ids;
}

/// Only what a person made: not what strokes are by themselves.
std::vector<int> persons(std::vector<int> relations) {
    std::erase_if(relations, [](int id) { return id <= 0; });
    std::sort(relations.begin(), relations.end());
    relations.erase(std::unique(relations.begin(), relations.end()), relations.end());
    return relations;
}

/// The drawing with these relations and what they are about: the rest moves freely, and need not be solved.
Drawing withOnly(const Drawing& d, const std::vector<int>& relations) {
    const std::set<int> kept(relations.begin(), relations.end());
    Drawing out;
    std::set<int> about;
    for (const Relation& r : d.relations)
        if (kept.count(r.id)) {
            out.relations.push_back(r);
            about.insert(r.of.begin(), r.of.end());
        }
    std::set<int> points;
    for (const Stroke& s : d.strokes) {
        const bool touched = about.count(s.id) || std::any_of(s.points.begin(), s.points.end(),
                                                              [&](int p) { return about.count(p) > 0; });
        if (!touched) continue;
        out.strokes.push_back(s);
        points.insert(s.points.begin(), s.points.end());
    }
    for (const DrawnPoint& p : d.points)
        if (points.count(p.id) || about.count(p.id)) out.points.push_back(p);
    out.nextId = d.nextId;
    return out;
}

} // namespace

bool canHold(const Drawing& drawing, const DimensionValues& values, const std::vector<int>& relations) {
    const Drawing some = withOnly(drawing, relations);
    Settler settler(some, values);
    if (settler.settle().solved) return true;
    // A start on a ridge can fail for no fault of the relations: once more from beside it.
    std::mt19937 random(5);
    Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
    for (const DrawnPoint& p : some.points)
        low = {std::min(low.x, p.at.x), std::min(low.y, p.at.y)},
        high = {std::max(high.x, p.at.x), std::max(high.y, p.at.y)};
    std::normal_distribution<double> nudge(0, 0.02 * std::max({high.x - low.x, high.y - low.y, 1e-3}));
    for (int trial = 0; trial < 3; ++trial) {
        Drawing moved = some;
        for (DrawnPoint& p : moved.points) p.at = p.at + Vec2{nudge(random), nudge(random)};
        Settler again(moved, values);
        if (again.settle().solved) return true;
    }
    return false;
}

namespace {

class ClashFinder {
  public:
    ClashFinder(const Drawing& drawing, const DimensionValues& values, const std::function<bool()>& stop)
        : m_d(drawing), m_values(values), m_stop(stop) {}

    /// The smallest clashing set among the relations, or nothing.
    std::vector<int> find(const std::vector<int>& among) {
        const Drawing some = withOnly(m_d, among);
        const System system = compile(some, m_values);
        for (const System::Repeated& r : system.repeated)
            if (r.clashes) {
                std::vector<int> set = r.because;
                set.push_back(r.relation);
                return persons(std::move(set));
            }
        if (holds(among)) return {};
        for (const auto& candidates : {dependingOnNewest(some, system), unmet(some, system)})
            if (!candidates.empty() && !holds(candidates)) return thinned(candidates);
        return thinned(among);
    }

  private:
    const Drawing& m_d;
    const DimensionValues& m_values;
    const std::function<bool()>& m_stop;

    bool stopped() const { return m_stop && m_stop(); }
    /// Once it is stopped everything holds: the search ends by itself.
    bool holds(const std::vector<int>& relations) const {
        return stopped() || canHold(m_d, m_values, relations);
    }

    /// To first order: the rows of the newest relation are sums of these.
    static std::vector<int> dependingOnNewest(const Drawing& d, const System& system) {
        int newest = 0;
        for (const Relation& r : d.relations) newest = std::max(newest, r.id);
        for (Component& part : componentsOf(system)) {
            std::vector<int> order, last;
            for (int k = 0; k < part.rows(); ++k) {
                const int of =
                    system.equations[static_cast<std::size_t>(part.equations()[static_cast<std::size_t>(k)])]
                        .relation;
                (of == newest ? last : order).push_back(k);
            }
            if (last.empty()) continue;
            part.evaluate(part.gather(system.unknowns), true);
            Elimination rows(part.unknowns());
            for (const int k : order) rows.add(part.row(k));
            for (const int k : last) {
                SparseRow on;
                if (rows.add(part.row(k), &on)) continue;
                std::vector<int> ids{newest};
                for (const auto& [at, l] : on)
                    if (std::fabs(l) > 1e-8 && static_cast<std::size_t>(at) < order.size())
                        ids.push_back(
                            system
                                .equations[static_cast<std::size_t>(part.equations()[static_cast<std::size_t>(
                                    order[static_cast<std::size_t>(at)])])]
                                .relation);
                return withTies(system, std::move(ids));
            }
        }
        return {};
    }

    /// What a solve leaves open.
    std::vector<int> unmet(const Drawing& d, const System& system) const {
        Settler settler(d, m_values);
        return withTies(system, settler.settle().unmet);
    }

    /// Ties are worked into the unknowns and stand in no row: those that reach what these relations are
    /// about, from tie to tie, belong to the candidates.
    static std::vector<int> withTies(const System& system, std::vector<int> ids) {
        const std::set<int> wanted(ids.begin(), ids.end());
        std::vector<std::vector<std::size_t>> at(system.start.size());
        std::vector<int> open;
        for (std::size_t k = 0; k < system.tied.size(); ++k) {
            const System::Tied& t = system.tied[k];
            for (const int i : {t.first, t.second})
                if (i >= 0) at[static_cast<std::size_t>(i)].push_back(k);
            if (wanted.count(t.relation)) open.insert(open.end(), {t.first, t.second});
        }
        for (const Equation& e : system.equations)
            if (wanted.count(e.relation))
                open.insert(open.end(), system.operands.begin() + e.first,
                            system.operands.begin() + e.first + e.count);
        std::vector<bool> seen(system.start.size(), false);
        while (!open.empty()) {
            const int i = open.back();
            open.pop_back();
            if (i < 0 || seen[static_cast<std::size_t>(i)]) continue;
            seen[static_cast<std::size_t>(i)] = true;
            for (const std::size_t k : at[static_cast<std::size_t>(i)]) {
                ids.push_back(system.tied[k].relation);
                open.insert(open.end(), {system.tied[k].first, system.tied[k].second});
            }
        }
        return persons(std::move(ids));
    }

    std::vector<int> thinned(const std::vector<int>& set) { return quick({}, false, set); }

    /// Junker's QuickXplain: a minimal part of `open` that clashes together with `background`.
    std::vector<int> quick(const std::vector<int>& background, bool backgroundGrew,
                           const std::vector<int>& open) {
        if (stopped() || (backgroundGrew && !holds(background))) return {};
        if (open.size() == 1) return open;
        // The newer half first: what was there before is the likelier to be meant.
        const auto half = static_cast<std::ptrdiff_t>(open.size() / 2);
        const std::vector<int> first(open.begin(), open.begin() + half),
            second(open.begin() + half, open.end());
        const std::vector<int> fromSecond = quick(joined(background, first), !first.empty(), second);
        const std::vector<int> fromFirst = quick(joined(background, fromSecond), !fromSecond.empty(), first);
        return joined(fromFirst, fromSecond);
    }
    static std::vector<int> joined(std::vector<int> a, const std::vector<int>& b) {
        a.insert(a.end(), b.begin(), b.end());
        return a;
    }
};

std::vector<Redundancy> findRedundancies(const Drawing& drawing, const DimensionValues& values) {
    const System system = compile(drawing, values);
    std::vector<Redundancy> out;
    std::set<int> told;
    for (const System::Repeated& r : system.repeated)
        if (r.relation > 0 && told.insert(r.relation).second) out.push_back({r.relation, persons(r.because)});
    for (Component& part : componentsOf(system)) {
        const auto relationOf = [&](int row) {
            return system.equations[static_cast<std::size_t>(part.equations()[static_cast<std::size_t>(row)])]
                .relation;
        };
        // What strokes are by themselves comes first, so that a dependent row is always a person's.
        std::vector<int> order(static_cast<std::size_t>(part.rows()));
        for (int k = 0; k < part.rows(); ++k) order[static_cast<std::size_t>(k)] = k;
        std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
            const int ra = relationOf(a), rb = relationOf(b);
            if ((ra < 0) != (rb < 0)) return ra < 0;
            return ra > 0 && ra < rb;
        });
        part.evaluate(part.gather(system.unknowns), true);
        Elimination rows(part.unknowns());
        for (const int k : order) {
            SparseRow on;
            if (rows.add(part.row(k), &on) || relationOf(k) <= 0) continue;
            std::vector<int> because;
            for (const auto& [at, l] : on)
                if (std::fabs(l) > 1e-8) because.push_back(relationOf(order[static_cast<std::size_t>(at)]));
            because = persons(std::move(because));
            std::erase(because, relationOf(k));
            if (told.insert(relationOf(k)).second) out.push_back({relationOf(k), std::move(because)});
        }
    }
    return out;
}

} // namespace

Diagnosis diagnose(const Drawing& drawing, const DimensionValues& values, int mostClashes,
                   const std::function<bool()>& stop) {
    Diagnosis out;
    std::vector<int> open = allRelations(drawing);
    ClashFinder finder(drawing, values, stop);
    while (static_cast<int>(out.clashes.size()) < mostClashes) {
        std::vector<int> set = finder.find(open);
        if (set.empty()) break;
        std::sort(set.rbegin(), set.rend()); // the newest is the likeliest to be at fault
        for (const int id : set) std::erase(open, id);
        out.clashes.push_back({std::move(set)});
    }
    if (out.clashes.empty() && !(stop && stop())) out.redundant = findRedundancies(drawing, values);
    return out;
}

} // namespace gc

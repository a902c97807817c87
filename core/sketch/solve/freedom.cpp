#include "core/sketch/solve/freedom.hpp"

#include "core/sketch/drawing_words.hpp"
#include "core/sketch/solve/elimination.hpp"

#include <algorithm>
#include <chrono>
#include <cmath>
#include <numbers>
#include <set>

namespace gc {

namespace {

/// All motions of a system as sparse vectors over its unknowns.
std::vector<SparseRow> motionsOf(const System& system) {
    std::vector<SparseRow> all;
    std::vector<char> inSome(system.unknowns.size(), 0);
    for (Component& part : componentsOf(system)) {
        part.evaluate(part.gather(system.unknowns), true);
        Elimination rows(part.unknowns());
        for (int k = 0; k < part.rows(); ++k) rows.add(part.row(k));
        for (const int g : part.globalUnknowns()) inSome[static_cast<std::size_t>(g)] = 1;
        for (const int f : rows.freeUnknowns()) {
            SparseRow motion = rows.motion(f);
            for (auto& [c, v] : motion) c = part.globalUnknowns()[static_cast<std::size_t>(c)];
            all.push_back(std::move(motion));
        }
    }
    for (std::size_t g = 0; g < inSome.size(); ++g)
        if (!inSome[g]) all.push_back({{static_cast<int>(g), 1.0}});
    return all;
}

/// The unknowns that belong to coordinates of the drawing itself; parameters along splines do not.
class Meaning {
  public:
    Meaning(const Drawing& drawing, const System& system) : m_d(drawing), m_s(system) {
        m_of.resize(system.unknowns.size());
        for (const DrawnPoint& p : drawing.points)
            for (const int axis : {0, 1})
                if (const int c = classAt(system.pointAt.at(p.id) + axis); c >= 0)
                    m_of[static_cast<std::size_t>(c)].points.push_back({p.id, axis});
        for (const auto& [id, at] : system.sizeAt)
            if (const int c = classAt(at); c >= 0) m_of[static_cast<std::size_t>(c)].sizes.push_back(id);
    }

    FreeMotion inSpace(const SparseRow& motion) const {
        FreeMotion out;
        for (const auto& [c, v] : motion) {
            const Owner& owner = m_of[static_cast<std::size_t>(c)];
            for (const auto& [id, axis] : owner.points) (axis ? out.points[id].y : out.points[id].x) = v;
            for (const int id : owner.sizes) out.sizes[id] = v;
        }
        double most = 1e-300;
        for (const auto& [id, v] : out.points) most = std::max(most, length(v));
        for (const auto& [id, v] : out.sizes) most = std::max(most, std::fabs(v));
        for (auto& [id, v] : out.points) v = v * (1 / most);
        for (auto& [id, v] : out.sizes) v /= most;
        std::erase_if(out.points, [](const auto& p) { return length(p.second) < 1e-7; });
        std::erase_if(out.sizes, [](const auto& p) { return std::fabs(p.second) < 1e-7; });
        return out;
    }

    /// The motion of some unknowns' owners along x (0) or y (1), as a vector over the unknowns.
    SparseRow slide(const std::set<int>& unknowns, int axis) const {
        SparseRow out;
        for (const int c : unknowns) {
            const Owner& owner = m_of[static_cast<std::size_t>(c)];
            if (!owner.points.empty() && owner.points.front().second == axis) out.push_back({c, 1.0});
        }
        return out;
    }

  private:
    struct Owner {
        std::vector<std::pair<int, int>> points;
        std::vector<int> sizes;
    };
    int classAt(int coordinate) const { return m_s.classOf[static_cast<std::size_t>(coordinate)]; }
    const Drawing& m_d;
    const System& m_s;
    std::vector<Owner> m_of;
};

/// A line that moves along itself at the point: its name.
std::string lineAlong(const Drawing& d, int pointId, Vec2 v) {
    for (const int p : joinedPoints(d, pointId))
        for (const Stroke& s : d.strokes) {
            if (s.kind != StrokeKind::Line || (s.points[0] != p && s.points[1] != p)) continue;
            const Vec2 u = d.at(s.points[1]) - d.at(s.points[0]);
            if (std::fabs(cross(u, v)) < 1e-3 * length(u) * length(v)) return nameOf(d, s.id);
        }
    return {};
}

/// Chooses what a sentence is about: the point that moves most; of several alike, one that ends a stroke.
void putInWords(const Drawing& d, FreeMotion& m) {
    if (m.whole) return;
    int lead = 0;
    double most = 0;
    for (const Stroke& s : d.strokes) {
        const auto ends = endPoints(s);
        for (std::size_t i = 0; i < s.points.size(); ++i) {
            const int p = s.points[i];
            const auto it = m.points.find(p);
            // Handles that nobody set are not shown: they go after their nodes. So do ends of an offset that
            // lie where those of its source do.
            const bool set = s.kind == StrokeKind::Spline ? i / 2 < s.held.size() && s.held[i / 2]
                                                          : i < s.held.size() && s.held[i];
            const bool hidden =
                s.kind == StrokeKind::Spline ? i % 2 == 1 && !set : s.kind == StrokeKind::Beside && set;
            if (it == m.points.end() || hidden) continue;
            const bool isEnd = std::find(ends.begin(), ends.end(), p) != ends.end();
            const double v = length(it->second) * (isEnd ? 1.01 : 1.0) * (s.helper ? 0.98 : 1.0);
            if (v > most + 1e-6) most = v, lead = p;
        }
    }
    if (most < 0.05 && !m.sizes.empty()) lead = 0;
    if (lead == 0) {
        for (const auto& [id, v] : m.sizes)
            if (lead == 0 || std::fabs(v) > std::fabs(m.sizes.at(lead))) lead = id;
        if (lead == 0) return;
        m.lead = lead;
        const Stroke* s = d.findStroke(lead);
        m.sentence = isRound(d, lead) ? phrase("%1 can grow and shrink.", nameOf(d, lead))
                     : s && s->kind == StrokeKind::Beside
                         ? phrase("%1 can come nearer and go further away.", nameOf(d, lead))
                         : phrase("%1 can change its shape.", nameOf(d, lead));
        return;
    }
    m.lead = lead;
    const Vec2 v = m.points.at(lead);
    std::string way = directionInWords(v);
    if (way.starts_with("at "))
        if (const std::string line = lineAlong(d, lead, v); !line.empty()) way = "along " + line;
    m.sentence = phrase("%1 can slide %2.", capitalised(nameOf(d, lead)), way);
}

class PinFinder {
  public:
    PinFinder(const Drawing& drawing, const DimensionValues& values, const UnitSystem& units, int count,
              double milliseconds)
        : m_d(drawing), m_values(values), m_units(units), m_count(count),
          m_until(Clock::now() + std::chrono::microseconds(static_cast<long>(milliseconds * 1000))) {}

    void find(FreeMotion& m) {
        m_out = &m;
        if (m.whole) return wholePins(m);
        if (isRound(m_d, m.lead)) {
            offerSize(RelationKind::Diameter, {m.lead}, "diameter ");
            return;
        }
        if (const Stroke* s = m_d.findStroke(m.lead)) {
            if (s->kind == StrokeKind::Conic)
                offerSize(RelationKind::Ratio, {m.lead}, "shoulder ratio ");
            else if (s->kind == StrokeKind::Beside)
                offerSize(RelationKind::Distance, {m.lead, s->beside}, "distance ");
            else
                offerSize(RelationKind::Radius, {m.lead}, "other half axis ");
            return;
        }
        const auto moves = m.points.find(m.lead);
        if (moves == m.points.end()) return; // a point of no stroke: nothing to say about it
        // On a half profile people think in diameters and heights first.
        m_half = std::any_of(m_d.points.begin(), m_d.points.end(),
                             [](const DrawnPoint& p) { return std::fabs(p.at.x) < 1e-6; });
        if (m_half) pointPins(m.lead, moves->second);
        for (const int p : joinedPoints(m_d, m.lead))
            for (const Stroke& s : m_d.strokes)
                if (s.kind == StrokeKind::Line && (s.points[0] == p || s.points[1] == p)) linePins(s);
        if (!m_half) pointPins(m.lead, moves->second);
        for (const auto& [id, v] : m.sizes)
            if (isRound(m_d, id))
                offerSize(RelationKind::Radius, {id}, "radius of " + nameOf(m_d, id) + " = ");
    }

  private:
    using Clock = std::chrono::steady_clock;
    const Drawing& m_d;
    const DimensionValues& m_values;
    const UnitSystem& m_units;
    int m_count;
    Clock::time_point m_until;
    FreeMotion* m_out = nullptr;
    bool m_half = false; ///< some point lies on the axis

    static constexpr std::size_t kMostPins = 3;
    static constexpr double kNearlyLevel = 0.09; ///< rad: about five degrees

    void wholePins(FreeMotion& m) {
        offer(RelationKind::Fixed, {m.lead}, "keep " + nameOf(m_d, m.lead) + " where it is");
        offer(RelationKind::Coincident, {m.lead, kOrigin}, nameOf(m_d, m.lead) + " on the origin");
    }

    void linePins(const Stroke& s) {
        const Vec2 u = m_d.at(s.points[1]) - m_d.at(s.points[0]);
        const double lean = std::fabs(std::atan2(u.y, u.x));
        const double level = std::min(lean, std::fabs(lean - std::numbers::pi));
        const std::string name = nameOf(m_d, s.id);
        if (level < kNearlyLevel) offer(RelationKind::Horizontal, {s.id}, name + " level");
        if (std::fabs(lean - std::numbers::pi / 2) < kNearlyLevel)
            offer(RelationKind::Vertical, {s.id}, name + " upright");
        offerSize(RelationKind::Distance, {s.id}, "length of " + name + " = ");
    }

    void pointPins(int p, Vec2 v) {
        const Vec2 at = m_d.at(p);
        if (std::fabs(v.x) >= std::fabs(v.y)) {
            if (std::fabs(at.x) < 1e-6)
                offer(RelationKind::OnStroke, {p, kAxisLine}, "on the axis");
            else
                offerSize(RelationKind::DiameterAboutAxis, {p, kAxisLine}, "⌀ ");
            if (std::fabs(at.x) > 1e-6 && !m_half) offerSize(RelationKind::Across, {kOrigin, p}, "across ");
        } else {
            if (std::fabs(at.y) < 1e-6)
                offer(RelationKind::OnStroke, {p, kLevelLine}, "on the level line");
            else
                offerSize(RelationKind::Along, {kOrigin, p}, "height ");
        }
        if (!m_half) offer(RelationKind::Fixed, {p}, "keep it where it is");
    }

    void offerSize(RelationKind kind, std::vector<int> of, const std::string& words) {
        Relation r;
        r.kind = kind;
        r.of = std::move(of);
        freezeSense(m_d, r);
        const double value = measured(m_d, r);
        if (value < 1e-6) return;
        const Dimension dimension = wordsOf(kind).dimension;
        r.expression = sizeInWords(value, dimension, m_units, 4);
        take(std::move(r), words + sizeInWords(value, dimension, m_units), value);
    }
    void offer(RelationKind kind, std::vector<int> of, const std::string& words) {
        Relation r;
        r.kind = kind;
        r.of = std::move(of);
        freezeSense(m_d, r);
        take(std::move(r), words, 0);
    }

    /// Keeps an offer that takes freedom away and can be met.
    void take(Relation r, const std::string& words, double value) {
        if (Clock::now() > m_until || m_out->pins.size() >= kMostPins || !whyNot(m_d, r).empty()) return;
        Drawing with = m_d;
        r.id = with.nextId++;
        DimensionValues values = m_values;
        if (wordsOf(r.kind).sized) values[r.id] = value;
        with.relations.push_back(r);
        Settler settler(with, values);
        const Settlement s = settler.settle();
        if (!s.solved || !s.senseKept || countFreedoms(settler.drawing(), values) >= m_count) return;
        r.id = 0;
        m_out->pins.push_back({std::move(r), words});
    }
};

} // namespace

int countFreedoms(const Drawing& drawing, const DimensionValues& values) {
    const System system = compile(drawing, values);
    int count = static_cast<int>(system.unknowns.size());
    for (Component& part : componentsOf(system)) {
        part.evaluate(part.gather(system.unknowns), true);
        Elimination rows(part.unknowns());
        for (int k = 0; k < part.rows(); ++k) rows.add(part.row(k));
        count -= rows.rank();
    }
    return count;
}

namespace {

/// Prefers motions that a sentence can tell: first few points, with a part's slide as a whole where it can.
std::vector<FreeMotion> tellable(const Drawing& drawing, const System& system, const Meaning& meaning,
                                 std::vector<SparseRow> basis, int most) {
    // What moves together: the unknowns of one component, or a lone unknown.
    Elimination chosen(static_cast<int>(system.unknowns.size()), 1e-7);
    std::vector<FreeMotion> out, whole;
    for (Component& part : componentsOf(system)) {
        const std::set<int> own(part.globalUnknowns().begin(), part.globalUnknowns().end());
        part.evaluate(part.gather(system.unknowns), true);
        for (const int axis : {0, 1}) {
            const SparseRow slide = meaning.slide(own, axis);
            std::vector<double> v(system.unknowns.size(), 0.0);
            for (const auto& [c, x] : slide) v[static_cast<std::size_t>(c)] = x;
            double worst = slide.empty() ? 1 : 0;
            for (int k = 0; k < part.rows(); ++k) {
                double sum = 0;
                for (const auto& [c, x] : part.row(k))
                    sum +=
                        x * v[static_cast<std::size_t>(part.globalUnknowns()[static_cast<std::size_t>(c)])];
                worst = std::max(worst, std::fabs(sum));
            }
            if (worst > 1e-9 || !chosen.add(slide)) continue;
            FreeMotion m = meaning.inSpace(slide);
            m.whole = m.points.size() > 2;
            for (const Stroke& s : drawing.strokes)
                for (const int p : s.points)
                    if (m.lead == 0 && m.points.count(p)) m.lead = p;
            const Stroke* of = nullptr;
            std::set<int> strokes;
            for (const Stroke& s : drawing.strokes)
                if (std::any_of(s.points.begin(), s.points.end(),
                                [&](int p) { return m.points.count(p) > 0; }))
                    of = &s, strokes.insert(s.id);
            if (m.whole)
                m.sentence =
                    phrase(strokes.size() == 1 ? "%1 can slide %2."
                                               : "All that hangs together with %1 can slide %2.",
                           nameOf(drawing, of->id), directionInWords(axis ? Vec2{0, 1} : Vec2{1, 0}));
            whole.push_back(std::move(m));
        }
    }
    std::stable_sort(basis.begin(), basis.end(),
                     [](const SparseRow& a, const SparseRow& b) { return a.size() < b.size(); });
    for (const SparseRow& row : basis) {
        if (static_cast<int>(out.size()) >= most) break;
        if (!chosen.add(row)) continue;
        FreeMotion m = meaning.inSpace(row);
        if (!m.points.empty() || !m.sizes.empty()) out.push_back(std::move(m));
    }
    for (FreeMotion& m : whole)
        if (static_cast<int>(out.size()) < most) out.push_back(std::move(m));
    return out;
}

} // namespace

Freedoms findFreedoms(const Drawing& drawing, const DimensionValues& values, const UnitSystem& units,
                      int mostMotions, double pinMilliseconds) {
    const System system = compile(drawing, values);
    const Meaning meaning(drawing, system);
    std::vector<SparseRow> basis = motionsOf(system);
    Freedoms out;
    out.count = static_cast<int>(basis.size());
    std::map<int, Vec2> first; // one direction in which each point moves
    for (const SparseRow& row : basis) {
        const FreeMotion m = meaning.inSpace(row);
        for (const auto& [id, v] : m.points) {
            Looseness& loose = out.points[id];
            if (loose == Looseness::Settled) {
                loose = Looseness::AlongALine;
                first[id] = v;
            } else if (std::fabs(cross(first[id], v)) > 1e-6 * length(first[id]) * length(v)) {
                loose = Looseness::Free;
            }
        }
        for (const auto& [id, v] : m.sizes) out.looseSizes[id] = true;
    }
    out.motions = tellable(drawing, system, meaning, std::move(basis), mostMotions);
    PinFinder pins(drawing, values, units, out.count, pinMilliseconds);
    for (FreeMotion& m : out.motions) {
        putInWords(drawing, m);
        pins.find(m);
    }
    return out;
}

bool isSettled(const Freedoms& freedoms, const Stroke& stroke) {
    return !freedoms.looseSizes.count(stroke.id) &&
           std::none_of(stroke.points.begin(), stroke.points.end(),
                        [&](int p) { return freedoms.points.count(p) > 0; });
}

} // namespace gc

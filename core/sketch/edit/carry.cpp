#include "core/sketch/edit/carry.hpp"

#include "core/sketch/beside.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/solve/system.hpp"

#include <algorithm>
#include <cmath>
#include <set>

namespace gc {

namespace {

constexpr double kHolds = 1e-6; ///< mm and rad

/// The things that a relation is about, and nothing else.
Drawing alone(const Drawing& d, const Relation& r) {
    Drawing out;
    std::vector<int> points;
    for (const int of : r.of) {
        if (const Stroke* s = d.findStroke(of)) {
            for (const Stroke* needed : {s, sourceOf(d, *s)}) {
                if (!needed || out.findStroke(needed->id)) continue;
                const auto place = std::lower_bound(out.strokes.begin(), out.strokes.end(), needed->id,
                                                    [](const Stroke& x, int id) { return x.id < id; });
                out.strokes.insert(place, *needed);
                points.insert(points.end(), needed->points.begin(), needed->points.end());
            }
        } else if (d.findPoint(of)) {
            points.push_back(of);
        }
    }
    // A point of a relation may be the end of its stroke through others that lie on the same spot.
    std::sort(points.begin(), points.end());
    points.erase(std::unique(points.begin(), points.end()), points.end());
    for (const int p : points) out.points.push_back({p, d.at(p)});
    // Where ends meet decides how a tangent is meant.
    const bool atEnds = r.kind == RelationKind::Tangent || r.kind == RelationKind::Smooth;
    for (std::size_t i = 0; atEnds && i < points.size(); ++i)
        for (std::size_t j = i + 1; j < points.size(); ++j)
            if (length(d.at(points[i]) - d.at(points[j])) < kHolds) {
                Relation joined;
                joined.id = 1 << 28;
                joined.id += static_cast<int>(out.relations.size());
                joined.of = {points[i], points[j]};
                out.relations.push_back(joined);
            }
    out.relations.insert(out.relations.begin(), r);
    return out;
}

/// The points and strokes that an edit changed or took away: what it did not touch holds as it did.
std::set<int> changedBy(const Drawing& before, const Drawing& after) {
    std::set<int> out;
    for (const DrawnPoint& p : before.points)
        if (const DrawnPoint* now = after.findPoint(p.id); !now || !(*now == p)) out.insert(p.id);
    for (const Stroke& s : before.strokes) {
        const Stroke* now = after.findStroke(s.id);
        const bool moved =
            std::any_of(s.points.begin(), s.points.end(), [&](int p) { return out.count(p) > 0; });
        if (!now || moved || !(*now == s)) out.insert(s.id);
    }
    for (const Stroke& s : before.strokes)
        if (s.kind == StrokeKind::Beside && out.count(s.beside)) out.insert(s.id);
    return out;
}

bool plainFigure(const std::string& expression) {
    return !expression.empty() && std::isdigit(static_cast<unsigned char>(expression[0])) &&
           expression.find_first_of("+*/()-") == std::string::npos;
}

} // namespace

EditOutcome refused(std::string why) {
    EditOutcome out;
    out.whyNot = std::move(why);
    return out;
}

bool holds(const Drawing& d, const Relation& r, double size) {
    if (!whyNot(d, r).empty()) return false;
    if (wordsOf(r.kind).sized) return std::fabs(measured(d, r) - size) < kHolds;
    const System s = compile(alone(d, r), {});
    for (std::size_t i = 0; i < s.start.size(); ++i)
        if (std::fabs(s.coordinate(s.unknowns, static_cast<int>(i)) - s.start[i]) > kHolds) return false;
    return std::all_of(s.equations.begin(), s.equations.end(), [&](const Equation& e) {
        return e.relation != r.id || std::fabs(s.residual(e, s.unknowns)) < kHolds;
    });
}

std::vector<std::string> dropBroken(const Drawing& before, Drawing& after, bool rescale) {
    const UnitSystem units;
    std::vector<std::string> lost;
    std::vector<int> gone;
    const std::set<int> changed = changedBy(before, after);
    for (const Relation& was : before.relations) {
        if (std::none_of(was.of.begin(), was.of.end(), [&](int id) { return changed.count(id) > 0; }))
            continue;
        const bool sized = wordsOf(was.kind).sized;
        if (sized ? !whyNot(before, was).empty() : !holds(before, was, 0)) continue;
        const double size = sized ? measured(before, was) : 0;
        Relation* now = after.findRelation(was.id);
        if (now && now->of != was.of) continue; // the edit saw to it
        if (now && holds(after, *now, size)) continue;
        const bool usable = now && sized && whyNot(after, *now).empty();
        if (usable && now->readOnly) continue;
        if (usable && rescale && plainFigure(now->expression)) {
            now->expression = sizeInWords(measured(after, *now), wordsOf(now->kind).dimension, units, 6);
            continue;
        }
        // Joints that an edit opens are what it is for.
        if (was.kind != RelationKind::Coincident) lost.push_back(sentenceOf(before, was, units));
        gone.push_back(was.id);
    }
    after.erase(gone);
    return lost;
}

} // namespace gc

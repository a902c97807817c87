#include "core/sketch/edit/cut.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/beside.hpp"
#include "core/sketch/drawing_words.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace gc {

namespace {

using K = RelationKind;

struct Cut {
    double at = 0;
    int by = 0;
};

/// The drawing's two lines are endless: as long as anything that they could cut.
Curve2 endless(const Drawing& d, int id) {
    double reach = 1;
    for (const DrawnPoint& p : d.points) reach = std::max({reach, std::fabs(p.at.x), std::fabs(p.at.y)});
    for (const Stroke& s : d.strokes)
        for (const double size : s.sizes) reach = std::max(reach, std::fabs(size));
    const Vec2 u = lineEnds(d, id).to * (4 * reach);
    Curve2 c;
    c.p = {u * -1, u};
    return c;
}

/// Each curve that may cut, with whose it is.
template <class Use>
void eachCutter(const Drawing& d, int butNot, const Use& use) {
    for (const Stroke& s : d.strokes) // what it follows, and what follows the same, runs along it everywhere
        if (s.id != butNot && !commonSource(d, s.id, butNot))
            for (const Curve2& c : curvesOf(d, s)) use(s.id, c);
    for (const int line : {kAxisLine, kLevelLine}) use(line, endless(d, line));
}

std::vector<Cut> cutsOf(const Drawing& d, const Stroke& s) {
    const StrokeRun run(d, s);
    std::vector<Cut> cuts;
    eachCutter(d, s.id, [&](int by, const Curve2& cutter) {
        for (std::size_t i = 0; i < run.curves().size(); ++i)
            for (const Meeting& m : meetings(run.curves()[i], cutter))
                if (!m.along || by > 0) cuts.push_back({static_cast<double>(i) + m.onFirst, by});
    });
    const auto nearEnd = [&](const Cut& c) { // its own ends are joints, not cuts
        return !run.closed() && (length(run.at(c.at) - run.at(0)) < kSamePoint ||
                                 length(run.at(c.at) - run.at(run.end())) < kSamePoint);
    };
    std::erase_if(cuts, nearEnd);
    // Strokes are better cutters than the drawing's own lines.
    std::sort(cuts.begin(), cuts.end(),
              [](const Cut& a, const Cut& b) { return a.at != b.at ? a.at < b.at : a.by > b.by; });
    std::vector<Cut> apart;
    for (const Cut& c : cuts)
        if (apart.empty() || length(run.at(apart.back().at) - run.at(c.at)) > kSamePoint)
            apart.push_back(c);
        else if (apart.back().by < 0)
            apart.back() = c;
    return apart;
}

/// The end of a stroke at a place; 0 when it has none there.
int endAt(const Drawing& d, int stroke, Vec2 place) {
    const Stroke* s = d.findStroke(stroke);
    if (!s) return 0;
    for (const int p : endPoints(*s))
        if (length(d.at(p) - place) < kSamePoint) return p;
    return 0;
}

/// Lays the end of a stroke that lies there on what cut it.
void layOn(Drawing& d, int stroke, Vec2 place, int cutter) {
    const int end = endAt(d, stroke, place);
    if (!end || !cutter) return;
    const int corner = endAt(d, cutter, place);
    if (!corner) {
        d.relate(K::OnStroke, {end, cutter});
        return;
    }
    // A corner that lay on the stroke is now joined to its end.
    std::vector<int> implied;
    for (const Relation& r : d.relations)
        if (r.kind == K::OnStroke && r.of[1] == stroke && length(d.at(r.of[0]) - place) < kSamePoint)
            implied.push_back(r.id);
    d.erase(implied);
    d.relate(K::Coincident, {end, corner});
}

/// Keeps a part that was cut off another in line with it. \param joined they still meet
void keepInLine(Drawing& d, int a, int b, bool joined) {
    const StrokeKind kind = d.findStroke(a)->kind;
    const auto points = [&](int id) { return d.findStroke(id)->points; };
    if (kind == StrokeKind::Line) {
        d.relate(joined ? K::Parallel : K::Collinear, {a, b});
    } else if (kind == StrokeKind::Arc) {
        d.relate(K::Concentric, {a, b});
        if (!joined) d.relate(K::Equal, {a, b});
    } else if (kind == StrokeKind::EllipseArc) {
        d.relate(K::Coincident, {points(a)[0], points(b)[0]});
        d.relate(K::Coincident, {points(a)[1], points(b)[1]});
    } else if (joined && kind != StrokeKind::Beside) {
        d.relate(K::Smooth, {a, b});
    }
}

/// Relations on ends that another stroke has now follow there, by place.
void moveEnds(const Drawing& before, Drawing& after, int from, int to) {
    const Stroke* was = before.findStroke(from);
    for (const int p : endPoints(*was)) {
        if (after.findPoint(p)) continue;
        const int now = endAt(after, to, before.at(p));
        if (!now) continue;
        for (const Relation& r : before.relations) {
            if (std::find(r.of.begin(), r.of.end(), p) == r.of.end()) continue;
            Relation moved = r;
            std::replace(moved.of.begin(), moved.of.end(), p, now);
            const bool known = std::all_of(moved.of.begin(), moved.of.end(), [&](int id) {
                return id < 0 || after.findPoint(id) || after.findStroke(id);
            });
            if (!known || after.findRelation(r.id)) continue;
            const auto place = std::lower_bound(after.relations.begin(), after.relations.end(), r.id,
                                                [](const Relation& x, int id) { return x.id < id; });
            after.relations.insert(place, moved);
        }
    }
}

} // namespace

std::optional<TrimPiece> trimPiece(const Drawing& d, int stroke, Vec2 place) {
    const Stroke* s = d.findStroke(stroke);
    if (!s) return std::nullopt;
    const StrokeRun run(d, *s);
    if (run.empty()) return std::nullopt;
    const double u = run.nearest(place);
    const std::vector<Cut> cuts = cutsOf(d, *s);
    TrimPiece piece{0, run.end(), 0, 0, false};
    if (cuts.empty() || (run.closed() && cuts.size() < 2)) {
        piece.whole = true;
        return piece;
    }
    const auto after = std::find_if(cuts.begin(), cuts.end(), [&](const Cut& c) { return c.at > u; });
    if (after != cuts.end())
        piece.to = after->at, piece.cutterTo = after->by;
    else if (run.closed())
        piece.to = cuts.front().at + run.end(), piece.cutterTo = cuts.front().by;
    if (after != cuts.begin()) {
        piece.from = std::prev(after)->at, piece.cutterFrom = std::prev(after)->by;
    } else if (run.closed()) {
        // Before the first meeting: from the last one, a turn earlier.
        piece.from = cuts.back().at, piece.cutterFrom = cuts.back().by;
        piece.to += run.end();
    }
    return piece;
}

EditOutcome trim(Drawing& d, int stroke, Vec2 place) {
    auto piece = trimPiece(d, stroke, place);
    if (!piece) return refused("Click the part of a line or curve that should go.");
    EditOutcome out;
    if (piece->whole) {
        d.erase({stroke});
        return out;
    }
    followOwnGuide(d, stroke);
    piece = trimPiece(d, stroke, place); // by the parameters of what follows the guide
    const Drawing before = d;
    const Stroke s = *d.findStroke(stroke);
    const StrokeRun run(d, s);
    if (run.closed()) {
        reshape(d, stroke, partOf(before, s, piece->to, piece->from + run.end()));
        layOn(d, stroke, run.at(piece->to), piece->cutterTo);
        layOn(d, stroke, run.at(piece->from), piece->cutterFrom);
    } else {
        const bool head = piece->cutterFrom != 0, tail = piece->cutterTo != 0;
        reshape(d, stroke,
                head ? partOf(before, s, 0, piece->from) : partOf(before, s, piece->to, run.end()));
        int second = 0;
        if (head && tail) {
            second = drawShape(d, partOf(before, s, piece->to, run.end()));
            d.findStroke(second)->helper = s.helper;
            d.findStroke(second)->cutFrom = stroke;
            d.findStroke(second)->cutFrom = stroke;
            out.made = {second};
            moveEnds(before, d, stroke, second);
            keepInLine(d, stroke, second, false);
        }
        if (head) layOn(d, stroke, run.at(piece->from), piece->cutterFrom);
        if (tail) layOn(d, second ? second : stroke, run.at(piece->to), piece->cutterTo);
    }
    out.lost = dropBroken(before, d);
    return out;
}

std::optional<Extension> extension(const Drawing& d, int stroke, Vec2 place, std::string& why) {
    const Stroke* s = d.findStroke(stroke);
    const bool line = s && s->kind == StrokeKind::Line, arc = s && s->kind == StrokeKind::Arc;
    if (!line && !arc) {
        why = "Lines and arcs can be extended. Click one of those near the end that should move.";
        return std::nullopt;
    }
    const Vec2 a = d.at(s->points[0]), b = d.at(s->points[1]);
    const bool atStart = length(place - a) < length(place - b);
    const Curve2 own = curvesOf(d, *s).front();
    Curve2 ahead = own; // from the end on
    if (line) {
        const double far = 2 * length(endless(d, kAxisLine).p[1]) / std::max(length(b - a), 1e-9);
        ahead.p[0] = atStart ? a : b;
        ahead.p[1] = atStart ? a + (a - b) * far : b + (b - a) * far;
    } else {
        const double rest = 2 * std::numbers::pi - own.turn;
        ahead.from = atStart ? own.from : own.from + own.turn;
        ahead.turn = atStart ? -rest : rest;
    }
    Extension out;
    double nearest = 2;
    eachCutter(d, stroke, [&](int by, const Curve2& c) {
        for (const Meeting& m : meetings(ahead, c)) {
            if (length(m.at - ahead.at(0)) < kSamePoint || m.onFirst >= nearest - 1e-12) continue;
            if (arc && length(m.at - (atStart ? b : a)) < kSamePoint) continue;
            nearest = m.onFirst;
            out.until = by, out.to = m.at;
        }
    });
    if (nearest > 1) {
        why = "Nothing lies ahead of this end. Draw what it should reach, or drag the end.";
        return std::nullopt;
    }
    out.end = s->points[atStart ? 0 : 1];
    out.added = ahead.part(0, nearest);
    return out;
}

EditOutcome extend(Drawing& d, int stroke, Vec2 place) {
    std::string why;
    const auto found = extension(d, stroke, place, why);
    if (!found) return refused(why);
    const Drawing before = d;
    StrokeShape shape = shapeOf(d, *d.findStroke(stroke));
    const std::vector<int>& points = d.findStroke(stroke)->points;
    shape.at[found->end == points[0] ? 0 : 1] = found->to;
    reshape(d, stroke, shape);
    layOn(d, stroke, found->to, found->until);
    EditOutcome out;
    out.lost = dropBroken(before, d);
    return out;
}

EditOutcome split(Drawing& d, int stroke, Vec2 place) {
    const Stroke* found = d.findStroke(stroke);
    if (!found || found->kind == StrokeKind::Point) return refused("Click the line or curve to split.");
    {
        const StrokeRun run(d, *found);
        const double u = run.nearest(place);
        if (!run.closed() && (length(run.at(u) - run.at(0)) < kSamePoint ||
                              length(run.at(u) - run.at(run.end())) < kSamePoint))
            return refused("Click away from the ends: that is where the stroke is split.");
    }
    followOwnGuide(d, stroke);
    const Stroke s = *d.findStroke(stroke);
    const StrokeRun run(d, s);
    const double u = run.nearest(place);
    const Drawing before = d;
    EditOutcome out;
    if (run.closed()) {
        const double half = u + run.end() / 2;
        reshape(d, stroke, partOf(before, s, u, half));
        const int second = drawShape(d, partOf(before, s, half, u + run.end()));
        d.findStroke(second)->helper = s.helper;
        d.findStroke(second)->cutFrom = stroke;
        const auto ends = [&](int id) { return endPoints(*d.findStroke(id)); };
        d.relate(K::Coincident, {ends(stroke)[1], ends(second)[0]});
        d.relate(K::Coincident, {ends(second)[1], ends(stroke)[0]});
        keepInLine(d, stroke, second, true);
        out.made = {second};
    } else {
        reshape(d, stroke, partOf(before, s, 0, u));
        const int second = drawShape(d, partOf(before, s, u, run.end()));
        d.findStroke(second)->helper = s.helper;
        d.findStroke(second)->cutFrom = stroke;
        moveEnds(before, d, stroke, second);
        d.relate(K::Coincident, {endAt(d, stroke, run.at(u)), endAt(d, second, run.at(u))});
        keepInLine(d, stroke, second, true);
        out.made = {second};
    }
    out.lost = dropBroken(before, d);
    return out;
}

namespace {

/// Both as one, when they are pieces of one line or circle that touch.
std::optional<StrokeShape> asOne(const Drawing& d, const Stroke& a, const Stroke& b) {
    if (a.kind == StrokeKind::Line) {
        const LineEnds l = lineEnds(d, a.id), m = lineEnds(d, b.id);
        const Vec2 u = unit(l.to - l.from);
        if (std::max(std::fabs(cross(u, m.from - l.from)), std::fabs(cross(u, m.to - l.from))) > kSamePoint)
            return std::nullopt;
        const auto along = [&](Vec2 p) { return dot(u, p - l.from); };
        const double la = length(l.to - l.from), b0 = std::min(along(m.from), along(m.to)),
                     b1 = std::max(along(m.from), along(m.to));
        if (b0 > la + kSamePoint || b1 < -kSamePoint) return std::nullopt;
        return StrokeShape{a.kind, {l.from + u * std::min(0.0, b0), l.from + u * std::max(la, b1)}, {}, {}};
    }
    const Vec2 c = d.at(a.points[2]);
    if (length(c - d.at(b.points[2])) > kSamePoint || std::fabs(a.sizes[0] - b.sizes[0]) > kSamePoint)
        return std::nullopt;
    const auto at = [&](const Stroke& s, std::size_t i) { return d.at(s.points[i]) - c; };
    const double turnA = turnBetween(at(a, 0), at(a, 1)), turnB = turnBetween(at(b, 0), at(b, 1));
    const double slack = kSamePoint / a.sizes[0], whole = 2 * std::numbers::pi;
    double gap = turnBetween(at(a, 0), at(b, 0)); // where b starts, from the start of a
    if (gap > whole - slack) gap = 0;
    const auto arc = [&](const Stroke& s, double turn) -> StrokeShape {
        if (turn > whole - slack) return {StrokeKind::Circle, {c}, a.sizes, {}};
        return {StrokeKind::Arc, {d.at(s.points[0]), c + turnedBy(at(s, 0), turn), c}, a.sizes, {}};
    };
    if (gap <= turnA + slack) return arc(a, std::max(turnA, gap + turnB));
    if (whole - gap <= turnB + slack) return arc(b, std::max(turnB, whole - gap + turnA));
    return std::nullopt;
}

} // namespace

EditOutcome join(Drawing& d, const std::vector<int>& strokes) {
    const Stroke* a = strokes.size() == 2 ? d.findStroke(strokes[0]) : nullptr;
    const Stroke* b = strokes.size() == 2 ? d.findStroke(strokes[1]) : nullptr;
    if (!a || !b || endPoints(*a).empty() || endPoints(*b).empty())
        return refused("Choose two strokes that have ends.");
    const Drawing before = d;
    EditOutcome out;
    if (a->kind == b->kind && (a->kind == StrokeKind::Line || a->kind == StrokeKind::Arc))
        if (const auto one = asOne(d, *a, *b)) {
            const int gone = b->id, kept = a->id;
            reshape(d, kept, *one);
            d.erase({gone});
            moveEnds(before, d, gone, kept);
            out.lost = dropBroken(before, d);
            return out;
        }
    int p = 0, q = 0;
    double least = 1e300;
    for (const int i : endPoints(*a))
        for (const int j : endPoints(*b)) {
            const auto joined = joinedPoints(d, i);
            if (std::find(joined.begin(), joined.end(), j) != joined.end())
                return refused("These two are joined already.");
            const double away = length(d.at(i) - d.at(j));
            if (away < least) least = away, p = i, q = j;
        }
    d.relate(K::Coincident, {p, q});
    return out;
}

} // namespace gc

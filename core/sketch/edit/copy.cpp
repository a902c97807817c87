#include "core/sketch/edit/copy.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/beside.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/solve/system.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace gc {

namespace {

using K = RelationKind;

std::vector<const Stroke*> find(const Drawing& d, const std::vector<int>& ids) {
    std::vector<const Stroke*> out;
    for (const int id : ids)
        if (const Stroke* s = d.findStroke(id)) out.push_back(s);
    return out;
}

std::string nothingChosen() {
    return "Choose the strokes first: click them, or drag a box around them.";
}

/// Points that decide where a stroke lies: a spline's own handles follow from its nodes.
std::vector<std::size_t> leadingPoints(const Stroke& s) {
    std::vector<std::size_t> out;
    for (std::size_t i = 0; i < s.points.size(); ++i) {
        if (s.kind == StrokeKind::Beside) continue; // its source decides, and what its ends are joined to
        const bool handle = s.kind == StrokeKind::Spline && i % 2 == 1;
        if (handle && !(i / 2 < s.held.size() && s.held[i / 2])) continue;
        if (s.kind == StrokeKind::Arc && i == 1) continue; // two points and the circle, then the other end
        out.push_back(i);
    }
    return out;
}

} // namespace

Placing Placing::turnAbout(Vec2 c, double angle, double scale) {
    Placing p{Vec2{std::cos(angle), std::sin(angle)} * scale, {}, false};
    p.shift = c - p(c);
    return p;
}

Placing Placing::mirrorAcross(LineEnds line) {
    const Vec2 u = unit(line.to - line.from);
    Placing p{{u.x * u.x - u.y * u.y, 2 * u.x * u.y}, {}, true}; // the square of u
    p.shift = line.from - p(line.from);
    return p;
}

StrokeShape placed(const StrokeShape& shape, const Placing& placing) {
    StrokeShape out = shape;
    for (Vec2& p : out.at) p = placing(p);
    const bool lengths = shape.kind != StrokeKind::Conic; // the sizes of conics are ratios
    if (lengths)
        for (double& s : out.sizes) s *= placing.scale();
    if (!placing.mirrored) return out;
    if (shape.kind == StrokeKind::Beside) out.right = !out.right;
    if (shape.kind == StrokeKind::Arc) std::swap(out.at[0], out.at[1]);
    if (shape.kind == StrokeKind::EllipseArc) std::swap(out.at[2], out.at[3]);
    return out;
}

std::map<int, int> copyStrokes(Drawing& d, const std::vector<int>& ids, const Placing& placing,
                               bool withRelations) {
    std::map<int, int> copyOf;
    const Drawing before = d;
    for (const Stroke* s : find(before, ids)) {
        const int copy = drawShape(d, placed(shapeOf(before, *s), placing));
        Stroke& made = *d.findStroke(copy);
        made.helper = s->helper;
        copyOf[s->id] = copy;
        for (std::size_t i = 0; i < s->points.size(); ++i) {
            std::size_t j = i;
            if (placing.mirrored && s->kind == StrokeKind::Arc && i < 2) j = 1 - i;
            if (placing.mirrored && s->kind == StrokeKind::EllipseArc && i >= 2) j = 5 - i;
            copyOf[s->points[i]] = made.points[j];
        }
    }
    for (const Stroke* s : find(before, ids)) { // followers follow the copies, or nothing any more
        Stroke& made = *d.findStroke(copyOf.at(s->id));
        if (made.kind != StrokeKind::Beside) continue;
        if (copyOf.count(s->beside)) {
            made.beside = copyOf.at(s->beside);
            continue;
        }
        made = *before.findStroke(s->id); // its shape is that of the original, then put in place
        const int id = copyOf.at(s->id);
        Drawing alone = before;
        makePlain(alone, s->id);
        const StrokeShape plain = placed(shapeOf(alone, *alone.findStroke(s->id)), placing);
        made.id = id;
        made.points = {copyOf.at(s->points.front()), copyOf.at(s->points.back())};
        if (made.points[0] == made.points[1]) made.points.pop_back();
        reshape(d, id, plain);
    }
    if (!withRelations) return copyOf;
    for (const Relation& r : before.relations) {
        Relation copy = r;
        bool inside = true, about = false; // about the copied things and the drawing's own lines only
        for (int& of : copy.of) {
            if (of < 0) continue;
            const auto it = copyOf.find(of);
            inside &= it != copyOf.end();
            if (inside) of = it->second, about = true;
        }
        if (!inside || !about) continue;
        freezeSense(d, copy);
        const bool sized = wordsOf(r.kind).sized;
        // Copied figures hang on the same names; where the size is another, it is not copied.
        if (!holds(d, copy, sized ? measured(before, r) : 0)) continue;
        copy.id = d.nextId++;
        copy.name.clear();
        d.relations.push_back(std::move(copy));
    }
    return copyOf;
}

std::vector<int> addDrawing(Drawing& d, const Drawing& other) {
    std::map<int, int> idOf;
    std::vector<int> out;
    for (const DrawnPoint& p : other.points) idOf[p.id] = d.addPoint(p.at);
    for (const Stroke& s : other.strokes) {
        std::vector<int> points;
        for (const int p : s.points) points.push_back(idOf.at(p));
        const int id = d.addStroke(s.kind, points, s.sizes);
        Stroke& made = *d.findStroke(id);
        made.name = s.name, made.helper = s.helper, made.held = s.held, made.right = s.right;
        made.beside = s.beside;
        idOf[s.id] = id;
        out.push_back(id);
    }
    for (const int id : out)
        if (Stroke& made = *d.findStroke(id); made.beside) made.beside = idOf.at(made.beside);
    for (Relation r : other.relations) {
        for (int& of : r.of)
            if (of > 0) of = idOf.at(of);
        if (std::any_of(d.relations.begin(), d.relations.end(),
                        [&](const Relation& own) { return own.name == r.name; }))
            r.name.clear();
        r.id = d.nextId++;
        d.relations.push_back(std::move(r));
    }
    return out;
}

EditOutcome placeStrokes(Drawing& d, const std::vector<int>& ids, const Placing& placing) {
    if (find(d, ids).empty()) return refused(nothingChosen());
    for (const int id : ids) // what goes without what it follows goes as it is
        if (const Stroke* s = d.findStroke(id);
            s && s->kind == StrokeKind::Beside && std::find(ids.begin(), ids.end(), s->beside) == ids.end())
            makePlain(d, id);
    const Drawing before = d;
    const auto strokes = find(before, ids);
    std::set<int> moved;
    for (const Stroke* s : strokes) {
        moved.insert(s->points.begin(), s->points.end());
        Stroke& now = *d.findStroke(s->id);
        const StrokeShape shape = placed(shapeOf(before, *s), placing);
        now.sizes = shape.sizes;
        now.right = shape.right;
        for (std::size_t i = 0; i < now.points.size(); ++i) d.findPoint(now.points[i])->at = shape.at[i];
    }
    for (Relation& r : d.relations) {
        const bool allMoved = std::all_of(r.of.begin(), r.of.end(), [&](int id) {
            const Stroke* s = before.findStroke(id);
            return moved.count(id) > 0 || (s && moved.count(s->points[0]) > 0);
        });
        if (!allMoved) continue;
        if (r.kind == K::Fixed || r.kind == K::Together || r.kind == K::AngleBetween || r.kind == K::Tangent)
            freezeSense(d, r);
    }
    EditOutcome out;
    out.lost = dropBroken(before, d, true);
    return out;
}

EditOutcome mirrorStrokes(Drawing& d, const std::vector<int>& ids, int line) {
    std::vector<int> chosen = ids;
    std::erase(chosen, line);
    if (!isLine(d, line)) return refused("Choose the line to mirror across last; the axis will do.");
    if (find(d, chosen).empty()) return refused(nothingChosen());
    const Drawing before = d;
    const LineEnds axis = lineEnds(d, line);
    const Vec2 u = unit(axis.to - axis.from);
    const auto onAxis = [&](int point) {
        return std::fabs(cross(u, before.at(point) - axis.from)) < kSamePoint;
    };
    // A line that lies along the mirror, or stands square across its middle, is its own mirror image.
    const Placing across = Placing::mirrorAcross(axis);
    std::erase_if(chosen, [&](int id) {
        const Stroke* s = before.findStroke(id);
        if (!s || s->kind == StrokeKind::Circle) return s && onAxis(s->points[0]);
        if (s->kind != StrokeKind::Line) return false;
        const Vec2 a = before.at(s->points[0]), b = before.at(s->points[1]);
        return (onAxis(s->points[0]) && onAxis(s->points[1])) || length(across(a) - b) < kSamePoint;
    });
    if (chosen.empty()) return refused("What is chosen is its own mirror image already.");
    const auto copyOf = copyStrokes(d, chosen, across, false);
    EditOutcome out;
    for (const Stroke* s : find(before, chosen)) {
        out.made.push_back(copyOf.at(s->id));
        const auto ends = endPoints(*s);
        const bool follows = d.findStroke(copyOf.at(s->id))->kind == StrokeKind::Beside;
        if (!follows && s->kind != StrokeKind::Beside && std::none_of(ends.begin(), ends.end(), onAxis)) {
            d.relate(K::Symmetric, {s->id, copyOf.at(s->id), line});
            continue;
        }
        if (s->kind == StrokeKind::Beside) {
            if (s->sizes[0] > 0) d.relate(K::Equal, {s->id, copyOf.at(s->id)});
            continue;
        }
        for (const std::size_t i : leadingPoints(*s)) {
            const int p = s->points[i], q = copyOf.at(p);
            if (onAxis(p))
                d.relate(K::Coincident, {p, q});
            else
                d.relate(K::Symmetric, {p, q, line});
        }
        if (s->kind == StrokeKind::Conic) d.relate(K::Equal, {s->id, copyOf.at(s->id)});
        if (s->kind == StrokeKind::Arc)
            d.relate(onAxis(s->points[1]) ? K::Coincident : K::Symmetric,
                     onAxis(s->points[1]) ? std::vector<int>{s->points[1], copyOf.at(s->points[1])}
                                          : std::vector<int>{s->points[1], copyOf.at(s->points[1]), line});
    }
    // Joints among the originals are joints among the images; all else follows.
    for (const Relation& r : before.relations)
        if (r.kind == K::Coincident && copyOf.count(r.of[0]) && copyOf.count(r.of[1]))
            d.relate(K::Coincident, {copyOf.at(r.of[0]), copyOf.at(r.of[1])});
    return out;
}

namespace {

constexpr int kMostCopies = 400;

std::string tooMany() {
    return "More than " + std::to_string(kMostCopies) +
           " copies in one drawing would make it slow. Ask for fewer.";
}

/// Ties copies to originals, point by point, in a way that `tie` says; radii are equal.
template <class Tie>
void tieCopies(Drawing& d, const std::vector<const Stroke*>& originals, const std::map<int, int>& copyOf,
               const Tie& tie) {
    for (const Stroke* s : originals) {
        for (const std::size_t i : leadingPoints(*s)) tie(s->points[i], copyOf.at(s->points[i]));
        const int copy = copyOf.at(s->id);
        const bool sized = s->kind == StrokeKind::Circle || s->kind == StrokeKind::Ellipse ||
                           s->kind == StrokeKind::Conic || (s->kind == StrokeKind::Beside && s->sizes[0] > 0);
        if (sized) d.relate(K::Equal, {s->id, copy});
        if (s->kind == StrokeKind::Arc) tie(s->points[1], copyOf.at(s->points[1]));
    }
}

} // namespace

EditOutcome repeatInRows(Drawing& d, const std::vector<int>& ids, const Rows& rows) {
    const Drawing before = d;
    const auto originals = find(before, ids);
    if (originals.empty()) return refused(nothingChosen());
    if (rows.columns < 1 || rows.rows < 1 || rows.columns * rows.rows < 2)
        return refused("Ask for at least two in a row.");
    if (rows.columns * rows.rows > kMostCopies) return refused(tooMany());
    EditOutcome out;
    const int lead = originals.front()->points[0];
    std::map<std::pair<int, int>, int> leadOf{{{0, 0}, lead}};
    for (int j = 0; j < rows.rows; ++j)
        for (int i = 0; i < rows.columns; ++i) {
            if (i == 0 && j == 0) continue;
            const auto copyOf = copyStrokes(d, ids, Placing::move({i * rows.across, j * rows.up}), false);
            for (const Stroke* s : originals) out.made.push_back(copyOf.at(s->id));
            const int here = copyOf.at(lead);
            leadOf[{i, j}] = here;
            if (i + j == 1) { // the first that way carries the pitch
                const bool across = i == 1;
                d.relate(across ? K::Horizontal : K::Vertical, {lead, here});
                d.relate(across ? K::Across : K::Along, {lead, here},
                         across ? rows.acrossExpression : rows.upExpression);
            } else {
                const std::pair step = i > 0 ? std::pair{1, 0} : std::pair{0, 1};
                d.relate(K::SameStep,
                         {lead, leadOf.at(step), leadOf.at({i - step.first, j - step.second}), here});
            }
            tieCopies(d, originals, copyOf, [&](int p, int q) {
                if (p != lead) d.relate(K::SameStep, {lead, here, p, q});
            });
        }
    return out;
}

EditOutcome repeatAround(Drawing& d, const std::vector<int>& ids, int centre, int count, double angle,
                         const std::string& expression) {
    const Drawing before = d;
    const auto originals = find(before, ids);
    if (originals.empty()) return refused(nothingChosen());
    if (!isPoint(before, centre)) return refused("Choose the point to turn about last; the origin will do.");
    if (count < 2) return refused("Ask for at least two.");
    if (count > kMostCopies) return refused(tooMany());
    if (std::fabs(angle) * count > 2 * std::numbers::pi * (1 + 1e-9))
        return refused(
            "So many steps of this angle go round more than once. Ask for fewer, or a smaller angle.");
    EditOutcome out;
    const Vec2 c = before.at(centre);
    const std::string name = freeName(d, "turn");
    bool named = false;
    std::map<int, int> last; // from a point of the original to that of the latest copy
    for (int k = 1; k < count; ++k) {
        const auto copyOf = copyStrokes(d, ids, Placing::turnAbout(c, k * angle), false);
        for (const Stroke* s : originals) out.made.push_back(copyOf.at(s->id));
        tieCopies(d, originals, copyOf, [&](int p, int q) {
            const int from = last.count(p) ? last.at(p) : p;
            if (length(before.at(p) - c) < kSamePoint) { // what lies on the centre stays there
                if (q != centre && from != centre) d.relate(K::Coincident, {centre, q});
            } else {
                d.relate(K::Turned, {from, q, centre}, named ? name : expression);
                d.relations.back().quiet = named;
                if (!named) d.relations.back().name = name;
                named = true;
            }
            last[p] = q;
        });
    }
    return out;
}

EditOutcome repeatAlong(Drawing& d, const std::vector<int>& ids, int along, int count, bool turning) {
    const Stroke* rail = d.findStroke(along);
    std::vector<int> chosen = ids;
    std::erase(chosen, along);
    const Drawing before = d;
    const auto originals = find(before, chosen);
    if (!rail) return refused("Choose the line or curve to repeat along last.");
    if (originals.empty()) return refused(nothingChosen());
    if (count < 2) return refused("Ask for at least two.");
    if (count > kMostCopies) return refused(tooMany());
    const StrokeRun run(before, *before.findStroke(along));
    if (run.empty()) return refused("Choose a line or curve to repeat along; a point has no length.");
    // The first stays where it is; the others lie to the curve's later places as it does to the nearest end.
    const double whole = run.length(), step = whole / (run.closed() ? count : count - 1);
    const Vec2 lead = before.at(originals.front()->points[0]);
    const bool backwards = !run.closed() && length(lead - run.at(run.end())) < length(lead - run.at(0));
    const auto parameter = [&](int k) {
        const double way = k * step;
        return run.atLength(backwards ? whole - way : way);
    };
    const Vec2 start = run.at(parameter(0)), ahead = unit(run.slope(parameter(0)));
    const auto share = [&](int k) { return (backwards ? whole - k * step : k * step) / whole; };
    EditOutcome out;
    for (int k = 1; k < count; ++k) {
        const Vec2 to = run.at(parameter(k)), now = unit(run.slope(parameter(k)));
        Placing p = turning ? Placing::turnAbout(start, turnBetween(ahead, now)) : Placing{};
        p.shift = p.shift + (to - start);
        const auto copyOf = copyStrokes(d, chosen, p, false);
        for (const Stroke* s : originals) out.made.push_back(copyOf.at(s->id));
        tieCopies(d, originals, copyOf, [&](int from, int copy) {
            d.relate(K::Carried, {from, copy, along});
            d.relations.back().where = {{share(0), share(k)}};
            d.relations.back().turned = turning;
        });
    }
    return out;
}

} // namespace gc

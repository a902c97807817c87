#include "core/base/tolerance.hpp"
#include "core/sketch/beside.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/copies.hpp"
#include "core/sketch/solve/system.hpp"

#include <algorithm>
#include <cmath>
#include <numbers>
#include <set>

namespace gc {

using K = RelationKind;

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
    if (shape.kind == StrokeKind::Arc) std::swap(out.at[0], out.at[1]);
    if (shape.kind == StrokeKind::EllipseArc) std::swap(out.at[2], out.at[3]);
    return out;
}

namespace {

/// What follows a stroke that is not copied is copied as what it looks like.
StrokeShape shapeToCopy(const Drawing& d, const Stroke& s, const std::vector<int>& ids) {
    if (s.kind != StrokeKind::Beside || among(ids, s.beside)) return shapeOf(d, s);
    Drawing plain = d;
    makePlain(plain, s.id);
    return shapeOf(plain, *plain.findStroke(s.id));
}

/// Lets the copy of a follower follow the copy of its source.
void followCopy(const Drawing& before, const Stroke& original, Stroke& copy, int source, bool mirrored) {
    copy.beside = source;
    if (!mirrored) return;
    const StrokeKind kind = before.findStroke(original.beside)->kind;
    if (kind != StrokeKind::Ellipse && kind != StrokeKind::EllipseArc) {
        copy.right = !copy.right;
        return;
    }
    // Ellipses run counter-clockwise in the image, too: what was to their left still is, from end to start.
    std::reverse(copy.points.begin(), copy.points.end());
    std::reverse(copy.held.begin(), copy.held.end());
}

} // namespace

std::map<int, int> copyStrokes(Drawing& d, const std::vector<int>& ids, const Placing& placing,
                               bool withRelations) {
    std::map<int, int> copyOf;
    const Drawing before = d;
    for (const Stroke* s : strokesAmong(before, ids)) {
        const int copy = drawShape(d, placed(shapeToCopy(before, *s, ids), placing));
        Stroke& made = *d.findStroke(copy);
        made.helper = s->helper;
        copyOf[s->id] = copy;
        for (std::size_t i = 0; i < s->points.size(); ++i) {
            std::size_t j = i;
            if (placing.mirrored && s->kind == StrokeKind::Arc && i < 2) j = 1 - i;
            if (placing.mirrored && s->kind == StrokeKind::EllipseArc && i >= 2) j = 5 - i;
            copyOf[s->points[i]] = made.kind == s->kind ? made.points[j] : endPoints(made)[i];
        }
    }
    for (const Stroke* s : strokesAmong(before, ids))
        if (Stroke& made = *d.findStroke(copyOf.at(s->id)); made.kind == StrokeKind::Beside)
            followCopy(before, *s, made, copyOf.at(s->beside), placing.mirrored);
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
        if (copy.kind != K::Turned) // which may be more than half a turn
            freezeSense(d, copy);
        else if (placing.mirrored)
            copy.sense = -copy.sense;
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
    if (strokesAmong(d, ids).empty()) return refused(nothingChosen());
    for (const int id : ids) // what goes without what it follows goes as it is
        if (const Stroke* s = d.findStroke(id); s && s->kind == StrokeKind::Beside && !among(ids, s->beside))
            makePlain(d, id);
    const Drawing before = d;
    const auto strokes = strokesAmong(before, ids);
    std::set<int> moved;
    for (const Stroke* s : strokes) {
        moved.insert(s->points.begin(), s->points.end());
        Stroke& now = *d.findStroke(s->id);
        const StrokeShape shape = placed(shapeOf(before, *s), placing);
        now.sizes = shape.sizes;
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
    if (strokesAmong(d, chosen).empty()) return refused(nothingChosen());
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
    EditOutcome out;
    const auto all = withSources(before, chosen);
    const auto copyOf = copyChosen(d, chosen, all, across, out);
    for (const Stroke* s : strokesAmong(before, all)) {
        if (s->kind == StrokeKind::Beside) { // its source says all but how far it stands off
            if (s->sizes[0] > 0) d.relate(K::Equal, {s->id, copyOf.at(s->id)});
            continue;
        }
        const auto ends = endPoints(*s);
        if (std::none_of(ends.begin(), ends.end(), onAxis)) {
            d.relate(K::Symmetric, {s->id, copyOf.at(s->id), line});
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

} // namespace gc

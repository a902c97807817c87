#include "core/sketch/edit/offset.hpp"

#include "core/sketch/drawing_words.hpp"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace gc {

namespace {

using K = RelationKind;
constexpr double kSame = 1e-6; ///< mm: points nearer than this are one
constexpr double kFit = 0.002; ///< mm: how near a fitted offset is to the true one
constexpr double kPi = std::numbers::pi;

Vec2 leftOf(Vec2 u) {
    return {-u.y, u.x};
}

// ---- one stroke beside another

/// A side of the offset, in the direction of the walk.
struct Beside {
    int of = 0; ///< the stroke that it runs beside; 0: an arc about a corner
    StrokeKind kind = StrokeKind::Line;
    Vec2 from, to;
    Vec2 centre;
    double radius = 0; ///< Arc
    bool left = true;  ///< Arc: it turns to the left
    StrokeShape fitted;

    Vec2 direction(bool atEnd) const {
        if (kind == StrokeKind::Line) return unit(to - from);
        if (kind == StrokeKind::Spline) {
            const std::size_t node = atEnd ? fitted.at.size() - 2 : 0;
            return unit(fitted.at[node + 1] - fitted.at[node]);
        }
        const Vec2 r = (atEnd ? to : from) - centre;
        return unit(leftOf(r)) * (left ? 1.0 : -1.0);
    }
};

/// A spline through points of the true offset that lies within kFit of it, with the true directions.
StrokeShape fitBeside(const StrokeRun& run, double from, double to, double distance) {
    const auto at = [&](double u) { return run.at(u) + leftOf(unit(run.slope(u))) * distance; };
    StrokeShape out;
    for (int pieces = 4 * static_cast<int>(std::ceil(std::fabs(to - from))); pieces <= 128; pieces *= 2) {
        std::vector<Vec2> nodes;
        std::vector<double> lengths;
        const auto parameter = [&](double k) { return from + (to - from) * k / pieces; };
        for (int k = 0; k <= pieces; ++k) nodes.push_back(at(parameter(k)));
        for (int k = 0; k < pieces; ++k)
            lengths.push_back(std::max(
                length(nodes[static_cast<std::size_t>(k) + 1] - nodes[static_cast<std::size_t>(k)]), 1e-9));
        out = {StrokeKind::Spline, {}, lengths, std::vector<bool>(nodes.size(), true)};
        for (int k = 0; k <= pieces; ++k) {
            const auto i = static_cast<std::size_t>(k);
            // Directions of the offset are those of the curve; its speed along the chords is one.
            const double mean = k == 0        ? lengths.front()
                                : k == pieces ? lengths.back()
                                              : 0.5 * (lengths[i - 1] + lengths[i]);
            const Vec2 ahead = unit(run.slope(parameter(k))) * (to > from ? 1.0 : -1.0);
            out.at.insert(out.at.end(), {nodes[i], nodes[i] + ahead * (mean / 3)});
        }
        Drawing trial;
        const int s = drawShape(trial, out);
        const StrokeRun fit(trial, *trial.findStroke(s));
        double worst = 0;
        for (int k = 0; k < pieces; ++k)
            for (const double part : {0.25, 0.5, 0.75}) {
                const Vec2 p = at(parameter(k + part)), q = fit.at(k + part);
                const Vec2 u = unit(fit.slope(k + part));
                worst = std::max(worst, std::fabs(cross(u, p - q)));
            }
        if (worst < kFit) break;
    }
    return out;
}

/// \return nothing when the offset of an arc has no radius left
std::optional<Beside> beside(const Drawing& d, int stroke, bool forward, double distance) {
    const Stroke& s = *d.findStroke(stroke);
    Beside b;
    b.of = stroke;
    const auto ends = endPoints(s);
    if (s.kind == StrokeKind::Line) {
        const Vec2 p = d.at(ends[forward ? 0 : 1]), q = d.at(ends[forward ? 1 : 0]);
        const Vec2 n = leftOf(unit(q - p)) * distance;
        b.from = p + n, b.to = q + n;
        return b;
    }
    if (s.kind == StrokeKind::Arc || s.kind == StrokeKind::Circle) {
        b.kind = s.kind;
        b.centre = d.at(centrePoint(s));
        b.left = forward;
        b.radius = s.sizes[0] - (forward ? distance : -distance);
        if (b.radius < kSame) return std::nullopt;
        if (s.kind == StrokeKind::Circle) return b;
        const auto out = [&](int point) { return b.centre + unit(d.at(point) - b.centre) * b.radius; };
        b.from = out(ends[forward ? 0 : 1]), b.to = out(ends[forward ? 1 : 0]);
        return b;
    }
    const StrokeRun run(d, s);
    b.kind = StrokeKind::Spline;
    // Written in the stroke's own direction: its left is the walk's right when it is walked backwards.
    b.fitted = fitBeside(run, 0, run.end(), forward ? distance : -distance);
    if (!forward) { // turned round, so that it runs as the walk does
        StrokeShape back = b.fitted;
        const std::size_t n = back.at.size() / 2;
        for (std::size_t i = 0; i < n; ++i) {
            const Vec2 node = b.fitted.at[2 * (n - 1 - i)], handle = b.fitted.at[2 * (n - 1 - i) + 1];
            back.at[2 * i] = node, back.at[2 * i + 1] = node * 2 - handle;
        }
        std::reverse(back.sizes.begin(), back.sizes.end());
        b.fitted = back;
    }
    b.from = b.fitted.at.front(), b.to = b.fitted.at[b.fitted.at.size() - 2];
    return b;
}

// ---- corners

/// Where two sides meet when they run on, nearest to a place.
std::optional<Vec2> meetRunOn(const Beside& a, const Beside& b, Vec2 near) {
    if (a.kind == StrokeKind::Spline || b.kind == StrokeKind::Spline) return std::nullopt;
    std::vector<Vec2> found;
    const bool lineA = a.kind == StrokeKind::Line, lineB = b.kind == StrokeKind::Line;
    if (lineA && lineB) {
        const Vec2 u = a.to - a.from, v = b.to - b.from;
        const double det = cross(u, v);
        if (std::fabs(det) > 1e-9 * length(u) * length(v))
            found.push_back(a.from + u * (cross(b.from - a.from, v) / det));
    } else if (lineA || lineB) {
        const Beside &l = lineA ? a : b, &c = lineA ? b : a;
        const Vec2 u = unit(l.to - l.from), foot = l.from + u * dot(c.centre - l.from, u);
        const double h = length(foot - c.centre);
        if (h <= c.radius) {
            const double k = std::sqrt(c.radius * c.radius - h * h);
            found = {foot + u * k, foot - u * k};
        }
    } else {
        const Vec2 u = b.centre - a.centre;
        const double apart = length(u);
        if (apart > kSame && apart <= a.radius + b.radius && apart >= std::fabs(a.radius - b.radius)) {
            const double x = (apart * apart + a.radius * a.radius - b.radius * b.radius) / (2 * apart);
            const double y = std::sqrt(std::max(0.0, a.radius * a.radius - x * x));
            const Vec2 foot = a.centre + u * (x / apart), n = leftOf(u) * (1 / apart);
            found = {foot + n * y, foot - n * y};
        }
    }
    if (found.empty()) return std::nullopt;
    return *std::min_element(found.begin(), found.end(),
                             [&](Vec2 p, Vec2 q) { return length(p - near) < length(q - near); });
}

/// Does the side still run the way it did, now that its ends were moved? Arcs more than all round do not.
bool runsOn(const Beside& before, const Beside& now) {
    if (now.kind == StrokeKind::Line) return dot(before.to - before.from, now.to - now.from) > 0;
    if (now.kind != StrokeKind::Arc) return true;
    const auto turn = [](const Beside& b) {
        const Vec2 u = b.from - b.centre, v = b.to - b.centre;
        return b.left ? turnBetween(u, v) : turnBetween(v, u);
    };
    return std::fabs(turn(now) - turn(before)) < kPi;
}

struct Sides {
    std::vector<Beside> list;
    bool closed = false;
};

int drawSide(Drawing& d, const Beside& b) {
    switch (b.kind) {
    case StrokeKind::Line:
        return d.draw(b.kind, {b.from, b.to});
    case StrokeKind::Circle:
        return d.draw(b.kind, {b.centre}, {b.radius});
    case StrokeKind::Arc:
        return d.draw(b.kind, {b.left ? b.from : b.to, b.left ? b.to : b.from, b.centre}, {b.radius});
    default:
        return drawShape(d, b.fitted);
    }
}

Drawing drawnAlone(const Beside& b) {
    Drawing d;
    drawSide(d, b);
    return d;
}

/// Where two sides cross as they are: what curves that cannot run on do on the inside of a corner.
bool crossAsTheyAre(Beside& a, Beside& b, Vec2 near) {
    const Drawing da = drawnAlone(a), db = drawnAlone(b);
    const StrokeRun ra(da, da.strokes[0]), rb(db, db.strokes[0]);
    double least = 1e300, onA = 0, onB = 0;
    for (std::size_t i = 0; i < ra.curves().size(); ++i)
        for (std::size_t j = 0; j < rb.curves().size(); ++j)
            for (const Meeting& m : meetings(ra.curves()[i], rb.curves()[j]))
                if (length(m.at - near) < least) {
                    least = length(m.at - near);
                    onA = static_cast<double>(i) + m.onFirst, onB = static_cast<double>(j) + m.onSecond;
                }
    if (least > 1e299) return false;
    const Vec2 at = ra.at(onA);
    if (a.kind == StrokeKind::Spline) a.fitted = partOf(da, da.strokes[0], 0, onA);
    if (b.kind == StrokeKind::Spline) b.fitted = partOf(db, db.strokes[0], onB, rb.end());
    a.to = b.from = at;
    return true;
}

/// The corner between two neighbours: moves their ends onto it, or gives the arc about it.
std::optional<Beside> closeCorner(Beside& a, Beside& b, Vec2 corner, double distance, bool roundCorners) {
    if (length(a.to - b.from) < kSame) {
        b.from = a.to;
        return std::nullopt;
    }
    // On the outside of a corner the sides come apart; on the inside they cross.
    const bool outer = cross(a.direction(true), b.direction(false)) * distance < 0;
    const Vec2 miter = a.to + b.from - corner;
    const auto meet = outer && roundCorners ? std::nullopt : meetRunOn(a, b, miter);
    if (meet) {
        a.to = b.from = *meet;
        return std::nullopt;
    }
    if (!outer && crossAsTheyAre(a, b, miter)) return std::nullopt;
    Beside arc;
    arc.kind = StrokeKind::Arc;
    arc.centre = corner;
    arc.radius = std::fabs(distance);
    arc.left = distance < 0;
    arc.from = a.to, arc.to = b.from;
    return arc;
}

/// All sides of a chain at a distance, with corners. Sides that vanish are left out, over and over.
std::optional<Sides> sidesOf(const Drawing& d, const Chain& chain, double distance, bool roundCorners) {
    std::vector<std::size_t> used;
    for (std::size_t i = 0; i < chain.strokes.size(); ++i) used.push_back(i);
    const auto cornerAfter = [&](std::size_t i) {
        const auto ends = endPoints(*d.findStroke(chain.strokes[i]));
        return d.at(ends[chain.forward[i] ? 1 : 0]);
    };
    while (!used.empty()) {
        Sides out;
        out.closed = chain.closed;
        std::vector<Beside> raw;
        std::vector<std::size_t> kept;
        for (const std::size_t i : used)
            if (auto b = beside(d, chain.strokes[i], chain.forward[i], distance)) {
                raw.push_back(*b);
                kept.push_back(i);
            }
        if (raw.empty()) return std::nullopt;
        if (raw.size() == 1 && raw[0].kind == StrokeKind::Circle) return Sides{raw, true};
        std::vector<Beside> now = raw;
        std::vector<std::optional<Beside>> arcs(now.size());
        for (std::size_t k = 0; k < now.size(); ++k) {
            if (k + 1 == now.size() && !chain.closed) break;
            const std::size_t next = (k + 1) % now.size();
            const bool neighbours = (kept[k] + 1) % chain.strokes.size() == kept[next];
            if (next == k) return std::nullopt;
            if (neighbours) {
                arcs[k] = closeCorner(now[k], now[next], cornerAfter(kept[k]), distance, roundCorners);
            } else { // what lay between is swallowed: the two run on until they meet
                const auto meet = meetRunOn(now[k], now[next], (now[k].to + now[next].from) * 0.5);
                if (!meet) return std::nullopt;
                now[k].to = now[next].from = *meet;
            }
        }
        std::vector<std::size_t> good;
        for (std::size_t k = 0; k < now.size(); ++k)
            if (runsOn(raw[k], now[k])) good.push_back(kept[k]);
        if (good.size() == used.size()) {
            for (std::size_t k = 0; k < now.size(); ++k) {
                out.list.push_back(now[k]);
                if (arcs[k]) out.list.push_back(*arcs[k]);
            }
            return out;
        }
        used = good;
    }
    return std::nullopt;
}

// ---- drawing them

/// The points of a drawn side where the walk enters and leaves it.
std::pair<int, int> walkEnds(const Drawing& d, int stroke, const Beside& b) {
    const auto ends = endPoints(*d.findStroke(stroke));
    const bool forward = b.kind != StrokeKind::Arc || b.left;
    return {ends[forward ? 0 : 1], ends[forward ? 1 : 0]};
}

/// The nearest that the sides come to the chain, against what they should: an offset that runs into itself
/// comes nearer.
bool keepsItsDistance(const Drawing& d, const Chain& chain, const Sides& sides, double distance) {
    std::vector<Curve2> original;
    for (const int s : chain.strokes)
        for (const Curve2& c : curvesOf(d, *d.findStroke(s))) original.push_back(c);
    Drawing drawn;
    for (const Beside& b : sides.list) drawSide(drawn, b);
    const double least = std::fabs(distance) - 2 * kFit - 1e-6 * std::fabs(distance);
    for (const Stroke& s : drawn.strokes) {
        const StrokeRun run(drawn, s);
        const int looks = s.kind == StrokeKind::Spline ? 4 : 16;
        for (int k = 0; k <= looks * static_cast<int>(run.end()); ++k) {
            const Vec2 p = run.at(static_cast<double>(k) / looks);
            for (const Curve2& c : original)
                if (length(c.at(c.nearest(p)) - p) < least) return false;
        }
    }
    return true;
}

struct Made {
    std::vector<int> strokes;
    int first = 0, last = 0; ///< points at the ends of an open one
};

/// The name by which the other sides call the first one's distance.
class Following {
  public:
    Following(Drawing& d, std::string expression) : m_d(d), m_expression(std::move(expression)) {}

    void measure(const std::vector<int>& of) {
        if (m_expression.empty()) return;
        m_d.relate(K::Distance, of, m_name.empty() ? m_expression : m_name);
        m_d.relations.back().quiet = !m_name.empty();
        if (!m_name.empty()) return;
        for (int k = 1;; ++k) {
            m_name = "offset" + std::to_string(k);
            if (std::none_of(m_d.relations.begin(), m_d.relations.end(),
                             [&](const Relation& r) { return r.name == m_name; }))
                break;
        }
        m_d.relations.back().name = m_name;
    }

  private:
    Drawing& m_d;
    std::string m_expression, m_name;
};

Made drawSides(Drawing& d, const Sides& sides, Following& following) {
    Made made;
    for (const Beside& b : sides.list) made.strokes.push_back(drawSide(d, b));
    const std::size_t n = sides.list.size();
    if (sides.list[0].kind == StrokeKind::Circle) {
        d.relate(K::Concentric, {made.strokes[0], sides.list[0].of});
        following.measure({made.strokes[0], sides.list[0].of});
        return made;
    }
    for (std::size_t i = 0; i < n; ++i) {
        const Beside& b = sides.list[i];
        const int s = made.strokes[i];
        if (i + 1 < n || sides.closed)
            d.relate(K::Coincident, {walkEnds(d, s, b).second,
                                     walkEnds(d, made.strokes[(i + 1) % n], sides.list[(i + 1) % n]).first});
        if (b.of && b.kind == StrokeKind::Line) {
            d.relate(K::Parallel, {s, b.of});
            following.measure({s, b.of});
        } else if (b.of && b.kind == StrokeKind::Arc) {
            d.relate(K::Concentric, {s, b.of});
            following.measure({s, b.of});
        }
    }
    // An arc about a corner touches its neighbours.
    for (std::size_t i = 0; i < n; ++i)
        if (!sides.list[i].of)
            for (const std::size_t j : {(i + n - 1) % n, (i + 1) % n})
                d.relate(K::Tangent, {made.strokes[i], made.strokes[j]});
    if (!sides.closed) {
        made.first = walkEnds(d, made.strokes.front(), sides.list.front()).first;
        made.last = walkEnds(d, made.strokes.back(), sides.list.back()).second;
    }
    return made;
}

/// Closes the two sides of a band at one end.
int drawCap(Drawing& d, CapKind kind, int left, int right, int end, int leftStroke, int rightStroke) {
    const Vec2 middle = d.at(end);
    if (kind == CapKind::Flat) {
        const int line = d.draw(StrokeKind::Line, {d.at(left), d.at(right)});
        d.relate(K::Coincident, {d.findStroke(line)->points[0], left});
        d.relate(K::Coincident, {d.findStroke(line)->points[1], right});
        d.relate(K::OnStroke, {end, line});
        if (isLine(d, leftStroke)) d.relate(K::Perpendicular, {line, leftStroke});
        if (isRound(d, leftStroke)) d.relate(K::OnStroke, {centrePoint(*d.findStroke(leftStroke)), line});
        return line;
    }
    // Ahead of the end: counter-clockwise from the right side to the left one.
    const int arc = d.draw(StrokeKind::Arc, {d.at(right), d.at(left), middle}, {length(d.at(left) - middle)});
    d.relate(K::Coincident, {d.findStroke(arc)->points[0], right});
    d.relate(K::Coincident, {d.findStroke(arc)->points[1], left});
    d.relate(K::Coincident, {d.findStroke(arc)->points[2], end});
    d.relate(K::Tangent, {arc, leftStroke});
    if (!isLine(d, rightStroke)) d.relate(K::Tangent, {arc, rightStroke});
    return arc;
}

std::string millimetres(double v) {
    return sizeInWords(v, kLength, UnitSystem{});
}

bool works(const Drawing& d, const Chain& chain, const OffsetWish& wish, double distance) {
    for (const double sign : {1.0, -1.0}) {
        if (sign < 0 && !wish.bothSides) break;
        const auto sides = sidesOf(d, chain, sign * distance, wish.roundCorners);
        if (!sides || !keepsItsDistance(d, chain, *sides, distance)) return false;
    }
    return true;
}

} // namespace

std::vector<Chain> chainsOf(const Drawing& d, const std::vector<int>& ids) {
    struct End {
        std::size_t stroke;
        bool atEnd;
        Vec2 at;
    };
    std::vector<const Stroke*> strokes;
    for (const int id : ids)
        if (const Stroke* s = d.findStroke(id); s && s->kind != StrokeKind::Point) strokes.push_back(s);
    const auto place = [&](std::size_t i, bool atEnd) { return d.at(endPoints(*strokes[i])[atEnd ? 1 : 0]); };
    /// The one other stroke that ends there; -1 for none or several.
    const auto follower = [&](std::size_t i, bool atEnd, bool& itsEnd) {
        int found = -1, count = 0;
        for (std::size_t j = 0; j < strokes.size(); ++j) {
            if (endPoints(*strokes[j]).empty()) continue;
            for (const bool end : {false, true})
                if ((j != i || end != atEnd) && length(place(j, end) - place(i, atEnd)) < kSame)
                    ++count, found = static_cast<int>(j), itsEnd = end;
        }
        return count == 1 && found != static_cast<int>(i) ? found : -1;
    };
    std::vector<char> used(strokes.size(), 0);
    std::vector<Chain> chains;
    for (std::size_t i = 0; i < strokes.size(); ++i) {
        if (used[i]) continue;
        if (endPoints(*strokes[i]).empty()) {
            chains.push_back({{strokes[i]->id}, {true}, true});
            used[i] = 1;
            continue;
        }
        // Back to where the chain begins, then forward; the first stroke asked for gives the direction.
        std::size_t at = i;
        bool forward = true, itsEnd = false, closed = false;
        for (;;) {
            const int before = follower(at, !forward, itsEnd);
            if (before < 0) break;
            if (static_cast<std::size_t>(before) == i) {
                closed = true, at = i, forward = true;
                break;
            }
            at = static_cast<std::size_t>(before), forward = itsEnd;
        }
        Chain chain;
        chain.closed = closed;
        for (;;) {
            used[at] = 1;
            chain.strokes.push_back(strokes[at]->id);
            chain.forward.push_back(forward);
            const int next = follower(at, forward, itsEnd);
            if (next < 0 || used[static_cast<std::size_t>(next)]) break;
            at = static_cast<std::size_t>(next), forward = !itsEnd;
        }
        chains.push_back(std::move(chain));
    }
    return chains;
}

EditOutcome offsetStrokes(Drawing& d, const std::vector<int>& ids, const OffsetWish& wish) {
    const double distance = wish.bothSides ? std::fabs(wish.distance) : wish.distance;
    if (std::fabs(distance) < kSame) return refused("The distance must be more than 0 mm.");
    const auto chains = chainsOf(d, ids);
    if (chains.empty()) return refused("Choose the strokes first: click them, or drag a box around them.");
    for (const Chain& chain : chains) {
        if (works(d, chain, wish, distance)) continue;
        double low = 0, high = std::fabs(distance);
        const double sign = distance < 0 ? -1 : 1;
        for (int k = 0; k < 24; ++k) {
            const double middle = 0.5 * (low + high);
            (works(d, chain, wish, sign * middle) ? low : high) = middle;
        }
        return refused("At " + millimetres(std::fabs(distance)) + " beside " +
                       nameOf(d, chain.strokes.front()) + " the offset would run into itself." +
                       (low > 0.01 ? " The largest distance that works is " +
                                         millimetres(std::floor(low * 100) / 100) + "."
                                   : std::string()));
    }
    EditOutcome out;
    Following following(d, wish.expression);
    for (const Chain& chain : chains) {
        std::vector<Made> made;
        const Drawing before = d;
        for (const double sign : {1.0, -1.0}) {
            if (sign < 0 && !wish.bothSides) break;
            const auto sides = sidesOf(before, chain, sign * distance, wish.roundCorners);
            made.push_back(drawSides(d, *sides, following));
            out.made.insert(out.made.end(), made.back().strokes.begin(), made.back().strokes.end());
        }
        if (!wish.bothSides || chain.closed || wish.cap == CapKind::Open) continue;
        const auto endOf = [&](std::size_t i, bool last) {
            const auto ends = endPoints(*before.findStroke(chain.strokes[i]));
            return ends[chain.forward[i] == last ? 1 : 0];
        };
        const Made &left = made[0], &right = made[1];
        out.made.push_back(drawCap(d, wish.cap, left.last, right.last, endOf(chain.strokes.size() - 1, true),
                                   left.strokes.back(), right.strokes.back()));
        // At the beginning the sides have changed places.
        out.made.push_back(drawCap(d, wish.cap, right.first, left.first, endOf(0, false),
                                   right.strokes.front(), left.strokes.front()));
    }
    return out;
}

} // namespace gc

#include "core/sketch/edit/corner.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/arcs.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/part_of.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

using K = RelationKind;

/// A stroke seen from a corner: s runs from 0 there to its length, in mm.
class Leg {
  public:
    Leg(const Drawing& d, int stroke, int end) : m_stroke(*d.findStroke(stroke)), m_run(d, m_stroke) {
        m_forward = endPoints(m_stroke)[0] == end;
        m_length = m_run.length();
    }
    double length() const { return m_length; }
    double parameter(double s) const { return m_run.atLength(m_forward ? s : m_length - s); }
    Vec2 at(double s) const { return m_run.at(parameter(s)); }
    /// The direction away from the corner.
    Vec2 along(double s) const { return unit(m_run.slope(parameter(s))) * (m_forward ? 1.0 : -1.0); }

  private:
    Stroke m_stroke;
    StrokeRun m_run;
    bool m_forward = true;
    double m_length = 0;
};

struct Rounding {
    double onFirst = 0, onSecond = 0; ///< mm along the legs
    Vec2 centre;
};

/// The circle that touches both legs: s and t where the points beside them at the radius are one. Newton
/// with differences; the legs bend little over so short a way.
std::optional<Rounding> fitRounding(const Leg& a, const Leg& b, double r) {
    const Vec2 u = a.along(0), v = b.along(0);
    const double bend = cross(u, v);
    if (std::fabs(bend) < 1e-6) return std::nullopt;
    const double side = bend > 0 ? 1 : -1; // b lies to the left of a for +1
    const auto gap = [&](double s, double t) {
        return a.at(s) + leftOf(a.along(s)) * (side * r) - b.at(t) + leftOf(b.along(t)) * (side * r);
    };
    const double half = std::atan2(std::fabs(bend), dot(u, v)) / 2;
    double s = std::min(r / std::tan(half), a.length()), t = std::min(r / std::tan(half), b.length());
    const double h = 1e-6 * std::max(r, 1e-3);
    for (int step = 0; step < 40; ++step) {
        const Vec2 g = gap(s, t);
        if (length(g) < 1e-11 * std::max(1.0, r)) {
            if (s < -kSamePoint || t < -kSamePoint || s > a.length() + kSamePoint ||
                t > b.length() + kSamePoint)
                break;
            return Rounding{s, t, a.at(s) + leftOf(a.along(s)) * (side * r)};
        }
        const double ds = s + h > a.length() ? -h : h, dt = t + h > b.length() ? -h : h;
        const Vec2 gs = (gap(s + ds, t) - g) * (1 / ds), gt = (gap(s, t + dt) - g) * (1 / dt);
        const double det = cross(gs, gt);
        if (std::fabs(det) < 1e-14) break;
        s = std::clamp(s - cross(g, gt) / det, 0.0, a.length());
        t = std::clamp(t - cross(gs, g) / det, 0.0, b.length());
    }
    return std::nullopt;
}

/// Everything but the joint that is said about the corner's points, or about where a line from it ends.
std::vector<int> saidOfCorner(const Drawing& d, const Corner& c) {
    std::vector<int> out;
    for (const Relation& r : d.relations) {
        const auto names = [&](int id) { return std::find(r.of.begin(), r.of.end(), id) != r.of.end(); };
        const bool point = names(c.firstEnd) || names(c.secondEnd);
        const bool joint = r.kind == K::Coincident && names(c.firstEnd) && names(c.secondEnd);
        const bool lengthOf = r.of.size() == 1 && wordsOf(r.kind).sized && isLine(d, r.of[0]) &&
                              (r.of[0] == c.first || r.of[0] == c.second);
        if ((point && !joint) || lengthOf) out.push_back(r.id);
    }
    return out;
}

/// Leaves the corner behind as a helper point that both strokes would run to, and hands it what was said of
/// their ends. Lengths become distances to it.
void keepCorner(Drawing& d, const Corner& c) {
    const std::vector<int> said = saidOfCorner(d, c);
    std::erase_if(d.relations, [&](const Relation& r) {
        return r.kind == K::Coincident && ((r.of[0] == c.firstEnd && r.of[1] == c.secondEnd) ||
                                           (r.of[1] == c.firstEnd && r.of[0] == c.secondEnd));
    });
    if (said.empty()) return;
    const int mark = d.draw(StrokeKind::Point, {c.at});
    d.findStroke(mark)->helper = true;
    const int point = d.findStroke(mark)->points[0];
    for (const int id : said) {
        Relation& r = *d.findRelation(id);
        if (r.of.size() == 1 && d.findStroke(r.of[0])) {
            const bool first = r.of[0] == c.first;
            const auto& ends = d.findStroke(r.of[0])->points;
            const int corner = first ? c.firstEnd : c.secondEnd;
            r.of = ends[0] == corner ? std::vector<int>{point, ends[1]} : std::vector<int>{ends[0], point};
            continue;
        }
        for (int& of : r.of)
            if (of == c.firstEnd || of == c.secondEnd) of = point;
    }
    std::erase_if(d.relations, [](const Relation& r) { // joints of the two ends with a third are one now
        return r.kind == K::Coincident && r.of[0] == r.of[1];
    });
    d.relate(K::OnStroke, {point, c.first});
    d.relate(K::OnStroke, {point, c.second});
}

/// A leg that follows its own guide leaves the corner where it is: the guide's end. What is said of the
/// other leg's end is said of that.
void cornerOnGuide(Drawing& d, const Corner& c, bool firstIsGuide) {
    const int corner = firstIsGuide ? c.firstEnd : c.secondEnd, end = firstIsGuide ? c.secondEnd : c.firstEnd,
              leg = firstIsGuide ? c.second : c.first;
    std::erase_if(d.relations, [&](const Relation& r) {
        return r.kind == K::Coincident &&
               ((r.of[0] == corner && r.of[1] == end) || (r.of[1] == corner && r.of[0] == end));
    });
    for (Relation& r : d.relations) {
        if (r.of.size() == 1 && r.of[0] == leg && wordsOf(r.kind).sized && isLine(d, leg)) {
            const auto& ends = d.findStroke(leg)->points;
            r.of = ends[0] == end ? std::vector<int>{corner, ends[1]} : std::vector<int>{ends[0], corner};
            continue;
        }
        std::replace(r.of.begin(), r.of.end(), end, corner);
    }
    std::erase_if(d.relations,
                  [](const Relation& r) { return r.kind == K::Coincident && r.of[0] == r.of[1]; });
    d.relate(K::OnStroke, {corner, leg});
}

/// Makes the corner ready to be cut off: what is said of it stays.
void keepCorner(Drawing& d, const Corner& c, bool firstGuided, bool secondGuided) {
    if (!firstGuided && !secondGuided) return keepCorner(d, c);
    if (firstGuided != secondGuided) cornerOnGuide(d, c, firstGuided);
}

/// As before, on the follower when the stroke follows its own guide now.
int endOf(const Drawing& d, int stroke, int end, Vec2 corner) {
    const auto ends = endPoints(*d.findStroke(stroke));
    if (std::find(ends.begin(), ends.end(), end) != ends.end()) return end;
    return length(d.at(ends[0]) - corner) < length(d.at(ends[1]) - corner) ? ends[0] : ends[1];
}

int endNear(const Drawing& d, int stroke, Vec2 place) {
    const auto ends = endPoints(*d.findStroke(stroke));
    return length(d.at(ends[0]) - place) < length(d.at(ends[1]) - place) ? ends[0] : ends[1];
}

/// Takes both strokes back from the corner to these places on them.
void cutBack(Drawing& d, const Corner& c, Vec2 onFirst, Vec2 onSecond) {
    const auto guided = [&](int stroke) {
        const StrokeKind was = d.findStroke(stroke)->kind;
        followOwnGuide(d, stroke);
        return d.findStroke(stroke)->kind != was;
    };
    const bool first = guided(c.first), second = guided(c.second);
    const Drawing whole = d;
    keepCorner(d, c, first, second);
    for (const auto& [stroke, end, place] :
         {std::tuple{c.first, c.firstEnd, onFirst}, std::tuple{c.second, c.secondEnd, onSecond}}) {
        const Stroke& s = *whole.findStroke(stroke);
        const StrokeRun run(whole, s);
        const double u = run.nearest(place);
        const bool fromStart = endPoints(s)[0] == endOf(whole, stroke, end, c.at);
        reshape(d, stroke, fromStart ? partOf(whole, s, u, run.end()) : partOf(whole, s, 0, u));
    }
}

/// The largest size for which something works, between none and the longest thinkable.
template <class Works>
double largest(double longest, const Works& works) {
    double low = 0, high = longest;
    for (int k = 0; k < 40; ++k) {
        const double middle = 0.5 * (low + high);
        (works(middle) ? low : high) = middle;
    }
    return low;
}

} // namespace

std::optional<Corner> cornerAt(const Drawing& d, Vec2 place, double reach) {
    struct End {
        int stroke, point;
        Vec2 at;
    };
    std::vector<End> ends;
    double nearest = reach;
    for (const Stroke& s : d.strokes)
        if (!s.helper)
            for (const int p : endPoints(s)) {
                ends.push_back({s.id, p, d.at(p)});
                nearest = std::min(nearest, length(d.at(p) - place));
            }
    const auto centre = std::find_if(ends.begin(), ends.end(),
                                     [&](const End& e) { return length(e.at - place) <= nearest + 1e-12; });
    if (centre == ends.end()) return std::nullopt;
    const Vec2 at = centre->at;
    std::erase_if(ends, [&](const End& e) { return length(e.at - at) > kSamePoint; });
    if (ends.size() != 2 || ends[0].stroke == ends[1].stroke) return std::nullopt;
    return Corner{ends[0].stroke, ends[1].stroke, ends[0].point, ends[1].point, at};
}

EditOutcome roundCorner(Drawing& d, const Corner& c, double radius, const std::string& expression) {
    if (!(radius > 0)) return refused("The radius must be more than 0 mm.");
    const Leg a(d, c.first, c.firstEnd), b(d, c.second, c.secondEnd);
    if (std::fabs(cross(a.along(0), b.along(0))) < 1e-6)
        return refused("The two strokes run on into each other here: there is no corner to round.");
    const auto fit = fitRounding(a, b, radius);
    if (!fit || fit->onFirst > a.length() - kSamePoint || fit->onSecond > b.length() - kSamePoint) {
        const double most = largest(radius, [&](double r) {
            const auto f = fitRounding(a, b, r);
            return f && f->onFirst < a.length() - kSamePoint && f->onSecond < b.length() - kSamePoint;
        });
        return refused("A radius of " + formatAmount(radius, "mm", 2) + " does not fit between " +
                       nameOf(d, c.first) + " and " + nameOf(d, c.second) +
                       (most > 1e-3 ? ". The largest that does is " +
                                          formatAmount(std::floor(most * 100) / 100, "mm", 2) + "."
                                    : std::string(".")));
    }
    const Drawing before = d;
    const Vec2 p = a.at(fit->onFirst), q = b.at(fit->onSecond);
    cutBack(d, c, p, q);
    const bool left = cross(p - fit->centre, q - fit->centre) > 0;
    const int arc = d.draw(StrokeKind::Arc, {left ? p : q, left ? q : p, fit->centre}, {radius});
    for (const auto& [stroke, place] : {std::pair{c.first, p}, {c.second, q}}) {
        d.relate(K::Coincident, {endNear(d, arc, place), endNear(d, stroke, place)});
        d.relate(K::Tangent, {arc, stroke});
    }
    if (!expression.empty()) d.relate(K::Radius, {arc}, expression);
    EditOutcome out;
    out.made = {arc};
    out.lost = dropBroken(before, d);
    return out;
}

EditOutcome chamferCorner(Drawing& d, const Corner& c, double onFirst, double onSecond,
                          const std::string& firstExpression, const std::string& secondExpression) {
    if (!(onFirst > 0) || !(onSecond > 0))
        return refused("Both lengths of a chamfer must be more than 0 mm.");
    const Leg a(d, c.first, c.firstEnd), b(d, c.second, c.secondEnd);
    for (const auto& [leg, wanted, id] :
         {std::tuple{&a, onFirst, c.first}, std::tuple{&b, onSecond, c.second}})
        if (wanted > leg->length() - kSamePoint)
            return refused("A chamfer of " + formatAmount(wanted, "mm", 2) + " is as long as all of " +
                           nameOf(d, id) + ". Take less than " + formatAmount(leg->length(), "mm", 2) + ".");
    const Drawing before = d;
    const Vec2 p = a.at(onFirst), q = b.at(onSecond);
    cutBack(d, c, p, q);
    const int cut = d.draw(StrokeKind::Line, {p, q});
    const int ends[] = {endNear(d, c.first, p), endNear(d, c.second, q)};
    for (std::size_t i = 0; i < 2; ++i) d.relate(K::Coincident, {d.findStroke(cut)->points[i], ends[i]});
    if (!firstExpression.empty()) {
        // Both lengths are measured from where the strokes would meet.
        int point = 0;
        for (const Stroke& s : d.strokes)
            if (s.kind == StrokeKind::Point && s.helper && length(d.at(s.points[0]) - c.at) < kSamePoint)
                point = s.points[0];
        if (!point) {
            const int mark = d.draw(StrokeKind::Point, {c.at});
            d.findStroke(mark)->helper = true;
            point = d.findStroke(mark)->points[0];
            d.relate(K::OnStroke, {point, c.first});
            d.relate(K::OnStroke, {point, c.second});
        }
        d.relate(K::Distance, {point, ends[0]}, firstExpression);
        if (!secondExpression.empty()) d.relate(K::Distance, {point, ends[1]}, secondExpression);
    }
    EditOutcome out;
    out.made = {cut};
    out.lost = dropBroken(before, d);
    return out;
}

std::vector<int> drawRoundedRectangle(Drawing& d, Vec2 corner, Vec2 opposite, double radius) {
    std::vector<int> out = drawRectangle(d, corner, opposite);
    if (out.empty()) return out;
    const Vec2 wide = opposite - corner;
    const double most = 0.49 * std::min(std::fabs(wide.x), std::fabs(wide.y));
    int first = 0;
    for (const Vec2 at : {corner, Vec2{opposite.x, corner.y}, opposite, Vec2{corner.x, opposite.y}}) {
        const auto c = cornerAt(d, at, kSamePoint);
        if (!c) continue;
        const EditOutcome done = roundCorner(d, *c, std::clamp(radius, 0.02 * most, most), {});
        if (!done.done()) continue;
        if (first) d.relate(K::Equal, {first, done.made[0]});
        if (!first) first = done.made[0];
        out.push_back(done.made[0]);
    }
    return out;
}

} // namespace gc

#include "core/steps/vent/openings.hpp"

#include "core/sketch/plain_loops.hpp"
#include "core/units/amount.hpp"

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kFits = 1e-7; // mm: what touches the rim is not over it

/// Asks an area how far from its border a place is.
class Field {
  public:
    Field(const Region& area, const VentWish& wish) : m_area(area), m_wish(wish) {
        addLoop(area.outer);
        for (const Loop& hole : area.holes) addLoop(hole);
        // The box of its border, in the frame of the rows.
        m_low = {1e300, 1e300}, m_high = {-1e300, -1e300};
        for (const Curve2* c : m_curves)
            for (const Vec2 p : c->sampled(0.01)) {
                const Vec2 q = turnedBy(p, -wish.turn);
                m_low = {std::min(m_low.x, q.x), std::min(m_low.y, q.y)};
                m_high = {std::max(m_high.x, q.x), std::max(m_high.y, q.y)};
            }
    }

    Vec2 low() const { return m_low; }
    Vec2 high() const { return m_high; }
    Vec2 middle() const { return (m_low + m_high) * 0.5; }
    /// From the frame of the rows to the drawing.
    Vec2 drawn(Vec2 inRows) const { return turnedBy(inRows, m_wish.turn); }

    /// How much room a disc of an opening has about a place of the rows; negative: it does not fit.
    double room(Vec2 inRows) const {
        const Vec2 p = drawn(inRows);
        double nearest = 1e300;
        for (const Curve2* c : m_curves) nearest = std::min(nearest, length(c->at(c->nearest(p)) - p));
        if (!m_area.contains(p)) nearest = -nearest;
        return nearest - m_wish.width / 2 - m_wish.rim;
    }
    bool fits(Vec2 inRows) const { return room(inRows) > -kFits; }

  private:
    void addLoop(const Loop& loop) {
        for (const Side& s : loop.sides) m_curves.push_back(&s.curve);
    }
    const Region& m_area;
    const VentWish& m_wish;
    std::vector<const Curve2*> m_curves;
    Vec2 m_low, m_high;
};

/// Places from -1 to 1 times half of what there is room for, a pitch apart, with the middle between the
/// middle two or in the middle one.
std::vector<double> spread(double low, double high, double wide, double pitch) {
    const double room = high - low - wide;
    if (room < -kFits) return {};
    const int n = static_cast<int>(std::floor(room / pitch + 1e-9)) + 1;
    std::vector<double> out;
    for (int i = 0; i < n; ++i) out.push_back((low + high) / 2 + (i - (n - 1) / 2.0) * pitch);
    return out;
}

/// 0 for the middle one, then outward, one side after the other.
int fromMiddle(std::size_t i, std::size_t count) {
    const int twice = 2 * static_cast<int>(i) - (static_cast<int>(count) - 1);
    return std::abs(twice) * 2 + (twice < 0 ? 1 : 0);
}

/// Where along a row discs fit, as intervals of x.
std::vector<std::pair<double, double>> fittingAlong(const Field& field, double y, double width) {
    // A disc that has some room has it over that far: no look is nearer than that.
    std::vector<std::pair<double, double>> out;
    const double least = width / 8;
    bool within = false;
    double from = 0, before = field.low().x;
    const auto border = [&](double a, double b) { // a fits, b does not
        for (int k = 0; k < 50; ++k) {
            const double m = (a + b) / 2;
            (field.fits({m, y}) ? a : b) = m;
        }
        return a;
    };
    for (double x = field.low().x; x <= field.high().x + least;) {
        const double room = field.room({x, y});
        const bool fits = room > -kFits;
        if (fits && !within) from = x == before ? x : border(x, before);
        if (!fits && within) out.emplace_back(from, border(before, x));
        within = fits;
        before = x;
        x += std::max(least, std::fabs(room) * 0.999);
    }
    if (within) out.emplace_back(from, before);
    return out;
}

void addSlots(const Field& field, const VentWish& wish, std::vector<Opening>& out) {
    const auto rows =
        spread(field.low().y + wish.rim, field.high().y - wish.rim, wish.width, wish.width + wish.bar);
    for (std::size_t r = 0; r < rows.size(); ++r) {
        int piece = 0;
        for (const auto& [from, to] : fittingAlong(field, rows[r], wish.width)) {
            if (to - from < wish.width / 2) continue; // hardly a slot
            out.push_back({field.drawn({from, rows[r]}), field.drawn({to, rows[r]}),
                           fromMiddle(r, rows.size()) * 100 + piece++});
        }
    }
}

void addRows(const Field& field, const VentWish& wish, std::vector<Opening>& out) {
    const double pitch = wish.width + wish.bar;
    const auto rows = spread(field.low().y + wish.rim, field.high().y - wish.rim, wish.width,
                             pitch * std::sqrt(3.0) / 2); // each in the gap between two of the row before
    for (std::size_t r = 0; r < rows.size(); ++r) {
        auto along = spread(field.low().x, field.high().x, 0, pitch);
        const bool between = (static_cast<int>(r) - static_cast<int>(rows.size()) / 2) % 2 != 0;
        for (double& x : along) x += between ? pitch / 2 : 0;
        for (std::size_t k = 0; k < along.size(); ++k)
            if (const Vec2 at{along[k], rows[r]}; field.fits(at))
                out.push_back({field.drawn(at), field.drawn(at),
                               fromMiddle(r, rows.size()) * 1000 + fromMiddle(k, along.size())});
    }
}

void addRings(const Field& field, const VentWish& wish, std::vector<Opening>& out) {
    const double pitch = wish.width + wish.bar;
    const Vec2 middle = field.middle();
    if (field.fits(middle)) out.push_back({field.drawn(middle), field.drawn(middle), 0});
    const double far = length(field.high() - field.low()) / 2;
    int ring = 1;
    for (double radius = pitch; radius < far; radius += pitch, ++ring) {
        // The chord from one to the next is a pitch at least.
        const int n = static_cast<int>(std::floor(kPi / std::asin(pitch / 2 / radius) + 1e-9));
        for (int k = 0; k < n; ++k)
            if (const Vec2 at = middle + Vec2{std::cos(2 * kPi * k / n), std::sin(2 * kPi * k / n)} * radius;
                field.fits(at))
                out.push_back({field.drawn(at), field.drawn(at), ring * 10000 + k});
    }
}

} // namespace

Result<std::vector<Opening>> openingsIn(const Region& area, const VentWish& wish) {
    VentWish own = wish;
    if (own.shape == VentWish::Shape::Rings) own.turn = 0;
    const Field field(area, own);
    const Vec2 size = field.high() - field.low();
    const double pitch = own.width + own.bar;
    const double about =
        own.shape == VentWish::Shape::Slots ? size.y / pitch : size.x * size.y / (pitch * pitch);
    if (about > 2.0 * static_cast<double>(kMostOpenings))
        return errorOf("vent.many",
                       phrase("That would be about %1 openings. Make them larger, or the area smaller.",
                              formatNumber(about, 0)));
    std::vector<Opening> out;
    if (own.shape == VentWish::Shape::Slots) addSlots(field, own, out);
    if (own.shape == VentWish::Shape::Rows) addRows(field, own, out);
    if (own.shape == VentWish::Shape::Rings) addRings(field, own, out);
    if (out.empty())
        return errorOf("vent.none",
                       phrase("Not one opening of %1 fits within the area with %2 left along its "
                              "border. Make them narrower, or leave less.",
                              formatAmount(own.width, "mm"), formatAmount(own.rim, "mm")));
    if (out.size() > kMostOpenings)
        return errorOf("vent.many",
                       phrase("That would be %1 openings. Make them larger, or the area smaller.",
                              std::to_string(out.size())));
    return out;
}

Region areaOf(const Opening& o, double width) {
    const double r = width / 2;
    if (o.round()) return discArea(o.from, r, 1);
    Region out;
    const Vec2 along = unit(o.to - o.from), across{-along.y * r, along.x * r};
    const double angle = std::atan2(along.y, along.x);
    out.outer.sides = {{1, lineCurve(o.from - across, o.to - across), false},
                       {2, roundCurve(o.to, r, angle - kPi / 2, kPi), false},
                       {3, lineCurve(o.to + across, o.from + across), false},
                       {4, roundCurve(o.from, r, angle + kPi / 2, kPi), false}};
    out.outer.area = kPi * r * r + 2 * r * length(o.to - o.from);
    return out;
}

} // namespace gc

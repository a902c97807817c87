#include "core/steps/shell/fold_round.hpp"

#include "core/base/tolerance.hpp"

#include <Geom2dAPI_Interpolate.hxx>
#include <TColStd_HArray1OfReal.hxx>
#include <TColgp_HArray1OfPnt2d.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The excess below which the wall does not fold over, for certain.
constexpr double kCertain = -0.02;

double between(const gp_Pnt2d& a, const gp_Pnt2d& b, const gp_Pnt2d& p) {
    const gp_Vec2d ab(a, b);
    return ab.SquareMagnitude() > 0 ? gp_Vec2d(a, p) * ab / ab.SquareMagnitude() : 0;
}

} // namespace

FoldRound::FoldRound(const FoldSheets& sheets, FoldCrease crease)
    : m_sheets(sheets), m_crease(std::move(crease)) {
    auto& places = m_crease.places;
    // w and s turn as u and v do.
    const std::size_t middle = places.size() / 2;
    const gp_Vec2d on(places[middle - 1].uv[0], places[middle].uv[0]),
        over(places[middle].uv[0], places[middle].uv[1]);
    if (on.Crossed(over) < 0)
        for (CreasePlace& p : places) std::swap(p.uv[0], p.uv[1]);
    m_w.push_back(0);
    for (std::size_t i = 0; i + 1 < places.size(); ++i) {
        double far = places[i].at.Distance(places[i + 1].at);
        for (const int line : {0, 1})
            far = std::max(far, m_sheets.wall.surface->Value(places[i].uv[line].X(), places[i].uv[line].Y())
                                    .Distance(m_sheets.wall.surface->Value(places[i + 1].uv[line].X(),
                                                                           places[i + 1].uv[line].Y())));
        m_w.push_back(m_w.back() + std::max(far, kKernelPoint));
    }
    Handle(TColStd_HArray1OfReal) at = new TColStd_HArray1OfReal(1, static_cast<int>(m_w.size()));
    for (std::size_t i = 0; i < m_w.size(); ++i) at->SetValue(static_cast<int>(i) + 1, m_w[i]);
    for (const int line : {0, 1}) {
        Handle(TColgp_HArray1OfPnt2d) through = new TColgp_HArray1OfPnt2d(1, at->Length());
        for (std::size_t i = 0; i < m_w.size(); ++i)
            through->SetValue(static_cast<int>(i) + 1, places[i].uv[line]);
        Geom2dAPI_Interpolate curve(through, at, false, kNoDirection);
        curve.Perform();
        m_lines[line] = curve.Curve();
    }
    const auto folds = [](const CreasePlace& p) { return p.excess > kCertain; };
    if (m_crease.within[0])
        m_calm[0] =
            m_w[static_cast<std::size_t>(std::find_if(places.begin(), places.end(), folds) - places.begin())];
    if (m_crease.within[1])
        m_calm[1] = m_w[static_cast<std::size_t>(std::find_if(places.rbegin(), places.rend(), folds).base() -
                                                 places.begin()) -
                        1];
}

std::optional<CreasePlace> FoldRound::creaseAt(double w) const {
    if (w <= 0) return m_crease.places.front();
    if (w >= m_w.back()) return m_crease.places.back();
    gp_Pnt2d uv[2];
    gp_Vec2d ways[2];
    for (const int line : {0, 1}) m_lines[line]->D1(w, uv[line], ways[line]);
    if (const auto place = creaseNear(m_sheets, uv, ways)) return place;
    // A line that turns sharply swings beside what it is drawn through.
    const auto next = static_cast<std::size_t>(std::upper_bound(m_w.begin(), m_w.end(), w) - m_w.begin());
    const CreasePlace &a = m_crease.places[next - 1], &b = m_crease.places[next];
    const double share = (w - m_w[next - 1]) / (m_w[next] - m_w[next - 1]);
    for (const int line : {0, 1}) {
        uv[line] = gp_Pnt2d(a.uv[line].XY() * (1 - share) + b.uv[line].XY() * share);
        ways[line] = gp_Vec2d(a.uv[line], b.uv[line]);
    }
    return creaseNear(m_sheets, uv, ways);
}

std::optional<gp_Pnt2d> FoldRound::lineAt(int line, double w) const {
    const auto place = creaseAt(w);
    return place ? std::optional(place->uv[line]) : std::nullopt;
}

double FoldRound::wallShare(double w) const {
    const auto smooth = [](double t) { return t * t * t * (10 - 15 * t + 6 * t * t); };
    if (m_calm[0] && w < *m_calm[0]) return smooth(1 - w / *m_calm[0]);
    if (m_calm[1] && w > *m_calm[1]) return smooth((w - *m_calm[1]) / (m_w.back() - *m_calm[1]));
    return 0;
}

std::optional<FoldRound::Row> FoldRound::makeRow(double w) const {
    constexpr int kParts = 400;
    const auto place = creaseAt(w);
    if (!place) return std::nullopt;
    Row out{*place, wallShare(w)};
    for (const int line : {0, 1}) {
        const auto p = m_sheets.wall.moved(place->uv[line]);
        if (!p) return std::nullopt;
        out.to[line] = gp_Vec(place->at, p->at);
    }
    out.angle = out.to[0].Angle(out.to[1]);
    if (out.wall == 0) return out.angle > 1e-6 ? std::optional(out) : std::nullopt;
    gp_Pnt last;
    for (int k = 0; k <= kParts; ++k) {
        const double t = double(k) / kParts;
        const auto p = m_sheets.wall.moved(gp_Pnt2d(place->uv[0].XY() * (1 - t) + place->uv[1].XY() * t));
        if (!p) return std::nullopt;
        out.length.push_back(k == 0 ? 0 : out.length.back() + last.Distance(p->at));
        last = p->at;
    }
    return out;
}

/// What the wall is moved to between the two lines, at even lengths.
std::optional<gp_Pnt> FoldRound::onWall(const Row& row, double s) const {
    const double length = s * row.length.back();
    const auto next = std::lower_bound(row.length.begin() + 1, row.length.end() - 1, length);
    const double share = (length - next[-1]) / std::max(*next - next[-1], kNoDirection);
    const double t = (static_cast<double>(next - row.length.begin()) - 1 + share) /
                     static_cast<double>(row.length.size() - 1);
    const auto p = m_sheets.wall.moved(gp_Pnt2d(row.place.uv[0].XY() * (1 - t) + row.place.uv[1].XY() * t));
    return p ? std::optional(p->at) : std::nullopt;
}

std::optional<gp_Pnt> FoldRound::at(const Row& row, double s) const {
    gp_XYZ out;
    if (row.wall < 1) {
        const double a = row.angle;
        const gp_Vec to = (row.to[0] * std::sin((1 - s) * a) + row.to[1] * std::sin(s * a)) / std::sin(a);
        out += (row.place.at.XYZ() + to.XYZ()) * (1 - row.wall);
    }
    if (row.wall > 0) {
        const auto beside = onWall(row, s);
        if (!beside) return std::nullopt;
        out += beside->XYZ() * row.wall;
    }
    return gp_Pnt(out);
}

const std::optional<FoldRound::Row>& FoldRound::rowAt(double w) {
    const auto known = m_rows.find(w);
    return known != m_rows.end() ? known->second : m_rows[w] = makeRow(w);
}

std::vector<gp_Pnt> FoldRound::places(double w, const std::vector<double>& s) {
    std::vector<gp_Pnt> out(s.size());
    if (m_lost) return out;
    const auto& row = rowAt(w);
    for (std::size_t k = 0; k < s.size() && !m_lost; ++k) {
        const auto p = row ? at(*row, s[k]) : std::nullopt;
        m_lost = !p;
        if (p) out[k] = *p;
    }
    return out;
}

/// As its two lines and what lies between them need it. Where it goes over into the wall, as its lines do and
/// in even pieces: the wall is less smooth along lines of its own, and knots that crowd there would make
/// waves.
std::optional<GridDirection> FoldRound::along() {
    constexpr int kLooks = 9, kPieces = 12, kMostPoles = 300;
    std::vector<double> looks, zones{0};
    for (int k = 0; k < kLooks; ++k) looks.push_back(double(k) / (kLooks - 1));
    for (const auto& calm : m_calm)
        if (calm) zones.push_back(*calm);
    zones.push_back(last());
    std::vector<double> breaks{0};
    std::vector<int> smooth{0};
    for (std::size_t z = 0; z + 1 < zones.size(); ++z) {
        const double from = zones[z], to = zones[z + 1];
        const bool isCalm = wallShare(0.5 * (from + to)) > 0;
        const auto w = directionFor(
            {from, to},
            [&](double at) {
                return places(at, isCalm ? std::vector{0.0, 1.0} : looks);
            },
            {1e-4, 1e-3}, kMostPoles);
        if (!w || m_lost) return std::nullopt;
        const auto& knots = w->fit->knots();
        for (int i = 2; i <= knots.Length(); ++i) {
            const double whole = knots(i) - knots(i - 1);
            const int parts = isCalm ? static_cast<int>(std::ceil(kPieces * whole / (to - from) - 1e-9)) : 1;
            for (int k = 1; k <= parts; ++k) {
                breaks.push_back(knots(i - 1) + whole * k / parts);
                smooth.push_back(FitDirection::kDegree - 1);
            }
        }
        smooth.back() = 1;
    }
    return GridDirection{0, last(), FitDirection(breaks, smooth)};
}

bool FoldRound::fit() {
    const auto w = along();
    if (!w) return false;
    // Across: an arc; but where it goes over into the wall, whose bend may jump, in many even pieces. Knots
    // that crowd at the jump would make waves beside it.
    const int pieces = m_calm[0] || m_calm[1] ? 96 : 4;
    std::vector<double> knots;
    for (int k = 0; k <= pieces; ++k) knots.push_back(double(k) / pieces);
    const GridDirection s{0, 1,
                          FitDirection(knots, std::vector<int>(knots.size(), FitDirection::kDegree - 1))};
    std::vector<std::vector<gp_Pnt>> grid;
    for (const double at : w->points()) grid.push_back(places(at, s.points()));
    if (m_lost) return false;
    m_surface = surfaceThrough(*w, s, grid);
    for (const int end : {0, 1})
        if (m_calm[end]) m_ends[end] = rowAt(end == 0 ? 0 : last());
    m_rows.clear();
    return !m_surface.IsNull();
}

gp_Pnt2d FoldRound::near(const gp_Pnt2d& uv) const {
    // The two lines run side by side: the place of the crease whose line over lies nearest.
    double best = 1e300;
    gp_Pnt2d out;
    for (std::size_t i = 0; i < m_w.size(); ++i) {
        const CreasePlace& p = m_crease.places[i];
        const double s = std::clamp(between(p.uv[0], p.uv[1], uv), 0.0, 1.0);
        const double off = uv.SquareDistance(gp_Pnt2d(p.uv[0].XY() * (1 - s) + p.uv[1].XY() * s));
        if (off >= best) continue;
        best = off;
        out = gp_Pnt2d(m_w[i], s);
    }
    return out;
}

std::optional<gp_Pnt2d> FoldRound::beside(const gp_Pnt2d& uv) const {
    constexpr int kSteps = 40;
    constexpr double kOnLine = 1e-4, kMoved = 1e-9; // of the way across; mm
    gp_Pnt2d out = near(uv);
    for (const int end : {0, 1}) {
        const CreasePlace& p = end == 0 ? m_crease.places.front() : m_crease.places.back();
        const double t = between(p.uv[0], p.uv[1], uv);
        const gp_Pnt2d on(p.uv[0].XY() * (1 - t) + p.uv[1].XY() * t);
        if (!m_crease.within[end] || t < kOnLine || t > 1 - kOnLine ||
            on.Distance(uv) > kOnLine * p.uv[0].Distance(p.uv[1]))
            continue;
        const double w = end == 0 ? 0 : last();
        const auto row = m_ends[end] ? m_ends[end] : makeRow(w);
        if (!row || row->length.empty()) return std::nullopt;
        const double at = t * static_cast<double>(row->length.size() - 1);
        const auto before = std::min(static_cast<std::size_t>(at), row->length.size() - 2);
        const double share = at - static_cast<double>(before);
        return gp_Pnt2d(w, (row->length[before] * (1 - share) + row->length[before + 1] * share) /
                               row->length.back());
    }
    const int line = out.Y() < 0.5 ? 0 : 1;
    for (int step = 0; step < kSteps; ++step) {
        gp_Pnt2d on;
        gp_Vec2d way;
        m_lines[line]->D1(out.X(), on, way);
        if (const auto exact = lineAt(line, out.X())) on = *exact;
        if (way.SquareMagnitude() < kNoDirection) return std::nullopt;
        const double moves = gp_Vec2d(on, uv) * way / way.SquareMagnitude();
        out.SetX(std::clamp(out.X() + moves, 0.0, last()));
        if (std::fabs(moves) < kMoved) break;
    }
    return gp_Pnt2d(out.X(), line);
}

bool FoldRound::covers(const gp_Pnt2d& uv) const {
    const gp_Pnt2d at = near(uv);
    constexpr double kEnd = 1e-6;
    return at.X() > 0 && at.X() < last() && at.Y() > kEnd && at.Y() < 1 - kEnd;
}

} // namespace gc

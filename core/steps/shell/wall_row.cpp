#include "core/steps/shell/wall_row.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/breaks_of.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"

#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The side of a patch along which an edge lies; nothing where it does not.
std::optional<std::size_t> sideOf(const TopoDS_Edge& edge, const WallPatch& patch) {
    constexpr double kOff = 1e-6; // of the parameters
    double from = 0, to = 0;
    const Handle(Geom2d_Curve) line = BRep_Tool::CurveOnSurface(edge, patch.face, from, to);
    if (line.IsNull()) return std::nullopt;
    for (std::size_t side = 0; side < 4; ++side) {
        const std::size_t axis = side / 2;
        const double size = patch.high[axis] - patch.low[axis],
                     other = patch.high[1 - axis] - patch.low[1 - axis];
        const double at = side % 2 == 0 ? patch.low[axis] : patch.high[axis];
        const auto far = [&](double t) {
            return std::fabs(line->Value(from + (to - from) * t).Coord(static_cast<int>(axis) + 1) - at);
        };
        const auto ends = line->Value(from).XY() - line->Value(to).XY();
        const bool whole =
            std::fabs(std::fabs(ends.Coord(2 - static_cast<int>(axis))) - other) < kOff * other;
        if (whole && far(0) < kOff * size && far(0.3) < kOff * size && far(0.7) < kOff * size &&
            far(1) < kOff * size)
            return side;
    }
    return std::nullopt;
}

/// How u goes across a piece, from its first parameter 0 to 1, so that both its ends are passed at a given
/// pace (cubic, Hermite's form).
double atPace(double t, double first, double last) {
    const double r = 1 - t;
    return t * r * r * first + t * t * (3 - 2 * t) - t * t * r * last;
}

} // namespace

std::optional<WallPatch> wallPatch(const TopoDS_Face& face, int number) {
    WallPatch out;
    out.number = number;
    out.face = face;
    out.surface = BRep_Tool::Surface(face);
    if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(out.surface))
        out.surface = trimmed->BasisSurface();
    if (Handle(Geom_BSplineSurface)::DownCast(out.surface).IsNull()) return std::nullopt;
    BRepTools::UVBounds(face, out.low[0], out.high[0], out.low[1], out.high[1]);
    const TopoDS_Face forward = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
    int edges = 0, wires = 0;
    for (TopoDS_Iterator w(forward); w.More(); w.Next(), ++wires)
        for (TopoDS_Iterator e(w.Value()); e.More(); e.Next(), ++edges) {
            const TopoDS_Edge edge = TopoDS::Edge(e.Value());
            if (BRep_Tool::Degenerated(edge) || BRep_Tool::IsClosed(edge, face)) return std::nullopt;
            const auto side = sideOf(edge, out);
            if (!side || !out.sides[*side].IsNull()) return std::nullopt;
            out.sides[*side] = edge;
        }
    return wires == 1 && edges == 4 ? std::optional(std::move(out)) : std::nullopt;
}

gp_Pnt2d RowPiece::uv(double x, double y) const {
    const std::size_t axis = in / 2;
    const auto at = [&](std::size_t a, double t, bool against) {
        return patch->low[a] + (against ? 1 - t : t) * (patch->high[a] - patch->low[a]);
    };
    const double first = at(axis, x, in % 2 == 1), second = at(1 - axis, y, flipped);
    return axis == 0 ? gp_Pnt2d(first, second) : gp_Pnt2d(second, first);
}

gp_Pnt2d RowPiece::xy(const gp_Pnt2d& uv) const {
    const std::size_t axis = in / 2;
    const auto at = [&](std::size_t a, bool against) {
        const double t =
            (uv.Coord(static_cast<int>(a) + 1) - patch->low[a]) / (patch->high[a] - patch->low[a]);
        return against ? 1 - t : t;
    };
    return {at(axis, in % 2 == 1), at(1 - axis, flipped)};
}

gp_Pnt RowPiece::at(double x, double y) const {
    const gp_Pnt2d p = uv(x, y);
    return patch->surface->Value(p.X(), p.Y());
}

gp_Vec RowPiece::across(double x, double y) const {
    const gp_Pnt2d p = uv(x, y);
    const std::size_t axis = in / 2;
    gp_Pnt at;
    gp_Vec ways[2];
    patch->surface->D1(p.X(), p.Y(), at, ways[0], ways[1]);
    return ways[axis] * ((patch->high[axis] - patch->low[axis]) * (in % 2 == 1 ? -1 : 1));
}

bool runOnSmoothly(const RowPiece& piece, const RowPiece& next) {
    constexpr int kLooks = 24;
    constexpr double kOff = 1e-4, kKink = 1e-3; // mm, rad: of faces that were fitted each by itself
    const auto outward = [](const RowPiece& p, const gp_Pnt2d& xy) {
        return FaceSurface(p.patch->face).outward(placeOf(*p.patch->surface, p.uv(xy.X(), xy.Y())));
    };
    for (int k = 0; k <= kLooks; ++k) {
        const double y = double(k) / kLooks;
        if (piece.at(1, y).Distance(next.at(0, y)) > kOff) return false;
        const auto a = outward(piece, {1, y}), b = outward(next, {0, y});
        if (!a || !b || a->Crossed(*b).Magnitude() > kKink || *a * *b < 0) return false;
    }
    return true;
}

/// mm for each of u that both pieces beside a joint are given there.
double WallRow::pace(std::size_t joint, double y) const {
    const std::size_t n = pieces.size();
    const auto of = [&](std::size_t i, bool end) {
        const RowPiece& p = pieces[i];
        return p.across(end ? p.to : p.from, y).Magnitude() * (p.to - p.from) / (ends[i + 1] - ends[i]);
    };
    if (joint > 0 && joint < n) return std::sqrt(of(joint - 1, true) * of(joint, false));
    if (ring) return std::sqrt(of(n - 1, true) * of(0, false));
    return joint == 0 ? of(0, false) : of(n - 1, true);
}

gp_Pnt WallRow::place(double u, double y) const {
    const auto next = std::upper_bound(ends.begin() + 1, ends.end() - 1, u);
    const auto i = static_cast<std::size_t>(next - ends.begin()) - 1;
    const RowPiece& p = pieces[i];
    const double size = ends[i + 1] - ends[i], t = (u - ends[i]) / size;
    const auto paceAt = [&](std::size_t joint, double x) {
        return std::clamp(pace(joint, y) * size / (p.across(x, y).Magnitude() * (p.to - p.from)), 0.1, 2.9);
    };
    return p.at(p.from + (p.to - p.from) * atPace(t, paceAt(i, p.from), paceAt(i + 1, p.to)), y);
}

bool WallRow::fit() {
    constexpr int kLooks = 8, kMostPoles = 400;
    constexpr double kOff = 1e-4; // mm
    ends = {0};
    std::vector<double> us, ys, along{0, 1};
    for (const RowPiece& p : pieces) {
        double size = 0;
        for (int k = 0; k < kLooks; ++k) {
            const double y = (k + 0.5) / kLooks;
            for (int j = 0; j < kLooks; ++j)
                size += p.across(p.from + (p.to - p.from) * (j + 0.5) / kLooks, y).Magnitude();
        }
        ends.push_back(ends.back() + size * (p.to - p.from) / (kLooks * kLooks));
        for (const double share : {0.0, 0.2, 0.5, 0.8})
            us.push_back(ends[ends.size() - 2] * (1 - share) + ends.back() * share);
        const GeomAdaptor_Surface s(p.patch->surface);
        const std::size_t axis = p.in < 2 ? 1 : 0;
        const double low = p.patch->low[axis], high = p.patch->high[axis];
        for (const double at : axis == 1 ? breaksOf(s, &GeomAdaptor_Surface::NbVIntervals,
                                                    &GeomAdaptor_Surface::VIntervals, low, high)
                                         : breaksOf(s, &GeomAdaptor_Surface::NbUIntervals,
                                                    &GeomAdaptor_Surface::UIntervals, low, high))
            along.push_back(p.flipped ? (high - at) / (high - low) : (at - low) / (high - low));
    }
    us.push_back(ends.back());
    std::sort(along.begin(), along.end());
    along.erase(std::unique(along.begin(), along.end(), [](double a, double b) { return b - a < 1e-7; }),
                along.end());
    along.front() = 0, along.back() = 1;
    for (int k = 0; k <= kLooks; ++k) ys.push_back(double(k) / kLooks);
    const auto curves = [&](const std::vector<double>& others, bool acrossIt) {
        return [this, &others, acrossIt](double at) {
            std::vector<gp_Pnt> out;
            for (const double other : others) out.push_back(acrossIt ? place(at, other) : place(other, at));
            return out;
        };
    };
    const auto u = directionFor(ends, curves(ys, true), {1e-6, 1e-5}, kMostPoles),
               v = directionFor(along, curves(us, false), {1e-6, 1e-5}, kMostPoles);
    if (!u || !v) return false;
    std::vector<std::vector<gp_Pnt>> places;
    for (const double a : u->points()) {
        places.emplace_back();
        for (const double b : v->points()) places.back().push_back(place(a, b));
    }
    surface = surfaceThrough(*u, *v, places);
    for (std::size_t i = 0; i + 1 < us.size(); ++i)
        for (int k = 0; k < 3 * kLooks; ++k) {
            const double a = 0.55 * us[i] + 0.45 * us[i + 1], b = (k + 0.4) / (3 * kLooks);
            if (surface->Value(a, b).Distance(place(a, b)) > kOff) return false;
        }
    return true;
}

} // namespace gc

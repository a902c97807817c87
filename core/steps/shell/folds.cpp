#include "core/steps/shell/folds.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/breaks_of.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRepTopAdaptor_FClass2d.hxx>
#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <Geom_RectangularTrimmedSurface.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

std::optional<SheetPlace> Sheet::moved(const gp_Pnt2d& uv) const {
    const SurfacePlace p = placeOf(*surface, uv);
    const gp_Vec whole = p.du.Crossed(p.dv);
    const double size = whole.Magnitude();
    if (size < kNoDirection) return std::nullopt;
    const gp_Vec n = whole / size;
    const auto turns = [&](const gp_Vec& change) { return (change - n * (n * change)) / size; };
    const gp_Vec nu = turns(p.duu.Crossed(p.dv) + p.du.Crossed(p.duv)),
                 nv = turns(p.duv.Crossed(p.dv) + p.du.Crossed(p.dvv));
    return SheetPlace{p.at.Translated(n * by), p.du + nu * by, p.dv + nv * by};
}

std::optional<FoldBend> foldAt(const Sheet& sheet, const gp_Pnt2d& uv) {
    const SurfacePlace p = placeOf(*sheet.surface, uv);
    const auto n = p.normal();
    if (!n) return std::nullopt;
    const double e = p.du * p.du, f = p.du * p.dv, g = p.dv * p.dv, d = e * g - f * f;
    const double l = p.duu * *n, m = p.duv * *n, k = p.dvv * *n;
    if (d <= 0) return std::nullopt;
    const double mean = (e * k - 2 * f * m + g * l) / (2 * d), gauss = (l * k - m * m) / d;
    const double half = std::sqrt(std::max(0.0, mean * mean - gauss));
    const double bend = sheet.by > 0 ? mean + half : mean - half;
    FoldBend out;
    out.excess = sheet.by * bend - 1;
    out.radius = bend != 0 ? 1 / std::fabs(bend) : 1e300;
    // Of the two rows of (II - k I) w = 0 the one that says more.
    const gp_Vec2d one(-(m - bend * f), l - bend * e), other(-(k - bend * g), m - bend * f);
    gp_Vec2d w = one.Magnitude() * g > other.Magnitude() * e ? one : other;
    if (w.Magnitude() < kNoDirection) w = gp_Vec2d(1, 0); // bent alike every way
    const gp_Vec across = p.du * w.X() + p.dv * w.Y();
    out.across = w / across.Magnitude();
    const gp_Vec along = n->Crossed(across / across.Magnitude());
    const double a = along * p.du, b = along * p.dv;
    out.along = gp_Vec2d((g * a - f * b) / d, (e * b - f * a) / d);
    return out;
}

Sheet sheetOf(const TopoDS_Face& face, double by) {
    Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
    if (const auto trimmed = Handle(Geom_RectangularTrimmedSurface)::DownCast(surface))
        surface = trimmed->BasisSurface();
    return {surface, face.Orientation() == TopAbs_REVERSED ? -by : by};
}

namespace {

/// Parameters at which a face is looked at: near enough to each other that nothing folds over between
/// them, however short the stretch; of many spans not more than tell how it bends there, from where
/// one climbs. \param length mm, of the whole
std::vector<double> looksAlong(const std::vector<double>& breaks, double length, double apart) {
    constexpr int kLeast = 3, kInAll = 200; // between two breaks; of the whole
    const int kMost = std::max(kLeast, kInAll / static_cast<int>(breaks.size()));
    std::vector<double> out;
    const double whole = breaks.back() - breaks.front();
    for (std::size_t i = 0; i + 1 < breaks.size(); ++i) {
        const double span = breaks[i + 1] - breaks[i];
        const int n = std::clamp(static_cast<int>(std::ceil(span / whole * length / apart)), kLeast, kMost);
        for (int k = 0; k < n; ++k) out.push_back(breaks[i] + span * (k + 0.5) / n);
    }
    return out;
}

/// A face looked at all over.
class FoldMap {
  public:
    FoldMap(const TopoDS_Face& face, double by);
    /// From all over, those that fold over.
    struct Look {
        gp_Pnt2d uv;
        FoldBend fold;
        int stretch = -1;
    };
    /// Numbers the stretches that hang together, and gives how many there are.
    int stretches();
    const std::vector<std::optional<Look>>& looks() const { return m_looks; }

  private:
    void spread(std::size_t from, int stretch);
    bool isPeak(const std::vector<double>& bent, std::size_t at) const;
    std::vector<std::size_t> around(std::size_t at) const;
    std::vector<double> m_u, m_v;
    std::vector<std::optional<Look>> m_looks; ///< a row for each v
};

/// From one place to the one beside which nothing is bent more.
gp_Pnt2d climbed(const Sheet& sheet, gp_Pnt2d at, double du, double dv) {
    constexpr int kSteps = 60, kHalvings = 8;
    const auto bent = [&](const gp_Pnt2d& uv) {
        const auto fold = foldAt(sheet, uv);
        return fold ? fold->excess : -1e300;
    };
    double best = bent(at);
    for (int step = 0, halved = 0; step < kSteps && halved < kHalvings; ++step) {
        gp_Pnt2d next = at;
        for (const auto& [x, y] : {std::pair{1, 0}, {-1, 0}, {0, 1}, {0, -1}}) {
            const gp_Pnt2d there(at.X() + x * du, at.Y() + y * dv);
            if (const double b = bent(there); b > best) best = b, next = there;
        }
        if (next.IsEqual(at, 0)) du /= 2, dv /= 2, ++halved;
        at = next;
    }
    return at;
}

/// The ends of spans between two parameters, with the two.
std::vector<double> spansBetween(const GeomAdaptor_Surface& surface, bool alongU, double from, double to) {
    std::vector<double> out{from};
    for (const double t : spansOf(surface, alongU))
        if (t > from + 1e-9 * (to - from) && t < to - 1e-9 * (to - from)) out.push_back(t);
    out.push_back(to);
    return out;
}

/// Of a face that is turned all meridians are alike.
bool isTurned(const GeomAdaptor_Surface& surface) {
    const auto kind = surface.GetType();
    return kind == GeomAbs_Cylinder || kind == GeomAbs_Cone || kind == GeomAbs_Sphere ||
           kind == GeomAbs_Torus || kind == GeomAbs_SurfaceOfRevolution;
}

FoldMap::FoldMap(const TopoDS_Face& face, double by) {
    const Sheet sheet = sheetOf(face, by);
    const GeomAdaptor_Surface s(sheet.surface);
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    const auto length = [&](bool alongU) {
        constexpr int kParts = 32;
        double out = 0;
        for (int i = 0; i < kParts; ++i) {
            const auto at = [&](int k) {
                const double t = double(k) / kParts;
                return alongU ? s.Value(u0 + (u1 - u0) * t, (v0 + v1) / 2)
                              : s.Value((u0 + u1) / 2, v0 + (v1 - v0) * t);
            };
            out += at(i).Distance(at(i + 1));
        }
        return out;
    };
    const double apart = 0.4 * std::fabs(by);
    const bool turned = isTurned(s);
    m_u =
        turned ? std::vector{(u0 + u1) / 2} : looksAlong(spansBetween(s, true, u0, u1), length(true), apart);
    m_v = looksAlong(spansBetween(s, false, v0, v1), length(false), apart);
    const BRepTopAdaptor_FClass2d within(face, 1e-9);
    const auto look = [&](const gp_Pnt2d& uv) -> std::optional<Look> {
        const auto fold = foldAt(sheet, uv);
        if (!fold || fold->excess <= -1e-6 || (!turned && within.Perform(uv) != TopAbs_IN)) return {};
        return Look{uv, *fold};
    };
    std::vector<double> bent;
    for (const double v : m_v)
        for (const double u : m_u) {
            const auto fold = foldAt(sheet, {u, v});
            bent.push_back(fold ? fold->excess + 1 : 0);
            m_looks.push_back(bent.back() > 1 - 1e-6 ? look({u, v}) : std::nullopt);
        }
    const double du = (u1 - u0) / double(2 * m_u.size()), dv = (v1 - v0) / double(2 * m_v.size());
    for (std::size_t at = 0; at < bent.size(); ++at)
        if (isPeak(bent, at))
            m_looks[at] =
                look(climbed(sheet, {m_u[at % m_u.size()], m_v[at / m_u.size()]}, turned ? 0 : du, dv));
}

/// Bent more than all around it without folding over yet, and by so much that it may between the looks?
bool FoldMap::isPeak(const std::vector<double>& bent, std::size_t at) const {
    constexpr double kSome = 1e-3, kRise = 0.05; // of what folds over; of itself
    if (bent[at] < kSome || bent[at] > 1 - 1e-6) return false;
    double least = bent[at];
    for (const std::size_t i : around(at)) {
        if (bent[i] > bent[at]) return false;
        least = std::min(least, bent[i]);
    }
    return least < (1 - kRise) * bent[at];
}

std::vector<std::size_t> FoldMap::around(std::size_t at) const {
    const int nu = static_cast<int>(m_u.size()), nv = static_cast<int>(m_v.size());
    const int i = static_cast<int>(at) % nu, j = static_cast<int>(at) / nu;
    std::vector<std::size_t> out;
    for (int y = std::max(0, j - 1); y <= std::min(nv - 1, j + 1); ++y)
        for (int x = std::max(0, i - 1); x <= std::min(nu - 1, i + 1); ++x)
            out.push_back(static_cast<std::size_t>(y * nu + x));
    return out;
}

void FoldMap::spread(std::size_t from, int stretch) {
    std::vector<std::size_t> open{from};
    while (!open.empty()) {
        const std::size_t at = open.back();
        open.pop_back();
        if (!m_looks[at] || m_looks[at]->stretch >= 0) continue;
        m_looks[at]->stretch = stretch;
        for (const std::size_t i : around(at)) open.push_back(i);
    }
}

int FoldMap::stretches() {
    int count = 0;
    for (std::size_t i = 0; i < m_looks.size(); ++i)
        if (m_looks[i] && m_looks[i]->stretch < 0) spread(i, count++);
    return count;
}

} // namespace

std::optional<double> foldsOver(const TopoDS_Face& face, double by) {
    if (BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane) return std::nullopt;
    const FoldMap map(face, by);
    std::optional<double> out;
    for (const auto& look : map.looks())
        if (look && (!out || look->fold.radius < *out)) out = look->fold.radius;
    return out;
}

std::vector<gp_Pnt2d> foldedPlaces(const TopoDS_Face& face, double by) {
    FoldMap map(face, by);
    std::vector<const FoldMap::Look*> most(static_cast<std::size_t>(map.stretches()), nullptr);
    for (const auto& look : map.looks()) {
        if (!look) continue;
        auto& best = most[static_cast<std::size_t>(look->stretch)];
        if (!best || look->fold.excess > best->fold.excess) best = &*look;
    }
    std::vector<gp_Pnt2d> out;
    for (const auto* look : most) out.push_back(look->uv);
    return out;
}

} // namespace gc

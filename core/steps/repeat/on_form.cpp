#include "core/steps/repeat/on_form.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/lifted_rounds.hpp"
#include "core/steps/shared/rounded.hpp"
#include "core/steps/shared/turned_seam.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <BRep_Tool.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The radius of a round by its bend across, mm: of a ball that rolls along two walls one bend is the same
/// everywhere. As it was typed, where it is nearly that.
std::optional<double> rolledRadius(const TopoDS_Face& face) {
    if (const auto known = roundRadius(face)) return known;
    constexpr int kEach = 5;
    constexpr double kEven = 0.01, kGrain = 1e-3; // of the radius; mm
    const Handle(Geom_Surface) surface = BRep_Tool::Surface(face);
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0, least = 1e300, most = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    for (int i = 0; i < kEach; ++i)
        for (int j = 0; j < kEach; ++j) {
            const SurfacePlace p =
                placeOf(*surface, {u0 + (u1 - u0) * (i + 0.5) / kEach, v0 + (v1 - v0) * (j + 0.5) / kEach});
            const auto n = p.normal();
            if (!n) return std::nullopt;
            // The stronger of the two principal bends, from mean and Gaussian curvature.
            const double e = p.du * p.du, f = p.du * p.dv, g = p.dv * p.dv, d = e * g - f * f;
            const double l = p.duu * *n, m = p.duv * *n, k = p.dvv * *n;
            const double mean = (e * k - 2 * f * m + g * l) / (2 * d), gauss = (l * k - m * m) / d;
            const double bend = std::fabs(mean) + std::sqrt(std::max(0.0, mean * mean - gauss));
            least = std::min(least, 1 / bend), most = std::max(most, 1 / bend);
        }
    if (most - least > kEven * most) return std::nullopt;
    const double middle = 0.5 * (least + most), round = std::round(middle / kGrain) * kGrain;
    return std::fabs(round - middle) < 0.5 * kEven * middle ? round : middle;
}

/// A round that rolls along a mouth.
struct RoundAt {
    NamePtr name = nullptr;
    double radius = 0;
};
std::optional<RoundAt> roundOf(const NamedShape& s, const TopoDS_Face& face, const TopoDS_Face& host) {
    const NamePtr name = firstName(s, face);
    if (!name || name->role != "fillet" || name->parents.size() != 2) return std::nullopt;
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next())
        for (const TopoDS_Shape& beside : facesBeside(s, TopoDS::Edge(x.Current())))
            if (beside.IsSame(host))
                if (const auto radius = rolledRadius(face)) return RoundAt{name, *radius};
    return std::nullopt;
}

} // namespace

bool needsFitting(const Detail& detail, const std::vector<Placement>& placements) {
    const bool flat = std::all_of(detail.mouths.begin(), detail.mouths.end(), [](const Mouth& m) {
        return BRepAdaptor_Surface(m.host, false).GetType() == GeomAbs_Plane;
    });
    return !flat && !std::all_of(placements.begin(), placements.end(),
                                 [&](const Placement& p) { return liesOnItself(detail, p.by); });
}

Result<OnForm> OnForm::of(const Body& body, const std::vector<int>& faces, bool square) {
    OnForm out;
    out.m_square = square;
    out.m_body = body;
    auto detail = detailOf(body.shape(), faces);
    if (!detail) return detail.error();
    out.m_whole = out.m_bare = std::make_shared<const Detail>(std::move(*detail));
    if (!out.bare()) {
        out.m_bare = out.m_whole;
        out.m_rounds.clear();
    }
    return out;
}

/// Takes off the rounds along whole mouths. False where they are not to be taken off.
bool OnForm::bare() {
    const NamedShape& s = m_body.shape();
    Detail bare;
    TopTools_IndexedMapOfShape rounds;
    for (const Mouth& m : m_whole->mouths)
        for (const TopoDS_Face& f : m_whole->faces)
            if (roundOf(s, f, m.host)) rounds.Add(f);
    if (rounds.IsEmpty()) return false;
    for (const TopoDS_Face& f : m_whole->faces)
        if (!rounds.Contains(f)) bare.faces.push_back(f);
    const BRep_Builder builder;
    for (std::size_t m = 0; m < m_whole->mouths.size(); ++m) {
        const Mouth& mouth = m_whole->mouths[m];
        TopoDS_Wire loop;
        builder.MakeWire(loop);
        std::size_t some = 0;
        for (const TopoDS_Face& wall : bare.faces)
            for (TopExp_Explorer x(wall, TopAbs_EDGE); x.More(); x.Next())
                for (const TopoDS_Shape& beside : facesBeside(s, TopoDS::Edge(x.Current()))) {
                    const auto round =
                        rounds.Contains(beside) ? roundOf(s, TopoDS::Face(beside), mouth.host) : std::nullopt;
                    if (!round) continue;
                    // As the host would have it, taken forward: against the wall.
                    TopoDS_Shape edge = x.Current().Reversed();
                    if (mouth.host.Orientation() == TopAbs_REVERSED) edge.Reverse();
                    builder.Add(loop, edge);
                    m_rounds.push_back({m, some++, round->name, round->radius});
                }
        loop.Closed(true);
        bare.mouths.push_back({mouth.host, some > 0 ? loop : mouth.loop});
    }
    m_bare = std::make_shared<const Detail>(std::move(bare));
    return true;
}

gp_Ax1 OnForm::stand() const {
    const Stand own = Seats(*m_whole, m_square).own();
    return {own.at, own.up};
}

OnForm::Laid OnForm::lay(const std::vector<Placement>& placements, bool first,
                         const Progress& progress) const {
    Laid out;
    Seats seats(*m_whole, m_square);
    std::vector<gp_Pnt2d> places;
    for (const Mouth& m : m_whole->mouths) places.push_back(middleOf(m));
    Fitting fitting(*m_bare, places);
    if (!m_rounds.empty()) {
        auto own = fitting.at(gp_Trsf());
        if (!own || own->overSeam) {
            for (std::size_t k = 0; k < placements.size(); ++k)
                out.misfits.off.push_back(static_cast<int>(k));
            return out;
        }
        out.own = OwnCopy{m_whole.get(), std::move(*own)};
    }
    std::vector<std::optional<std::vector<Outline2d>>> outlines;
    bool overSeam = false;
    for (const Placement& p : placements) {
        if (progress.stopped()) return out;
        const auto by = seats.seated(p.by);
        auto copy = by ? fitting.at(*by) : std::nullopt;
        if (first && !copy) {
            out.misfits.off.push_back(0);
            return out;
        }
        outlines.push_back(copy ? std::optional(copy->outlines) : std::nullopt);
        overSeam = overSeam || (copy && copy->overSeam);
        if (copy) out.copies.push_back(std::move(*copy));
    }
    out.misfits = MouthPlan(*m_whole).misfits(outlines, first);
    if (!overSeam || !out.misfits.off.empty()) return out;
    for (std::size_t m = 0; m < m_whole->mouths.size(); ++m) {
        const TopoDS_Face& host = m_whole->mouths[m].host;
        if (!BRepAdaptor_Surface(host, false).IsUPeriodic()) continue;
        std::vector<Span> spans = spansIn(host);
        for (const auto& o : outlines) {
            const auto [least, most] =
                std::minmax_element((*o)[m].begin(), (*o)[m].end(),
                                    [](const gp_Pnt2d& a, const gp_Pnt2d& b) { return a.X() < b.X(); });
            spans.emplace_back(least->X(), most->X());
        }
        double low = 0, high = 0, v0 = 0, v1 = 0;
        BRepTools::UVBounds(host, low, high, v0, v1);
        const auto gap = widestGap(spans, low);
        out.seam = {host, gap ? *gap - low : 0};
        break;
    }
    return out;
}

Result<Body> OnForm::set(const std::vector<Placement>& placements, const Laid& laid, int step) const {
    auto body = setInto(m_body.shape(), *m_bare, placements, laid.copies, laid.own, step);
    if (!body)
        return errorOf("repeat.failed", "The copies cannot be set into the wall there. Move them a little.");
    if (m_rounds.empty()) return *body;
    // Every copy has the rounds that the detail has.
    std::vector<EdgeChain> chains;
    const auto add = [&](const FittedCopy& copy, const std::string& place) {
        for (const Round& r : m_rounds) {
            EdgeChain chain;
            chain.first = chain.second = r.radius;
            chain.called = place.empty() ? r.name : internName(step, "copy at " + place, {r.name});
            chain.edges = {copy.edges[r.mouth][r.edge]};
            chains.push_back(std::move(chain));
        }
    };
    add(laid.own->copy, {});
    for (std::size_t k = 0; k < placements.size(); ++k) add(laid.copies[k], placements[k].place);
    return rounded(*body, chains, step);
}

} // namespace gc

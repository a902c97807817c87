#include "core/steps/repeat/on_form.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/lifted_rounds.hpp"
#include "core/steps/shared/rounded.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>
#include <map>

namespace gc {

namespace {

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
    out.m_takes = takesAway(*out.m_whole);
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
    for (const Mouth& mouth : m_whole->mouths) {
        TopoDS_Wire loop;
        builder.MakeWire(loop);
        bool some = false;
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
                    some = true;
                    m_rounds.push_back({firstName(s, wall), round->name, round->radius});
                }
        loop.Closed(true);
        bare.mouths.push_back({mouth.host, some ? loop : mouth.loop});
    }
    m_bare = std::make_shared<const Detail>(std::move(bare));
    return true;
}

gp_Ax1 OnForm::stand() const {
    const Stand own = standOf(*m_whole);
    return {own.at, own.up};
}

namespace {

/// Lays copies into walls, and finds those that overlap.
class Layer {
  public:
    Layer(const Detail& whole, const Detail& bare, Walls& walls)
        : m_whole(whole), m_bare(bare), m_walls(walls) {
        for (const Mouth& m : whole.mouths) m_middles.push_back(standOf({whole.faces, {m}}).at);
    }

    /// Within the walls that it comes to stand in; nothing where it is not.
    std::optional<FittedCopy> at(const gp_Trsf& by) {
        std::vector<TopoDS_Face> hosts;
        std::vector<const KnownPlaces*> places;
        for (std::size_t m = 0; m < m_middles.size(); ++m) {
            const auto place = m_walls.nearest(m_middles[m].Transformed(by), m_whole.mouths[m].host);
            if (!place) return std::nullopt;
            m_walls.placesOf(place->face).add(place->uv);
            hosts.push_back(place->face);
        }
        for (const TopoDS_Face& h : hosts) places.push_back(&m_walls.placesOf(h));
        auto copy = fitted(m_bare, by, hosts, places);
        if (!copy || copy->overSeam) return std::nullopt;
        for (std::size_t m = 0; m < hosts.size(); ++m)
            for (const gp_Pnt2d& p : copy->outlines[m])
                if (!m_walls.holds(hosts[m], p)) return std::nullopt;
        return copy;
    }

    /// The loops of a copy are there from now on. \param number of its placement; the detail's own is -1
    void add(const FittedCopy& copy, int number) {
        for (std::size_t m = 0; m < copy.hosts.size(); ++m)
            m_loops[m_walls.faces().FindIndex(copy.hosts[m])].emplace_back(number, copy.outlines[m]);
    }
    std::vector<std::pair<int, int>> overlapping(bool first) const {
        std::vector<std::pair<int, int>> out;
        for (const auto& [face, loops] : m_loops) {
            const bool round = BRepAdaptor_Surface(TopoDS::Face(m_walls.faces()(face)), false).IsUPeriodic();
            const auto pairs = overlaps(loops, round, first);
            out.insert(out.end(), pairs.begin(), pairs.end());
        }
        std::sort(out.begin(), out.end());
        out.erase(std::unique(out.begin(), out.end()), out.end());
        return out;
    }

  private:
    const Detail &m_whole, &m_bare;
    Walls& m_walls;
    std::vector<gp_Pnt> m_middles;
    std::map<int, std::vector<std::pair<int, Outline2d>>> m_loops;
};

/// Pairs of what lies over borders with one another and with all others.
std::vector<std::pair<int, int>> meetingTools(const OnForm::Laid& laid,
                                              const std::vector<TopoDS_Face>& detail,
                                              const std::map<std::string, int>& numbers) {
    std::vector<std::pair<int, int>> out;
    const auto meet = [](const CopyTool& a, const std::vector<TopoDS_Shape>& b) {
        if (boxOf(a.faces).IsOut(boxOf(b))) return false;
        const BRepExtrema_DistShapeShape away(a.solid, together(b));
        return away.IsDone() && away.Value() < kKernelPoint;
    };
    const std::vector<TopoDS_Shape> own(detail.begin(), detail.end());
    for (std::size_t i = 0; i < laid.tools.size(); ++i) {
        const auto& [placement, tool] = laid.tools[i];
        const int number = numbers.at(placement.place);
        if (meet(tool, own)) out.emplace_back(-1, number);
        for (std::size_t j = 0; j < i; ++j)
            if (meet(tool, laid.tools[j].second.faces))
                out.emplace_back(numbers.at(laid.tools[j].first.place), number);
        for (const auto& [other, copy] : laid.copies)
            if (meet(tool, copy.faces)) out.emplace_back(numbers.at(other.place), number);
    }
    return out;
}

} // namespace

OnForm::Laid OnForm::lay(const std::vector<Placement>& placements, bool first,
                         const Progress& progress) const {
    Laid out;
    Walls walls(m_body.shape(), *m_whole);
    Seats seats(*m_whole, walls, m_square);
    Layer layer(*m_whole, *m_bare, walls);
    std::optional<CopyTools> tools; // only where one is needed: the kernel prepares the whole body for it
    const auto own = layer.at(gp_Trsf());
    if (own) layer.add(*own, -1);
    if (!m_rounds.empty() && own) out.own = OwnCopy{m_whole.get(), *own};
    std::map<std::string, int> numbers;
    for (std::size_t k = 0; k < placements.size(); ++k) {
        const Placement& p = placements[k];
        const int number = static_cast<int>(k);
        if (progress.stopped()) return out;
        numbers[p.place] = number;
        const auto by = seats.seated(p.by);
        if (auto copy = by ? layer.at(*by) : std::nullopt) {
            layer.add(*copy, number);
            out.copies.emplace_back(p, std::move(*copy));
            continue;
        }
        if (!tools) tools.emplace(m_body.shape(), *m_whole, *m_bare, seats.way(), m_takes);
        auto tool = by ? tools->at(*by) : std::nullopt;
        if (!tool) {
            out.misfits.off.push_back(number);
            if (first) return out;
            continue;
        }
        if (tool->overhangs) out.misfits.across.push_back(number);
        out.tools.emplace_back(p, std::move(*tool));
    }
    out.misfits.overlapping = layer.overlapping(first);
    const auto more = meetingTools(out, m_whole->faces, numbers);
    out.misfits.overlapping.insert(out.misfits.overlapping.end(), more.begin(), more.end());
    return out;
}

Result<Body> OnForm::set(const Laid& laid, int step) const {
    std::vector<Placement> placements;
    std::vector<FittedCopy> copies;
    for (const auto& [p, copy] : laid.copies) placements.push_back(p), copies.push_back(copy);
    auto set = setInto(m_body.shape(), *m_bare, placements, copies, laid.own, step);
    if (!set)
        return errorOf("repeat.failed", "The copies cannot be set into the wall there. Move them a little.");
    Body body = std::move(*set);
    if (!laid.tools.empty()) {
        std::vector<NamedTool> tools;
        for (const auto& [p, tool] : laid.tools) {
            tools.emplace_back().shape = tool.solid;
            for (std::size_t f = 0; f < tool.faces.size(); ++f)
                for (const NamePtr n : copyNames(m_body.shape().namesOf(m_bare->faces[f]), p, step))
                    tools.back().names.emplace_back(tool.faces[f], n);
        }
        auto with = workedIn(body.shape(), tools, m_takes);
        if (!with) return with.error();
        body = std::move(*with);
    }
    if (m_rounds.empty()) return body;
    return rounded(body, roundsOf(laid, body, step), step);
}

/// Every copy has the rounds that the detail has: along the edges of its walls that are not between faces of
/// its own.
std::vector<EdgeChain> OnForm::roundsOf(const Laid& laid, const Body& body, int step) const {
    const NamedShape &s = body.shape(), &before = m_body.shape();
    std::map<NamePtr, int> owner; // which copy a name is of
    std::map<NamePtr, Round> roundOn;
    int copies = 0;
    const auto add = [&](const std::optional<Placement>& p) {
        const auto there = [&](NamePtr n) { return p ? copyNames({n}, *p, step).front() : n; };
        ++copies;
        for (const TopoDS_Face& f : m_bare->faces)
            for (const NamePtr n : before.namesOf(f)) owner[there(n)] = copies;
        for (const Round& r : m_rounds) roundOn[there(r.wall)] = {there(r.wall), there(r.name), r.radius};
    };
    if (laid.own) add(std::nullopt);
    for (const auto& [p, copy] : laid.copies) add(p);
    for (const auto& [p, tool] : laid.tools) add(p);
    const auto ownerOf = [&](const TopoDS_Shape& face) {
        for (const NamePtr n : s.namesOf(face))
            if (const auto of = owner.find(n); of != owner.end()) return of->second;
        return 0;
    };
    std::vector<EdgeChain> chains;
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i));
        const auto beside = facesBeside(s, edge);
        if (beside.size() != 2 || ownerOf(beside[0]) == ownerOf(beside[1])) continue;
        for (const TopoDS_Shape& face : beside)
            for (const NamePtr n : s.namesOf(face))
                if (const auto round = roundOn.find(n); round != roundOn.end()) {
                    EdgeChain& chain = chains.emplace_back();
                    chain.first = chain.second = round->second.radius;
                    chain.called = round->second.name;
                    chain.edges = {edge};
                }
    }
    return chains;
}

} // namespace gc

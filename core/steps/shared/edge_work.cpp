#include "core/steps/shared/edge_work.hpp"

#include "core/model/arguments.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/face_normal.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <Extrema_ExtPC.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Vertex.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kSame = 1e-4;    // mm: on the same line
constexpr double kNudge = 5e-4;   // of a size: away from where it just meets another edge
constexpr double kSmaller = 5e-3; // the last try: what was left out of the way by rounds beside it
constexpr int kAttempts = 60;     // after so many no other order is begun
constexpr int kRounds = 3;        // how often what is left is tried upon what was done

gp_Pnt middleOf(const TopoDS_Edge& edge, double share = 0.5) {
    const BRepAdaptor_Curve c(edge);
    return c.Value(c.FirstParameter() + share * (c.LastParameter() - c.FirstParameter()));
}

/// Does a point lie on an edge, its ends included?
bool liesOn(const gp_Pnt& p, const BRepAdaptor_Curve& curve) {
    if (p.Distance(curve.Value(curve.FirstParameter())) < kSame ||
        p.Distance(curve.Value(curve.LastParameter())) < kSame)
        return true;
    Extrema_ExtPC nearest(p, curve);
    for (int i = 1; nearest.IsDone() && i <= nearest.NbExt(); ++i)
        if (nearest.SquareDistance(i) < kSame * kSame) return true;
    return false;
}

std::set<NamePtr> namesBeside(const NamedShape& s, const TopoDS_Edge& edge) {
    std::set<NamePtr> out;
    for (const TopoDS_Shape& f : facesBeside(s, edge)) out.insert(firstName(s, f));
    return out;
}

bool touch(const EdgeChain& a, const EdgeChain& b) {
    TopTools_IndexedMapOfShape corners;
    for (const TopoDS_Edge& e : a.edges) TopExp::MapShapes(e, TopAbs_VERTEX, corners);
    for (const TopoDS_Edge& e : b.edges)
        for (TopExp_Explorer x(e, TopAbs_VERTEX); x.More(); x.Next())
            if (corners.Contains(x.Current())) return true;
    return false;
}

/// Chains that touch each other, directly or by others, by their numbers.
std::vector<std::vector<std::size_t>> groupsOf(const std::vector<EdgeChain>& chains) {
    std::vector<std::size_t> group(chains.size());
    for (std::size_t i = 0; i < chains.size(); ++i) {
        group[i] = i;
        for (std::size_t j = 0; j < i; ++j) {
            if (group[j] == group[i] || !touch(chains[i], chains[j])) continue;
            const std::size_t from = group[i], to = group[j];
            std::replace(group.begin(), group.begin() + static_cast<std::ptrdiff_t>(i) + 1, from, to);
        }
    }
    std::vector<std::vector<std::size_t>> out;
    for (std::size_t g = 0; g < chains.size(); ++g) {
        std::vector<std::size_t> members;
        for (std::size_t i = 0; i < chains.size(); ++i)
            if (group[i] == g) members.push_back(i);
        if (!members.empty()) out.push_back(std::move(members));
    }
    return out;
}

/// The search, on a body that changes from build to build.
class Search {
  public:
    Search(const Body& body, const std::vector<EdgeChain>& chains, const WorkEdges& work,
           const Progress& progress)
        : m_first(body), m_chains(chains), m_work(work), m_progress(progress), m_body(body) {}

    Result<WorkedEdges> run(bool onlyWhole) {
        if (attempt(all())) return outcome({});
        if (onlyWhole) return m_progress.stopped() ? stoppedError() : *m_fault;
        std::vector<std::size_t> left;
        for (const auto& group : groupsOf(m_chains))
            for (const std::size_t i : asMuchOf(group)) left.push_back(i);
        if (!left.empty() && mayTryMore()) left = oneByOne(left); // upon all the others
        if (m_progress.stopped()) return stoppedError();
        if (left.size() == m_chains.size()) return *m_fault;
        return outcome(left);
    }

  private:
    std::vector<std::size_t> all() const {
        std::vector<std::size_t> out(m_chains.size());
        for (std::size_t i = 0; i < out.size(); ++i) out[i] = i;
        return out;
    }

    /// Works these on the body as it is now; keeps what comes of it.
    bool attempt(const std::vector<std::size_t>& which, double nudge = 0) {
        if (m_progress.stopped()) return false;
        ++m_attempts;
        std::vector<EdgeChain> now;
        for (const std::size_t i : which) {
            EdgeChain c = m_changed ? foundAgain(m_chains[i], m_first, m_body) : m_chains[i];
            if (c.edges.empty()) return false;
            c.first *= 1 + nudge;
            c.second *= 1 + nudge;
            for (RadiusPlace& p : c.via) p.radius *= 1 + nudge;
            now.push_back(std::move(c));
        }
        auto made = m_work(m_body, now);
        if (!made) {
            if (!m_fault) m_fault = made.error();
            return false;
        }
        m_body = std::move(*made);
        m_changed = true;
        for (const std::size_t i : which)
            if (nudge != 0) m_nudged.push_back({m_chains[i].first, m_chains[i].first * (1 + nudge)});
        return true;
    }

    /// \return those of a group that could not be worked
    std::vector<std::size_t> asMuchOf(const std::vector<std::size_t>& group) {
        const State start = state();
        const std::vector<std::size_t> hollowFirst = sorted(group);
        auto left = together(group);
        // One upon the other, in some orders, where that leaves less.
        const std::vector<std::size_t> backward(hollowFirst.rbegin(), hollowFirst.rend());
        for (const auto& order : {hollowFirst, group, backward}) {
            if (left.empty() || group.size() == 1 || !mayTryMore()) break;
            const State done = state();
            put(start);
            auto other = oneByOne(order);
            if (other.size() < left.size())
                left = std::move(other);
            else
                put(done);
        }
        return left;
    }

    /// By their number, not by time: the same part comes out the same on every machine.
    bool mayTryMore() const { return m_attempts < kAttempts; }
    struct State {
        Body body;
        bool changed = false;
        std::vector<WorkedEdges::Nudged> nudged;
    };
    State state() const { return {m_body, m_changed, m_nudged}; }
    void put(const State& s) { m_body = s.body, m_changed = s.changed, m_nudged = s.nudged; }

    /// Hollows first, then large ones: what comes later then ends on what is there.
    std::vector<std::size_t> sorted(std::vector<std::size_t> group) const {
        const NamedShape& shape = m_first.shape();
        std::stable_sort(group.begin(), group.end(), [&](std::size_t a, std::size_t b) {
            const bool p = isHollow(shape, m_chains[a].edges.front()),
                       q = isHollow(shape, m_chains[b].edges.front());
            return p != q ? p : m_chains[a].first > m_chains[b].first;
        });
        return group;
    }

    std::vector<std::size_t> oneByOne(const std::vector<std::size_t>& group) {
        std::vector<std::size_t> left;
        for (const std::size_t i : group) {
            bool done = false;
            for (const double nudge : {0.0, -kNudge, kNudge, -kSmaller})
                if (!done) done = attempt({i}, nudge);
            if (!done) left.push_back(i);
        }
        return left;
    }

    std::vector<std::size_t> together(std::vector<std::size_t> group) {
        if (group.size() < m_chains.size() && attempt(group)) return {};
        for (const double nudge : {-kNudge, kNudge})
            if (attempt(group, nudge)) return {};
        if (group.size() == 1) return group;
        group = sorted(std::move(group));
        for (int round = 0; round < kRounds && !group.empty() && !m_progress.stopped(); ++round) {
            const Body start = m_body;
            const bool changed = m_changed;
            std::vector<std::size_t> in, out;
            for (const std::size_t i : group) {
                const Body kept = m_body;
                const bool keptChanged = m_changed;
                // What has been taken in so far is built anew with it, from where the round began.
                m_body = start;
                m_changed = changed;
                in.push_back(i);
                if (attempt(in)) continue;
                in.pop_back();
                out.push_back(i);
                m_body = kept;
                m_changed = keptChanged;
            }
            group = out;
            if (in.empty()) break;
        }
        return group;
    }

    WorkedEdges outcome(const std::vector<std::size_t>& left) const {
        WorkedEdges out{m_body, {}, {}, m_fault};
        for (const std::size_t i : left) out.left.push_back(m_chains[i]);
        out.nudged = m_nudged;
        return out;
    }

    const Body& m_first;
    const std::vector<EdgeChain>& m_chains;
    const WorkEdges& m_work;
    const Progress& m_progress;
    Body m_body;
    bool m_changed = false;
    std::vector<WorkedEdges::Nudged> m_nudged;
    std::optional<Error> m_fault;
    int m_attempts = 0;
};

} // namespace

Result<WorkedEdges> workEdges(const Body& body, const std::vector<EdgeChain>& chains, const WorkEdges& work,
                              const Progress& progress, bool onlyWhole) {
    return Search(body, chains, work, progress).run(onlyWhole);
}

double largestOf(const EdgeChain& chain) {
    double out = std::max(chain.first, chain.second);
    for (const RadiusPlace& p : chain.via) out = std::max(out, p.radius);
    return out;
}

EdgeChain foundAgain(const EdgeChain& chain, const Body& before, const Body& now, bool grown) {
    EdgeChain out = chain;
    out.edges.clear();
    const NamedShape &was = before.shape(), &is = now.shape();
    for (const TopoDS_Edge& old : chain.edges) {
        const BRepAdaptor_Curve curve(old);
        const auto names = namesBeside(was, old);
        for (int i = 1; i <= is.edges.Extent(); ++i) {
            const TopoDS_Edge e = TopoDS::Edge(is.edges(i));
            if (BRep_Tool::Degenerated(e) || !is.isRealEdge(e) || namesBeside(is, e) != names) continue;
            if (liesOn(middleOf(e), curve) && (grown || liesOn(middleOf(e, 0.2), curve)))
                out.edges.push_back(e);
        }
    }
    return out;
}

NamePtr firstName(const NamedShape& shape, const TopoDS_Shape& face) {
    return shape.namesOf(face).empty() ? nullptr : shape.namesOf(face).front();
}

std::vector<TopoDS_Shape> facesBeside(const NamedShape& shape, const TopoDS_Edge& edge) {
    const auto* faces = shape.facesOfEdge.Seek(edge);
    return faces ? toVector(*faces) : std::vector<TopoDS_Shape>();
}

bool endsIn(const TopoDS_Edge& edge, const TopoDS_Shape& corner) {
    TopoDS_Vertex a, b;
    TopExp::Vertices(edge, a, b);
    return a.IsSame(corner) || b.IsSame(corner);
}

std::vector<TopoDS_Edge> edgesAround(const NamedShape& shape, const TopoDS_Shape& corner) {
    TopTools_IndexedMapOfShape around;
    if (const auto* faces = shape.facesOfVertex.Seek(corner))
        for (const TopoDS_Shape& f : toVector(*faces))
            for (TopExp_Explorer x(f, TopAbs_EDGE); x.More(); x.Next())
                if (const TopoDS_Edge e = TopoDS::Edge(x.Current()); endsIn(e, corner) && shape.isRealEdge(e))
                    around.Add(e);
    std::vector<TopoDS_Edge> out;
    for (int i = 1; i <= around.Extent(); ++i) out.push_back(TopoDS::Edge(around(i)));
    return out;
}

std::optional<gp_Vec> normalBeside(const TopoDS_Edge& edge, const TopoDS_Face& face, double share) {
    double a = 0, b = 0;
    const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(asIn(face, edge), face, a, b);
    gp_Pnt p;
    if (on.IsNull()) return std::nullopt;
    return outwardNormal(BRepAdaptor_Surface(face, false), face.Orientation() == TopAbs_REVERSED,
                         on->Value(a + share * (b - a)), p);
}

bool isHollow(const NamedShape& shape, const TopoDS_Edge& edge) {
    const auto faces = facesBeside(shape, edge);
    if (faces.size() != 2) return false;
    const TopoDS_Face first = TopoDS::Face(faces[0]);
    const auto n = normalBeside(edge, first), m = normalBeside(edge, TopoDS::Face(faces[1]));
    if (!n || !m) return false;
    const BRepAdaptor_Curve curve(edge);
    gp_Pnt p;
    gp_Vec along;
    curve.D1(0.5 * (curve.FirstParameter() + curve.LastParameter()), p, along);
    if (asIn(first, edge).Orientation() == TopAbs_REVERSED) along.Reverse();
    return n->Crossed(along).Dot(*m) > 0; // the face lies to the left of its borders
}

TopoDS_Face faceAcross(const NamedShape& shape, const TopoDS_Edge& edge, const TopoDS_Face& face) {
    TopoDS_Face out;
    for (const TopoDS_Shape& f : facesBeside(shape, edge))
        if (!f.IsSame(face)) out = TopoDS::Face(f);
    return out;
}

std::optional<double> kinkAt(const NamedShape& shape, const TopoDS_Edge& edge, double share) {
    const auto faces = facesBeside(shape, edge);
    if (faces.size() != 2 || BRep_Tool::Degenerated(edge)) return std::nullopt;
    const auto n = normalBeside(edge, TopoDS::Face(faces[0]), share),
               m = normalBeside(edge, TopoDS::Face(faces[1]), share);
    if (!n || !m) return std::nullopt;
    return n->Angle(*m);
}

bool isSmooth(const NamedShape& shape, const TopoDS_Edge& edge) {
    constexpr double kSmooth = 0.02; // rad, a degree
    const auto kink = kinkAt(shape, edge);
    return kink && *kink < kSmooth;
}

std::vector<std::string> saidOf(const EdgeChain& chain, const Body& body) {
    std::vector<std::string> out;
    for (const TopoDS_Edge& e : chain.edges) {
        const auto refs = referencesForEdge(body, body.shape().edges.FindIndex(e) - 1);
        if (!refs.empty()) out.push_back(refs.back());
    }
    return out;
}

Vec3 middleOf(const EdgeChain& chain) {
    return toVec(middleOf(chain.edges.front()));
}

} // namespace gc

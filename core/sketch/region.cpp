#include "core/sketch/region.hpp"

#include "core/base/tolerance.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/sketch/inside.hpp"
#include "core/units/amount.hpp"

#include <algorithm>
#include <cmath>
#include <cstdint>
#include <map>
#include <numeric>
#include <set>

namespace gc {

namespace {

/// A stretch of a stroke between two nodes.
struct Edge {
    int stroke = 0;
    Curve2 curve;
    int from = 0, to = 0;
    bool gone = false;
};

class Arrangement {
  public:
    Arrangement(const Drawing& drawing, const ClosednessOptions& options)
        : m_d(drawing), m_options(options) {}

    Closedness find() {
        cut();
        dropDoubled();
        closeAxis();
        findLooseEnds();
        dropDangling();
        walk();
        nest();
        return std::move(m_out);
    }

  private:
    const Drawing& m_d;
    ClosednessOptions m_options;
    Closedness m_out;
    std::vector<Vec2> m_nodes;
    std::map<int, std::string> m_names; ///< of strokes
    std::map<std::pair<std::int64_t, std::int64_t>, std::vector<int>> m_nodeAt;
    std::vector<Edge> m_edges;
    std::vector<Loop> m_loops;
    double m_size = 1;

    /// The node at a place, found by the square of a fine grid that it lies in, and its neighbours.
    int node(Vec2 p) {
        constexpr double kSquare = 1e-4; // mm; much more than what is one place
        const auto x = static_cast<std::int64_t>(std::floor(p.x / kSquare)),
                   y = static_cast<std::int64_t>(std::floor(p.y / kSquare));
        for (std::int64_t i = x - 1; i <= x + 1; ++i)
            for (std::int64_t j = y - 1; j <= y + 1; ++j)
                if (const auto at = m_nodeAt.find({i, j}); at != m_nodeAt.end())
                    for (const int n : at->second)
                        if (length(m_nodes[static_cast<std::size_t>(n)] - p) < kSamePoint) return n;
        m_nodes.push_back(p);
        m_nodeAt[{x, y}].push_back(static_cast<int>(m_nodes.size()) - 1);
        return static_cast<int>(m_nodes.size()) - 1;
    }

    struct Piece {
        int stroke;
        std::size_t index; ///< of the piece within its stroke
        Curve2 curve;
        Vec2 low, high;
        std::vector<double> cuts;
    };

    void cut() {
        std::vector<Piece> pieces;
        Vec2 low{1e300, 1e300}, high{-1e300, -1e300};
        for (const Stroke& s : m_d.strokes) {
            if (s.helper) continue;
            const auto curves = curvesOf(m_d, s);
            for (std::size_t i = 0; i < curves.size(); ++i) {
                Piece p{s.id, i, curves[i], {}, {}, {0, 1}};
                p.curve.bounds(p.low, p.high);
                if (curves[i].closed()) p.cuts = {0, 0.5, 1};
                low = {std::min(low.x, p.low.x), std::min(low.y, p.low.y)};
                high = {std::max(high.x, p.high.x), std::max(high.y, p.high.y)};
                pieces.push_back(std::move(p));
            }
        }
        m_size = std::max({high.x - low.x, high.y - low.y, 1e-3});
        meetNeighbours(pieces);
        for (Piece& p : pieces) {
            std::sort(p.cuts.begin(), p.cuts.end());
            for (std::size_t k = 1; k < p.cuts.size(); ++k) {
                if (p.cuts[k] - p.cuts[k - 1] < 1e-12) continue;
                const Curve2 c = p.curve.part(p.cuts[k - 1], p.cuts[k]);
                if (c.length() < kSamePoint) continue;
                m_edges.push_back({p.stroke, c, node(c.at(0)), node(c.at(1))});
            }
        }
    }

    /// Only pieces whose boxes overlap can meet: found by a sweep from left to right.
    void meetNeighbours(std::vector<Piece>& pieces) {
        std::vector<std::size_t> order(pieces.size());
        std::iota(order.begin(), order.end(), std::size_t{0});
        std::sort(order.begin(), order.end(),
                  [&](std::size_t a, std::size_t b) { return pieces[a].low.x < pieces[b].low.x; });
        std::vector<std::pair<std::size_t, std::size_t>> near;
        std::vector<std::size_t> open;
        for (const std::size_t i : order) {
            const Piece& p = pieces[i];
            std::erase_if(open, [&](std::size_t o) { return pieces[o].high.x < p.low.x - kSamePoint; });
            for (const std::size_t o : open)
                if (pieces[o].low.y <= p.high.y + kSamePoint && p.low.y <= pieces[o].high.y + kSamePoint)
                    near.push_back({std::min(i, o), std::max(i, o)});
            open.push_back(i);
        }
        std::sort(near.begin(), near.end()); // what is found does not hang on where it lies
        for (const auto& [a, b] : near) meet(pieces[a], pieces[b]);
    }

    void meet(Piece& a, Piece& b) {
        if (a.stroke == b.stroke && a.index + 1 == b.index && a.curve.kind != Curve2::Kind::Cubic) return;
        const auto found = meetings(a.curve, b.curve);
        const auto inner = [](const Curve2& c, double t) {
            return length(c.at(t) - c.at(0)) > kSamePoint && length(c.at(t) - c.at(1)) > kSamePoint;
        };
        std::vector<const Meeting*> along;
        for (const Meeting& m : found) {
            if (inner(a.curve, m.onFirst)) a.cuts.push_back(m.onFirst);
            if (inner(b.curve, m.onSecond)) b.cuts.push_back(m.onSecond);
            if (m.along)
                along.push_back(&m);
            else if (inner(a.curve, m.onFirst) && inner(b.curve, m.onSecond) && !a.curve.closed() &&
                     !b.curve.closed())
                crossing(a, b, m.at);
        }
        if (along.size() >= 2) overlap(a, b, *along.front(), *along.back());
    }

    /// What a stroke is called is counted out among all: once for each.
    const std::string& called(int stroke) {
        auto [at, isNew] = m_names.try_emplace(stroke);
        if (isNew) at->second = nameOf(m_d, stroke);
        return at->second;
    }

    void crossing(const Piece& a, const Piece& b, Vec2 at) {
        Trouble t;
        t.kind = TroubleKind::Crossing;
        t.at = t.to = at;
        t.strokes = {a.stroke, b.stroke};
        t.sentence = a.stroke == b.stroke ? phrase("%1 crosses itself.", called(a.stroke))
                                          : phrase("%1 crosses %2.", called(a.stroke), called(b.stroke));
        m_out.troubles.push_back(std::move(t));
    }

    void overlap(const Piece& a, const Piece& b, const Meeting& from, const Meeting& to) {
        Trouble t;
        t.at = from.at, t.to = to.at;
        t.strokes = {a.stroke, b.stroke};
        t.size = a.curve.part(from.onFirst, to.onFirst).length();
        const bool whole = t.size > std::min(a.curve.length(), b.curve.length()) - kSamePoint;
        t.kind = whole ? TroubleKind::Doubled : TroubleKind::Overlap;
        t.sentence = whole ? phrase("%1 and %2 lie on each other.", called(a.stroke), called(b.stroke))
                           : phrase("%1 and %2 overlap by %3.", called(a.stroke), called(b.stroke),
                                    formatAmount(t.size, "mm", 3));
        t.mend = whole ? "Remove one of them" : "";
        m_out.troubles.push_back(std::move(t));
    }

    /// Two edges between the same nodes along the same way count once.
    void dropDoubled() {
        std::map<std::pair<int, int>, std::vector<std::size_t>> between;
        for (std::size_t i = 0; i < m_edges.size(); ++i) {
            Edge& e = m_edges[i];
            auto& others = between[std::minmax(e.from, e.to)];
            const Vec2 mid = e.curve.at(0.5);
            e.gone = std::any_of(others.begin(), others.end(), [&](std::size_t k) {
                const Curve2& c = m_edges[k].curve;
                return length(c.at(c.nearest(mid)) - mid) < kSamePoint;
            });
            if (!e.gone) others.push_back(i);
        }
    }

    std::vector<int> degrees() const {
        std::vector<int> degree(m_nodes.size(), 0);
        for (const Edge& e : m_edges)
            if (!e.gone) ++degree[static_cast<std::size_t>(e.from)], ++degree[static_cast<std::size_t>(e.to)];
        return degree;
    }

    /// Ends on the axis in the order of height are joined in pairs along it.
    void closeAxis() {
        if (!m_options.closeAlongAxis) return;
        const auto degree = degrees();
        std::vector<int> onAxis;
        for (std::size_t i = 0; i < m_nodes.size(); ++i)
            if (degree[i] == 1 && std::fabs(m_nodes[i].x) < kSamePoint) onAxis.push_back(static_cast<int>(i));
        std::sort(onAxis.begin(), onAxis.end(), [&](int a, int b) {
            return m_nodes[static_cast<std::size_t>(a)].y < m_nodes[static_cast<std::size_t>(b)].y;
        });
        for (std::size_t i = 0; i + 1 < onAxis.size(); i += 2) {
            Curve2 c;
            c.p = {m_nodes[static_cast<std::size_t>(onAxis[i])],
                   m_nodes[static_cast<std::size_t>(onAxis[i + 1])]};
            m_edges.push_back({kAxisLine, c, onAxis[i], onAxis[i + 1]});
        }
    }

    void findLooseEnds() {
        const auto degree = degrees();
        struct Loose {
            int node, stroke, point;
            double length;
        };
        std::vector<Loose> loose;
        for (const Edge& e : m_edges)
            for (const int n : {e.from, e.to}) {
                if (e.gone || degree[static_cast<std::size_t>(n)] != 1 || e.stroke <= 0) continue;
                int point = 0;
                for (const int p : endPoints(*m_d.findStroke(e.stroke)))
                    if (length(m_d.at(p) - m_nodes[static_cast<std::size_t>(n)]) < kSamePoint) point = p;
                loose.push_back({n, e.stroke, point, e.curve.length()});
            }
        // Nearest pairs first: each end takes part in one gap.
        struct Pair {
            double apart;
            std::size_t a, b;
        };
        std::vector<Pair> pairs;
        for (std::size_t i = 0; i < loose.size(); ++i)
            for (std::size_t j = i + 1; j < loose.size(); ++j) {
                const double apart = length(m_nodes[static_cast<std::size_t>(loose[i].node)] -
                                            m_nodes[static_cast<std::size_t>(loose[j].node)]);
                if (apart < m_options.gapPart * m_size) pairs.push_back({apart, i, j});
            }
        std::sort(pairs.begin(), pairs.end(), [](const Pair& a, const Pair& b) { return a.apart < b.apart; });
        std::set<std::size_t> taken;
        for (const Pair& p : pairs) {
            if (taken.count(p.a) || taken.count(p.b)) continue;
            taken.insert(p.a), taken.insert(p.b);
            Trouble t;
            t.at = m_nodes[static_cast<std::size_t>(loose[p.a].node)],
            t.to = m_nodes[static_cast<std::size_t>(loose[p.b].node)];
            t.size = p.apart;
            t.strokes = {loose[p.a].stroke, loose[p.b].stroke};
            t.points = {loose[p.a].point, loose[p.b].point};
            t.sentence = phrase("%1 and %2 are %3 apart.", capitalised(nameOf(m_d, loose[p.a].point)),
                                nameOf(m_d, loose[p.b].point), formatAmount(p.apart, "mm", 3));
            t.mend = "Join them";
            m_out.troubles.push_back(std::move(t));
        }
        for (std::size_t i = 0; i < loose.size(); ++i) {
            if (taken.count(i)) continue;
            Trouble t;
            t.kind = TroubleKind::LooseEnd;
            t.at = t.to = m_nodes[static_cast<std::size_t>(loose[i].node)];
            t.strokes = {loose[i].stroke};
            t.points = {loose[i].point};
            const bool stub = loose[i].length < m_options.gapPart * m_size;
            if (stub) t.size = loose[i].length;
            t.sentence = stub ? phrase("%1 sticks out by %2.", nameOf(m_d, loose[i].point),
                                       formatAmount(t.size, "mm", 3))
                              : phrase("%1 meets nothing.", nameOf(m_d, loose[i].point));
            m_out.troubles.push_back(std::move(t));
        }
    }

    void dropDangling() {
        for (bool again = true; again;) {
            again = false;
            const auto degree = degrees();
            for (Edge& e : m_edges)
                if (!e.gone && (degree[static_cast<std::size_t>(e.from)] == 1 ||
                                degree[static_cast<std::size_t>(e.to)] == 1))
                    e.gone = again = true;
        }
    }

    /// The direction in which a half edge leaves its node, looked at a little way along, so that tangent
    /// edges are told apart by how they bend.
    double leaving(const Edge& e, bool forward) const {
        const double reach = 1e-3;
        const Vec2 a = e.curve.at(forward ? 0 : 1), b = e.curve.at(forward ? reach : 1 - reach);
        return std::atan2(b.y - a.y, b.x - a.x);
    }

    void walk() {
        struct Half {
            std::size_t edge;
            bool forward;
            double angle;
        };
        std::vector<std::vector<Half>> out(m_nodes.size());
        for (std::size_t i = 0; i < m_edges.size(); ++i) {
            const Edge& e = m_edges[i];
            if (e.gone) continue;
            out[static_cast<std::size_t>(e.from)].push_back({i, true, leaving(e, true)});
            out[static_cast<std::size_t>(e.to)].push_back({i, false, leaving(e, false)});
        }
        for (auto& list : out)
            std::sort(list.begin(), list.end(),
                      [](const Half& a, const Half& b) { return a.angle < b.angle; });
        std::set<std::pair<std::size_t, bool>> used;
        for (std::size_t i = 0; i < m_edges.size(); ++i)
            for (const bool forward : {true, false}) {
                if (m_edges[i].gone || used.count({i, forward})) continue;
                Loop loop;
                std::size_t edge = i;
                bool ahead = forward;
                while (used.insert({edge, ahead}).second) {
                    const Edge& e = m_edges[edge];
                    loop.sides.push_back({e.stroke, ahead ? e.curve : e.curve.part(1, 0), !ahead});
                    loop.area += loop.sides.back().curve.areaShare();
                    const auto& list = out[static_cast<std::size_t>(ahead ? e.to : e.from)];
                    // Next to the right of where we came from: the face stays on the left.
                    std::size_t k = 0;
                    while (list[k].edge != edge || list[k].forward == ahead) ++k;
                    const Half& next = list[(k + list.size() - 1) % list.size()];
                    edge = next.edge;
                    ahead = next.forward;
                }
                m_loops.push_back(std::move(loop));
            }
    }

    /// Counter-clockwise loops are faces; clockwise ones are the outsides of islands: holes of what they lie
    /// in.
    void nest() {
        const double least = kSamePoint * m_size;
        for (Loop& l : m_loops)
            if (l.area > least) m_out.regions.push_back({l, {}, 0});
        std::sort(m_out.regions.begin(), m_out.regions.end(),
                  [](const Region& a, const Region& b) { return a.outer.area > b.outer.area; });
        std::vector<Inside> faces;
        for (const Region& r : m_out.regions) faces.emplace_back(r.outer);
        for (const Loop& l : m_loops) {
            if (l.area > -least) continue;
            const Vec2 p = placeOn(l);
            for (std::size_t i = faces.size(); i-- > 0;) // the smallest that holds it: they are sorted
                if (faces[i].holds(p)) {
                    m_out.regions[i].holes.push_back(l);
                    break;
                }
        }
        for (std::size_t i = 0; i < faces.size(); ++i) {
            const Vec2 p = placeOn(m_out.regions[i].outer);
            m_out.regions[i].depth =
                static_cast<int>(std::count_if(faces.begin(), faces.begin() + static_cast<std::ptrdiff_t>(i),
                                               [&](const Inside& f) { return f.holds(p); }));
        }
    }

    static Vec2 placeOn(const Loop& loop) { return loop.sides.front().curve.at(0.37); }
};

} // namespace

Closedness findRegions(const Drawing& drawing, const ClosednessOptions& options) {
    Closedness c = Arrangement(drawing, options).find();
    markAreas(c.regions);
    return c;
}

bool mend(Drawing& drawing, const Trouble& trouble) {
    if (trouble.kind == TroubleKind::Gap && trouble.points.size() == 2) {
        for (const int p : trouble.points)
            if (!drawing.findPoint(p)) return false;
        drawing.relate(RelationKind::Coincident, trouble.points);
        return true;
    }
    if (trouble.kind == TroubleKind::Doubled && trouble.strokes.size() == 2 &&
        drawing.findStroke(trouble.strokes[1])) {
        drawing.erase({trouble.strokes[1]});
        return true;
    }
    return false;
}

} // namespace gc

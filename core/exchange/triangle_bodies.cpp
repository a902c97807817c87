#include "core/exchange/triangle_bodies.hpp"

#include "core/exchange/place_names.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRep_Builder.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

namespace gc {

namespace {

using Corners = std::array<int, 3>;
using Side = std::pair<int, int>;

/// Triangles by the numbers of their corners; corners that lie on each other are one.
struct Welded {
    std::vector<Vec3> points;
    std::vector<Corners> triangles;
    Vec3 at(int i) const { return points[static_cast<std::size_t>(i)]; }
};

Welded weld(const std::vector<Triangle>& all) {
    constexpr double kCell = 1e-4; // mm
    std::map<std::array<long long, 3>, int> known;
    Welded w;
    for (const Triangle& t : all) {
        Corners corners{};
        for (std::size_t k = 0; k < 3; ++k) {
            const std::array<long long, 3> cell{std::llround(t[k].x / kCell), std::llround(t[k].y / kCell),
                                                std::llround(t[k].z / kCell)};
            const auto at = known.emplace(cell, static_cast<int>(w.points.size()));
            if (at.second) w.points.push_back(t[k]);
            corners[k] = at.first->second;
        }
        if (corners[0] == corners[1] || corners[1] == corners[2] || corners[2] == corners[0]) continue;
        const Vec3 n = cross(w.at(corners[1]) - w.at(corners[0]), w.at(corners[2]) - w.at(corners[0]));
        if (length(n) > kCell * kCell) w.triangles.push_back(corners);
    }
    return w;
}

/// A piece that hangs together by sides which two triangles share.
struct Piece {
    std::vector<Corners> triangles;
    std::size_t open = 0; ///< sides that do not have one triangle on each side
    double volume = 0;    ///< mm^3, by the divergence theorem: negative where it looks inward
    Box box;
};

class Pieces {
  public:
    explicit Pieces(const Welded& w) : m_w(w) {
        for (std::size_t i = 0; i < w.triangles.size(); ++i)
            for (std::size_t k = 0; k < 3; ++k)
                m_at[std::minmax(w.triangles[i][k], w.triangles[i][(k + 1) % 3])].push_back(i);
    }

    std::vector<Piece> all() {
        std::vector<int> pieceOf(m_w.triangles.size(), -1);
        std::vector<Piece> out;
        for (std::size_t seed = 0; seed < pieceOf.size(); ++seed) {
            if (pieceOf[seed] >= 0) continue;
            const int number = static_cast<int>(out.size());
            Piece& piece = out.emplace_back();
            std::vector<std::size_t> next{seed};
            pieceOf[seed] = number;
            while (!next.empty()) {
                const std::size_t t = next.back();
                next.pop_back();
                take(t, piece, [&](std::size_t other) {
                    if (pieceOf[other] >= 0) return;
                    pieceOf[other] = number;
                    next.push_back(other);
                });
            }
        }
        return out;
    }

  private:
    template <class Visit>
    void take(std::size_t t, Piece& piece, Visit&& visit) const {
        const Corners& c = m_w.triangles[t];
        piece.triangles.push_back(c);
        piece.volume += dot(m_w.at(c[0]), cross(m_w.at(c[1]), m_w.at(c[2]))) / 6;
        for (std::size_t k = 0; k < 3; ++k) {
            piece.box.add(m_w.at(c[k]));
            const auto& beside = m_at.at(std::minmax(c[k], c[(k + 1) % 3]));
            if (beside.size() == 2) visit(beside[0] == t ? beside[1] : beside[0]);
            if (beside.size() != 2 ||
                runsAlong(beside[0], c[k], c[(k + 1) % 3]) == runsAlong(beside[1], c[k], c[(k + 1) % 3]))
                ++piece.open;
        }
    }
    bool runsAlong(std::size_t t, int a, int b) const {
        const Corners& c = m_w.triangles[t];
        return (c[0] == a && c[1] == b) || (c[1] == a && c[2] == b) || (c[2] == a && c[0] == b);
    }

    const Welded& m_w;
    std::map<Side, std::vector<std::size_t>> m_at; ///< the triangles at a side
};

/// Does a piece lie within another closed one? By the solid angle that this has around a corner of it (van
/// Oosterom and Strackee 1983).
bool isWithin(const Welded& w, const Piece& inner, const Piece& outer) {
    const Vec3 lo = inner.box.low - outer.box.low, hi = outer.box.high - inner.box.high;
    if (std::min({lo.x, lo.y, lo.z, hi.x, hi.y, hi.z}) <= 0) return false;
    const Vec3 from = w.at(inner.triangles.front()[0]);
    double sum = 0;
    for (const Corners& t : outer.triangles) {
        const Vec3 a = w.at(t[0]) - from, b = w.at(t[1]) - from, c = w.at(t[2]) - from;
        const double la = length(a), lb = length(b), lc = length(c);
        sum += 2 * std::atan2(dot(a, cross(b, c)),
                              la * lb * lc + dot(a, b) * lc + dot(b, c) * la + dot(c, a) * lb);
    }
    return std::fabs(sum) > 6; // 4 pi within, 0 without
}

class ShellMaker {
  public:
    explicit ShellMaker(const Welded& w) : m_w(w), m_corners(w.points.size()) {}

    TopoDS_Shell shell(const Piece& piece) {
        m_edges.clear(); // pieces that touch share nothing
        TopoDS_Shell out;
        m_builder.MakeShell(out);
        for (const Corners& t : piece.triangles) {
            TopoDS_Wire wire;
            m_builder.MakeWire(wire);
            for (std::size_t k = 0; k < 3; ++k) m_builder.Add(wire, edge(t[k], t[(k + 1) % 3]));
            wire.Closed(true);
            const Vec3 a = m_w.at(t[0]), n = unit(cross(m_w.at(t[1]) - a, m_w.at(t[2]) - a));
            const gp_Pln plane(gp_Pnt(a.x, a.y, a.z), gp_Dir(n.x, n.y, n.z));
            m_builder.Add(out, BRepBuilderAPI_MakeFace(plane, wire).Face());
        }
        out.Closed(piece.open == 0);
        return out;
    }

  private:
    const TopoDS_Vertex& corner(int i) {
        TopoDS_Vertex& v = m_corners[static_cast<std::size_t>(i)];
        if (v.IsNull()) m_builder.MakeVertex(v, gp_Pnt(m_w.at(i).x, m_w.at(i).y, m_w.at(i).z), 1e-5);
        return v;
    }
    TopoDS_Edge edge(int a, int b) {
        TopoDS_Edge& e = m_edges[std::minmax(a, b)];
        const auto [low, high] = std::minmax(a, b);
        if (e.IsNull()) e = BRepBuilderAPI_MakeEdge(corner(low), corner(high)).Edge();
        return TopoDS::Edge(a < b ? e : e.Reversed());
    }

    const Welded& m_w;
    BRep_Builder m_builder;
    std::vector<TopoDS_Vertex> m_corners;
    std::map<Side, TopoDS_Edge> m_edges;
};

void turnRound(Piece& piece) {
    for (Corners& t : piece.triangles) std::swap(t[1], t[2]);
    piece.volume = -piece.volume;
}

/// The solids and open shells that pieces make.
std::vector<TopoDS_Shape> shapesOf(const Welded& w, std::vector<Piece> pieces) {
    // What holds each: hollows look inward, all else outward, however often it is within others.
    std::vector<int> holder(pieces.size(), -1);
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (pieces[i].open > 0) continue;
        int around = 0;
        for (std::size_t k = 0; k < pieces.size(); ++k) {
            if (k == i || pieces[k].open > 0 || !isWithin(w, pieces[i], pieces[k])) continue;
            ++around;
            const double size = std::fabs(pieces[k].volume);
            if (holder[i] < 0 || size < std::fabs(pieces[static_cast<std::size_t>(holder[i])].volume))
                holder[i] = static_cast<int>(k);
        }
        if (around % 2 == 0 || pieces[i].volume > 0) holder[i] = -1; // a piece that lies loose in a hollow
        if ((pieces[i].volume < 0) != (holder[i] >= 0)) turnRound(pieces[i]);
    }
    BRep_Builder builder;
    ShellMaker maker(w);
    std::vector<TopoDS_Shape> out;
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (holder[i] >= 0) continue;
        if (pieces[i].open > 0) {
            out.push_back(maker.shell(pieces[i]));
            continue;
        }
        TopoDS_Solid solid;
        builder.MakeSolid(solid);
        builder.Add(solid, maker.shell(pieces[i]));
        for (std::size_t k = 0; k < pieces.size(); ++k)
            if (holder[k] == static_cast<int>(i)) builder.Add(solid, maker.shell(pieces[k]));
        out.push_back(solid);
    }
    return out;
}

Result<Body> bodyOf(const TopoDS_Shape& shape, int stepId, const std::string& kind) {
    return guarded("triangles.failed", "The triangles of the " + kind + " file make no body.",
                   [&]() -> Result<Body> {
                       ShapeUpgrade_UnifySameDomain unify(shape, true, true, false); // one plane, one face
                       unify.Build();
                       NameBuilder names(unify.Shape());
                       names.frame(stepId, Plane{{}, {1, 0, 0}, {0, 1, 0}});
                       nameByPlace(names, stepId);
                       return names.finish();
                   });
}

/// Parts of one surface may be kept as several objects: where they only close together they are one.
std::vector<TriangleObject> joined(const std::vector<TriangleObject>& objects) {
    const auto opens = [](const std::vector<Triangle>& t) {
        const Welded w = weld(t);
        const auto pieces = Pieces(w).all();
        return std::any_of(pieces.begin(), pieces.end(), [](const Piece& p) { return p.open > 0; });
    };
    if (objects.size() < 2 || std::none_of(objects.begin(), objects.end(),
                                           [&](const TriangleObject& o) { return opens(o.triangles); }))
        return objects;
    TriangleObject all = objects.front();
    for (std::size_t i = 1; i < objects.size(); ++i)
        all.triangles.insert(all.triangles.end(), objects[i].triangles.begin(), objects[i].triangles.end());
    return opens(all.triangles) ? objects : std::vector{all};
}

} // namespace

bool isPlace(const Vec3& v) {
    constexpr double kFar = 1e6;                                                    // mm
    return std::fabs(v.x) < kFar && std::fabs(v.y) < kFar && std::fabs(v.z) < kFar; // false for NaN
}

Result<std::vector<NamedBody>> bodiesOfTriangles(const std::vector<TriangleObject>& objects, int stepId,
                                                 const std::string& kind) {
    constexpr std::size_t kMostPieces = 200;
    const std::size_t count =
        std::accumulate(objects.begin(), objects.end(), std::size_t{0},
                        [](std::size_t n, const TriangleObject& o) { return n + o.triangles.size(); });
    if (count > kMostTriangles)
        return errorOf("triangles.large",
                       phrase("The %1 file has %2 triangles; up to %3 can be brought in. Export it coarser.",
                              kind, std::to_string(count), std::to_string(kMostTriangles)));
    std::vector<NamedBody> out;
    for (const TriangleObject& object : joined(objects)) {
        const Welded w = weld(object.triangles);
        const auto pieces = Pieces(w).all();
        if (out.size() + pieces.size() > kMostPieces)
            return errorOf(
                "triangles.pieces",
                phrase("The %1 file falls into more than %2 pieces that do not hang together. Join them "
                       "where it was made.",
                       kind, std::to_string(kMostPieces)));
        for (const TopoDS_Shape& shape : shapesOf(w, pieces)) {
            auto body = bodyOf(shape, stepId, kind);
            if (!body) return body.error();
            out.push_back({object.name, std::move(*body), object.colour});
        }
    }
    if (out.empty()) return errorOf("triangles.empty", phrase("The %1 file holds no triangles.", kind));
    return out;
}

} // namespace gc

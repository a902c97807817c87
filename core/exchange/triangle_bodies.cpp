#include "core/exchange/triangle_bodies.hpp"

#include "core/base/figure.hpp"
#include "core/base/triangle.hpp"
#include "core/exchange/place_names.hpp"

#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRep_Builder.hxx>
#include <ShapeUpgrade_UnifySameDomain.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

#include <meshoptimizer.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <optional>

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

using Sides = std::map<Side, std::vector<std::size_t>>;

/// The triangles at each side.
Sides sidesOf(const std::vector<Corners>& triangles) {
    Sides out;
    for (std::size_t i = 0; i < triangles.size(); ++i)
        for (std::size_t k = 0; k < 3; ++k)
            out[std::minmax(triangles[i][k], triangles[i][(k + 1) % 3])].push_back(i);
    return out;
}

/// The longest side of a triangle without height, by its first corner; nothing for a good one.
std::optional<std::size_t> longOfNeedle(const Welded& w, const Corners& t) {
    constexpr double kFlat = 1e-5; // mm
    std::size_t side = 0;
    double longest = 0;
    for (std::size_t k = 0; k < 3; ++k)
        if (const double l = length(w.at(t[(k + 1) % 3]) - w.at(t[k])); l > longest) longest = l, side = k;
    const Vec3 n = cross(w.at(t[1]) - w.at(t[0]), w.at(t[2]) - w.at(t[0]));
    return length(n) > kFlat * longest ? std::nullopt : std::optional(side);
}

/// Triangles without height are no faces, but without them their neighbours would not meet: the one at the
/// long side is divided at the corner that lies on it.
void mendNeedles(Welded& w) {
    constexpr int kRounds = 6; // needles may lie beside needles
    for (int round = 0; round < kRounds; ++round) {
        std::vector<std::pair<std::size_t, std::size_t>> needles;
        for (std::size_t i = 0; i < w.triangles.size(); ++i)
            if (const auto side = longOfNeedle(w, w.triangles[i])) needles.emplace_back(i, *side);
        if (needles.empty()) return;
        const Sides at = sidesOf(w.triangles);
        std::vector<bool> touched(w.triangles.size(), false), gone(w.triangles.size(), false);
        for (const auto& [i, k] : needles) {
            if (touched[i]) continue;
            const Corners needle = w.triangles[i];
            const int a = needle[k], c = needle[(k + 1) % 3], on = needle[(k + 2) % 3];
            const auto& beside = at.at(std::minmax(a, c));
            const std::size_t other = beside.size() == 2 ? (beside[0] == i ? beside[1] : beside[0]) : i;
            if (other != i && touched[other]) continue; // next time
            touched[i] = touched[other] = true;
            if (other == i || round + 1 == kRounds) {
                gone[i] = true;
                continue;
            }
            Corners whole = w.triangles[other];
            while (whole[2] == a || whole[2] == c) std::rotate(whole.begin(), whole.begin() + 1, whole.end());
            w.triangles[i] = {whole[0], on, whole[2]};
            w.triangles[other] = {on, whole[1], whole[2]};
        }
        std::vector<Corners> left;
        for (std::size_t i = 0; i < w.triangles.size(); ++i) {
            const Corners& t = w.triangles[i];
            if (!gone[i] && t[0] != t[1] && t[1] != t[2] && t[2] != t[0]) left.push_back(t);
        }
        w.triangles = std::move(left);
    }
}

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
        if (corners[0] != corners[1] && corners[1] != corners[2] && corners[2] != corners[0])
            w.triangles.push_back(corners);
    }
    mendNeedles(w);
    return w;
}

/// How far places that are gone lie from what is left, mm: the largest over some of them.
double farthestGone(const Welded& before, const std::vector<Corners>& now) {
    constexpr std::size_t kLooked = 400;
    std::vector<bool> stays(before.points.size(), false);
    for (const Corners& t : now)
        for (const int c : t) stays[static_cast<std::size_t>(c)] = true;
    std::vector<Vec3> gone;
    for (std::size_t i = 0; i < stays.size(); ++i)
        if (!stays[i]) gone.push_back(before.points[i]);
    double most = 0;
    for (std::size_t i = 0; i < gone.size(); i += std::max<std::size_t>(1, gone.size() / kLooked)) {
        double least = 1e300;
        for (const Corners& t : now)
            least = std::min(least, length(gone[i] - nearestOnTriangle(gone[i], before.at(t[0]),
                                                                       before.at(t[1]), before.at(t[2]))));
        most = std::max(most, least);
    }
    return most;
}

/// Fewer triangles, by joining neighbours where that changes least. \return what was done
std::vector<Message> makeCoarser(Welded& w, std::size_t most) {
    Box box;
    for (const Vec3& p : w.points) box.add(p);
    std::vector<float> places; // about the middle, where figures of that size are finest
    for (const Vec3& p : w.points)
        for (const double c : {p.x - box.centre().x, p.y - box.centre().y, p.z - box.centre().z})
            places.push_back(static_cast<float>(c));
    std::vector<unsigned> indices, fewer(3 * w.triangles.size());
    for (const Corners& t : w.triangles)
        for (const int c : t) indices.push_back(static_cast<unsigned>(c));
    constexpr float kLargest = 0.05F; // of the whole
    const std::size_t left = meshopt_simplify(fewer.data(), indices.data(), indices.size(), places.data(),
                                              w.points.size(), 3 * sizeof(float), 3 * most, kLargest);
    std::vector<Corners> now;
    for (std::size_t i = 0; i + 2 < left; i += 3)
        now.push_back(
            {static_cast<int>(fewer[i]), static_cast<int>(fewer[i + 1]), static_cast<int>(fewer[i + 2])});
    if (now.size() >= w.triangles.size()) return {};
    const std::string was = std::to_string(w.triangles.size());
    const double off = farthestGone(w, now);
    w.triangles = std::move(now);
    mendNeedles(w);
    return {phrase("its %1 triangles were made %2, which stay within about %3 mm of them.", was,
                   std::to_string(w.triangles.size()), figureOf(off, 2))};
}

/// A piece that hangs together by sides which two triangles share.
struct Piece {
    std::vector<Corners> triangles;
    std::size_t open = 0; ///< sides that do not have one triangle on each side
    double volume = 0;    ///< mm^3, by the divergence theorem: negative where it looks inward
    Box box;
};

/// Pieces of triangles that share sides two by two. Within a piece they are turned to look the same way.
class Pieces {
  public:
    explicit Pieces(const Welded& w) : m_w(w), m_corners(w.triangles), m_at(sidesOf(w.triangles)) {}

    std::vector<Piece> all() {
        std::vector<bool> taken(m_corners.size(), false);
        std::vector<Piece> out;
        for (std::size_t seed = 0; seed < taken.size(); ++seed) {
            if (taken[seed]) continue;
            taken[seed] = true;
            std::vector<std::size_t> members{seed};
            for (std::size_t next = 0; next < members.size(); ++next) visit(members[next], taken, members);
            Piece piece = pieceOf(members);
            constexpr double kNothing = 1e-6; // mm^3: triangles laid double
            if (piece.open > 0 || std::fabs(piece.volume) > kNothing) out.push_back(std::move(piece));
        }
        return out;
    }

  private:
    void visit(std::size_t t, std::vector<bool>& taken, std::vector<std::size_t>& members) {
        const Corners c = m_corners[t];
        for (std::size_t k = 0; k < 3; ++k) {
            const int a = c[k], b = c[(k + 1) % 3];
            const auto& beside = m_at.at(std::minmax(a, b));
            if (beside.size() != 2) continue;
            const std::size_t other = beside[0] == t ? beside[1] : beside[0];
            if (taken[other]) continue;
            if (runsAlong(other, a, b)) std::swap(m_corners[other][1], m_corners[other][2]);
            taken[other] = true;
            members.push_back(other);
        }
    }
    Piece pieceOf(const std::vector<std::size_t>& members) const {
        Piece piece;
        std::map<Side, std::pair<int, int>> crowded; // where pieces touch: how this one runs along it
        for (const std::size_t t : members) {
            const Corners& c = m_corners[t];
            piece.triangles.push_back(c);
            piece.volume += dot(m_w.at(c[0]), cross(m_w.at(c[1]), m_w.at(c[2]))) / 6;
            for (std::size_t k = 0; k < 3; ++k) {
                const int a = c[k], b = c[(k + 1) % 3];
                piece.box.add(m_w.at(a));
                const auto& beside = m_at.at(std::minmax(a, b));
                if (beside.size() != 2)
                    ++(a < b ? crowded[{a, b}].first : crowded[{b, a}].second);
                else
                    piece.open += runsAlong(beside[0], a, b) == runsAlong(beside[1], a, b);
            }
        }
        for (const auto& [side, ways] : crowded)
            if (ways != std::pair{1, 1}) piece.open += static_cast<std::size_t>(ways.first + ways.second);
        return piece;
    }
    bool runsAlong(std::size_t t, int a, int b) const {
        const Corners& c = m_corners[t];
        return (c[0] == a && c[1] == b) || (c[1] == a && c[2] == b) || (c[2] == a && c[0] == b);
    }

    const Welded& m_w;
    std::vector<Corners> m_corners;
    Sides m_at;
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
    std::vector<TopoDS_Shell> open; // however many there are: one surface
    for (std::size_t i = 0; i < pieces.size(); ++i) {
        if (holder[i] >= 0) continue;
        if (pieces[i].open > 0) {
            open.push_back(maker.shell(pieces[i]));
            continue;
        }
        TopoDS_Solid solid;
        builder.MakeSolid(solid);
        builder.Add(solid, maker.shell(pieces[i]));
        for (std::size_t k = 0; k < pieces.size(); ++k)
            if (holder[k] == static_cast<int>(i)) builder.Add(solid, maker.shell(pieces[k]));
        out.push_back(solid);
    }
    if (open.size() == 1) out.push_back(open.front());
    if (open.size() > 1) {
        TopoDS_Compound all;
        builder.MakeCompound(all);
        for (const TopoDS_Shell& s : open) builder.Add(all, s);
        out.push_back(all);
    }
    return out;
}

Result<Body> bodyOf(const TopoDS_Shape& shape, int stepId, const std::string& kind) {
    return guarded("triangles.failed", "The triangles of the " + kind + " file make no body.",
                   [&]() -> Result<Body> {
                       // One plane, one face. Joining edges of open shells takes the kernel minutes.
                       const bool solid = shape.ShapeType() == TopAbs_SOLID;
                       ShapeUpgrade_UnifySameDomain unify(shape, solid, true, false);
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
    if (count > kMostRead)
        return errorOf("triangles.large",
                       phrase("The %1 file has %2 triangles; up to %3 can be brought in. Export it coarser.",
                              kind, std::to_string(count), std::to_string(kMostRead)));
    std::vector<NamedBody> out;
    for (const TriangleObject& object : joined(objects)) {
        Welded w = weld(object.triangles);
        std::vector<Message> notes;
        if (count > kMostTriangles) notes = makeCoarser(w, kMostTriangles * w.triangles.size() / count);
        const auto pieces = Pieces(w).all();
        const auto closed = static_cast<std::size_t>(
            std::count_if(pieces.begin(), pieces.end(), [](const Piece& p) { return p.open == 0; }));
        if (out.size() + closed > kMostPieces)
            return errorOf(
                "triangles.pieces",
                phrase("The %1 file falls into more than %2 pieces that do not hang together. Join them "
                       "where it was made.",
                       kind, std::to_string(kMostPieces)));
        const auto shapes =
            guarded("triangles.failed", "The triangles of the " + kind + " file make no body.",
                    [&]() -> Result<std::vector<TopoDS_Shape>> { return shapesOf(w, pieces); });
        if (!shapes) return shapes.error();
        for (const TopoDS_Shape& shape : *shapes) {
            auto body = bodyOf(shape, stepId, kind);
            if (!body) return body.error();
            out.push_back({object.name, std::move(*body), object.colour, std::move(notes)});
            notes.clear(); // said once
        }
    }
    if (out.empty()) return errorOf("triangles.empty", phrase("The %1 file holds no triangles.", kind));
    return out;
}

} // namespace gc

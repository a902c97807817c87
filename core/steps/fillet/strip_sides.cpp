#include "core/steps/fillet/strip_sides.hpp"

#include "core/shape/foot_point.hpp"
#include "core/steps/shared/edge_work.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRep_Tool.hxx>
#include <GeomAPI_ProjectPointOnCurve.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

std::vector<EdgeLoop> loopsOf(const std::vector<TopoDS_Face>& faces) {
    EdgeLoop all, rest;
    for (const TopoDS_Face& face : faces)
        for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
            const TopoDS_Edge e = TopoDS::Edge(x.Current());
            if (!BRep_Tool::Degenerated(e) && !BRep_Tool::IsClosed(e, face)) all.push_back(e);
        }
    std::copy_if(all.begin(), all.end(), std::back_inserter(rest), [&](const TopoDS_Edge& e) {
        return std::count_if(all.begin(), all.end(), [&](const TopoDS_Edge& o) { return o.IsSame(e); }) == 1;
    });
    std::vector<EdgeLoop> out;
    while (!rest.empty()) {
        EdgeLoop loop{rest.front()};
        rest.erase(rest.begin());
        const TopoDS_Vertex begin = TopExp::FirstVertex(loop.front(), true);
        while (!TopExp::LastVertex(loop.back(), true).IsSame(begin)) {
            const TopoDS_Vertex end = TopExp::LastVertex(loop.back(), true);
            const auto next = std::find_if(rest.begin(), rest.end(), [&](const TopoDS_Edge& e) {
                return TopExp::FirstVertex(e, true).IsSame(end);
            });
            if (next == rest.end()) return {};
            loop.push_back(*next);
            rest.erase(next);
        }
        out.push_back(std::move(loop));
    }
    return out;
}

namespace {

constexpr double kTurned = 0.35; // rad: a corner of the face, not a bend of it

Error notAStrip() {
    return errorOf("fullround.shape",
                   "A full round needs a face with two sides along it: a lip that runs all the way round, or "
                   "the top of a rib with two ends. This face is another shape; round its edges instead.");
}

LengthCurve asRun(const TopoDS_Edge& e) {
    return LengthCurve::of(TopoDS::Edge(e.Oriented(TopAbs_FORWARD)), e.Orientation() == TopAbs_REVERSED);
}

double lengthOf(const EdgeLoop& loop) {
    double out = 0;
    for (const TopoDS_Edge& e : loop) out += asRun(e).length();
    return out;
}

EdgeLoop reversed(const EdgeLoop& loop) {
    EdgeLoop out;
    for (auto it = loop.rbegin(); it != loop.rend(); ++it) out.push_back(TopoDS::Edge(it->Reversed()));
    return out;
}

class Sides {
  public:
    Sides(const NamedShape& shape, const std::vector<TopoDS_Face>& faces) : m_shape(shape), m_faces(faces) {
        TopExp::MapShapesAndAncestors(shape.shape, TopAbs_VERTEX, TopAbs_EDGE, m_edgesAt);
        for (const TopoDS_Face& face : faces) TopExp::MapShapes(face, TopAbs_EDGE, m_own);
    }

    Result<StripSides> find() {
        const auto loops = loopsOf(m_faces);
        StripSides out;
        EdgeLoop first, second;
        if (loops.size() == 2) {
            // From the inner one the nearest place is never in doubt: it bends away from the strip.
            const bool swap = lengthOf(loops[0]) > lengthOf(loops[1]);
            first = loops[swap ? 1 : 0];
            second = reversed(loops[swap ? 0 : 1]);
            out.closed = true;
        } else if (loops.size() == 1) {
            const auto four = split(loops.front());
            if (four.size() != 4) return notAStrip();
            const bool turn = lengthOf(four[0]) + lengthOf(four[2]) < lengthOf(four[1]) + lengthOf(four[3]);
            const std::size_t from = turn ? 1 : 0;
            first = four[from];
            second = reversed(four[from + 2]);
            const EdgeLoop &last = four[from + 1], &begin = four[(from + 3) % 4];
            if (last.size() != 1 || begin.size() != 1)
                return errorOf("fullround.ends", "A full round needs an end of one flat face. This one has "
                                                 "several.");
            out.ends = {begin.front(), last.front()};
        } else
            return notAStrip();
        for (std::size_t s = 0; s < 2; ++s) {
            auto side = sideOf(s == 0 ? first : second, out.closed);
            if (!side) return side.error();
            out.sides[s] = std::move(*side);
        }
        return out;
    }

  private:
    /// A loop cut where it turns, begun at such a place.
    static std::vector<EdgeLoop> split(const EdgeLoop& loop) {
        std::vector<std::size_t> corners;
        for (std::size_t i = 0; i < loop.size(); ++i) {
            const LengthCurve before = asRun(loop[(i + loop.size() - 1) % loop.size()]), now = asRun(loop[i]);
            if (before.tangent(before.length()).Angle(now.tangent(0)) > kTurned) corners.push_back(i);
        }
        std::vector<EdgeLoop> out;
        for (std::size_t k = 0; k < corners.size(); ++k) {
            EdgeLoop part;
            const std::size_t to = corners[(k + 1) % corners.size()];
            for (std::size_t i = corners[k]; part.empty() || i != to; i = (i + 1) % loop.size())
                part.push_back(loop[i]);
            out.push_back(std::move(part));
        }
        return out;
    }

    Result<StripSide> sideOf(const EdgeLoop& loop, bool closed) const {
        StripSide out;
        std::vector<PathPiece> pieces;
        for (const TopoDS_Edge& e : loop) {
            const TopoDS_Face over = faceOf(e);
            const TopoDS_Face wall = faceAcross(m_shape, e, over);
            if (wall.IsNull()) return notAStrip();
            out.edges.push_back(e);
            out.overs.push_back(over);
            out.walls.push_back(wall);
            pieces.push_back({asRun(e), static_cast<int>(pieces.size())});
            auto joint = jointAt(TopExp::FirstVertex(e, true));
            if (!joint) return joint.error();
            out.joints.push_back(*joint);
        }
        if (!closed) {
            auto joint = jointAt(TopExp::LastVertex(loop.back(), true));
            if (!joint) return joint.error();
            out.joints.push_back(*joint);
        }
        for (std::size_t i = closed ? 0 : 1; i < pieces.size(); ++i) {
            const LengthCurve &before = pieces[(i + pieces.size() - 1) % pieces.size()].curve,
                              &now = pieces[i].curve;
            if (before.tangent(before.length()).Angle(now.tangent(0)) < kTurned / 10) continue;
            Error e =
                errorOf("fullround.corner",
                        "A full round cannot go round this corner: it is not the same before it as after it. "
                        "Round the upright edges there first, inside and outside.");
            e.place = toVec(now.start());
            return e;
        }
        out.path.emplace(std::move(pieces), closed);
        return out;
    }

    /// The strip's own face beside a border of it.
    TopoDS_Face faceOf(const TopoDS_Edge& border) const {
        return *std::find_if(m_faces.begin(), m_faces.end(),
                             [&](const TopoDS_Face& f) { return !asIn(f, border).IsNull(); });
    }

    Result<SideJoint> jointAt(const TopoDS_Vertex& corner) const {
        SideJoint out{corner, {}};
        TopTools_IndexedMapOfShape down;
        for (const TopoDS_Shape& e : toVector(m_edgesAt.FindFromKey(corner)))
            if (!m_own.Contains(e) && !BRep_Tool::Degenerated(TopoDS::Edge(e))) down.Add(e);
        if (down.Extent() > 1) {
            Error e =
                errorOf("fullround.corner", "A full round cannot end where more than three faces meet.");
            e.place = toVec(BRep_Tool::Pnt(corner));
            return e;
        }
        if (!down.IsEmpty()) out.down = TopoDS::Edge(down(1));
        return out;
    }

    const NamedShape& m_shape;
    std::vector<TopoDS_Face> m_faces;
    TopTools_IndexedDataMapOfShapeListOfShape m_edgesAt;
    TopTools_IndexedMapOfShape m_own;
};

} // namespace

double wrappedOn(const Path& path, double s) {
    if (!path.closed()) return std::clamp(s, 0.0, path.length());
    s = std::fmod(s, path.length());
    return s < 0 ? s + path.length() : s;
}

double nearestOn(const Path& path, const gp_Pnt& p) {
    constexpr int kPlaces = 400;
    double best = 0, least = 1e300;
    for (int i = 0; i <= kPlaces; ++i) {
        const double s = path.length() * i / kPlaces, d = path.at(s).Distance(p);
        if (d < least) least = d, best = s;
    }
    const double h = 1e-4 * path.length();
    const auto f = [&](double s) {
        const double at = wrappedOn(path, s);
        return gp_Vec(p, path.at(at)).Dot(path.tangent(at));
    };
    for (int k = 0; k < 20; ++k) {
        const double slope = (f(best + h) - f(best - h)) / (2 * h);
        if (std::fabs(slope) < 1e-6) break;
        const double step = std::clamp(-f(best) / slope, -10 * h, 10 * h);
        best += step;
        if (std::fabs(step) < 1e-10) break;
    }
    return wrappedOn(path, best);
}

gp_Pnt2d placeBeside(const TopoDS_Edge& edge, const TopoDS_Face& face, double parameter) {
    double a = 0, b = 0;
    return BRep_Tool::CurveOnSurface(edge, face, a, b)->Value(parameter);
}

std::optional<double> downTo(const SideJoint& joint, const gp_Pnt& p, double off) {
    double a = 0, b = 0;
    const Handle(Geom_Curve) curve = BRep_Tool::Curve(joint.down, a, b);
    const GeomAPI_ProjectPointOnCurve at(p, curve, a, b);
    if (at.NbPoints() == 0 || at.LowerDistance() > off) return std::nullopt;
    const double t = at.LowerDistanceParameter(), most = 1e-6 * (b - a);
    if (t < a + most || t > b - most) return std::nullopt;
    return t;
}

std::optional<SeamAtEnd> seamAtEnd(const NamedShape& shape, const TopoDS_Face& strip) {
    std::optional<SeamAtEnd> out;
    for (const std::vector<TopoDS_Edge>& loop : loopsOf({strip}))
        for (std::size_t i = 0; loop.size() > 1 && i < loop.size(); ++i) {
            const TopoDS_Face wall = faceAcross(shape, loop[i], strip);
            if (wall.IsNull() || !wall.IsSame(faceAcross(shape, loop[(i + 1) % loop.size()], strip)) ||
                BRepAdaptor_Surface(wall, false).GetType() == GeomAbs_Plane)
                continue;
            if (!out) out = SeamAtEnd{shape.faces.FindIndex(wall) - 1, {}};
            out->corners.Add(TopExp::LastVertex(loop[i], true));
        }
    return out;
}

Result<StripSides> sidesOf(const NamedShape& shape, const std::vector<TopoDS_Face>& faces) {
    return Sides(shape, faces).find();
}

gp_Pnt2d StripSide::onWall(double s) const {
    const auto [piece, from] = path->pieceAt(s);
    return placeBeside(edges[piece], walls[piece], path->pieces()[piece].curve.parameterAt(from));
}

gp_Pnt2d StripSide::onStrip(double s) const {
    const auto [piece, from] = path->pieceAt(s);
    return placeBeside(edges[piece], overs[piece], path->pieces()[piece].curve.parameterAt(from));
}

double StripSide::startOf(std::size_t edge) const {
    double s = 0;
    for (std::size_t i = 0; i < edge; ++i) s += path->pieces()[i].curve.length();
    return s;
}

} // namespace gc

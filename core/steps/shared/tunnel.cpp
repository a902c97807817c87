#include "core/steps/shared/tunnel.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/laid_line.hpp"

#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_Plane.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <gp_Ax3.hxx>

#include <algorithm>

namespace gc {

namespace {

/// The two walls that a straight line meets first.
struct TwoHits {
    Hit in, out;
};

class TwoWallsAhead {
  public:
    TwoWallsAhead(const NamedShape& shape, const StraightLooks& looks, bool ahead)
        : m_shape(shape), m_looks(looks), m_ahead(ahead) {}
    std::optional<TwoHits> under(Vec2 place) const {
        auto all = m_looks.through(place);
        if (!m_ahead) std::reverse(all.begin(), all.end());
        std::vector<Hit> hits;
        for (const StraightLooks::Met& m : all) {
            const double far = m.height * (m_ahead ? 1 : -1);
            if (far > -kOn) hits.push_back({TopoDS::Face(m_shape.faces(m.face + 1)), m.uv, far});
        }
        if (hits.size() < 2) return std::nullopt;
        return TwoHits{hits[0], hits[1]};
    }

  private:
    static constexpr double kOn = 3 * StraightLooks::kDeviation; // mm: on it counts as ahead
    const NamedShape& m_shape;
    const StraightLooks& m_looks;
    bool m_ahead;
};

/// An opening with the walls that it lies within.
struct Through {
    LaidArea in, out;
};

std::optional<Through> throughWalls(const Region& area, const TwoWallsAhead& walls, const LayingBy& by) {
    constexpr int kLooks =
        6; // along each side: all of them see the same two walls, and nothing before or between
    const ReliefShape shape{-1, 0, gp_Dir(0, 0, 1)};
    const Vec2 place = area.outer.sides.front().curve.at(0);
    const auto first = walls.under(place);
    if (!first || first->in.face.IsSame(first->out.face)) return std::nullopt;
    for (const gc::Side& s : area.outer.sides)
        for (int k = 0; k < kLooks; ++k) {
            const auto hits = walls.under(s.curve.at(double(k) / kLooks));
            if (!hits || !hits->in.face.IsSame(first->in.face) || !hits->out.face.IsSame(first->out.face))
                return std::nullopt;
        }
    auto in = layOn(area, place, first->in, by, shape), out = layOn(area, place, first->out, by, shape);
    if (!in || !out || !in->within || !out->within || in->overSeam || out->overSeam) return std::nullopt;
    return Through{std::move(*in), std::move(*out)};
}

struct TunnelSide {
    LaidLine near, far;             ///< on the walls
    LaidLine onSideNear, onSideFar; ///< the same lines in the side's own parameters
    Handle(Geom_Surface) surface;
    double from = 0, to = 1; ///< the side's first parameter along the line
    bool closed = false;
};

/// What a straight opening makes: a hole in each wall, and its sides.
struct Tunnel {
    TopoDS_Wire in, out;
    std::vector<TopoDS_Face> sides;
};

class TunnelMaker {
  public:
    TunnelMaker(const Through& through, const Plane& drawing)
        : m_through(through), m_drawing(drawing),
          m_in(TopoDS::Face(through.in.wall.Oriented(TopAbs_FORWARD))),
          m_out(TopoDS::Face(through.out.wall.Oriented(TopAbs_FORWARD))),
          m_inSurface(BRep_Tool::Surface(m_in)), m_outSurface(BRep_Tool::Surface(m_out)) {}

    std::optional<Tunnel> run(const Region& area) {
        for (const gc::Side& s : area.outer.sides) {
            auto side = laid(s.curve);
            if (!side) return std::nullopt;
            side->closed = area.outer.sides.size() == 1;
            m_sides.push_back(std::move(*side));
        }
        addSides();
        return std::move(m_made);
    }

  private:
    double heightOf(const gp_Pnt& p) const { return m_drawing.before(toVec(p)); }

    /// Cylinders over arcs, planes over lines, both with the second parameter along the drawing's normal.
    void setSurface(TunnelSide& side, const Curve2& c) const {
        const gp_Dir n(directionIn(m_drawing.normal()));
        if (c.kind == Curve2::Kind::Line) {
            const gp_Dir along(directionIn(m_drawing.at(c.p[1]) - m_drawing.at(c.p[0])));
            side.surface = new Geom_Plane(gp_Ax3(placeIn(m_drawing.at(c.p[0])), along.Crossed(n), along));
            side.to = length(c.p[1] - c.p[0]);
        } else {
            side.surface = new Geom_CylindricalSurface(
                gp_Ax3(placeIn(m_drawing.at(c.p[0])), n, gp_Dir(directionIn(m_drawing.across))),
                length(c.p[1]));
            side.from = c.from, side.to = c.from + c.turn;
        }
    }

    std::optional<TunnelSide> laid(const Curve2& c) const {
        TunnelSide out;
        setSurface(out, c);
        const auto scaleOf = [&](const Laying& laying, const Handle(Geom_Surface) & surface) {
            const auto about = laying.at(c.at(0));
            const SurfacePlace p = placeOf(*surface, about.value_or(gp_Pnt2d()));
            return gp_Vec2d(std::max(1e-6, p.du.Magnitude()), std::max(1e-6, p.dv.Magnitude()));
        };
        const gp_Vec2d inScale = scaleOf(*m_through.in.laying, m_inSurface),
                       outScale = scaleOf(*m_through.out.laying, m_outSurface);
        bool missed = false;
        const auto six = [&](double t) {
            const Vec2 place = c.at(t);
            std::vector<gp_Pnt> all;
            for (const bool in : {true, false}) {
                const auto uv = (in ? m_through.in : m_through.out).laying->at(place);
                missed |= !uv;
                const gp_Pnt2d at = uv.value_or(gp_Pnt2d());
                const gp_Vec2d& scale = in ? inScale : outScale;
                const gp_Pnt p = (in ? m_inSurface : m_outSurface)->Value(at.X(), at.Y());
                all.push_back(p);
                all.emplace_back(at.X() * scale.X(), at.Y() * scale.Y(), 0);
                all.emplace_back(out.from + (out.to - out.from) * t, heightOf(p), 0);
            }
            return all;
        };
        constexpr int kMost = 400;
        const auto direction =
            directionFor({0, 1}, six, {kSurfaceFit, 10 * kSurfaceFit, 100 * kSurfaceFit}, kMost);
        if (!direction || missed) return std::nullopt;
        const auto curves = curvesThrough(*direction, six);
        const gp_Vec2d one(1, 1);
        out.near = {curves[0], inParameters(curves[1], inScale)};
        out.far = {curves[3], inParameters(curves[4], outScale)};
        out.onSideNear = {curves[0], inParameters(curves[2], one)};
        out.onSideFar = {curves[3], inParameters(curves[5], one)};
        out.near.off = std::max(offBetween(out.near, m_inSurface), offBetween(out.onSideNear, out.surface));
        out.far.off = std::max(offBetween(out.far, m_outSurface), offBetween(out.onSideFar, out.surface));
        return out;
    }

    void addSides() {
        std::vector<LaidLine> feet, crests;
        for (const TunnelSide& s : m_sides) feet.push_back(s.near), crests.push_back(s.far);
        const LaidLoop loop = laidLoop(feet, crests, m_in, m_out);
        // Holes run clockwise in their walls' parameters.
        m_made.in = wireOf(loop.foot, turnOf(feet) > 0);
        m_made.out = wireOf(loop.crest, turnOf(crests) > 0);
        for (std::size_t i = 0; i < m_sides.size(); ++i) addSide(m_sides[i], loop, i);
    }

    void addSide(const TunnelSide& side, const LaidLoop& loop, std::size_t i) {
        const TopoDS_Edge &foot = loop.foot[i], &crest = loop.crest[i], &before = loop.up[i],
                          &after = loop.up[(i + 1) % loop.up.size()];
        TopoDS_Face face;
        m_builder.MakeFace(face, side.surface, kKernelPoint);
        m_builder.UpdateEdge(foot, side.onSideNear.laid, face, side.near.off);
        m_builder.UpdateEdge(crest, side.onSideFar.laid, face, side.far.off);
        const bool rises = heightOf(side.far.start()) > heightOf(side.near.start());
        const auto upAt = [&](double u, const TopoDS_Edge& e) {
            double a = 0, b = 0;
            BRep_Tool::Range(e, a, b);
            const gp_Pnt foothold = BRep_Tool::Pnt(TopoDS::Vertex(TopoDS_Iterator(e).Value()));
            const double from = heightOf(foothold);
            return straightLaid({u, from}, {u, from + (rises ? b - a : a - b)}, a, b);
        };
        const double tolerance = side.near.off + side.far.off;
        if (side.closed) {
            // First as it runs forward in the face, whose border is turned below where it goes down.
            m_builder.UpdateEdge(after, upAt(rises ? side.to : side.from, after),
                                 upAt(rises ? side.from : side.to, after), face, tolerance);
        } else {
            m_builder.UpdateEdge(after, upAt(side.to, after), face, tolerance);
            m_builder.UpdateEdge(before, upAt(side.from, before), face, tolerance);
        }
        const TopoDS_Wire border = borderOfSide(loop, i);
        m_builder.Add(face, rises ? TopoDS_Shape(border) : border.Reversed());
        // Its surface looks away from the opening, into the material.
        m_made.sides.push_back(TopoDS::Face(face.Reversed()));
    }

    const Through& m_through;
    Plane m_drawing;
    TopoDS_Face m_in, m_out;
    Handle(Geom_Surface) m_inSurface, m_outSurface;
    BRep_Builder m_builder;
    std::vector<TunnelSide> m_sides;
    Tunnel m_made;
};

/// Which of the body's shells a face is of.
int shellOf(const TopoDS_Shape& solid, const TopoDS_Face& face) {
    int k = 0;
    for (TopoDS_Iterator s(solid); s.More(); s.Next(), ++k)
        for (TopoDS_Iterator f(s.Value()); f.More(); f.Next())
            if (f.Value().IsSame(face)) return k;
    return -1;
}

Hosted& hostFor(std::vector<Hosted>& hosts, const TopoDS_Face& face) {
    for (Hosted& h : hosts)
        if (h.face.IsSame(face)) return h;
    hosts.push_back({face, {}});
    return hosts.back();
}

} // namespace

std::optional<Tunnelled> tunnelled(const Body& body, const StraightLooks& looks, bool ahead,
                                   const std::vector<Opened>& openings, int step) {
    const NamedShape& shape = body.shape();
    if (shape.shape.ShapeType() != TopAbs_SOLID) return std::nullopt;
    if (!looks.good()) return std::nullopt;
    const Plane& drawing = looks.plane();
    const TwoWallsAhead walls(shape, looks, ahead);
    LayingBy by;
    by.drawing = drawing;
    by.ahead = ahead;
    std::vector<std::size_t> left;
    std::vector<Hosted> hosts;
    for (std::size_t i = 0; i < openings.size(); ++i) {
        const auto through = throughWalls(openings[i].area, walls, by);
        auto tunnel =
            through && shellOf(shape.shape, through->in.wall) == shellOf(shape.shape, through->out.wall)
                ? TunnelMaker(*through, drawing).run(openings[i].area)
                : std::nullopt;
        if (!tunnel) {
            left.push_back(i);
            continue;
        }
        hostFor(hosts, through->out.wall).loops.push_back(tunnel->out);
        Hosted& in = hostFor(hosts, through->in.wall); // asked for last: the list may have moved
        in.loops.push_back(tunnel->in);
        for (const TopoDS_Face& s : tunnel->sides) in.besides.push_back({s, {openings[i].role}});
    }
    if (hosts.empty()) return Tunnelled{body, left};
    Outline outline;
    outline.plane = drawing;
    auto made = setReliefs(shape, hosts, outline, step);
    if (!made) return std::nullopt;
    return Tunnelled{std::move(*made), std::move(left)};
}

} // namespace gc

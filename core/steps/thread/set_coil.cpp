#include "core/steps/thread/set_coil.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/foot_point.hpp"
#include "core/steps/shared/exchanged.hpp"
#include "core/steps/shared/laid_line.hpp"
#include "core/steps/thread/wall_with_seam.hpp"

#include <BOPAlgo_BuilderFace.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_Line.hxx>
#include <Geom_Plane.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr int kMostPoles = 2000;

void addTo(const TopoDS_Edge& edge, const Handle(Geom2d_Curve) & on, const TopoDS_Face& face, double off) {
    BRep_Builder().UpdateEdge(edge, on, face, off);
}

/// Closes a face by edges in the order of the walk. \param back whether each is walked against itself
void closeBy(TopoDS_Face& face, const std::vector<std::pair<TopoDS_Edge, bool>>& edges) {
    const BRep_Builder builder;
    TopoDS_Wire wire;
    builder.MakeWire(wire);
    double turn = 0;
    std::optional<gp_Pnt2d> first, last;
    const auto walk = [&](const gp_Pnt2d& p) {
        if (!first) first = p;
        if (last)
            turn += (last->X() - first->X()) * (p.Y() - first->Y()) -
                    (p.X() - first->X()) * (last->Y() - first->Y());
        last = p;
    };
    for (const auto& [edge, back] : edges) {
        constexpr int kPlaces = 24;
        double a = 0, b = 0;
        const Handle(Geom2d_Curve) on = BRep_Tool::CurveOnSurface(edge, face, a, b);
        for (int i = 0; i <= kPlaces; ++i) {
            const double share = double(i) / kPlaces;
            walk(on->Value(back ? b + (a - b) * share : a + (b - a) * share));
        }
        builder.Add(wire, edge.Oriented(back ? TopAbs_REVERSED : TopAbs_FORWARD));
    }
    wire.Closed(true);
    builder.Add(face, turn < 0 ? wire.Reversed() : wire);
}

/// One coil: its faces with their edges, and its loop on the wall.
class Setting {
  public:
    Setting(const CoilShape& shape, WallWithSeam& wall) : m_shape(shape), m_wall(wall), m_coil(shape.coil()) {
        const BRep_Builder builder;
        for (int k = 0; k < 3; ++k)
            builder.MakeFace(m_faces[k], shape.strips()[std::size_t(k)].surface, kKernelPoint);
    }

    bool run() {
        m_square = m_coil.runout <= 0;
        m_begin = m_square ? 0 : meets(flankTop());
        m_end = m_shape.all() - m_begin;
        if (m_end - m_begin < 0.1 || !placeOnWall()) return false;
        for (const bool upper : {false, true}) {
            if (!walkFoot(upper)) return false;
            crestEdge(upper);
        }
        for (const bool ending : {false, true})
            if (m_square ? !squareEnd(ending) : !tip(ending)) return false;
        closeFaces();
        return true;
    }

    /// As they lie in the body, with their roles.
    std::vector<std::pair<TopoDS_Shape, std::string>> faces() const {
        std::vector<std::pair<TopoDS_Shape, std::string>> out;
        const double middle = 0.5 * m_shape.all(), deep = 0.5 * m_coil.depth;
        const gp_Pnt within = m_shape.at(middle, deep, 0);
        for (int k = 0; k < 3; ++k) {
            const CoilStrip& strip = m_shape.strips()[std::size_t(k)];
            out.emplace_back(turnedFrom(m_faces[k],
                                        {k == 0   ? 0.9
                                         : k == 1 ? 0.5
                                                  : 0.1,
                                         middle},
                                        within),
                             strip.role);
        }
        for (int k = 0; m_square && k < 2; ++k)
            out.emplace_back(turnedFrom(m_ends[k], {0, 0}, within), k == 0 ? "beginning" : "ending");
        return out;
    }
    /// As the wall has it, taken forward: what it encloses is not the wall's.
    std::vector<TopoDS_Edge> loop() const {
        std::vector<TopoDS_Edge> out;
        const bool left = m_turn > 0; // counter-clockwise as it is walked
        const auto add = [&](const TopoDS_Edge& e, bool back) {
            out.push_back(TopoDS::Edge(e.Oriented(back != left ? TopAbs_REVERSED : TopAbs_FORWARD)));
        };
        for (const TopoDS_Edge& e : m_foot[0]) add(e, false);
        add(m_onWall[1], false);
        for (const TopoDS_Edge& e : m_foot[1]) add(e, true);
        add(m_onWall[0], true);
        return out;
    }

  private:
    /// Looking away from a place within the coil, or towards it where that is air.
    TopoDS_Shape turnedFrom(const TopoDS_Face& face, const gp_Pnt2d& at, const gp_Pnt& within) const {
        const SurfacePlace p = placeOf(*BRep_Tool::Surface(face), at);
        const bool away = gp_Vec(within, p.at) * p.du.Crossed(p.dv) > 0;
        return face.Oriented(away != m_coil.cut ? TopAbs_FORWARD : TopAbs_REVERSED);
    }
    const CoilPlace& flankTop() const { return m_shape.strips()[0].poles.back(); }
    const CoilPlace& flankFoot() const { return m_shape.strips()[0].poles.front(); }

    /// The angle at which a line comes out of the wall. The share of the run-out by bisection.
    double meets(const CoilPlace& place) const {
        double low = 0, high = m_coil.runout;
        for (int k = 0; k < 60; ++k) {
            const double middle = 0.5 * (low + high);
            (m_shape.depthAt(middle, place) < 0 ? low : high) = middle;
        }
        return 0.5 * (low + high);
    }

    /// Along the wall it is a straight line in its parameters.
    bool placeOnWall() {
        const gp_Pnt2d a = m_wall.placeOf(m_shape.at(m_begin, 0, -1)),
                       near = m_wall.placeOf(m_shape.at(m_begin + 0.01, 0, -1)),
                       b = m_wall.placeOf(m_shape.at(m_end, 0, -1)),
                       over = m_wall.placeOf(m_shape.at(m_begin, 0, 1));
        m_sense = std::remainder(near.X() - a.X(), 2 * kPi) > 0 ? 1 : -1;
        m_u = a.X(), m_v = {a.Y(), over.Y()};
        m_rise = (b.Y() - a.Y()) / (m_end - m_begin);
        m_turn = m_sense * (m_v[1] - m_v[0]);
        return std::fabs(std::remainder(over.X() - a.X(), 2 * kPi)) < 1e-9;
    }
    gp_Pnt2d onWall(double turned, bool upper) const {
        return {m_u + m_sense * (turned - m_begin), m_v[upper] + m_rise * (turned - m_begin)};
    }
    /// By how many turns a place lies beside the wall's own.
    double turnsAt(double u) const { return std::floor((u - m_wall.left()) / (2 * kPi)); }

    std::vector<double> breaksWithin() const {
        std::vector<double> out{m_begin};
        for (const double at : m_shape.breaks())
            if (at > m_begin + 1e-3 && at < m_end - 1e-3) out.push_back(at);
        out.push_back(m_end);
        return out;
    }

    /// The edge between a flank and the wall, in pieces from seam to seam.
    bool walkFoot(bool upper) {
        const double low = m_shape.depthAt(0, flankFoot()), side = upper ? 1 : -1;
        const gp_Vec2d scale(m_coil.depth - low, m_coil.wall.radius);
        const auto two = [&](double turned) {
            const double high = m_shape.depthAt(turned, flankTop()), up = low / (low - high);
            return std::vector{m_shape.at(turned, 0, side),
                               gp_Pnt((upper ? 1 - up : up) * scale.X(), turned * scale.Y(), 0)};
        };
        const auto direction = directionFor(breaksWithin(), two, kSurfaceFit, kMostPoles);
        if (!direction) return false;
        const auto curves = curvesThrough(*direction, two);
        const LaidLine onFlank{curves[0], inParameters(curves[1], scale)};
        const double off = std::max(offBetween(onFlank, flank(upper)), offWall(curves[0], upper));
        std::vector<double> at{m_begin};
        const double first = turnsAt(onWall(m_begin, upper).X()), last = turnsAt(onWall(m_end, upper).X());
        for (double k = first; k != last; k += m_sense) {
            const double seam = m_wall.left() + 2 * kPi * (m_sense > 0 ? k + 1 : k);
            at.push_back(m_begin + m_sense * (seam - m_u));
        }
        at.push_back(m_end);
        const Handle(Geom_Curve) whole(curves[0]);
        std::vector<TopoDS_Vertex> corners;
        for (std::size_t i = 0; i < at.size(); ++i) {
            TopoDS_Vertex v;
            BRep_Builder().MakeVertex(v, curves[0]->Value(at[i]), 2 * off);
            if (i > 0 && i + 1 < at.size()) {
                if (at[i] - at[i - 1] < kLeastPiece || at[i + 1] - at[i] < kLeastPiece) return false;
                m_wall.cross(onWall(at[i], upper).Y(), v);
            }
            corners.push_back(v);
        }
        for (std::size_t i = 0; i + 1 < at.size(); ++i) {
            const TopoDS_Edge e = edgeBetween(whole, at[i], at[i + 1], corners[i], corners[i + 1], off);
            addTo(e, onFlank.laid, m_faces[upper ? 2 : 0], off);
            gp_Pnt2d a = onWall(at[i], upper), b = onWall(at[i + 1], upper);
            const double back = -2 * kPi * turnsAt(0.5 * (a.X() + b.X()));
            a.SetX(a.X() + back), b.SetX(b.X() + back);
            addTo(e, straightLaid(a, b, at[i], at[i + 1]), m_wall.face(), off);
            m_foot[upper].push_back(e);
        }
        m_off = std::max(m_off, off);
        m_corners[upper] = {corners.front(), corners.back()};
        return true;
    }
    const Handle(Geom_BSplineSurface) & flank(bool upper) const {
        return m_shape.strips()[upper ? 2 : 0].surface;
    }
    double offWall(const Handle(Geom_BSplineCurve) & curve, bool upper) const {
        const LaidLine line{curve,
                            straightLaid(onWall(m_begin, upper), onWall(m_end, upper), m_begin, m_end)};
        return offBetween(line, m_wall.surface());
    }

    /// Between a flank and the crest: an edge of both surfaces.
    void crestEdge(bool upper) {
        const auto& crest = m_shape.strips()[1].surface;
        const Handle(Geom_Curve) curve = crest->UIso(upper ? 1 : 0);
        for (const bool ending : {false, true}) {
            // Running out the flank ends in one point with it.
            TopoDS_Vertex& v = m_tops[upper][ending];
            v = m_square ? BRepBuilderAPI_MakeVertex(curve->Value(ending ? m_end : m_begin)).Vertex()
                         : m_corners[upper][ending];
        }
        m_crest[upper] = edgeBetween(curve, m_begin, m_end, m_tops[upper][0], m_tops[upper][1], kKernelPoint);
        const auto along = [&](double across) {
            return straightLaid({across, m_begin}, {across, m_end}, m_begin, m_end);
        };
        addTo(m_crest[upper], along(upper ? 1 : 0), m_faces[1], kKernelPoint);
        addTo(m_crest[upper], along(upper ? 0 : 1), m_faces[upper ? 2 : 0], kKernelPoint);
    }

    /// Where the crest of one that runs out goes into the wall, from the lower flank to the upper.
    bool tip(bool ending) {
        const auto& strip = m_shape.strips()[1];
        const double radius = m_coil.wall.radius, wide = m_coil.base,
                     base = onWall(ending ? m_end : m_begin, false).X();
        const auto three = [&](double across) {
            const double turned = turnedWhere(across);
            const double t = ending ? m_shape.all() - turned : turned;
            const gp_Pnt p = strip.surface->Value(across, t);
            const gp_Pnt2d uv = m_wall.placeOf(p);
            return std::vector{p, gp_Pnt(across * wide, t * radius, 0),
                               gp_Pnt((base + std::remainder(uv.X() - base, 2 * kPi)) * radius, uv.Y(), 0)};
        };
        const auto direction = directionFor({0, 1}, three, kSurfaceFit, kMostPoles);
        if (!direction) return false;
        const auto curves = curvesThrough(*direction, three);
        const LaidLine onCrest{curves[0], inParameters(curves[1], {wide, radius})};
        const LaidLine onWall{curves[0], inParameters(curves[2], {radius, 1})};
        const double off = std::max(offBetween(onCrest, strip.surface), offBetween(onWall, m_wall.surface()));
        const Handle(Geom_Curve) whole(curves[0]);
        const TopoDS_Edge e = edgeBetween(whole, 0, 1, m_corners[0][ending], m_corners[1][ending], off);
        addTo(e, onCrest.laid, m_faces[1], off);
        // It must not lie over where the wall closes up.
        const double turns = turnsAt(base);
        for (int i = 0; i <= 8; ++i)
            if (turnsAt(onWall.laid->Value(i / 8.0).X() - 1e-6) != turns ||
                turnsAt(onWall.laid->Value(i / 8.0).X() + 1e-6) != turns)
                return false;
        onWall.laid->Translate(gp_Vec2d(-2 * kPi * turns, 0));
        addTo(e, onWall.laid, m_wall.face(), off);
        m_onWall[ending] = m_crestEnd[ending] = e;
        return widen(ending, curves[0], off);
    }
    /// The angle at which a place across the crest comes out of the wall.
    double turnedWhere(double across) const {
        const auto& poles = m_shape.strips()[1].poles;
        CoilPlace place = poles.front();
        if (poles.size() == 4) { // by Bernstein; all poles sink by one share
            const double s = across, r = 1 - s;
            place.depth = r * r * r * poles[0].depth + 3 * r * r * s * poles[1].depth +
                          3 * r * s * s * poles[2].depth + s * s * s * poles[3].depth;
        }
        return meets(place);
    }
    /// Corners hold what meets there.
    bool widen(bool ending, const Handle(Geom_Curve) & line, double off) const {
        for (const bool upper : {false, true}) {
            const TopoDS_Vertex& v = m_corners[upper][ending];
            const gp_Pnt p = upper ? line->Value(line->LastParameter()) : line->Value(line->FirstParameter()),
                         top = m_shape.strips()[1].surface->Value(upper ? 1 : 0, ending ? m_end : m_begin);
            const double away = std::max(p.Distance(BRep_Tool::Pnt(v)), top.Distance(BRep_Tool::Pnt(v)));
            if (away > 1e-4) return false;
            BRep_Builder().UpdateVertex(v, 2 * (away + std::max(off, m_off)));
        }
        return true;
    }

    /// The flat end of one that does not run out.
    bool squareEnd(bool ending) {
        const double t = ending ? m_end : m_begin;
        const gp_Pnt a = m_shape.at(t, 0, -1), b = m_shape.at(t, 0, 1), top = m_shape.at(t, m_coil.depth, -1);
        const gp_Pln plane(a, gp_Dir(gp_Vec(a, b).Crossed(gp_Vec(a, top))));
        const BRep_Builder builder;
        TopoDS_Face& face = m_ends[ending];
        builder.MakeFace(face, new Geom_Plane(plane), kKernelPoint);
        const auto straight = [](const gp_Pnt& p, const gp_Pnt& q) {
            return new Geom_Line(p, gp_Dir(gp_Vec(p, q)));
        };
        // Along the wall.
        TopoDS_Edge& foot = m_onWall[ending];
        const double wide = a.Distance(b);
        foot = edgeBetween(straight(a, b), 0, wide, m_corners[0][ending], m_corners[1][ending], kSurfaceFit);
        gp_Pnt2d p = onWall(t, false), q = onWall(t, true);
        const double turns = turnsAt(p.X());
        if (turnsAt(p.X() - 1e-6) != turns || turnsAt(p.X() + 1e-6) != turns) return false;
        p.SetX(p.X() - 2 * kPi * turns), q.SetX(q.X() - 2 * kPi * turns);
        addTo(foot, straightLaid(p, q, 0, wide), m_wall.face(), kSurfaceFit);
        // Up both flanks.
        const double low = m_shape.depthAt(t, flankFoot()), up = low / (low - m_shape.depthAt(t, flankTop()));
        TopoDS_Edge flanks[2];
        for (const bool upper : {false, true}) {
            const gp_Pnt from = upper ? b : a, to = BRep_Tool::Pnt(m_tops[upper][ending]);
            const double high = from.Distance(to);
            flanks[upper] = edgeBetween(straight(from, to), 0, high, m_corners[upper][ending],
                                        m_tops[upper][ending], kSurfaceFit);
            addTo(flanks[upper], straightLaid({upper ? 1 - up : up, t}, {upper ? 0.0 : 1.0, t}, 0, high),
                  m_faces[upper ? 2 : 0], kSurfaceFit);
            m_flankEnd[upper][ending] = flanks[upper];
        }
        const Handle(Geom_Curve) over = m_shape.strips()[1].surface->VIso(t);
        m_crestEnd[ending] = edgeBetween(over, 0, 1, m_tops[0][ending], m_tops[1][ending], kSurfaceFit);
        addTo(m_crestEnd[ending], straightLaid({0, t}, {1, t}, 0, 1), m_faces[1], kSurfaceFit);
        closeBy(face, {{foot, false}, {flanks[1], false}, {m_crestEnd[ending], true}, {flanks[0], true}});
        return true;
    }

    void closeFaces() {
        for (const bool upper : {false, true}) {
            std::vector<std::pair<TopoDS_Edge, bool>> border;
            for (const TopoDS_Edge& e : m_foot[upper]) border.emplace_back(e, false);
            if (m_square) border.emplace_back(m_flankEnd[upper][1], false);
            border.emplace_back(m_crest[upper], true);
            if (m_square) border.emplace_back(m_flankEnd[upper][0], true);
            closeBy(m_faces[upper ? 2 : 0], border);
        }
        closeBy(m_faces[1],
                {{m_crest[0], false}, {m_crestEnd[1], false}, {m_crest[1], true}, {m_crestEnd[0], true}});
    }

    static constexpr double kLeastPiece = 1e-3; // rad

    const CoilShape& m_shape;
    WallWithSeam& m_wall;
    const Coil& m_coil;
    TopoDS_Face m_faces[3], m_ends[2]; ///< lower flank, crest, upper flank; beginning and ending
    bool m_square = false;             ///< it ends at full depth
    double m_begin = 0, m_end = 0;     ///< where its flanks come out of the wall
    double m_u = 0, m_rise = 0, m_sense = 1, m_turn = 0, m_off = 0;
    std::array<double, 2> m_v{};
    std::vector<TopoDS_Edge> m_foot[2];
    std::array<TopoDS_Vertex, 2> m_corners[2], m_tops[2]; ///< lower and upper, beginning and ending
    TopoDS_Edge m_crest[2], m_onWall[2], m_crestEnd[2], m_flankEnd[2][2];
};

/// What the coils leave of the wall, taken forward. Empty where the kernel cannot tell.
TopTools_ListOfShape leftOf(WallWithSeam& wall, const std::vector<Setting>& settings) {
    const auto seam = wall.seamPieces();
    if (seam.empty()) return {};
    TopTools_ListOfShape edges;
    for (const TopoDS_Edge& e : wall.borders()) edges.Append(e);
    for (const TopoDS_Edge& e : seam) edges.Append(e);
    for (const Setting& s : settings)
        for (const TopoDS_Edge& e : s.loop()) edges.Append(e);
    BOPAlgo_BuilderFace areas;
    areas.SetFace(wall.face());
    areas.SetShapes(edges);
    areas.Perform();
    return areas.HasErrors() ? TopTools_ListOfShape() : areas.Areas();
}

} // namespace

std::optional<Body> setOnto(const Body& body, int wall, const std::vector<CoilShape>& coils, int step) {
    const NamedShape& s = body.shape();
    const TopoDS_Face face = TopoDS::Face(s.faces(wall + 1));
    auto taken = WallWithSeam::of(face, coils);
    if (!taken) return std::nullopt;
    std::vector<Setting> settings;
    std::vector<std::pair<TopoDS_Shape, std::string>> faces;
    for (const CoilShape& c : coils) {
        Setting& one = settings.emplace_back(c, *taken);
        if (!one.run()) return std::nullopt;
        for (const auto& [f, role] : one.faces()) faces.emplace_back(f, role + c.coil().suffix());
    }
    const TopTools_ListOfShape left = leftOf(*taken, settings);
    if (left.IsEmpty()) return std::nullopt;
    FacesInstead instead{face, {}};
    for (const TopoDS_Shape& piece : left)
        instead.faces.emplace_back(piece.Oriented(face.Orientation()), s.namesOf(face));
    for (const auto& [f, role] : faces) instead.faces.emplace_back(f, NameList{internName(step, role)});
    return exchanged(body, {instead}, step);
}

} // namespace gc

#include "core/steps/hole/flat_wall.hpp"

#include "core/shape/mesher/body_mesher.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepClass_FaceClassifier.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRep_Builder.hxx>
#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Ax2.hxx>
#include <gp_Circ.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kClearance = 1e-4; // mm that a hole keeps from every edge and every other face

gp_Dir outward(const TopoDS_Face& face) {
    const gp_Pln plane = BRepAdaptor_Surface(face).Plane();
    gp_Dir n = plane.Axis().Direction();
    if (!plane.Direct()) n.Reverse();
    return face.Orientation() == TopAbs_REVERSED ? n.Reversed() : n;
}

bool isFlat(const TopoDS_Face& face) {
    return BRepAdaptor_Surface(face, false).GetType() == GeomAbs_Plane;
}

/// Is the disc around p wholly inside the flat face?
bool discInside(const TopoDS_Face& face, const gp_Pnt& p, double radius) {
    if (BRepClass_FaceClassifier(face, p, 1e-7).State() != TopAbs_IN) return false;
    const TopoDS_Shape point = BRepBuilderAPI_MakeVertex(p);
    for (TopExp_Explorer x(face, TopAbs_EDGE); x.More(); x.Next()) {
        const BRepExtrema_DistShapeShape d(point, x.Current());
        if (!d.IsDone() || d.Value() < radius + kClearance) return false;
    }
    return true;
}

/// The flat face that faces away from the first one and lies behind it nearest at every centre.
int faceBehind(const NamedShape& s, int first, const std::vector<gp_Pnt>& centres, const gp_Dir& into,
               double& depth) {
    int found = -1;
    for (int i = 0; i < s.faces.Extent(); ++i) {
        if (i == first) continue;
        const TopoDS_Face face = TopoDS::Face(s.faces(i + 1));
        if (!isFlat(face) || !outward(face).IsEqual(into, 1e-9)) continue;
        const double d =
            gp_Vec(centres.front(), BRepAdaptor_Surface(face).Plane().Location()).Dot(gp_Vec(into));
        if (d < kClearance || (found >= 0 && d > depth)) continue;
        bool here = true;
        for (const gp_Pnt& c : centres)
            here = here &&
                   BRepClass_FaceClassifier(face, c.Translated(gp_Vec(into) * d), 1e-7).State() == TopAbs_IN;
        if (!here) continue;
        found = i;
        depth = d;
    }
    return found;
}

/// The triangles of everything but the two faces, to see whether bores have room. Triangles stand off their
/// surfaces by twice the asked deviation at most (docs/kernel.md), so a bore that clears them by more clears
/// the surfaces.
class Obstacles {
  public:
    static constexpr double kDeviation = 0.05; // mm

    Obstacles(const NamedShape& shape, int first, int second) {
        std::pair<int, std::string> fault;
        m_known = meshBody(shape, {kDeviation, 0.3, 0.6}, m_body, fault);
        if (m_known)
            for (const int face : {first, second})
                m_body.faces[static_cast<std::size_t>(face)].triangles.clear();
    }
    /// Is there anything within the radius of the axis, between its ends? Also true when that is not known.
    bool near(const gp_Pnt& from, const gp_Dir& into, double depth, double radius) const {
        if (!m_known) return true;
        const double reach = radius + 2 * kDeviation + kClearance, slack = 2 * kDeviation + kClearance;
        const gp_Ax2 axes(from, into);
        const Vec3 o = toVec(from), x = direction(axes.XDirection()), y = direction(axes.YDirection()),
                   z = direction(into);
        for (const Patch& patch : m_body.faces)
            for (const auto& t : patch.triangles) {
                double low = 1e300, high = -1e300;
                for (const int i : t) {
                    const double h = dot(patch.points[static_cast<std::size_t>(i)] - o, z);
                    low = std::min(low, h), high = std::max(high, h);
                }
                if (low > depth + slack || high < -slack) continue;
                std::vector<Vec3> polygon;
                for (const int i : t) {
                    const Vec3 p = patch.points[static_cast<std::size_t>(i)] - o;
                    polygon.push_back({dot(p, x), dot(p, y), dot(p, z)});
                }
                polygon = clipped(clipped(polygon, 1, -slack), -1, -depth - slack);
                if (!polygon.empty() && distanceFromAxis(polygon) < reach) return true;
            }
        return false;
    }

  private:
    static Vec3 direction(const gp_Dir& d) { return {d.X(), d.Y(), d.Z()}; }

    /// The part of a convex polygon where sign * z >= limit.
    static std::vector<Vec3> clipped(const std::vector<Vec3>& polygon, double sign, double limit) {
        std::vector<Vec3> out;
        for (std::size_t i = 0; i < polygon.size(); ++i) {
            const Vec3 a = polygon[i], b = polygon[(i + 1) % polygon.size()];
            const double da = sign * a.z - limit, db = sign * b.z - limit;
            if (da >= 0) out.push_back(a);
            if ((da < 0) != (db < 0)) out.push_back(a + (b - a) * (da / (da - db)));
        }
        return out;
    }
    /// Of a convex polygon seen along the axis.
    static double distanceFromAxis(const std::vector<Vec3>& polygon) {
        double least = 1e300;
        int left = 0, right = 0;
        for (std::size_t i = 0; i < polygon.size(); ++i) {
            const Vec2 a{polygon[i].x, polygon[i].y};
            const Vec2 b{polygon[(i + 1) % polygon.size()].x, polygon[(i + 1) % polygon.size()].y};
            const Vec2 d = b - a;
            const double along = dot(d, d) > 0 ? std::clamp(-dot(a, d) / dot(d, d), 0.0, 1.0) : 0;
            least = std::min(least, length(a + d * along));
            const double side = cross(a, d);
            left += side > 0;
            right += side < 0;
        }
        return left == 0 || right == 0 ? (left + right == 0 ? least : 0) : least;
    }

    MeshedBody m_body;
    bool m_known = false;
};

TopoDS_Face sideFace(const gp_Pnt& p, const gp_Dir& into, double depth, double r0, double r1) {
    const gp_Ax2 axis(p, into);
    const TopoDS_Shape tool = r1 - r0 < 1e-9 ? BRepPrimAPI_MakeCylinder(axis, r0, depth).Shape()
                                             : BRepPrimAPI_MakeCone(axis, r0, r1, depth).Shape();
    for (TopExp_Explorer x(tool, TopAbs_FACE); x.More(); x.Next())
        if (!isFlat(TopoDS::Face(x.Current()))) return TopoDS::Face(x.Current());
    return {};
}

/// The circle of the side face at the given height along the axis.
TopoDS_Edge circleAt(const TopoDS_Face& side, const gp_Pnt& centre) {
    for (TopExp_Explorer x(side, TopAbs_EDGE); x.More(); x.Next()) {
        const TopoDS_Edge e = TopoDS::Edge(x.Current());
        const BRepAdaptor_Curve c(e);
        if (c.GetType() == GeomAbs_Circle && c.Circle().Location().Distance(centre) < 1e-7) return e;
    }
    return {};
}

/// A copy of a flat face that further loops are cut out of.
class PiercedFace {
  public:
    /// Loops go into the face taken forward; the caller sets its orientation in the shell.
    explicit PiercedFace(const TopoDS_Face& face)
        : m_old(face), m_new(TopoDS::Face(face.EmptyCopied().Oriented(TopAbs_FORWARD))) {
        for (TopoDS_Iterator w(face, false); w.More(); w.Next()) m_builder.Add(m_new, w.Value());
    }
    /// The loop runs clockwise about the surface's normal, as holes do in a face taken forward.
    void pierce(const TopoDS_Edge& circle) {
        const gp_Pln plane = BRepAdaptor_Surface(m_old).Plane();
        gp_Dir normal = plane.Axis().Direction();
        if (!plane.Direct()) normal.Reverse();
        const bool along = BRepAdaptor_Curve(circle).Circle().Axis().Direction().Dot(normal) > 0;
        TopoDS_Wire wire;
        m_builder.MakeWire(wire);
        m_builder.Add(wire, circle.Oriented(along ? TopAbs_REVERSED : TopAbs_FORWARD));
        wire.Closed(true);
        m_builder.Add(m_new, wire);
    }
    const TopoDS_Face& face() const { return m_new; }

  private:
    TopoDS_Face m_old, m_new;
    BRep_Builder m_builder;
};

} // namespace

std::optional<BoredWall> boreFlatWall(const NamedShape& before, int face, const std::vector<gp_Pnt>& centres,
                                      double radius, double lean) {
    const TopoDS_Face front = TopoDS::Face(before.faces(face + 1));
    if (before.shape.ShapeType() != TopAbs_SOLID || !isFlat(front) || !before.shape.Location().IsIdentity())
        return std::nullopt;
    const gp_Dir into = outward(front).Reversed();
    double depth = 0;
    const int behind = faceBehind(before, face, centres, into, depth);
    if (behind < 0) return std::nullopt;
    const TopoDS_Face back = TopoDS::Face(before.faces(behind + 1));
    const double wide = radius + depth * std::tan(lean);
    const Obstacles obstacles(before, face, behind);
    for (std::size_t i = 0; i < centres.size(); ++i) {
        for (std::size_t j = 0; j < i; ++j)
            if (centres[i].Distance(centres[j]) < 2 * wide + kClearance) return std::nullopt;
        if (!discInside(front, centres[i], radius) ||
            !discInside(back, centres[i].Translated(gp_Vec(into) * depth), wide) ||
            obstacles.near(centres[i], into, depth, wide))
            return std::nullopt;
    }
    PiercedFace newFront(front), newBack(back);
    BoredWall bored;
    for (const gp_Pnt& c : centres) {
        const TopoDS_Face side = sideFace(c, into, depth, radius, wide);
        if (side.IsNull()) return std::nullopt;
        const TopoDS_Edge near = circleAt(side, c), far = circleAt(side, c.Translated(gp_Vec(into) * depth));
        if (near.IsNull() || far.IsNull()) return std::nullopt;
        newFront.pierce(near);
        newBack.pierce(far);
        bored.bores.push_back(side.Reversed()); // the material is outside of the bore
    }
    BRep_Builder builder;
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    for (TopExp_Explorer shells(before.shape, TopAbs_SHELL); shells.More(); shells.Next()) {
        TopoDS_Shell shell;
        builder.MakeShell(shell);
        bool holdsFront = false;
        for (TopExp_Explorer x(shells.Current(), TopAbs_FACE); x.More(); x.Next()) {
            const bool isFront = x.Current().IsSame(front), isBack = x.Current().IsSame(back);
            const TopoDS_Shape now = isFront  ? newFront.face()
                                     : isBack ? newBack.face()
                                              : TopoDS::Face(x.Current());
            builder.Add(shell, now.Oriented(x.Current().Orientation()));
            bored.faces.emplace_back(now, x.Current());
            holdsFront = holdsFront || isFront;
        }
        if (holdsFront)
            for (const TopoDS_Shape& side : bored.bores) builder.Add(shell, side);
        shell.Closed(true);
        builder.Add(solid, shell);
    }
    bored.shape = solid;
    return bored;
}

} // namespace gc

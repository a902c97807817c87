#include "core/inspect/relation.hpp"

#include "core/base/tolerance.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/space_pieces.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRep_Builder.hxx>
#include <GCPnts_AbscissaPoint.hxx>
#include <TopoDS.hxx>
#include <gp_Circ.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>
#include <gp_Pln.hxx>
#include <gp_Sphere.hxx>
#include <gp_Torus.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

constexpr double kSameWay = 1e-6; // sine of the angle below which two directions are one

Vec3 wayOf(const gp_Dir& d) {
    return {d.X(), d.Y(), d.Z()};
}

std::vector<TopoDS_Edge> edgesOf(const PickedThing& t) {
    std::vector<TopoDS_Edge> out;
    if (t.kind == PickedThing::Kind::Edges)
        for (const int i : t.items) out.push_back(TopoDS::Edge(t.body.shape().edges(i + 1)));
    return t.kind == PickedThing::Kind::Curve ? edgesOf(t.curve.pieces()) : out;
}

TopoDS_Shape shapeOf(const PickedThing& t) {
    if (t.kind == PickedThing::Kind::Point)
        return BRepBuilderAPI_MakeVertex(gp_Pnt(t.point.x, t.point.y, t.point.z)).Vertex();
    if (t.kind == PickedThing::Kind::Body) return t.body.shape().shape;
    TopoDS_Compound all;
    BRep_Builder builder;
    builder.MakeCompound(all);
    for (const TopoDS_Edge& e : edgesOf(t)) builder.Add(all, e);
    if (t.kind == PickedThing::Kind::Faces)
        for (const int i : t.items) builder.Add(all, t.body.shape().faces(i + 1));
    return all;
}

/// What a thing stands for. A circle has a plane and an axis, a ball just a centre.
struct Stands {
    std::optional<Vec3> point;
    struct Line {
        Vec3 through, way;
    };
    std::optional<Line> plane; ///< a point of it, and its normal
    std::optional<Line> axis;
    std::optional<double> radius;
};

Stands standsFor(const TopoDS_Face& face) {
    Stands s;
    const BRepAdaptor_Surface surface(face);
    const auto axis = [&](const gp_Ax1& a) {
        s.axis = Stands::Line{toVec(a.Location()), wayOf(a.Direction())};
    };
    switch (surface.GetType()) {
    case GeomAbs_Plane:
        s.plane = Stands::Line{toVec(surface.Plane().Location()), wayOf(surface.Plane().Axis().Direction())};
        break;
    case GeomAbs_Cylinder:
        axis(surface.Cylinder().Axis());
        s.radius = surface.Cylinder().Radius();
        break;
    case GeomAbs_Cone:
        axis(surface.Cone().Axis());
        break;
    case GeomAbs_Sphere:
        s.point = toVec(surface.Sphere().Location());
        s.radius = surface.Sphere().Radius();
        break;
    case GeomAbs_Torus:
        axis(surface.Torus().Axis());
        s.radius = surface.Torus().MinorRadius();
        break;
    case GeomAbs_SurfaceOfRevolution:
        axis(surface.AxeOfRevolution());
        break;
    default:
        break;
    }
    return s;
}

Stands standsFor(const TopoDS_Edge& edge) {
    Stands s;
    const BRepAdaptor_Curve curve(edge);
    const gp_Pnt a = curve.Value(curve.FirstParameter()), b = curve.Value(curve.LastParameter());
    if (curve.GetType() == GeomAbs_Circle) {
        const gp_Circ c = curve.Circle();
        s.point = toVec(c.Location());
        s.axis = s.plane = Stands::Line{toVec(c.Location()), wayOf(c.Axis().Direction())};
        s.radius = c.Radius();
        return s;
    }
    if (a.Distance(b) < kSamePoint) return s;
    const Vec3 way = unit(toVec(b) - toVec(a));
    constexpr int kLooks = 8; // a spline that is straight counts as a line
    for (int k = 1; k < kLooks; ++k) {
        const double t = static_cast<double>(k) / kLooks;
        const Vec3 p =
            toVec(curve.Value(curve.FirstParameter() * (1 - t) + curve.LastParameter() * t)) - toVec(a);
        if (length(cross(p, way)) > kSamePoint) return s;
    }
    s.axis = Stands::Line{toVec(a), way};
    return s;
}

bool sameLine(const Stands::Line& a, const Stands::Line& b, bool plane) {
    if (length(cross(a.way, b.way)) > kSameWay) return false;
    const Vec3 d = b.through - a.through;
    return (plane ? std::fabs(dot(d, a.way)) : length(cross(d, a.way))) < kSamePoint;
}

/// Of several that are in one plane, or about one axis, that; of others nothing.
Stands standsFor(const PickedThing& t) {
    Stands all;
    if (t.kind == PickedThing::Kind::Point) {
        all.point = t.point;
        return all;
    }
    if (t.kind == PickedThing::Kind::Body) return all;
    std::vector<Stands> each;
    for (const TopoDS_Edge& e : edgesOf(t)) each.push_back(standsFor(e));
    if (t.kind == PickedThing::Kind::Faces)
        for (const int i : t.items) each.push_back(standsFor(TopoDS::Face(t.body.shape().faces(i + 1))));
    if (!each.empty()) all = each.front();
    for (std::size_t i = 1; i < each.size(); ++i) {
        const Stands& one = each[i];
        if (!all.plane || !one.plane || !sameLine(*all.plane, *one.plane, true)) all.plane.reset();
        if (!all.axis || !one.axis || !sameLine(*all.axis, *one.axis, false)) all.axis.reset();
        if (!all.point || !one.point || length(*all.point - *one.point) > kSamePoint) all.point.reset();
        if (!all.radius || !one.radius || std::fabs(*all.radius - *one.radius) > kSamePoint)
            all.radius.reset();
    }
    return all;
}

Reading between(const char* key, Vec3 a, Vec3 b) {
    return {key, length(b - a), a, b};
}

Vec3 footOn(const Stands::Line& axis, Vec3 p) {
    return axis.through + axis.way * dot(p - axis.through, axis.way);
}

Vec3 footInPlane(const Stands::Line& plane, Vec3 p) {
    return p - plane.way * dot(p - plane.through, plane.way);
}

/// The shortest way between two lines.
std::pair<Vec3, Vec3> nearest(const Stands::Line& a, const Stands::Line& b) {
    const Vec3 n = cross(a.way, b.way), d = b.through - a.through;
    const double n2 = dot(n, n);
    if (n2 < kSameWay * kSameWay) return {footOn(a, b.through), b.through};
    const Vec3 onA = a.through + a.way * (dot(cross(d, b.way), n) / n2);
    return {onA, footOn(b, onA)};
}

/// \param middle of the first thing: where a distance to a plane is shown
std::optional<Reading> straightDistance(const Stands& a, const Stands& b, Vec3 middle) {
    if (a.plane && b.plane && length(cross(a.plane->way, b.plane->way)) < kSameWay) {
        const Vec3 from = footInPlane(*a.plane, middle);
        return between("distance", from, footInPlane(*b.plane, from));
    }
    const auto toPlane = [](const Stands& of, const Stands& plane) -> std::optional<Reading> {
        if (!plane.plane) return std::nullopt;
        if (of.point && !of.plane)
            return between("distance", *of.point, footInPlane(*plane.plane, *of.point));
        if (of.axis && !of.plane && std::fabs(dot(of.axis->way, plane.plane->way)) < kSameWay)
            return between("distance", of.axis->through, footInPlane(*plane.plane, of.axis->through));
        return std::nullopt;
    };
    // A circle beside something straight is its axis, beside a plane its own plane.
    if (!a.axis || !b.axis)
        for (const auto& found : {toPlane(a, b), toPlane(b, a)})
            if (found) return found;
    if (a.point && b.point) return between("distance", *a.point, *b.point);
    if (a.axis && b.axis) {
        const auto [p, q] = nearest(*a.axis, *b.axis);
        return between("distance", p, q);
    }
    if (a.axis && b.point) return between("distance", footOn(*a.axis, *b.point), *b.point);
    if (b.axis && a.point) return between("distance", *a.point, footOn(*b.axis, *a.point));
    return std::nullopt;
}

/// Between two ways, from 0 to a right angle.
double angleBetween(Vec3 a, Vec3 b) {
    return std::atan2(length(cross(a, b)), std::fabs(dot(a, b)));
}

std::optional<double> angleOf(const Stands& a, const Stands& b) {
    const auto flat = [](const Stands& s) { return s.plane && !s.axis; };
    if (flat(a) && flat(b)) return angleBetween(a.plane->way, b.plane->way);
    if (a.axis && b.axis) return angleBetween(a.axis->way, b.axis->way);
    constexpr double kRight = 1.5707963267948966;
    if (a.axis && flat(b)) return kRight - angleBetween(a.axis->way, b.plane->way);
    if (b.axis && flat(a)) return kRight - angleBetween(b.axis->way, a.plane->way);
    return std::nullopt;
}

Vec3 middleOf(const PickedThing& t) {
    if (t.kind == PickedThing::Kind::Point) return t.point;
    if (t.kind == PickedThing::Kind::Body) return looseEnvelope(t.body).centre();
    if (t.kind == PickedThing::Kind::Curve) {
        const std::vector<LengthCurve>& pieces = t.curve.pieces().curves;
        double half = 0;
        for (const LengthCurve& c : pieces) half += c.length() / 2;
        for (const LengthCurve& c : pieces) {
            if (half <= c.length()) return toVec(c.at(half));
            half -= c.length();
        }
        return toVec(pieces.back().end());
    }
    return t.body.shape().middleOf(t.items, t.kind == PickedThing::Kind::Edges);
}

} // namespace

std::vector<Reading> readingsOf(const PickedThing& thing) {
    std::vector<Reading> out;
    const Stands s = standsFor(thing);
    const Vec3 middle = middleOf(thing);
    if (s.radius) {
        out.push_back({"diameter", 2 * *s.radius, middle, {}});
        out.push_back({"radius", *s.radius, middle, {}});
    }
    if (const auto edges = edgesOf(thing); !edges.empty()) {
        double sum = 0;
        for (const TopoDS_Edge& e : edges) sum += GCPnts_AbscissaPoint::Length(BRepAdaptor_Curve(e), 1e-9);
        out.push_back({"length", sum, middle, {}});
    }
    if (thing.kind == PickedThing::Kind::Faces)
        if (const auto area = areaOf(thing.body, thing.items)) out.push_back({"area", *area, middle, {}});
    if (thing.kind == PickedThing::Kind::Body)
        if (countOpenEdges(thing.body.shape()) == 0)
            if (const auto mass = massProperties(thing.body, Density{1})) {
                out.push_back({"area", mass->area, middle, {}});
                out.push_back({"volume", mass->volume, middle, {}});
            }
    return out;
}

std::vector<Reading> readingsOf(const PickedThing& a, const PickedThing& b) {
    std::vector<Reading> out;
    const Stands x = standsFor(a), y = standsFor(b);
    if (auto straight = straightDistance(x, y, middleOf(a))) out.push_back(std::move(*straight));
    try {
        const BRepExtrema_DistShapeShape least(shapeOf(a), shapeOf(b));
        if (least.IsDone() && least.NbSolution() > 0)
            out.push_back({"least distance", least.Value(), toVec(least.PointOnShape1(1)),
                           toVec(least.PointOnShape2(1))});
    } catch (const Standard_Failure&) { // the others still hold
    }
    if (const auto angle = angleOf(x, y)) out.push_back({"angle", *angle, middleOf(a), {}});
    return out;
}

} // namespace gc

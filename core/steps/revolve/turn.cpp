#include "core/steps/revolve/turn.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/kernel_clock.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_items.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <TopTools_MapOfShape.hxx>
#include <TopoDS.hxx>
#include <gp_Ax1.hxx>
#include <gp_Lin.hxx>

#include <numbers>

namespace gc {

namespace {

constexpr double kWhole = 2 * std::numbers::pi;
constexpr double kNearlyWhole = kWhole * (1 - 1e-4); // what something ends before it closes

gp_Ax1 toKernel(const Axis& a) {
    return {gp_Pnt(a.origin.x, a.origin.y, a.origin.z), gp_Dir(a.direction.x, a.direction.y, a.direction.z)};
}

/// The least and the greatest of how far the points of a curve lie to one side of a line.
struct Span {
    double low = 1e300, high = -1e300;
    Vec2 lowest, highest;
    void add(Vec2 p, double side) {
        if (side < low) low = side, lowest = p;
        if (side > high) high = side, highest = p;
    }
};

void addTo(Span& span, const Curve2& c, Vec2 through, Vec2 side) {
    constexpr double kWithin = 1e-4; // mm, of curves whose extremes are not known in closed form
    const auto add = [&](Vec2 p) { span.add(p, dot(p - through, side)); };
    add(c.at(0)), add(c.at(1));
    if (c.kind == Curve2::Kind::Line) return;
    if (c.kind != Curve2::Kind::Ellipse) {
        for (const Vec2 p : c.sampled(kWithin)) add(p);
        return;
    }
    // d of u cos a + v sin a is greatest where tan a = v.d / u.d.
    const double top = std::atan2(dot(c.p[2], side), dot(c.p[1], side));
    for (int k = -4; k <= 4; ++k) {
        const double t = (top + k * std::numbers::pi - c.from) / c.turn;
        if (t > 0 && t < 1) add(c.at(t));
    }
}

bool liesOn(const TopoDS_Edge& edge, const gp_Ax1& axis) {
    const BRepAdaptor_Curve curve(edge);
    if (curve.GetType() != GeomAbs_Line) return false;
    const gp_Lin line(axis);
    return line.Distance(curve.Value(curve.FirstParameter())) < kSamePoint &&
           line.Distance(curve.Value(curve.LastParameter())) < kSamePoint;
}

/// On a full turn the kernel does not report the face of an edge square to the axis although it is there:
/// it is the unnamed face at the middle of that edge.
std::optional<TopoDS_Shape> unreported(const TopTools_IndexedMapOfShape& faces,
                                       const TopTools_MapOfShape& named, const TopoDS_Edge& edge) {
    const BRepAdaptor_Curve curve(edge);
    const TopoDS_Vertex middle =
        BRepBuilderAPI_MakeVertex(curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter())));
    for (int i = 1; i <= faces.Extent(); ++i)
        if (!named.Contains(faces(i)) && BRepExtrema_DistShapeShape(middle, faces(i)).Value() < kSamePoint)
            return faces(i);
    return std::nullopt;
}

/// Turned to where it begins, edges and face together.
void turnBy(Profile& profile, const gp_Ax1& axis, double angle) {
    if (angle == 0) return;
    gp_Trsf t;
    t.SetRotation(axis, angle);
    BRepBuilderAPI_Transform moved(profile.face, t, true);
    for (ProfileEdge& e : profile.edges) e.edge = TopoDS::Edge(moved.ModifiedShape(e.edge));
    profile.face = TopoDS::Face(moved.Shape());
}

} // namespace

bool Turn::full() const {
    return to - from > kWhole - 1e-9;
}

Result<Turn> turnOf(const Arguments& args, ModelReader& model, const Outline& outline) {
    Turn t;
    const auto axis = findAxis(args, "about", model, &outline.plane);
    if (!axis) return axis.error();
    t.axis = *axis;
    if (args.text("end") == "to") {
        const References& faces = args.references("face");
        if (faces.empty())
            return errorOf("revolve.face", "Pick the face that it should end at in the stand.");
        const auto found = findFaces(faces, model);
        if (!found) return found.error();
        for (const int item : found->items) t.ends.push_back(found->body.shape().faces(item + 1));
        t.said = faces.front();
        (args.text("sense") == "backward" ? t.from : t.to) =
            args.text("sense") == "backward" ? -kNearlyWhole : kNearlyWhole;
        return t;
    }
    const double angle = args.number("angle");
    if (angle > kWhole - 1e-9) {
        t.to = kWhole;
        return t;
    }
    const std::string& way = args.text("way");
    t.to = angle;
    if (way == "backward") t.from = -angle, t.to = 0;
    if (way == "both ways together") t.from = -angle / 2, t.to = angle / 2;
    if (way == "forward, and back by") t.from = -args.number("second");
    if (t.to - t.from > kWhole + 1e-9)
        return errorOf("revolve.over",
                       phrase("Forward and back are more than a whole turn together, by %1. Make "
                              "one of them smaller.",
                              formatAmount(t.to - t.from - kWhole, "°", 2)));
    return t;
}

std::optional<Error> whyNotTurned(const Outline& outline, const Region& area, const Axis& axis,
                                  const std::string& called) {
    const Plane& plane = outline.plane;
    const std::string name = "\"" + called + "\"";
    const double leaves = dot(axis.direction, plane.normal()), away = plane.before(axis.origin);
    if (std::fabs(leaves) > kParallel * 1e2 || std::fabs(away) > kSamePoint) {
        Error e = errorOf(
            "revolve.plane",
            std::fabs(leaves) > kParallel * 1e2
                ? phrase("The axis leaves the plane of the drawing %1. Choose one that lies in it.", name)
                : phrase("The axis runs %1 beside the plane of the drawing %2. Choose one that lies in it.",
                         formatAmount(std::fabs(away), "mm", 2), name));
        e.culprits = {called};
        return e;
    }
    const Vec2 through = plane.foot(axis.origin), along = plane.alongside(axis.direction);
    Span span;
    for (const Side& s : area.outer.sides) addTo(span, s.curve, through, Vec2{along.y, -along.x});
    if (span.low >= -kSamePoint || span.high <= kSamePoint) return std::nullopt;
    const bool right = span.high >= -span.low; // most of it
    Error e = errorOf("revolve.axis",
                      phrase("The drawing %1 reaches %2 across the axis. Keep it on one side of it.", name,
                             formatAmount(right ? -span.low : span.high, "mm", 2)));
    e.culprits = {called};
    e.place = plane.at(right ? span.lowest : span.highest);
    return e;
}

Swept turned(Profile profile, const Turn& turn) {
    const gp_Ax1 axis = toKernel(turn.axis);
    turnBy(profile, axis, turn.full() ? 0 : turn.from);
    BRepPrimAPI_MakeRevol revolve = inKernel([&] {
        return turn.full() ? BRepPrimAPI_MakeRevol(profile.face, axis)
                           : BRepPrimAPI_MakeRevol(profile.face, axis, turn.to - turn.from);
    });
    Swept out;
    out.solid = onlySolid(revolve.Shape());
    if (!turn.full()) {
        // What is turned backward until something ends it begins where the drawing is.
        const bool back = !turn.ends.empty() && turn.from < 0;
        out.start = TopoDS::Face(back ? revolve.LastShape() : revolve.FirstShape());
        out.end = TopoDS::Face(back ? revolve.FirstShape() : revolve.LastShape());
    }
    TopTools_IndexedMapOfShape faces;
    TopExp::MapShapes(out.solid, TopAbs_FACE, faces);
    TopTools_MapOfShape named;
    for (const TopoDS_Face& cap : {out.start, out.end})
        if (!cap.IsNull()) named.Add(cap);
    std::vector<const ProfileEdge*> open;
    for (const ProfileEdge& edge : profile.edges) {
        if (edge.onAxis || liesOn(edge.edge, axis)) continue;
        bool found = false;
        for (const TopoDS_Shape& face : toVector(revolve.Generated(edge.edge))) {
            if (!faces.Contains(face)) continue;
            found = true;
            named.Add(face);
            for (const std::string& role : edge.roles) out.sides.emplace_back(face, role);
        }
        if (!found) open.push_back(&edge);
    }
    for (const ProfileEdge* edge : open)
        if (const auto face = unreported(faces, named, edge->edge)) {
            named.Add(*face);
            for (const std::string& role : edge->roles) out.sides.emplace_back(*face, role);
        }
    return out;
}

} // namespace gc

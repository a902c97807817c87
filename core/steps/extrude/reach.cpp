#include "core/steps/extrude/reach.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extremes.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <gp_Ax3.hxx>
#include <gp_Lin.hxx>
#include <gp_Trsf.hxx>

#include <algorithm>

namespace gc {

namespace {

/// Into the coordinates of a plane.
gp_Trsf ontoPlane(const Plane& plane) {
    gp_Trsf toPlane;
    const Vec3 o = plane.origin, n = plane.normal();
    toPlane.SetTransformation(
        gp_Ax3({o.x, o.y, o.z}, {n.x, n.y, n.z}, {plane.across.x, plane.across.y, plane.across.z}));
    return toPlane;
}

} // namespace

Box boxAlong(const TopoDS_Shape& shape, const Plane& plane) {
    return extentOf(shape.Moved(ontoPlane(plane)));
}

Error liesBehind(const std::string& what) {
    return errorOf("extrude.behind",
                   phrase("%1 lies behind where it begins. Turn it round, or begin further back.", what));
}

namespace {

/// The way that the sides run. Of a line that is turned the other way the same is meant.
Result<Vec3> slantOf(const Arguments& args, ModelReader& model, const Plane& plane) {
    constexpr double kFlattest = 0.05; // of the sine: nearer to the drawing's plane it would be a smear
    if (args.text("sides") != "along") return plane.normal();
    const References& line = args.references("line");
    if (line.empty())
        return errorOf("extrude.line",
                       "Pick the straight edge or drawn line that its sides should run along.");
    const auto edge = findCurve(line.front(), model);
    if (!edge) return edge.error();
    const BRepAdaptor_Curve curve(*edge);
    if (curve.GetType() != GeomAbs_Line)
        return errorOf("extrude.line", phrase("%1 is not straight. Pick a straight edge or a drawn line.",
                                              marked(line.front())));
    const gp_Dir d = curve.Line().Direction();
    const Vec3 way{d.X(), d.Y(), d.Z()};
    const double rise = dot(way, plane.normal());
    if (std::fabs(rise) < kFlattest)
        return errorOf(
            "extrude.line",
            phrase("%1 lies in the plane of the drawing, or nearly so: nothing can be extruded along "
                   "it. Pick a line that leaves the plane.",
                   marked(line.front())));
    return way * (1 / rise);
}

/// Inward, rad; nothing where the sides do not lean.
std::optional<double> leanOf(const Arguments& args) {
    const std::string& sides = args.text("sides");
    if (sides == "leaning inward by") return args.number("lean");
    if (sides == "leaning outward by") return -args.number("lean");
    return std::nullopt;
}

double leanBackOf(const Arguments& args, double lean) {
    const std::string& back = args.text("back sides");
    if (back == "inward by") return args.number("back lean");
    if (back == "outward by") return -args.number("back lean");
    return back == "not at all" ? 0 : lean;
}

/// The length is measured along the sides; of leaning ones square to the drawing.
Result<Reach> byLength(const Arguments& args, Reach r) {
    const double rise = 1 / length(r.slant), length = args.number("length") * rise;
    const std::string& way = args.text("way");
    if (way == "backward") {
        r.to = r.from - length;
    } else if (way == "both ways together") {
        r.from -= length / 2;
        r.to = r.from + length;
    } else {
        r.to = r.from + length;
        if (way == "forward, and back by") r.from -= args.number("second") * rise;
    }
    return r;
}

Result<Reach> toLevel(const Arguments& args, ModelReader& model, const Plane& plane, Reach r) {
    const References& point = args.references("point");
    if (point.empty())
        return errorOf("extrude.point", "Pick the point that it should reach to, a corner or a node.");
    const auto at = findPoint(point.front(), model);
    if (!at) return at.error();
    r.to = plane.before(*at);
    if (std::fabs(r.to - r.from) < kSamePoint)
        return errorOf("extrude.flat",
                       phrase("%1 lies at the level where it begins, so it would have no thickness.",
                              marked(point.front())));
    return r;
}

/// The bodies that it may run into: those that are worked on, else all that there are.
Result<std::vector<TopoDS_Shape>> inTheWay(ModelReader& model, const std::vector<ThingId>& targets) {
    std::vector<TopoDS_Shape> out;
    for (const ThingId id : targets.empty() ? model.bodies() : targets)
        if (const Body* body = model.body(id)) out.push_back(body->shape().shape);
    if (out.empty())
        return errorOf("extrude.alone", "There is no body yet that it could end at. Give it a length.");
    return out;
}

/// As boxAlong, but larger: soon found, for what must only reach past.
Box looseBoxAlong(const TopoDS_Shape& shape, const Plane& plane) {
    return looseExtentOf(shape.Moved(ontoPlane(plane)));
}

/// How far something lies that is past the shape and past a level, one way, and as far again as twice the
/// shape.
double wellPast(const TopoDS_Shape& shape, const Plane& plane, double sense, double level) {
    const Box box = looseBoxAlong(shape, plane);
    return std::max(sense > 0 ? box.high.z : -box.low.z, level) + 2 * length(box.size());
}

/// How far the shapes reach that way, counted from the plane.
double farthest(const std::vector<TopoDS_Shape>& shapes, const Plane& plane, double sense,
                Box (*boxOf)(const TopoDS_Shape&, const Plane&)) {
    double far = -1e300;
    for (const TopoDS_Shape& s : shapes) {
        const Box box = boxOf(s, plane);
        far = std::max(far, sense > 0 ? box.high.z : -box.low.z);
    }
    return far;
}

Result<Reach> toBodies(const Arguments& args, ModelReader& model, const Plane& plane, Reach r,
                       const std::vector<ThingId>& targets, double sense) {
    constexpr double kPast = 1; // mm: what is taken away leaves no skin
    const auto bodies = inTheWay(model, targets);
    if (!bodies) return bodies.error();
    const bool next = args.text("end") == "to the next wall";
    const bool takes = args.text("does") == "taking from" || args.text("does") == "common with";
    double far = farthest(*bodies, plane, sense, looseBoxAlong);
    // Exactly only where it ends there, or hardly reaches.
    if (!(next || takes) || far < sense * r.from + kPast) far = farthest(*bodies, plane, sense, boxAlong);
    if (far <= sense * r.from + kSamePoint) return liesBehind("the body");
    r.to = sense * (far + (next || takes ? kPast : 0));
    if (next) r.ends = *bodies;
    return r;
}

Result<Reach> toFaces(const Arguments& args, ModelReader& model, const Plane& plane, Reach r, double sense) {
    const References& faces = args.references("face");
    if (faces.empty()) return errorOf("extrude.face", "Pick the face that it should end at in the stand.");
    const auto found = findFaces(faces, model);
    if (!found) return found.error();
    for (const int item : found->items) r.ends.push_back(found->body.shape().faces(item + 1));
    r.faces = true;
    r.said = faces.front();
    const std::string& end = args.text("end");
    r.gap = end == "short of" ? args.number("gap") : end == "beyond" ? -args.number("gap") : 0;
    // Far past the faces, and as far again as they may be continued.
    r.to = sense * (wellPast(found->body.shape().shape, plane, sense, sense * r.from) + std::fabs(r.gap));
    return r;
}

Result<Reach> endOf(const Arguments& args, ModelReader& model, const Outline& outline, const Reach& r,
                    const std::vector<ThingId>& targets) {
    const std::string& end = args.text("end");
    if (end == "by") return byLength(args, r);
    if (end == "to the level of") return toLevel(args, model, outline.plane, r);
    const double sense = args.text("sense") == "backward" ? -1 : 1;
    if (end == "to the next wall" || end == "to the far side")
        return toBodies(args, model, outline.plane, r, targets, sense);
    return toFaces(args, model, outline.plane, r, sense);
}

/// Between the faces that it begins at and what ends it; the whole of it lies past both.
Result<Reach> fromFaces(const Arguments& args, ModelReader& model, const Outline& outline, Reach r,
                        const std::vector<ThingId>& targets) {
    const References& faces = args.references("begin face");
    if (faces.empty()) return errorOf("extrude.begin", "Pick the face that it should begin at in the stand.");
    if (r.lean)
        return errorOf("extrude.lean-begin",
                       "Sides lean from the drawing on or from a level. Let them run straight, or "
                       "begin at one of these.");
    const auto found = findFaces(faces, model);
    if (!found) return found.error();
    const TopoDS_Shape& body = found->body.shape().shape;
    const double past = std::max(wellPast(body, outline.plane, 1, 0), wellPast(body, outline.plane, -1, 0));
    const bool byLength = args.text("end") == "by";
    r.backward = byLength ? args.text("way") == "backward" : args.text("sense") == "backward";
    if (args.text("end") == "short of" || args.text("end") == "beyond")
        return errorOf("extrude.gap-begin",
                       "From a face it goes by a length, to a face, a level or a wall; not short of "
                       "a face or beyond it.");
    r.from = byLength ? 0 : r.backward ? past : -past; // so that nothing lies behind it
    auto ended = endOf(args, model, outline, r, targets);
    if (!ended) return ended.error();
    r = *ended;
    r.byLength = byLength;
    if (byLength) {
        r.shift = {r.from, r.to};
        r.from = -past - std::fabs(r.shift.first), r.to = past + std::fabs(r.shift.second);
    } else if (r.to < r.from) {
        std::swap(r.from, r.to);
    }
    r.level = r.from;
    for (const int item : found->items) r.begins.push_back(found->body.shape().faces(item + 1));
    r.beginSaid = faces.front();
    return r;
}

} // namespace

Result<Reach> reachOf(const Arguments& args, ModelReader& model, const Outline& outline,
                      const std::vector<ThingId>& targets) {
    Reach r;
    const auto slant = slantOf(args, model, outline.plane);
    if (!slant) return slant.error();
    r.slant = *slant;
    const std::string& begin = args.text("begin");
    if (begin == "a level at") r.from = args.number("level");
    r.level = r.from;
    r.lean = leanOf(args);
    if (r.lean) r.leanBack = leanBackOf(args, *r.lean);
    if (begin == "a face") return fromFaces(args, model, outline, r, targets);
    auto ended = endOf(args, model, outline, r, targets);
    if (ended) ended->mayEndBefore = !ended->ends.empty();
    return ended;
}

} // namespace gc

// Curve: a line in space.

#include "core/shape/kernel.hpp"
#include "core/shape/space_pieces.hpp"
#include "core/steps/curve/helix.hpp"
#include "core/steps/curve/meeting.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/on_faces.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <GeomAPI_Interpolate.hxx>
#include <TColgp_HArray1OfPnt.hxx>

#include <cmath>

namespace gc {

namespace {

SpaceCurve curveOf(std::vector<LengthCurve> curves, bool closed = false) {
    return SpaceCurve(std::make_shared<const SpacePieces>(SpacePieces{std::move(curves), closed}));
}

SpaceCurve curveOf(const Handle(Geom_Curve) & c) {
    return curveOf({LengthCurve(c, c->FirstParameter(), c->LastParameter())});
}

void showSizes(const Helix& h, const std::string& sized, ModelReader& model) {
    const Vec3 begins = toVec(h.at(0)), on = h.axis.origin + h.axis.direction * h.level;
    if (sized != "by pitch and turns") model.show(sizeHandle("height", on, h.axis.direction, h.height));
    if (sized != "by height and turns")
        model.show(sizeHandle("pitch", begins, h.axis.direction, h.height / h.turns));
    if (h.radius > 0) model.show(sizeHandle("radius", on, unit(begins - on), h.radius));
}

Result<SpaceCurve> helix(const Arguments& args, ModelReader& model) {
    const auto axis = findAxis(args, "about", model);
    if (!axis) return axis.error();
    Helix h;
    h.axis = *axis;
    h.radius = args.number("radius");
    h.farRadius = args.text("shape") == "tapering to" ? args.number("far radius") : h.radius;
    const std::string& sized = args.text("sized");
    if (sized == "by pitch and turns") {
        h.turns = args.number("turns");
        h.height = h.turns * args.number("pitch");
    } else if (sized == "by height and turns") {
        h.turns = args.number("turns");
        h.height = args.number("height");
    } else {
        h.height = args.number("height");
        h.turns = h.height / args.number("pitch");
    }
    constexpr double kMost = 500;
    if (h.turns > kMost)
        return errorOf("curve.turns",
                       phrase("That would be %1 turns; at most %2 can be worked with. Make the pitch "
                              "larger, or the height smaller.",
                              formatNumber(h.turns, 0), formatNumber(kMost, 0)));
    h.left = args.text("hand") == "left-handed";
    h.start = args.number("start");
    h.level = args.number("level");
    showSizes(h, sized, model);
    const auto fitted = curveThrough([&](double t) { return h.at(t); }, kHelixFit);
    if (fitted.IsNull())
        return errorOf("curve.uneven", "The helix is too uneven to be worked with. Give it fewer turns.");
    return curveOf(fitted);
}

Result<SpaceCurve> curveThroughPoints(const Arguments& args, ModelReader& model) {
    const References& refs = args.references("points");
    if (refs.size() < 2)
        return errorOf(
            "curve.points",
            phrase("A curve needs two points or more; %1%2 picked. Click corners, middles or centres in "
                   "the stand, in their order.",
                   std::to_string(refs.size()), refs.size() == 1 ? " is" : " are"));
    const Handle(TColgp_HArray1OfPnt) points = new TColgp_HArray1OfPnt(1, static_cast<int>(refs.size()));
    for (std::size_t i = 0; i < refs.size(); ++i) {
        const auto p = findPoint(refs[i], model);
        if (!p) return p.error();
        const gp_Pnt at(p->x, p->y, p->z);
        if (i > 0 && at.Distance(points->Value(static_cast<int>(i))) < 1e-3)
            return errorOf(
                "curve.same",
                phrase("%1 lies where the point before it does. Let go of one of them.", marked(refs[i])));
        points->SetValue(static_cast<int>(i) + 1, at);
    }
    GeomAPI_Interpolate through(points, false, 1e-7);
    through.Perform();
    if (!through.IsDone()) return errorOf("curve.failed", "No even curve goes through these points.");
    return curveOf(through.Curve());
}

/// An end of a line: where, where it goes on to, how it bends.
struct LineEnd {
    gp_Pnt at;
    gp_Vec ahead, bend;
};

std::vector<LineEnd> endsOf(const Path& path) {
    const LengthCurve &a = path.pieces().front().curve, &b = path.pieces().back().curve;
    return {{a.start(), -a.tangent(0), a.bend(0)}, {b.end(), b.tangent(b.length()), b.bend(b.length())}};
}

Result<SpaceCurve> bridged(const Arguments& args, ModelReader& model) {
    const auto pick = [&](const char* slot) -> Result<Path> {
        if (args.references(slot).empty())
            return errorOf("curve.ends", "Pick the two lines between whose ends the curve shall run.");
        return findPath(args.references(slot), model);
    };
    const auto from = pick("from");
    if (!from) return from.error();
    const auto to = pick("to");
    if (!to) return to.error();
    if (from->closed() || to->closed())
        return errorOf("curve.closed", "A line that closes has no end to go on from. Pick another one.");
    // The two ends that are nearest to each other.
    std::optional<std::pair<LineEnd, LineEnd>> best;
    for (const LineEnd& a : endsOf(*from))
        for (const LineEnd& b : endsOf(*to))
            if (!best || a.at.Distance(b.at) < best->first.at.Distance(best->second.at)) best = {a, b};
    const auto& [a, b] = *best;
    if (a.at.Distance(b.at) < 1e-3)
        return errorOf("curve.meet", "The two lines meet already, so there is nothing to bridge.");
    const bool even = args.text("ends") == "with even curvature";
    const gp_Vec none;
    return curveOf(bridge(a.at, a.ahead, even ? a.bend : none, b.at, -b.ahead, even ? b.bend : none));
}

Result<SpaceCurve> onFaces(const Arguments& args, ModelReader& model) {
    if (args.references("faces").empty())
        return errorOf("curve.faces", "Pick the faces that the line is laid onto.");
    const auto faces = findFaces(args.references("faces"), model);
    if (!faces) return faces.error();
    std::vector<TopoDS_Face> on;
    for (const int i : faces->items) on.push_back(TopoDS::Face(faces->body.shape().faces(i + 1)));
    auto laid = laidBy(args, on, model);
    if (!laid) return laid.error();
    return curveOf(std::move(laid->curves), laid->closed);
}

Result<std::vector<TopoDS_Face>> facesIn(const Arguments& args, const char* slot, ModelReader& model) {
    if (args.references(slot).empty())
        return errorOf("curve.faces",
                       "Pick the faces that meet: some on one side, some on the other, or a plane.");
    const auto found = findFaces(args.references(slot), model);
    if (!found) return found.error();
    std::vector<TopoDS_Face> out;
    for (const int i : found->items) out.push_back(TopoDS::Face(found->body.shape().faces(i + 1)));
    return out;
}

Result<SpaceCurve> meeting(const Arguments& args, ModelReader& model) {
    const auto faces = facesIn(args, "meeting", model);
    if (!faces) return faces.error();
    std::vector<SpacePieces> lines;
    if (args.text("meets") == "and the plane") {
        const auto plane = findPlane(args, "plane", model);
        if (!plane) return plane.error();
        lines = meetingWith(*faces, *plane);
    } else {
        const auto others = facesIn(args, "others", model);
        if (!others) return others.error();
        lines = meetingOf(*faces, *others);
    }
    const std::string& which = args.text("which");
    std::optional<Vec3> near;
    if (which == "the line nearest to") {
        if (args.references("near").size() != 1)
            return errorOf("curve.near", "Pick one point near the line that is meant.");
        const auto at = findPoint(args.references("near").front(), model);
        if (!at) return at.error();
        near = *at;
    }
    auto one = oneOf(std::move(lines), which == "the longest line", near);
    if (!one) return one.error();
    return curveOf(std::move(one->curves), one->closed);
}

Result<SpaceCurve> curveFor(const Arguments& args, ModelReader& model) {
    const std::string& way = args.text("way");
    if (way == "through points") return curveThroughPoints(args, model);
    if (way == "a line on faces") return onFaces(args, model);
    if (way == "a bridge between") return bridged(args, model);
    if (way == "where faces meet") return meeting(args, model);
    return helix(args, model);
}

} // namespace

Result<StepChange> runCurve(const Arguments& args, ModelReader& model, const Progress&) {
    return guarded("curve.failed", "The curve cannot be found.", [&]() -> Result<StepChange> {
        auto curve = curveFor(args, model);
        if (!curve) return curve.error();
        return StepChange(MadeCurve{std::move(*curve)});
    });
}

} // namespace gc

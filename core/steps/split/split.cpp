#include "core/shape/extended_face.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/boolean.hpp"
#include "core/steps/shared/find_body.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/find_place.hpp"
#include "core/steps/shared/profile.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <TopExp.hxx>
#include <TopLoc_Location.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <gp_Ax3.hxx>
#include <gp_Pln.hxx>

#include <algorithm>

namespace gc {

namespace {

/// What parts a body, and how pieces are told apart: the farther before the plane, the earlier.
struct Parting {
    TopoDS_Shape tool;
    Plane frame;
};

double sizeOf(const Body& body) {
    const Box box = looseEnvelope(body);
    return length(box.size());
}

/// Past the body from a plane's origin.
double pastFrom(const Plane& plane, const Body& body) {
    const Box box = looseEnvelope(body);
    return length(box.size()) + length((box.low + box.high) * 0.5 - plane.origin);
}

Parting byPlane(const Plane& plane, const Body& body) {
    const double reach = pastFrom(plane, body);
    const Vec3 o = plane.origin, n = plane.normal(), x = plane.across;
    const gp_Pln flat(gp_Ax3(gp_Pnt(o.x, o.y, o.z), gp_Dir(n.x, n.y, n.z), gp_Dir(x.x, x.y, x.z)));
    return {BRepBuilderAPI_MakeFace(flat, -reach, reach, -reach, reach).Face(), plane};
}

Result<Parting> byFace(const Arguments& args, ModelReader& model, const Body& body) {
    const References& refs = args.references("face");
    if (refs.empty()) return errorOf("split.face", "Pick the face that shall part the body in the stand.");
    const auto found = findFaces(refs, model);
    if (!found) return found.error();
    const TopoDS_Face face = TopoDS::Face(found->body.shape().faces(found->items.front() + 1));
    const BRepAdaptor_Surface surface(face);
    gp_Pnt at;
    gp_Vec du, dv;
    surface.D1((surface.FirstUParameter() + surface.LastUParameter()) / 2,
               (surface.FirstVParameter() + surface.LastVParameter()) / 2, at, du, dv);
    gp_Vec n = du.Crossed(dv);
    if (face.Orientation() == TopAbs_REVERSED) n.Reverse();
    const double by = sizeOf(body) + sizeOf(found->body);
    return Parting{extendedFace(face, by), planeFacing(toVec(at), {n.X(), n.Y(), n.Z()})};
}

/// Its strokes, moved along both ways past the body.
Result<Parting> byDrawing(const Arguments& args, ModelReader& model, const Body& body) {
    const auto id = model.outlineIn("outline");
    const Outline* outline = id ? model.outline(*id) : nullptr;
    if (!outline || !outline->drawn())
        return errorOf("split.outline",
                       phrase("There is no drawing called \"%1\" before this step.", args.label("outline")));
    const Plane& plane = outline->plane;
    const double reach = pastFrom(plane, body);
    const Vec3 n = plane.normal();
    const gp_Vec way = gp_Vec(n.x, n.y, n.z) * reach;
    gp_Trsf back;
    back.SetTranslation(-way);
    const TopLoc_Location place = TopLoc_Location(back) * TopLoc_Location(placementOf(plane));
    BRep_Builder builder;
    TopoDS_Compound walls;
    builder.MakeCompound(walls);
    int count = 0;
    for (const auto& [stroke, curves] : outline->strokes) {
        if (outline->helpers.count(stroke) || curves.empty()) continue;
        builder.Add(walls, BRepPrimAPI_MakePrism(edgeOfStroke(curves).Moved(place), way * 2).Shape());
        ++count;
    }
    if (count == 0)
        return errorOf("split.empty",
                       phrase("The drawing \"%1\" has no strokes yet.", args.label("outline")));
    return Parting{walls, {plane.origin, plane.up, plane.normal()}}; // the farther to the right, the earlier
}

Result<Parting> byBody(const Arguments& args, ModelReader& model, ThingId body) {
    const auto tool = findBody(args, "tool", model);
    if (!tool) return tool.error();
    if (tool->id == body)
        return errorOf("split.same", "A body cannot part itself. Choose another one for that.");
    return Parting{tool->body.shape().shape, planeFacing({}, {0, 0, 1})};
}

Result<Parting> partingOf(const Arguments& args, ModelReader& model, const FoundBody& body) {
    const std::string& by = args.text("by");
    if (by == "the face") return byFace(args, model, body.body);
    if (by == "the drawing") return byDrawing(args, model, body.body);
    if (by == "the body") return byBody(args, model, body.id);
    const auto plane = findPlane(args, "plane", model);
    if (!plane) return plane.error();
    return byPlane(*plane, body.body);
}

Vec3 middleOf(const TopoDS_Shape& solid) {
    GProp_GProps props;
    BRepGProp::SurfaceProperties(solid, props);
    return toVec(props.CentreOfMass());
}

/// The solids that came out, those before the frame first.
std::vector<TopoDS_Shape> piecesOf(const TopoDS_Shape& result, const Plane& frame) {
    TopTools_IndexedMapOfShape solids;
    TopExp::MapShapes(result, TopAbs_SOLID, solids);
    std::vector<std::pair<double, TopoDS_Shape>> all;
    for (int i = 1; i <= solids.Extent(); ++i) all.emplace_back(frame.before(middleOf(solids(i))), solids(i));
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<TopoDS_Shape> out;
    for (auto& [before, solid] : all) out.push_back(std::move(solid));
    return out;
}

Result<Body> pieceOf(const TopoDS_Shape& piece, const NamedShape& before, BRepAlgoAPI_Splitter& splitter,
                     int step, const Plane& frame) {
    NameBuilder names(piece);
    names.carry(before, splitter);
    names.frame(step, frame);
    for (int i = 1; i <= names.faces().Extent(); ++i)
        if (!names.named(names.faces()(i))) names.add(names.faces()(i), internName(step, "cut"));
    return names.finish();
}

Result<StepChange> split(const FoundBody& found, const Parting& parting, const std::string& keep, int step) {
    const NamedShape& before = found.body.shape();
    const auto splitter = splitBy(before.shape, {parting.tool});
    if (!splitter)
        return errorOf("split.failed",
                       "The body cannot be parted there: a face lies too nearly on one of its own. "
                       "Move it a little.");
    auto pieces = piecesOf(splitter->Shape(), parting.frame);
    if (pieces.size() < 2)
        return errorOf("split.one",
                       "It does not cut the body through, so there would still be one piece. Let it "
                       "reach all the way across.");
    if (keep != "both sides") {
        const bool ahead = keep == "what lies before it";
        std::erase_if(
            pieces, [&](const TopoDS_Shape& p) { return (parting.frame.before(middleOf(p)) > 0) != ahead; });
        if (pieces.empty())
            return errorOf("split.nothing", "Nothing of the body lies on that side. Keep the other.");
    }
    StepChange change;
    for (const TopoDS_Shape& piece : pieces) {
        const auto body = pieceOf(piece, before, *splitter, step, parting.frame);
        if (!body) return body.error();
        change.list.push_back(change.list.empty() ? Change(ChangedBody{found.id, *body})
                                                  : Change(MadeBody{*body}));
    }
    return change;
}

} // namespace

Result<StepChange> runSplit(const Arguments& args, ModelReader& model, const Progress&) {
    const auto found = findBody(args, "body", model);
    if (!found) return found.error();
    return guarded("split.failed", "The body cannot be parted there.", [&]() -> Result<StepChange> {
        const auto parting = partingOf(args, model, *found);
        if (!parting) return parting.error();
        const std::string& by = args.text("by");
        const bool sided = by == "the plane" || by == "the face";
        return split(*found, *parting, sided ? args.text("keep") : "both sides", args.id());
    });
}

} // namespace gc

#include "core/model/arguments.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/profile.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <gp_Ax1.hxx>

#include <numbers>

namespace gc {

namespace {

/// On a full turn the kernel does not report the face of an edge square to the axis although it is there:
/// it is the unnamed face at the middle of that edge.
void nameUnreported(NameBuilder& names, const TopoDS_Edge& edge, const NameList& roles) {
    const BRepAdaptor_Curve curve(edge);
    const TopoDS_Vertex middle =
        BRepBuilderAPI_MakeVertex(curve.Value(0.5 * (curve.FirstParameter() + curve.LastParameter())));
    for (int i = 1; i <= names.faces().Extent(); ++i)
        if (!names.named(names.faces()(i)) &&
            BRepExtrema_DistShapeShape(middle, names.faces()(i)).Value() < 1e-6)
            return names.add(names.faces()(i), roles);
}

} // namespace

Result<StepChange> runRevolve(const Arguments& args, ModelReader& model, const Progress&) {
    Error e;
    const auto named = model.outlineIn("outline");
    const Outline* drawn = named ? model.outline(*named) : nullptr;
    if (!drawn) {
        e.code = "revolve.outline";
        e.sentence = phrase("There is no outline called \"%1\" before this step.", args.label("outline"));
        return e;
    }
    Outline outline = *drawn;
    const auto chosen = chosenAreas(outline, args.text("area"), args.label("outline"), "revolve.area");
    if (!chosen) return chosen.error();
    std::vector<Region> areas;
    Message note;
    for (const ChosenArea& c : *chosen) {
        areas.push_back(*c.area);
        if (!c.note.empty()) note = c.note;
    }
    if (!areas.empty()) outline.regions = std::move(areas);
    if (auto wrong = whyNotRevolve(outline, args.label("outline"))) return *wrong;
    return guarded(
        "revolve.failed", "The outline cannot be revolved. Check its stations.", [&]() -> Result<StepChange> {
            Profile profile = profileOf(outline);
            const double angle = args.number("angle");
            const bool full = angle > 2 * std::numbers::pi - 1e-9;
            const Vec3 o = outline.plane.origin, up = outline.plane.up; // the drawing's own axis
            const gp_Ax1 axis(gp_Pnt(o.x, o.y, o.z), gp_Dir(up.x, up.y, up.z));
            BRepPrimAPI_MakeRevol revolve = full ? BRepPrimAPI_MakeRevol(profile.face, axis)
                                                 : BRepPrimAPI_MakeRevol(profile.face, axis, angle);
            NameBuilder names(onlySolid(revolve.Shape()));
            names.frame(args.id(), outline.plane);
            if (!full) {
                names.add(revolve.FirstShape(), internName(args.id(), "start"));
                names.add(revolve.LastShape(), internName(args.id(), "end"));
            }
            for (const ProfileEdge& edge : profile.edges) {
                if (edge.onAxis) continue;
                NameList roles;
                for (const std::string& role : edge.roles) roles.push_back(internName(args.id(), role));
                bool found = false;
                for (const TopoDS_Shape& face : toVector(revolve.Generated(edge.edge)))
                    if (names.has(face)) {
                        names.add(face, roles);
                        found = true;
                    }
                if (!found) nameUnreported(names, edge.edge, roles);
            }
            auto body = names.finish();
            if (!body) return body.error();
            StepChange change(MadeBody{*body});
            if (!note.empty()) change.notes.push_back(note);
            return change;
        });
}

} // namespace gc

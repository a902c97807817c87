// Emboss: areas of a drawing raised on a wall or sunk into it.

#include "core/steps/emboss/across.hpp"
#include "core/steps/emboss/closed.hpp"
#include "core/steps/emboss/depth.hpp"
#include "core/steps/emboss/rims.hpp"
#include "core/steps/shared/filling.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/placing.hpp"
#include "core/steps/shared/relief.hpp"
#include "core/steps/shared/size_handles.hpp"
#include "core/steps/shared/turned_seam.hpp"

#include <BRepBuilderAPI_Copy.hxx>
#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// The body that is worked on, and the walls that were picked on it.
struct Walled {
    Body body;
    std::vector<TopoDS_Face> walls;
};

ReliefShape shapeBy(const Arguments& args, const LayingBy& by) {
    ReliefShape out;
    const bool sunk = args.text("does") == "sunk";
    out.height = args.number("height") * (sunk ? -1 : 1);
    if (args.text("sides") == "leaning") out.lean = args.number("lean");
    if (!by.wrapped && args.text("grows") == "along the drawing") {
        // Out of a wall that lies ahead is on, out of one that the drawing lies before is back.
        const Vec3 n = by.drawing.normal();
        out.along = gp_Dir(n.x, n.y, n.z);
    }
    return out;
}

/// Where it grows along the drawing: that way of its normal that leads out of the walls.
Result<Done> turnOutward(ReliefShape& shape, const std::vector<LaidArea>& areas) {
    if (!shape.along) return Done{};
    double out = 0;
    for (const LaidArea& a : areas) {
        const Handle(Geom_Surface) s = BRep_Tool::Surface(a.wall);
        for (const gp_Pnt2d& uv : a.loops.front()) {
            gp_Pnt p;
            gp_Vec du, dv;
            s->D1(uv.X(), uv.Y(), p, du, dv);
            gp_Vec n = du.Crossed(dv);
            if (a.wall.Orientation() == TopAbs_REVERSED) n.Reverse();
            const double side = n.Normalized().Dot(gp_Vec(*shape.along));
            if (side * out < 0)
                return errorOf("emboss.sides", "The drawing lies on both sides of the part. Pick the wall of "
                                               "one side only.");
            if (side != 0) out = side;
        }
    }
    if (out < 0) shape.along->Reverse();
    return Done{};
}

/// Seams of round walls that areas lie over are turned out of the way; what cannot be stays over its seam.
Result<std::vector<LaidArea>> laidClear(Walled& on, const std::vector<Region>& areas, const LayingBy& by,
                                        const ReliefShape& shape) {
    constexpr int kMost = 6; // walls with a seam under areas
    for (int tries = 0;; ++tries) {
        auto laid = layAreas(areas, on.walls, by, shape);
        if (!laid || tries == kMost) return laid;
        const auto over =
            std::find_if(laid->begin(), laid->end(), [](const LaidArea& a) { return a.overSeam; });
        if (over == laid->end()) return laid;
        const auto angle = seamTurn(over->wall, *laid);
        const NamedShape& s = on.body.shape();
        auto turned =
            angle ? withSeamTurned(on.body, s.faces.FindIndex(over->wall) - 1, *angle) : std::nullopt;
        if (!turned) return laid;
        for (TopoDS_Face& w : on.walls) {
            const int now = turned->faces[static_cast<std::size_t>(s.faces.FindIndex(w) - 1)];
            w = TopoDS::Face(turned->body.shape().faces(now + 1));
        }
        on.body = std::move(turned->body);
    }
}

void showHeight(const LaidArea& area, const ReliefShape& shape, ModelReader& model) {
    const Handle(Geom_Surface) s = BRep_Tool::Surface(area.wall);
    const gp_Pnt2d uv = area.loops.front().front();
    const auto far = liftedPlace(area.wall, GeomAdaptor_Surface(s), shape, uv);
    if (!far) return;
    const Vec3 from = toVec(s->Value(uv.X(), uv.Y()));
    model.show(sizeHandle("height", from, unit(toVec(*far) - from), std::fabs(shape.height)));
}

/// Does it lie where its drawing is straight ahead? Wrapped round to the back it does not, even on a flat
/// wall.
bool liesStraight(const LaidArea& a, const Plane& drawing) {
    constexpr double kAside = 1e-5; // mm
    const Handle(Geom_Surface) s = BRep_Tool::Surface(a.wall);
    const Curve2& side = a.area->outer.sides.front().curve;
    for (const double t : {0.0, 0.6}) {
        const Vec2 p = side.at(t);
        const auto uv = a.laying->at(p);
        const Vec3 off = uv ? toVec(s->Value(uv->X(), uv->Y())) - drawing.at(p) : Vec3{};
        if (!uv || std::fabs(dot(off, drawing.across)) > kAside || std::fabs(dot(off, drawing.up)) > kAside)
            return false;
    }
    return true;
}

/// All areas of one wall share the surface at their far ends.
Result<std::vector<Hosted>> reliefsOf(const std::vector<LaidArea>& areas, const Outline& outline,
                                      const ReliefShape& shape, const Progress& progress) {
    std::vector<Hosted> out;
    for (const LaidArea& first : areas) {
        if (std::any_of(out.begin(), out.end(), [&](const Hosted& h) { return h.face.IsSame(first.wall); }))
            continue;
        Hosted host{first.wall, {}};
        const bool flat = isFlatAlongside(first.wall, outline.plane) &&
                          std::all_of(areas.begin(), areas.end(), [&](const LaidArea& a) {
                              return !a.wall.IsSame(first.wall) || liesStraight(a, outline.plane);
                          });
        LiftedSurface top;
        if (!flat) {
            Window all;
            for (const LaidArea& a : areas)
                if (a.wall.IsSame(first.wall))
                    for (const gp_Pnt2d& corner :
                         {gp_Pnt2d(a.window.u0, a.window.v0), gp_Pnt2d(a.window.u1, a.window.v1)})
                        all.add(corner);
            auto lifted = liftedSurface(first.wall, shape, all);
            if (!lifted) return lifted.error();
            top = std::move(*lifted);
        }
        for (const LaidArea& a : areas) {
            if (!a.wall.IsSame(first.wall)) continue;
            if (progress.stopped()) return stoppedError();
            auto one = flat ? reliefOnFlat(a.wall, outline, *a.area, shape)
                            : reliefOn(a.wall, outline, *a.area, *a.laying, shape, top);
            if (!one) return one.error();
            host.reliefs.push_back(std::move(*one));
        }
        out.push_back(std::move(host));
    }
    return out;
}

/// What lies within a wall first; then what runs over borders, by booleans that go by the walls as they were.
Result<Body> embossed(const Walled& on, const std::vector<LaidArea>& areas, const Outline& outline,
                      const LayingBy& by, const ReliefShape& shape, int step, const Progress& progress) {
    std::vector<LaidArea> within;
    std::copy_if(areas.begin(), areas.end(), std::back_inserter(within),
                 [](const LaidArea& a) { return a.within; });
    Body body = on.body;
    if (!within.empty()) {
        auto reliefs = reliefsOf(within, outline, shape, progress);
        if (!reliefs) return reliefs.error();
        auto set = setReliefs(body.shape(), *reliefs, outline, step);
        if (!set) return errorOf("emboss.failed", "The drawing cannot be set into this wall.");
        body = std::move(*set);
    }
    for (const LaidArea& a : areas) {
        if (a.within) continue;
        if (progress.stopped()) return stoppedError();
        auto with = embossedAcross(body, on.walls, outline, a, by, shape, step);
        if (!with) {
            Error e = with.error();
            const Handle(Geom_Surface) s = BRep_Tool::Surface(a.wall);
            const gp_Pnt2d uv = a.loops.front().front();
            if (!e.place) e.place = toVec(s->Value(uv.X(), uv.Y()));
            return e;
        }
        body = std::move(*with);
    }
    return body;
}

/// A copy with geometry of its own: a body must share none with another.
NamedTool copied(const NamedTool& tool) {
    BRepBuilderAPI_Copy copy(tool.shape);
    NamedTool out = tool;
    out.shape = copy.Shape();
    for (auto& [face, name] : out.names) face = copy.ModifiedShape(face);
    return out;
}

/// Each area a body of its own, in the order of the drawing: what stands on the walls, or fills what is sunk.
Result<Done> addOwn(StepChange& change, const Walled& on, const std::vector<LaidArea>& areas,
                    const Outline& outline, const LayingBy& by, const ReliefShape& shape, int step,
                    const Progress& progress) {
    std::vector<LaidArea> within;
    std::copy_if(areas.begin(), areas.end(), std::back_inserter(within),
                 [](const LaidArea& a) { return a.within; });
    const auto hosts = reliefsOf(within, outline, shape, progress);
    if (!hosts) return hosts.error();
    const auto ownOf = [&](const LaidArea& a) -> Result<NamedTool> {
        if (!a.within) return standingAcross(on.walls, outline, a, by, shape, step);
        for (const Hosted& h : *hosts)
            for (const Relief& r : h.reliefs)
                if (r.area == a.area) return closedRelief(r, h.face, shape, kFootRole, outline, step);
        return errorOf("emboss.failed", "The drawing cannot be set onto this wall.");
    };
    for (const LaidArea& a : areas) {
        if (progress.stopped()) return stoppedError();
        const auto own = ownOf(a);
        if (!own) return own.error();
        auto body = bodyOf(copied(*own));
        if (!body) return body.error();
        change.list.push_back(MadeBody{std::move(*body)});
    }
    return Done{};
}

Error byStep(Error e, const Arguments& args) {
    for (Remedy& r : e.remedies) r.step = args.id();
    return e;
}

Result<StepChange> emboss(const Arguments& args, ModelReader& model, const Filled& filled,
                          const FoundItems& found, const Progress& progress) {
    const Outline& outline = filled.outline();
    LayingBy by;
    by.drawing = outline.plane;
    by.ahead = args.text("way") == "ahead";
    by.wrapped = args.text("lay") == "wrapped";
    ReliefShape shape = shapeBy(args, by);
    Walled on{found.body, {}};
    for (const int i : found.items) on.walls.push_back(TopoDS::Face(found.body.shape().faces(i + 1)));
    auto areas = laidClear(on, filled.areas, by, shape);
    if (!areas) return byStep(areas.error(), args);
    if (auto turned = turnOutward(shape, *areas); !turned) return turned.error();
    showHeight(areas->front(), shape, model);
    if (auto e = whyNoRoom(on.body.shape(), *areas, on.walls, by, shape, args.id())) return *e;
    const bool own = args.text("becomes") == "as bodies of their own";
    StepChange change;
    if (!own || shape.height < 0) {
        auto body = embossed(on, *areas, outline, by, shape, args.id(), progress);
        if (!body) return body.error();
        change.list.push_back(ChangedBody{found.id, std::move(*body)});
    }
    if (own) {
        if (auto e = addOwn(change, on, *areas, outline, by, shape, args.id(), progress); !e)
            return e.error();
    } else {
        roundRims(args, change, progress);
    }
    if (progress.stopped()) return stoppedError();
    change.notes = filled.notes;
    change.notes.insert(change.notes.end(), found.notes.begin(), found.notes.end());
    return change;
}

} // namespace

Result<StepChange> runEmboss(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto filled = filledFor(args, model, "emboss", "Emboss");
    if (!filled) return filled.error();
    if (args.references("wall").empty())
        return errorOf("emboss.wall", "Pick the wall that the drawing is laid onto.");
    const auto found = findFaces(args.references("wall"), model);
    if (!found) return found.error();
    return guarded("emboss.failed", "The drawing cannot be embossed there.",
                   [&] { return emboss(args, model, *filled, *found, progress); });
}

} // namespace gc

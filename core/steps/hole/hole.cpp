#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/near_filler.hpp"
#include "core/steps/shared/worked_names.hpp"

#include "core/steps/hole/flat_wall.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepAlgoAPI_BooleanOperation.hxx>
#include <BRepGProp.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <GProp_GProps.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Ax2.hxx>
#include <gp_Lin.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>
#include <cstdio>
#include <numbers>

namespace gc {

namespace {

/// Where holes go: centre and two directions in the face's plane, and the way into the wall.
struct Layout {
    gp_Pnt centre;
    gp_Vec x, y;
    gp_Dir into;
};

Result<Layout> layoutOn(const NamedShape& body, const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face);
    if (surface.GetType() != GeomAbs_Plane) {
        Error e;
        e.code = "hole.flat";
        e.sentence = "Holes start on a flat face so far, and this one is curved. Pick a flat one.";
        return e;
    }
    const gp_Pln plane = surface.Plane();
    gp_Dir normal = plane.Axis().Direction();
    // The axis of the surface's frame may be left-handed; the orientation says where the material is.
    if (!plane.Direct()) normal.Reverse();
    if (face.Orientation() == TopAbs_REVERSED) normal.Reverse();
    Layout l;
    l.into = normal.Reversed();
    if (normal.IsParallel(gp::DZ(), 1e-6)) { // square to the part's axis: around that axis
        l.centre = gp_Pnt(0, 0, plane.Location().Z());
        l.x = gp_Vec(1, 0, 0);
    } else {
        // Around the middle that the face had when it was made: later cuts and rounds do not move the holes.
        const NameList& names = body.namesOf(face);
        const auto middle = names.empty() ? body.middles.end() : body.middles.find(names.front());
        GProp_GProps props;
        BRepGProp::SurfaceProperties(face, props);
        l.centre = props.CentreOfMass();
        if (middle != body.middles.end()) {
            const gp_Pnt then(middle->second.x, middle->second.y, middle->second.z);
            l.centre = then.Translated(gp_Vec(normal) * gp_Vec(then, l.centre).Dot(gp_Vec(normal)));
        }
        l.x = gp_Vec(normal.Crossed(gp::DZ()));
    }
    l.x.Normalize();
    l.y = gp_Vec(normal).Crossed(l.x);
    return l;
}

/// How deep the wall is from p, and how much room is behind it before more material comes.
std::optional<std::pair<double, double>> wallBehind(IntCurvesFace_ShapeIntersector& hits, const gp_Pnt& p,
                                                    const gp_Dir& into) {
    hits.Perform(gp_Lin(p, into), -1e-4, 1e5);
    std::vector<double> at;
    for (int i = 1; i <= hits.NbPnt(); ++i) at.push_back(hits.WParameter(i));
    std::sort(at.begin(), at.end());
    at.erase(std::unique(at.begin(), at.end(), [](double a, double b) { return b - a < 1e-6; }), at.end());
    if (at.size() < 2 || at[0] > 1e-3) return std::nullopt;
    return std::pair{at[1], at.size() > 2 ? at[2] - at[1] : 1e5};
}

TopoDS_Shape drill(const gp_Pnt& p, const gp_Dir& into, double radius, double depth, double beyond,
                   double lean) {
    const double before = radius; // starts outside, so that no skin is left on the face
    const gp_Ax2 axis(gp_Pnt(p.XYZ() - into.XYZ() * before), into);
    const double whole = before + depth + beyond;
    if (lean < 1e-9) return BRepPrimAPI_MakeCylinder(axis, radius, whole).Shape();
    const double slope = std::tan(lean); // the diameter holds at the face; the bore widens away from it
    return BRepPrimAPI_MakeCone(axis, std::max(1e-3, radius - before * slope),
                                radius + (depth + beyond) * slope, whole)
        .Shape();
}

TopoDS_Shape sideOf(const TopoDS_Shape& tool) {
    for (TopExp_Explorer x(tool, TopAbs_FACE); x.More(); x.Next())
        if (BRepAdaptor_Surface(TopoDS::Face(x.Current())).GetType() != GeomAbs_Plane) return x.Current();
    return {};
}

Vec3 asVec3(const gp_Vec& v) {
    return {v.X(), v.Y(), v.Z()};
}

/// Where on the circle a hole sits, "60°": its place is its name, so that another count takes it for no
/// other.
std::string degrees(int k, int count) {
    char text[40];
    std::snprintf(text, sizeof text, "%.2f", 360.0 * k / count);
    std::string out = text;
    while (out.ends_with('0')) out.pop_back();
    if (out.ends_with('.')) out.pop_back();
    return out + "°";
}

Error misses(int number, const std::string& why) {
    return errorOf("hole.misses", phrase("Hole %1 %2 Change the circle, the count or the diameter.",
                                         std::to_string(number), why));
}

/// What the step asks for, on the face that it found.
struct Holes {
    const NamedShape& body;
    int face;
    Layout layout;
    double radius, lean;
    int step;
    std::vector<gp_Pnt> centres{};

    std::size_t count() const { return centres.size(); }
    Plane frame() const { return {toVec(layout.centre), asVec3(layout.x), asVec3(layout.y)}; }
    /// Every bore is the bore of this step, and the one at its place on the circle.
    void name(NameBuilder& names, const TopoDS_Shape& bore, std::size_t k) const {
        const NamePtr any = internName(step, "bore");
        names.add(bore, any);
        names.add(bore, internName(step, "copy at " + degrees(static_cast<int>(k), static_cast<int>(count())),
                                   {any}));
    }
};

std::optional<Error> overlap(int count, double radius, double around) {
    const double gap = 2 * around * std::sin(std::numbers::pi / std::max(count, 1)) - 2 * radius;
    if (count < 2 || gap > 0) return std::nullopt;
    const int most = around > radius ? static_cast<int>(std::numbers::pi / std::asin(radius / around)) : 1;
    return errorOf("hole.overlap", phrase("%1 holes of ⌀ %2 overlap on ⌀ %3; at most %4 fit.",
                                          std::to_string(count), formatAmount(2 * radius, "mm"),
                                          formatAmount(2 * around, "mm"), std::to_string(most)));
}

/// Through a wall between two flat faces, without a boolean; nothing where it is none.
std::optional<Result<Body>> boredQuickly(const Holes& h) {
    const auto quick = boreFlatWall(h.body, h.face, h.centres, h.radius, h.lean);
    if (!quick) return std::nullopt;
    NameBuilder names(quick->shape);
    names.inherit(h.body);
    names.frame(h.step, h.frame());
    for (const auto& [now, before] : quick->faces) names.add(now, h.body.namesOf(before));
    for (std::size_t k = 0; k < h.count(); ++k) h.name(names, quick->bores[k], k);
    return names.finish();
}

Result<Body> boredByBoolean(const Holes& h) {
    IntCurvesFace_ShapeIntersector hits;
    hits.Load(h.body.shape, 1e-7);
    std::vector<TopoDS_Shape> tools, sides;
    for (std::size_t k = 0; k < h.count(); ++k) {
        const auto wall = wallBehind(hits, h.centres[k], h.layout.into);
        if (!wall) return misses(static_cast<int>(k) + 1, "misses the face.");
        const TopoDS_Shape tool = drill(h.centres[k], h.layout.into, h.radius, wall->first,
                                        std::min(2 * h.radius, wall->second / 2), h.lean);
        tools.push_back(tool);
        sides.push_back(sideOf(tool));
    }
    NearOnly<BRepAlgoAPI_BooleanOperation> cut;
    cut.SetOperation(BOPAlgo_CUT);
    cut.setUp(h.body.shape, tools);
    cut.build();
    if (cut.HasErrors()) return misses(1, "cannot be cut.");
    NameBuilder names(onlySolid(cut.Shape()));
    names.carry(h.body, cut);
    names.frame(h.step, h.frame());
    for (std::size_t k = 0; k < h.count(); ++k) {
        const auto now = whatBecameOf(sides[k], cut);
        if (std::none_of(now.begin(), now.end(), [&](const TopoDS_Shape& f) { return names.has(f); }))
            return misses(static_cast<int>(k) + 1, "leaves nothing of the wall or misses it.");
        for (const TopoDS_Shape& f : now) h.name(names, f, k);
    }
    auto body = names.finish();
    if (body) return body;
    return errorOf("hole.depth",
                   "A hole runs out inside the material: the wall behind the face is not even there. "
                   "Move the circle or make the holes smaller.");
}

} // namespace

Result<StepChange> runHole(const Arguments& args, ModelReader& model, const Progress&) {
    auto found = findFaces(args.references("face"), model);
    if (!found) return found.error();
    const NamedShape& s = found->body.shape();
    return guarded("hole.failed", "The holes cannot be cut here.", [&]() -> Result<StepChange> {
        const int face = found->items.front();
        const auto layout = layoutOn(s, TopoDS::Face(s.faces(face + 1)));
        if (!layout) return layout.error();
        const int count = static_cast<int>(args.number("count"));
        const double radius = args.number("diameter") / 2, around = count > 1 ? args.number("circle") / 2 : 0;
        if (const auto fault = overlap(count, radius, around)) return *fault;
        Holes holes{s, face, *layout, radius, args.number("lean"), args.id()};
        for (int k = 0; k < count; ++k) {
            const double a = 2 * std::numbers::pi * k / count;
            holes.centres.push_back(layout->centre.Translated(layout->x * (around * std::cos(a)) +
                                                              layout->y * (around * std::sin(a))));
        }
        const auto quick = boredQuickly(holes);
        const auto body = quick ? *quick : boredByBoolean(holes);
        if (!body) return body.error();
        StepChange change(ChangedBody{found->id, *body});
        change.notes = found->notes;
        return change;
    });
}

} // namespace gc

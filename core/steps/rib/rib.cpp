// Rib: a wall along each chain of a drawing, up to the walls of the part.

#include "core/sketch/drawing_words.hpp"
#include "core/steps/rib/lines.hpp"
#include "core/steps/shared/filling.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/moved_along.hpp"
#include "core/steps/shared/profile.hpp"
#include "core/steps/shared/standing.hpp"

#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <BRep_Builder.hxx>
#include <TopExp_Explorer.hxx>

#include <algorithm>

namespace gc {

namespace {

constexpr double kWithin = 0.02; // mm: from the drawing to places that are surely past it

/// Of the thickness: three walls at 120 degrees need 0.29, and nothing of them comes out beside the others.
constexpr double kJoin = 0.35;

struct RibSizes {
    double thickness = 0, lean = 0; ///< mm at its top; rad
};

/// What one chain's rib is made of, before walls end it.
struct RibBody {
    Swept swept;
    std::vector<gp_Pnt> places;      ///< that lie in it
    std::vector<TopoDS_Shape> tools; ///< what else bounds it, and is its top
};

Movement movement(const Vec3& normal, double to, double lean) {
    Movement by;
    by.slant = normal;
    by.to = to;
    by.mayEndBefore = true;
    if (lean > 0) by.lean = -lean;
    return by;
}

/// Those of the places that lie before a wall, a little on from the drawing.
std::vector<gp_Pnt> placesBefore(const Plane& plane, const RibLine& line, const Vec3& way,
                                 const std::optional<Footing::Foot>* feet) {
    std::vector<gp_Pnt> out;
    for (std::size_t i = 0; i < line.places.size(); ++i)
        if (feet[i])
            out.push_back(toPnt(plane.at(line.places[i]) + way * std::min(kWithin, feet[i]->distance / 2)));
    return out;
}

/// Drawn from above: a wall along the line, moved on to the part.
Result<Swept> fromAbove(const Outline& outline, const RibLine& line, const RibSizes& sizes,
                        const Footing& standing) {
    const auto wall = thinWallOf(line.drawing, sizes.thickness, WallSide::Both);
    if (!wall) return wall.error();
    Outline walled = outline;
    std::map<int, int> used;
    for (const auto& [id, of] : wall->beside) {
        const auto carried = line.carried.find(of);
        const int stroke = carried == line.carried.end() ? of : carried->second;
        walled.madeRoles[id] = (used[of]++ > 0 ? "far side " : "side ") + std::to_string(stroke);
    }
    for (const auto& [id, which] : wall->caps) walled.madeRoles[id] = "cap " + std::to_string(which);
    return movedAlong(walled, wall->regions.front(),
                      movement(outline.plane.normal(), standing.sense * standing.far, sizes.lean));
}

/// The chain's line as seen from its side: along its chord, and the way square to that.
struct SideView {
    Vec2 from, along, down; ///< down: as standing.sense is 1
    double length = 0;
};

SideView viewOf(const RibLine& line) {
    SideView v;
    v.from = line.places.front();
    const Vec2 chord = line.places.back() - v.from;
    v.length = length(chord);
    v.along = unit(chord);
    v.down = {v.along.y, -v.along.x};
    return v;
}

Loop polygon(const std::vector<Vec2>& corners) {
    Loop out;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        Curve2 c;
        c.p = {corners[i], corners[(i + 1) % corners.size()], Vec2{}, Vec2{}};
        out.sides.push_back({static_cast<int>(i) + 1, c, false});
        out.area += cross(corners[i], corners[(i + 1) % corners.size()]) / 2;
    }
    return out;
}

/// The surface over a chain's line, square to the drawing and wider than the rib.
TopoDS_Shape sheetOver(const Outline& outline, const RibLine& line, double half) {
    BRepBuilderAPI_MakeWire wire;
    const gp_Trsf place = placementOf(outline.plane);
    const Vec3 n = outline.plane.normal();
    for (const int stroke : line.chain.strokes) {
        const auto curves = curvesOf(line.drawing, *line.drawing.findStroke(stroke));
        wire.Add(TopoDS::Edge(BRepBuilderAPI_Transform(edgeOfStroke(curves), place, true).Shape()));
    }
    gp_Trsf back;
    back.SetTranslation(gp_Vec(n.x, n.y, n.z) * -half);
    return BRepPrimAPI_MakePrism(BRepBuilderAPI_Transform(wire.Wire(), back, true).Shape(),
                                 gp_Vec(n.x, n.y, n.z) * (2 * half))
        .Shape();
}

/// Drawn from its side: a plate in the drawing's plane, thicker toward the wall, under the line.
Result<RibBody> fromSide(const Outline& outline, const RibLine& line, const RibSizes& sizes,
                         const Footing& standing, bool on) {
    constexpr double kAbove = 1; // mm: the plate begins before the line, so that the line cuts it all along
    const SideView v = viewOf(line);
    const Vec2 down = v.down * standing.sense;
    double low = 0, high = 0, top = 0;
    for (const int stroke : line.chain.strokes)
        for (const Curve2& c : curvesOf(line.drawing, *line.drawing.findStroke(stroke)))
            for (const Vec2 p : c.sampled(0.01)) {
                low = std::min(low, dot(p - v.from, v.along)),
                high = std::max(high, dot(p - v.from, v.along));
                top = std::min(top, dot(p - v.from, down));
            }
    if (on) low += kAbove, high -= kAbove; // the line is carried on further than that
    // Its length runs across, its thickness up; what looks along its normal goes toward the wall.
    const Vec3 along = outline.plane.across * v.along.x + outline.plane.up * v.along.y;
    const Vec3 way = outline.plane.across * down.x + outline.plane.up * down.y;
    Outline plate;
    const double begin = top - kAbove;
    plate.plane = {outline.plane.at(v.from) + way * begin, along, cross(way, along)};
    const double half = sizes.thickness / 2 - kAbove * std::tan(sizes.lean);
    if (half <= 0)
        return errorOf("rib.thin", "With this lean it would be sharp at its top. Make it thicker, or lean it "
                                   "less.");
    Region area;
    area.outer = polygon({{low, -half}, {high, -half}, {high, half}, {low, half}});
    const std::string stroke = std::to_string(line.firstStroke());
    plate.madeRoles = {{1, "side " + stroke}, {2, "cap 2"}, {3, "far side " + stroke}, {4, "cap 1"}};
    auto swept = movedAlong(plate, area, movement(way, standing.far - begin, sizes.lean));
    if (!swept) return swept.error();
    const double widest = half + (standing.far - begin) * std::tan(sizes.lean) + 1;
    return RibBody{std::move(*swept), {}, {sheetOver(outline, line, widest)}};
}

/// The places of all lines one after the other, in space.
std::vector<Vec3> allPlaces(const Outline& outline, const std::vector<RibLine>& lines) {
    std::vector<Vec3> out;
    for (const RibLine& line : lines)
        for (const Vec2 p : line.places) out.push_back(outline.plane.at(p));
    return out;
}

Error byLine(Error e, const Outline& outline, const RibLine& line, const gp_Pnt& at) {
    if (e.code != "standing.open") return e;
    e.sentence = phrase("The rib along %1 runs past the wall and meets nothing on a part of its way. Draw it "
                        "within the walls, or let its ends stay as they are drawn.",
                        nameOf(*outline.drawing, line.firstStroke()));
    e.place = toVec(at);
    return e;
}

Result<StepChange> rib(const Arguments& args, ModelReader& model) {
    const auto id = model.outlineIn("outline");
    const Outline* outline = id ? model.outline(*id) : nullptr;
    if (!outline || !outline->drawing)
        return errorOf("rib.outline",
                       phrase("There is no drawing called \"%1\" before this step.", args.label("outline")));
    const RibSizes sizes{args.number("thickness"), args.number("lean")};
    const bool above = args.text("seen") == "above", on = args.text("ends") == "on";
    const auto drawn = ribLines(*outline, 0, 0);
    if (!drawn) return drawn.error();
    Vec3 normal = outline->plane.normal();
    if (!above) {
        if (drawn->size() > 1 || drawn->front().chain.closed)
            return errorOf("rib.side",
                           "Seen from its side a rib is one open line: its top. Draw just that, or "
                           "take it as seen from above.");
        const SideView v = viewOf(drawn->front());
        normal = outline->plane.across * v.down.x + outline->plane.up * v.down.y;
    }
    const auto standing = standingOn(args, model, allPlaces(*outline, *drawn), normal, above);
    if (!standing) return standing.error();
    Outline top = *outline;
    top.plane = moved(outline->plane, standing->lift);
    const auto lines = ribLines(*outline, on ? standing->far : 0, kJoin * sizes.thickness);
    if (!lines) return lines.error();
    TopoDS_Compound solids;
    BRep_Builder().MakeCompound(solids);
    NamedTool tool;
    tool.step = args.id();
    tool.frame = outline->plane;
    const std::optional<Footing::Foot>* feet = standing->feet.data();
    for (const RibLine& line : *lines) {
        const auto places = placesBefore(top.plane, line, normal * standing->sense, feet);
        feet += line.places.size();
        if (places.empty()) continue; // all of it lies within the part
        RibBody body;
        if (above) {
            auto swept = fromAbove(top, line, sizes, *standing);
            if (!swept) return swept.error();
            body.swept = std::move(*swept);
        } else {
            auto made = fromSide(top, line, sizes, *standing, on);
            if (!made) return made.error();
            body = std::move(*made);
        }
        auto done =
            addStanding(std::move(body.swept), *standing, places, args.id(), solids, tool, body.tools);
        if (!done) return byLine(done.error(), *outline, line, places[places.size() / 2]);
    }
    tool.shape = onlySolid(solids);
    auto joined = joinedSolids(tool);
    if (!joined) return joined.error();
    auto change = become(standing->becoming, *joined, lines->size(), args, model);
    if (!change) return change.error();
    const double foot = sizes.thickness + 2 * standing->farthestFoot() * std::tan(sizes.lean);
    roundFeet(args, *change);
    if (!change->doubt) change->doubt = sinkDoubt(*standing, foot, args.id(), "thickness", sizes.thickness);
    return change;
}

} // namespace

Result<StepChange> runRib(const Arguments& args, ModelReader& model, const Progress&) {
    return guarded("rib.failed", "No rib can be made along these lines.", [&] { return rib(args, model); });
}

} // namespace gc

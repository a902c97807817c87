// Rib: a wall along each chain of a drawing, up to the walls of the part.

#include "core/sketch/drawing_words.hpp"
#include "core/sketch/edit/thin_wall.hpp"
#include "core/sketch/plain_loops.hpp"
#include "core/steps/rib/lines.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/find_curve.hpp"
#include "core/steps/shared/moved_along.hpp"
#include "core/steps/shared/profile.hpp"
#include "core/steps/shared/standing.hpp"

#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

namespace {

/// Of the thickness: three walls at 120 degrees need 0.29, and nothing of them comes out beside the others.
constexpr double kJoin = 0.35;

struct RibSizes {
    double thickness = 0, lean = 0; ///< mm at its top; rad
};

/// What one chain's rib is made of, before walls end it.
struct RibBody {
    Swept swept;
    std::vector<TopoDS_Shape> tools{}; ///< what else bounds it, and is its top
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
        if (feet[i]) out.push_back(placeIn(plane.at(line.places[i]) + way * feet[i]->justPast()));
    return out;
}

/// Drawn from above: a wall along the line, moved on to the part.
Result<RibBody> fromAbove(const Outline& outline, const RibLine& line, const RibSizes& sizes,
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
    auto swept = movedAlong(walled, wall->regions.front(),
                            movement(outline.plane.normal(), standing.sense * standing.far, sizes.lean));
    if (!swept) return swept.error();
    return RibBody{std::move(*swept)};
}

/// The chain's line as seen from its side: along its chord, and the way square to that.
struct SideView {
    Vec2 from, along, down; ///< down: as standing.sense is 1
    Vec3 downIn(const Plane& plane) const { return plane.across * down.x + plane.up * down.y; }
};

SideView viewOf(const RibLine& line) {
    SideView v;
    v.from = line.places.front();
    v.along = unit(line.places.back() - v.from);
    v.down = {v.along.y, -v.along.x};
    return v;
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
    const Region area = polygonArea({{low, -half}, {high, -half}, {high, half}, {low, half}});
    const std::string stroke = std::to_string(line.firstStroke());
    plate.madeRoles = {{1, "side " + stroke}, {2, "cap 2"}, {3, "far side " + stroke}, {4, "cap 1"}};
    auto swept = movedAlong(plate, area, movement(way, standing.far - begin, sizes.lean));
    if (!swept) return swept.error();
    const double widest = half + (standing.far - begin) * std::tan(sizes.lean) + 1;
    return RibBody{std::move(*swept), {sheetOver(outline, line, widest)}};
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

/// How the step is asked to lay them.
struct RibWish {
    RibSizes sizes;
    bool above = true; ///< drawn from above, else from the side
    bool on = true;    ///< open ends run on to the walls
};

/// The way in which walls are looked for.
Result<Vec3> lookOf(const Outline& outline, const std::vector<RibLine>& drawn, const RibWish& wish) {
    if (wish.above) return outline.plane.normal();
    if (drawn.size() > 1 || drawn.front().chain.closed)
        return errorOf("rib.side", "Seen from its side a rib is one open line: its top. Draw just that, or "
                                   "take it as seen from above.");
    return viewOf(drawn.front()).downIn(outline.plane);
}

/// \param top the drawing in the plane in which they begin
Result<NamedTool> ribs(const Outline& top, const Vec3& look, const Footing& footing, const RibWish& wish,
                       int step) {
    const auto lines = ribLines(top, wish.on ? footing.far : 0, kJoin * wish.sizes.thickness);
    if (!lines) return lines.error();
    ToolOfSolids made(step, top.plane);
    const std::optional<Footing::Foot>* feet = footing.feet.data();
    auto beyond = footing.beyond.begin();
    for (const RibLine& line : *lines) {
        const auto places = placesBefore(top.plane, line, look * footing.sense, feet);
        feet += line.places.size();
        const auto end = beyond + std::ptrdiff_t(line.places.size());
        if (places.empty() && std::find(beyond, end, true) != end)
            return noWallAhead(top.plane.at(line.places.front()));
        beyond = end;
        if (places.empty()) continue; // all of it lies within the part
        auto body = wish.above ? fromAbove(top, line, wish.sizes, footing)
                               : fromSide(top, line, wish.sizes, footing, wish.on);
        if (!body) return body.error();
        const auto done = addStanding(std::move(body->swept), footing, places, made, body->tools);
        if (!done) return byLine(done.error(), top, line, places[places.size() / 2]);
    }
    return joinedSolids(made);
}

Result<StepChange> rib(const Arguments& args, ModelReader& model) {
    const auto outline = drawingFor(args, model, "rib");
    if (!outline) return outline.error();
    const RibWish wish{{args.number("thickness"), args.number("lean")},
                       args.text("seen") == "above",
                       args.text("ends") == "on"};
    const auto drawn = ribLines(**outline, 0, 0);
    if (!drawn) return drawn.error();
    const auto look = lookOf(**outline, *drawn, wish);
    if (!look) return look.error();
    const auto footing = standingOn(args, model, allPlaces(**outline, *drawn), *look, wish.above,
                                    wish.on ? Beyond::IsLeftOut : Beyond::IsTold);
    if (!footing) return footing.error();
    Outline top = **outline;
    top.plane = moved(top.plane, footing->lift);
    const auto tool = ribs(top, *look, *footing, wish, args.id());
    if (!tool) return tool.error();
    auto change = become(footing->becoming, *tool, drawn->size(), args, model);
    if (!change) return change.error();
    roundFeet(args, *change);
    const double foot = wish.sizes.thickness + 2 * footing->farthestFoot() * std::tan(wish.sizes.lean);
    if (!change->doubt)
        change->doubt = sinkDoubt(*footing, foot, args.id(), "thickness", wish.sizes.thickness);
    return change;
}

} // namespace

Result<StepChange> runRib(const Arguments& args, ModelReader& model, const Progress&) {
    return guarded("rib.failed", "No rib can be made along these lines.", [&] { return rib(args, model); });
}

} // namespace gc

// Snap arm: the side view of an arm and its hook, as wide as the arm, up to the wall.

#include "core/base/angles.hpp"
#include "core/sketch/drawing_words.hpp"
#include "core/steps/shared/moved_along.hpp"
#include "core/steps/shared/standing.hpp"

#include <BRep_Builder.hxx>

#include <algorithm>

namespace gc {

namespace {

struct SnapSizes {
    double width = 0, thickness = 0, reach = 0; ///< mm
    double lead = 0, hold = 0;                  ///< rad
    /// From the arm's top to where its hook reaches out farthest, and to the end of its hook, mm.
    double slope() const { return reach / std::tan(lead); }
    double hook() const { return slope() + reach * std::tan(hold); }
};

Result<Vec2> facing(const Arguments& args, const std::vector<DrawnPlace>& places, const DrawnPlace& at) {
    const std::string& says = args.text("facing");
    if (says == "right") return Vec2{1, 0};
    if (says == "left") return Vec2{-1, 0};
    if (says == "up") return Vec2{0, 1};
    if (says == "down") return Vec2{0, -1};
    Vec2 middle;
    for (const DrawnPlace& p : places) middle = middle + p.at * (1.0 / static_cast<double>(places.size()));
    const Vec2 out = at.at - middle;
    if (length(out) < 1e-6)
        return errorOf("snap.middle",
                       places.size() == 1
                           ? "One arm has no middle to look away from. Say to which side of the "
                             "drawing its hook looks."
                           : "One of the points lies in their middle: say to which side of the "
                             "drawing the hooks look.");
    return unit(out) * (says == "inward" ? -1.0 : 1.0);
}

/// A corner of the arm's side view, and what the side from it on is called.
struct Corner {
    Vec2 at;
    const char* called;
};

/// Seen from its side: x the way that its hook looks, y from its top toward the wall, counter-clockwise.
std::vector<Corner> sideView(const SnapSizes& s, double far) {
    const double half = s.thickness / 2;
    std::vector<Corner> out{
        {{-half, 0}, "top "}, {{half, 0}, "slope "}, {{half + s.reach, s.slope()}, "catch "}};
    out.push_back({{half, s.hook()}, "front "});
    out.push_back({{half, far}, "foot "});
    out.push_back({{-half, far}, "back "});
    return out;
}

Result<Swept> arm(const Outline& top, const DrawnPlace& place, Vec2 looks, const SnapSizes& sizes,
                  const Footing& standing) {
    const Vec3 out = top.plane.across * looks.x + top.plane.up * looks.y;
    const Vec3 down = top.plane.normal() * standing.sense;
    Outline view;
    view.plane = {top.plane.at(place.at), out, down};
    Region area;
    int id = 0;
    const auto corners = sideView(sizes, standing.far);
    for (std::size_t i = 0; i < corners.size(); ++i) {
        Curve2 c;
        const Vec2 a = corners[i].at, b = corners[(i + 1) % corners.size()].at;
        c.p = {a, b, Vec2{}, Vec2{}};
        area.outer.sides.push_back({++id, c, false});
        area.outer.area += cross(a, b) / 2;
        view.madeRoles[id] = corners[i].called + std::to_string(place.stroke);
    }
    Movement by;
    by.slant = view.plane.normal();
    by.from = -sizes.width / 2;
    by.to = sizes.width / 2;
    auto swept = movedAlong(view, area, by);
    if (!swept) return swept;
    // What is far of it is its foot, not one of its flanks.
    swept->sides.emplace_back(swept->start, "flank " + std::to_string(place.stroke));
    swept->sides.emplace_back(swept->end, "far flank " + std::to_string(place.stroke));
    const std::string foot = "foot " + std::to_string(place.stroke);
    const auto end = std::find_if(swept->sides.begin(), swept->sides.end(),
                                  [&](const auto& side) { return side.second == foot; });
    swept->end = TopoDS::Face(end->first);
    swept->start.Nullify();
    swept->sides.erase(end);
    return swept;
}

/// Bent aside by as much as its hook reaches out, an arm of even section is stretched at its root by
/// 3 t y / (2 L²) (the plain theory of bending; L from the root to where the hook is pushed).
double stretchOf(const SnapSizes& s, double length) {
    return 3 * s.thickness * s.reach / (2 * length * length);
}

Message stretchNote(const SnapSizes& sizes, double length) {
    return phrase(
        "To let its hook pass, the arm bends over %1 and its root is stretched by %2 % (plain bending). "
        "How much the material bears, once or often, its maker says; try it on a sample.",
        formatAmount(length, "mm", 1), formatNumber(100 * stretchOf(sizes, length), 1));
}

Result<StepChange> snap(const Arguments& args, ModelReader& model) {
    const Outline* drawn = nullptr;
    const auto places = drawnPlaces(args, model, "snap", drawn);
    if (!places) return places.error();
    const SnapSizes sizes{args.number("width"), args.number("thickness"), args.number("catch"),
                          args.number("lead"), args.number("hold")};
    std::vector<Vec3> at;
    for (const DrawnPlace& p : *places) at.push_back(drawn->plane.at(p.at));
    const auto standing = standingOn(args, model, at, drawn->plane.normal(), true);
    if (!standing) return standing.error();
    Outline top = *drawn;
    top.plane = moved(drawn->plane, standing->lift);
    TopoDS_Compound solids;
    BRep_Builder().MakeCompound(solids);
    NamedTool tool;
    tool.step = args.id();
    tool.frame = top.plane;
    double shortest = 1e300;
    for (std::size_t i = 0; i < places->size(); ++i) {
        const DrawnPlace& p = (*places)[i];
        const auto& foot = standing->feet[i];
        const std::string name = nameOf(*drawn->drawing, p.stroke);
        const double room = foot ? foot->distance - sizes.hook() : 0;
        if (room <= 0) {
            Error e =
                errorOf("snap.short",
                        phrase("At %1 the wall is %2 away, and the hook alone is %3 high. Let the arm begin "
                               "higher, or make its hook smaller.",
                               name, formatAmount(foot ? foot->distance : 0, "mm", 2),
                               formatAmount(sizes.hook(), "mm", 2)));
            e.place = top.plane.at(p.at);
            return e;
        }
        const auto looks = facing(args, *places, p);
        if (!looks) return looks.error();
        auto swept = arm(top, p, *looks, sizes, *standing);
        if (!swept) return swept.error();
        const Vec3 within = top.plane.at(p.at) + top.plane.normal() * (standing->sense * sizes.slope() / 2);
        auto done = addStanding(std::move(*swept), *standing, {toPnt(within)}, args.id(), solids, tool);
        if (!done) {
            Error e = done.error();
            if (e.code == "standing.open")
                e.sentence =
                    phrase("The arm at %1 reaches past the wall. Move it inward, or make it narrower.", name);
            return e;
        }
        shortest = std::min(shortest, foot->distance - sizes.slope());
    }
    tool.shape = onlySolid(solids);
    const auto joined = joinedSolids(tool);
    if (!joined) return joined.error();
    auto change = become(standing->becoming, *joined, places->size(), args, model);
    if (!change) return change.error();
    change->notes.push_back(stretchNote(sizes, shortest));
    roundFeet(args, *change);
    if (!change->doubt)
        change->doubt = sinkDoubt(*standing, sizes.thickness, args.id(), "thickness", sizes.thickness);
    return change;
}

} // namespace

Result<StepChange> runSnap(const Arguments& args, ModelReader& model, const Progress&) {
    return guarded("snap.failed", "No snap arm can be made here.", [&] { return snap(args, model); });
}

} // namespace gc

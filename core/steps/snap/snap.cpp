// Snap arm: the side view of an arm and its hook, as wide as the arm, up to the wall.

#include "core/sketch/plain_loops.hpp"
#include "core/steps/shared/moved_along.hpp"
#include "core/steps/shared/standing.hpp"

#include <algorithm>

namespace gc {

namespace {

struct SnapSizes {
    double width = 0, thickness = 0, reach = 0; ///< mm
    double tip = 0;                             ///< thickness at the top, mm: as at the root, or less
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
    if (length(out) < 1e-6) {
        Error e =
            errorOf("snap.middle", places.size() == 1
                                       ? "One arm has no middle to look away from. Say to which side of "
                                         "the drawing its hook looks."
                                       : "One of the points lies in their middle: say to which side of "
                                         "the drawing the hooks look.");
        for (const auto& [side, words] :
             {std::pair{"right", "To the right"}, std::pair{"left", "To the left"}, std::pair{"up", "Upward"},
              std::pair{"down", "Downward"}})
            e.remedies.push_back({args.id(), "facing", side, words, false});
        return e;
    }
    return unit(out) * (says == "inward" ? -1.0 : 1.0);
}

/// A corner of the arm's side view, and what the side from it on is called.
struct Corner {
    Vec2 at;
    const char* called;
};

/// Seen from its side: x the way that its hook looks, y from its top toward the wall, counter-clockwise. What
/// thins does so at its back, from the wall on. \param room from the top to the wall
std::vector<Corner> sideView(const SnapSizes& s, double room, double far) {
    const double half = s.thickness / 2;
    std::vector<Corner> out{
        {{half - s.tip, 0}, "top "},  {{half, 0}, "slope "},  {{half + s.reach, s.slope()}, "catch "},
        {{half, s.hook()}, "front "}, {{half, far}, "foot "}, {{-half, far}, "back "}};
    if (s.tip < s.thickness && room < far) out.push_back({{-half, room}, "back "});
    return out;
}

Result<Swept> arm(const Outline& top, const DrawnPlace& place, Vec2 looks, const SnapSizes& sizes,
                  double room, const Footing& standing) {
    const Vec3 out = top.plane.across * looks.x + top.plane.up * looks.y;
    const Vec3 down = top.plane.normal() * standing.sense;
    Outline view;
    view.plane = {top.plane.at(place.at), out, down};
    std::vector<Vec2> at;
    for (const Corner& c : sideView(sizes, room, standing.far)) {
        at.push_back(c.at);
        view.madeRoles[static_cast<int>(at.size())] = c.called + std::to_string(place.stroke);
    }
    Movement by;
    by.slant = view.plane.normal();
    by.from = -sizes.width / 2;
    by.to = sizes.width / 2;
    auto swept = movedAlong(view, polygonArea(at), by);
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
/// 3 t y / (2 L²) (the plain theory of bending; L from the root to where the hook is pushed). Where it thins
/// evenly to the share r, the moment at s from there (of L) is s, its stiffness (r + (1 - r) s)³: it gives
/// way by K = 3 ∫ s² / (r + (1 - r) s)³ ds as much, and what is stretched most is s / (r + (1 - r) s)² of the
/// root.
double stretchOf(const SnapSizes& s, double length) {
    const double even = 3 * s.thickness * s.reach / (2 * length * length);
    const double room = length + s.slope(), a = (1 - s.tip / s.thickness) * length / room, r = 1 - a;
    if (a < 1e-3) return even;
    const double gives = 3 * (-std::log(r) + 2 * r - 1.5 - r * r / 2) / (a * a * a);
    const double most = r < 0.5 ? 1 / (4 * r * a) : 1;
    return even * most / gives;
}

Message stretchNote(const SnapSizes& sizes, double length) {
    return phrase("To let its hook pass, the arm bends over %1 and is stretched by %2 % where it is most "
                  "(plain bending). "
                  "How much the material bears, once or often, its maker says; try it on a sample.",
                  formatAmount(length, "mm", 1), formatNumber(100 * stretchOf(sizes, length), 1));
}

/// The arms, and how long the shortest of them bends, mm.
struct Arms {
    NamedTool tool;
    double shortest = 1e300;
};
Result<Arms> arms(const Arguments& args, const StandingPlaces& at, const SnapSizes& sizes) {
    const Plane& plane = at.top.plane;
    const Footing& footing = at.footing;
    ToolOfSolids made(args.id(), plane);
    Arms out;
    for (std::size_t i = 0; i < at.places.size(); ++i) {
        const DrawnPlace& p = at.places[i];
        const double room = footing.feet[i] ? footing.feet[i]->distance : 0;
        if (room <= sizes.hook()) {
            Error e =
                errorOf("snap.short",
                        phrase("At %1 the wall is %2 away, and the hook alone is %3 high. Let the arm begin "
                               "higher, or make its hook smaller.",
                               p.called, formatAmount(room, "mm", 2), formatAmount(sizes.hook(), "mm", 2)));
            e.place = plane.at(p.at);
            return e;
        }
        const auto looks = facing(args, at.places, p);
        if (!looks) return looks.error();
        auto swept = arm(at.top, p, *looks, sizes, room, footing);
        if (!swept) return swept.error();
        const Vec3 within = plane.at(p.at) + plane.normal() * (footing.sense * sizes.slope() / 2);
        if (const auto done = addStanding(std::move(*swept), footing, {placeIn(within)}, made); !done) {
            Error e = done.error();
            if (e.code == "standing.open")
                e.sentence = phrase(
                    "The arm at %1 reaches past the wall. Move it inward, or make it narrower.", p.called);
            return e;
        }
        out.shortest = std::min(out.shortest, room - sizes.slope());
    }
    auto tool = joinedSolids(made);
    if (!tool) return tool.error();
    out.tool = std::move(*tool);
    return out;
}

Result<StepChange> snap(const Arguments& args, ModelReader& model) {
    const double thickness = args.number("thickness");
    const double tip = args.text("along") == "thinning" ? args.number("tip") : thickness;
    if (tip > thickness)
        return errorOf("snap.tip",
                       phrase("The arm thins to %1 at its top, but is only %2 thick. Make its top thinner.",
                              formatAmount(tip, "mm", 2), formatAmount(thickness, "mm", 2)));
    const SnapSizes sizes{args.number("width"), thickness,          args.number("catch"), tip,
                          args.number("lead"),  args.number("hold")};
    const auto at = standingPlaces(args, model, "snap");
    if (!at) return at.error();
    const auto made = arms(args, *at, sizes);
    if (!made) return made.error();
    auto change = become(at->footing.becoming, made->tool, at->places.size(), args, model);
    if (!change) return change.error();
    change->notes.push_back(stretchNote(sizes, made->shortest));
    roundFeet(args, *change);
    if (!change->doubt)
        change->doubt = sinkDoubt(at->footing, sizes.thickness, args.id(), "thickness", sizes.thickness);
    return change;
}

} // namespace

Result<StepChange> runSnap(const Arguments& args, ModelReader& model, const Progress&) {
    return guarded("snap.failed", "No snap arm can be made here.", [&] { return snap(args, model); });
}

} // namespace gc

// Thread: a coil around a round wall, added to it or taken from it.

#include "core/base/angles.hpp"
#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/find_axis.hpp"
#include "core/steps/shared/find_items.hpp"
#include "core/steps/shared/turned_seam.hpp"
#include "core/steps/thread/coil.hpp"
#include "core/steps/thread/set_coil.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepTools.hxx>
#include <TopoDS.hxx>
#include <gp_Cone.hxx>
#include <gp_Cylinder.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

Result<RoundWall> wallOf(const NamedShape& s, const TopoDS_Face& face) {
    const BRepAdaptor_Surface surface(face, false);
    const bool cone = surface.GetType() == GeomAbs_Cone;
    if (!cone && surface.GetType() != GeomAbs_Cylinder) {
        Error e = errorOf("thread.round",
                          "A thread goes around a straight round wall: a cylinder or a cone. Pick one.");
        e.culprits.push_back(s.wordsFor(face));
        return e;
    }
    const gp_Ax3 frame = cone ? surface.Cone().Position() : surface.Cylinder().Position();
    double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
    BRepTools::UVBounds(face, u0, u1, v0, v1);
    if (u1 - u0 < 2 * kPi - 1e-6)
        return errorOf(
            "thread.part",
            "This wall goes only part of the way round. A thread needs one that goes all the way.");
    const Axis up = turnedUp(
        {toVec(frame.Location()), {frame.Direction().X(), frame.Direction().Y(), frame.Direction().Z()}});
    RoundWall wall;
    wall.axis = up;
    // Ends of the wall along the axis, by its two borders.
    const auto ofBorder = [&](double v) {
        const gp_Pnt p = surface.Value(u0, v);
        const Vec3 from = toVec(p) - up.origin;
        const double level = dot(from, unit(up.direction));
        return std::pair{level, length(from - unit(up.direction) * level)};
    };
    auto low = ofBorder(v0), high = ofBorder(v1);
    if (low.first > high.first) std::swap(low, high);
    wall.axis.direction = unit(up.direction);
    wall.axis.origin = up.origin + wall.axis.direction * low.first;
    wall.radius = low.second;
    wall.height = high.first - low.first;
    wall.slope = (high.second - low.second) / wall.height;
    gp_Pnt at;
    gp_Vec du, dv;
    surface.D1(0.5 * (u0 + u1), 0.5 * (v0 + v1), at, du, dv);
    gp_Vec normal = du.Crossed(dv);
    if (face.Orientation() == TopAbs_REVERSED) normal.Reverse();
    const Vec3 o = toVec(at) - wall.axis.origin;
    const Vec3 out = o - wall.axis.direction * dot(o, wall.axis.direction);
    wall.outside = normal.X() * out.x + normal.Y() * out.y + normal.Z() * out.z > 0;
    return wall;
}

Coil coilBy(const Arguments& args, const RoundWall& wall, const DrawnSection& drawn) {
    Coil c;
    c.wall = wall;
    const std::string& profile = args.text("profile");
    c.profile = profile == "trapezoid" ? ThreadProfile::Trapezoid
                : profile == "rounded" ? ThreadProfile::Rounded
                : profile == "drawn"   ? ThreadProfile::Drawn
                                       : ThreadProfile::Triangular;
    c.pitch = args.number("pitch");
    c.depth = c.profile == ThreadProfile::Drawn ? drawn.depth : args.number("depth");
    c.base = c.profile == ThreadProfile::Drawn ? drawn.width : args.number("base");
    c.drawn = drawn;
    if (c.profile == ThreadProfile::Drawn) c.drawn.sink(c.sunk());
    if (c.profile == ThreadProfile::Trapezoid) c.crest = args.number("crest");
    c.left = args.text("hand") == "left-handed";
    c.cut = args.text("does") == "cut";
    if (args.text("fit") == "wider") c.clearance = args.number("clearance");
    c.turns = args.text("extent") == "for" ? args.number("turns") : args.number("height") / c.pitch;
    c.runout = std::min(args.number("run-out"), c.turns * kPi);
    c.angle = args.number("angle");
    // Measured to the foot of the first turn, of its partner where it is made for that.
    const double from = args.number("from") + (c.clearance > 0 ? 0.5 * c.base : c.halfWidth(0)),
                 rise = c.pitch * c.turns;
    c.level = args.text("end") == "lower end" ? from : wall.height - from - rise;
    if (c.clearance > 0) { // and its ends lie as far beyond those of its partner
        constexpr double kSpare = 1.02;
        const double before = kSpare * c.clearance / std::min(c.wall.radius, c.wall.radiusAt(c.wall.height));
        c.turns += before / kPi;
        c.level -= c.pitch * before / (2 * kPi);
        c.angle -= c.left ? -before : before;
    }
    return c;
}

std::optional<Error> whyNot(const Arguments& args, const Coil& c, int starts) {
    const double most = c.pitch / starts, foot = 2 * c.halfWidth(-c.sunk());
    if (c.profile == ThreadProfile::Trapezoid && c.crest > c.base)
        return errorOf("thread.crest", phrase("The crest, %1, is wider than the foot, %2.",
                                              formatAmount(c.crest, "mm", 2), formatAmount(c.base, "mm", 2)));
    if (c.profile == ThreadProfile::Drawn && c.clearance > 0)
        return errorOf("thread.profile",
                       "A drawn profile is not made wider by itself: draw the wider one for its "
                       "partner, and let it be as it is.");
    if (foot > most) {
        Error e = errorOf("thread.crowded",
                          phrase("A thread of %1 at its foot takes %2 within the wall, and there are only "
                                 "%3 from one turn to the next. Make it narrower or the pitch larger.",
                                 formatAmount(c.base, "mm", 2), formatAmount(foot, "mm", 2),
                                 formatAmount(most, "mm", 2)));
        if (const double base = c.profile == ThreadProfile::Drawn ? 0 : c.base - (foot - most) - 0.01;
            base > 0.1 && base > c.crest)
            e.remedies.push_back(
                {args.id(), "base", formatAmount(std::floor(base * 100) / 100, "mm", 2),
                 phrase("%1 at its foot", formatAmount(std::floor(base * 100) / 100, "mm", 2)), false});
        return e;
    }
    const double low = c.level - c.halfWidth(0), high = c.level + c.pitch * c.turns + c.halfWidth(0);
    if (low < -1e-9 || high > c.wall.height + 1e-9) {
        const double turns = (c.wall.height - args.number("from") - 2 * c.halfWidth(0)) / c.pitch;
        Error e =
            errorOf("thread.long", phrase("It takes %1 of the wall from where it begins, and there are %2.",
                                          formatAmount(high - low, "mm", 2),
                                          formatAmount(c.wall.height - args.number("from"), "mm", 2)));
        if (turns > 0.25 && args.text("extent") == "for")
            e.remedies.push_back({args.id(), "turns", formatNumber(std::floor(turns * 20) / 20, 2),
                                  phrase("%1 turns fit", formatNumber(std::floor(turns * 20) / 20, 2)),
                                  false});
        return e;
    }
    const bool inward = c.wall.outside == c.cut;
    if (inward && std::min(c.wall.radius, c.wall.radiusAt(c.wall.height)) < c.depth + 0.1)
        return errorOf("thread.deep", "It would reach the axis. Make it less deep.");
    return std::nullopt;
}

Error crossed() {
    return errorOf("thread.failed", "The thread cannot be made: its turns come out crossed.");
}

struct Threaded {
    Body body;
    bool checked = false;
};

/// Set onto the wall; where something else is in the way there, added to the body or taken from it one by
/// one.
Result<Threaded> withCoils(const FoundItems& found, const std::vector<CoilShape>& coils, int step,
                           ModelReader& model, const Progress& progress) {
    std::vector<NamedTool> tools;
    for (const CoilShape& c : coils) {
        if (progress.stopped()) return stoppedError();
        const auto tool = solidOf(c, step);
        if (!tool) return crossed();
        if (auto shown = bodyOf(*tool)) model.show(*shown, c.coil().cut);
        tools.push_back(*tool);
    }
    const int wall = found.items.front();
    if (coils.front().coil().profile != ThreadProfile::Drawn) {
        if (auto made = setOnto(found.body, wall, coils, step)) return Threaded{std::move(*made), true};
        // An end may lie where the wall closes up: no other place that several starts have in common.
        for (const double by : {1.0, 2.2, 0.4})
            if (const auto turned = withSeamTurned(found.body, wall, by))
                if (auto made =
                        setOnto(turned->body, turned->faces[static_cast<std::size_t>(wall)], coils, step))
                    return Threaded{std::move(*made), true};
    }
    Body body = found.body;
    for (std::size_t i = 0; i < tools.size(); ++i) {
        if (progress.stopped()) return stoppedError();
        auto made = combine(body, tools[i], coils[i].coil().cut ? Combine::Take : Combine::Add);
        if (!made) return made.error();
        body = std::move(*made);
    }
    return Threaded{std::move(body), false};
}

} // namespace

Result<StepChange> runThread(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto found = findFaces(args.references("wall"), model);
    if (!found) return found.error();
    return guarded("thread.failed", "The thread cannot be made there.", [&]() -> Result<StepChange> {
        const NamedShape& s = found->body.shape();
        const auto wall = wallOf(s, TopoDS::Face(s.faces(found->items.front() + 1)));
        if (!wall) return wall.error();
        const int starts = args.text("more") == "several" ? static_cast<int>(args.number("starts")) : 1;
        DrawnSection drawn;
        if (args.text("profile") == "drawn") {
            const auto outline = drawingFor(args, model, "thread");
            if (!outline) return outline.error();
            auto section = drawnSection(**outline, "thread.profile", false);
            if (!section) return section.error();
            drawn = std::move(*section);
        }
        Coil coil = coilBy(args, *wall, drawn);
        if (auto e = whyNot(args, coil, starts)) return *e;
        std::vector<CoilShape> coils;
        const double first = coil.angle;
        for (coil.number = 1; coil.number <= starts; ++coil.number) {
            if (progress.stopped()) return stoppedError();
            coil.angle = first + 2 * kPi * (coil.number - 1) / starts;
            auto shape = CoilShape::of(coil);
            if (!shape) return crossed();
            coils.push_back(std::move(*shape));
        }
        auto made = withCoils(*found, coils, args.id(), model, progress);
        if (!made) return made.error();
        StepChange change(ChangedBody{found->id, std::move(made->body)});
        change.checked = made->checked;
        change.notes = found->notes;
        return change;
    });
}

} // namespace gc

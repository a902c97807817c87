#include "core/steps/extrude/handles.hpp"

#include "core/steps/shared/profile.hpp"

namespace gc {

namespace {

/// The lean of the sides, as an arc at the middle of the border's first piece.
void showLean(const char* slot, bool outward, double value, double height, const Outline& outline,
              const Region& area, const Reach& reach, ModelReader& model) {
    constexpr double kLeast = 4; // mm: a shorter arm could not be taken hold of
    const Curve2& c = area.outer.sides.front().curve;
    const Vec2 tangent = c.at(0.51) - c.at(0.49); // the area lies to its left
    const double size = std::hypot(tangent.x, tangent.y);
    if (size == 0) return;
    const Plane& plane = outline.plane;
    const Vec3 along = unit(plane.across * tangent.x + plane.up * tangent.y);
    // The direction that turns the way up towards the inside; behind the drawing it is the other.
    const double sense = (height < 0 ? -1 : 1) * (outward ? 1 : -1);
    Handle h;
    h.slot = slot;
    h.turns = true;
    h.from = plane.at(c.at(0.5)) + plane.normal() * reach.level;
    h.direction = along * sense;
    h.arm = plane.normal() * (std::fabs(height) < kLeast ? std::copysign(kLeast, height) : height);
    h.value = value;
    model.show(h);
}

bool isOutward(const std::string& sides) {
    return sides.find("outward") != std::string::npos;
}

} // namespace

void showHandles(const Arguments& args, const Outline& outline, const Region& area, const Reach& reach,
                 ModelReader& model) {
    const Plane& plane = outline.plane;
    const Vec3 middle = plane.at(middleOf(area)), way = unit(reach.slant);
    const auto along = [&](const char* slot, double from, double sense, double value) {
        Handle h;
        h.slot = slot;
        h.from = middle + reach.slant * from;
        h.direction = way * sense;
        h.value = value;
        return h;
    };
    if (args.text("begin") == "a level at") {
        Handle h = along("level", 0, 1, reach.level);
        h.direction = plane.normal();
        model.show(h);
    }
    if (args.text("begin") == "a face") return; // where that is, only the solid knows
    if (args.text("end") != "by") return;
    const std::string& how = args.text("way");
    const double length = args.number("length");
    Handle end = along("length", reach.level, how == "backward" ? -1 : 1, length);
    if (how == "both ways together")
        end.way = 0.5;
    else if (how != "forward, and back by")
        end.turnsRound = "way";
    model.show(end);
    if (how == "forward, and back by") model.show(along("second", reach.level, -1, args.number("second")));
    if (!reach.lean) return;
    const bool outward = isOutward(args.text("sides"));
    showLean("lean", outward, args.number("lean"), reach.to - reach.level, outline, area, reach, model);
    if (const std::string& back = args.text("back sides");
        reach.from < reach.level && (back == "inward by" || back == "outward by"))
        showLean("back lean", isOutward(back), args.number("back lean"), reach.from - reach.level, outline,
                 area, reach, model);
}

} // namespace gc

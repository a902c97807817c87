// What of a repeat is pulled in the stand: how far apart, how far in all, and how many.

#include "core/base/angles.hpp"
#include "core/steps/repeat/placements.hpp"
#include "core/steps/shared/size_handles.hpp"

#include <cmath>

namespace gc {

namespace {

/// By its end, one gap after the other.
Handle counting(Handle h, int count) {
    h.counts = {true, 0, 1};
    h.value = count - 1;
    return h;
}

/// By the first gap of those that share a whole: drawn nearer there are more.
Handle sharing(Handle h, double whole, int gaps, int more) {
    h.counts = {true, whole, more};
    h.value = whole / gaps;
    return h;
}

/// Beside the line on which the other size of a row is pulled: the figures of both are to be read.
Vec3 beside(const Vec3& along) {
    constexpr double kSteep = 0.9;
    return unit(cross(along, std::fabs(along.z) > kSteep ? Vec3{0, 1, 0} : Vec3{0, 0, 1}));
}

void showRow(const Arguments& args, const CopyLayout::Row& row, const std::string& after,
             const WidthAlong& widthAlong, const Vec3& size, const Vec3& at, ModelReader& model) {
    const std::string& how = args.text("spacing" + after);
    if (how == "filling") {
        model.show(sizeHandle("span" + after, at - row.along * (0.5 * widthAlong(row.along)), row.along,
                              args.number("span" + after)));
        return;
    }
    constexpr double kClear = 0.8; // of its own width, about
    const Vec3 aside = beside(row.along);
    const double wide = dot(size, {std::fabs(aside.x), std::fabs(aside.y), std::fabs(aside.z)});
    const Vec3 there = at + aside * (kClear * wide);
    if (row.count < 2) return;
    if (how == "over") {
        const double span = args.number("span" + after);
        model.show(sizeHandle("span" + after, at, row.along, span));
        if (row.count > 2)
            model.show(sharing(sizeHandle("count" + after, there, row.along, 0), span, row.count - 1, 1));
        return;
    }
    if (how == "every") model.show(sizeHandle("pitch" + after, at, row.along, row.pitch));
    if (how == "leaving") {
        const double gap = args.number("gap" + after);
        model.show(sizeHandle("gap" + after, at + row.along * (row.pitch - gap), row.along, gap));
    }
    if (row.pitch > 0)
        model.show(counting(sizeHandle("count" + after, there, row.along, 0, row.pitch), row.count));
}

void showRound(const Arguments& args, const Axis& axis, int count, double step, const Vec3& at,
               ModelReader& model) {
    constexpr double kOnAxis = 1e-3, kWider = 1.25; // mm
    const Vec3 d = unit(axis.direction), foot = axis.origin + d * dot(at - axis.origin, d), arm = at - foot;
    if (length(arm) < kOnAxis || count < 2) return;
    const std::string& turn = args.text("turn");
    if (turn == "all the way round") {
        model.show(sharing(turnHandle("count", foot, d, arm, 0), 2 * kPi, count, 0));
        return;
    }
    if (turn == "arc")
        model.show(sizeHandle("arc", at, unit(cross(d, arm)), args.number("arc")));
    else
        model.show(turnHandle("angle", foot, d, arm, args.number("angle")));
    const Vec3 wider = arm * kWider; // than the other size's arc
    if (turn == "over") {
        if (count > 2)
            model.show(sharing(turnHandle("count", foot, d, wider, 0), args.number("angle"), count - 1, 1));
        return;
    }
    Handle h = counting(turnHandle("count", foot, d, wider, 0), count);
    h.way = step;
    model.show(h);
}

} // namespace

void showPulls(const Arguments& args, const CopyLayout& layout, const WidthAlong& width, const Box& box,
               ModelReader& model) {
    const Vec3 at = (box.low + box.high) * 0.5;
    for (std::size_t i = 0; i < layout.rows.size(); ++i) {
        const CopyLayout::Row& row = layout.rows[i];
        showRow(args, row, i == 0 ? "" : " 2", width, box.size(), at, model);
    }
    if (layout.axis) showRound(args, *layout.axis, layout.turns, layout.step, at, model);
}

} // namespace gc

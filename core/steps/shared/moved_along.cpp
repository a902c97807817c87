#include "core/steps/shared/moved_along.hpp"

#include "core/shape/kernel.hpp"
#include "core/shape/kernel_clock.hpp"
#include "core/steps/shared/leaning_prism.hpp"
#include "core/steps/shared/profile.hpp"

#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepPrimAPI_MakePrism.hxx>
#include <TopoDS.hxx>

#include <algorithm>
#include <numbers>

namespace gc {

namespace {

Swept straight(const Profile& profile, const Movement& by) {
    const gp_Vec slant(by.slant.x, by.slant.y, by.slant.z);
    gp_Trsf lift;
    lift.SetTranslation(slant * by.from);
    // Moved once, edges and face together: two moves give places that are not the same place.
    BRepBuilderAPI_Transform moved =
        inKernel([&] { return BRepBuilderAPI_Transform(profile.face, lift, true); });
    Swept out;
    out.along = slant * (by.to - by.from);
    BRepPrimAPI_MakePrism prism = inKernel([&] { return BRepPrimAPI_MakePrism(moved.Shape(), out.along); });
    out.solid = prism.Shape();
    out.start = TopoDS::Face(prism.FirstShape());
    out.end = TopoDS::Face(prism.LastShape());
    for (const ProfileEdge& edge : profile.edges)
        for (const TopoDS_Shape& face : toVector(prism.Generated(moved.ModifiedShape(edge.edge))))
            for (const std::string& role : edge.roles) out.sides.emplace_back(face, role);
    return out;
}

/// What it can be instead is told with the reason.
Error tooFar(const LeanStop& s) {
    const std::string height = formatAmount(s.height, "mm", 2);
    const double most = std::atan2(std::fabs(s.stop.by), s.half.height) * 180 / std::numbers::pi;
    const std::string lean = formatNumber(std::floor(most * 100) / 100, 2) + "°";
    Message why;
    switch (s.stop.why) {
    case InsetStop::Why::Closes:
        why = phrase("Leaning so, the drawing closes up %1 from where it begins. Make it lower than that, or "
                     "lean it less than %2.",
                     height, lean);
        break;
    case InsetStop::Why::Meets:
        why = phrase("Leaning so, the drawing runs into itself %1 from where it begins. Make it lower than "
                     "that, or lean it less than %2.",
                     height, lean);
        break;
    case InsetStop::Why::Folds:
        why = phrase("Leaning so, a curve of the drawing folds %1 from where it begins: it is bent too "
                     "closely. Make it lower than that, lean it less than %2, or draw the curve wider.",
                     height, lean);
        break;
    case InsetStop::Why::Opens:
        why = phrase("Leaning so, two sides of the drawing part %1 from where it begins. Make it lower than "
                     "that, or lean it less than %2.",
                     height, lean);
        break;
    }
    return errorOf("lean.height", why);
}

std::vector<LeanHalf> halvesOf(const Movement& by) {
    std::vector<LeanHalf> out;
    const auto add = [&](double from, double to, double lean) {
        if (from != to) out.push_back({to > from ? 1.0 : -1.0, std::fabs(to - from), lean});
    };
    add(by.level, by.to, *by.lean);
    add(by.level, by.from, by.leanBack);
    return out;
}

Result<Swept> leaning(const Outline& outline, const Region& area, const Movement& by) {
    auto halves = halvesOf(by);
    auto made = leaningPrism(outline, area, by.level, halves);
    if (!made) return made.error();
    Swept out;
    if (const auto* stop = std::get_if<LeanStop>(&*made)) {
        constexpr double kLess = 0.999; // of the height at which it cannot go on
        const Error why = tooFar(*stop);
        if (!by.mayEndBefore) return why;
        // Something may end it before that.
        out.cutShort = why;
        halves.front().height = stop->height * kLess;
        made = leaningPrism(outline, area, by.level, halves);
        if (!made) return made.error();
        if (std::holds_alternative<LeanStop>(*made)) return why;
    }
    const auto& prism = std::get<LeaningPrism>(*made);
    if (!BRepCheck_Analyzer(prism.solid).IsValid())
        return errorOf("lean.fit",
                       "With this lean the sides of the drawing do not fit together. Lean it a little "
                       "less or more, or draw its corners with rounds.");
    const bool forward = by.to > by.from;
    out.solid = prism.solid;
    out.start = forward ? prism.behind : prism.before;
    out.end = forward ? prism.before : prism.behind;
    for (const auto& side : prism.sides)
        for (const std::string& role : side.roles) out.sides.emplace_back(side.face, role);
    out.along = gp_Vec(by.slant.x, by.slant.y, by.slant.z) * (by.to - by.from);
    return out;
}

} // namespace

Result<Swept> movedAlong(const Outline& outline, const Region& area, const Movement& by) {
    if (by.lean) return leaning(outline, area, by);
    return straight(profileOf(outline, area), by);
}

} // namespace gc

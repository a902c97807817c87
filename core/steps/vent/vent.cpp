// Vent: openings through the wall that a drawing lies before or on.

#include "core/steps/shared/chosen_area.hpp"
#include "core/steps/shared/moved_along.hpp"
#include "core/steps/shared/standing.hpp"
#include "core/steps/shared/tunnel.hpp"
#include "core/steps/vent/openings.hpp"

#include <BRep_Builder.hxx>

#include <algorithm>

namespace gc {

namespace {

VentWish wishOf(const Arguments& args) {
    VentWish w;
    const std::string& shape = args.text("shape");
    w.shape = shape == "slots"  ? VentWish::Shape::Slots
              : shape == "rows" ? VentWish::Shape::Rows
                                : VentWish::Shape::Rings;
    w.width = args.number("width");
    w.bar = args.number("bar");
    if (w.shape != VentWish::Shape::Rings) w.turn = args.number("turn");
    w.rim = args.number("rim");
    return w;
}

/// From where to where the openings are cut, mm along the normal: from before the wall to behind it, and not
/// into what comes next.
Result<std::pair<double, double>> depthOf(const Footing& footing, bool all) {
    constexpr double kPast = 1; // mm: so that no skin is left
    double first = 1e300, last = 0, next = 1e300;
    for (const auto& f : footing.feet) {
        if (!f) continue;
        first = std::min(first, f->distance);
        last = std::max(last, f->distance + f->wall);
        next = std::min(next, f->distance + f->wall + f->room);
    }
    const double from = std::max(first - kPast, first > kPast ? 0 : -kPast);
    if (all) return std::pair{from, footing.far + kPast};
    if (next - last < 1e-3)
        return errorOf("vent.deep",
                       "What lies behind the wall begins before the wall ends everywhere, so the "
                       "openings cannot end between the two. Cut through everything behind, or vent a "
                       "smaller area.");
    return std::pair{from, last + std::min(kPast, (next - last) / 2)};
}

std::string roleOf(const Opening& o) {
    return "opening " + std::to_string(o.number);
}

/// By one boolean.
Result<StepChange> cut(const Arguments& args, ModelReader& model, const Outline& drawn,
                       const std::vector<Opening>& openings, double width, const Footing& footing,
                       const std::pair<double, double>& depth) {
    TopoDS_Compound solids;
    BRep_Builder().MakeCompound(solids);
    NamedTool tool;
    tool.step = args.id();
    tool.frame = drawn.plane;
    Movement by;
    by.slant = drawn.plane.normal();
    by.from = footing.sense * depth.first;
    by.to = footing.sense * depth.second;
    Outline outline = drawn;
    for (const Opening& o : openings) {
        for (int k = 1; k <= 4; ++k) outline.madeRoles[k] = roleOf(o);
        auto swept = movedAlong(outline, areaOf(o, width), by);
        if (!swept) return swept.error();
        BRep_Builder().Add(solids, swept->solid);
        swept->sides.emplace_back(swept->start, roleOf(o));
        swept->sides.emplace_back(swept->end, roleOf(o));
        for (const auto& [face, role] : swept->sides)
            tool.names.emplace_back(face, internName(args.id(), role));
    }
    tool.shape = onlySolid(solids);
    Becoming becoming = footing.becoming;
    becoming.how = Combine::Take;
    return become(becoming, tool, openings.size(), args, model);
}

/// Through the one wall of one body: what lies within its faces is set into them, the rest is cut before.
Result<StepChange> cutEvenly(const Arguments& args, ModelReader& model, const Outline& drawn,
                             const std::vector<Opening>& openings, double width, const Footing& footing,
                             const std::pair<double, double>& depth) {
    const auto ids = footing.becoming.targets.empty() ? model.bodies() : footing.becoming.targets;
    const auto byBoolean = [&](const std::vector<Opening>& some) {
        return cut(args, model, drawn, some, width, footing, depth);
    };
    if (ids.size() != 1) return byBoolean(openings);
    std::vector<Opened> all;
    for (const Opening& o : openings) all.push_back({areaOf(o, width), roleOf(o)});
    const Body& body = *model.body(ids.front());
    auto set = tunnelled(body, drawn.plane, footing.sense > 0, all, args.id());
    if (!set) return byBoolean(openings);
    if (set->left.empty()) return StepChange(ChangedBody{ids.front(), std::move(set->body)});
    if (set->left.size() == openings.size()) return byBoolean(openings);
    // What is set in makes a boolean slow: those that need one come first.
    std::vector<Opening> over;
    for (const std::size_t i : set->left) over.push_back(openings[i]);
    auto change = byBoolean(over);
    if (!change) return change;
    for (std::size_t k = set->left.size(); k-- > 0;) all.erase(all.begin() + static_cast<long>(set->left[k]));
    auto& changed = std::get<ChangedBody>(change->list.front());
    auto rest = tunnelled(changed.body, drawn.plane, footing.sense > 0, all, args.id());
    if (!rest || !rest->left.empty()) return byBoolean(openings);
    changed.body = std::move(rest->body);
    return change;
}

Result<StepChange> vent(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto id = model.outlineIn("outline");
    const Outline* drawn = id ? model.outline(*id) : nullptr;
    if (!drawn || !drawn->drawing)
        return errorOf("vent.outline",
                       phrase("There is no drawing called \"%1\" before this step.", args.label("outline")));
    std::vector<Message> notes;
    const auto areas = meantAreas(args, *drawn, "vent", notes);
    if (!areas) return areas.error();
    const VentWish wish = wishOf(args);
    std::vector<Opening> openings;
    int of = 0;
    for (const Region& area : *areas) {
        auto some = openingsIn(area, wish);
        if (!some) return some.error();
        for (Opening& o : *some) o.number += 10000000 * of;
        openings.insert(openings.end(), some->begin(), some->end());
        ++of;
    }
    std::vector<Vec3> places;
    for (const Opening& o : openings)
        for (const Vec2 p : {o.from, (o.from + o.to) * 0.5, o.to}) places.push_back(drawn->plane.at(p));
    auto footing = standingOn(args, model, places, drawn->plane.normal(), false);
    if (!footing) return footing.error();
    const auto depth = depthOf(*footing, args.text("depth") == "every");
    if (!depth) return depth.error();
    if (progress.stopped()) return stoppedError();
    auto change = depth->second < footing->far
                      ? cutEvenly(args, model, *drawn, openings, wish.width, *footing, *depth)
                      : cut(args, model, *drawn, openings, wish.width, *footing, *depth);
    if (!change) return change.error();
    change->notes.insert(change->notes.begin(), notes.begin(), notes.end());
    return change;
}

} // namespace

Result<StepChange> runVent(const Arguments& args, ModelReader& model, const Progress& progress) {
    return guarded("vent.failed", "No vent can be cut here.", [&] { return vent(args, model, progress); });
}

} // namespace gc

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

/// What is cut, and where.
struct Venting {
    const Arguments& args;
    ModelReader& model;
    const Outline& drawn;
    double width; ///< of an opening, mm
    Footing footing;
    std::pair<double, double> depth;

    Result<NamedTool> toolFor(const std::vector<Opening>& openings) const {
        ToolOfSolids made(args.id(), drawn.plane);
        Movement by;
        by.slant = drawn.plane.normal();
        by.from = footing.sense * depth.first;
        by.to = footing.sense * depth.second;
        Outline outline = drawn;
        for (const Opening& o : openings) {
            for (int k = 1; k <= 4; ++k) outline.madeRoles[k] = roleOf(o);
            auto swept = movedAlong(outline, areaOf(o, width), by);
            if (!swept) return swept.error();
            BRep_Builder().Add(made.solids, swept->solid);
            swept->sides.emplace_back(swept->start, roleOf(o));
            swept->sides.emplace_back(swept->end, roleOf(o));
            for (const auto& [face, role] : swept->sides)
                made.tool.names.emplace_back(face, internName(args.id(), role));
        }
        return made.whole();
    }

    /// By one boolean.
    Result<StepChange> cut(const std::vector<Opening>& openings) const {
        const auto tool = toolFor(openings);
        if (!tool) return tool.error();
        Becoming becoming = footing.becoming;
        becoming.how = Combine::Take;
        return become(becoming, *tool, openings.size(), args, model);
    }

    std::optional<Tunnelled> tunnels(const Body& body, const StraightLooks& looks,
                                     const std::vector<Opening>& openings) const {
        std::vector<Opened> all;
        for (const Opening& o : openings) all.push_back({areaOf(o, width), roleOf(o)});
        return tunnelled(body, looks, footing.sense > 0, all, args.id());
    }

    /// Through the one wall of a body: what lies within its faces is set into them, the rest is cut before,
    /// for what is set in makes a boolean slow.
    Result<StepChange> cutEvenly(ThingId id, const StraightLooks& looks,
                                 const std::vector<Opening>& openings) const {
        auto set = tunnels(*model.body(id), looks, openings);
        if (!set || set->left.size() == openings.size()) return cut(openings);
        if (const auto tool = toolFor(openings))
            if (const auto shown = bodyOf(*tool)) model.show(*shown, true);
        if (set->left.empty()) return StepChange(ChangedBody{id, std::move(set->body)});
        std::vector<Opening> over, within;
        for (std::size_t i = 0; i < openings.size(); ++i)
            (std::binary_search(set->left.begin(), set->left.end(), i) ? over : within)
                .push_back(openings[i]);
        auto change = cut(over);
        if (!change) return change;
        auto& changed = std::get<ChangedBody>(change->list.front());
        auto rest = tunnels(changed.body, StraightLooks(changed.body.shape(), drawn.plane), within);
        if (!rest || !rest->left.empty()) return cut(openings);
        changed.body = std::move(rest->body);
        return change;
    }
};

Result<std::vector<Opening>> openingsOf(const std::vector<Region>& areas, const VentWish& wish) {
    constexpr int kOfOneArea = 10'000'000; // more than any number of an opening
    std::vector<Opening> out;
    int of = 0;
    for (const Region& area : areas) {
        const auto some = openingsIn(area, wish);
        if (!some) return some.error();
        for (Opening o : *some) {
            o.number += kOfOneArea * of;
            out.push_back(o);
        }
        ++of;
    }
    return out;
}

Result<StepChange> vent(const Arguments& args, ModelReader& model, const Progress& progress) {
    const auto drawn = drawingFor(args, model, "vent");
    if (!drawn) return drawn.error();
    const Outline& outline = **drawn;
    std::vector<Message> notes;
    const auto areas = meantAreas(args, outline, "vent", notes);
    if (!areas) return areas.error();
    const VentWish wish = wishOf(args);
    const auto openings = openingsOf(*areas, wish);
    if (!openings) return openings.error();
    std::vector<Vec3> places;
    for (const Opening& o : *openings)
        for (const Vec2 p : {o.from, (o.from + o.to) * 0.5, o.to}) places.push_back(outline.plane.at(p));
    const auto ids = bodiesToStandOn(args, model);
    if (!ids) return ids.error();
    std::vector<StraightLooks> looks;
    for (const ThingId id : *ids) looks.emplace_back(model.body(id)->shape(), outline.plane);
    if (progress.stopped()) return stoppedError();
    const bool good = std::all_of(looks.begin(), looks.end(), [](const auto& l) { return l.good(); });
    auto footing = good ? standingByLooks(args, model, places, outline.plane, looks)
                        : standingOn(args, model, places, outline.plane.normal(), false);
    if (!footing) return footing.error();
    const bool every = args.text("depth") == "every";
    const auto depth = depthOf(*footing, every);
    if (!depth) return depth.error();
    const Venting venting{args, model, outline, wish.width, std::move(*footing), *depth};
    auto change = good && !every && ids->size() == 1
                      ? venting.cutEvenly(ids->front(), looks.front(), *openings)
                      : venting.cut(*openings);
    if (!change) return change.error();
    change->notes.insert(change->notes.begin(), notes.begin(), notes.end());
    return change;
}

} // namespace

Result<StepChange> runVent(const Arguments& args, ModelReader& model, const Progress& progress) {
    return guarded("vent.failed", "No vent can be cut here.", [&] { return vent(args, model, progress); });
}

} // namespace gc

#include "core/steps/extrude/between.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extended_face.hpp"
#include "core/steps/shared/over_face.hpp"

#include <TopLoc_Location.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

namespace {

using Shapes = std::vector<TopoDS_Shape>;

Shapes movedAlong(const Shapes& faces, const gp_Vec& by) {
    gp_Trsf t;
    t.SetTranslation(by);
    Shapes out;
    for (const TopoDS_Shape& f : faces) out.push_back(f.Moved(TopLoc_Location(t)));
    return out;
}

Shapes continued(const Shapes& faces, double by) {
    Shapes out;
    for (const TopoDS_Shape& f : faces) out.push_back(extendedFace(TopoDS::Face(f), by));
    return out;
}

/// What is looked at: places between what it begins at and what ends it, and how much of the area has
/// neither.
struct EndLook {
    std::vector<gp_Pnt> within;
    double noBegin = 0, noEnd = 0; ///< shares of the area
};

/// Of a face that is met more than once: where it is met first from the drawing on, else what lies nearest
/// behind that. \param drawing where the drawing is along the line
double beginOn(const std::vector<double>& met, double drawing, bool backward) {
    const auto ahead = std::lower_bound(met.begin(), met.end(), drawing - kSamePoint);
    if (!backward) return ahead != met.end() ? *ahead : met.back();
    const auto behind = std::upper_bound(met.begin(), met.end(), drawing + kSamePoint);
    return behind != met.begin() ? *(behind - 1) : met.front();
}

/// The first that lies further on the way.
std::optional<double> endOn(const std::vector<double>& met, double begin, bool backward) {
    const auto behind = std::lower_bound(met.begin(), met.end(), begin - kSamePoint);
    const auto ahead = std::upper_bound(met.begin(), met.end(), begin + kSamePoint);
    if (backward) return behind != met.begin() ? std::optional(*(behind - 1)) : std::nullopt;
    return ahead != met.end() ? std::optional(*ahead) : std::nullopt;
}

EndLook lookBetween(const Swept& whole, const Reach& reach, const Shapes& begins, const Shapes& ends) {
    constexpr int kRays = 30; // each way
    const double rise = length(reach.slant), far = whole.along.Magnitude(), drawing = -reach.from * rise;
    const gp_Dir way(whole.along);
    Crossings first(begins), second(ends);
    EndLook out;
    const auto places = placesOver(whole.start, kRays);
    const double share = places.empty() ? 1 : 1.0 / static_cast<double>(places.size());
    for (const gp_Pnt& place : places) {
        const gp_Lin line(place, way);
        const auto met = first.of(line, far);
        if (met.empty()) {
            out.noBegin += share;
            continue;
        }
        const double from = beginOn(met, drawing, reach.backward);
        double low = from + reach.shift.first * rise, high = from + reach.shift.second * rise;
        if (!reach.byLength) {
            const auto until = ends.empty() ? std::optional(reach.backward ? 0 : far)
                                            : endOn(second.of(line, far), from, reach.backward);
            if (!until) {
                out.noEnd += share;
                continue;
            }
            low = from, high = *until;
        }
        out.within.push_back(place.Translated(gp_Vec(way) * ((low + high) / 2)));
    }
    return out;
}

Error lacks(const char* code, double share, const std::string& what) {
    const std::string percent = formatNumber(std::max(100 * share, 0.1), share < 0.1 ? 1 : 0);
    return errorOf(
        code, phrase("On %1 % of the drawing %2 does not lie in its way, even if continued. Make the drawing "
                     "smaller, or choose another face.",
                     percent, what));
}

} // namespace

std::optional<Error> addBetween(const Outline& outline, const Region& area, const Reach& reach, int step,
                                TopoDS_Compound& solids, NamedTool& tool) {
    auto swept = movedAlong(outline, area, reach);
    if (!swept) return swept.error();
    const double by = swept->along.Magnitude();
    const gp_Vec slant(reach.slant.x, reach.slant.y, reach.slant.z);
    EndedSolid solid(std::move(*swept));
    Shapes starts = reach.begins, ends = reach.ends;
    EndLook seen = lookBetween(solid.whole(), reach, starts, ends);
    if (seen.noBegin > 0) starts = continued(starts, by);
    if (seen.noEnd > 0 && reach.faces) ends = continued(ends, by);
    if (seen.noBegin > 0 || seen.noEnd > 0) seen = lookBetween(solid.whole(), reach, starts, ends);
    if (seen.noBegin > 0) return lacks("extrude.no-begin", seen.noBegin, marked(reach.beginSaid));
    if (seen.noEnd > 0)
        return lacks("extrude.no-end", seen.noEnd, reach.faces ? marked(reach.said) : "a wall");
    if (reach.byLength) {
        ends = movedAlong(starts, slant * reach.shift.second);
        starts = movedAlong(starts, slant * reach.shift.first);
    }
    Shapes tools = starts;
    tools.insert(tools.end(), ends.begin(), ends.end());
    if (!solid.cutAround(tools, seen.within))
        return errorOf("extrude.failed", "The drawing cannot be extruded from there.");
    solid.addKept(step, solids, tool, starts);
    return std::nullopt;
}

} // namespace gc

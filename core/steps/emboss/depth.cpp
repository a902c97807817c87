#include "core/steps/emboss/depth.hpp"

#include "core/base/tolerance.hpp"
#include "core/steps/shared/over_walls.hpp"
#include "core/units/amount.hpp"

#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <gp_Lin.hxx>

#include <cmath>

namespace gc {

namespace {

/// Where a place of an area comes to lie, and its far end; over a border the wall is another one elsewhere.
std::optional<std::pair<gp_Pnt, gp_Pnt>> endsAt(const LaidArea& a, Vec2 p, WallsAhead& ahead,
                                                const ReliefShape& shape) {
    if (!a.within && a.over) {
        const auto there = a.over->column(p.x, {p.y});
        if (there.empty()) return std::nullopt;
        const gp_Pnt from = there.front().at;
        return std::pair{from, from.Translated(there.front().out * shape.height)};
    }
    const auto hit = a.within ? std::nullopt : ahead.under(p);
    if (!a.within && !hit) return std::nullopt;
    const TopoDS_Face& wall = hit ? hit->face : a.wall;
    const GeomAdaptor_Surface surface(BRep_Tool::Surface(wall));
    const auto uv = hit ? std::optional(hit->there) : a.laying->at(p);
    const auto far = uv ? liftedPlace(wall, surface, shape, *uv) : std::nullopt;
    if (!far) return std::nullopt;
    return std::pair{surface.Value(uv->X(), uv->Y()), *far};
}

} // namespace

std::optional<Error> whyNoRoom(const NamedShape& body, const std::vector<LaidArea>& areas,
                               const std::vector<TopoDS_Face>& walls, const LayingBy& by,
                               const ReliefShape& shape, int step) {
    constexpr double kOff = 1e-4;      // mm: the wall itself is no obstacle
    constexpr std::size_t kLines = 24; // of each area: the kernel takes long over them on free forms
    IntCurvesFace_ShapeIntersector lines;
    lines.Load(body.shape, kKernelPoint);
    WallsAhead ahead(walls, by);
    const double height = std::fabs(shape.height);
    double least = 1e300;
    gp_Pnt at;
    for (const LaidArea& a : areas) {
        const auto places = placesOf(*a.area);
        const std::size_t every = 1 + places.size() / kLines;
        for (std::size_t i = 0; i < places.size(); i += every) {
            const Vec2 p = places[i];
            const auto ends = endsAt(a, p, ahead, shape);
            if (!ends) continue;
            const auto& [from, far] = *ends;
            lines.PerformNearest(gp_Lin(from, gp_Dir(gp_Vec(from, far))), kOff, height + 1);
            if (lines.NbPnt() == 0 || lines.WParameter(1) >= least) continue;
            least = lines.WParameter(1);
            at = from;
        }
    }
    if (least > height + kOff) return std::nullopt;
    const std::string there = formatAmount(least, "mm", 2);
    Error e = shape.height < 0
                  ? errorOf("emboss.through", phrase("The wall is %1 thick there, so %2 go through it.",
                                                     there, formatAmount(height, "mm", 2)))
                  : errorOf("emboss.meets", phrase("Another wall stands %1 in front of it there.", there));
    e.place = toVec(at);
    const double fits = std::floor(0.6 * least * 20) / 20;
    if (fits > 0)
        e.remedies.push_back({step, "height", formatAmount(fits, "mm", 2),
                              phrase(shape.height < 0 ? "%1 deep" : "%1 high", formatAmount(fits, "mm", 2)),
                              false});
    return e;
}

} // namespace gc

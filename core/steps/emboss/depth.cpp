#include "core/steps/emboss/depth.hpp"

#include "core/base/tolerance.hpp"
#include "core/units/amount.hpp"

#include <BRep_Tool.hxx>
#include <GeomAdaptor_Surface.hxx>
#include <gp_Lin.hxx>

#include <cmath>

namespace gc {

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
            // Over a border the wall is another one elsewhere.
            const auto hit = a.within ? std::nullopt : ahead.under(p);
            if (!a.within && !hit) continue;
            const TopoDS_Face& wall = hit ? hit->face : a.wall;
            const GeomAdaptor_Surface surface(BRep_Tool::Surface(wall));
            const auto uv = hit ? std::optional(hit->there) : a.laying->at(p);
            const auto far = uv ? liftedPlace(wall, surface, shape, *uv) : std::nullopt;
            if (!far) continue;
            const gp_Pnt from = surface.Value(uv->X(), uv->Y());
            lines.PerformNearest(gp_Lin(from, gp_Dir(gp_Vec(from, *far))), kOff, height + 1);
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

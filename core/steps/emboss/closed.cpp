#include "core/steps/emboss/closed.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/foot_point.hpp"

#include <BRep_Builder.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// Parameters that are places of the drawing.
class AsDrawn : public Laying {
  public:
    std::optional<gp_Pnt2d> at(Vec2 place) const override { return gp_Pnt2d(place.x, place.y); }
};

/// What the sides fill of the drawing, near and far, and a little around.
Window windowOf(const FarSides& sides) {
    constexpr int kAlong = 12;
    constexpr double kAround = 0.05; // mm
    Window out;
    for (std::size_t l = 0; l < sides.loops().size(); ++l)
        for (std::size_t i = 0; i < sides.loops()[l].size(); ++i)
            for (int k = 0; k < kAlong; ++k)
                for (const Vec2 p :
                     {sides.near(l, i, double(k) / kAlong), sides.far(l, i, double(k) / kAlong)})
                    for (const double a : {-kAround, kAround}) out.add({p.x + a, p.y + a});
    return out;
}

} // namespace

NamedTool closedRelief(const Relief& relief, const TopoDS_Face& wall, const ReliefShape& shape,
                       const std::string& footRole, const Outline& outline, int step) {
    BRep_Builder builder;
    // Within the loop, without what is left within that.
    TopoDS_Face foot = TopoDS::Face(wall.EmptyCopied().Oriented(TopAbs_FORWARD));
    builder.Add(foot, relief.loop.Reversed());
    for (const TopoDS_Face& island : relief.islands)
        for (TopoDS_Iterator w(island.Oriented(TopAbs_FORWARD)); w.More(); w.Next())
            builder.Add(foot, w.Value().Reversed());
    foot = TopoDS::Face(foot.Oriented(wall.Orientation()));
    NamedTool out;
    out.step = step;
    out.frame = outline.plane;
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    const bool raised = shape.height > 0; // else its faces bound the body from within
    builder.Add(shell, raised ? foot.Reversed() : TopoDS_Shape(foot));
    out.names.emplace_back(foot, internName(step, footRole));
    for (const Relief::Made& m : relief.faces) {
        builder.Add(shell, raised ? TopoDS_Shape(m.face) : m.face.Reversed());
        for (const std::string& role : m.roles) out.names.emplace_back(m.face, internName(step, role));
    }
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    out.shape = solid;
    return out;
}

Result<NamedTool> reliefOver(const OverWalls& over, const Outline& outline, const Region& area,
                             ReliefShape shape, double below, const std::string& footRole, int step) {
    constexpr double kFit = 2e-5; // mm
    const double sign = shape.height > 0 ? 1 : -1, far = shape.height;
    shape.below = below;
    shape.height += sign * below;
    const auto sides = FarSides::of(area, shape);
    if (!sides) return sides.error();
    const Window window = windowOf(*sides);
    auto ends = wallsAsOne(over, window, {-sign * below, far}, shape.along);
    if (!ends) return ends.error();
    TopoDS_Face wall;
    BRep_Builder().MakeFace(wall, (*ends)[0].surface, kKernelPoint);
    const gp_Pnt2d middle = window.middle();
    const auto place = over.column(middle.X(), {middle.Y()});
    const auto normal = placeOf(*(*ends)[0].surface, middle).normal();
    if (!place.empty() && normal && normal->Dot(place.front().out) < 0) wall.Reverse();
    auto relief = reliefOn(wall, outline, area, AsDrawn(), shape, (*ends)[1], kFit);
    if (!relief) return relief.error();
    return closedRelief(*relief, wall, shape, footRole, outline, step);
}

} // namespace gc

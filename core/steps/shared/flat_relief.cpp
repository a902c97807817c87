// Reliefs on flat walls that lie alongside the drawing.

#include "core/base/tolerance.hpp"
#include "core/steps/shared/relief.hpp"
#include "core/units/amount.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <BRep_Builder.hxx>
#include <ElSLib.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Iterator.hxx>
#include <gp_Pln.hxx>

#include <cmath>
#include <numbers>

namespace gc {

namespace {

/// Twice the area within a loop of a plane, with the sign of its sense there.
double turnOn(const gp_Pln& plane, const TopoDS_Wire& loop) {
    constexpr int kPlaces = 24;
    double out = 0;
    std::optional<gp_Pnt2d> origin;
    for (TopoDS_Iterator e(loop); e.More(); e.Next()) {
        const BRepAdaptor_Curve c(TopoDS::Edge(e.Value()));
        const double a = c.FirstParameter(), b = c.LastParameter();
        double part = 0;
        gp_Pnt2d before;
        for (int i = 0; i <= kPlaces; ++i) {
            gp_Pnt2d p;
            double x = 0, y = 0;
            ElSLib::Parameters(plane, c.Value(a + (b - a) * i / kPlaces), x, y);
            if (!origin) origin = gp_Pnt2d(x, y);
            p.SetCoord(x - origin->X(), y - origin->Y());
            if (i > 0) part += before.X() * p.Y() - p.X() * before.Y();
            before = p;
        }
        out += e.Value().Orientation() == TopAbs_REVERSED ? -part : part;
    }
    return out;
}

TopoDS_Wire sensed(const gp_Pln& plane, const TopoDS_Wire& loop, bool counterClockwise) {
    const bool asItIs = (turnOn(plane, loop) > 0) == counterClockwise;
    return TopoDS::Wire(asItIs ? TopoDS_Shape(loop) : loop.Reversed());
}

Error tooMuch(const LeanStop& s, const ReliefShape& shape) {
    const double most = std::atan2(std::fabs(s.stop.by), s.half.height) * 180 / std::numbers::pi;
    return errorOf("emboss.lean",
                   phrase("Leaning so, the drawing closes up %1 from the wall. Make it %2 than "
                          "that, or lean its sides less than %3.",
                          formatAmount(s.height, "mm", 2), shape.height > 0 ? "lower" : "less deep",
                          formatNumber(std::floor(most * 100) / 100, 2) + "°"));
}

} // namespace

bool isFlatAlongside(const TopoDS_Face& face, const Plane& drawing) {
    const BRepAdaptor_Surface surface(face, false);
    if (surface.GetType() != GeomAbs_Plane) return false;
    const gp_Dir n = surface.Plane().Axis().Direction();
    return length(cross({n.X(), n.Y(), n.Z()}, drawing.normal())) < kParallel;
}

Result<Relief> reliefOnFlat(const TopoDS_Face& face, const Outline& outline, const Region& area,
                            const ReliefShape& shape) {
    const TopoDS_Face forward = TopoDS::Face(face.Oriented(TopAbs_FORWARD));
    const gp_Pln plane = BRepAdaptor_Surface(forward, false).Plane();
    const gp_Vec out = gp_Vec(plane.Position().XDirection()).Crossed(gp_Vec(plane.Position().YDirection())) *
                       (face.Orientation() == TopAbs_REVERSED ? -1.0 : 1.0);
    const bool raised = shape.height > 0;
    LeanHalf half;
    half.height = std::fabs(shape.height);
    half.lean = shape.lean;
    const Vec3 n = outline.plane.normal();
    half.sense = (out.Dot(gp_Vec(n.x, n.y, n.z)) > 0) == raised ? 1 : -1;
    const double level = outline.plane.before(toVec(plane.Location()));
    const auto made = leaningPrism(outline, area, level, {half});
    if (!made) return made.error();
    if (const auto* stop = std::get_if<LeanStop>(&*made)) return tooMuch(*stop, shape);
    const auto& prism = std::get<LeaningPrism>(*made);
    const TopoDS_Face &foot = half.sense > 0 ? prism.behind : prism.before,
                      &far = half.sense > 0 ? prism.before : prism.behind;
    Relief result;
    result.area = &area;
    BRep_Builder builder;
    bool first = true;
    for (TopoDS_Iterator w(foot); w.More(); w.Next(), first = false) {
        const TopoDS_Wire loop = TopoDS::Wire(w.Value());
        if (first) {
            result.loop = sensed(plane, loop, false);
            continue;
        }
        TopoDS_Face island = TopoDS::Face(forward.EmptyCopied());
        builder.Add(island, sensed(plane, loop, true));
        result.islands.push_back(TopoDS::Face(island.Oriented(face.Orientation())));
    }
    // The prism's faces bound it; what is sunk is the hole that it leaves.
    const auto turned = [&](const TopoDS_Face& f) { return raised ? f : TopoDS::Face(f.Reversed()); };
    result.faces.push_back({turned(far), {farRole(area, shape)}});
    for (const auto& side : prism.sides) result.faces.push_back({turned(side.face), side.roles});
    return result;
}

} // namespace gc

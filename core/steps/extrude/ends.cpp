#include "core/steps/extrude/ends.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/extended_face.hpp"
#include "core/steps/shared/over_face.hpp"

#include <BOPTools_AlgoTools3D.hxx>
#include <BRepAdaptor_Surface.hxx>
#include <IntCurvesFace_ShapeIntersector.hxx>
#include <IntTools_Context.hxx>
#include <TopoDS.hxx>

#include <algorithm>

namespace gc {

namespace {

/// What the surface of a face does to a line from within the area: does its normal look back along it?
bool looksBack(const Swept& whole, const TopoDS_Face& face) {
    gp_Pnt from;
    gp_Pnt2d unused;
    const Handle(IntTools_Context) context = new IntTools_Context;
    if (BOPTools_AlgoTools3D::PointInFace(whole.start, from, unused, context) != 0) return true;
    IntCurvesFace_ShapeIntersector crossing;
    crossing.Load(face, kKernelPoint);
    crossing.PerformNearest(gp_Lin(from, gp_Dir(whole.along)), 0, whole.along.Magnitude());
    const BRepAdaptor_Surface surface(face);
    const bool met = crossing.IsDone() && crossing.NbPnt() > 0;
    const double u = met ? crossing.UParameter(1)
                         : (surface.FirstUParameter() + surface.LastUParameter()) / 2,
                 v = met ? crossing.VParameter(1)
                         : (surface.FirstVParameter() + surface.LastVParameter()) / 2;
    gp_Pnt at;
    gp_Vec du, dv;
    surface.D1(u, v, at, du, dv);
    return du.Crossed(dv).Dot(gp_Vec(gp_Dir(whole.along))) < 0;
}

/// On what share of the area nothing of the tools lies in the way, by rays from within it.
double shareMissed(const Swept& whole, const std::vector<TopoDS_Shape>& tools) {
    constexpr int kRays = 50; // each way
    const auto places = placesOver(whole.start, kRays);
    Crossings crossings(tools);
    const auto missed = std::count_if(places.begin(), places.end(), [&](const gp_Pnt& p) {
        return crossings.of(gp_Lin(p, gp_Dir(whole.along)), whole.along.Magnitude()).empty();
    });
    return places.empty() ? 1 : static_cast<double>(missed) / static_cast<double>(places.size());
}

/// The faces at the distance that was asked for.
Result<std::vector<TopoDS_Shape>> endFaces(const Swept& whole, const Reach& reach) {
    constexpr double kFit = 1e-4; // mm, of walls that stay short of a freeform face
    if (std::fabs(reach.gap) < kSamePoint) return reach.ends;
    std::vector<TopoDS_Shape> out;
    for (const TopoDS_Shape& end : reach.ends) {
        const TopoDS_Face face = TopoDS::Face(end);
        const bool back = looksBack(whole, extendedFace(face, std::fabs(reach.to)));
        const auto moved = offsetFace(face, back ? reach.gap : -reach.gap, kFit);
        if (!moved)
            return errorOf("extrude.gap", phrase("%1 is curved too closely to be kept at that distance. Take "
                                                 "a smaller one.",
                                                 marked(reach.said)));
        out.push_back(*moved);
    }
    return out;
}

Error noEnd(const Reach& reach, double open) {
    if (open == 1)
        return reach.faces ? liesBehind(marked(reach.said))
                           : errorOf("extrude.no-end", "No wall lies in its way. Give it a length, or let it "
                                                       "go the other way.");
    const std::string share = formatNumber(std::max(100 * open, 0.1), open < 0.1 ? 1 : 0);
    return errorOf("extrude.no-end",
                   reach.faces
                       ? phrase("On %1 % of the drawing %2 does not end it, even if continued. Make the "
                                "drawing smaller, or choose another face.",
                                share, marked(reach.said))
                       : phrase("On %1 % of the drawing no wall lies in its way. Make the drawing "
                                "smaller, or give it a length.",
                                share));
}

} // namespace

std::optional<Error> addSolid(const Outline& outline, const Region& area, const Reach& reach, int step,
                              TopoDS_Compound& solids, NamedTool& tool) {
    auto swept = movedAlong(outline, area, reach);
    if (!swept) return swept.error();
    EndedSolid solid(std::move(*swept));
    if (reach.ends.empty()) {
        solid.addWhole(step, solids, tool);
        return std::nullopt;
    }
    const auto faces = endFaces(solid.whole(), reach);
    if (!faces) return faces.error();
    std::vector<TopoDS_Shape> tools = *faces;
    auto open = solid.cut(tools);
    if (reach.faces && (!open || *open > kCovered)) { // they need not cover it: their surfaces go on
        const double by = std::fabs(reach.to) + length(boxAlong(solid.whole().start, outline.plane).size());
        for (TopoDS_Shape& f : tools) f = extendedFace(TopoDS::Face(f), by);
        open = solid.cut(tools);
    }
    if (!open) return errorOf("extrude.failed", "The drawing cannot be extruded up to there.");
    if (*open > kCovered)
        return solid.whole().cutShort ? *solid.whole().cutShort
                                      : noEnd(reach, shareMissed(solid.whole(), tools));
    solid.addKept(step, solids, tool);
    return std::nullopt;
}

} // namespace gc

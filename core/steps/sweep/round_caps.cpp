#include "core/steps/sweep/round_caps.hpp"

#include "core/base/tolerance.hpp"
#include "core/shape/fit_grid.hpp"
#include "core/shape/length_curve.hpp"
#include "core/steps/shared/iso_lines.hpp"
#include "core/steps/shared/lean_face.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepGProp.hxx>
#include <BRepLib.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepTools.hxx>
#include <BRepTools_WireExplorer.hxx>
#include <BRep_Builder.hxx>
#include <GProp_GProps.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_Circle.hxx>
#include <Geom_Plane.hxx>
#include <TColStd_Array2OfReal.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <TopoDS_Wire.hxx>
#include <gp_Pln.hxx>

#include <algorithm>
#include <cmath>

namespace gc {

namespace {

/// A flat end: its border, counter-clockwise seen from outside, and what a dome over it goes by.
struct FlatEnd {
    TopoDS_Face face;
    std::vector<LengthCurve> border;
    gp_Pnt middle;
    gp_Vec out; ///< of length 1
    double height = 0;
};

Result<FlatEnd> lookAt(const TopoDS_Face& face) {
    FlatEnd e;
    e.face = face;
    const TopoDS_Wire outer = BRepTools::OuterWire(face);
    for (TopExp_Explorer x(face, TopAbs_WIRE); x.More(); x.Next())
        if (!x.Current().IsSame(outer))
            return errorOf("sweep.cap-hollow",
                           "The section has a hole, so its ends cannot be rounded over. Keep them "
                           "flat, or draw it without the hole.");
    for (BRepTools_WireExplorer x(outer, face); x.More(); x.Next())
        e.border.push_back(LengthCurve::of(x.Current()));
    GProp_GProps props;
    BRepGProp::SurfaceProperties(face, props);
    e.middle = props.CentreOfMass();
    const BRepAdaptor_Surface surface(face);
    e.out = gp_Vec(surface.Plane().Axis().Direction());
    if (surface.Plane().Direct() == (face.Orientation() == TopAbs_REVERSED)) e.out.Reverse();
    e.height = 1e300;
    constexpr int kLooks = 60;
    double sense = 0;
    for (const LengthCurve& c : e.border)
        for (int i = 0; i <= kLooks; ++i) {
            const double s = c.length() * i / kLooks;
            const gp_Vec arm(e.middle, c.at(s));
            e.height = std::min(e.height, arm.Magnitude());
            const double turns = arm.Crossed(c.tangent(s)).Dot(e.out) / std::max(1e-12, arm.Magnitude());
            if (sense == 0) sense = turns;
            if (turns * sense < 0 || std::fabs(turns) < 1e-3)
                return errorOf("sweep.cap-shape",
                               "The section is too hollow to be rounded over: not all of its border "
                               "is seen from its middle. Keep the ends flat.");
        }
    if (sense < 0) {
        std::reverse(e.border.begin(), e.border.end());
        for (LengthCurve& c : e.border) c = c.reversed();
    }
    return e;
}

/// Half a ball over a round end.
std::optional<TopoDS_Shape> ballOver(const FlatEnd& e) {
    const Handle(Geom_Circle) circle = Handle(Geom_Circle)::DownCast(e.border.front().curve());
    if (circle.IsNull()) return std::nullopt;
    for (const LengthCurve& c : e.border) {
        const Handle(Geom_Circle) other = Handle(Geom_Circle)::DownCast(c.curve());
        if (other.IsNull() || other->Location().Distance(circle->Location()) > kSamePoint ||
            std::fabs(other->Radius() - circle->Radius()) > kSamePoint)
            return std::nullopt;
    }
    const gp_Ax2 place(circle->Location(), gp_Dir(e.out));
    return BRepPrimAPI_MakeSphere(place, circle->Radius(), 0, M_PI / 2).Shape();
}

/// One side of a dome: quarters of ellipses from a piece of the border to the top, exact as rational curves.
std::optional<Handle(Geom_BSplineSurface)> quarterOver(const LengthCurve& c, const FlatEnd& e) {
    std::vector<gp_Pnt> poles{c.start(), c.end()};
    TColStd_Array1OfReal knots(1, 2);
    TColStd_Array1OfInteger multiplicities(1, 2);
    knots(1) = 0, knots(2) = c.length();
    multiplicities.Init(2);
    int degree = 1;
    if (!c.isStraight()) {
        const auto direction = directionFor(
            c.breaks(), [&](double s) { return std::vector{c.at(s)}; }, 2 * kKernelPoint);
        if (!direction) return std::nullopt;
        std::vector<gp_Pnt> places;
        for (const double s : direction->points()) places.push_back(c.at(s));
        const auto fitted = curveThroughPlaces(*direction, places);
        poles.clear();
        for (int i = 1; i <= fitted->NbPoles(); ++i) poles.push_back(fitted->Pole(i));
        knots = TColStd_Array1OfReal(fitted->Knots());
        multiplicities = TColStd_Array1OfInteger(fitted->Multiplicities());
        degree = fitted->Degree();
    }
    const int n = static_cast<int>(poles.size());
    TColgp_Array2OfPnt net(1, n, 1, 3);
    TColStd_Array2OfReal weights(1, n, 1, 3);
    const gp_Vec up = e.out * e.height;
    for (int i = 1; i <= n; ++i) {
        const gp_Pnt& p = poles[static_cast<std::size_t>(i - 1)];
        net(i, 1) = p, net(i, 2) = p.Translated(up), net(i, 3) = e.middle.Translated(up);
        weights(i, 1) = weights(i, 3) = 1, weights(i, 2) = std::sqrt(0.5);
    }
    TColStd_Array1OfReal along(1, 2);
    TColStd_Array1OfInteger ends(1, 2);
    along(1) = 0, along(2) = e.height;
    ends.Init(3);
    return new Geom_BSplineSurface(net, weights, knots, along, multiplicities, ends, degree, 2);
}

/// The dome as a solid that stands on the end, edges shared.
std::optional<TopoDS_Shape> domeOver(const FlatEnd& e) {
    const std::size_t n = e.border.size();
    BRep_Builder builder;
    std::vector<Handle(Geom_BSplineSurface)> walls;
    for (const LengthCurve& c : e.border) {
        const auto wall = quarterOver(c, e);
        if (!wall) return std::nullopt;
        walls.push_back(*wall);
    }
    const TopoDS_Vertex top = BRepBuilderAPI_MakeVertex(e.middle.Translated(e.out * e.height));
    std::vector<TopoDS_Vertex> corners;
    for (const LengthCurve& c : e.border) corners.push_back(BRepBuilderAPI_MakeVertex(c.start()));
    std::vector<TopoDS_Edge> feet, ribs;
    for (std::size_t i = 0; i < n; ++i) {
        const double long_ = e.border[i].length();
        feet.push_back(edgeOn(walls[i]->VIso(0), corners[i], corners[(i + 1) % n], 0, long_));
        builder.UpdateEdge(feet.back(), across(0), walls[i], TopLoc_Location(), kKernelPoint);
        const std::size_t before = (i + n - 1) % n;
        ribs.push_back(edgeOn(walls[i]->UIso(0), corners[i], top, 0, e.height));
        const double end = e.border[before].length();
        if (before == i) {
            builder.UpdateEdge(ribs.back(), along(end), along(0), walls[i], TopLoc_Location(), kKernelPoint);
        } else {
            builder.UpdateEdge(ribs.back(), along(0), walls[i], TopLoc_Location(), kKernelPoint);
            builder.UpdateEdge(ribs.back(), along(end), walls[before], TopLoc_Location(), kKernelPoint);
        }
    }
    TopoDS_Shell shell;
    builder.MakeShell(shell);
    TopoDS_Wire foot;
    builder.MakeWire(foot);
    for (std::size_t i = 0; i < n; ++i) {
        const TopoDS_Edge pole = edgeAtPole(walls[i], top, e.height, 0, e.border[i].length());
        TopoDS_Wire wire;
        builder.MakeWire(wire);
        builder.Add(wire, feet[i]);
        builder.Add(wire, ribs[(i + 1) % n]);
        builder.Add(wire, pole.Reversed());
        builder.Add(wire, ribs[i].Reversed());
        wire.Closed(true);
        TopoDS_Face face;
        builder.MakeFace(face, walls[i], kKernelPoint);
        builder.Add(face, wire);
        builder.Add(shell, face);
        builder.Add(foot, feet[i].Reversed());
    }
    foot.Closed(true);
    TopoDS_Face flat;
    builder.MakeFace(flat, new Geom_Plane(e.middle, gp_Dir(-e.out)), kKernelPoint);
    builder.Add(flat, foot);
    builder.Add(shell, flat);
    shell.Closed(true);
    TopoDS_Solid solid;
    builder.MakeSolid(solid);
    builder.Add(solid, shell);
    BRepLib::SameParameter(solid, kSurfaceFit, true);
    BRepLib::UpdateTolerances(solid, true);
    return solid;
}

} // namespace

Result<NamedTool> withRoundCaps(NamedTool tool, const std::vector<std::string>& ends) {
    for (const std::string& role : ends) {
        const auto named = std::find_if(tool.names.begin(), tool.names.end(), [&](const auto& n) {
            return n.second == internName(tool.step, role);
        });
        if (named == tool.names.end()) continue; // a path that closes has no ends
        TopoDS_Face face;                        // as it bounds the solid: looking out
        for (TopExp_Explorer x(tool.shape, TopAbs_FACE); x.More(); x.Next())
            if (x.Current().IsSame(named->first)) face = TopoDS::Face(x.Current());
        const auto end = lookAt(face);
        if (!end) return end.error();
        auto dome = ballOver(*end);
        if (!dome) dome = domeOver(*end);
        if (!dome)
            return errorOf("sweep.cap-shape",
                           "The section is too uneven to be rounded over. Keep the ends flat.");
        NamedTool cap;
        cap.step = tool.step;
        cap.frame = tool.frame;
        cap.shape = *dome;
        for (TopExp_Explorer x(*dome, TopAbs_FACE); x.More(); x.Next())
            cap.names.emplace_back(x.Current(), internName(tool.step, "round " + role));
        const auto body = bodyOf(tool);
        if (!body) return body.error();
        const auto both = combine(*body, cap, Combine::Add);
        if (!both) return both.error();
        const Plane frame = tool.frame;
        tool = toolOf(*both, tool.step);
        tool.frame = frame;
    }
    return tool;
}

} // namespace gc

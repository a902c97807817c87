// Rounds about as small as the triangles' deviation, and what happens when neither mesher can keep to it.

#include "core/shape/mesh.hpp"
#include "core/shape/mesher/body_mesher.hpp"
#include "tests/support/kernel_bodies.hpp"

#include <BRepAlgoAPI_Cut.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <GeomAPI_PointsToBSpline.hxx>
#include <Geom_BSplineCurve.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>

using namespace gc;

namespace {

double areaOf(const TriangleMesh& mesh) {
    double area = 0;
    for (const auto& t : mesh.triangles)
        area +=
            length(cross(mesh.points[t[1]] - mesh.points[t[0]], mesh.points[t[2]] - mesh.points[t[0]])) / 2;
    return area;
}

TopoDS_Shape turnedWave() {
    TColgp_Array1OfPnt p(1, 6);
    const double r[] = {30, 41, 36, 33, 45, 48};
    for (int i = 0; i < 6; ++i) p(i + 1) = gp_Pnt(r[i], 0, 18.0 * i);
    BRepBuilderAPI_MakeWire wire(BRepBuilderAPI_MakeEdge(gp_Pnt(0, 0, 0), gp_Pnt(30, 0, 0)).Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(GeomAPI_PointsToBSpline(p).Curve()).Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(gp_Pnt(48, 0, 90), gp_Pnt(0, 0, 90)).Edge());
    wire.Add(BRepBuilderAPI_MakeEdge(gp_Pnt(0, 0, 90), gp_Pnt(0, 0, 0)).Edge());
    return BRepPrimAPI_MakeRevol(BRepBuilderAPI_MakeFace(wire.Wire()).Face(), gp::OZ()).Shape();
}

/// All edges of a shape rounded; nothing when the kernel cannot.
std::optional<TopoDS_Shape> rounded(const TopoDS_Shape& shape, double radius) {
    BRepFilletAPI_MakeFillet fillet(shape);
    for (TopExp_Explorer x(shape, TopAbs_EDGE); x.More(); x.Next())
        fillet.Add(radius, TopoDS::Edge(x.Current()));
    try {
        fillet.Build();
    } catch (const Standard_Failure&) {
        return std::nullopt;
    }
    return fillet.IsDone() ? std::optional(fillet.Shape()) : std::nullopt;
}

} // namespace

TEST_CASE("Rounds as small as one to four deviations mesh unfolded, by our own mesher") {
    constexpr double kDeviation = 0.05;
    const TopoDS_Shape box = BRepPrimAPI_MakeBox(40.0, 30.0, 20.0).Shape();
    const TopoDS_Shape bored =
        BRepAlgoAPI_Cut(box, BRepPrimAPI_MakeCylinder(gp_Ax2(gp_Pnt(20, 15, -1), gp::DZ()), 7, 30).Shape())
            .Shape();
    const TopoDS_Shape cylinder = BRepPrimAPI_MakeCylinder(25, 40).Shape();
    int tried = 0;
    for (const TopoDS_Shape& shape : {bored, cylinder, turnedWave()})
        for (const double deviations : {1.0, 1.5, 2.0, 2.5, 3.0, 4.0}) {
            INFO("radius of " << deviations << " deviations");
            const auto small = rounded(shape, deviations * kDeviation);
            if (!small) continue;
            ++tried;
            const Body body = bodyOf(*small);
            MeshedBody meshed;
            std::pair<int, std::string> fault;
            CHECK(meshBody(body.shape(), {kDeviation, 0.35, 0.7}, meshed, fault, {}));
            INFO("face " << fault.first << ": " << fault.second);
            const auto mesh = makeMesh(body, {kDeviation, 0.35});
            REQUIRE(mesh.ok());
            CHECK(areaOf(*mesh) == Approx(areaOf(*small)).epsilon(5e-3)); // what folds is counted twice
        }
    CHECK(tried >= 12);
}

TEST_CASE("The kernel's mesher is left when its time is over, with a first cut, and when nobody wants it") {
    const Body body = bodyOf(turnedWave());
    const auto whole = makeKernelMesh(body, {0.05, 0.35});
    REQUIRE(whole.ok());
    CHECK(whole->deviation == 0.05);
    // A body of its own: the kernel keeps triangles on the shape.
    const auto cut = makeKernelMesh(bodyOf(turnedWave()), {0.02, 0.2, {}, std::chrono::milliseconds(0)});
    REQUIRE(cut.ok());
    CHECK(cut->deviation == kDeviationUnknown);
    CHECK(cut->triangles.size() > 10);
    const auto stopped = makeKernelMesh(bodyOf(turnedWave()), {0.001, 0.05, [] { return true; }});
    REQUIRE_FALSE(stopped.ok());
    CHECK(stopped.error().code == "mesh.stopped");
}

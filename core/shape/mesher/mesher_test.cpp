#include "core/base/angles.hpp"
#include "core/shape/fitted_offset.hpp"
#include "core/shape/mesh.hpp"
#include "core/shape/mesher/body_mesher.hpp"
#include "core/shape/mesher/constrained_delaunay.hpp"
#include "tests/support/kernel_bodies.hpp"
#include "tests/support/seeded.hpp"

#include <BRepAlgoAPI_Common.hxx>
#include <BRepAlgoAPI_Cut.hxx>
#include <BRepAlgoAPI_Fuse.hxx>
#include <BRepBuilderAPI_MakeEdge.hxx>
#include <BRepBuilderAPI_MakeFace.hxx>
#include <BRepBuilderAPI_MakeWire.hxx>
#include <BRepBuilderAPI_NurbsConvert.hxx>
#include <BRepBuilderAPI_Transform.hxx>
#include <BRepCheck_Analyzer.hxx>
#include <BRepFilletAPI_MakeFillet.hxx>
#include <BRepGProp.hxx>
#include <BRepOffsetAPI_ThruSections.hxx>
#include <BRepPrimAPI_MakeBox.hxx>
#include <BRepPrimAPI_MakeCone.hxx>
#include <BRepPrimAPI_MakeCylinder.hxx>
#include <BRepPrimAPI_MakeRevol.hxx>
#include <BRepPrimAPI_MakeSphere.hxx>
#include <BRepPrimAPI_MakeTorus.hxx>
#include <BRep_Tool.hxx>
#include <GProp_GProps.hxx>
#include <GeomAPI_PointsToBSpline.hxx>
#include <GeomAPI_PointsToBSplineSurface.hxx>
#include <GeomAPI_ProjectPointOnSurf.hxx>
#include <Geom_BSplineCurve.hxx>
#include <Geom_BSplineSurface.hxx>
#include <Geom_ConicalSurface.hxx>
#include <Geom_CylindricalSurface.hxx>
#include <Geom_OffsetSurface.hxx>
#include <Geom_Plane.hxx>
#include <Geom_SphericalSurface.hxx>
#include <Geom_SurfaceOfLinearExtrusion.hxx>
#include <Geom_SurfaceOfRevolution.hxx>
#include <Geom_ToroidalSurface.hxx>
#include <TColStd_Array1OfInteger.hxx>
#include <TColStd_Array1OfReal.hxx>
#include <TColgp_Array1OfPnt.hxx>
#include <TColgp_Array2OfPnt.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <gp_Circ.hxx>

#include <set>

using namespace gc;

namespace {

using Int = ConstrainedDelaunay::Int;

double volumeOf(const TopoDS_Shape& shape) {
    GProp_GProps props;
    BRepGProp::VolumeProperties(shape, props, 1e-9);
    return props.Mass();
}

/// Area of the triangles whose own normal looks away from the surface's at their corners, mm^2.
double foldedArea(const TriangleMesh& mesh) {
    double area = 0;
    for (const auto& t : mesh.triangles) {
        const Vec3 n = cross(mesh.points[t[1]] - mesh.points[t[0]], mesh.points[t[2]] - mesh.points[t[0]]);
        if (dot(n, mesh.normals[t[0]] + mesh.normals[t[1]] + mesh.normals[t[2]]) < 0) area += length(n) / 2;
    }
    return area;
}

/// The farthest that the triangles' points at thirds stand from where `offSurface` says the surface is.
template <class Distance>
double deviationOf(const TriangleMesh& mesh, Distance&& offSurface) {
    double worst = 0;
    for (const auto& t : mesh.triangles)
        for (int i = 0; i <= 3; ++i)
            for (int j = 0; i + j <= 3; ++j)
                worst = std::max(worst, std::fabs(offSurface((mesh.points[t[0]] * i + mesh.points[t[1]] * j +
                                                              mesh.points[t[2]] * (3 - i - j)) /
                                                             3)));
    return worst;
}

Handle(Geom_BSplineCurve) wave() {
    TColgp_Array1OfPnt p(1, 6);
    const double r[] = {30, 41, 36, 33, 45, 48};
    for (int i = 0; i < 6; ++i) p(i + 1) = gp_Pnt(r[i], 0, 18.0 * i);
    return GeomAPI_PointsToBSpline(p).Curve();
}

} // namespace

TEST_CASE("The triangulation of scattered points is Delaunay, by the definition") {
    auto random = test::seeded(4U);
    std::uniform_int_distribution<Int> coordinate(-1000,
                                                  1000); // coarse: many points on a line or on a circle
    for (int round = 0; round < test::rounds(20); ++round) {
        ConstrainedDelaunay d(120);
        std::set<std::pair<Int, Int>> distinct;
        for (int i = 0; i < 120; ++i) {
            const Int x = coordinate(random) / 50, y = coordinate(random) / 50;
            REQUIRE(d.insert(x, y) >= 0);
            distinct.insert({x, y});
        }
        REQUIRE(d.pointCount() == distinct.size() + 3);
        for (const auto& t : d.triangles()) {
            const auto [a, b, c] = t.corner;
            REQUIRE(d.orientation(a, b, c) > 0);
            for (int p = 3; p < static_cast<int>(d.pointCount()); ++p) {
                // In long double the numbers of so coarse a grid are exact, the far corners' aside.
                if (a < 3 || b < 3 || c < 3) continue;
                using L = long double;
                const L ax = d.x(a) - d.x(p), ay = d.y(a) - d.y(p), bx = d.x(b) - d.x(p),
                        by = d.y(b) - d.y(p), cx = d.x(c) - d.x(p), cy = d.y(c) - d.y(p);
                const L det = (ax * ax + ay * ay) * (bx * cy - by * cx) -
                              (bx * bx + by * by) * (ax * cy - ay * cx) +
                              (cx * cx + cy * cy) * (ax * by - ay * bx);
                REQUIRE(det <= 0);
            }
        }
    }
}

TEST_CASE("Constrained edges stay, split the inside from the outside, and keep the area") {
    auto random = test::seeded(9U);
    std::uniform_real_distribution<double> radius(0.4, 1.0);
    for (int round = 0; round < test::rounds(60); ++round) {
        ConstrainedDelaunay d(100);
        const int n = 5 + round;
        std::vector<int> outer, hole;
        const auto ring = [&](double scale, int count, bool backwards, bool rough) {
            std::vector<int> out;
            for (int i = 0; i < count; ++i) {
                const double r = scale * (rough ? radius(random) : 1) * 1e7,
                             a = (backwards ? -1 : 1) * 2 * kPi * i / count;
                out.push_back(d.insert(std::llround(r * std::cos(a)), std::llround(r * std::sin(a))));
            }
            return out;
        };
        outer = ring(1, n, false, true);
        hole = ring(0.3, 7, true, false);
        double area = 0;
        for (const auto* loop : {&outer, &hole})
            for (std::size_t i = 0; i < loop->size(); ++i) {
                const int a = (*loop)[i], b = (*loop)[(i + 1) % loop->size()];
                area += static_cast<double>(d.x(a)) * static_cast<double>(d.y(b)) -
                        static_cast<double>(d.x(b)) * static_cast<double>(d.y(a));
            }
        bool crossed = false;
        for (const auto* loop : {&outer, &hole})
            for (std::size_t i = 0; i < loop->size(); ++i)
                crossed |= !d.constrain((*loop)[i], (*loop)[(i + 1) % loop->size()]);
        // Chords of a star of radius 0.4 and more clear a ring of 0.3 from n = 9 on (0.4 cos(pi / 9) > 0.37).
        if (n >= 9) REQUIRE_FALSE(crossed);
        if (crossed) continue;
        const auto in = d.inside();
        double sum = 0;
        for (std::size_t t = 0; t < in.size(); ++t) {
            const auto& c = d.triangles()[t].corner;
            if (in[t]) sum += static_cast<double>(d.orientation(c[0], c[1], c[2]));
        }
        REQUIRE(sum == Approx(area).epsilon(1e-12));
    }
    SECTION("two constraints that cross are refused") {
        ConstrainedDelaunay d(4);
        const int a = d.insert(-10, 0), b = d.insert(10, 0), c = d.insert(0, -10), e = d.insert(0, 10);
        CHECK(d.constrain(a, b));
        CHECK_FALSE(d.constrain(c, e));
    }
    SECTION("a point on the way splits the constraint") {
        ConstrainedDelaunay d(8);
        const int a = d.insert(-10, 0), b = d.insert(10, 0), m = d.insert(2, 0);
        d.insert(0, 7);
        d.insert(1, -5);
        CHECK(d.constrain(a, b));
        int halves = 0;
        for (const auto& t : d.triangles())
            for (std::size_t k = 0; k < 3; ++k)
                if (t.constrained[k] && (t.corner[(k + 1) % 3] == m || t.corner[(k + 2) % 3] == m)) ++halves;
        CHECK(halves == 4); // two halves, each seen from both sides
    }
}

TEST_CASE("Evaluators agree with the kernel's own points and normals") {
    const gp_Ax3 tilted(gp_Pnt(3, -2, 5), gp_Dir(1, 2, 3), gp_Dir(2, -1, 0));
    gp_Ax3 leftHanded = tilted;
    leftHanded.YReverse();
    TColgp_Array2OfPnt net(1, 7, 1, 6);
    for (int i = 1; i <= 7; ++i)
        for (int j = 1; j <= 6; ++j) net(i, j) = gp_Pnt(10 * i, 12 * j, 5 * std::sin(i) * std::cos(0.7 * j));
    const Handle(Geom_Surface) spline(GeomAPI_PointsToBSplineSurface(net).Surface());
    const auto nurbs = [](const TopoDS_Shape& s) {
        const TopoDS_Shape converted = BRepBuilderAPI_NurbsConvert(s).Shape();
        return BRep_Tool::Surface(TopoDS::Face(TopExp_Explorer(converted, TopAbs_FACE).Current()));
    };
    struct Case {
        const char* name;
        Handle(Geom_Surface) surface;
        double u0, u1, v0, v1;
    };
    for (const Case& c : std::initializer_list<Case>{
             {"plane", new Geom_Plane(tilted), -5, 5, -5, 5},
             {"left-handed plane", new Geom_Plane(leftHanded), -5, 5, -5, 5},
             {"cylinder", new Geom_CylindricalSurface(tilted, 7), 0, 6.2, -5, 5},
             {"left-handed cone", new Geom_ConicalSurface(leftHanded, 0.3, 12), 0, 6.2, -5, 5},
             {"cone", new Geom_ConicalSurface(tilted, -0.4, 12), 0, 6.2, -5, 5},
             {"sphere", new Geom_SphericalSurface(tilted, 9), 0, 6.2, -1.5, 1.5},
             {"torus", new Geom_ToroidalSurface(tilted, 20, 6), 0, 6.2, 0, 6.2},
             {"spline", spline, 0.01, 0.99, 0.01, 0.99},
             {"revolved spline", new Geom_SurfaceOfRevolution(wave(), gp::OZ()), 0, 6.2, 0.01, 0.99},
             {"extruded spline", new Geom_SurfaceOfLinearExtrusion(wave(), gp::DY()), 0.01, 0.99, -9, 9},
             {"offset of a spline", new Geom_OffsetSurface(spline, 1.5), 0.01, 0.99, 0.01, 0.99},
             {"rational periodic", nurbs(BRepPrimAPI_MakeTorus(20, 6).Shape()), 0.1, 6.2, 0.1, 6.2}}) {
        INFO(c.name);
        const auto eval = makeEvaluator(c.surface);
        auto random = test::seeded(11U);
        std::uniform_real_distribution<double> unitShare(0, 1);
        RowPlan plan;
        for (int i = 0; i < 9; ++i) plan.u.push_back(c.u0 + (c.u1 - c.u0) * unitShare(random));
        eval->prepare(plan);
        std::vector<Vec3> p(plan.u.size()), n(plan.u.size());
        for (int j = 0; j < 9; ++j) {
            const double v = c.v0 + (c.v1 - c.v0) * unitShare(random);
            eval->row(plan, v, 0, plan.u.size(), p.data(), n.data());
            for (std::size_t i = 0; i < plan.u.size(); ++i) {
                gp_Pnt point;
                gp_Vec du, dv;
                c.surface->D1(plan.u[i], v, point, du, dv);
                const gp_Vec cross = du.Crossed(dv).Normalized();
                REQUIRE(length(p[i] - toVec(point)) < 1e-9);
                REQUIRE(length(n[i] - Vec3{cross.X(), cross.Y(), cross.Z()}) < 1e-6);
                Vec3 q, m;
                eval->at(plan.u[i], v, q, m);
                REQUIRE(length(q - p[i]) + length(m - n[i]) < 1e-9);
            }
        }
    }
}

TEST_CASE("The offset of a spline becomes a spline within the tolerance, also where the spline has a kink in "
          "its bend") {
    TColgp_Array2OfPnt net(1, 7, 1, 6);
    for (int i = 1; i <= 7; ++i)
        for (int j = 1; j <= 6; ++j) net(i, j) = gp_Pnt(10 * i, 12 * j, 5 * std::sin(i) * std::cos(0.7 * j));
    const Handle(Geom_BSplineSurface) smooth = GeomAPI_PointsToBSplineSurface(net).Surface();
    const auto kinked = Handle(Geom_BSplineSurface)::DownCast(smooth->Copy());
    kinked->InsertUKnot(0.41, kinked->UDegree() - 1, 1e-9); // only C1 there once a pole moves
    const gp_Pnt pole = kinked->Pole(4, 3);
    kinked->SetPole(4, 3, pole.Translated(gp_Vec(0, 0, 0.4)));
    for (const auto& basis : {smooth, kinked})
        for (const double distance : {-2.0, 0.8}) {
            const Geom_OffsetSurface exact(basis, distance);
            const Handle(Geom_BSplineSurface) fit = fittedOffset(exact, 1e-5);
            REQUIRE_FALSE(fit.IsNull());
            auto random = test::seeded(3U);
            std::uniform_real_distribution<double> share(0, 1);
            double u0 = 0, u1 = 0, v0 = 0, v1 = 0;
            basis->Bounds(u0, u1, v0, v1);
            for (int k = 0; k < 400; ++k) {
                const double u = u0 + (u1 - u0) * share(random), v = v0 + (v1 - v0) * share(random);
                REQUIRE(exact.Value(u, v).Distance(fit->Value(u, v)) < 3e-5);
            }
        }
    const Handle(Geom_Surface) plane(new Geom_Plane(gp::XOY()));
    CHECK(fittedOffset(Geom_OffsetSurface(plane, 2), 1e-5).IsNull());
}

TEST_CASE("Triangles keep to the asked deviation, measured against closed forms") {
    for (const double d : {0.2, 0.05, 0.01}) {
        INFO("deviation " << d);
        const auto torus = makeMesh(bodyOf(BRepPrimAPI_MakeTorus(30, 8).Shape()), {d, 0.3});
        CHECK(deviationOf(*torus, [](Vec3 p) { return std::hypot(std::hypot(p.x, p.y) - 30, p.z) - 8; }) <
              1.5 * d);
        const auto sphere = makeMesh(bodyOf(BRepPrimAPI_MakeSphere(20).Shape()), {d, 0.3});
        CHECK(deviationOf(*sphere, [](Vec3 p) { return length(p) - 20; }) < 1.5 * d);
        const auto cone = makeMesh(bodyOf(BRepPrimAPI_MakeCone(20, 0, 40).Shape()), {d, 0.3});
        CHECK(deviationOf(*cone, [](Vec3 p) {
                  const double side = (std::hypot(p.x, p.y) - 20 + p.z / 2) * std::cos(std::atan(0.5));
                  return std::fabs(p.z) < std::fabs(side) ? p.z : side;
              }) < 1.5 * d);
        for (const auto* mesh : {&torus, &sphere, &cone}) {
            CHECK(openMeshEdges(**mesh) == 0);
            CHECK(foldedArea(**mesh) < 1e-4);
        }
    }
}

TEST_CASE("A revolved, shelled wave and a loft mesh closed, unfolded, near their surfaces") {
    BRepBuilderAPI_MakeWire wire;
    const gp_Pnt a(0, 0, 0), b(30, 0, 0), c(48, 0, 90), e(0, 0, 90);
    wire.Add(BRepBuilderAPI_MakeEdge(a, b));
    wire.Add(BRepBuilderAPI_MakeEdge(wave()));
    wire.Add(BRepBuilderAPI_MakeEdge(c, e));
    wire.Add(BRepBuilderAPI_MakeEdge(e, a));
    const TopoDS_Shape turned =
        BRepPrimAPI_MakeRevol(BRepBuilderAPI_MakeFace(wire.Wire()).Face(), gp::OZ()).Shape();
    BRepOffsetAPI_ThruSections loft(true, false, 1e-6);
    for (const auto& [x, r, z] :
         std::initializer_list<std::array<double, 3>>{{0, 20, 0}, {6, 30, 40}, {-4, 12, 80}})
        loft.AddWire(BRepBuilderAPI_MakeWire(
            BRepBuilderAPI_MakeEdge(gp_Circ(gp_Ax2(gp_Pnt(x, 0, z), gp::DZ()), r)).Edge()));
    loft.Build();
    for (const TopoDS_Shape& shape : {turned, TopoDS_Shape(loft.Shape())}) {
        const Body body = bodyOf(shape);
        MeshedBody meshed;
        std::pair<int, std::string> fault;
        REQUIRE(meshBody(body.shape(), {0.05, 0.2, 0.4}, meshed, fault));
        const auto mesh = makeMesh(body, {0.05, 0.2});
        CHECK(openMeshEdges(*mesh) == 0);
        CHECK(foldedArea(*mesh) < 1e-4);
        CHECK(meshVolume(*mesh) == Approx(volumeOf(shape)).epsilon(0.05 * areaOf(shape) / volumeOf(shape)));
        // Against the surface itself, by the kernel's projection of the middles of some triangles.
        for (std::size_t f = 0; f < mesh->faces.size(); ++f) {
            const Handle(Geom_Surface) surface =
                BRep_Tool::Surface(TopoDS::Face(body.shape().faces(static_cast<int>(f) + 1)));
            const auto& face = mesh->faces[f];
            for (std::uint32_t t = 0; t < face.triangleCount; t += 1 + face.triangleCount / 60) {
                const auto& q = mesh->triangles[face.firstTriangle + t];
                const Vec3 m = (mesh->points[q[0]] + mesh->points[q[1]] + mesh->points[q[2]]) / 3;
                GeomAPI_ProjectPointOnSurf foot(gp_Pnt(m.x, m.y, m.z), surface);
                REQUIRE(foot.NbPoints() > 0);
                REQUIRE(foot.LowerDistance() < 0.1);
            }
        }
    }
}

TEST_CASE("A knot within rounding of another, or of a face's end, makes no span of its own") {
    // As real files have them: a span of nothing divided by nothing gave points that were no numbers.
    struct Knots {
        std::vector<double> at;
        double to;
    };
    for (const Knots& k : {Knots{{0, 1e-13, 1}, 1},
                           {{0, 1 - 1e-13, 1}, 1},
                           {{0, 0.5, 0.5 + 2e-13, 1}, 1},
                           {{0, 0.5, 1}, 0.5 + 1e-12},
                           {{0, 0.5, 1}, 0.5 - 1e-12}}) {
        const int inner = static_cast<int>(k.at.size()) - 2, poles = 4 + inner;
        TColgp_Array2OfPnt net(1, poles, 1, 4);
        for (int i = 1; i <= poles; ++i)
            for (int j = 1; j <= 4; ++j) net(i, j) = gp_Pnt(10.0 * i, 12.0 * j, 3 * std::sin(i * 1.3 + j));
        // Within a span of nothing nothing may be: else the surface would leap there.
        if (k.at[1] < 1e-9)
            for (int j = 1; j <= 4; ++j) net(2, j) = net(1, j);
        if (k.at[1] > 1 - 1e-9)
            for (int j = 1; j <= 4; ++j) net(poles - 1, j) = net(poles, j);
        TColStd_Array1OfReal u(1, inner + 2), v(1, 2);
        TColStd_Array1OfInteger um(1, inner + 2), vm(1, 2);
        for (int i = 1; i <= inner + 2; ++i) {
            u(i) = k.at[static_cast<std::size_t>(i - 1)];
            um(i) = i == 1 || i == inner + 2 ? 4 : 1;
        }
        v(1) = 0, v(2) = 1, vm(1) = vm(2) = 4;
        const Handle(Geom_BSplineSurface) surface = new Geom_BSplineSurface(net, u, v, um, vm, 3, 3);
        const TopoDS_Face face = BRepBuilderAPI_MakeFace(surface, 0, k.to, 0, 1, 1e-7).Face();
        const auto mesh = makeMesh(bodyOf(face), {0.02, 0.3});
        REQUIRE(mesh.ok());
        CHECK(mesh->triangles.size() < 20000);
        double area = 0;
        for (const auto& t : mesh->triangles)
            area += length(cross(mesh->points[t[1]] - mesh->points[t[0]],
                                 mesh->points[t[2]] - mesh->points[t[0]])) /
                    2;
        CHECK(area == Approx(areaOf(face)).epsilon(2e-3)); // and so every point is a number
        CHECK(foldedArea(*mesh) < 1e-6);
    }
}

TEST_CASE("Random booleans of primitives mesh closed and unfolded, nearly always without the kernel's help") {
    int bodies = 0, helped = 0;
    for (unsigned seed = 1; seed <= 45; ++seed) {
        auto random = test::seeded(seed);
        const auto between = [&](double low, double high) {
            return std::uniform_real_distribution<double>(low, high)(random);
        };
        const auto primitive = [&]() -> TopoDS_Shape {
            TopoDS_Shape s;
            switch (random() % 5) {
            case 0:
                s = BRepPrimAPI_MakeBox(gp_Pnt(-between(4, 14), -between(4, 14), -between(3, 10)),
                                        gp_Pnt(between(4, 14), between(4, 14), between(3, 10)))
                        .Shape();
                break;
            case 1:
                s = BRepPrimAPI_MakeCylinder(between(2, 9), between(5, 25)).Shape();
                break;
            case 2:
                s = BRepPrimAPI_MakeCone(between(3, 9), random() % 3 ? between(1, 8) : 0, between(5, 20))
                        .Shape();
                break;
            case 3:
                s = BRepPrimAPI_MakeSphere(between(4, 11)).Shape();
                break;
            default: {
                const double r = between(1, 4);
                s = BRepPrimAPI_MakeTorus(between(r + 2, 12), r).Shape();
            }
            }
            gp_Trsf turn, move;
            turn.SetRotation(gp_Ax1(gp::Origin(), gp_Dir(between(-1, 1) + 0.01, between(-1, 1), 1)),
                             between(0, 3));
            move.SetTranslation(gp_Vec(between(-8, 8), between(-8, 8), between(-8, 8)));
            return BRepBuilderAPI_Transform(s, move * turn, random() % 2 == 0).Shape();
        };
        TopoDS_Shape s = primitive();
        const unsigned count = 1 + random() % 3;
        try {
            for (unsigned i = 0; i < count; ++i) {
                const TopoDS_Shape tool = primitive();
                const TopoDS_Shape r = random() % 2   ? BRepAlgoAPI_Fuse(s, tool).Shape()
                                       : random() % 2 ? BRepAlgoAPI_Cut(s, tool).Shape()
                                                      : BRepAlgoAPI_Common(s, tool).Shape();
                if (!r.IsNull() && TopExp_Explorer(r, TopAbs_FACE).More()) s = r;
            }
            if (random() % 2) {
                BRepFilletAPI_MakeFillet fillet(s);
                fillet.Add(between(0.3, 1.2), TopoDS::Edge(TopExp_Explorer(s, TopAbs_EDGE).Current()));
                fillet.Build();
                if (fillet.IsDone() && BRepCheck_Analyzer(fillet.Shape()).IsValid()) s = fillet.Shape();
            }
        } catch (const Standard_Failure&) {
        }
        if (!BRepCheck_Analyzer(s).IsValid() || volumeOf(s) < 1) continue;
        INFO("seed " << seed);
        ++bodies;
        const Body body = bodyOf(s);
        MeshedBody meshed;
        std::pair<int, std::string> fault;
        helped += !meshBody(body.shape(), {0.05, 0.3, 0.6}, meshed, fault);
        const auto mesh = makeMesh(body, {0.05, 0.3});
        REQUIRE(mesh.ok());
        CHECK(openMeshEdges(*mesh) == 0);
        CHECK(foldedArea(*mesh) < 1e-6 * areaOf(s)); // slivers that nobody can see
        CHECK(std::fabs(meshVolume(*mesh) - volumeOf(s)) < 0.06 * areaOf(s));
    }
    CHECK(bodies > 30);
    CHECK(helped <= 1);
}

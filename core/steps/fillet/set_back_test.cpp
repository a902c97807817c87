/// \file Corners that are set back: where they end, how smoothly they run on, and what they come to as they
/// are set back by less and less.

#include "core/steps/fillet/set_back.hpp"

#include "core/shape/mesher/body_mesher.hpp"
#include "core/steps/shared/edge_chains.hpp"
#include "core/steps/shared/rounded.hpp"
#include "tests/support/raw_bodies.hpp"
#include "tests/support/seeded.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <BRepBuilderAPI_MakeSolid.hxx>
#include <BRepBuilderAPI_Sewing.hxx>
#include <BRepLib.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Shell.hxx>
#include <TopoDS_Solid.hxx>
#include <catch2/catch.hpp>

#include <cmath>
#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

bool isOverCorner(const TopoDS_Shape& face) {
    return BRepAdaptor_Surface(TopoDS::Face(face), false).GetType() == GeomAbs_BSplineSurface;
}

struct Rounds {
    Body sharp, rolled;
    std::vector<EdgeChain> chains;
};

/// \param radii by the numbers of the edges that are picked
Rounds roundedAt(const TopoDS_Shape& shape, const EdgePick& pick, double radius) {
    Rounds out;
    out.sharp = bodyOf(shape);
    BRepFilletAPI_MakeFillet asks(out.sharp.shape().shape);
    std::vector<int> numbers;
    for (const TopoDS_Edge& e : edgesOf(out.sharp.shape().shape, pick))
        numbers.push_back(out.sharp.shape().edges.FindIndex(e) - 1);
    REQUIRE(addChains(out.sharp, numbers, radius, radius, false, asks, out.chains));
    auto made = rounded(out.sharp, out.chains, 2);
    REQUIRE(made);
    out.rolled = *made;
    return out;
}

Result<Body> setBack(const Rounds& box, double distance) {
    return withSetBackCorners(box.sharp, box.chains, box.rolled, distance, 2);
}

EdgePick edgesAt(const gp_Pnt& corner) {
    return [=](const gp_Pnt&, const TopoDS_Edge& e, const auto&) {
        const BRepAdaptor_Curve c(e);
        return c.Value(c.FirstParameter()).Distance(corner) < 1e-6 ||
               c.Value(c.LastParameter()).Distance(corner) < 1e-6;
    };
}

/// The most that normals turn across the borders of the faces over corners, rad.
double worstKink(const Body& body) {
    double most = 0;
    const NamedShape& s = body.shape();
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i));
        const auto faces = facesBeside(s, edge);
        if (std::none_of(faces.begin(), faces.end(), isOverCorner)) continue;
        for (const double share : {0.05, 0.2, 0.4, 0.6, 0.8, 0.95})
            if (const auto kink = kinkAt(s, edge, share)) most = std::max(most, *kink);
    }
    return most;
}

/// Places along the borders of the faces over corners.
std::vector<Vec3> bordersOf(const Body& body) {
    std::vector<Vec3> out;
    const NamedShape& s = body.shape();
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const auto faces = facesBeside(s, TopoDS::Edge(s.edges(i)));
        if (std::none_of(faces.begin(), faces.end(), isOverCorner)) continue;
        const BRepAdaptor_Curve c(TopoDS::Edge(s.edges(i)));
        for (int k = 0; k <= 8; ++k)
            out.push_back(
                toVec(c.Value(c.FirstParameter() + (c.LastParameter() - c.FirstParameter()) * k / 8)));
    }
    return out;
}

/// Its middle lies over a foot of so many corners, every wall leaning in by its own angle.
TopoDS_Shape randomSpire(Chance& chance, int sides) {
    std::vector<Vec2> foot;
    for (int i = 0; i < sides; ++i) {
        const double turn = 2 * std::numbers::pi * (i + chance.between(-0.2, 0.2)) / sides;
        foot.push_back({20 * std::cos(turn), 20 * std::sin(turn)});
    }
    const gp_Pnt tip(chance.between(-4, 4), chance.between(-4, 4), chance.between(12, 25));
    BRepBuilderAPI_Sewing sewing;
    BRepBuilderAPI_MakePolygon base;
    for (const Vec2 f : foot) base.Add(gp_Pnt(f.x, f.y, 0));
    base.Close();
    sewing.Add(BRepBuilderAPI_MakeFace(base.Wire(), true).Face());
    for (std::size_t i = 0; i < foot.size(); ++i) {
        const Vec2 a = foot[i], b = foot[(i + 1) % foot.size()];
        sewing.Add(
            BRepBuilderAPI_MakeFace(
                BRepBuilderAPI_MakePolygon(gp_Pnt(a.x, a.y, 0), gp_Pnt(b.x, b.y, 0), tip, true).Wire(), true)
                .Face());
    }
    sewing.Perform();
    TopoDS_Solid solid =
        BRepBuilderAPI_MakeSolid(TopoDS::Shell(TopExp_Explorer(sewing.SewedShape(), TopAbs_SHELL).Current()))
            .Solid();
    BRepLib::OrientClosedSolid(solid);
    return cutRaw(solid, boxAt(0, 0, -5, 80, 80, 9));
}

constexpr double kSmoothly = 0.5 * std::numbers::pi / 180; // rad

} // namespace

TEST_CASE("Corners of a block that are set back begin at the distance and run on smoothly") {
    const double a = 40, b = 30, h = 20, r = 4;
    const Rounds box = roundedAt(boxAt(0, 0, 0, a, b, h), anyEdge(), r);
    double before = volumeOfRaw(box.rolled.shape().shape);
    for (const double distance : {5.0, 7.0, 9.5}) {
        const auto made = setBack(box, distance);
        REQUIRE(made);
        CHECK(made->shape().faces.Extent() == 6 + 12 + 8);
        CHECK(meshAgrees(*made));
        CHECK(worstKink(*made) < kSmoothly);
        // The rounds end across the edges; from there the border goes on within the flat faces.
        for (const Vec3& p : bordersOf(*made)) {
            const Vec3 in{a / 2 - std::fabs(p.x), b / 2 - std::fabs(p.y), h / 2 - std::fabs(p.z - h / 2)};
            const double least = std::min({in.x, in.y, in.z}), most = std::max({in.x, in.y, in.z});
            CHECK((most == Approx(distance).margin(1e-4) ||
                   (least == Approx(0).margin(1e-4) && most < distance)));
        }
        const double now = volumeOfRaw(made->shape().shape);
        CHECK(now < before); // set back farther, more is taken
        before = now;
    }
}

TEST_CASE("A corner that is hardly set back is nearly the ball's") {
    const double r = 4;
    const Rounds box = roundedAt(boxAt(0, 0, 0, 40, 30, 20), edgesAt({20, 15, 20}), r);
    const auto made = setBack(box, 1.1 * r);
    REQUIRE(made);
    const Vec3 centre{20 - r, 15 - r, 20 - r};
    MeshBounds fine{1e-3, 0.1, 0.5};
    MeshedBody mesh;
    std::pair<int, std::string> fault;
    REQUIRE(meshBody(made->shape(), fine, mesh, fault));
    double most = 0;
    for (int i = 1; i <= made->shape().faces.Extent(); ++i)
        if (isOverCorner(made->shape().faces(i)))
            for (const Vec3& p : mesh.faces[std::size_t(i) - 1].points)
                most = std::max(most, std::fabs(length(p - centre) - r));
    CHECK(most > 0);
    CHECK(most < 0.06 * r);
}

TEST_CASE("Corners of several edges, of leaning faces, hollow corners and corners beside round walls") {
    Chance chance(seeded(29)());
    int good = 0, tried = 0;
    const auto attempt = [&](const std::string& what, const TopoDS_Shape& shape, const EdgePick& pick,
                             double radius, double distance) {
        const Rounds rounds = roundedAt(shape, pick, radius);
        const auto made = setBack(rounds, distance);
        INFO(what << " by " << radius << ", " << distance << ": "
                  << (made ? "" : made.error().sentence.text()));
        ++tried;
        CHECK(made);
        if (!made) return;
        ++good;
        CHECK(meshAgrees(*made));
        CHECK(worstKink(*made) < kSmoothly);
    };
    for (int sides = 3; sides <= 6; ++sides) {
        const TopoDS_Shape spire = randomSpire(chance, sides);
        gp_Pnt tip;
        for (TopExp_Explorer x(spire, TopAbs_VERTEX); x.More(); x.Next())
            if (const gp_Pnt p = BRep_Tool::Pnt(TopoDS::Vertex(x.Current())); p.Z() > tip.Z()) tip = p;
        attempt(std::to_string(sides) + " walls", spire, edgesAt(tip), 1.5, chance.between(5, 8));
    }
    const TopoDS_Shape step = cutRaw(boxAt(0, 0, 0, 40, 30, 20), boxAt(12, 0, 10, 20, 40, 20));
    attempt("a step", step, edgesAt({2, -15, 10}), chance.between(1, 2.5), chance.between(4, 7));
    const TopoDS_Shape half = cutRaw(cylinderAt(0, 0, 0, 20, 15), boxAt(0, -20, -1, 60, 40, 20));
    attempt("half a cylinder", half, edgesAt({20, 0, 15}), chance.between(1, 2.5), chance.between(4, 6));
    const TopoDS_Shape pocket = cutRaw(boxAt(0, 0, 0, 40, 30, 20), boxAt(0, 0, 8, 30, 20, 20));
    attempt("a pocket", pocket, edgesAt({15, 10, 8}), chance.between(1, 2.5), chance.between(4, 7));
}

TEST_CASE("What cannot be set back is told with its place and what would do") {
    const Rounds box = roundedAt(boxAt(0, 0, 0, 40, 30, 20), anyEdge(), 4);
    const auto far = setBack(box, 10.5), near = setBack(box, 3);
    REQUIRE((!far && !near));
    CHECK(far.error().code == "fillet.set-back");
    CHECK(far.error().sentence.text().find("room for less than 10 mm") != std::string::npos);
    CHECK(near.error().sentence.text().find("more than 4 mm") != std::string::npos);
    CHECK((far.error().place && near.error().place));
    // Two edges that meet: the third is sharp.
    const Rounds rim = roundedAt(boxAt(0, 0, 0, 40, 30, 20), atLevel(20), 4);
    const auto none = setBack(rim, 6);
    REQUIRE(!none);
    CHECK(none.error().sentence.text().find("No three of these edges") != std::string::npos);
}

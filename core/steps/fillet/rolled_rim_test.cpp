// Rims rounded edge by edge: by closed forms, against the kernel's own, and by the ball that rolled.

#include "core/base/angles.hpp"
#include "core/shape/mesh.hpp"
#include "core/shape/mesher/body_mesher.hpp"
#include "core/shape/places.hpp"
#include "core/steps/fillet/rolled_rim.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"

#include <BRepAdaptor_Curve.hxx>
#include <TopoDS.hxx>
#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// The edges of a body on a level, each a chain of its own.
std::vector<EdgeChain> edgesOn(const Body& body, double level, double radius) {
    std::vector<EdgeChain> out;
    for (int i = 1; i <= body.shape().edges.Extent(); ++i) {
        const TopoDS_Edge e = TopoDS::Edge(body.shape().edges(i));
        const BRepAdaptor_Curve curve(e);
        bool on = true;
        for (const double share : {0.1, 0.5, 0.9})
            on = on && std::fabs(curve
                                     .Value(curve.FirstParameter() +
                                            share * (curve.LastParameter() - curve.FirstParameter()))
                                     .Z() -
                                 level) < 1e-6;
        if (on) out.push_back({{e}, radius, radius});
    }
    return out;
}

double volume(const Body& body) {
    const auto m = massProperties(body, Density(1e-3));
    REQUIRE(m.ok());
    return m->volume;
}

/// Sound, watertight, and as large as its mesh says.
void checkSound(const Body& body) {
    CHECK(checkBody(body).faults.empty());
    const auto mesh = makeMesh(body, {0.005, 0.2, {}});
    REQUIRE(mesh);
    CHECK(openMeshEdges(*mesh) == 0);
    CHECK(std::fabs(meshVolume(*mesh) - volume(body)) < 0.005 * massProperties(body, Density(1e-3))->area);
}

/// From places all over the rounds the centre of the ball is a radius from a face of the body before, and,
/// except beside a mitre, where it would touch one beyond its border, from two. \return from how many places
/// it is so \param every how many places are left out
int checkRolled(const Body& before, const Body& after, double radius, std::size_t every) {
    std::vector<int> all;
    for (int f = 0; f < faceCount(before); ++f) all.push_back(f);
    std::pair<int, std::string> fault;
    MeshedBody mesh;
    REQUIRE(meshBody(after.shape(), {0.02, 0.3, 0.6}, mesh, fault));
    constexpr double kOff = 6e-3; // mm, which a tenth of a degree makes of 3 mm
    int looked = 0;
    for (int i = 1; i <= after.shape().faces.Extent(); ++i) {
        const auto& names = after.shape().namesOf(after.shape().faces(i));
        if (names.empty() || names.front()->role != "fillet") continue;
        const Patch& patch = mesh.faces[static_cast<std::size_t>(i) - 1];
        for (std::size_t k = 0; k < patch.points.size(); k += every) {
            const Vec3 centre = patch.points[k] - patch.normals[k] * radius;
            int touched = 0;
            for (const int f : all) {
                const auto near = nearestOnFaces(before, {f}, centre);
                REQUIRE(near);
                const double d = length(near->at - centre);
                touched += std::fabs(d - radius) < kOff;
            }
            CHECK(touched >= 1);
            looked += touched > 1;
        }
    }
    return looked;
}

/// What a round of a square edge takes away, by its length; and how far from the wall its middle lies (the
/// corner of a square less a quarter of a disc).
double spandrel(double r) {
    return (1 - kPi / 4) * r * r;
}
double spandrelOff(double r) {
    return (r * r * r / 2 - kPi * r * r / 4 * (r - 4 * r / (3 * kPi))) / spandrel(r);
}

/// Of a frustum from 40 x 30 to 24 x 25, 20 high, whose four walls lean inward by 0.3, 0.5, 0 and 0.25 for
/// one of height, rounded at its foot: at each level a rectangle whose sides stand in by the wall, or below
/// where the ball touches that by the ball. The integral by Simpson's rule.
double roundedFrustum(double r) {
    const auto inset = [&](double lean, double z) {
        const double a = std::atan(lean), centre = r * lean + r / std::cos(a);
        return z < r * (1 + std::sin(a)) ? centre - std::sqrt(std::max(0.0, r * r - (r - z) * (r - z)))
                                         : lean * z;
    };
    // The root at the bottom is taken away by z = t^2.
    constexpr int kSteps = 200'000;
    const double top = std::sqrt(20.0), h = top / kSteps;
    double sum = 0;
    for (int k = 0; k <= kSteps; ++k) {
        const double t = k * h, z = t * t;
        const double area =
            (40 - inset(0.3, z) - inset(0.5, z)) * (30 - inset(0, z) - inset(0.25, z)) * 2 * t;
        sum += area * (k == 0 || k == kSteps ? 1 : k % 2 == 1 ? 4 : 2);
    }
    return sum * h / 3;
}

} // namespace

TEST_CASE("The rims of prisms, by their closed forms") {
    constexpr double kR = 2.5, kSize = 20;
    for (const int n : {3, 4, 6, 9}) {
        INFO(n << " corners");
        const Body before = lastBody(built(block(regularLine(n, kSize, 0.2), "15 mm")));
        auto chains = edgesOn(before, 15, kR);
        REQUIRE(chains.size() == static_cast<std::size_t>(n));
        const double side = 2 * kSize * std::sin(kPi / n), slant = 1 / std::tan(kPi * (n - 2) / (2 * n));
        const double taken = n * spandrel(kR) * (side - 2 * slant * spandrelOff(kR));
        const auto above = roundedRims(before, chains, 9, {});
        REQUIRE(above);
        CHECK(volume(*above) == Approx(volume(before) - taken).epsilon(1e-7));
        for (const EdgeChain& c : edgesOn(before, 0, kR)) chains.push_back(c);
        const auto both = roundedRims(before, chains, 9, {});
        REQUIRE(both);
        CHECK(volume(*both) == Approx(volume(before) - 2 * taken).epsilon(1e-7));
        checkSound(*both);
        CHECK(checkRolled(before, *both, kR, 3) > 20);
    }
}

TEST_CASE("The hollow rim of a boss, by its closed form") {
    constexpr double kR = 2, kSize = 12;
    Part p = block(regularLine(4, 60), "10 mm");
    add(p, "draw",
        {{"name", std::string("boss")},
         {"plane", std::string("ground")},
         {"drawing", DrawingSlot(regularLine(5, kSize))}});
    add(p, "extrude",
        {{"outline", std::string("boss")}, {"length", inMm(30)}, {"does", std::string("adding to")}});
    const Body before = lastBody(built(p));
    std::vector<EdgeChain> chains;
    for (const EdgeChain& c : edgesOn(before, 10, kR))
        if (isHollow(before.shape(), c.edges.front())) chains.push_back(c);
    REQUIRE(chains.size() == 5);
    const auto after = roundedRims(before, chains, 9, {});
    REQUIRE(after);
    const double side = 2 * kSize * std::sin(kPi / 5), slant = 1 / std::tan(kPi * 3 / 10);
    const double more = 5 * spandrel(kR) * (side + 2 * slant * spandrelOff(kR));
    CHECK(volume(*after) == Approx(volume(before) + more).epsilon(1e-7));
    checkSound(*after);
}

TEST_CASE("The rim of a wall that closes up, by its closed form") {
    // By Pappus' rule; of an oval, too, as what is taken away lies square to it all round.
    constexpr double kR = 2.5, kHalf = 18, kBroad = 12;
    const double around = ellipseLength(kHalf, kBroad);
    for (const auto& [outline, length] :
         {std::pair{circleLine(kBroad), 2 * kPi * kBroad}, std::pair{ellipseLine(kHalf, kBroad), around}}) {
        INFO(length << " mm around");
        const Body before = lastBody(built(block(outline, "15 mm")));
        auto chains = edgesOn(before, 15, kR);
        REQUIRE(chains.size() == 1);
        const double taken = spandrel(kR) * (length - 2 * kPi * spandrelOff(kR));
        const auto above = roundedRims(before, chains, 9, {});
        REQUIRE(above);
        CHECK(volume(*above) == Approx(volume(before) - taken).epsilon(1e-7));
        chains.push_back(edgesOn(before, 0, kR).front());
        const auto both = roundedRims(before, chains, 9, {});
        REQUIRE(both);
        CHECK(volume(*both) == Approx(volume(before) - 2 * taken).epsilon(1e-7));
        checkSound(*both);
        CHECK(checkRolled(before, *both, kR, 3) > 20);
        CHECK(faceCount(*both) == faceCount(before) + 2);
    }
}

TEST_CASE("The rim of a loft's wall that closes up and leans differently all round") {
    Part p = lofted({{circleLine(14, {2, 1}), 0}, {ellipseLine(17, 11), 12}, {circleLine(15, {-3, 2}), 31}},
                    {{"leave", std::string("squarely")}});
    const Body before = lastBody(built(p));
    const auto chains = edgesOn(before, 0, 1.5);
    REQUIRE(chains.size() == 1);
    const auto after = roundedRims(before, chains, 9, {});
    REQUIRE(after);
    checkSound(*after);
    CHECK(checkRolled(before, *after, 1.5, 7) > 20);
}

TEST_CASE("Where walls lean differently one round goes on along the wall of the other") {
    Part p = lofted({{closedLine({{-20, -15}, {20, -15}, {20, 15}, {-20, 15}}), 0},
                     {closedLine({{-14, -15}, {10, -15}, {10, 10}, {-14, 10}}), 20}},
                    {{"way", std::string("straight")}});
    const Body before = lastBody(built(p));
    for (const double r : {1.0, 3.0}) {
        INFO(r << " mm");
        const auto chains = edgesOn(before, 0, r);
        REQUIRE(chains.size() == 4);
        const auto own = roundedRims(before, chains, 9, {});
        REQUIRE(own);
        CHECK(volume(*own) == Approx(roundedFrustum(r)).epsilon(1e-7));
        checkSound(*own);
        CHECK(checkRolled(before, *own, r, 3) > 20);
    }
}

TEST_CASE("Rims of lofts where the angle of the walls fades") {
    const std::vector<std::vector<std::pair<Drawing, double>>> lofts{
        {{circleLine(14), 0}, {regularLine(9, 15, 0.3), 34}, {regularLine(7, 14, 1.1), 62}},
        {{circleLine(16, {-4, 1}), 0}, {circleLine(22, {-5, 2}), 18}, {regularLine(8, 19), 41}},
        {{closedLine({{19, -2}, {3, 15}, {-17, -4}, {5, -22}}), 0}, {regularLine(8, 17, 0.4, {0, -6}), 38}}};
    for (std::size_t i = 0; i < lofts.size(); ++i) {
        INFO("loft " << i);
        Part p = lofted(lofts[i], i == 2 ? Slots{{"way", std::string("straight")}} : Slots{});
        const Body before = lastBody(built(p));
        const auto chains = edgesOn(before, 0, 1);
        CHECK(fadesAt(before, chains) == (i != 1)); // to a corner that is blunt in the middle, too
        const auto after = roundedRims(before, chains, 9, {});
        REQUIRE(after);
        checkSound(*after);
        CHECK(checkRolled(before, *after, 1, 25) > 10);
        // As a step, too, in the usual way.
        add(p, "fillet",
            {{"edges", References{"rim of start of step " + std::to_string(p.steps.back().id)}},
             {"radius", std::string("1 mm")}});
        const auto r = built(p);
        CHECK_FALSE(r.steps.back().doubt);
        CHECK(volume(lastBody(r)) == Approx(volume(*after)).epsilon(1e-6));
    }
}

TEST_CASE("What is no whole rim, or does not fit, is left to others") {
    const Body before = lastBody(built(block(regularLine(4, 20), "15 mm")));
    auto chains = edgesOn(before, 15, 2);
    auto some = chains;
    some.pop_back();
    CHECK_FALSE(roundedRims(before, some, 9, {})); // no whole rim
    some = chains;
    some.front().second = 3;
    CHECK_FALSE(roundedRims(before, some, 9, {})); // radii that differ
    for (EdgeChain& c : chains) c.first = c.second = 15;
    CHECK_FALSE(roundedRims(before, chains, 9, {})); // nothing would be left of the face
    CHECK_FALSE(fadesAt(before, chains));
}

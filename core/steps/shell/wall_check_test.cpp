// What is looked at of every wall: that it can fail.

#include "core/shape/kernel.hpp"
#include "core/steps/shell/wall_check.hpp"
#include "tests/support/raw_bodies.hpp"

#include <BRepGProp.hxx>
#include <GProp_GProps.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// mm
constexpr double kBlockLong = 40, kBlockBroad = 30, kBlockHigh = 20, kAskedWall = 2;

gp_Pnt placeOfFace(const TopoDS_Shape& face) {
    GProp_GProps of;
    BRepGProp::SurfaceProperties(face, of);
    return of.CentreOfMass();
}

bool isOutside(const TopoDS_Shape& face) {
    const gp_Pnt p = placeOfFace(face);
    return std::fabs(std::fabs(p.X()) - kBlockLong / 2) < 1e-6 ||
           std::fabs(std::fabs(p.Y()) - kBlockBroad / 2) < 1e-6 || p.Z() < 1e-6 || p.Z() > kBlockHigh - 1e-6;
}

/// A block with its top open, as if what was made of it were its wall. Empty where nothing is wrong with
/// that. \param round mm, said to be inside
std::string faultOf(const TopoDS_Shape& made, double round) {
    const Body block = bodyOf(boxAt(0, 0, 0, kBlockLong, kBlockBroad, kBlockHigh)), now = bodyOf(made);
    ShellPlan plan;
    plan.before = &block.shape();
    plan.offset = -kAskedWall;
    for (int i = 1; i <= block.shape().faces.Extent(); ++i)
        if (placeOfFace(block.shape().faces(i)).Z() > kBlockHigh - 1e-6)
            plan.opened.Add(block.shape().faces(i));
    REQUIRE(plan.opened.Extent() == 1);
    std::vector<TopoDS_Shape> insides;
    for (int i = 1; i <= now.shape().faces.Extent(); ++i)
        if (!isOutside(now.shape().faces(i))) insides.push_back(now.shape().faces(i));
    const auto fault = wallFault(plan, now.shape(), insides, round);
    return fault ? fault->sentence.text() : "";
}

/// The block with a pocket from above.
TopoDS_Shape pocketed(double wall, double floor) {
    return cutRaw(boxAt(0, 0, 0, kBlockLong, kBlockBroad, kBlockHigh),
                  boxAt(0, 0, floor, kBlockLong - 2 * wall, kBlockBroad - 2 * wall, kBlockHigh));
}

} // namespace

TEST_CASE("A wall is looked at: what is right passes, what is filled up, missing, thick or thin does not") {
    const TopoDS_Shape block = boxAt(0, 0, 0, kBlockLong, kBlockBroad, kBlockHigh);
    for (const double round : {0.0, kAskedWall / 4, kAskedWall / 2, kAskedWall}) {
        INFO("round " << round);
        CHECK(faultOf(pocketed(kAskedWall, kAskedWall), round).empty());
        CHECK(faultOf(block, round).find("filled up") != std::string::npos);
        CHECK(faultOf(pocketed(kAskedWall, kBlockHigh - 1), round).find("filled up") != std::string::npos);
        CHECK(faultOf(pocketed(0.9 * kAskedWall, kAskedWall), round).find("1.8 mm instead of 2 mm") !=
              std::string::npos);
        // Thicker by more than any round fills up.
        const double thick = kAskedWall + std::max(0.25 * kAskedWall, 1.3 * round);
        CHECK(faultOf(pocketed(thick, kAskedWall), round).find("filled up") != std::string::npos);
        // Through its floor.
        CHECK_FALSE(
            faultOf(cutRaw(pocketed(kAskedWall, kAskedWall), cylinderAt(0, 0, -1, 12, 10)), round).empty());
    }
}

// Where a wall without corners closes up.

#include "core/shape/kernel.hpp"
#include "tests/support/sections.hpp"

#include <BRep_Tool.hxx>
#include <TopExp.hxx>
#include <TopoDS.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

/// The lower end of the seam of a loft from a rounded rectangle to a smaller one.
Vec3 seamOf(double radius) {
    Part p;
    const References sections{addSection(p, roundedLine(40, 30, radius), 0),
                              addSection(p, roundedLine(30, 24, radius), 40)};
    add(p, "loft", {{"sections", sections}});
    const auto r = Engine().regenerate(p);
    REQUIRE(allFine(r));
    const NamedShape& s = lastBody(r).shape();
    for (int i = 1; i <= s.edges.Extent(); ++i) {
        const TopoDS_Edge edge = TopoDS::Edge(s.edges(i));
        for (const TopoDS_Shape& face : toVector(s.facesOfEdge.FindFromKey(edge)))
            if (BRep_Tool::IsClosed(edge, TopoDS::Face(face))) {
                const Vec3 a = toVec(BRep_Tool::Pnt(TopExp::FirstVertex(edge))),
                           b = toVec(BRep_Tool::Pnt(TopExp::LastVertex(edge)));
                return a.z < b.z ? a : b;
            }
    }
    FAIL("no seam");
    return {};
}

/// mm from the middle of the nearest side, along it.
double fromMiddle(Vec3 p) {
    return std::fabs(std::fabs(p.y) > 14.99 ? p.x : p.y);
}

} // namespace

TEST_CASE("The seam of a wall keeps clear of tight rounds, and of the middle of the sides") {
    const Vec3 tight = seamOf(1);
    INFO(tight.x << ", " << tight.y);
    const double half = std::fabs(tight.y) > 14.99 ? 20 : 15;
    CHECK(fromMiddle(tight) < half - 3); // a wall of 2 mm uses up some 2 mm beside a round of 1 mm
    CHECK(fromMiddle(tight) > half / 2);
}

TEST_CASE("The seam of a wall with wide rounds is where its drawing begins") {
    const Vec3 wide = seamOf(6);
    const double half = std::fabs(wide.y) > 14.99 ? 20 : 15;
    CHECK(fromMiddle(wide) == Approx(half - 6).margin(1e-3));
}

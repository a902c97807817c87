#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shared/near_filler.hpp"
#include "tests/support/block.hpp"
#include "tests/support/letters.hpp"
#include "tests/support/raw_bodies.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/seeded.hpp"

#include <BRepAlgoAPI_BooleanOperation.hxx>
#include <TopExp_Explorer.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

struct Told {
    int faces = 0, solids = 0;
    double moment = 0; ///< of its vertices: where they are and how many
    friend bool operator==(const Told&, const Told&) = default;
};
Told toldOf(const TopoDS_Shape& shape) {
    Told out;
    for (TopExp_Explorer x(shape, TopAbs_FACE); x.More(); x.Next()) ++out.faces;
    for (TopExp_Explorer x(shape, TopAbs_SOLID); x.More(); x.Next()) ++out.solids;
    TopTools_IndexedMapOfShape corners;
    TopExp::MapShapes(shape, TopAbs_VERTEX, corners);
    for (int i = 1; i <= corners.Extent(); ++i) {
        const gp_Pnt p = BRep_Tool::Pnt(TopoDS::Vertex(corners(i)));
        out.moment += 1 + p.X() * p.X() + 2 * p.Y() * p.Y() + 3 * p.Z() * p.Z();
    }
    return out;
}

/// By every pair whose boxes meet, as the kernel does it.
TopoDS_Shape byKernel(const TopoDS_Shape& body, const TopoDS_Shape& tool, BOPAlgo_Operation how) {
    BRepAlgoAPI_BooleanOperation plain;
    TopTools_ListOfShape bodies, tools;
    bodies.Append(body), tools.Append(tool);
    plain.SetArguments(bodies);
    plain.SetTools(tools);
    plain.SetNonDestructive(true);
    plain.SetOperation(how);
    plain.Build();
    return plain.Shape();
}

std::vector<Part> hollowHosts() {
    Part cup = block(ellipseLine(30, 22), "40 mm"), tall = vase();
    add(cup, "shell", {{"open", References{"end of step 2"}}, {"wall", std::string("2 mm")}});
    return {cup, tall, loftedWall()};
}

} // namespace

TEST_CASE(
    "Booleans that are told what is far apart are the kernel's own, within walls, through and beside them") {
    std::mt19937 random = seeded(3107);
    const auto between = [&](double a, double b) { return std::uniform_real_distribution<>(a, b)(random); };
    for (const Part& part : hollowHosts()) {
        const Body body = lastBody(built(part));
        const TopoDS_Shape& host = body.shape().shape;
        for (int i = 0; i < rounds(2); ++i) {
            const double a = between(0, 2 * kPi), r = between(0, 30), size = between(2, 9),
                         z = between(-2, 35), high = between(4, 30);
            const TopoDS_Shape tool =
                i % 2 == 0 ? cylinderAt(r * std::cos(a), r * std::sin(a), z, size, high)
                           : boxAt(r * std::cos(a), r * std::sin(a), z, size, 1.5 * size, high);
            for (const BOPAlgo_Operation how : {BOPAlgo_FUSE, BOPAlgo_CUT, BOPAlgo_COMMON}) {
                INFO("round " << i << " operation " << int(how));
                NearOnly<BRepAlgoAPI_BooleanOperation> near;
                near.SetOperation(how);
                near.setUp(host, {tool});
                near.build();
                const Told is = toldOf(near.Shape()), should = toldOf(byKernel(host, tool, how));
                CHECK(is.faces == should.faces);
                CHECK(is.solids == should.solids);
                CHECK(is.moment == Approx(should.moment).epsilon(1e-9));
            }
        }
    }
}

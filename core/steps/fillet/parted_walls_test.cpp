// Rounds at the rims of lofts over lines and arcs: one smooth wall whose bend jumps.

#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/mesh.hpp"
#include "tests/support/sections.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

TEST_CASE("Rims of a loft through rounded rectangles are rounded below and above") {
    for (const char* way : {"smooth", "straight"})
        for (const char* end : {"start", "end"}) {
            Slots more;
            if (std::string(way) == "straight") more["way"] = std::string("straight");
            Part p = lofted({{roundedLine(60, 40, 8), 0}, {roundedLine(40, 30, 6), 50}}, more);
            const int loft = p.steps.back().id;
            const double before = massProperties(lastBody(built(p)), Density(1e-3))->volume;
            add(p, "fillet",
                {{"edges", References{std::string("rim of ") + end + " of step " + std::to_string(loft)}},
                 {"radius", std::string("1 mm")}});
            INFO(way << " " << end << ": " << faults(Engine().regenerate(p)));
            const auto r = built(p);
            CHECK_FALSE(r.steps.back().doubt);
            const Body& body = lastBody(r);
            CHECK(checkBody(body).faults.empty());
            const auto m = massProperties(body, Density(1e-3));
            REQUIRE(m.ok());
            const auto mesh = makeMesh(body, {0.01, 0.2, {}});
            REQUIRE(mesh);
            CHECK(openMeshEdges(*mesh) == 0);
            CHECK(std::fabs(meshVolume(*mesh) - m->volume) < 0.01 * m->area);
            // Between a square corner and one as blunt or sharp as the wall leans at the steepest, about 12
            // degrees: (1 / tan(a / 2) - (pi - a) / 2) r^2 of each mm of the rim.
            const double around = std::string(end) == "start" ? 2 * (44 + 24) + 2 * std::numbers::pi * 8
                                                              : 2 * (28 + 18) + 2 * std::numbers::pi * 6;
            const auto corner = [](double a) { return 1 / std::tan(a / 2) - (std::numbers::pi - a) / 2; };
            const double lean = 12 * std::numbers::pi / 180, square = std::numbers::pi / 2;
            const double most = corner(square - lean) * around, least = corner(square + lean) * around * 0.9;
            CHECK(before - m->volume < most);
            CHECK(before - m->volume > least);
            int rounds = 0;
            for (int i = 1; i <= body.shape().faces.Extent(); ++i)
                for (const NamePtr n : body.shape().namesOf(body.shape().faces(i)))
                    rounds += n->role == "fillet";
            CHECK(rounds == 8);
        }
}

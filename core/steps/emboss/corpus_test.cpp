#include "tests/support/embossed.hpp"
#include "tests/support/seeded.hpp"

#include <BRepBuilderAPI_MakeVertex.hxx>
#include <BRepExtrema_DistShapeShape.hxx>

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

TEST_CASE("Letters of all sizes on walls of all forms: sound and as large as the layer over the wall, or why "
          "not") {
    std::mt19937 random = seeded(163);
    const auto between = [&](double a, double b) {
        return std::uniform_real_distribution<double>(a, b)(random);
    };
    const int all = std::getenv("GC_DEEP") ? 200 : 12;
    int right = 0;
    std::string refused;
    for (int i = 0; i < all; ++i) {
        const int kind = i % 5;
        const double size = between(20, 34);
        Part p = kind == 0   ? block(roundedLine(60, 24, 3), "46 mm")
                 : kind == 1 ? block(circleLine(size), "46 mm")
                 : kind == 2 ? block(circleLine(size + 8), "46 mm",
                                     {{"sides", std::string("leaning inward by")},
                                      {"lean", formatNumber(between(2, 20), 3) + "°"}})
                 : kind == 3 ? vase()
                             : loftedWall();
        addBefore(p);
        const auto plain = built(p);
        const NamedShape& s = bodyOf(plain).shape();
        const Drawing d = letters(1 + i % 4, between(-10, -6), between(12, 26));
        const auto hit = [&] { // the face before the front
            int nearest = 1;
            double best = 1e300;
            for (int f = 1; f <= s.faces.Extent(); ++f) {
                BRepExtrema_DistShapeShape dist(BRepBuilderAPI_MakeVertex(gp_Pnt(0, -60, 22)), s.faces(f));
                if (dist.Value() < best) best = dist.Value(), nearest = f;
            }
            return nearest;
        }();
        const bool sunk = i % 2 == 1, wrapped = i % 3 == 2, along = !wrapped && i % 4 == 0,
                   leaning = i % 7 >= 4;
        const double height = between(0.3, 1.6);
        addEmboss(p, d, "before", s.wordsFor(s.faces(hit)),
                  {{"way", std::string("back")},
                   {"does", std::string(sunk ? "sunk" : "raised")},
                   {"lay", std::string(wrapped ? "wrapped" : "straight")},
                   {"grows", std::string(along ? "along the drawing" : "square")},
                   {"sides", std::string(leaning ? "leaning" : "straight")},
                   {"lean", formatNumber(between(2, 12), 3) + "°"},
                   {"height", inMm(height)}});
        const auto r = Engine().regenerate(p);
        INFO(i << ": host " << kind << (sunk ? " sunk " : " raised ") << height << (wrapped ? " wrapped" : "")
               << (along ? " along" : "") << (leaning ? " leaning" : "") << "; " << faults(r));
        if (!allFine(r)) {
            CHECK(r.steps.back().error->code != "emboss.failed");
            refused += "\n  " + std::to_string(i) + ": " + faults(r);
            continue;
        }
        checkSound(r);
        const double v = volumeOf(r) - volumeOf(plain), plainly = inkOf(d) * height * (sunk ? -1 : 1);
        if (along && !leaning)
            CHECK(v == Approx(plainly).epsilon(1e-5).margin(1e-4));
        else
            CHECK((v / plainly > 0.5 && v / plainly < 1.35));
        ++right;
    }
    WARN(right << " of " << all << " embossed" << refused);
    CHECK(right >= 0.9 * all);
}

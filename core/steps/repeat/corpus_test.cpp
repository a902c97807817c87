// Random details on random free forms, repeated: sound, as many as asked, each as large as the first where
// the wall hardly changes; or refused with the reason.

#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/mesh.hpp"
#include "tests/support/alone.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/wound.hpp"

#include <catch2/catch.hpp>

#include <cstdlib>

using namespace gc;
using namespace gc::test;

namespace {

class RandomForms : public Chance {
  public:
    using Chance::Chance;
    Drawing section() {
        const double size = between(24, 34);
        switch (upTo(3)) {
        case 0:
            return circleLine(size);
        case 1:
            return ellipseLine(size, size * between(0.6, 0.95));
        default:
            return roundedLine(size * 2, size * between(1.3, 1.9), size * between(0.25, 0.5));
        }
    }
    Drawing detail() {
        const double size = between(1.5, 3.5);
        const Vec2 at{between(-8, 4), between(16, 30)};
        return upTo(2) == 0 ? circleLine(size, at)
                            : regularLine(3 + static_cast<int>(upTo(4)), size, between(0, 2 * kPi), at);
    }

    struct Asked {
        Part part;
        Slots repeat;
        int count = 0;
        bool adds = false;
    };
    /// A detail on a loft, and how it is repeated.
    Asked asked() {
        std::vector<std::pair<Drawing, double>> sections;
        const int n = 2 + static_cast<int>(upTo(2));
        for (int i = 0; i < n; ++i) sections.emplace_back(section(), i * 50. / (n - 1));
        Part p = lofted(sections);
        add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(detail())}});
        const bool adds = upTo(2) == 0;
        const int detail = add(p, "extrude",
                               {{"length", inMm(adds ? between(36, 39) : 60)},
                                {"begin", std::string(adds ? "the drawing" : "a level at")},
                                {"level", inMm(adds ? 0 : 10)},
                                {"does", std::string(adds ? "adding to" : "taking from")}})
                               .id;
        const bool around = upTo(2) == 0;
        const int count = 3 + static_cast<int>(upTo(5));
        Slots slots{{"what", References{"everything of step " + std::to_string(detail)}},
                    {"count", std::to_string(count)},
                    {"pitch", inMm(between(7, 10))}};
        if (around) slots["way"] = std::string("around");
        if (upTo(3) == 0) slots["stand"] = std::string("parallel");
        if (upTo(3) == 0) {
            slots["alike"] = std::string("changing");
            slots["size"] = std::string("1 + 0.04 * (n - 1)");
            slots["turned"] = std::string("10° * (n - 1)");
        }
        return {p, slots, count, adds};
    }
};

} // namespace

TEST_CASE("Random details on random free forms are repeated soundly, or refused with the reason") {
    RandomForms random(7300 +
                       static_cast<unsigned>(std::getenv("GC_SEED") ? std::atoi(std::getenv("GC_SEED")) : 0));
    const int rounds = std::getenv("GC_DEEP") ? 150 : 8;
    std::map<std::string, int> refused;
    int good = 0, wrong = 0, copies = 0;
    for (int round = 0; round < rounds; ++round) {
        auto [p, slots, count, adds] = random.asked();
        const auto before = Engine().regenerate(p);
        if (!allFine(before)) continue;
        add(p, "repeat", slots);
        const auto [ended, said] = alone([&] {
            const auto r = Engine().regenerate(p);
            if (!r.steps.back().ok) return r.steps.back().error->code;
            const Body& body = r.state.bodies.begin()->second.value;
            const auto m = massProperties(body, Density(1e-3)),
                       was = massProperties(before.state.bodies.begin()->second.value, Density(1e-3));
            const auto mesh = makeMesh(body, {0.02, 0.3, {}});
            const bool sound = m.ok() && mesh && checkBody(body).faults.empty() &&
                               std::fabs(meshVolume(*mesh) - m->volume) < 0.02 * m->area &&
                               openMeshEdges(*mesh) == 0 && (m->volume > was->volume) == adds;
            return std::string(sound ? "good" : "wrong");
        });
        INFO("round " << round << " " << said);
        CHECK(said != "wrong");
        CHECK(ended);
        if (said == "good")
            ++good, copies += count - 1;
        else if (said == "wrong")
            ++wrong;
        else
            refused[ended ? said : "crashed"] += 1;
    }
    std::string list;
    for (const auto& [what, times] : refused) list += "\n  " + what + ": " + std::to_string(times);
    WARN(good << " good with " << copies << " copies, " << wrong << " wrong, refused:" << list);
    CHECK(good > rounds / 2);
}

// Made-up parts, blended at a rim and rounded fully at a lip: each is sound and holds what its mesh holds, or
// says why.

#include "core/document/part_file.hpp"
#include "tests/support/alone.hpp"
#include "tests/support/raw_bodies.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

double between(std::mt19937& random, double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(random);
}
int oneOf(std::mt19937& random, int n) {
    return std::uniform_int_distribution<int>(0, n - 1)(random);
}

/// A closed line of one of three sorts, all round it smooth.
Drawing smoothLine(std::mt19937& random) {
    const double a = between(random, 24, 60), b = between(random, 18, 50);
    switch (oneOf(random, 5)) {
    case 0:
        return circleLine(a / 2);
    case 1:
        return ellipseLine(a / 2, b / 2);
    default:
        return roundedLine(a, b, between(random, 0.2, 0.45) * std::min(a, b));
    }
}

/// An extruded or lofted body: the last step makes its far end.
Part body(std::mt19937& random, std::string& end) {
    if (oneOf(random, 4) == 0) {
        const double r = between(random, 15, 30);
        Part p = lofted(
            {{circleLine(r), 0}, {ellipseLine(r * between(random, 0.7, 1.3), r), between(random, 25, 60)}});
        end = "end of step " + std::to_string(p.steps.back().id);
        return p;
    }
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(smoothLine(random))}});
    Slots slots{{"length", inMm(between(random, 14, 40))}};
    if (oneOf(random, 2)) {
        slots["sides"] = std::string(oneOf(random, 2) ? "leaning inward by" : "leaning outward by");
        slots["lean"] = formatNumber(between(random, 0.5, 8), 4) + "°";
    }
    add(p, "extrude", slots);
    end = "end of step 2";
    return p;
}

/// What comes of the last step of a part.
std::string outcome(const Part& p) {
    const auto r = Engine().regenerate(p);
    for (std::size_t i = 0; i + 1 < r.steps.size(); ++i)
        if (!r.steps[i].ok) return "not begun: " + r.steps[i].kind;
    if (!r.steps.back().ok) return "refused " + r.steps.back().error->code;
    const Body& made = r.state.bodies.rbegin()->second.value;
    const BodyCheck check = checkBody(made);
    if (!check.faults.empty() || check.solids != 1) return "wrong: not sound";
    if (!meshAgrees(made)) return "wrong: the mesh holds another volume";
    return "good";
}

void tell(const char* what, int all, const std::map<std::string, int>& count) {
    std::string list;
    for (const auto& [said, n] : count) list += "\n  " + said + ": " + std::to_string(n);
    WARN(all << " " << what << ":" << list);
}

void tryAll(const char* what, unsigned own, int all, const std::function<Part(std::mt19937&)>& make) {
    auto random = seeded(own);
    std::map<std::string, int> count;
    for (int i = 0; i < all; ++i) {
        const Part p = make(random);
        const auto [ended, said] = alone([&] { return outcome(p); });
        const std::string came = ended ? said : "crashed";
        INFO(i << ": " << came << "\n" << writePart(p));
        CHECK_FALSE(came.starts_with("wrong"));
        ++count[came];
    }
    tell(what, all, count);
    CHECK(10 * count["good"] >= 7 * all);
}

} // namespace

TEST_CASE("Rims of made-up bodies are blended, or it is said why not") {
    tryAll("rims blended", 81, std::getenv("GC_DEEP") ? 200 : 10, [](std::mt19937& random) {
        std::string end;
        Part p = body(random, end);
        add(p, "blend",
            {{"edges", References{"rim of " + end}},
             {"radius", inMm(between(random, 1, 5))},
             {"tension", formatNumber(between(random, 0.7, 1.6), 3)}});
        return p;
    });
}

TEST_CASE("Lips of made-up cups are rounded fully, or it is said why not") {
    tryAll("lips rounded", 82, std::getenv("GC_DEEP") ? 200 : 10, [](std::mt19937& random) {
        std::string end;
        Part p = body(random, end);
        add(p, "shell", {{"open", References{end}}, {"wall", inMm(between(random, 1, 3.5))}});
        add(p, "fillet", {{"how", std::string("fully over")}, {"over", References{"rim of " + end}}});
        return p;
    });
}

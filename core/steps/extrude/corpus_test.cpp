// Random extrudes and turns over random outlines: each is right by its closed form, or refused with the
// reason.

#include "core/base/angles.hpp"
#include "tests/support/built.hpp"
#include "tests/support/random_outline.hpp"
#include "tests/support/seeded.hpp"

#include <map>

using namespace gc;
using namespace gc::test;

namespace {

/// Integrals over a region by Green's theorem with Gauss points on pieces of its curves: area, and the first
/// moment about the y axis.
struct Integrals {
    double area = 0, momentY = 0;
};

void addLoop(const Loop& loop, Integrals& sum) {
    constexpr double at[] = {-.9602898564975363, -.7966664774136267, -.5255324099163290, -.1834346424956498,
                             .1834346424956498,  .5255324099163290,  .7966664774136267,  .9602898564975363};
    constexpr double weight[] = {.1012285362903763, .2223810344533745, .3137066458778873, .3626837833783620,
                                 .3626837833783620, .3137066458778873, .2223810344533745, .1012285362903763};
    constexpr int kPieces = 24;
    for (const Side& s : loop.sides)
        for (int k = 0; k < kPieces; ++k)
            for (int g = 0; g < 8; ++g) {
                const double t = (k + (1 + at[g]) / 2) / kPieces, h = 1e-5;
                const Vec2 p = s.curve.at(t), d = (s.curve.at(t + h) - s.curve.at(t - h)) * (1 / (2 * h));
                const double w = weight[g] / (2 * kPieces);
                sum.area += (p.x * d.y - p.y * d.x) / 2 * w;
                sum.momentY += p.x * p.x / 2 * d.y * w;
            }
}

Integrals integrate(const Region& r) {
    Integrals sum;
    addLoop(r.outer, sum);
    for (const Loop& hole : r.holes) addLoop(hole, sum);
    return sum;
}

Drawing movedBy(Drawing d, Vec2 by) {
    for (auto& p : d.points) p.at = p.at + by;
    return d;
}

struct Tally {
    int good = 0, compared = 0;
    double worst = 0;
    std::map<std::string, int> refused;

    /// \param volume what it has to be; nothing where no closed form says
    void judge(const Part& p, std::optional<double> volume) {
        const auto r = Engine().regenerate(p);
        if (const auto& e = r.steps.back().error) {
            CHECK_FALSE(e->sentence.text().empty());
            ++refused[e->code];
            return;
        }
        const Body& body = r.state.bodies.rbegin()->second.value;
        CHECK(checkBody(body).faults.empty());
        ++good;
        if (!volume) return;
        const double is = volumeOf(r);
        CHECK(is == Approx(*volume).epsilon(1e-6));
        worst = std::max(worst, std::fabs(is / *volume - 1));
        ++compared;
    }
    int refusals() const {
        int n = 0;
        for (const auto& [code, count] : refused) n += count;
        return n;
    }
    std::string told() const {
        std::string s = std::to_string(good) + " good, " + std::to_string(compared) + " compared, worst " +
                        formatNumber(worst, 9);
        for (const auto& [code, count] : refused) s += ", " + code + " " + std::to_string(count);
        return s;
    }
};

} // namespace

TEST_CASE("Random extrudes and turns are right, or refused with the reason") {
    auto random = seeded(41U);
    const auto between = [&](double a, double b) {
        return a + (b - a) * std::uniform_real_distribution<>()(random);
    };
    const auto mm = [](double v) { return formatNumber(v, 6) + " mm"; };
    Tally tally;
    const int wanted = std::getenv("GC_DEEP") ? 1000 : 40;
    for (int round = 0; round < wanted;) {
        Drawing d = randomOutline(random);
        const bool turns = random() % 2;
        if (turns) d = movedBy(std::move(d), {between(30, 60), 0}); // beside the axis
        const auto closed = findRegions(d);
        const bool sensible = closed.troubles.empty() && !closed.regions.empty() &&
                              std::count_if(closed.regions.begin(), closed.regions.end(),
                                            [](const Region& r) { return r.depth == 0; }) == 1;
        if (!sensible) continue; // a hole that leaves its outline, an outline that crosses itself
        ++round;
        INFO("round " << round);
        const Integrals i = integrate(closed.regions.front());
        Part p;
        add(p, "draw",
            {{"name", std::string("outline")},
             {"plane", std::string(turns ? "front" : "ground")},
             {"drawing", DrawingSlot(d)}});
        const char* ways[] = {"forward", "backward", "both ways together", "forward, and back by"};
        const std::string way = ways[random() % 4];
        Slots s{{"outline", std::string("outline")}, {"does", std::string("as new body")}, {"way", way}};
        std::optional<double> volume;
        if (turns) {
            const double angle = random() % 4 == 0 ? 360 : between(2, 300), second = between(1, 50);
            s["angle"] = formatNumber(angle, 6) + "°";
            s["second"] = formatNumber(second, 6) + "°";
            const bool back = way == "forward, and back by" && angle < 360;
            volume = i.momentY * (angle + (back ? second : 0)) * kPi / 180;
            add(p, "revolve", s);
        } else {
            const double length = between(0.5, 60), second = between(0.5, 30);
            s["length"] = mm(length);
            s["second"] = mm(second);
            volume = i.area * (length + (way == "forward, and back by" ? second : 0));
            const unsigned what = random() % 4;
            if (what == 0) { // leaning a little; its volume is another test's
                s["sides"] = std::string(random() % 2 ? "leaning inward by" : "leaning outward by");
                s["lean"] = formatNumber(between(0.2, 3), 6) + "°";
                volume.reset();
            } else if (what == 1 && closed.regions.front().holes.empty()) { // a wall along its border
                s["fill"] = std::string("as a wall of");
                s["thickness"] = mm(between(0.3, 1.2));
                s["wall side"] = std::string(random() % 2 ? "inside" : "on both sides");
                volume.reset();
            }
            add(p, "extrude", s);
        }
        tally.judge(p, volume);
    }
    WARN(tally.told());
    CHECK(tally.good >= 0.98 * wanted - 1);
}

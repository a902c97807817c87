// RandomPaths sections along random paths: each is right by Pappus' rule, closed, wound once, and drawn
// within bounds; or refused with the place.

#include "tests/support/afterwards.hpp"
#include "tests/support/swept.hpp"

#include <catch2/catch.hpp>

#include <cstdlib>

using namespace gc;
using namespace gc::test;

namespace {

class RandomPaths : public Chance {
  public:
    /// \param times how large the paths are
    explicit RandomPaths(unsigned seed, double times = 1) : Chance(seed), m_times(times) {}

    /// Lines and arcs that go on smoothly.
    Drawing smoothChain() {
        Drawing d;
        Vec2 at{0, 0};
        double heading = kPi / 2;
        const auto ahead = [&] { return Vec2{std::cos(heading), std::sin(heading)}; };
        for (unsigned k = 0, n = 2 + upTo(3); k < n; ++k) {
            const Vec2 next = at + ahead() * along(6, 20);
            d.draw(StrokeKind::Line, {at, next});
            const double radius = along(4, 14), turn = between(0.4, 1.6) * (upTo(2) ? 1 : -1);
            const Vec2 centre = next + leftOf(ahead()) * (turn > 0 ? radius : -radius);
            const Vec2 half = centre + turnedBy(next - centre, turn / 2),
                       end = centre + turnedBy(next - centre, turn);
            drawArcThrough(d, next, half, end);
            at = end;
            heading += turn;
        }
        return d;
    }
    Drawing spline() {
        Drawing d;
        std::vector<Vec2> poles;
        Vec2 at{0, 0};
        double heading = kPi / 2;
        for (int k = 0; k < 7; ++k) {
            poles.push_back(at);
            at = at + Vec2{std::cos(heading), std::sin(heading)} * along(6, 14);
            heading += between(-0.9, 0.9);
        }
        d.draw(StrokeKind::Poles, poles);
        return d;
    }
    Drawing cornered() {
        Drawing d;
        Vec2 at{0, 0};
        double heading = kPi / 2;
        for (unsigned k = 0, n = 2 + upTo(3); k < n; ++k) {
            const Vec2 next = at + Vec2{std::cos(heading), std::sin(heading)} * along(12, 30);
            d.draw(StrokeKind::Line, {at, next});
            at = next;
            heading += between(0.2, 1.9) * (upTo(2) ? 1 : -1);
        }
        return d;
    }
    Drawing ring() {
        Drawing d;
        d.draw(StrokeKind::Ellipse, {{0, 0}, {along(20, 35), 0}}, {along(14, 19)});
        return d;
    }
    /// Symmetric about its origin, now and then larger than some bends allow. \param area of it, mm²
    Drawing section(double& area) {
        Drawing d;
        const double large = upTo(6) == 0 ? between(1.5, 3) : 1;
        const unsigned kind = upTo(4);
        if (kind == 0) {
            const double r = between(0.8, 4) * large;
            d.draw(StrokeKind::Circle, {{0, 0}}, {r});
            area = kPi * r * r;
        } else if (kind == 1) {
            const double a = between(0.8, 4) * large, b = between(0.8, 3) * large;
            d = rectangle({-a, -b}, {a, b});
            area = 4 * a * b;
        } else if (kind == 2) { // a slot
            const double r = between(0.6, 2) * large, l = between(1, 3) * large;
            d.draw(StrokeKind::Line, {{-l, -r}, {l, -r}});
            drawArcThrough(d, {l, -r}, {l + r, 0}, {l, r});
            d.draw(StrokeKind::Line, {{l, r}, {-l, r}});
            drawArcThrough(d, {-l, r}, {-l - r, 0}, {-l, -r});
            area = 4 * l * r + kPi * r * r;
        } else { // a hose
            const double r = between(1.5, 4) * large, in = between(0.5, 0.8) * r;
            d.draw(StrokeKind::Circle, {{0, 0}}, {r});
            d.draw(StrokeKind::Circle, {{0, 0}}, {in});
            area = kPi * (r * r - in * in);
        }
        return d;
    }
    /// A path of some kind. \param kind 0 to 9
    Drawing path(unsigned kind) {
        return kind < 3 ? smoothChain() : kind < 7 ? spline() : kind < 9 ? cornered() : ring();
    }
    /// What has room for a wall.
    Drawing largeSection() {
        const unsigned kind = upTo(4);
        const double a = between(5, 9), b = between(0.5, 1) * a;
        return kind == 0   ? circleLine(a)
               : kind == 1 ? rectangle({-a, -b}, {a, b})
               : kind == 2 ? roundedLine(2 * a, 2 * b, between(0.15, 0.45) * 2 * b)
                           : ellipseLine(a, b);
    }

  private:
    double along(double low, double high) { return m_times * between(low, high); }
    double m_times;
};

} // namespace

TEST_CASE("RandomPaths sweeps are right by Pappus' rule and wound once, or refused with the place") {
    RandomPaths random(77u +
                       static_cast<unsigned>(std::getenv("GC_SEED") ? std::atoi(std::getenv("GC_SEED")) : 0));
    const int rounds = std::getenv("GC_DEEP") ? 500 : 32;
    std::map<std::string, int> refused;
    int good = 0, wrong = 0;
    double worst = 0;
    for (int round = 0; round < rounds; ++round) {
        const unsigned kind = random.upTo(10);
        const Drawing path = random.path(kind);
        double area = 0;
        const Drawing section = random.section(area);
        Slots slots{
            {"outline", std::string("section")},
            {"path", References{"chain of stroke " + std::to_string(path.strokes[0].id) + " of step 1"}}};
        double size = 1;
        const unsigned change = kind < 7 ? random.upTo(5) : 0;
        if (change == 1 || change == 2) {
            slots["change"] = std::string(change == 1 ? "turning by" : "growing to");
            size = change == 2 ? random.between(0.4, 1.4) : 1;
            slots["turn"] = formatNumber(random.between(-200, 200), 6) + "°";
            slots["size"] = formatNumber(size, 12);
        }
        Part p;
        add(p, "draw", {{"name", std::string("way")}, {"drawing", DrawingSlot(path)}});
        add(p, "draw",
            {{"name", std::string("section")},
             {"plane", std::string(random.upTo(2) ? "ground" : "side")},
             {"drawing", DrawingSlot(section)}});
        add(p, "sweep", slots);
        INFO("round " << round << " kind " << kind << " change " << change);
        const auto r = Engine().regenerate(p);
        const auto& report = r.steps.back();
        if (!report.ok) {
            refused[report.error->code] += 1;
            CHECK((report.error->place || report.error->code == "sweep.uneven"));
            continue;
        }
        const double wanted = area * lengthOf(path) * (1 + size + size * size) / 3;
        const Body& body = r.state.bodies.rbegin()->second.value;
        const double off = std::fabs(volumeOf(r) / wanted - 1);
        constexpr double kDeviation = 0.02;
        const auto mass = massProperties(body, Density(1e-3));
        const auto [volume, twice] = meshOf(body, kDeviation);
        const double bound = kDeviation * mass->area;
        worst = std::max(worst, off);
        CHECK(off < 2e-6);
        CHECK(std::fabs(volume - wanted) < bound);
        CHECK(twice < 0.2 * bound);
        (off < 2e-6 && std::fabs(volume - wanted) < bound && twice < 0.2 * bound ? good : wrong) += 1;
    }
    WARN(good << " right, " << wrong << " wrong, worst " << worst << ", refused:" << listed(refused));
    CHECK(wrong == 0);
    CHECK(good > rounds / 2);
}

TEST_CASE("What is made of sweeps afterwards: a shell, a round at the rim, a hole") {
    RandomPaths random(
        177u + static_cast<unsigned>(std::getenv("GC_SEED") ? std::atoi(std::getenv("GC_SEED")) : 0), 3);
    const int rounds = std::getenv("GC_DEEP") ? 67 : 4;
    Afterwards afterwards;
    for (int round = 0; round < rounds; ++round) {
        const unsigned kind = random.upTo(9); // with two ends
        const Drawing path = random.path(kind), section = random.largeSection();
        Slots slots;
        const unsigned change = kind < 7 ? random.upTo(5) : 0;
        if (change == 1 || change == 2) {
            slots["change"] = std::string(change == 1 ? "turning by" : "growing to");
            slots["turn"] = formatNumber(random.between(-200, 200), 6) + "°";
            slots["size"] = formatNumber(random.between(0.7, 1.4), 12);
        }
        const Part p = swept(path, section, slots);
        if (!allFine(Engine().regenerate(p))) continue;
        INFO("round " << round);
        afterwards.shellAndRound(p, p.steps.back().id);
        afterwards.hole(p, curvesOf(path, path.strokes[0])[0].at(0.4));
    }
    WARN(afterwards.told());
    CHECK(afterwards.good() > afterwards.tried() * 3 / 4);
}

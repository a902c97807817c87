// RandomSections sections, lofted: each is met, closed, wound once, and as large as its mesh says; or refused
// with the reason. What is made of those that pass afterwards: shelled, rounded at a rim, cut by a hole.

#include "core/shape/places.hpp"
#include "tests/support/afterwards.hpp"

#include <catch2/catch.hpp>

#include <cstdlib>

using namespace gc;
using namespace gc::test;

namespace {

class RandomSections : public Chance {
  public:
    using Chance::Chance;

    Drawing section() {
        const Vec2 at{between(-6, 6), between(-6, 6)};
        const double size = between(8, 24);
        switch (upTo(6)) {
        case 0:
            return circleLine(size, at);
        case 1:
            return ellipseLine(size, size * between(0.4, 0.95));
        case 2:
            return regularLine(3 + static_cast<int>(upTo(6)), size, between(0, 2 * kPi), at);
        case 3:
            return roundedLine(size * 2, size * between(1, 1.9), size * between(0.1, 0.4));
        case 4: { // star-like
            std::vector<Vec2> corners;
            const int n = 4 + static_cast<int>(upTo(6));
            const double turned = between(0, 2 * kPi);
            for (int i = 0; i < n; ++i)
                corners.push_back(at + turnedBy({size * between(0.6, 1.1), 0}, turned + 2 * kPi * i / n));
            return closedLine(corners);
        }
        default: { // half of an oval, closed by a line
            Drawing d;
            d.draw(StrokeKind::Line, {{-size, 0}, {size, 0}});
            drawArcThrough(d, {size, 0}, {0, size * between(0.4, 1)}, {-size, 0});
            return d;
        }
        }
    }
};

struct Made {
    Part part;
    std::vector<std::pair<Drawing, double>> sections;
    double least = 1e300; ///< size of the smallest section
};

/// As they are drawn for boxes, cups and handles: rounded rectangles, most of all, one above the other.
void addPlain(RandomSections& random, Part& part) {
    References refs;
    const double size = random.between(24, 60);
    double level = 0;
    for (unsigned left = 2 + random.upTo(2); left > 0; --left) {
        const double w = size * random.between(0.6, 1.2), h = w * random.between(0.45, 1);
        const unsigned kind = random.upTo(6);
        refs.push_back(addSection(part,
                                  kind == 0   ? circleLine(w / 2)
                                  : kind == 1 ? ellipseLine(w / 2, h / 2)
                                              : roundedLine(w, h, std::min(random.between(0.5, 6), 0.45 * h)),
                                  level));
        level += random.between(12, 50);
    }
    Slots slots{{"sections", refs}};
    if (random.upTo(3) == 0) slots["way"] = std::string("straight");
    if (random.upTo(3) == 0) slots["leave"] = std::string("squarely");
    if (random.upTo(3) == 0) slots["arrive"] = std::string("squarely");
    add(part, "loft", slots);
}

Made randomLoft(RandomSections& random) {
    Made out;
    References refs;
    const int n = 2 + static_cast<int>(random.upTo(3));
    double level = 0;
    for (int i = 0; i < n; ++i) {
        const Drawing d = random.section();
        out.sections.emplace_back(d, level);
        refs.push_back(addSection(out.part, d, level));
        level += random.between(12, 40);
    }
    Slots slots{{"sections", refs}};
    if (random.upTo(3) == 0) slots["way"] = std::string("straight");
    if (random.upTo(3) == 0) slots["leave"] = std::string("squarely");
    if (random.upTo(3) == 0) slots["arrive"] = std::string("squarely");
    slots["leave strength"] = formatNumber(random.between(0.3, 1.5), 3);
    if (random.upTo(6) == 0) {
        slots["fill"] = std::string("as a wall of");
        slots["thickness"] = formatNumber(random.between(0.5, 2), 3) + " mm";
    }
    add(out.part, "loft", slots);
    return out;
}

double offSections(const Body& body, const Made& made) {
    std::vector<int> faces;
    for (int f = 0; f < faceCount(body); ++f) faces.push_back(f);
    double worst = 0;
    for (const auto& [d, level] : made.sections)
        for (const Stroke& s : d.strokes)
            for (const Curve2& c : curvesOf(d, s))
                for (int i = 0; i < 5; ++i) {
                    const Vec2 q = c.at((i + 0.3) / 5);
                    const auto near = nearestOnFaces(body, faces, {q.x, q.y, level});
                    worst = std::max(worst, near ? length(near->at - Vec3{q.x, q.y, level}) : 1e9);
                }
    return worst;
}

unsigned seeded(unsigned base) {
    return base + static_cast<unsigned>(std::getenv("GC_SEED") ? std::atoi(std::getenv("GC_SEED")) : 0);
}

} // namespace

TEST_CASE("RandomSections lofts meet their sections and are wound once, or are refused with the reason") {
    RandomSections random(seeded(4001));
    const int rounds = std::getenv("GC_DEEP") ? 500 : 16;
    std::map<std::string, int> refused;
    int good = 0, wrong = 0;
    double worst = 0;
    for (int round = 0; round < rounds; ++round) {
        const Made made = randomLoft(random);
        INFO("round " << round);
        const auto r = Engine().regenerate(made.part);
        const auto& report = r.steps.back();
        if (!report.ok) {
            refused[report.error->code] += 1;
            INFO(report.error->code << " " << report.error->sentence.text());
            CHECK((report.error->place || report.error->code.starts_with("wall.") ||
                   report.error->code == "loft.wall"));
            continue;
        }
        constexpr double kDeviation = 0.02;
        const Body& body = lastBody(r);
        const auto mass = massProperties(body, Density(1e-3));
        REQUIRE(mass.ok());
        const auto [volume, twice] = meshOf(body, kDeviation);
        const double bound = kDeviation * mass->area, off = offSections(body, made);
        worst = std::max(worst, off);
        const bool sound = off < 1e-3 && std::fabs(volume - mass->volume) < bound && twice < 0.2 * bound &&
                           checkBody(body).valid;
        INFO("off " << off << ", volume " << mass->volume << " mesh " << volume << ", twice " << twice
                    << " of " << bound);
        CHECK(sound);
        (sound ? good : wrong) += 1;
    }
    WARN(good << " right, " << wrong << " wrong, worst " << worst
              << " mm off a section, refused:" << listed(refused));
    CHECK(wrong == 0);
    CHECK(good > rounds * 9 / 10);
}

TEST_CASE("What is made of lofts afterwards: a shell, a round at the rim, a hole") {
    RandomSections random(seeded(9001));
    const int rounds = std::getenv("GC_DEEP") ? 67 : 2;
    Afterwards afterwards;
    for (int round = 0; round < rounds; ++round) {
        Made made = randomLoft(random);
        made.part.steps.back().slots["fill"] = std::string("filled");
        if (!allFine(Engine().regenerate(made.part))) continue;
        INFO("round " << round);
        afterwards.shellAndRound(made.part, made.part.steps.back().id);
        afterwards.hole(made.part, {});
    }
    WARN(afterwards.told());
    CHECK(afterwards.good() > afterwards.tried() / 2);
}

TEST_CASE("Plain lofts, hollow, with rounds that are wider and tighter than the wall") {
    RandomSections random(seeded(9101));
    const int rounds = std::getenv("GC_DEEP") ? 200 : 3;
    Afterwards afterwards;
    for (int round = 0; round < rounds; ++round) {
        Part part;
        addPlain(random, part);
        const std::string wall = formatNumber(random.between(1, 3), 1) + " mm";
        const std::string open = random.upTo(2) == 0 ? "start" : "end";
        if (!allFine(Engine().regenerate(part))) continue;
        INFO("round " << round << ", wall " << wall);
        afterwards.attempt(part, "shell", [&](Part& p) {
            add(p, "shell",
                {{"open", References{open + " of step " + std::to_string(p.steps.back().id)}},
                 {"wall", wall}});
        });
    }
    WARN(afterwards.told());
    CHECK(afterwards.good() > afterwards.tried() * 4 / 5);
}

// Random pairs of bodies, many of them in the positions in which booleans go wrong: faces in one plane, walls
// that touch or nearly do, a body in itself a little shifted or turned.

#include "tests/support/built.hpp"
#include "tests/support/random_outline.hpp"

#include <catch2/catch.hpp>

#include <cstdlib>

using namespace gc;
using namespace gc::test;

namespace {

class Pairs {
  public:
    explicit Pairs(unsigned seed) : m_random(seed) {}

    /// Two bodies, "a" and "b", and in what position.
    Part next() {
        Part p;
        const unsigned likeness = m_random() % 10;
        const unsigned seed = m_random();
        m_position = position(likeness);
        addBody(p, "a", seed);
        // In these positions b is a again.
        addBody(p, "b", likeness >= 7 ? seed : static_cast<unsigned>(m_random()));
        place(p, likeness);
        return p;
    }
    const std::string& said() const { return m_position; }

  private:
    std::mt19937 m_random;
    std::string m_position;

    double between(double a, double b) { return a + (b - a) * std::uniform_real_distribution<>()(m_random); }

    static std::string position(unsigned k) {
        const char* all[] = {"anyhow",          "anyhow",      "flush below",   "on top",
                             "nearly on top",   "beside",      "nearly beside", "shifted a little",
                             "turned a little", "a step aside"};
        return all[k];
    }

    static void addBody(Part& p, const std::string& name, unsigned seed) {
        std::mt19937 random(seed);
        const auto in = [&](double a, double b) {
            return a + (b - a) * std::uniform_real_distribution<>()(random);
        };
        const unsigned kind = random() % 4;
        Drawing d =
            kind == 0 ? rectangle({-in(8, 20), -in(8, 20)}, {in(8, 20), in(8, 20)}) : randomOutline(random);
        if (kind == 1) {
            d = Drawing();
            d.draw(StrokeKind::Circle, {{in(-3, 3), in(-3, 3)}}, {in(8, 20)});
        }
        add(p, "draw",
            {{"name", "foot of " + name}, {"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
        Slots s{{"outline", "foot of " + name},
                {"does", std::string("as new body")},
                {"body", name},
                {"length", formatNumber(std::round(in(6, 25))) + " mm"}};
        if (random() % 2) {
            s["sides"] = std::string("leaning inward by");
            s["lean"] = formatNumber(in(0.5, 5)) + "°";
        }
        add(p, "extrude", s);
    }

    void place(Part& p, unsigned likeness) {
        const auto shift = [&](double x, double y, double z) {
            add(p, "move",
                {{"body", std::string("b")},
                 {"right", formatNumber(x, 9) + " mm"},
                 {"back", formatNumber(y, 9) + " mm"},
                 {"up", formatNumber(z, 9) + " mm"}});
        };
        const auto turn = [&](double degrees, const char* about) {
            add(p, "move",
                {{"body", std::string("b")},
                 {"way", std::string("about")},
                 {"line", std::string(about)},
                 {"angle", formatNumber(degrees, 9) + "°"}});
        };
        const double little = std::pow(10, between(-4, -2)) * (m_random() % 2 ? 1 : -1);
        const double tall = std::atof(p.steps[1].text("length").c_str());
        switch (likeness) {
        case 0:
        case 1:
            turn(between(5, 85), "cross axis");
            shift(between(-15, 15), between(-15, 15), between(-10, 10));
            break;
        case 2:
            shift(between(-15, 15), between(-15, 15), 0);
            break;
        case 3:
            shift(between(-8, 8), between(-8, 8), tall);
            break;
        case 4:
            shift(between(-8, 8), between(-8, 8), tall + little);
            break;
        case 5:
        case 6: {
            const auto r = Engine().regenerate(p);
            if (!allFine(r)) return;
            shift(envelope(r.state.body("a")).high.x - envelope(r.state.body("b")).low.x +
                      (likeness == 6 ? little : 0),
                  0, between(-3, 3));
            break;
        }
        case 7:
            shift(little, little / 2, 0);
            break;
        case 8:
            turn(between(0.05, 2), "upright axis");
            break;
        default:
            shift(between(1, 8), 0, 0);
            break;
        }
    }
};

} // namespace

TEST_CASE(
    "Random pairs: joined and common volumes add up to those of the two, or it is refused with the reason") {
    Pairs pairs(31u + static_cast<unsigned>(std::getenv("GC_SEED") ? std::atoi(std::getenv("GC_SEED")) : 0));
    const int rounds = std::getenv("GC_DEEP") ? 500 : 24;
    std::map<std::string, int> refused;
    int good = 0, apart = 0, wrong = 0, skipped = 0;
    double worst = 0;
    for (int round = 0; round < rounds; ++round) {
        Part p = pairs.next();
        INFO("round " << round << ": " << pairs.said());
        const auto two = Engine().regenerate(p);
        if (!allFine(two) || two.state.bodies.size() != 2) { // the outline or its lean cannot be
            ++skipped;
            continue;
        }
        const double a = volumeOf(two, "a"), b = volumeOf(two, "b");
        const auto result = [&](const char* how) {
            Part q = p;
            add(q, "combine",
                {{"body", std::string("a")}, {"how", std::string(how)}, {"tool", std::string("b")}});
            return Engine().regenerate(q);
        };
        const auto joined = result("joined with"), common = result("where it meets");
        const auto code = [](const RegenResult& r) {
            return r.steps.back().error ? r.steps.back().error->code : std::string();
        };
        if (!code(joined).empty() && !code(common).empty()) {
            const bool nothing = code(common) == "combine.apart";
            (nothing ? apart : refused[code(joined) + " / " + code(common)]) += 1;
            continue;
        }
        if (!code(joined).empty() || !code(common).empty()) {
            // What only touches has nothing in common; what has must be joined.
            if (code(common) == "combine.apart") {
                const double off = std::fabs(volumeOf(joined, "a") / (a + b) - 1);
                CHECK(off < 1e-6);
                (off < 1e-6 ? good : wrong) += 1;
            } else
                refused["joined: " + code(joined) + ", common: " + code(common)] += 1;
            continue;
        }
        const double off = std::fabs((volumeOf(joined, "a") + volumeOf(common, "a")) / (a + b) - 1);
        worst = std::max(worst, off);
        CHECK(off < 1e-6);
        (off < 1e-6 ? good : wrong) += 1;
    }
    std::string list;
    for (const auto& [what, count] : refused) list += "\n  " + what + ": " + std::to_string(count);
    WARN(good << " right, " << apart << " apart, " << wrong << " wrong, " << skipped << " not made, worst "
              << worst << ", refused:" << list);
    CHECK(wrong == 0);
    CHECK(good > rounds / 3);
}

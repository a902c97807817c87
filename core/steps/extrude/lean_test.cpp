// Extrudes whose sides lean, against closed forms and against plane integration.

#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/sketch/curve2.hpp"
#include "core/sketch/region.hpp"
#include "tests/support/built.hpp"
#include "tests/support/random_outline.hpp"

#include <catch2/catch.hpp>

#include <cstdlib>
#include <random>

using namespace gc;
using namespace gc::test;

namespace {

double rad(double degrees) {
    return degrees * kPi / 180;
}

Slots leaning(double degrees, double height) {
    return {{"length", formatNumber(height, 9) + " mm"},
            {"sides", std::string(degrees < 0 ? "leaning outward by" : "leaning inward by")},
            {"lean", formatNumber(std::fabs(degrees), 9) + "°"}};
}

Part extruded(const Drawing& d, const Slots& slots, const std::string& plane = "ground") {
    Part p;
    add(p, "draw", {{"plane", plane}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude", slots);
    return p;
}

MassProperties massOf(const Part& p) {
    const auto r = built(p);
    const auto m = massProperties(r.state.bodies.rbegin()->second.value, Density(1e-3));
    REQUIRE(m.ok());
    return *m;
}

void polygon(Drawing& d, const std::vector<Vec2>& corners) {
    for (std::size_t i = 0; i < corners.size(); ++i)
        d.draw(StrokeKind::Line, {corners[i], corners[(i + 1) % corners.size()]});
}

/// Half as wide as a, half as high as b, its corners rounded.
void rounded(Drawing& d, Vec2 at, double a, double b, double r) {
    const auto line = [&](Vec2 p, Vec2 q) { d.draw(StrokeKind::Line, {at + p, at + q}); };
    const auto arc = [&](Vec2 c, Vec2 p, Vec2 q) { d.draw(StrokeKind::Arc, {at + p, at + q, at + c}, {r}); };
    line({-a + r, -b}, {a - r, -b});
    arc({a - r, -b + r}, {a - r, -b}, {a, -b + r});
    line({a, -b + r}, {a, b - r});
    arc({a - r, b - r}, {a, b - r}, {a - r, b});
    line({a - r, b}, {-a + r, b});
    arc({-a + r, b - r}, {-a + r, b}, {-a, b - r});
    line({-a, b - r}, {-a, -b + r});
    arc({-a + r, -b + r}, {-a, -b + r}, {-a + r, -b});
}

/// Of a drawing without vanishing sides: area A, length L of its outline, and K: the sum of tan(turn / 2)
/// over its corners and turn / 2 over its rounds, both positive to the left. Moved inward by q the area is A
/// - L q + K q², the length L - 2 K q.
struct Outlined {
    std::string name;
    Drawing drawing;
    double area = 0, length = 0, k = 0;
    double volume(double degrees, double h) const {
        const double t = std::tan(rad(degrees));
        return area * h - length * t * h * h / 2 + k * t * t * h * h * h / 3;
    }
    double surface(double degrees, double h) const {
        const double t = std::tan(rad(degrees)), q = t * h;
        return 2 * area - length * q + k * q * q + (length * h - k * t * h * h) / std::cos(rad(degrees));
    }
};

std::vector<Outlined> outlines() {
    std::vector<Outlined> out;
    const auto add = [&](const std::string& name, double area, double length, double k, auto draw) {
        out.push_back({name, {}, area, length, k});
        draw(out.back().drawing);
    };
    add("square", 400, 80, 4, [](Drawing& d) { polygon(d, {{-10, -10}, {10, -10}, {10, 10}, {-10, 10}}); });
    // Turned by 90° and by pi less atan(3/4) and atan(4/3): tangents of the halves are 1, 3 and 2.
    add("triangle", 150, 60, 6, [](Drawing& d) { polygon(d, {{0, 0}, {20, 0}, {0, 15}}); });
    add("rounded", 40 * 24 - (4 - kPi) * 25, 2 * 64 - 40 + 10 * kPi, kPi, [](Drawing& d) {
        rounded(d, {3, -2}, 20, 12, 5);
    });
    add("disc", 100 * kPi, 20 * kPi, kPi, [](Drawing& d) { d.draw(StrokeKind::Circle, {{4, 5}}, {10}); });
    add("ring", 87.75 * kPi, 27 * kPi, 0, [](Drawing& d) {
        d.draw(StrokeKind::Circle, {{0, 0}}, {10});
        d.draw(StrokeKind::Circle, {{1, 0}}, {3.5});
    });
    add("ell", 576, 120, 4, [](Drawing& d) {
        polygon(d, {{0, 0}, {30, 0}, {30, 12}, {12, 12}, {12, 30}, {0, 30}});
    });
    add("plate with a window", 1600 - 144 + (4 - kPi) * 16, 160 + 16 + 8 * kPi, 4 - kPi, [](Drawing& d) {
        polygon(d, {{-20, -20}, {20, -20}, {20, 20}, {-20, 20}});
        rounded(d, {0, 0}, 6, 6, 4);
    });
    return out;
}

} // namespace

TEST_CASE("Sides that lean inward and outward: volume and surface are those of the closed forms") {
    int cases = 0;
    for (const Outlined& o : outlines())
        for (const double degrees : {-12.0, -3.0, 0.0, 1.5, 5.0, 10.0})
            for (const char* plane : {"ground", "front"}) {
                if (plane == std::string("front") && degrees != 5) continue;
                INFO(o.name << " leaning by " << degrees << "° on the plane " << plane);
                const auto m = massOf(extruded(o.drawing, leaning(degrees, 15), plane));
                CHECK(m.volume == Approx(o.volume(degrees, 15)).epsilon(1e-9));
                CHECK(m.area == Approx(o.surface(degrees, 15)).epsilon(1e-9));
                ++cases;
            }
    CHECK(cases >= 49);
}

TEST_CASE("Rounds that vanish on the way leave sharp corners above; the last face keeps its name") {
    Drawing d;
    rounded(d, {0, 0}, 20, 12, 2);
    const double t = std::tan(rad(5)), gone = 2 / t, h = 30;
    const auto rest = [&](double z) { return (40 - 2 * z * t) * (24 - 2 * z * t); };
    const auto frustum = [&](double z0, double z1) {
        return (z1 - z0) / 6 * (rest(z0) + 4 * rest((z0 + z1) / 2) + rest(z1));
    };
    // Below it the four corners lack (4 - pi) r² with r = 2 - z t.
    const double lacks = (4 - kPi) * 4 * gone / 3;
    const auto r = built(extruded(d, leaning(5, h)));
    CHECK(volumeOf(r) == Approx(frustum(0, h) - lacks).epsilon(1e-9));
    CHECK(faceCount(r.state.body("body")) == 10);
}

TEST_CASE("Both ways: another lean behind the drawing, the same, or none") {
    for (const Outlined& o : outlines()) {
        INFO(o.name);
        Slots s = leaning(4, 9);
        s["way"] = std::string("forward, and back by");
        s["second"] = std::string("6 mm");
        CHECK(massOf(extruded(o.drawing, s)).volume == Approx(o.volume(4, 9) + o.volume(4, 6)).epsilon(1e-9));
        s["back sides"] = std::string("outward by");
        s["back lean"] = std::string("7°");
        const auto m = massOf(extruded(o.drawing, s));
        CHECK(m.volume == Approx(o.volume(4, 9) + o.volume(-7, 6)).epsilon(1e-9));
        CHECK(m.area == Approx(o.surface(4, 9) + o.surface(-7, 6) - 2 * o.area).epsilon(1e-9));
        s["back sides"] = std::string("not at all");
        CHECK(massOf(extruded(o.drawing, s)).volume == Approx(o.volume(4, 9) + o.area * 6).epsilon(1e-9));
        s["way"] = std::string("both ways together");
        s["back sides"] = std::string("as much");
        const auto r = built(extruded(o.drawing, s));
        CHECK(volumeOf(r) == Approx(2 * o.volume(4, 4.5)).epsilon(1e-9));
        const Box box = envelope(r.state.body("body"));
        CHECK(box.low.z == Approx(-4.5).margin(1e-6));
        CHECK(box.high.z == Approx(4.5).margin(1e-6));
    }
    // Faces behind the drawing have names of their own, and are called by their strokes.
    Slots s = leaning(4, 9);
    s["way"] = std::string("both ways together");
    const Part p = extruded(outlines()[2].drawing, s);
    const auto r = built(p);
    const std::string side = "side " + std::to_string(p.steps[0].drawing("drawing").strokes[0].id) +
                             " of step 2",
                      back = "back " + side;
    CHECK(resolveFaces(r.state.body("body"), **parseFaceRef(side))->items.size() == 1);
    CHECK(resolveFaces(r.state.body("body"), **parseFaceRef(back))->items.size() == 1);
    CHECK(referenceInWords(back, p).find("back of line") != std::string::npos);
}

TEST_CASE("What leans ends at faces, adds and takes like any other") {
    // A hole with 3° of lean through a plate 8 thick; a rib that leans, up to the plate above it.
    Part p = extruded(outlines()[0].drawing, {{"length", std::string("8 mm")}});
    Drawing disc;
    disc.draw(StrokeKind::Circle, {{0, 0}}, {5});
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(disc)}});
    Slots through = leaning(3, 1);
    through["end"] = std::string("to the far side");
    through["does"] = std::string("taking from");
    add(p, "extrude", through);
    const double r1 = 5 - 8 * std::tan(rad(3));
    CHECK(volumeOf(built(p)) == Approx(400 * 8 - kPi * 8 / 3 * (25 + 5 * r1 + r1 * r1)).epsilon(1e-8));
    // Up to the underside of a roof that is 12 above: the pin is as high, however far its cone would go.
    Part q = extruded(outlines()[0].drawing, {{"begin", std::string("a level at")},
                                              {"level", std::string("12 mm")},
                                              {"length", std::string("4 mm")}});
    add(q, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(disc)}});
    Slots up = leaning(20, 1); // its cone's apex is at 13.7
    up["end"] = std::string("to the next wall");
    up["does"] = std::string("adding to");
    add(q, "extrude", up);
    const double r2 = 5 - 12 * std::tan(rad(20));
    CHECK(volumeOf(built(q)) == Approx(400 * 4 + kPi * 12 / 3 * (25 + 5 * r2 + r2 * r2)).epsilon(1e-7));
    // Steeper, and it closes up before it gets there: said with what would do.
    q.steps.back().slots["lean"] = std::string("24°");
    const Error why = faultOf(q);
    CHECK(why.code == "lean.height");
    CHECK(why.sentence.text().find("11.23 mm") != std::string::npos);
}

TEST_CASE("A lean that cannot be says how high it gets and how much would do") {
    const auto why = [](const Drawing& d, double degrees, double h) {
        return faultOf(extruded(d, leaning(degrees, h))).sentence.text();
    };
    const auto all = outlines();
    INFO(why(all[0].drawing, 45, 12));
    CHECK(why(all[0].drawing, 45, 12).find("closes up 10 mm") != std::string::npos);
    CHECK(why(all[0].drawing, 45, 12).find("39.8") != std::string::npos); // atan(10 / 12) = 39.806°
    CHECK(why(all[4].drawing, 30, 9).find("runs into itself") != std::string::npos);
}

namespace {

/// Where one chain cuts another.
struct Cut {
    double onFirst = 0, onSecond = 0;
    Vec2 at;
};
std::optional<Cut> meet(const std::vector<Vec2>& a, const std::vector<Vec2>& b, Vec2 near) {
    std::optional<Cut> best;
    for (std::size_t i = 0; i + 1 < a.size(); ++i) {
        if (length(a[i] - near) > 12) continue;
        for (std::size_t j = 0; j + 1 < b.size(); ++j) {
            const Vec2 u = a[i + 1] - a[i], v = b[j + 1] - b[j], w = b[j] - a[i];
            if (length(w) > length(u) + length(v) + 1e-9) continue;
            const double det = cross(u, v);
            if (std::fabs(det) < 1e-15) continue;
            const double s = cross(w, v) / det, t = cross(w, u) / det;
            if (s < 0 || s > 1 || t < 0 || t > 1) continue;
            const Vec2 at = a[i] + u * s;
            if (!best || length(at - near) < length(best->at - near))
                best = Cut{double(i) + s, double(j) + t, at};
        }
    }
    return best;
}

/// Area of an outline whose sides have all moved inward: each side as a fine chain that goes on beyond its
/// ends, cut where it meets those of its neighbours. Nothing of the program's own way of finding corners.
std::optional<double> areaMoved(const Loop& loop, double by) {
    constexpr int kChords = 600;
    std::vector<std::vector<Curve2>> strokes;
    for (std::size_t i = 0; i < loop.sides.size(); ++i) {
        if (i > 0 && loop.sides[i].stroke == loop.sides[i - 1].stroke)
            strokes.back().push_back(loop.sides[i].curve);
        else
            strokes.push_back({loop.sides[i].curve});
    }
    if (strokes.size() > 1 && loop.sides.front().stroke == loop.sides.back().stroke) {
        strokes.back().insert(strokes.back().end(), strokes.front().begin(), strokes.front().end());
        strokes.erase(strokes.begin());
    }
    std::vector<std::vector<Vec2>> chains;
    for (const auto& curves : strokes) {
        std::vector<Vec2> chain;
        const double share = 0.3; // beyond the ends
        for (std::size_t c = 0; c < curves.size(); ++c) {
            const double from = c == 0 ? -share : 0, to = c + 1 == curves.size() ? 1 + share : 1;
            for (int k = c == 0 ? 0 : 1; k <= kChords; ++k) {
                const double t = from + (to - from) * k / kChords;
                chain.push_back(curves[c].at(t) + leftOf(unit(curves[c].slope(t))) * by);
            }
        }
        chains.push_back(std::move(chain));
    }
    if (chains.size() == 1) { // a circle
        double area = 0;
        const auto& c = strokes[0][0];
        const double r = length(c.p[1]) + (loop.area > 0 ? -by : by);
        area = kPi * r * r;
        return loop.area > 0 ? area : -area;
    }
    std::vector<Cut> cuts;
    for (std::size_t i = 0; i < chains.size(); ++i) {
        const auto cut = meet(chains[i], chains[(i + 1) % chains.size()], strokes[i].back().at(1));
        if (!cut) return std::nullopt;
        cuts.push_back(*cut);
    }
    std::vector<Vec2> outline;
    for (std::size_t i = 0; i < chains.size(); ++i) {
        const Cut &begin = cuts[(i + chains.size() - 1) % chains.size()], &end = cuts[i];
        if (begin.onSecond >= end.onFirst) return std::nullopt; // it has vanished
        outline.push_back(begin.at);
        for (auto k = static_cast<std::size_t>(begin.onSecond) + 1; double(k) < end.onFirst; ++k)
            outline.push_back(chains[i][k]);
    }
    double area = 0;
    for (std::size_t i = 0; i < outline.size(); ++i)
        area += cross(outline[i], outline[(i + 1) % outline.size()]) / 2;
    return area;
}

} // namespace

TEST_CASE(
    "Random outlines lean: each is right by plane integration, or refused with the height that it reaches") {
    std::mt19937 random(
        5u + static_cast<unsigned>(std::getenv("GC_SEED") ? std::atoi(std::getenv("GC_SEED")) : 0));
    const auto between = [&](double a, double b) {
        return a + (b - a) * std::uniform_real_distribution<>()(random);
    };
    const int rounds = std::getenv("GC_DEEP") ? 200 : 12;
    int good = 0, refused = 0, compared = 0;
    double worst = 0;
    for (int round = 0; round < rounds; ++round) {
        const Drawing d = randomOutline(random);
        const auto closed = findRegions(d);
        if (closed.regions.empty() || !closed.troubles.empty()) continue; // a hole that leaves its outline
        const double degrees = between(0.5, 8) * (random() % 2 ? 1 : -1), h = between(4, 20);
        INFO("round " << round << ", " << d.strokes.size() << " strokes, " << degrees << "°, " << h << " mm");
        const Part p = extruded(d, leaning(degrees, h));
        const auto r = Engine().regenerate(p);
        if (r.steps.back().error && r.steps.back().error->code == "becoming.areas")
            continue; // it crosses itself
        if (r.steps.back().error) {
            INFO(r.steps.back().error->sentence.text());
            CHECK(r.steps.back().error->code == "lean.height");
            ++refused;
            continue;
        }
        ++good;
        const double t = std::tan(rad(degrees));
        const Region& region = closed.regions.front();
        std::vector<const Loop*> loops{&region.outer};
        for (const Loop& hole : region.holes) loops.push_back(&hole);
        constexpr double at[] = {-.9061798459386640, -.5384693101056831, 0, .5384693101056831,
                                 .9061798459386640};
        constexpr double weight[] = {.2369268850561891, .4786286704993665, .5688888888888889,
                                     .4786286704993665, .2369268850561891};
        double sum = 0;
        bool known = true;
        for (int g = 0; g < 5; ++g)
            for (const Loop* l : loops) {
                const auto a = areaMoved(*l, t * h * (1 + at[g]) / 2);
                known = known && a;
                if (a) sum += *a * weight[g] * h / 2;
            }
        if (!known) continue;
        ++compared;
        const double volume = volumeOf(r);
        CHECK(volume == Approx(sum).epsilon(2e-6));
        worst = std::max(worst, std::fabs(volume / sum - 1));
    }
    WARN(good << " good, " << refused << " refused, " << compared << " compared, worst " << worst);
    CHECK(good > 3 * refused);
}

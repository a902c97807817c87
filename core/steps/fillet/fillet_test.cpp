#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "core/shape/mesh.hpp"
#include "core/sketch/edit/cut.hpp"
#include "tests/support/block.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

#include <numbers>

namespace {

const ProbeOf filletProbe("fillet", [] {
    Probe p{cup(), 0};
    p.step = add(p.part, "fillet",
                 {{"edges", References{"rim of top of step 2"}}, {"radius", std::string("0.5 mm")}})
                 .id;
    p.shows = {{"radius", text("radius", "0.6 mm")},
               {"edges", {{"edges", References{"where wall of step 2 meets floor of step 2"}}}}};
    return p;
});

} // namespace

TEST_CASE("A round on the rim of a straight cylinder takes away what Pappus says") {
    Part p;
    add(p, "draw", {{"drawing", DrawingSlot(rectangle({0, 0}, {20, 30}))}});
    add(p, "revolve");
    const auto before = Engine().regenerate(p);
    REQUIRE(allFine(before));
    add(p, "fillet",
        {{"edges", References{"where side 3 of step 2 meets side 2 of step 2"}},
         {"radius", std::string("4 mm")}});
    p.steps.back().slots["edges"] = References{};
    // The upper rim: where the wall (the second stroke from the lowest) meets the top.
    const auto strokes = p.steps[0].drawing("drawing").strokes;
    p.steps.back().slots["edges"] =
        References{"where side " + std::to_string(strokes[1].id) + " of step 2 meets side " +
                   std::to_string(strokes[2].id) + " of step 2"};
    const auto after = Engine().regenerate(p);
    INFO(faults(after));
    REQUIRE(allFine(after));
    const auto volume = [](const RegenResult& r) {
        return massProperties(r.state.bodies.begin()->second.value, Density(1e-3))->volume;
    };
    // What is cut off: a square of r less a quarter disc, turned about the axis.
    constexpr double r = 4, R = 20, pi = std::numbers::pi;
    const double area = r * r * (1 - pi / 4);
    const double moment = r * r * (R - r / 2) - pi * r * r / 4 * (R - r + 4 * r / (3 * pi));
    CHECK(area > 0);
    CHECK(volume(before) - volume(after) == Approx(2 * pi * moment).epsilon(1e-8));
}

namespace {

References uprights(const Part& p) {
    References out;
    for (std::size_t i = 0; i < 4; ++i)
        out.push_back("where " + side(p, i) + " meets " + side(p, (i + 1) % 4));
    return out;
}
/// Volume under a rim round of radius r over a rounded rectangle with corner radius c >= r; both kept within
/// a block of a x b x h.
double roundedBlock(double a, double b, double h, double c, double r) {
    // Slices: at a height z of the round the outline is inset by r - sqrt(r² - z²).
    const auto area = [&](double in) {
        const double corner = std::max(c - in, 0.0);
        return (a - 2 * in) * (b - 2 * in) - (4 - kPi) * corner * corner;
    };
    double sum = area(0) * (h - r);
    const int n = 20000;
    for (int i = 0; i < n; ++i) { // by the angle, so that it is smooth at both ends
        const double t = (i + 0.5) * kPi / 2 / n;
        sum += area(r - r * std::cos(t)) * r * std::cos(t) * kPi / 2 / n;
    }
    return sum;
}

} // namespace

TEST_CASE("Edges in groups get radii of their own, in one step") {
    Part p = brick();
    add(p, "fillet",
        {{"edges", References{"rim of end of step 2"}},
         {"radius", std::string("3 mm")},
         {"rest", std::string("and")},
         {"edges 2", uprights(p)},
         {"radius 2", std::string("6 mm")}});
    CHECK(volumeOf(built(p)) == Approx(roundedBlock(40, 30, 20, 6, 3)).epsilon(1e-6));
    CHECK(sentenceText(p.steps.back(), p).find("by 3 mm and") != std::string::npos);
    // What runs on smoothly into what is named already cannot get another radius.
    Part q = brick();
    add(q, "fillet", {{"edges", uprights(q)}, {"radius", std::string("6 mm")}});
    add(q, "fillet",
        {{"edges", References{"where " + side(q, 0) + " meets end of step 2"}},
         {"radius", std::string("3 mm")},
         {"rest", std::string("and")},
         {"edges 2", References{"where " + side(q, 1) + " meets end of step 2"}},
         {"radius 2", std::string("2 mm")}});
    CHECK(faultOf(q).code == "fillet.twice");
}

TEST_CASE("A rim's round that is larger than the rounds beside it is built together with them") {
    // Built upon them it is refused, or wrong without a word: the ball would not touch the small rounds.
    for (const auto& [upright, rim] : {std::pair{3.0, 5.0}, {3.0, 9.0}, {8.0, 9.0}, {1.0, 6.0}}) {
        Part p = brick();
        add(p, "fillet", {{"edges", uprights(p)}, {"radius", formatNumber(upright, 3) + " mm"}});
        add(p, "fillet",
            {{"edges", References{"rim of end of step 2"}}, {"radius", formatNumber(rim, 3) + " mm"}});
        Part together = brick();
        add(together, "fillet",
            {{"edges", uprights(p)},
             {"radius", formatNumber(upright, 3) + " mm"},
             {"rest", std::string("and")},
             {"edges 2", References{"rim of end of step 2"}},
             {"radius 2", formatNumber(rim, 3) + " mm"}});
        INFO(upright << " and " << rim);
        const auto r = built(p);
        CHECK(volumeOf(r) == Approx(volumeOf(built(together))).epsilon(1e-9));
        CHECK(volumeOf(r) == Approx(roundedBlock(40, 30, 20, upright, rim)).epsilon(2e-3));
        // The small rounds keep the names that their own step gave them.
        const Body& body = r.state.bodies.begin()->second.value;
        int kept = 0;
        for (int i = 0; i < faceCount(body); ++i)
            for (const std::string& said : referencesForFace(body, i))
                kept +=
                    said.starts_with("fillet between side") && said.find(" and side") != std::string::npos;
        CHECK(kept >= 4);
    }
}

TEST_CASE("A radius grows along an edge, from the end that is meant") {
    Part p = brick();
    const Slots slots{{"edges", References{uprights(p).front()}},
                      {"how", std::string("growing from")},
                      {"radius", std::string("2 mm")},
                      {"far radius", std::string("6 mm")}};
    add(p, "fillet", slots);
    const auto middle = [&](const Part& part) {
        const auto r = built(part);
        const auto m = massProperties(r.state.bodies.begin()->second.value, Density(1e-3));
        const double taken = 24000 - m->volume;
        return std::pair{taken, (24000 * 10 - m->centre.z * m->volume) / taken};
    };
    // Between the ends r goes evenly from 2 to 6: what is taken is (1 - pi/4) r² per length, more of it
    // above.
    const auto [taken, height] = middle(p);
    CHECK(taken == Approx((1 - kPi / 4) * 20 * (4 + 12 + 36) / 3).epsilon(2e-2));
    CHECK(height > 12);
    p.steps.back().slots["way"] = std::string("the other way");
    const auto [same, low] = middle(p);
    CHECK(same == Approx(taken).epsilon(1e-6));
    CHECK(low == Approx(20 - height).epsilon(1e-6));
    // To a sharp edge.
    p.steps.back().slots["far radius"] = std::string("0 mm");
    CHECK(middle(p).first == Approx((1 - kPi / 4) * 20 * 4 / 3).epsilon(0.1));
}

TEST_CASE("On the way along an edge the radius is what is asked at each place, and never more or less") {
    Part p = brick();
    add(p, "fillet",
        {{"edges", References{"where " + side(p, 0) + " meets end of step 2"}},
         {"how", std::string("growing from")},
         {"radius", std::string("2 mm")},
         {"change", std::string("by way of")},
         {"mid radius", std::string("7 mm")},
         {"mid place", std::string("0.4")},
         {"change 2", std::string("then by way of")},
         {"mid radius 2", std::string("4 mm")},
         {"mid place 2", std::string("3 / 4")},
         {"far radius", std::string("2 mm")}});
    const auto r = built(p);
    CHECK(sentenceText(p.steps.back(), p).find("by way of 7 mm at 0.4 of the way then by way of 4 mm") !=
          std::string::npos);
    const Body& body = r.state.bodies.begin()->second.value;
    const auto mesh = makeMesh(body, {0.002, 0.03});
    REQUIRE(mesh.ok());
    // Of a section through a rounded corner what lies nearest to the corner that was there is (sqrt 2 - 1) r
    // off.
    const auto radiusAt = [&](double x) {
        double least = 1e9;
        for (const auto& t : mesh->triangles)
            for (std::size_t k = 0; k < 3; ++k) {
                const Vec3 a = mesh->points[t[k]], b = mesh->points[t[(k + 1) % 3]];
                if ((a.x - x) * (b.x - x) > 0 || a.x == b.x) continue;
                const Vec3 c = a + (b - a) * ((x - a.x) / (b.x - a.x));
                least = std::min(least, std::hypot(c.y, c.z - 20));
            }
        return least / (std::numbers::sqrt2 - 1);
    };
    CHECK(radiusAt(0.4 * 40) == Approx(7).epsilon(2e-3));
    CHECK(radiusAt(0.75 * 40) == Approx(4).epsilon(5e-3));
    CHECK(radiusAt(0.05) == Approx(2).epsilon(2e-2));
    CHECK(radiusAt(39.95) == Approx(2).epsilon(2e-2));
    const double most = (1 - kPi / 4) * 49 * 40, least = (1 - kPi / 4) * 4 * 40;
    CHECK(24000 - volumeOf(r) < most);
    CHECK(24000 - volumeOf(r) > least);
    p.steps.back().slots["mid place 2"] = std::string("0.3");
    CHECK(faultOf(p).code == "fillet.places");
}

TEST_CASE("What does not fit is left as it is and said; the rest is done") {
    // A thin rib stands on the block: its top edges take 1 mm at most, the block's rim takes 3.
    Part p = brick();
    add(p, "draw",
        {{"name", std::string("rib")},
         {"plane", std::string("end of step 2")},
         {"drawing", DrawingSlot(rectangle({-1, -8}, {1, 8}))}});
    add(p, "extrude",
        {{"outline", std::string("rib")},
         {"length", std::string("8 mm")},
         {"does", std::string("adding to")}});
    add(p, "fillet",
        {{"edges", References{"rim of end of step 4", uprights(p).front()}},
         {"radius", std::string("3 mm")}});
    const auto r = Engine().regenerate(p);
    INFO(faults(r));
    REQUIRE(r.steps.back().ok);
    REQUIRE(r.steps.back().doubt);
    const Error& doubt = *r.steps.back().doubt;
    CHECK(doubt.code == "edges.left");
    CHECK(doubt.place);
    CHECK(doubt.culprits.size() >= 1);
    const double upright = (1 - kPi / 4) * 9 * 20;
    CHECK(volumeOf(r) <= 24000 + 2 * 16 * 8 - upright + 1e-6);
    CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
}

TEST_CASE("A reference to a stroke that is split or trimmed later means all that is left of it") {
    // A block, the edge over its third side rounded; then that side is split, and trimmed to two pieces.
    Part p;
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(rectangle({0, 0}, {40, 30}))}});
    add(p, "extrude", {{"length", std::string("20 mm")}});
    Drawing d = p.steps[0].drawing("drawing");
    const int side = d.strokes[2].id;
    const std::string name = "side " + std::to_string(side) + " of step 2";
    add(p, "fillet",
        {{"edges", References{"where " + name + " meets end of step 2"}}, {"radius", std::string("3 mm")}});
    const auto volume = [](const RegenResult& r) {
        return massProperties(r.state.bodies.begin()->second.value, Density(1e-3))->volume;
    };
    const double cutOff = 9 * (1 - std::numbers::pi / 4);
    const auto whole = Engine().regenerate(p);
    INFO(faults(whole));
    REQUIRE(allFine(whole));
    CHECK(volume(whole) == Approx(40 * 30 * 20 - cutOff * 40).epsilon(1e-9));
    // Split: the round runs over both pieces, and a note says so.
    REQUIRE(split(d, side, {12, 30}).done());
    p.steps[0].slots["drawing"] = DrawingSlot(d);
    const auto halves = Engine().regenerate(p);
    INFO(faults(halves));
    REQUIRE(allFine(halves));
    CHECK(volume(halves) == Approx(40 * 30 * 20 - cutOff * 40).epsilon(1e-9));
    CHECK(resolveFaces(halves.state.bodies.begin()->second.value, **parseFaceRef(name))->items.size() == 2);
    // A notch drawn across the left piece, and what is between its legs trimmed away: two pieces again.
    const int far = d.strokes.back().id;
    const int left = d.draw(StrokeKind::Line, {{3, 35}, {3, 20}}),
              right = d.draw(StrokeKind::Line, {{8, 20}, {8, 35}});
    d.draw(StrokeKind::Line, {{3, 20}, {8, 20}});
    REQUIRE(trim(d, far, {5, 30}).done());
    REQUIRE(trim(d, left, {3, 34}).done());
    REQUIRE(trim(d, right, {8, 34}).done());
    p.steps[0].slots["drawing"] = DrawingSlot(d);
    const auto notched = Engine().regenerate(p);
    INFO(faults(notched));
    REQUIRE(allFine(notched));
    CHECK(resolveFaces(notched.state.bodies.begin()->second.value, **parseFaceRef(name))->items.size() == 3);
    CHECK(volume(notched) == Approx(40 * 30 * 20 - 5 * 10 * 20 - cutOff * 35).epsilon(1e-6));
}

TEST_CASE("Every face of a rounded block can be pointed at, those over its corners, too") {
    for (const char* corners : {"rolling over corners", "with corners set back by"}) {
        Part p = brick();
        References edges{"rim of end of step 2"};
        for (std::size_t i = 0; i < 4; ++i)
            edges.push_back("where " + side(p, i) + " meets " + side(p, (i + 1) % 4));
        add(p, "fillet",
            {{"edges", edges}, {"radius", std::string("3 mm")}, {"corners", std::string(corners)}});
        const auto r = built(p);
        const Body& body = r.state.bodies.begin()->second.value;
        REQUIRE(body.shape().faces.Extent() == 6 + 8 + 4);
        for (int i = 0; i < body.shape().faces.Extent(); ++i) {
            const std::string said = body.shape().wordsFor(body.shape().faces(i + 1));
            INFO(i << ": " << said);
            const auto found = resolveFaces(body, **parseFaceRef(said));
            REQUIRE(found.ok());
            CHECK(found->items == std::vector<int>{i});
        }
    }
}

// Copies on walls that are others where they stand, and copies that change from place to place.

#include "core/base/angles.hpp"
#include "core/inspect/mass.hpp"
#include "core/shape/kernel.hpp"
#include "tests/support/block.hpp"
#include "tests/support/sections.hpp"
#include "tests/support/wound.hpp"

#include <BRepAdaptor_Surface.hxx>
#include <TopoDS.hxx>
#include <catch2/catch.hpp>
#include <gp_Pln.hxx>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kA = 40, kB = 25; // half axes of an oval, mm

/// An oval drawn up by 60: its wall is bent differently everywhere.
Part oval() {
    return block(ellipseLine(kA, kB), "60 mm");
}
Part barrel() {
    return lofted({{ellipseLine(30, 20), 0}, {ellipseLine(36, 26), 40}, {ellipseLine(28, 20), 80}});
}
/// What a drawing takes out of the front, from far before it to a depth, or right through.
int take(Part& p, const Drawing& d, const char* plane, const char* length) {
    add(p, "draw", {{"plane", std::string(plane)}, {"drawing", DrawingSlot(d)}});
    return add(p, "extrude",
               {{"length", std::string(length)},
                {"way", std::string("both ways together")},
                {"does", std::string("taking from")}})
        .id;
}
Step& repeat(Part& p, int what, const Slots& more) {
    Slots slots{{"what", References{"everything of step " + std::to_string(what)}}};
    for (const auto& [key, value] : more) slots[key] = value;
    return add(p, "repeat", slots);
}
/// Valid, closed, and as large as the mesh of it says.
void checkWhole(const RegenResult& r) {
    const Body& body = r.state.bodies.begin()->second.value;
    CHECK(checkBody(body).faults.empty());
    const auto m = massProperties(body, Density(1e-3));
    REQUIRE(m.ok());
    const auto [volume, twice] = meshOf(body, 0.06);
    CHECK(std::fabs(volume - m->volume) < 0.06 * m->area);
    CHECK(twice < 0.06 * m->area);
}
/// Where the line through a place along a direction leaves the oval.
double depthUnderOval(Vec3 p, Vec3 d) {
    const double a = d.x * d.x / (kA * kA) + d.y * d.y / (kB * kB),
                 b = 2 * (p.x * d.x / (kA * kA) + p.y * d.y / (kB * kB)),
                 c = p.x * p.x / (kA * kA) + p.y * p.y / (kB * kB) - 1;
    return (-b + std::sqrt(b * b - 4 * a * c)) / (2 * a);
}

} // namespace

TEST_CASE("Holes right through a free form, not turned with it, are those of as many circles") {
    for (const bool round : {true, false}) {
        const auto drawn = [&](int many) {
            Drawing d;
            for (int i = 0; i < many; ++i)
                if (round)
                    d.draw(StrokeKind::Circle, {{-14 + 14. * i, 38}}, {4});
                else
                    for (int k = 0; k < 4; ++k) {
                        const auto corner = [&](int c) {
                            return Vec2{(c % 4 == 0 || c % 4 == 3 ? -18 : -10) + 14. * i,
                                        c % 4 < 2 ? 32. : 43.};
                        };
                        d.draw(StrokeKind::Line, {corner(k), corner(k + 1)});
                    }
            return d;
        };
        Part all = barrel(), one = barrel();
        take(all, drawn(3), "front", "200 mm");
        const int hole = take(one, drawn(1), "front", "200 mm");
        repeat(one, hole,
               {{"count", std::string("3")},
                {"pitch", std::string("14 mm")},
                {"stand", std::string("parallel")}});
        INFO((round ? "round " : "square ") << faults(Engine().regenerate(one)));
        const auto r = built(one);
        CHECK(volumeOf(r) == Approx(volumeOf(built(all))).epsilon(1e-6));
        CHECK(checkBody(r.state.bodies.begin()->second.value).faults.empty());
        CHECK(faceCount(r.state.bodies.begin()->second.value) == 3 + 3 * (round ? 1 : 4));
    }
}

TEST_CASE("Turned with the wall every pocket is as deep below it, square to it") {
    Part p = oval();
    add(p, "plane",
        {{"name", std::string("inside")}, {"from", std::string("front")}, {"distance", std::string("0 mm")}});
    // From the middle plane outward it takes all that lies before y = 0: a floor there would be too deep, so
    // it begins 20 below.
    p.steps.back().slots["distance"] = std::string("20 mm");
    add(p, "draw", {{"plane", std::string("inside")}, {"drawing", DrawingSlot(circleLine(3, {0, 20}))}});
    const int pocket = add(p, "extrude",
                           {{"length", std::string("40 mm")},
                            {"way", std::string("forward")},
                            {"does", std::string("taking from")}})
                           .id;
    const double whole = kPi * kA * kB * 60;
    if (volumeOf(built(p)) < whole - 500) p.steps.back().slots["way"] = std::string("backward");
    const double one = whole - volumeOf(built(p));
    REQUIRE(one == Approx(kPi * 9 * 5).epsilon(0.02));
    repeat(p, pocket,
           {{"way", std::string("in rows along")},
            {"count", std::string("3")},
            {"pitch", std::string("12 mm")},
            {"line 2", std::string("upright axis")},
            {"count 2", std::string("2")},
            {"pitch 2", std::string("15 mm")}});
    INFO(faults(Engine().regenerate(p)));
    const auto r = built(p);
    checkWhole(r);
    const Body& body = r.state.bodies.begin()->second.value;
    int floors = 0;
    for (int i = 0; i < faceCount(body); ++i) {
        const BRepAdaptor_Surface s(TopoDS::Face(body.shape().faces(i + 1)), false);
        const Vec3 m = body.shape().middleOf({i}, false);
        if (s.GetType() != GeomAbs_Plane || m.z < 1 || m.z > 59) continue;
        ++floors;
        const gp_Dir n = s.Plane().Axis().Direction();
        Vec3 out{n.X(), n.Y(), n.Z()};
        if (dot(out, {m.x, m.y, 0}) < 0) out = -out;
        const double depth = depthUnderOval(m, out);
        CHECK(depth == Approx(5).margin(1e-5));
        // And square to it: the oval's normal there is along its gradient.
        const Vec3 at = m + out * depth, normal = unit(Vec3{at.x / (kA * kA), at.y / (kB * kB), 0});
        CHECK(dot(out, normal) == Approx(1).margin(1e-9));
    }
    CHECK(floors == 6);
}

TEST_CASE("Posts stand on a free form, with rounds at their feet, and are called by their places") {
    Part p = oval();
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(circleLine(3, {-10, 20}))}});
    const int post =
        add(p, "extrude", {{"length", std::string("32 mm")}, {"does", std::string("adding to")}}).id;
    add(p, "fillet",
        {{"edges", References{"edges between step 2 and step " + std::to_string(post)}},
         {"radius", std::string("1 mm")}});
    REQUIRE(allFine(Engine().regenerate(p)));
    const double whole = kPi * kA * kB * 60, one = volumeOf(built(p)) - whole;
    repeat(p, post, {{"count", std::string("4")}, {"pitch", std::string("11 mm")}});
    INFO(faults(Engine().regenerate(p)));
    const auto r = built(p);
    checkWhole(r);
    const Body& body = r.state.bodies.begin()->second.value;
    CHECK(faceCount(body) == 3 + 4 * 3);
    CHECK(volumeOf(r) - whole == Approx(4 * one).epsilon(0.05));
    CHECK(resolveFaces(body, **parseFaceRef("copy at place 3 of end of step " + std::to_string(post)))
              ->items.size() == 1);
}

TEST_CASE("Copies that change from place to place: their sizes and turns by an expression") {
    Part p = block(rectangle({-100, -60}, {100, 60}), "10 mm");
    Drawing square = rectangle({-90, -50}, {-80, -40});
    add(p, "draw", {{"plane", std::string("end of step 2")}, {"drawing", DrawingSlot(square)}});
    const int pocket = add(p, "extrude",
                           {{"length", std::string("4 mm")},
                            {"way", std::string("backward")},
                            {"does", std::string("taking from")}})
                           .id;
    p.values.push_back({"grow", "0.1", ""});
    Step& row = repeat(p, pocket,
                       {{"count", std::string("6")},
                        {"pitch", std::string("25 mm")},
                        {"alike", std::string("changing")},
                        {"size", std::string("1 + grow * (n - 1)")},
                        {"turned", std::string("15° * (n - 1)")}});
    double sum = 0;
    for (int n = 1; n <= 6; ++n) sum += std::pow(1 + 0.1 * (n - 1), 3);
    const auto r = built(p);
    CHECK(volumeOf(r) == Approx(240000 - 400 * sum).epsilon(1e-9));
    checkWhole(r);
    CHECK(sentenceText(row, p).find("changing: place n is 1 + grow * (n - 1) times as large, turned by 15° * "
                                    "(n - 1)") != std::string::npos);
    // The sixth is turned by 75 degrees: its sides look that way.
    const Body& body = r.state.bodies.begin()->second.value;
    const auto sides =
        resolveFaces(body, **parseFaceRef("copy at place 6 of side " + std::to_string(square.strokes[0].id) +
                                          " of step " + std::to_string(pocket - 1 + 1)));
    REQUIRE(sides.ok());
    REQUIRE(sides->items.size() == 1);
    const gp_Dir n = BRepAdaptor_Surface(TopoDS::Face(body.shape().faces(sides->items[0] + 1)), false)
                         .Plane()
                         .Axis()
                         .Direction();
    CHECK(std::fabs(n.X() * std::cos(kPi * 75 / 180) + n.Y() * std::sin(kPi * 75 / 180)) < 1e-9);
    row.slots["size"] = std::string("1 - 0.25 * (n - 1)");
    CHECK(faultOf(p).code == "repeat.change");
    row.slots["size"] = std::string("1 + m");
    CHECK_FALSE(allFine(Engine().regenerate(p)));
}

TEST_CASE("On a round wall copies become larger from place to place") {
    Part p = block(circleLine(30), "60 mm");
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(circleLine(2, {0, 30}))}});
    const int post =
        add(p, "extrude", {{"length", std::string("36 mm")}, {"does", std::string("adding to")}}).id;
    const double whole = volumeOf(built(block(circleLine(30), "60 mm")));
    const double one = volumeOf(built(p)) - whole;
    REQUIRE(one > 50);
    repeat(p, post,
           {{"way", std::string("around")},
            {"count", std::string("8")},
            {"alike", std::string("changing")},
            {"size", std::string("1 + 0.1 * (n - 1)")}});
    INFO(faults(Engine().regenerate(p)));
    const auto r = built(p);
    checkWhole(r);
    // A post of radius r that ends h above the wall at its middle: the wall falls away beside it.
    const auto volume = [](double radius, double h) {
        double sum = 0;
        constexpr int kEach = 400;
        for (int i = 0; i < kEach; ++i) {
            const double x = -radius + 2 * radius * (i + 0.5) / kEach;
            sum += 2 * std::sqrt(radius * radius - x * x) * (30 + h - std::sqrt(900 - x * x)) * 2 * radius /
                   kEach;
        }
        return sum;
    };
    REQUIRE(one == Approx(volume(2, 6)).epsilon(1e-3));
    double sum = 0;
    for (int n = 1; n <= 8; ++n) sum += volume(2 * (1 + 0.1 * (n - 1)), 6 * (1 + 0.1 * (n - 1)));
    CHECK(volumeOf(r) - whole == Approx(sum).epsilon(1e-3));
}

TEST_CASE("Around a free form they stand where it is met, and too many are told with how many fit") {
    Part p = oval();
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(circleLine(3, {4, 30}))}});
    const int post =
        add(p, "extrude", {{"length", std::string("32 mm")}, {"does", std::string("adding to")}}).id;
    Step& row = repeat(p, post, {{"count", std::string("3")}, {"pitch", std::string("10 mm")}});
    checkWhole(built(p));
    row.slots["count"] = std::string("30");
    const Error e = faultOf(p);
    INFO(e.sentence.text());
    CHECK((e.code == "repeat.off" || e.code == "repeat.overlap"));
    REQUIRE(e.remedies.size() == 1);
    row.slots["count"] = e.remedies.front().value;
    CHECK(allFine(Engine().regenerate(p)));
    CHECK(std::stoi(e.remedies.front().value) >= 4);
}

TEST_CASE("Over borders of walls that run on smoothly, and over where a wall closes up, they stand, too") {
    Part p = lofted({{circleLine(30), 0}, {roundedLine(60, 50, 12), 40}, {ellipseLine(28, 20), 80}});
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(circleLine(3, {2, 30}))}});
    const int post =
        add(p, "extrude", {{"length", std::string("34 mm")}, {"does", std::string("adding to")}}).id;
    const double one = volumeOf(built(p));
    for (const int count : {7, 12}) {
        Part q = p;
        repeat(q, post, {{"way", std::string("around")}, {"count", std::to_string(count)}});
        INFO(count << ": " << faults(Engine().regenerate(q)));
        const auto r = built(q);
        checkWhole(r);
        CHECK(volumeOf(r) > one);
        const Body& body = r.state.bodies.begin()->second.value;
        for (int k = 2; k <= count; ++k) {
            const auto top = resolveFaces(body, **parseFaceRef("copy at place " + std::to_string(k) +
                                                               " of end of step " + std::to_string(post)));
            REQUIRE(top.ok());
            CHECK(top->items.size() == 1);
        }
    }
}

TEST_CASE("What was built on a copy stays on it when there are more or fewer, and is lost with it") {
    for (const bool bent : {false, true}) {
        Part p = bent ? oval() : block(rectangle({-40, -25}, {40, 25}), "60 mm");
        add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(circleLine(3, {-15, 20}))}});
        const int post =
            add(p, "extrude", {{"length", std::string("32 mm")}, {"does", std::string("adding to")}}).id;
        const std::size_t at = p.steps.size();
        repeat(p, post, {{"count", std::string("4")}, {"pitch", std::string("9 mm")}});
        add(p, "fillet",
            {{"edges", References{"rim of copy at place 3 of end of step " + std::to_string(post)}},
             {"radius", std::string("1 mm")}});
        // Where the round is: as far along as the third of them.
        const auto roundAt = [&]() -> std::optional<double> {
            const auto r = Engine().regenerate(p);
            if (!allFine(r)) return std::nullopt;
            const Body& body = r.state.bodies.begin()->second.value;
            const auto found =
                resolveFaces(body, **parseFaceRef("copy at place 3 of end of step " + std::to_string(post)));
            REQUIRE(found.ok());
            double off = 1e300;
            for (int i = 0; i < faceCount(body); ++i)
                for (const NamePtr n : body.shape().namesOf(body.shape().faces(i + 1)))
                    if (n->role == "fillet")
                        off = length(body.shape().middleOf({i}, false) -
                                     body.shape().middleOf(found->items, false));
            return off;
        };
        for (const char* count : {"4", "6", "3"}) {
            p.steps[at].slots["count"] = std::string(count);
            INFO((bent ? "bent " : "flat ") << count);
            const auto off = roundAt();
            REQUIRE(off);
            CHECK(*off < 3);
        }
        p.steps[at].slots["pitch"] = std::string("8 mm");
        REQUIRE(roundAt());
        CHECK(*roundAt() < 3);
        p.steps[at].slots["count"] = std::string("2");
        CHECK_FALSE(roundAt()); // and the fillet says what it was on
        const auto lost = Engine().regenerate(p);
        CHECK(lost.steps.back().error);
        CHECK(lost.steps[at].ok);
    }
}

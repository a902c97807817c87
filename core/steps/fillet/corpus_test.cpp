/// \file Rounds on many bodies with radii from harmless to far too large. None may be silently wrong: each
/// result is held against the ball's distance from both faces by the step itself, and here against the mesh:
/// its volume, and that it does not run through itself.

#include "core/steps/fillet/rounding.hpp"
#include "core/steps/shared/rounded.hpp"
#include "core/units/amount.hpp"
#include "tests/support/alone.hpp"
#include "tests/support/raw_bodies.hpp"

#include <BRepFilletAPI_MakeFillet.hxx>

#include <catch2/catch.hpp>

#include <map>
#include <numbers>

using namespace gc;
using namespace gc::test;

namespace {

struct Case {
    std::string name;
    TopoDS_Shape shape;
    std::vector<std::pair<RawEdges, double>> rows; ///< edges, radius
};

using Cases = std::vector<Case>;

void addAll(Cases& out, const std::string& name, const TopoDS_Shape& shape, const EdgePick& pick,
            std::initializer_list<double> radii) {
    for (const double r : radii)
        out.push_back({name + " " + formatNumber(r, 2), shape, {{edgesOf(shape, pick), r}}});
}

void addPairs(Cases& out, const std::string& name, const TopoDS_Shape& shape, const EdgePick& a,
              std::initializer_list<double> ofA, const EdgePick& b, std::initializer_list<double> ofB) {
    for (const double p : ofA)
        for (const double q : ofB)
            out.push_back({name + " " + formatNumber(p, 2) + "/" + formatNumber(q, 2),
                           shape,
                           {{edgesOf(shape, a), p}, {edgesOf(shape, b), q}}});
}

void addBlocks(Cases& out) {
    const TopoDS_Shape box = boxAt(0, 0, 0, 40, 30, 20);
    addAll(out, "box", box, anyEdge(), {0.5, 2, 5, 9, 9.99, 10, 12});
    addAll(out, "box rim", box, atLevel(20), {1, 5, 14.9, 15, 18});
    addPairs(out, "box uprights and rim", box, atLevel(10), {2, 5, 10}, atLevel(20), {1, 2, 5, 8});
    const TopoDS_Shape ell = prismOf({{0, 0}, {60, 0}, {60, 20}, {20, 20}, {20, 60}, {0, 60}}, 30);
    addAll(out, "L", ell, anyEdge(), {1, 4, 9, 10, 14});
    addAll(out, "L rim", ell, atLevel(30), {1, 4, 9, 15});
    addAll(out, "L uprights", ell, atLevel(15), {2, 6});
    const TopoDS_Shape steps = prismOf({{0, 0}, {20, 0}, {20, 20}, {40, 20}, {40, 40}, {0, 40}}, 10);
    addAll(out, "steps", steps, anyEdge(), {0.5, 2, 4.9});
    const TopoDS_Shape stair = joinedRaw(boxAt(0, 0, 0, 40, 40, 10), boxAt(-10, 0, 10, 20, 40, 10));
    addAll(out, "stair", stair, anyEdge(), {1, 3, 4.9, 6});
    addAll(out, "stair hollow", stair, near({0, 0, 10}, 0.1), {1, 4, 9});
    addAll(out, "star rim", prismOf(star(5, 18, 8), 6), atLevel(6), {0.5, 1, 2.5});
    addAll(out, "star", prismOf(star(5, 18, 8), 6), anyEdge(), {0.3, 1});
    for (const double degrees : {10., 20., 40.}) {
        const double t = degrees * std::numbers::pi / 180;
        const TopoDS_Shape wedge = prismOf({{0, 0}, {40, 0}, {40 * std::cos(t), 40 * std::sin(t)}}, 20);
        addAll(out, "wedge " + formatNumber(degrees, 0), wedge, near({0, 0, 10}, 0.1), {0.5, 3});
        addAll(out, "wedge all " + formatNumber(degrees, 0), wedge, anyEdge(), {0.5});
    }
}

void addRound(Cases& out) {
    const TopoDS_Shape stud = cylinderAt(0, 0, 0, 10, 15);
    addAll(out, "stud", stud, anyEdge(), {1, 5, 7.4, 7.5, 9, 10});
    addAll(out, "stud top", stud, atLevel(15), {9, 9.99, 10});
    for (const double h : {3., 8.}) {
        const TopoDS_Shape boss = joinedRaw(boxAt(0, 0, 0, 50, 50, 5), cylinderAt(0, 0, 5, 6, h));
        const EdgePick foot = within(atLevel(5), 7);
        addAll(out, "boss foot " + formatNumber(h, 0), boss, foot, {1, 3, 10, 18});
        addPairs(out, "boss foot and top " + formatNumber(h, 0), boss, foot, {0.5, 1.5, 2.5, 4},
                 atLevel(5 + h), {0.5, 2});
    }
    for (const double d : {6., 10., 14.})
        addAll(out, "tee " + formatNumber(d, 0),
               joinedRaw(cylinderAt(0, 0, 0, 8, 40), cylinderAlong({0, 0, 20}, {1, 0, 0}, d / 2, 25)),
               betweenCurved(), {0.5, 1.5, 3});
    addAll(out, "cross hole",
           cutRaw(cylinderAt(0, 0, 0, 10, 40), cylinderAlong({-30, 0, 20}, {1, 0, 0}, 4, 60)),
           betweenCurved(), {0.5, 1, 2});
    addAll(out, "dimple", cutRaw(boxAt(0, 0, 0, 30, 30, 10), ballAt(0, 0, 11.5, 4)), within(atLevel(10), 5),
           {0.5, 2, 5});
    addAll(out, "bump", joinedRaw(boxAt(0, 0, 0, 30, 30, 10), ballAt(0, 0, 8.5, 4)), within(atLevel(10), 5),
           {0.5, 2, 5});
    const TopoDS_Shape two = joinedRaw(joinedRaw(boxAt(0, 0, 0, 50, 30, 5), cylinderAt(-6, 0, 5, 5, 8)),
                                       cylinderAt(6, 0, 5, 5, 8));
    addAll(out, "two bosses", two, within(atLevel(5), 12), {0.5, 0.99, 1, 1.5, 3});
}

void addHollow(Cases& out) {
    const TopoDS_Shape pocket = cutRaw(boxAt(0, 0, 0, 50, 40, 15), boxAt(0, 0, 5, 30, 20, 12));
    const EdgePick uprights = within(atLevel(10), 19), floor = within(atLevel(5), 19),
                   rim = within(atLevel(15), 19);
    addAll(out, "pocket floor", pocket, floor, {1, 3, 6, 9.9, 10});
    addPairs(out, "pocket uprights and floor", pocket, uprights, {2, 5}, floor, {1, 2, 5, 7});
    addAll(out, "pocket rim", pocket, rim, {1, 3, 4.9, 5, 6});
    for (const double r : {1., 3., 4.9})
        out.push_back(
            {"pocket all " + formatNumber(r, 1),
             pocket,
             {{edgesOf(pocket, uprights), r}, {edgesOf(pocket, floor), r}, {edgesOf(pocket, rim), r}}});
    TopoDS_Shape plate = boxAt(0, 0, 0, 60, 20, 3);
    for (int i = 0; i < 6; ++i) plate = cutRaw(plate, cylinderAt(-25 + 10 * i, 0, -1, 3, 9));
    addAll(out, "holes", plate, curvedEdges(), {0.3, 1, 1.49, 1.5});
    const TopoDS_Shape ribs = joinedRaw(joinedRaw(boxAt(0, 0, 0, 60, 40, 3), boxAt(-10, 0, 3, 2, 40, 12)),
                                        boxAt(0, -18.5, 3, 60, 3, 15));
    addAll(out, "ribs", ribs, anyEdge(), {0.3, 0.9});
    addAll(out, "rib tops", ribs, atLevel(15), {0.5, 0.95, 1});
}

Cases corpus() {
    Cases out;
    addBlocks(out);
    addRound(out);
    addHollow(out);
    return out;
}

/// As the step does it, and whether the mesh says the same as the exact volume: "whole", "partly", "refused"
/// or "wrong"; after "raw " where it is good in one go.
std::string outcomeOf(const Case& c) {
    const Body body = bodyOf(c.shape);
    BRepFilletAPI_MakeFillet asks(body.shape().shape);
    std::vector<EdgeChain> chains;
    for (const auto& [edges, radius] : c.rows) {
        std::vector<int> numbers;
        for (const TopoDS_Edge& e : edges) numbers.push_back(body.shape().edges.FindIndex(e) - 1);
        if (!addChains(body, numbers, radius, radius, false, asks, chains)) return "refused";
    }
    const auto raw = rounded(body, chains, 2);
    const std::string before = raw && meshAgrees(*raw) ? "raw " : "";
    const auto worked = roundEdges(body, chains, 2, Progress());
    if (!worked) return before + "refused";
    if (!meshAgrees(worked->body)) return before + "wrong";
    return before + (worked->left.empty() ? "whole" : "partly");
}

} // namespace

TEST_CASE("Rounds of every size on many bodies are whole, partly done, or refused; none is wrong") {
    const auto cases = corpus();
    const std::size_t every = std::getenv("GC_DEEP") ? 1 : 5;
    std::map<std::string, int> count;
    int raw = 0;
    for (std::size_t i = 0; i < cases.size(); i += every) {
        const auto [ended, said] = alone([&] { return outcomeOf(cases[i]); });
        const bool good = said.starts_with("raw ");
        const std::string outcome = !ended ? "crashed" : good ? said.substr(4) : said;
        INFO(cases[i].name << ": " << outcome);
        raw += good;
        ++count[outcome];
        CHECK(outcome != "wrong");
        if (good) CHECK(outcome == "whole");
        if (std::getenv("GC_DEEP") && outcome != "whole") WARN(cases[i].name << ": " << outcome);
    }
    std::string list;
    for (const auto& [what, n] : count) list += "\n  " + what + ": " + std::to_string(n);
    WARN(raw << " good in one go; in the end" << list);
}

TEST_CASE("Where a small round makes way for a larger one, other edges between the same faces stay sharp") {
    // A notch parts the top of a block, and the upper edge of its front, in two; both parts of the top have
    // one name.
    const TopoDS_Shape shape = cutRaw(boxAt(0, 0, 0, 40, 30, 20), boxAt(0, 0, 12, 10, 60, 20));
    NameBuilder names(shape);
    for (int i = 1; i <= names.faces().Extent(); ++i) {
        const BRepAdaptor_Surface f(TopoDS::Face(names.faces()(i)), false);
        const bool top = std::fabs(f.Plane().Axis().Direction().Z()) > 0.9 && f.Plane().Location().Z() > 19;
        names.add(names.faces()(i), internName(1, top ? "end" : "side " + std::to_string(i)));
    }
    const Body body = *names.finish();
    const auto chainsAt = [](const Body& b, const std::vector<Vec3>& middles, double radius) {
        BRepFilletAPI_MakeFillet asks(b.shape().shape);
        std::vector<EdgeChain> out;
        for (const Vec3& at : middles) {
            const auto edges =
                edgesOf(b.shape().shape, [&](const gp_Pnt& p, const TopoDS_Edge&, const auto&) {
                    return length(toVec(p) - at) < 1;
                });
            REQUIRE(edges.size() == 1);
            REQUIRE(addChains(b, {b.shape().edges.FindIndex(edges[0]) - 1}, radius, radius, false, asks, out)
                        .ok());
        }
        return out;
    };
    const auto small = chainsAt(body, {{-12.5, -15, 20}}, 1);
    auto large = chainsAt(body, {{-20, 0, 20}, {-20, -15, 10}}, 4);
    const auto first = rounded(body, small, 2);
    REQUIRE(first.ok());
    // The rim of the left wall, round the end of the small round, by more than that.
    const auto second = roundEdges(*first, chainsAt(*first, {{-20, 0.5, 20}}, 4), 3, Progress());
    REQUIRE(second.ok());
    CHECK(second->left.empty());
    large.insert(large.end(), small.begin(), small.end());
    const auto together = rounded(body, large, 2);
    REQUIRE(together.ok());
    const auto volume = [](const Body& b) { return massProperties(b, Density(1e-3))->volume; };
    CHECK(volume(second->body) == Approx(volume(*together)).epsilon(1e-9));
}

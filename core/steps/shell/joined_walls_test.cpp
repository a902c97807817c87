// Walls that run on smoothly from each other, made one before they are hollowed.

#include "core/base/angles.hpp"
#include "core/shape/kernel.hpp"
#include "core/steps/shell/folds.hpp"
#include "core/steps/shell/joined_walls.hpp"
#include "tests/support/swept.hpp"
#include "tests/support/wound.hpp"

#include <BRep_Tool.hxx>
#include <TopoDS.hxx>

#include <catch2/catch.hpp>

#include <set>

using namespace gc;
using namespace gc::test;

namespace {

constexpr double kJoinedWall = 2, kTightRound = 1.5; // mm

/// A straight piece, from which a spline runs on without a bend.
Drawing stemAndBow() {
    Drawing d;
    d.draw(StrokeKind::Line, {{0, 0}, {0, 20}});
    d.draw(StrokeKind::Poles, {{0, 20}, {0, 30}, {0, 40}, {6, 52}, {20, 60}, {36, 60}});
    return d;
}

std::size_t sweepOf(const Part& p) {
    return p.steps.size() - 1;
}

ShellPlan planOf(const Body& body, const std::string& opened) {
    ShellPlan plan;
    plan.before = &body.shape();
    plan.offset = -kJoinedWall;
    for (int i = 1; i <= body.shape().faces.Extent(); ++i)
        if (body.shape().wordsFor(body.shape().faces(i)) == opened) plan.opened.Add(body.shape().faces(i));
    REQUIRE(plan.opened.Extent() == 1);
    return plan;
}

TopTools_IndexedMapOfShape tightOn(const ShellPlan& plan) {
    TopTools_IndexedMapOfShape out;
    for (int i = 1; i <= plan.before->faces.Extent(); ++i) {
        const TopoDS_Face face = TopoDS::Face(plan.before->faces(i));
        if (!plan.opened.Contains(face) && foldsOver(face, plan.offset)) out.Add(face);
    }
    return out;
}

/// The body of a sweep, and the same with its walls joined.
std::pair<Body, JoinedWalls> joinedOf(const Drawing& path, const Drawing& section) {
    const Part p = swept(path, section);
    const Body body = lastBody(built(p));
    const ShellPlan plan = planOf(body, "end of step " + std::to_string(p.steps[sweepOf(p)].id));
    auto joined = joinedWalls(plan, tightOn(plan));
    REQUIRE(joined);
    return {body, std::move(*joined)};
}

void checkSame(const Body& body, const JoinedWalls& joined) {
    const auto check = checkBody(joined.body);
    CHECK(check.faults.empty());
    CHECK(check.valid);
    CHECK(check.openEdges == 0);
    const auto before = massProperties(body, Density(1e-3)), now = massProperties(joined.body, Density(1e-3));
    REQUIRE((before.ok() && now.ok()));
    CHECK(now->volume == Approx(before->volume).epsilon(1e-7));
    CHECK(now->area == Approx(before->area).epsilon(1e-6));
    CHECK(joined.now.size() == static_cast<std::size_t>(faceCount(body)));
}

/// A rectangle with one corner rounded.
Drawing oneRound(double width, double height, double r) {
    Drawing d;
    const double a = width / 2, b = height / 2, k = r * std::sqrt(0.5);
    d.draw(StrokeKind::Line, {{-a, -b}, {a, -b}});
    d.draw(StrokeKind::Line, {{a, -b}, {a, b - r}});
    drawArcThrough(d, {a, b - r}, {a - r + k, b - r + k}, {a - r, b});
    d.draw(StrokeKind::Line, {{a - r, b}, {-a, b}});
    d.draw(StrokeKind::Line, {{-a, b}, {-a, -b}});
    return d;
}

} // namespace

TEST_CASE("Walls round a rounded section become one, over each piece of the path, and stay where they are") {
    const auto [body, joined] = joinedOf(stemAndBow(), roundedLine(16, 11, kTightRound));
    checkSame(body, joined);
    CHECK(faceCount(body) == 8 * 2 + 2);
    CHECK(faceCount(joined.body) == 2 + 2);
    for (const WallRow& row : joined.rows.rows) CHECK(row.ring);
}

TEST_CASE("Walls with kinks between them become one only beside what folds over") {
    const auto [body, joined] = joinedOf(stemAndBow(), oneRound(16, 11, kTightRound));
    checkSame(body, joined);
    CHECK(faceCount(body) == 5 * 2 + 2);
    CHECK(faceCount(joined.body) == 3 * 2 + 2); // a line, the arc and a line in one
    for (const WallRow& row : joined.rows.rows) CHECK(!row.ring);
}

TEST_CASE("Nothing is joined where nothing folds over, nor where nothing runs on") {
    for (const Drawing& section : {roundedLine(16, 11, 2 * kJoinedWall), rectangle({-8, -5}, {8, 5})}) {
        const Part p = swept(stemAndBow(), section);
        const Body body = lastBody(built(p));
        const ShellPlan plan = planOf(body, "end of step " + std::to_string(p.steps[sweepOf(p)].id));
        CHECK(!joinedWalls(plan, tightOn(plan)));
    }
}

TEST_CASE(
    "A rounded section along a spline, its rounds tighter than the wall, is hollow by its closed form") {
    const Drawing path = stemAndBow();
    // The inside has straight sides, and rounds of a quarter of the wall; along the path by Pappus' rule.
    const double ball = kJoinedWall / 4, width = 16, height = 11;
    Part p = swept(path, roundedLine(width, height, kTightRound));
    const int sweep = p.steps[sweepOf(p)].id;
    add(p, "shell",
        {{"open", References{"end of step " + std::to_string(sweep)}}, {"wall", inMm(kJoinedWall)}});
    const auto r = built(p);
    const auto rounded = [](double w, double h, double radius) {
        return w * h - (4 - kPi) * radius * radius;
    };
    const double whole = rounded(width, height, kTightRound) * lengthOf(path),
                 hollow = rounded(width - 2 * kJoinedWall, height - 2 * kJoinedWall, ball) *
                          (lengthOf(path) - kJoinedWall);
    CHECK(volumeOf(r) == Approx(whole - hollow).epsilon(1e-5));
    const Body& body = lastBody(r);
    const auto [meshed, twice] = meshOf(body, 0.01);
    const double area = massProperties(body, Density(1e-3))->area;
    CHECK(std::fabs(meshed - volumeOf(r)) < 0.01 * area);
    CHECK(twice < 0.002 * area);
    // Each wall has an inside of its own, by its name.
    std::set<std::string> insides;
    for (int f = 1; f <= body.shape().faces.Extent(); ++f)
        if (const auto words = body.shape().wordsFor(body.shape().faces(f)); words.starts_with("inside of"))
            insides.insert(words);
    for (const auto& words : insides) UNSCOPED_INFO(words);
    CHECK(insides.size() == 8 * 2 + 1);
}

TEST_CASE("Where a section grows over two pieces of its path, rounds run on from one to the other exactly") {
    // Walls that lean by more or less: the corners between the pieces do not stay in one plane.
    for (const double size : {1.3}) {
        INFO(size);
        Part p = swept(stemAndBow(), roundedLine(16, 11, kTightRound / std::max(size, 1.0)),
                       {{"change", std::string("growing to")}, {"size", formatNumber(size, 12)}});
        const int sweep = p.steps[sweepOf(p)].id;
        add(p, "shell",
            {{"open", References{"end of step " + std::to_string(sweep)}}, {"wall", inMm(kJoinedWall)}});
        const auto r = built(p);
        REQUIRE(r.steps.back().notes.size() == 1);
        CHECK(r.steps.back().notes[0].text().find("0.5 mm") != std::string::npos);
        const Body& body = lastBody(r);
        double loosest = 0; // mm
        for (int v = 1; v <= body.shape().vertices.Extent(); ++v)
            loosest = std::max(loosest, BRep_Tool::Tolerance(TopoDS::Vertex(body.shape().vertices(v))));
        CHECK(loosest < 2e-3);
        const auto [meshed, twice] = meshOf(body, 0.01);
        CHECK(std::fabs(meshed - volumeOf(r)) < 0.01 * massProperties(body, Density(1e-3))->area);
        CHECK(twice < 0.002 * massProperties(body, Density(1e-3))->area);
    }
}

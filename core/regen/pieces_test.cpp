// What of several like items a reference means: pieces, copies, imported faces; and what is lost.

#include "core/base/file.hpp"
#include "core/exchange/export.hpp"
#include "core/exchange/step_file.hpp"
#include "core/shape/mesh.hpp"
#include "core/shape/places.hpp"
#include "tests/support/disc.hpp"
#include "tests/support/temporary_folder.hpp"

#include <catch2/catch.hpp>

#include <set>

using namespace gc;
using namespace gc::test;

namespace {

std::vector<int> faces(const Body& body, const std::string& text) {
    const auto r = resolveFaces(body, **parseFaceRef(text));
    return r ? r->items : std::vector<int>();
}

/// The middle of what the text means: one face.
Vec3 middle(const Body& body, const std::string& text) {
    const auto items = faces(body, text);
    INFO(text);
    REQUIRE(items.size() == 1);
    return body.shape().middleOf(items, false);
}

/// Every face and every edge that a person can point at has words of its own that mean it, and what touches
/// it under one name, and nothing else. \return how many edges there are
int everyItemHasItsOwn(const Body& body) {
    std::set<std::string> said;
    for (int f = 0; f < faceCount(body); ++f) {
        const std::string own = ownReferenceOfFace(body, f);
        INFO("face " << f << ": " << own);
        REQUIRE_FALSE(own.empty());
        const auto items = faces(body, own);
        CHECK(std::find(items.begin(), items.end(), f) != items.end());
        CHECK(body.shape().piecesOf(items, false).size() == 1);
        CHECK(toText(**parseFaceRef(own)) == own);
    }
    const auto mesh = makeMesh(body, {0.2, 0.5});
    REQUIRE(mesh.ok());
    int real = 0;
    for (std::size_t e = 0; e < mesh->edges.size(); ++e) {
        if (mesh->edges[e].points.empty()) continue;
        ++real;
        const std::string own = ownReferenceOfEdge(body, static_cast<int>(e));
        INFO("edge " << e << ": " << own);
        REQUIRE_FALSE(own.empty());
        const auto items = edges(body, own);
        CHECK(std::find(items.begin(), items.end(), static_cast<int>(e)) != items.end());
        CHECK(body.shape().piecesOf(items, true).size() == 1);
        CHECK(toText(*parseEdgeRef(own)) == own);
    }
    return real;
}

/// A disc of 60 by 10 with a long oval cut 5 deep across it: both halves of its end touch the same faces.
Part discWithOval(double turn, Vec2 at, bool second = false) {
    Part p;
    Drawing disc;
    disc.draw(StrokeKind::Circle, {{0, 0}}, {30});
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(disc)}});
    add(p, "extrude", text("length", "10 mm"));
    add(p, "plane", {{"from", std::string("ground")}, {"distance", std::string("5 mm")}});
    Drawing ovals;
    const Vec2 along{50 * std::cos(turn), 50 * std::sin(turn)};
    ovals.draw(StrokeKind::Ellipse, {at, at + along}, {4});
    if (second) ovals.draw(StrokeKind::Ellipse, {at + Vec2{0, 15}, at + Vec2{0, 15} + along}, {4});
    add(p, "draw", {{"drawing", DrawingSlot(ovals)}});
    add(p, "extrude", {{"length", std::string("20 mm")}, {"does", std::string("taking from")}});
    return p;
}

} // namespace

TEST_CASE("Pieces that touch the same faces are told by their order in the tool's frame, or asked about") {
    const Body body = bodyOf(discWithOval(0, {0, 0}));
    const std::string top = "end of step 2";
    REQUIRE(faces(body, top).size() == 2);
    std::string upper;
    for (const int f : faces(body, top))
        if (body.shape().middleOf({f}, false).y > 0) upper = ownReferenceOfFace(body, f);
    CHECK(upper == "end of step 2 number 2 of 2 up step 5");
    CHECK(everyItemHasItsOwn(body) > 6);
    for (const auto& [turn, at] : {std::pair{0.0, Vec2{3, 11}}, {0.0, Vec2{0, -12}}, {0.4, Vec2{-2, 4}}}) {
        const Body other = bodyOf(discWithOval(turn, at));
        REQUIRE(faces(other, top).size() == 2);
        const Vec3 m = middle(other, upper);
        for (const int f : faces(other, top)) CHECK(other.shape().middleOf({f}, false).y <= m.y);
    }
    // Three pieces where there were two: a question with three answers, each good.
    const Body three = bodyOf(discWithOval(0, {0, -8}, true));
    const auto asked = resolveFaces(three, **parseFaceRef(upper));
    REQUIRE_FALSE(asked.ok());
    CHECK(asked.error().code == "reference.tie");
    REQUIRE(asked.error().question.has_value());
    CHECK(asked.error().question->about == upper);
    REQUIRE(asked.error().question->answers.size() == 3);
    std::set<int> answered;
    for (const std::string& a : asked.error().question->answers)
        for (const int f : faces(three, a)) answered.insert(f);
    CHECK(answered.size() == 3);
    // The tool takes one of them away whole: the other is not taken for it, but asked about.
    const Body half = bodyOf(discWithOval(0, {0, 29}));
    const auto only = resolveFaces(half, **parseFaceRef(upper));
    REQUIRE_FALSE(only.ok());
    REQUIRE(only.error().question.has_value());
    CHECK(only.error().question->answers == std::vector<std::string>{top});
    // With the tool away there is but one: it is meant.
    Part whole = discWithOval(0, {0, 0});
    whole.steps.pop_back();
    CHECK(faces(bodyOf(whole), upper).size() == 1);
}

TEST_CASE("A copy is called by its place: another count takes no other for it") {
    Part p = discWithHoles();
    const std::string opposite = "copy at 180° of bore of step 3", sixth = "copy at 60° of bore of step 3";
    const Vec3 there = middle(bodyOf(p), opposite);
    CHECK(there.x == Approx(-20).margin(1e-6));
    p.findStep(3)->slots["count"] = std::string("8");
    const Body eight = bodyOf(p);
    CHECK(length(middle(eight, opposite) - there) < 1e-6);
    const auto asked = resolveFaces(eight, **parseFaceRef(sixth));
    REQUIRE_FALSE(asked.ok());
    REQUIRE(asked.error().question.has_value());
    CHECK(asked.error().question->answers.size() == 8);
    CHECK(asked.error().question->answers.front() == "copy at 45° of bore of step 3");
    const auto edge = resolveEdges(eight, *parseEdgeRef("where " + sixth + " meets start of step 2"));
    REQUIRE_FALSE(edge.ok());
    REQUIRE(edge.error().question.has_value());
    for (const std::string& a : edge.error().question->answers) CHECK(edges(eight, a).size() == 1);
    p.findStep(3)->slots["count"] = std::string("12");
    CHECK(faces(bodyOf(p), sixth).size() == 1);
    CHECK(everyItemHasItsOwn(bodyOf(p)) == 26);
}

TEST_CASE("A neighbour that was rounded off still tells its piece") {
    Part p;
    const Drawing plate = rectangle({-30, -10}, {30, 10});
    add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(plate)}});
    add(p, "extrude", text("length", "10 mm"));
    add(p, "plane", {{"distance", std::string("4 mm")}, {"from", std::string("ground")}});
    add(p, "draw", {{"drawing", DrawingSlot(rectangle({-2, -12}, {2, 12}))}});
    add(p, "extrude", {{"length", std::string("14 mm")}, {"does", std::string("taking from")}});
    const std::string right = "side " + std::to_string(plate.strokes[1].id) + " of step 2";
    const std::string piece = "end of step 2 next to " + right;
    const Vec3 before = middle(bodyOf(p), piece);
    CHECK(before.x > 0);
    add(p, "fillet",
        {{"edges", References{"where end of step 2 meets " + right}}, {"radius", std::string("1 mm")}});
    CHECK(std::fabs(middle(bodyOf(p), piece).x - before.x) < 1);
}

TEST_CASE("Holes on a leaning face stay where they are when an earlier rim is rounded") {
    // A wedge: its side leans by a fifth.
    Drawing d;
    const Vec2 at[] = {{0, 0}, {60, 0}, {50, 50}, {0, 50}};
    for (std::size_t i = 0; i < 4; ++i) d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]});
    Part p;
    add(p, "draw", {{"plane", std::string("front")}, {"drawing", DrawingSlot(d)}});
    add(p, "extrude", text("length", "40 mm"));
    const std::string side = "side " + std::to_string(d.strokes[1].id) + " of step 2";
    const auto hole = [&](Part q) {
        const int id =
            add(q, "hole",
                {{"face", References{side}}, {"count", std::string("1")}, {"diameter", std::string("6 mm")}})
                .id;
        const Body body = bodyOf(q);
        const auto centre = resolvePoint(
            body, *parsePointRef("centre of where bore of step " + std::to_string(id) + " meets " + side));
        REQUIRE(centre.ok());
        return *centre;
    };
    const Vec3 plain = hole(p);
    Part rounded = p;
    add(rounded, "fillet",
        {{"edges",
          References{"where " + side + " meets side " + std::to_string(d.strokes[2].id) + " of step 2"}},
         {"radius", std::string("12 mm")}});
    CHECK(length(hole(rounded) - plain) < 1e-6);
}

TEST_CASE("Faces of an imported body are called by what they are, not by their order in the file") {
    const auto block = [](bool otherWay) {
        Part p;
        std::vector<Vec2> at{{-20, -10}, {20, -10}, {25, 10}, {-15, 12}};
        if (otherWay) std::rotate(at.begin(), at.begin() + 2, at.end());
        Drawing d;
        for (std::size_t i = 0; i < 4; ++i) d.draw(StrokeKind::Line, {at[i], at[(i + 1) % 4]});
        add(p, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(d)}});
        add(p, "extrude", text("length", "15 mm"));
        add(p, "hole",
            {{"face", References{"start of step 2"}},
             {"count", std::string("3")},
             {"circle", std::string("9 mm")},
             {"diameter", std::string("3 mm")}});
        return bodyOf(p);
    };
    const auto imported = [](const Body& body) {
        const TemporaryFolder folder;
        const auto path = folder.path() / "block.step";
        REQUIRE(exportBodies({{"block", body}}, "block", path).ok());
        const auto back = readStep(*readFile(path), 7);
        REQUIRE(back.ok());
        return back->front().body;
    };
    const Body one = imported(block(false)), two = imported(block(true));
    int moved = 0;
    for (int f = 0; f < faceCount(one); ++f) {
        const std::string own = ownReferenceOfFace(one, f);
        const auto there = faces(two, own);
        INFO(own);
        REQUIRE(there.size() == 1);
        CHECK(length(two.shape().middleOf(there, false) - one.shape().middleOf({f}, false)) < 0.02);
        moved += there.front() != f;
    }
    CHECK(moved > 0); // the order was another
    CHECK(everyItemHasItsOwn(one) == 18);
    // A face that is not in the newer file is asked for, the likeliest first.
    const auto asked = resolveFaces(one, **parseFaceRef("flat face 24.46 at 1.00 2.00 16.00 of step 7"));
    REQUIRE_FALSE(asked.ok());
    REQUIRE(asked.error().question.has_value());
    CHECK(middle(one, asked.error().question->answers.front()).z == Approx(15));
}

TEST_CASE("What is lost is told with its cause, in the words of the sheet") {
    Part p = discWithHoles();
    const int fillet = add(p, "fillet",
                           {{"edges", References{"where bore of step 3 meets start of step 2"}},
                            {"radius", std::string("1 mm")}})
                           .id;
    const auto sentence = [&](const Part& part) {
        const auto r = Engine().regenerate(part);
        for (const StepReport& s : r.steps)
            if (s.id == fillet) return s.error ? s.error->sentence.text() : std::string();
        return std::string();
    };
    CHECK(sentence(p).empty());
    p.findStep(3)->off = true;
    CHECK_THAT(sentence(p), Catch::Matchers::Contains("step 3, Hole, is switched off"));
    p.findStep(3)->off = false;
    // A step in between takes the face away: the cause is that step, by its place in the sheet.
    Part sunk = p;
    Drawing low;
    low.draw(StrokeKind::Circle, {{0, 0}}, {40});
    Step draw = add(sunk, "draw", {{"plane", std::string("ground")}, {"drawing", DrawingSlot(low)}});
    Step take = add(sunk, "extrude", {{"length", std::string("2 mm")}, {"does", std::string("taking from")}});
    std::rotate(sunk.steps.begin() + 3, sunk.steps.begin() + 4, sunk.steps.end());
    const std::string told = sentence(sunk);
    CHECK_THAT(told, Catch::Matchers::Contains("step 5, Extrude, took it away"));
    CHECK(told.find("⟦") == std::string::npos);
    const auto r = Engine().regenerate(sunk);
    REQUIRE(r.steps.back().error.has_value());
    REQUIRE(r.steps.back().error->place.has_value());
    CHECK(r.steps.back().error->place->z == Approx(0).margin(1e-6));
}

#include "core/sketch/edit/write.hpp"

#include "core/sketch/edit/copy.hpp"
#include "core/sketch/texts.hpp"
#include "tests/support/box_letters.hpp"
#include "tests/support/pen.hpp"

#include <catch2/catch.hpp>

using namespace gc;
using namespace gc::test;

namespace {

WriteWish wishFor(const std::string& words, double height, Vec2 at = {}) {
    WriteWish w;
    w.text.words = words, w.text.font = "boxes";
    w.text.height = std::to_string(height) + " mm";
    w.height = height, w.at = at;
    return w;
}
EditOutcome anew(Drawing& d, const std::string& words, double height, double spacing = 0) {
    WriteWish w = wishFor(words, height);
    w.text.id = d.texts.front().id;
    w.text.along = d.texts.front().along;
    w.spacing = spacing;
    return rewriteText(d, w, boxLetters(words));
}
/// The lower left corner of a letter.
Vec2 cornerOf(const Drawing& d, std::size_t letter) {
    return d.at(d.findStroke(d.texts.front().letters[letter][0])->points[0]);
}

} // namespace

TEST_CASE("A text that is written anew keeps the letters that stay, wherever they go") {
    Pen p;
    REQUIRE(writeText(p.d, wishFor("CAT", 4, {10, 5}), boxLetters("CAT")).done());
    const auto before = p.d.texts.front().letters;
    REQUIRE(before.size() == 3);
    SECTION("longer") {
        REQUIRE(anew(p.d, "CART", 4).done());
        const auto& now = p.d.texts.front().letters;
        CHECK(now[0] == before[0]);
        CHECK(now[1] == before[1]);
        CHECK(now[3] == before[2]);
        CHECK(length(cornerOf(p.d, 3) - Vec2{22, 5}) < 1e-9);
    }
    SECTION("shorter") {
        REQUIRE(anew(p.d, "CA", 4).done());
        CHECK(p.d.texts.front().letters.size() == 2);
        CHECK(p.d.findStroke(before[2][0]) == nullptr);
    }
    SECTION("larger and wider apart, all are the same strokes") {
        REQUIRE(anew(p.d, "CAT", 8, 2).done());
        CHECK(p.d.texts.front().letters == before);
        CHECK(length(cornerOf(p.d, 2) - Vec2{10 + 2 * 10, 5}) < 1e-9);
    }
    SECTION("in several words") {
        REQUIRE(anew(p.d, "CAT AT", 4).done());
        CHECK(p.d.texts.front().letters[3].empty());
        CHECK(p.d.texts.front().letters[0] == before[0]);
    }
    SECTION("with nothing to write it stays") {
        const Drawing was = p.d;
        CHECK(!anew(p.d, "  ", 4).done());
        CHECK(was.texts == p.d.texts);
    }
    for (const DrawnText& t : p.d.texts) // all that there is moves as one
        CHECK(std::count_if(p.d.relations.begin(), p.d.relations.end(), [&](const Relation& r) {
                  return r.kind == K::Together && r.of.front() == t.base;
              }) == 1);
    CHECK(countFreedoms(p.d, {}) == 2);
}

TEST_CASE("A text that was moved and turned is written anew where it is now") {
    Pen p;
    REQUIRE(writeText(p.d, wishFor("AB", 3), boxLetters("AB")).done());
    std::vector<int> all;
    for (const Stroke& s : p.d.strokes) all.push_back(s.id);
    Placing by = Placing::turnAbout({}, kPi / 6);
    by.shift = {40, -7};
    REQUIRE(placeStrokes(p.d, all, by).done());
    REQUIRE(anew(p.d, "ABC", 3).done());
    CHECK(length(cornerOf(p.d, 0) - Vec2{40, -7}) < 1e-9);
    CHECK(length(cornerOf(p.d, 2) - (Vec2{40, -7} + Vec2{std::cos(kPi / 6), 0.5} * 6)) < 1e-9);
}

TEST_CASE("The line that a text stands on places it: centred, it stays so") {
    Pen p;
    REQUIRE(writeText(p.d, wishFor("AB", 4, {3, 3}), boxLetters("AB")).done());
    const int base = p.d.texts.front().base;
    const int middle = p.dot({7, 3});
    p.d.relate(K::Midpoint, {middle, base});
    p.d.relate(K::OnStroke, {middle, kAxisLine});
    p.d.relate(K::Horizontal, {base});
    REQUIRE(p.settle().solved);
    REQUIRE(anew(p.d, "ABCD", 4).done());
    REQUIRE(p.settle().solved);
    CHECK(cornerOf(p.d, 0).x == Approx(-8).margin(1e-6));
    CHECK(cornerOf(p.d, 3).x == Approx(4).margin(1e-6));
}

TEST_CASE("Letters along a stroke stand upright on it") {
    Pen p;
    const int arc = p.arc({0, 0}, 20, 0, kPi);
    WriteWish w = wishFor("ABCDEF", 5);
    w.text.along = arc;
    REQUIRE(writeText(p.d, w, boxLetters("ABCDEF")).done());
    for (std::size_t i = 0; i < 6; ++i) {
        const Stroke& foot = *p.d.findStroke(p.d.texts.front().letters[i][0]);
        // The middle of the letter's part of the line touches the arc: a quarter of its width beside the box.
        const Vec2 a = p.d.at(foot.points[0]), b = p.d.at(foot.points[1]);
        CHECK(length(b - a) == Approx(2.5));
        CHECK(length(a + (b - a)) == Approx(20).epsilon(1e-9));
        CHECK(dot(unit(b - a), unit(b)) == Approx(0).margin(1e-9));
    }
    const LineEnds base = lineEnds(p.d, p.d.texts.front().base);
    CHECK(length(base.from - Vec2{20, 0}) < 1e-9);
    CHECK(length(base.to) == Approx(20).epsilon(1e-9));
    // Only a stroke can be followed, and none of the letters' own.
    for (const int along : {p.centre(arc), p.dot({3, 3}), 9999, p.d.texts.front().letters[0][0]}) {
        WriteWish other = w;
        other.text.id = p.d.texts.front().id;
        other.text.along = along;
        const Drawing was = p.d;
        CHECK(!rewriteText(p.d, other, boxLetters("ABC")).done());
        CHECK(p.d == was);
    }
    WriteWish nothing = w;
    nothing.text.along = p.centre(arc);
    CHECK(!writeText(p.d, nothing, boxLetters("ABC")).done());
    // Too long for it.
    const auto refusedOne = anew(p.d, "ABCDEFGHIJKLMNOPQ", 5);
    CHECK(!refusedOne.done());
    CHECK(refusedOne.whyNot.find("longer") != std::string::npos);
    // Without the stroke it is a straight text again.
    p.d.erase({arc});
    CHECK(p.d.texts.front().along == 0);
    // And without its line only strokes.
    p.d.erase({p.d.texts.front().base});
    CHECK(p.d.texts.empty());
}

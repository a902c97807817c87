#include "core/names/reference.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;

TEST_CASE("References are read and written back as the same sentence") {
    for (const char* text :
         {"wall of step 2", "inside of wall of step 2", "rim of top of step 2",
          "copy at 60° of bore of step 6", "fillet between wall of step 2 and floor of step 2",
          "inside of fillet between inside of wall of step 2 and floor of step 2",
          "wall of step 2 next to floor of step 2", "rim face of step 12",
          "wall of step 2 number 2 of 3 across step 5", "inside of (wall of step 2 number 2 of 3 up step 5)",
          "flat face 12.40 at 0.00 -5.00 2.50 of step 1",
          "wall of step 2 next to a of step 1 next to b of step 1",
          "inside fillet between a of step 1 and b of step 1"}) {
        const auto f = parseFaceRef(text);
        INFO(text);
        REQUIRE(f.ok());
        CHECK(toText(**f) == text);
    }
    for (const char* text :
         {"where wall of step 2 meets floor of step 2",
          "where fillet corner of a of step 1 and b of step 1 and c of step 1 meets fillet between a of step "
          "1 and b of step 1",
          "rim of top of step 2", "all edges of top of step 2",
          "where wall of step 2 meets top of step 2 at floor of step 2", "edges between step 2 and step 5",
          "corners of step 2", "outside corners of step 4", "inside corners of step 4",
          "where a of step 1 meets b of step 2 number 3 of 4 through step 7",
          "where (a of step 1 number 1 of 2 up step 3) meets b of step 2", "stroke 4 of step 7",
          "chain of stroke 4 of step 7", "curve of step 9"}) {
        const auto e = parseEdgeRef(text);
        INFO(text);
        REQUIRE(e.ok());
        CHECK(toText(*e) == text);
    }
}

TEST_CASE("Faces over corners are told by three of the faces that meet there, or by two") {
    for (const char* text :
         {"fillet corner of a of step 1 and b of step 1 and c of step 2",
          "fillet corner of a of step 1 and b of step 1",
          "fillet between (fillet corner of a of step 1 and b of step 1 and c of step 2) and d of step 2",
          "fillet corner of (fillet corner of a of step 1 and b of step 1) and c of step 2 and d of step 3",
          "(fillet corner of a of step 1 and b of step 1) next to c of step 3"}) {
        const auto f = parseFaceRef(text);
        INFO(text);
        REQUIRE(f.ok());
        CHECK(toText(**f) == text);
    }
    const auto f = parseFaceRef("fillet corner of a of step 1 and b of step 2 and c of step 3");
    REQUIRE((f.ok() && (*f)->c));
    CHECK(stepsIn(**f) == std::vector<int>{1, 2, 3});
}

TEST_CASE("References to points and to drawn curves are read and written back") {
    for (const char* text :
         {"corner of wall of step 2 and floor of step 2 and side of step 4",
          "middle of where wall of step 2 meets floor of step 2", "centre of stroke 12 of step 3",
          "spot 1.50 -2.00 30.25 on wall of step 2", "point 4 of step 7",
          "corner of (wall of step 2 next to floor of step 2) and floor of step 2 and side of step 4"}) {
        const auto p = parsePointRef(text);
        INFO(text);
        REQUIRE(p.ok());
        CHECK(toText(*p) == text);
    }
    const auto stroke = parseEdgeRef("stroke 12 of step 3");
    REQUIRE(stroke.ok());
    CHECK(stroke->item == 12);
    CHECK(toText(*stroke) == "stroke 12 of step 3");
    CHECK(parsePointRef("spot 1.50 -2.00 30.25 on wall of step 2")->at == Vec3{1.5, -2, 30.25});
    CHECK(stepsIn(*parsePointRef("corner of wall of step 2 and floor of step 5 and side of step 2")) ==
          std::vector<int>{2, 5});
    for (const char* text :
         {"", "corner", "corner of wall of step 2", "point of step 3", "middle of wall of step 2",
          "spot 1 2 on wall of step 2", "spot nan 1 2 on wall of step 2",
          "corner of wall of step 2 and floor of step 2 and side of step 4 and top of step 4"}) {
        INFO(text);
        CHECK_FALSE(parsePointRef(text).ok());
    }
}

TEST_CASE("Reading aloud leaves out the step where one step alone makes such a face") {
    Wording w;
    w.roleIsUnique = [](const std::string& role) { return role == "floor"; };
    w.placeOf = [](int id) { return id + 1; };
    CHECK(inWords(*parseEdgeRef("where wall of step 2 meets floor of step 2"), w) ==
          "where wall of step 3 meets floor");
}

TEST_CASE("A reference knows the steps it rests on") {
    CHECK(stepsIn(*parseEdgeRef("where wall of step 2 meets inside of bore of step 7")) ==
          std::vector<int>{2, 7});
    CHECK(stepsIn(*parseEdgeRef("edges between step 2 and step 5")) == std::vector<int>{2, 5});
}

TEST_CASE("What is not a reference is refused with a position") {
    for (const char* text :
         {"", "wall", "wall of step", "wall of step x", "where wall of step 2", "(wall of step 2",
          "copy of wall of step 2", "wall of step 2 nearby", "of step 3"}) {
        INFO(text);
        CHECK_FALSE(parseFaceRef(text).ok());
        CHECK_FALSE(parseEdgeRef(text).ok());
    }
    CHECK_FALSE(parseFaceRef(std::string(3000, '(')).ok());
    auto random = test::seeded(5U);
    const char* words[] = {"wall",   "of",   "step",   "2",       "inside", "rim", "where",
                           "meets",  "and",  "fillet", "between", "(",      ")",   "copy",
                           "next",   "to",   "at",     "corners", "edges",  "all", "corner",
                           "middle", "spot", "on",     "point",   "stroke"};
    for (int k = 0; k < test::rounds(5000); ++k) {
        std::string text;
        for (int i = static_cast<int>(random() % 12); i > 0; --i)
            text += std::string(words[random() % 26]) + " ";
        if (const auto e = parseEdgeRef(text)) CHECK(parseEdgeRef(toText(*e)).ok());
        if (const auto p = parsePointRef(text)) CHECK(parsePointRef(toText(*p)).ok());
    }
}

TEST_CASE("A reference names the body that is meant where several have it") {
    for (const char* text :
         {"wall of step 2 on body 5", "where wall of step 2 meets top of step 2 on body 7 number 3",
          "corner of a of step 1 and b of step 1 and c of step 1 on body 4",
          "spot 1.00 2.00 3.00 on wall of step 2 on body 5"}) {
        INFO(text);
        const std::string t = text;
        std::string back;
        std::optional<ThingId> body;
        if (const auto p = parsePointRef(t)) {
            back = toText(*p), body = p->body;
        } else if (t.starts_with("where")) {
            const auto e = parseEdgeRef(t);
            REQUIRE(e.ok());
            back = toText(*e), body = e->body;
        } else {
            const auto f = parseFaceRef(t);
            REQUIRE(f.ok());
            back = toText(**f), body = (*f)->body;
        }
        CHECK(back == t);
        CHECK(body.has_value());
    }
    CHECK(parseEdgeRef("where a of step 1 meets b of step 2 on body 7 number 3")->body == ThingId{7, 2});
    CHECK(onBody("wall of step 2", {5, 1}) == "wall of step 2 on body 5 number 2");
    Wording w;
    w.bodyWords = [](ThingId) { return std::string("lid"); };
    CHECK(inWords(**parseFaceRef("wall of step 2 on body 5"), w) == "wall of step 2 of lid");
    for (const char* bad : {"wall of step 2 on body", "wall of step 2 on body x",
                            "wall of step 2 on body 3 number 0", "wall of step 2 on"})
        CHECK_FALSE(parseFaceRef(bad).ok());
}

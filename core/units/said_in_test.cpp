#include "core/units/said_in.hpp"

#include <catch2/catch.hpp>

using namespace gc;

TEST_CASE("Amounts in sentences are said in the part's units, as fine as they were") {
    UnitSystem inches;
    inches.length = "in", inches.mass = "oz", inches.volume = "l";
    const auto said = [&](const char* text) { return saidIn(inches, std::string(text)); };
    CHECK(said("A radius of 1.50 mm does not fit; take less than 1 mm.") ==
          "A radius of 0.0591 in does not fit; take less than 0.04 in.");
    CHECK(said("25.4 mm") == "1 in");
    CHECK(said("between 12.70 mm and 2540 mm") == "between 0.5 in and 100 in");
    CHECK(said("2834.95 g") == "99.9999 oz");
    CHECK(said("disagree: 91.25 cm³ and 91.30 cm³.") == "disagree: 0.09125 l and 0.0913 l.");
    // What is no length stays.
    for (const char* same : {"45 °", "12 faces", "3 in", "step 2", "edge12 mm", "", "5.", "1.2.3",
                             "\"25.4 mm\"", "mm", "7 mmm", "8 "})
        CHECK(said(same) == same);
    CHECK(said("\"25.4 mm\" is 25.4 mm") == "\"25.4 mm\" is 1 in");
    CHECK(said("more than 5 m") == "more than 196.85 in");
    const UnitSystem mm;
    for (const char* same :
         {"A wall of 2.5 mm", "more than 5 m", "84 g", "12.5 cm³", "12.5 ml", "25.4 mm, \"x\""})
        CHECK(saidIn(mm, std::string(same)) == same);
}

TEST_CASE("A sentence keeps its pattern, which is what is translated") {
    UnitSystem inches;
    inches.length = "in";
    const Message m = phrase("A wall of %1 at \"%2\" cannot be made.", "2.54 mm", "rim, 3");
    const Message said = saidIn(inches, m);
    CHECK(said.pattern() == m.pattern());
    CHECK(said.text() == "A wall of 0.1 in at \"rim, 3\" cannot be made.");
}

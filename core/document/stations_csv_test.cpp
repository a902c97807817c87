#include "core/document/stations_csv.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

using namespace gc;

TEST_CASE("Stations are read from what people paste") {
    const Stations three{{"0", "78", false, ""}, {"30", "84.2", false, ""}, {"60", "93", false, ""}};
    for (const char* text :
         {"0,78\n30,84.2\n60,93\n", "0;78\r\n30;84.2\r\n60;93", "height\tdiameter\n0\t78\n30\t84.2\n60\t93\n",
          "diameter;height\n78;0\n84.2;30\n93;60\n", "\n0 , 78\n\n30, 84.2\n60 ,93"}) {
        INFO(text);
        const auto r = readStations(text);
        CHECK(r.faults.empty());
        CHECK(r.rows == three);
    }
    const auto sides = readStations("height;outside;tolerance\n0;78,5;0,1\n");
    CHECK(sides.rows == Stations{{"0", "78,5", false, "0,1"}});
    CHECK(readStations("0,78,inside\n").rows == Stations{{"0", "78", true, ""}});
    CHECK(readStations(writeStations(three)).rows == three);
}

TEST_CASE("Lines that make no sense are pointed at and the others are kept") {
    const auto r = readStations("0,78\nthirty,84\n60\n90,104 apples\n110,112\n");
    CHECK(r.rows.size() == 2);
    REQUIRE(r.faults.size() == 3);
    for (int i = 0; i < 3; ++i) CHECK(r.faults[static_cast<std::size_t>(i)].row == i + 1);
    for (const auto& f : r.faults) CHECK_FALSE(f.sentence.empty());
}

TEST_CASE("Garbled tables do no harm") {
    auto random = test::seeded(2U);
    for (int k = 0; k < test::rounds(3000); ++k) {
        std::string text;
        for (int i = static_cast<int>(random() % 60); i > 0; --i)
            text += ",;\t\n0123456789.x\"\xff"[random() % 18];
        CHECK(readStations(text).rows.size() <= 60);
    }
}

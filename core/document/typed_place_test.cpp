#include "core/document/typed_place.hpp"

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;

namespace {

Vec2 typed(const std::string& text, std::optional<Vec2> from = Vec2{10, 5}) {
    const Values values{{"wall", Amount{2.5, kLength}}};
    const auto place = placeFromText(text, UnitSystem{}, values, from, {10, 40});
    REQUIRE(place);
    return place->at;
}

} // namespace

TEST_CASE("A typed place is across and up, a step, a length and an angle, or a length") {
    CHECK(length(typed("12, 30") - Vec2{12, 30}) < 1e-12);
    CHECK(length(typed(" -3 mm ; 1 in ") - Vec2{-3, 25.4}) < 1e-12);
    CHECK(length(typed("+ wall * 2, -1") - Vec2{15, 4}) < 1e-12);
    CHECK(length(typed("8 at 30°") - Vec2{10 + 8 * std::sqrt(3) / 2, 9}) < 1e-12);
    CHECK(length(typed("20") - Vec2{10, 25}) < 1e-12); // toward the pointer, straight up
    CHECK(length(typed("7, 8", std::nullopt) - Vec2{7, 8}) < 1e-12);
}

TEST_CASE("What is no place is told, however it is garbled") {
    for (const std::string text : {"", "12", "+1, 2", "a, b", "1,", ",2", "1 at", "3 kg, 4"}) {
        const auto place = placeFromText(text, UnitSystem{}, {}, std::nullopt, {});
        REQUIRE(!place);
        CHECK(place.error().sentence.text().size() > 10);
        CHECK(place.error().sentence.text().back() == '.');
    }
    std::string garbled;
    for (int k = 0; k < 4000; ++k) {
        garbled += static_cast<char>(32 + (k * 7919 + k * k * 31) % 95);
        if (garbled.size() > 14) garbled.clear();
        const auto place = placeFromText(garbled, UnitSystem{}, {}, Vec2{1, 1}, {5, 5});
        if (!place) CHECK(!place.error().sentence.empty());
    }
}

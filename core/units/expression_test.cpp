#include "core/units/expression.hpp"
#include "core/units/quantity.hpp"
#include "tests/support/seeded.hpp"

#include <catch2/catch.hpp>

#include <numbers>

using namespace gc;

namespace {

const UnitSystem kMetric;

NameLookup someNames() {
    return [](const std::string& n) -> std::optional<Amount> {
        if (n == "wall") return Amount{2.4, kLength};
        if (n == "count") return Amount{6, kNumber};
        if (n == "turn") return Amount{std::numbers::pi / 3, kAngle};
        return std::nullopt;
    };
}

} // namespace

TEST_CASE("Lengths in every accepted spelling give the right millimetres") {
    struct Row {
        const char* text;
        double mm;
    };
    const Row rows[] = {
        {"2.8", 2.8},
        {"2,8", 2.8},
        {".5", 0.5},
        {"7/64 in", 7.0 / 64 * 25.4},
        {"3 3/8 in", 3.375 * 25.4},
        {"7.75 in / 2", 7.75 * 25.4 / 2},
        {"wall + 0.4 mm", 2.8},
        {"wall + 0.4", 2.8},
        {"wall*2", 4.8},
        {"2 wall", -1}, // two things side by side: an error
        {"1\"", 25.4},
        {"1 ft", 304.8},
        {"-(3 - 5) mm", 2},
        {"(3 - 5) mm", -2},
        {"2 cm − 3 mm", 17},
        {"4 × 2.5", 10},
        {"sqrt(16) * wall", 9.6},
        {"max(wall, 3)", 3},
        {"min(wall; 3 mm; 1 mm)", 1},
        {"round(wall)", 2},
        {"10 mm * sin(30)", 5},
        {"10 mm * cos(turn)", 5},
        {"wall * wall / (1 mm)", 5.76},
        {"(2 mm)^2 / 1 mm", 4},
        {"2^3", 8},
        {"-2^2", -4},
        {"1e-3 m", 1},
        {"1/3", 1.0 / 3},
        {"30 mm / count", 5},
    };
    for (const Row& row : rows) {
        INFO(row.text);
        const auto r = evaluate(row.text, kLength, kMetric, someNames());
        if (row.mm == -1) {
            CHECK_FALSE(r.ok());
            continue;
        }
        REQUIRE(r.ok());
        CHECK(r->value == Approx(row.mm).epsilon(1e-14));
    }
}

TEST_CASE("Commas part the values of a function; where they may mean two things they are asked about") {
    const std::pair<const char*, double> clear[] = {
        {"max(20,40)", 40},      {"min(30,25)", 25},           {"max(20, 40) mm", 40},  {"min(30,25,28)", 25},
        {"max(2,5; 3)", 3},      {"max(2,5;1)", 2.5},          {"sqrt(6,25 - 0;)", -1}, {"2,5 * max(1,2)", 5},
        {"max((2,5), 1)", 2.5},  {"0,125 in", 3.175},          {"12,5", 12.5},          {"1,2345 mm", 1.2345},
        {"max(min(9,7), 8)", 8}, {"min(1;max(0,5;0,25))", 0.5}};
    for (const auto& [text, mm] : clear) {
        INFO(text);
        const auto r = evaluate(text, kLength, kMetric);
        if (mm < 0) {
            CHECK_FALSE(r.ok());
            continue;
        }
        REQUIRE(r.ok());
        CHECK(r->value == Approx(mm).epsilon(1e-14));
    }
    const std::pair<const char*, const char*> doubtful[] = {
        {"1,000 mm", "1.000 or 1000"},        {"12,500", "12.500 or 12500"},
        {"1,000,000", "more than one comma"}, {"1.000,5", "more than one comma"},
        {"1,5,2", "more than one comma"},     {"max(2,5 mm, 3 mm)", "one number or two"},
        {"max(7)", "two values or more"},     {"min(7 mm)", "two values or more"}};
    for (const auto& [text, says] : doubtful) {
        INFO(text);
        const auto r = evaluate(text, kLength, kMetric);
        REQUIRE_FALSE(r.ok());
        CHECK_THAT(r.error().sentence.text(), Catch::Matchers::Contains(says));
    }
}

TEST_CASE("A chain of values may be as long as a part can hold") {
    constexpr int kLinks = 20000;
    for (const bool brackets : {false, true}) {
        std::vector<NamedValue> values;
        for (int i = kLinks; i > 0; --i) {
            const std::string needs = "v" + std::to_string(i - 1);
            values.push_back(
                {"v" + std::to_string(i), brackets ? "((" + needs + ")) + 1 mm" : needs + " + 1 mm", ""});
        }
        values.push_back({"v0", "5 mm", ""});
        const auto all = evaluateValues(values, kMetric);
        REQUIRE(all.ok());
        CHECK(all->at("v" + std::to_string(kLinks)).value == Approx(kLinks + 5));
        values.back().expression = "v" + std::to_string(kLinks);
        const auto round = evaluateValues(values, kMetric);
        REQUIRE_FALSE(round.ok());
        CHECK(round.error().code == "values.circle");
        CHECK(round.error().sentence.text().size() < 200);
    }
}

TEST_CASE("A bare number takes the part's unit and the field's dimension") {
    UnitSystem inches;
    inches.length = "in";
    CHECK(evaluate("2", kLength, inches)->value == Approx(50.8));
    CHECK(evaluate("90", kAngle, kMetric)->value == Approx(std::numbers::pi / 2));
    CHECK(evaluate("6", kNumber, kMetric)->value == 6);
    CHECK(evaluate("680", kVolume, kMetric)->value == Approx(680e3));
}

TEST_CASE("Mistakes are answered with their position and what to do") {
    struct Row {
        const char* text;
        int position;
        const char* says;
    };
    const Row rows[] = {
        {"", 0, "Type a number"},         {"2 +", 3, "stops too early"},
        {"2 3", 2, "side by side"},       {"wall + 3°", 5, "cannot be added"},
        {"(2 mm", 5, "closing bracket"},  {"thick * 2", 0, "no value called \"thick\""},
        {"3 / 0", 2, "Division by zero"}, {"mm", 0, "number is missing"},
        {"45°", 0, "needs a length"},     {"2 § 3", 2, "not expected"},
        {"wall mm", 5, "not expected"},   {"(wall) mm", 7, "has a unit already"},
        {"1e999", 0, "too large"},        {"sqrt(-1)", 0, "square root"},
    };
    for (const Row& row : rows) {
        INFO(row.text);
        const auto r = evaluate(row.text, kLength, kMetric, someNames());
        REQUIRE_FALSE(r.ok());
        CHECK(r.error().position == row.position);
        CHECK_THAT(r.error().sentence, Catch::Matchers::Contains(row.says));
    }
}

TEST_CASE("Values depend on each other in any order, and a circle is named") {
    auto ok = evaluateValues({{"height", "wall * 40", ""},
                              {"wall", "2.5 mm", ""},
                              {"lean", "2°", ""},
                              {"n", "count_of", ""},
                              {"count_of", "6 mm / 1 mm", ""}},
                             kMetric);
    REQUIRE(ok.ok());
    CHECK(ok->at("height").value == Approx(100));
    CHECK(ok->at("lean").dimension == kAngle);
    CHECK(ok->at("n").dimension == kNumber);

    auto circle = evaluateValues({{"a", "b + 1", ""}, {"b", "c", ""}, {"c", "a", ""}}, kMetric);
    REQUIRE_FALSE(circle.ok());
    CHECK(circle.error().code == "values.circle");
    CHECK(circle.error().culprits == std::vector<std::string>{"a", "b", "c"});

    CHECK(evaluateValues({{"mm", "3", ""}}, kMetric).error().code == "values.name");
    CHECK(evaluateValues({{"w", "3", ""}, {"w", "4", ""}}, kMetric).error().code == "values.twice");
}

TEST_CASE("A text says its units before others are understood, and keeps its size") {
    UnitSystem inches;
    inches.length = "in";
    const auto said = [&](const char* text) { return sayUnits(text, kLength, kMetric, inches, someNames()); };
    CHECK(said("24") == "24 mm");
    CHECK(said(" -2,4 ") == " -2,4 mm ");
    CHECK(said("7/64 in") == "7/64 in");
    CHECK(said("3 3/8") == "3 3/8 mm");
    CHECK(said("7/64") == "(7/64) mm");
    CHECK(said("wall + 0.4") == "wall + 0.4 mm");
    CHECK(said("wall * 2 + 1") == "wall * 2 + 1 mm");
    CHECK(said("2 + 3 * 4") == "2 mm + (3 * 4) mm");
    CHECK(said("max(20, wall)") == "max(20 mm, wall)");
    CHECK(said("max(20, 40)") == "max(20, 40) mm");
    CHECK(said("round(wall / 2)") == "(round((wall / 2) / 1 mm) * 1 mm)");
    CHECK(said("2 mm / 3 * sin(30)") == "2 mm / 3 * sin(30)");
    CHECK(said("nonsense + 1") == "nonsense + 1");
    // Whatever is said: the size is that of before, and saying it once more changes nothing.
    auto random = test::seeded(17U);
    const char* pieces[] = {"1", "2.5",    "7/64", "3 1/2", "wall",   "pi",  "(",   ")",
                            "+", "-",      "*",    "/",     "^2",     " mm", " in", "max(",
                            ",", "round(", "abs(", "sqrt(", "floor(", "°"};
    int sound = 0;
    for (int k = 0; k < test::rounds(20000); ++k) {
        std::string text;
        for (unsigned n = 1 + random() % 9; n > 0; --n) text += pieces[random() % std::size(pieces)];
        for (const Dimension d : {kLength, kNumber, kVolume}) {
            const auto before = evaluate(text, d, kMetric, someNames());
            if (!before) continue;
            const std::string now = sayUnits(text, d, kMetric, inches, someNames());
            const auto after = evaluate(now, d, inches, someNames());
            INFO(text << " -> " << now);
            REQUIRE(after.ok());
            CHECK(after->value == Approx(before->value).epsilon(1e-12).margin(1e-12));
            CHECK(sayUnits(now, d, inches, kMetric, someNames()) == now);
            ++sound;
        }
    }
    CHECK(sound > 1000);
}

TEST_CASE("Renaming a value touches whole words only") {
    CHECK(renameIn("wall + wallet * wall", "wall", "skin") == "skin + wallet * skin");
    CHECK(namesUsed("wall + 3 mm * sin(turn)") == std::set<std::string>{"wall", "turn"});
}

TEST_CASE("Only a number with a unit may be dragged") {
    CHECK(isPlainNumber("2.4 mm"));
    CHECK(isPlainNumber("-3"));
    CHECK_FALSE(isPlainNumber("wall + 1"));
    CHECK_FALSE(isPlainNumber("7/64 in"));
}

TEST_CASE("Amounts are written with their unit and without idle zeros") {
    CHECK(formatAmount(2.4, "mm") == "2.4 mm");
    CHECK(formatAmount(std::numbers::pi, "°") == "180°");
    CHECK(formatAmount(25.4, "in") == "1 in");
    CHECK(formatNumber(-0.00001, 3) == "0");
}

TEST_CASE("Typed quantities keep their dimension") {
    const Length side = Length::mm(2) + Length::in(1);
    CHECK(side.mm() == Approx(27.4));
    const Volume v = side * side * side;
    CHECK(v.ml() == Approx(27.4 * 27.4 * 27.4 / 1000));
    CHECK((Density(0.905e-3) * Volume::ml(100)).g() == Approx(90.5));
}

TEST_CASE("No text makes the reader fail in any other way than with an error") {
    auto random = test::seeded(7U);
    const std::string alphabet = "0123456789.,+-*/^()mincdeg°\"wall sqrtπ×";
    for (int k = 0; k < test::rounds(20000); ++k) {
        std::string text;
        const int n = static_cast<int>(random() % 24);
        for (int i = 0; i < n; ++i) text += alphabet[random() % alphabet.size()];
        const auto r = evaluate(text, kLength, kMetric, someNames());
        if (r)
            CHECK(std::isfinite(r->value));
        else
            CHECK_FALSE(r.error().sentence.empty());
    }
    CHECK_FALSE(evaluate(std::string(5000, '('), kLength, kMetric).ok());
}

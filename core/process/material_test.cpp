#include "core/process/material.hpp"

#include <catch2/catch.hpp>

#include <set>

using namespace gc;

TEST_CASE("The shipped materials are at least twenty, each with a source and a plausible density") {
    setenv("XDG_CONFIG_HOME", "/nonexistent", 1);
    const auto materials = loadMaterials();
    REQUIRE(materials.ok());
    CHECK(materials->size() >= 20);
    std::set<std::string> families;
    for (const Material& m : *materials) {
        INFO(m.name);
        families.insert(m.family);
        CHECK(m.source.size() > 10);
        CHECK(m.density.internal() * 1000 > 0.05);
        CHECK(m.density.internal() * 1000 < 22);
    }
    for (const char* f : {"polymer", "metal", "ceramic", "rubber"}) CHECK(families.count(f) == 1);
    REQUIRE(findMaterial(*materials, "polypropylene"));
    CHECK(findMaterial(*materials, "polypropylene")->density.internal() == Approx(0.905e-3));
}

TEST_CASE("A broken materials file is answered with the row that is at fault") {
    CHECK(parseMaterials("{").error().code == "materials.syntax");
    const auto bad =
        parseMaterials(R"({"materials":[{"name":"a","family":"x","density_g_cm3":1,"source":"weighed"},
                                       {"name":"b","family":"x","density_g_cm3":-1,"source":"weighed"}]})");
    REQUIRE_FALSE(bad.ok());
    CHECK(bad.error().position == 1);
    CHECK_THAT(bad.error().sentence, Catch::Matchers::Contains("b"));
}

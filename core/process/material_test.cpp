#include "core/process/material.hpp"

#include "core/base/file.hpp"
#include "tests/support/temporary_folder.hpp"

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

TEST_CASE("A density is read with its unit, and worked out") {
    for (const char* text :
         {"0.93", "0.93 g/cm³", "930 kg/m³", "930kg/m3", "0.93 kg/l", "12.09 / 13 g/cm³"}) {
        INFO(text);
        const auto d = densityFromText(text);
        REQUIRE(d.ok());
        CHECK(d->internal() == Approx(0.93e-3).epsilon(1e-12));
    }
    for (const char* text : {"", "heavy", "0", "-1 g/cm³", "31", "1e9 kg/m³", "5 mm", "g/cm³"}) {
        INFO(text);
        CHECK(densityFromText(text).error().code == "materials.density");
    }
}

TEST_CASE(
    "Own materials are kept beside the shipped ones, replaced by name, and never lost to a broken file") {
    const gc::test::TemporaryFolder folder;
    setenv("XDG_CONFIG_HOME", folder.path().c_str(), 1);
    const std::size_t shipped = loadMaterials()->size();
    CHECK(keepOwnMaterial({"", "other", Density(1e-3), "weighed"}).error().code == "materials.name");
    CHECK(keepOwnMaterial({"corn blend", "other", Density(1e-3), ""}).error().code == "materials.source");
    REQUIRE(keepOwnMaterial({"corn blend", "other", Density(1.24e-3), "weighed: 12.4 g, 10 cm³"}).ok());
    REQUIRE(keepOwnMaterial({"oak", "other", Density(0.7e-3), "data sheet"}).ok());
    REQUIRE(keepOwnMaterial({"corn blend", "other", Density(1.25e-3), "weighed again"}).ok());
    const auto all = loadMaterials();
    REQUIRE(all.ok());
    CHECK(all->size() == shipped + 2);
    CHECK(findMaterial(*all, "corn blend")->density.internal() == Approx(1.25e-3).epsilon(1e-12));
    CHECK(findMaterial(*all, "corn blend")->source == "weighed again");
    REQUIRE(writeFileAtomically(userMaterialsPath(), "{ broken").ok());
    CHECK_FALSE(keepOwnMaterial({"elm", "other", Density(0.6e-3), "data sheet"}).ok());
    CHECK(*readFile(userMaterialsPath()) == "{ broken");
    setenv("XDG_CONFIG_HOME", "/nonexistent", 1);
}

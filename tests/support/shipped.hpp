#pragma once
/// \file The parts that are shipped as demos.

#include "core/document/part_file.hpp"

#include <catch2/catch.hpp>

namespace gc::test {

/// Those that build within a second or two, by the names of their files.
inline const char* const kDemos[] = {"herb-pot",     "saucer",      "seed-box",        "tap-cover",
                                     "ground-spike", "plant-label", "rail-hook",       "sprinkler-rose",
                                     "plant-stand",  "trowel-grip", "former-and-skin", "timer-box"};

inline Part demo(const std::string& name) {
    auto part = loadPart("demo/" + name + ".goodcurve");
    REQUIRE(part.ok());
    return *part;
}

inline Part herbPot() {
    return demo("herb-pot");
}

} // namespace gc::test

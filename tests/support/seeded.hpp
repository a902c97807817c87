#pragma once
/// \file For tests: random numbers that are the same in every run of CI, and others in each round of
/// tools/check-deep.

#include <cstdlib>
#include <random>

namespace gc::test {

/// The generator of a test; its own number tells it from those of other tests. GC_SEED picks another round.
inline std::mt19937 seeded(unsigned own) {
    const char* round = std::getenv("GC_SEED");
    return std::mt19937(own + (round ? 7919U * static_cast<unsigned>(std::atoi(round)) : 0U));
}

/// How often to try: GC_DEEP, as tools/check-deep sets it, is forty times CI's.
inline int rounds(int inCi) {
    return std::getenv("GC_DEEP") ? inCi * 40 : inCi;
}

} // namespace gc::test

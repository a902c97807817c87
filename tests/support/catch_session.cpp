// The frame of the tests, for programs that have a main() of their own. Built once, without precompiled
// headers.
#define CATCH_CONFIG_RUNNER
#include "tests/support/catch_session.hpp"

#include <catch2/catch.hpp>

namespace gc::test {

int runTests(int argc, char** argv) {
    return Catch::Session().run(argc, argv);
}

} // namespace gc::test

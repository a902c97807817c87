// The main function of the test programs that have none of their own.
#include "tests/support/catch_session.hpp"

int main(int argc, char** argv) {
    return gc::test::runTests(argc, argv);
}

#pragma once
/// \file Runs the tests of a program.

namespace gc::test {

/// \param argc, argv the tests to run and how, as on the command line of every test program
/// GC_SHARE in the environment, as "2/3": only every third test, from the second; so several programs share
/// them. \return how many failed, at most 255
int runTests(int argc, char** argv);

} // namespace gc::test

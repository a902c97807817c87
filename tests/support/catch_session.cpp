// The frame of the tests, for programs that have a main() of their own. Built once, without precompiled
// headers.
#define CATCH_CONFIG_RUNNER
#include "tests/support/catch_session.hpp"

#include <catch2/catch.hpp>

#include <cstdio>
#include <cstdlib>

namespace gc::test {

namespace {

/// A test by its name, as the command line would have to say it.
std::string quoted(const std::string& name) {
    std::string out;
    for (const char c : name) {
        if (c == '\\' || c == ',' || c == '[' || c == '"') out += '\\';
        out += c;
    }
    return out;
}

/// Of the tests that were asked for every n-th one, from the k-th.
void takeShare(Catch::Session& session, const char* share) {
    unsigned k = 0, n = 0, i = 0;
    if (std::sscanf(share, "%u/%u", &k, &n) != 2 || n == 0) return;
    const Catch::Config& config = session.config();
    std::vector<std::string> mine;
    for (const auto& test : filterTests(Catch::getAllTestCasesSorted(config), config.testSpec(), config))
        if (i++ % n == k - 1) mine.push_back(quoted(test.name));
    session.configData().testsOrTags.clear();
    for (const std::string& name : mine) // with commas between: one of these
        session.configData().testsOrTags.push_back(name + ",");
    session.useConfigData(session.configData());
}

} // namespace

int runTests(int argc, char** argv) {
    Catch::Session session;
    if (const int fault = session.applyCommandLine(argc, argv)) return fault;
    if (const char* share = std::getenv("GC_SHARE")) takeShare(session, share);
    return session.run();
}

} // namespace gc::test

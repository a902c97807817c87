#pragma once
/// \file What the verbs of good-curve-cli do.

#include <string>
#include <vector>

namespace gc::cli {

struct Options {
    std::string file;
    std::string to;
    bool json = false;
    bool guard = true; ///< the kernel works in a process of its own
    bool evenIfStepsFail = false;
    bool toBookmark = false;         ///< not the whole part
    std::vector<std::string> bodies; ///< export: those that are wanted; empty: all
};

int check(const Options& options);
int measure(const Options& options);
int exportPart(const Options& options);

} // namespace gc::cli

#pragma once
/// \file What the verbs of good-curve-cli do.

#include <string>

namespace gc::cli {

struct Options {
    std::string file;
    std::string to;
    bool json = false;
    bool guard = true; ///< the kernel works in a process of its own
    bool evenIfStepsFail = false;
};

int check(const Options& options);
int measure(const Options& options);
int exportPart(const Options& options);

} // namespace gc::cli

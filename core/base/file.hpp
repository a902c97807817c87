#pragma once
/// \file Whole files in and out, with failures as sentences.

#include "core/base/result.hpp"

#include <cstddef>
#include <filesystem>
#include <string>
#include <string_view>

namespace gc {

/// Reads a whole file. Errors: "file.missing", "file.unreadable", "file.too-large" (over mostBytes).
Result<std::string> readFile(const std::filesystem::path& path, std::size_t mostBytes = 256u << 20);

/// Writes beside the target, syncs, then renames over it, so that either the old or the new content is there
/// whatever happens. Error: "file.unwritable".
Result<Done> writeFileAtomically(const std::filesystem::path& path, std::string_view content);

/// Where the files that are shipped with the program are: $GOOD_CURVE_DATA, else share/good-curve beside the
/// program, else data/ of the source tree.
std::filesystem::path dataDirectory();

} // namespace gc

#pragma once
/// \file Whole files in and out, with failures as sentences.

#include "core/base/result.hpp"

#include <cstddef>
#include <cstdint>
#include <filesystem>
#include <optional>
#include <string>
#include <string_view>

namespace gc {

/// Reads a whole regular file: pipes and devices, which may never end, are refused. Errors: "file.missing",
/// "file.unreadable", "file.too-large" (over mostBytes).
Result<std::string> readFile(const std::filesystem::path& path, std::size_t mostBytes = 256u << 20);

/// Writes beside the target, syncs, then renames over it, so that either the old or the new content is there
/// whatever happens. Where the path is a link, its target is written and the link stays. A file that may not
/// be written is not replaced. Errors: "file.unwritable", "file.read-only".
Result<Done> writeFileAtomically(const std::filesystem::path& path, std::string_view content);

/// Makes what was created, renamed or removed in a folder stay so after a power failure.
void syncFolder(const std::filesystem::path& folder);

/// Identity of what a file holds; nothing when it is not there or cannot be read.
std::optional<std::uint64_t> contentHash(const std::filesystem::path& path);

/// Where the files that are shipped with the program are: $GOOD_CURVE_DATA, else share/good-curve beside the
/// program, else data/ of the source tree.
std::filesystem::path dataDirectory();

} // namespace gc

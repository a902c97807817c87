#pragma once
/// \file Parts in and out of `.goodcurve` files: UTF-8 JSON as documented in docs/file-format.md.

#include "core/document/part.hpp"

#include <filesystem>

namespace gc {

inline constexpr int kPartFileVersion = 2;

/// The part as text: stable key order, one step a group of lines, so that a difference reads like the sheet.
std::string writePart(const Part& part);

/// Errors: "part.syntax" (position = byte), "part.format", "part.newer", "part.content" (culprits = the path
/// of the entry at fault). Nothing of a bad file is taken.
Result<Part> readPart(const std::string& text);

/// Why a part could not be read back from its file: looks at what is other than before. Nothing when it can.
/// What does not pass is not taken as an edit, so that whatever a part holds can be saved and opened. Codes:
/// "part.content", "part.unreadable".
std::optional<Error> whyNotReadable(const Part& now, const Part& before);

Result<Part> loadPart(const std::filesystem::path& path);
/// Reads back what it writes before it writes it. Errors: those of readPart and of writeFileAtomically.
Result<Done> savePart(const Part& part, const std::filesystem::path& path);

} // namespace gc

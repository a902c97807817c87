#pragma once
/// \file Bytes that travel in a text (RFC 4648, section 4).

#include <optional>
#include <string>
#include <string_view>

namespace gc {

/// The bytes; nothing where the text is no base64. Line ends and spaces are passed over.
std::optional<std::string> fromBase64(std::string_view text);

} // namespace gc

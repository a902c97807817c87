#pragma once
/// \file Text from elsewhere, made valid at the door.

#include <string>
#include <string_view>

namespace gc {

bool isUtf8(std::string_view text);

/// The text as it is where it is valid UTF-8; else with every byte that is not part of it read as Latin-1,
/// which is what such bytes nearly always are. What comes out is always valid.
std::string madeUtf8(std::string_view text);

} // namespace gc

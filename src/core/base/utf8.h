#pragma once

#include <string>
#include <string_view>

namespace lostline {

/// `text` where it is UTF-8, else with U+FFFD for every byte that belongs to no character, as names
/// of files may hold any byte. Source: The Unicode Standard 15.0, table 3-7.
std::string as_utf8(std::string_view text);

}  // namespace lostline

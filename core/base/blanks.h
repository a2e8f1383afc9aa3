// Blanks round words.
#pragma once

#include <string_view>

namespace oa {

/// Without blanks, tabs and line ends at both ends.
inline std::string_view trimmed(std::string_view text) {
  constexpr std::string_view kBlanks = " \t\r\n\v\f";
  const auto first = text.find_first_not_of(kBlanks);
  return first == std::string_view::npos ? std::string_view() : text.substr(first, text.find_last_not_of(kBlanks) - first + 1);
}

}  // namespace oa

#include "base/markup.h"

namespace oa {

std::string markupText(std::string_view text) {
  std::string out;
  for (const char c : text) {
    if (c == '&')
      out += "&amp;";
    else if (c == '<')
      out += "&lt;";
    else if (c == '"')
      out += "&quot;";
    else if (static_cast<unsigned char>(c) >= 32)
      out += c;
  }
  return out;
}

}  // namespace oa

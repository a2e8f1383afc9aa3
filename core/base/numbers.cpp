#include "base/numbers.h"

#include <charconv>
#include <system_error>

namespace oa {

std::string numberText(double v, int maxDecimals) {
  if (!std::isfinite(v)) return v != v ? "nan" : (v < 0 ? "-inf" : "inf");
  char buffer[400];
  auto [end, error] = std::to_chars(buffer, buffer + sizeof buffer, v, std::chars_format::fixed, maxDecimals);
  std::string text(buffer, error == std::errc{} ? end : buffer);
  if (text.find('.') != std::string::npos) {
    while (text.back() == '0') text.pop_back();
    if (text.back() == '.') text.pop_back();
  }
  return text == "-0" ? "0" : text;
}

bool parseNumber(const std::string& text, double& out) {
  double v = 0;
  const char* first = text.data();
  const char* last = first + text.size();
  if (first != last && *first == '+') ++first;
  auto [end, error] = std::from_chars(first, last, v);
  if (error != std::errc{} || end != last || !std::isfinite(v)) return false;
  out = v;
  return true;
}

}  // namespace oa

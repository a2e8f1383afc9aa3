#include "store/stand_in.h"

#include <algorithm>
#include <cmath>

#include "base/markup.h"
#include "base/utf8.h"

namespace oa {
std::string standInDrawing(const std::string& name, int width, int height) {
  const double side = std::min(width, height);
  const double stripe = std::max(4.0, side / 24);
  const std::string text = isUtf8(name) ? markupText(name) : std::string("?");
  const double size = std::clamp(std::min(side / 8, 1.5 * width / std::max<double>(4, static_cast<double>(name.size()))), 3.0, 96.0);
  const auto n = [](double v) { return std::to_string(v); };
  return "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"" + n(width) + "\" height=\"" + n(height) +
         "\"><defs><pattern id=\"h\" patternUnits=\"userSpaceOnUse\" width=\"" + n(2 * stripe) + "\" height=\"" + n(2 * stripe) +
         "\" patternTransform=\"rotate(45)\"><rect width=\"" + n(2 * stripe) + "\" height=\"" + n(2 * stripe) +
         "\" fill=\"#2b3138\"/><rect width=\"" + n(stripe) + "\" height=\"" + n(2 * stripe) +
         "\" fill=\"#4a525c\"/></pattern></defs><rect width=\"100%\" height=\"100%\" fill=\"url(#h)\"/><text x=\"50%\" y=\"50%\" "
         "text-anchor=\"middle\" dominant-baseline=\"central\" font-family=\"sans-serif\" font-size=\"" +
         n(size) + "\" fill=\"#f2efe6\" stroke=\"#1b2026\" stroke-width=\"" + n(size / 6) + "\" paint-order=\"stroke\">" + text +
         "</text></svg>";
}

}  // namespace oa

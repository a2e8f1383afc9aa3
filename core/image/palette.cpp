#include "image/palette.h"

#include <algorithm>
#include <cmath>
#include <numeric>

namespace oa {

std::size_t nearestColour(const std::vector<Colour>& colours, const Colour& colour) {
  const OkLab wanted = toOkLab(colour);
  std::size_t best = 0;
  double least = 1e30;
  for (std::size_t i = 0; i < colours.size(); ++i) {
    const OkLab c = toOkLab(colours[i]);
    const double d = (c.L - wanted.L) * (c.L - wanted.L) + (c.a - wanted.a) * (c.a - wanted.a) + (c.b - wanted.b) * (c.b - wanted.b);
    if (d < least) {
      least = d;
      best = i;
    }
  }
  return best;
}

namespace {

std::vector<std::size_t> byLightness(const std::vector<Colour>& colours) {
  std::vector<std::size_t> order(colours.size());
  std::iota(order.begin(), order.end(), 0);
  std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return toOkLab(colours[a]).L < toOkLab(colours[b]).L; });
  return order;
}

}  // namespace

std::vector<Colour> matchedColours(const std::vector<Colour>& from, const std::vector<Colour>& to) {
  if (from.empty() || to.empty()) return from;
  const auto ranks = byLightness(from);
  const auto shades = byLightness(to);
  std::vector<Colour> result(from.size());
  for (std::size_t rank = 0; rank < ranks.size(); ++rank) {
    const double share = ranks.size() == 1 ? 0.5 : static_cast<double>(rank) / static_cast<double>(ranks.size() - 1);
    const double place = share * static_cast<double>(shades.size() - 1);
    Colour colour;
    if (from.size() <= to.size()) {
      colour = to[shades[static_cast<std::size_t>(std::lround(place))]];
    } else {
      const auto lower = std::min(static_cast<std::size_t>(place), shades.size() - 1);
      const auto upper = std::min(lower + 1, shades.size() - 1);
      colour = mixColours(to[shades[lower]], to[shades[upper]], place - static_cast<double>(lower), ColourMixing::OkLab);
    }
    colour.a = from[ranks[rank]].a;
    result[ranks[rank]] = colour;
  }
  return result;
}

}  // namespace oa

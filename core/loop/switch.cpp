#include "loop/switch.h"

#include <algorithm>
#include <cmath>

#include "base/numbers.h"
#include "base/random.h"

namespace oa {
namespace {

// Half of the steps are whole; the others are lost by up to all of it.
double kept(const Flicker& flicker, double u) {
  if (flicker.amount <= 0) return 1;
  const auto step = static_cast<std::uint64_t>(std::floor(fract(u) * std::max(1, flicker.steps)));
  return 1 - flicker.amount * std::max(0.0, 2 * randomUnit(flicker.seed, step) - 1);
}

}  // namespace

double switchAt(const HoldShares& shares, const Flicker& flicker, double u) {
  const double height = swingAt(SwingShape::Hold, shares, u);
  return height > 0 ? height * kept(flicker, u) : 0;
}

double switchedBy(double level, double over, const Flicker& flicker, double u) {
  constexpr double kSoft = 0.05;
  const double t = std::clamp((level - over) / (2 * kSoft) + 0.5, 0.0, 1.0);
  return t * t * (3 - 2 * t) * kept(flicker, u);
}

}  // namespace oa

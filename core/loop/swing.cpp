#include "loop/swing.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "base/numbers.h"

namespace oa {

double swingAt(SwingShape shape, const HoldShares& shares, double u) {
  u = fract(u);
  const double triangle = u < 0.5 ? 2 * u : 2 - 2 * u;
  switch (shape) {
    case SwingShape::Sine:
      return 0.5 - 0.5 * std::cos(2 * std::numbers::pi * u);
    case SwingShape::Triangle:
      return triangle;
    case SwingShape::Rounded: {
      // Straight flanks with parabolic ends a fifth of the way long: the slope has no jump.
      constexpr double kRound = 0.2;
      constexpr double kSlope = 1 / (1 - kRound);
      if (triangle < kRound) return kSlope * triangle * triangle / (2 * kRound);
      if (triangle > 1 - kRound) return 1 - kSlope * (1 - triangle) * (1 - triangle) / (2 * kRound);
      return kSlope * (triangle - kRound / 2);
    }
    case SwingShape::Hold: {
      const auto soft = [](double t) { return t * t * (3 - 2 * t); };
      if (u < shares.up) return soft(u / shares.up);
      u -= shares.up;
      if (u < shares.hold) return 1;
      u -= shares.hold;
      return u < shares.down ? 1 - soft(u / shares.down) : 0;
    }
  }
  return 0;
}

HoldShares withShare(HoldShares shares, HoldPart part, double share) {
  double* const up = &shares.up;
  double* const hold = &shares.hold;
  double* const down = &shares.down;
  double* const order[3][3] = {{up, hold, down}, {hold, down, up}, {down, hold, up}};
  double* const* parts = order[static_cast<std::size_t>(part)];
  *parts[0] = std::clamp(share, 0.0, 1.0);
  *parts[1] = std::min(*parts[1], 1 - *parts[0]);
  *parts[2] = std::min(*parts[2], 1 - *parts[0] - *parts[1]);
  return shares;
}

const std::vector<std::string>& swingShapeNames() {
  static const std::vector<std::string> names{"sine", "triangle", "rounded", "hold"};
  return names;
}

std::string_view swingShapeName(SwingShape shape) { return swingShapeNames()[static_cast<std::size_t>(shape)]; }

Result<SwingShape> swingShapeFromName(std::string_view name) {
  const auto& names = swingShapeNames();
  const auto found = std::find(names.begin(), names.end(), name);
  if (found == names.end())
    return fail("\"" + std::string(name.substr(0, 40)) + "\" is not a swing shape; use sine, triangle, rounded or hold");
  return static_cast<SwingShape>(found - names.begin());
}

}  // namespace oa

// The shapes of a swing: there and back within one lap.
#pragma once

#include <string>
#include <string_view>
#include <vector>

#include "base/result.h"

namespace oa {

enum class SwingShape { Sine, Triangle, Rounded, Hold };

/// Shares of a lap for SwingShape::Hold: going up, held up, coming down; the rest is held down.
/// Each in [0, 1], together at most 1.
struct HoldShares {
  double up = 0.25;
  double hold = 0.25;
  double down = 0.25;
  bool operator==(const HoldShares&) const = default;
};

/// The same with one of them set, [0, 1]: what it needs is taken from the part that follows it (the first from the second, the others from
/// each other), and then from the third.
enum class HoldPart { Up, Hold, Down };
HoldShares withShare(HoldShares shares, HoldPart part, double share);

/// Height in [0, 1] at share `u` of the lap; 0 at both ends of the lap for every shape.
double swingAt(SwingShape shape, const HoldShares& shares, double u);

const std::vector<std::string>& swingShapeNames();
std::string_view swingShapeName(SwingShape shape);
Result<SwingShape> swingShapeFromName(std::string_view name);

}  // namespace oa

// A run of numbers closed to a lap, and told again with few keyframes.
#pragma once

#include <cstddef>
#include <vector>

#include "params/param.h"

namespace oa::edit {

/// What a hand did at a moment.
struct Sample {
  double at = 0;  ///< laps since any beginning, growing from sample to sample
  double value = 0;
};

/// A lap of `points` numbers, evenly spaced from the lap's beginning, out of what a hand did: where it went over the same place twice
/// the last time counts. What it left out, a tenth of the lap at least, leads on from where it ended to where it began without a jump in
/// value or speed. Empty without samples.
std::vector<double> closedLap(const std::vector<Sample>& samples, std::size_t points);

/// A closed lap as keyframes on the lap's places.
struct FewKeys {
  std::vector<Keyframe> keys;  ///< of numbers; their paces are cubic, so that speed goes through every keyframe without a jump
  double off = 0;              ///< how far from the lap's numbers the curve is at most
};
/// As few as it finds that keep within `tolerance` of the numbers (at least 4 of them), kMaxKeyframes at most: from the extremes on the
/// worst place is added until all are near enough, then every one that can be spared goes. A stretch is the cubic Hermite curve between
/// its ends as a CSS Bezier pace (x1 = 1/3, x2 = 2/3, which leaves time as it is).
FewKeys fewKeys(const std::vector<double>& lap, double tolerance);

}  // namespace oa::edit

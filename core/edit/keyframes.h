// Several keyframes of one motion taken together: slower, faster, there and back, evenly.
#pragma once

#include <vector>

#include "params/param.h"

namespace oa::edit {

/// Keyframes by their numbers, in order, each once. Every tool returns those that they have afterwards; a keyframe that comes to stand on
/// one that was not chosen takes its place.
using KeyNumbers = std::vector<int>;

/// The arc of the lap that keyframes take up: all of it but the widest gap between two neighbours.
struct KeySpan {
  double from = 0;    ///< where the first stands, [0, 1)
  double length = 0;  ///< to the last; [0, 1)
};
KeySpan spanOf(const Motion& motion, const KeyNumbers& keys);

/// Moves them by a share of the lap, round the joint.
KeyNumbers shiftKeys(Motion& motion, const KeyNumbers& keys, double by);
/// Slower or faster in proportion: the arc becomes so long, [kLeastGap for each, 1 - kLeastGap], and its first keyframe, or its last,
/// stays.
KeyNumbers scaleKeys(Motion& motion, const KeyNumbers& keys, double length, bool lastStays);
/// The same distance from each to the next.
KeyNumbers spreadKeys(Motion& motion, const KeyNumbers& keys);
/// What came first comes last, within the same arc, at the paces of the way back.
KeyNumbers mirrorKeys(Motion& motion, const KeyNumbers& keys);
/// There in the first half of the arc, and back in the second. Fewer than two, or no room for so many (kMaxKeyframes): nothing happens.
KeyNumbers thereAndBack(Motion& motion, const KeyNumbers& keys);

/// Where in the loop the first lap of a motion comes to a share of it: head start and direction counted; [0, 1).
double firstLapAt(const Motion& motion, double lap);

/// Nearer than this share of a lap keyframes are not brought to each other.
inline constexpr double kLeastGap = 1e-3;

}  // namespace oa::edit

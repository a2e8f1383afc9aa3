// A switch: off, on for a part of the lap, off again.
#pragma once

#include <cstdint>

#include "loop/swing.h"

namespace oa {

/// How unsteady it is while it is on.
struct Flicker {
  double amount = 0;  ///< 0 to 1: how far it goes out at times
  int steps = 16;     ///< times a lap that it may change, 1 and more
  std::uint64_t seed = 1;
};

/// Height in [0, 1] at share `u` of the lap: it fades in, is on, fades out and is off for what is left.
double switchAt(const HoldShares& shares, const Flicker& flicker, double u);

/// The same of a switch that is on while something is louder than `over`, (0, 1]: it goes over within a tenth of the range.
double switchedBy(double level, double over, const Flicker& flicker, double u);

}  // namespace oa

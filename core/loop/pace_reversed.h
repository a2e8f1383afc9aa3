// A pace run through from its end.
#pragma once

#include "loop/pace.h"

namespace oa {

/// The pace of the way back: reversed(p).at(u) is 1 - p.at(1 - u), but for the very moments of steps. What overshoots by more than a
/// pace may is held at that.
Pace reversed(const Pace& pace);

}  // namespace oa

// How smooth steps leave what they work on (StepSpec::smooth).
#pragma once

#include "params/step_context.h"

namespace oa {

/// Of steps that are smooth themselves: as it was.
inline double smoothAsBefore(const StepContext&, double input) { return input; }

}  // namespace oa

// How a value that stood still begins to move.
#pragma once

#include "params/param.h"

namespace oa {

/// A sensible first motion of a kind for a parameter: a swing goes a fifth of its range away. What the parameter's motion holds
/// already is kept.
Motion firstMotion(const ParamSpec& spec, const Param& param, MotionKind kind);

}  // namespace oa

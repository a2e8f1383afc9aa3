// The parameters of a repeat, in the order in which its card reads: stamps, spread, differences, head starts.
#pragma once

#include <span>

#include "params/spec.h"

namespace oa {

std::span<const ParamSpec> repeatParams();
const ItemsSpec& repeatStamps();

}  // namespace oa

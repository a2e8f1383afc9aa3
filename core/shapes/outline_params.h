// The parameters of an outline as a source, in the order of its card: the line, its filling, what runs along it, what hangs from it.
#pragma once

#include <span>

#include "params/spec.h"

namespace oa {

std::span<const ParamSpec> outlineParams();

}  // namespace oa

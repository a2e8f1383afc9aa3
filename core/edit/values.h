// Changing a value that may move.
#pragma once

#include "params/param.h"

namespace oa::edit {

/// `param`, as it was when the change began, with another base value. What wanders, hops or has keyframes takes them along, each
/// held within the range; a value at rest keeps its far end with it, so that a swing given to it later starts from here. Because
/// it starts from the beginning of the change, a drag to the end of the range and back restores all of it.
Param withBase(const ParamSpec& spec, const Param& param, const Value& value);

}  // namespace oa::edit

// Changing a value that may move.
#pragma once

#include "params/param.h"

namespace oa::edit {

/// `param`, as it was when the change began, with another base value. What wanders, hops or has keyframes takes them along, each
/// held within the range; a value at rest keeps its far end with it, so that a swing given to it later starts from here. Because
/// it starts from the beginning of the change, a drag to the end of the range and back restores all of it.
Param withBase(const ParamSpec& spec, const Param& param, const Value& value);

/// A motion more, added to those that there are: it goes a lap more than the last of them. Where nothing moves yet it is the first.
Param withMotionAdded(const ParamSpec& spec, const Param& param, MotionKind kind);
/// Without its `which`-th motion; of the only one what it was is remembered, at rest.
Param withMotionRemoved(const Param& param, std::size_t which);

/// `value` moved as `to` is moved from `from`: numbers and places by as much, within their range; of other values those that were
/// equal become equal again.
Value shifted(const ParamSpec& spec, const Value& value, const Value& from, const Value& to);

}  // namespace oa::edit

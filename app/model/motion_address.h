// A parameter of the window as the operations of core/edit name it.
#pragma once

#include "edit/timing.h"
#include "model/document.h"

namespace oa::app {

static_assert(edit::MotionAddress::kOpacity == ParamAddress::kOpacity && edit::MotionAddress::kPlace == ParamAddress::kPlace &&
              edit::MotionAddress::kMask == ParamAddress::kMask && edit::MotionAddress::kMaskSource == ParamAddress::kMaskSource);

/// Of all items at once, the first one.
inline edit::MotionAddress motionAddress(const Document& document, const ParamAddress& at) {
  Id item = at.item;
  const RecipeStep* step = item == ParamAddress::kAllItems ? document.step(at.layer, at.step) : nullptr;
  if (step && !step->items.empty()) item = step->items.front().id;
  return {at.layer, at.step, at.param, item, at.motion};
}

}  // namespace oa::app

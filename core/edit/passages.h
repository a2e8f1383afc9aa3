// Arriving and leaving, of layers and of steps.
#pragma once

#include <optional>

#include "edit/layers.h"

namespace oa::edit {

/// How layers arrive or leave, times in seconds; none: they are there from the first frame, or to the last. A delay that one has stays.
Result<Ids> setPassage(Scene& scene, const Ids& layers, bool leaving, const std::optional<Passing>& passing);
/// A step behind the source arrives or leaves by itself, or with its layer again.
Result<Ids> setStepPassage(Scene& scene, Id layer, int step, bool leaving, bool on);
/// One after the other, each so many seconds after the one before it; in the order of the pile from below, or from above. Layers that do
/// not pass yet fade.
Result<Ids> orderPassages(Scene& scene, const Ids& layers, bool leaving, double apart, bool fromAbove);
/// A ready one fits only what has letters.
[[nodiscard]] bool fits(const ReadyPassage& ready, const Layer& layer);

}  // namespace oa::edit

// What can be done to the steps of a recipe. Each tells which step is the one to go on with, or why it could not be done; then
// the scene is unchanged. The source stays first.
#pragma once

#include <vector>

#include "base/result.h"
#include "scene/scene.h"

namespace oa::edit {

/// A step as its variant sets it.
RecipeStep variantStep(const StepSpec& spec, const StepVariant& variant);
/// `variant`: null, or one of those that the step has.
Result<int> addStep(Scene& scene, Id layer, const StepSpec& spec, const StepVariant* variant = nullptr);
Result<int> removeStep(Scene& scene, Id layer, int step);
/// `to` is held within what lies behind the source.
Result<int> moveStep(Scene& scene, Id layer, int from, int to);
Result<int> duplicateStep(Scene& scene, Id layer, int step);
Result<int> switchStep(Scene& scene, Id layer, int step, bool on);
Result<int> replaceSource(Scene& scene, Id layer, RecipeStep source);

}  // namespace oa::edit

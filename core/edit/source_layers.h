// The layers that a gallery of sources offers: every source in all its varieties.
#pragma once

#include <string>
#include <vector>

#include "scene/scene.h"

namespace oa::edit {

struct SourceVariety {
  const StepSpec* spec = nullptr;
  std::string variety;  ///< choice of StepSpec::varieties; empty: the source as it is
};
std::vector<SourceVariety> sourceVarieties();

/// "Ridged", or the source's own title where it has no varieties.
std::string titleOf(const SourceVariety& variety);

/// A sentence about it.
std::string_view helpOf(const SourceVariety& variety);

/// The source as a recipe begins with it.
RecipeStep sourceStep(const SourceVariety& variety);

/// A layer with it; with `colours` a field is mapped to them from dark to light.
Layer sourceLayer(const SourceVariety& variety, const std::vector<Colour>& colours);

/// A layer that shows a file, named after it: large pictures cover the scene's frame, wide ones reach over its sides and repeat, all
/// others lie in its middle in their own size, once. Clips do not repeat, and play as often as is nearest to their own speed.
Layer pictureLayer(const MediaRef& ref, const Scene& scene);

/// Colours as stops from dark to light, at most six of them.
std::vector<Item> stopsFrom(const std::vector<Colour>& colours);

}  // namespace oa::edit

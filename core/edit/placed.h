// Every parameter of a layer, with where it stands.
#pragma once

#include "edit/timing.h"

namespace oa::edit {

/// Calls visit(MotionAddress, const ParamSpec&, Param&) for every parameter of a layer, not of what lies in it, that can be seen to matter.
template <class AnyLayer, class Visit>
void forEachPlaced(AnyLayer& layer, const Visit& visit) {
  const Id id = layer.id;
  const auto step = [&](auto& s, int at) {
    for (std::size_t i = 0; i < s.params.size(); ++i)
      if (isShown(s.spec->params, s.params, i)) visit(MotionAddress{id, at, static_cast<int>(i)}, s.spec->params[i], s.params[i]);
    for (auto& item : s.items)
      for (std::size_t i = 0; i < item.params.size(); ++i)
        if (isShown(s.spec->items->params, item.params, i))
          visit(MotionAddress{id, at, static_cast<int>(i), item.id}, s.spec->items->params[i], item.params[i]);
  };
  for (std::size_t s = 0; s < layer.recipe.size(); ++s)
    if (layer.recipe[s].on) step(layer.recipe[s], static_cast<int>(s));
  for (std::size_t i = 0; i < layer.place.size(); ++i)
    visit(MotionAddress{id, MotionAddress::kPlace, static_cast<int>(i)}, placeSpecs()[i], layer.place[i]);
  if (layer.mask && layer.mask->on) {
    step(layer.mask->source, MotionAddress::kMaskSource);
    for (std::size_t i = 0; i < layer.mask->params.size(); ++i)
      visit(MotionAddress{id, MotionAddress::kMask, static_cast<int>(i)}, maskSpecs()[i], layer.mask->params[i]);
  }
  visit(MotionAddress{id, MotionAddress::kOpacity, 0}, opacitySpec(), layer.opacity);
}

}  // namespace oa::edit

#include "sheets/shown_alone.h"

#include "edit/layers.h"
#include "scene/plan.h"
#include "scene/tree.h"

namespace oa::app {

Scene shownAlone(const Scene& scene, Id layer) {
  edit::Ids kept{layer};
  LayerPlace place;
  if (const Layer* own = findLayer(scene, layer); own && readsBelow(own->recipe.front()) && placeOf(scene, layer, place)) {
    const std::vector<Layer>& beside = *layersOf(scene, place.group);
    for (int i = 0; i < place.at; ++i)
      if (beside[static_cast<std::size_t>(i)].visible) kept.push_back(beside[static_cast<std::size_t>(i)].id);
  }
  Scene shown = scene;
  (void)edit::showLayersAlone(shown, kept);
  // Where they were alone already, that has shown all of them.
  if (!edit::areAlone(shown, kept)) (void)edit::showLayersAlone(shown, kept);
  return shown;
}

}  // namespace oa::app

// A layer as galleries show it.
#pragma once

#include "edit/layers.h"

namespace oa::app {

/// The scene with this layer alone, over nothing.
inline Scene shownAlone(const Scene& scene, Id layer) {
  Scene shown = scene;
  (void)edit::showLayersAlone(shown, {layer});
  // Where it was alone already, that has shown all of them.
  if (!edit::areAlone(shown, {layer})) (void)edit::showLayersAlone(shown, {layer});
  return shown;
}

}  // namespace oa::app

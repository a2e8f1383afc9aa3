// What can be done to the layers of a scene. Each takes the scene as it is and tells which layer is the one to go on with, or
// why it could not be done; then the scene is unchanged.
#pragma once

#include <string>
#include <vector>

#include "base/result.h"
#include "scene/scene.h"

namespace oa::edit {

/// Puts a layer above layer `below` (-1: at the bottom).
Result<int> addLayer(Scene& scene, int below, Layer layer);
/// A copy right above it, with `suffix` behind its name.
Result<int> duplicateLayer(Scene& scene, int layer, const std::string& suffix);
Result<int> removeLayer(Scene& scene, int layer);
/// `to` is held within the pile.
Result<int> moveLayer(Scene& scene, int from, int to);
Result<int> renameLayer(Scene& scene, int layer, const std::string& name);
Result<int> setLayerVisible(Scene& scene, int layer, bool visible);
Result<int> setLayerLocked(Scene& scene, int layer, bool locked);
/// Shows this layer alone, or all again where it is alone already.
Result<int> showLayerAlone(Scene& scene, int layer);
[[nodiscard]] bool isAlone(const Scene& scene, int layer);

}  // namespace oa::edit

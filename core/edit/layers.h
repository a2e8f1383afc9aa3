// What can be done to the layers of a scene. Each takes the scene as it is and tells which layers are the ones to go on with, or
// why it could not be done; then the scene is unchanged. What would close a circle of layers that show each other is refused.
#pragma once

#include <optional>
#include <string>
#include <vector>

#include "base/result.h"
#include "scene/scene.h"
#include "scene/tree.h"

namespace oa::edit {

using Ids = std::vector<Id>;

/// Puts a layer above layer `above`, in the same group; 0: on top of the scene.
Result<Id> addLayer(Scene& scene, Id above, Layer layer);
/// Puts layers in a group at a place, counted from the bottom, the lowest first; they get ids of their own.
Result<Ids> insertLayers(Scene& scene, LayerPlace place, std::vector<Layer> layers);
/// A copy of each right above it, with `suffix` behind its name. Copies of layers that show each other show each other.
Result<Ids> duplicateLayers(Scene& scene, const Ids& layers, const std::string& suffix);
/// Layers that showed them show nothing from then on, and can be pointed elsewhere.
Result<Ids> removeLayers(Scene& scene, const Ids& layers);
/// Moves them, in their order, to a place among what is there now.
Result<Ids> moveLayers(Scene& scene, const Ids& layers, LayerPlace to);
/// One place up (1) or down (-1) within their group; at its end, out of it.
Result<Ids> nudgeLayers(Scene& scene, const Ids& layers, int by);

/// Makes a group of them where the topmost lies; no pixel changes where they lay next to each other.
Result<Ids> groupLayers(Scene& scene, const Ids& layers, const std::string& name);
/// Puts a group's layers in its place. Refused where that would change the picture: the group's own place, steps, mask, blend
/// mode, opacity, presence, laps or frame would be lost.
Result<Ids> ungroupLayer(Scene& scene, Id group);
/// A layer that shows this one, right above it and where it lies.
Result<Ids> addLinkedCopy(Scene& scene, Id layer, const std::string& name);

Result<Ids> renameLayer(Scene& scene, Id layer, const std::string& name);
Result<Ids> setLayersVisible(Scene& scene, const Ids& layers, bool visible);
Result<Ids> setLayersLocked(Scene& scene, const Ids& layers, bool locked);
Result<Ids> setLayerFolded(Scene& scene, Id group, bool folded);
/// Shows these alone, or all again where they are alone already: others beside them, and beside the groups they are in, are hidden.
Result<Ids> showLayersAlone(Scene& scene, const Ids& layers);
[[nodiscard]] bool areAlone(const Scene& scene, const Ids& layers);
/// Gives a layer a mask from this source, or takes it away.
Result<Ids> setMask(Scene& scene, Id layer, const std::optional<RecipeStep>& source);

/// Those of the layers that lie in no other of them, bottom to top.
[[nodiscard]] Ids outermost(const Scene& scene, const Ids& layers);
/// An error where the scene could not be made into pictures, or is deeper or larger than a scene may be.
[[nodiscard]] Status checkTree(const Scene& scene);

}  // namespace oa::edit

// The layers of a scene as the tree they are.
#pragma once

#include <functional>
#include <vector>

#include "scene/scene.h"

namespace oa {

/// Where a layer is: in which list (of a group, or the scene's own), and at which place, counted from the bottom.
struct LayerPlace {
  Id group = 0;  ///< 0: the scene itself
  int at = 0;
  bool operator==(const LayerPlace&) const = default;
};

/// Calls `visit` for every layer, a group before its own layers, bottom to top.
void forEachLayer(const std::vector<Layer>& layers, const std::function<void(const Layer&, int depth)>& visit);
void forEachLayer(std::vector<Layer>& layers, const std::function<void(Layer&, int depth)>& visit);

/// Every parameter of a layer: opacity, place, recipe, mask; not of the layers within it.
void forEachParam(const Layer& layer, const std::function<void(const ParamSpec&, const Param&)>& visit);
void forEachParam(Layer& layer, const std::function<void(const ParamSpec&, Param&)>& visit);

/// Null if there is no such layer.
const Layer* findLayer(const Scene& scene, Id id);
Layer* findLayer(Scene& scene, Id id);
/// Where it is; false if there is no such layer.
bool placeOf(const Scene& scene, Id id, LayerPlace& place);
/// The layers of a group, or the scene's own for 0; null if there is no such group.
const std::vector<Layer>* layersOf(const Scene& scene, Id group);
std::vector<Layer>* layersOf(Scene& scene, Id group);

/// All ids, a group before its own layers, bottom to top.
std::vector<Id> allIds(const Scene& scene);
std::size_t layerCount(const Scene& scene);
/// Levels of groups over the deepest layer; 0 without groups.
int groupDepth(const std::vector<Layer>& layers);
/// True if `id` is `group` or lies in it, at any depth.
bool isWithin(const Scene& scene, Id id, Id group);

/// Gives ids to layers and steps that have none, and new ones to those whose id comes a second time.
void assignIds(Scene& scene);
/// Gives all layers and steps new ids from `first` on, for putting them into a scene. What shows one of these layers goes on
/// doing so; what shows others names the same ones as before.
void renumber(std::vector<Layer>& layers, Id first);
/// The largest id in use.
Id largestId(const Scene& scene);

}  // namespace oa

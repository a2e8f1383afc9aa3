#include "edit/layers.h"

#include <algorithm>

namespace oa::edit {
namespace {

bool there(const Scene& scene, int layer) { return layer >= 0 && layer < static_cast<int>(scene.layers.size()); }

auto place(Scene& scene, int layer) { return scene.layers.begin() + layer; }

tl::unexpected<Error> none(int layer) { return fail("there is no layer " + std::to_string(layer)); }

Result<int> inserted(Scene& scene, int at, Layer layer) {
  if (scene.layers.size() >= kMaxLayers) return fail("a scene holds at most " + std::to_string(kMaxLayers) + " layers");
  scene.layers.insert(place(scene, at), std::move(layer));
  return at;
}

}  // namespace

Result<int> addLayer(Scene& scene, int below, Layer layer) {
  const int last = static_cast<int>(scene.layers.size()) - 1;
  return inserted(scene, std::clamp(below, -1, last) + 1, std::move(layer));
}

Result<int> duplicateLayer(Scene& scene, int layer, const std::string& suffix) {
  if (!there(scene, layer)) return none(layer);
  Layer copy = *place(scene, layer);
  if (copy.name.size() + suffix.size() <= kMaxNameBytes) copy.name += suffix;
  return inserted(scene, layer + 1, std::move(copy));
}

Result<int> removeLayer(Scene& scene, int layer) {
  if (!there(scene, layer)) return none(layer);
  scene.layers.erase(place(scene, layer));
  return std::clamp(layer, 0, std::max(0, static_cast<int>(scene.layers.size()) - 1));
}

Result<int> moveLayer(Scene& scene, int from, int to) {
  if (!there(scene, from)) return none(from);
  to = std::clamp(to, 0, static_cast<int>(scene.layers.size()) - 1);
  Layer moved = std::move(*place(scene, from));
  scene.layers.erase(place(scene, from));
  scene.layers.insert(place(scene, to), std::move(moved));
  return to;
}

Result<int> renameLayer(Scene& scene, int layer, const std::string& name) {
  if (!there(scene, layer)) return none(layer);
  if (name.empty()) return fail("a layer needs a name");
  if (name.size() > kMaxNameBytes) return fail("a name has at most " + std::to_string(kMaxNameBytes) + " bytes");
  place(scene, layer)->name = name;
  return layer;
}

Result<int> setLayerVisible(Scene& scene, int layer, bool visible) {
  if (!there(scene, layer)) return none(layer);
  place(scene, layer)->visible = visible;
  return layer;
}

Result<int> setLayerLocked(Scene& scene, int layer, bool locked) {
  if (!there(scene, layer)) return none(layer);
  place(scene, layer)->locked = locked;
  return layer;
}

bool isAlone(const Scene& scene, int layer) {
  for (int i = 0; i < static_cast<int>(scene.layers.size()); ++i)
    if (scene.layers[static_cast<std::size_t>(i)].visible != (i == layer)) return false;
  return there(scene, layer);
}

Result<int> showLayerAlone(Scene& scene, int layer) {
  if (!there(scene, layer)) return none(layer);
  const bool alone = isAlone(scene, layer);
  for (int i = 0; i < static_cast<int>(scene.layers.size()); ++i) place(scene, i)->visible = alone || i == layer;
  return layer;
}

}  // namespace oa::edit

// The keys of a scene that this version does not know.
#include <nlohmann/json.hpp>
#include <span>

#include "scene/json_values.h"
#include "scene/scene_json.h"

namespace oa {
namespace {

void addKeys(const std::string& path, const std::string& extra, std::vector<std::string>& list) {
  if (extra.empty()) return;
  const Json kept = Json::parse(extra, nullptr, false);
  for (const auto& [key, value] : kept.items()) list.push_back(path.empty() ? key : path + "." + key);
}

void addParamKeys(const std::string& path, const Param& param, std::vector<std::string>& list) {
  addKeys(path, param.extra, list);
  for (std::size_t m = 0; m < motionCount(param); ++m) {
    const Motion& motion = motionOf(param, m);
    const std::string here = param.more.empty() ? path + ".motion" : indexed(path, "motions", m);
    addKeys(here, motion.extra, list);
    for (std::size_t i = 0; i < motion.keys.size(); ++i) addKeys(indexed(here, "keys", i), motion.keys[i].extra, list);
  }
}

void addTableKeys(const std::string& path, std::span<const ParamSpec> specs, const std::vector<Param>& params,
                  std::vector<std::string>& list) {
  for (std::size_t i = 0; i < params.size(); ++i) addParamKeys(path + "." + std::string(specs[i].id), params[i], list);
}

void addPassageKeys(const std::string& path, const Passages& passages, std::vector<std::string>& list) {
  if (passages.arrive) addKeys(path + ".arrive", passages.arrive->extra, list);
  if (passages.leave) addKeys(path + ".leave", passages.leave->extra, list);
}

void addStepKeys(const std::string& path, const RecipeStep& step, std::vector<std::string>& list) {
  addKeys(path, step.extra, list);
  for (std::size_t i = 0; i < step.presence.size(); ++i) addKeys(indexed(path, "presence", i), step.presence[i].extra, list);
  addPassageKeys(path, step.passes, list);
  addTableKeys(path, step.spec->params, step.params, list);
  for (std::size_t i = 0; i < step.items.size(); ++i) {
    const std::string here = indexed(path, std::string(step.spec->items->id).c_str(), i);
    addKeys(here, step.items[i].extra, list);
    addTableKeys(here, step.spec->items->params, step.items[i].params, list);
  }
}

void addLayerKeys(const std::string& above, const std::vector<Layer>& layers, std::vector<std::string>& list) {
  for (std::size_t l = 0; l < layers.size(); ++l) {
    const Layer& layer = layers[l];
    const std::string path = indexed(above, "layers", l);
    addKeys(path, layer.extra, list);
    addParamKeys(path + ".opacity", layer.opacity, list);
    addKeys(path + ".place", layer.placeExtra, list);
    addTableKeys(path + ".place", placeSpecs(), layer.place, list);
    for (std::size_t i = 0; i < layer.presence.size(); ++i) addKeys(indexed(path, "presence", i), layer.presence[i].extra, list);
    addPassageKeys(path, layer.passes, list);
    if (layer.mask) {
      addKeys(path + ".mask", layer.mask->extra, list);
      addStepKeys(path + ".mask.source", layer.mask->source, list);
      addTableKeys(path + ".mask", maskSpecs(), layer.mask->params, list);
    }
    for (std::size_t s = 0; s < layer.recipe.size(); ++s) addStepKeys(indexed(path, "recipe", s), layer.recipe[s], list);
    addLayerKeys(path, layer.layers, list);
  }
}

}  // namespace

std::vector<std::string> unknownKeys(const Scene& scene) {
  std::vector<std::string> list;
  addKeys("", scene.extra, list);
  addKeys("palette", scene.palette.extra, list);
  addLayerKeys("", scene.layers, list);
  return list;
}

}  // namespace oa

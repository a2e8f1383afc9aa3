#include "edit/clipboard.h"

#include <nlohmann/json.hpp>

#include "scene/layer_json.h"
#include "scene/scene_json.h"

namespace oa::edit {

std::string layersToText(const Scene& scene, const Ids& layers) {
  Json list = Json::array();
  for (const Id id : outermost(scene, layers)) list.push_back(layerToJson(*findLayer(scene, id)));
  return Json{{"overagain", kFormatVersion}, {"layers", std::move(list)}}.dump(1, ' ', false, Json::error_handler_t::replace);
}

Result<std::vector<Layer>> layersFromText(std::string_view text) {
  // A text that holds layers is a scene in small: the same reader, with the same bounds.
  auto scene = sceneFromText(text);
  if (!scene) return fail("the clipboard holds no layers: " + scene.error().sentence());
  if (scene->layers.empty()) return fail("the clipboard holds no layers");
  return std::move(scene->layers);
}

Result<Ids> pasteLayers(Scene& scene, Id above, std::string_view text) {
  auto layers = layersFromText(text);
  if (!layers) return tl::unexpected(layers.error());
  LayerPlace place{0, static_cast<int>(scene.layers.size()) - 1};
  if (above != 0) placeOf(scene, above, place);
  return insertLayers(scene, {place.group, place.at + 1}, std::move(*layers));
}

}  // namespace oa::edit

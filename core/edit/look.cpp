#include "edit/look.h"

#include <algorithm>
#include <nlohmann/json.hpp>
#include <tuple>

#include "edit/clipboard.h"
#include "scene/scene_json.h"
#include "scene/tree.h"
#include "store/media_ref.h"

namespace oa::edit {
namespace {

constexpr const char* kKey = "look";
constexpr std::size_t kMostHelpBytes = 400;

// The values of a layer whose motions a look keeps.
template <class AnyLayer, class Visit>
void forEachKept(AnyLayer& layer, const Visit& visit) {
  visit(opacitySpec(), layer.opacity);
  for (std::size_t i = 0; i < layer.place.size(); ++i) visit(placeSpecs()[i], layer.place[i]);
}

// Other layers that it shows, and values of others that it follows.
void forgetOthers(Layer& layer) {
  forEachParam(layer, [&](const ParamSpec& spec, Param& param) {
    if (spec.type == ParamType::Layer) param.base = 0.0;
    for (std::size_t i = 0; i < motionCount(param); ++i)
      if (Motion& m = motionOf(param, i); m.kind == MotionKind::Follow && m.follows.layer != layer.id) {
        m = {};
        m.far = param.base;
      }
  });
}

Result<std::string> words(const Json& json, const char* key, std::size_t most) {
  if (!json.contains(key)) return std::string();
  if (!json[key].is_string()) return fail("must be a text in quotes", std::string(kKey) + "." + key);
  const auto& text = json[key].get_ref<const std::string&>();
  if (text.size() > most) return fail("is longer than " + std::to_string(most) + " bytes", std::string(kKey) + "." + key);
  return text;
}

}  // namespace

Result<Look> lookOf(const Scene& scene, Id id, std::string name) {
  const Layer* layer = findLayer(scene, id);
  if (!layer) return fail("There is no layer to take a look from.");
  bool moving = false;
  forEachKept(*layer, [&](const ParamSpec& spec, const Param& param) { moving = moving || reallyMoves(spec, param); });
  if (layer->recipe.size() < 2 && !moving)
    return fail("\"" + layer->name +
                "\" is its source alone, and stays where it is: there is no look to keep yet. Add a step, or set its place moving.");
  Look look;
  look.name = std::move(name);
  look.scene.name = look.name;
  look.scene.width = scene.width;
  look.scene.height = scene.height;
  look.scene.rate = scene.rate;
  look.scene.frames = scene.frames;
  Layer kept = newLayer(*findStep("flat"), layer->name);
  kept.id = layer->id;
  kept.opacity = layer->opacity;
  kept.place = layer->place;
  kept.recipe.insert(kept.recipe.end(), layer->recipe.begin() + 1, layer->recipe.end());
  forgetOthers(kept);
  look.scene.layers.push_back(std::move(kept));
  return look;
}

Result<Ids> applyLook(Scene& scene, Id id, const Look& look, bool instead) {
  Layer* layer = findLayer(scene, id);
  if (!layer) return fail("Choose the layer that is to get the look.");
  if (layer->locked) return fail("\"" + layer->name + "\" is locked");
  Scene fitting = look.scene;
  if (fitting.width != scene.width || fitting.height != scene.height) resizeFrame(fitting, scene.width, scene.height, true);
  renumber(fitting.layers, largestId(scene) + 1);
  Layer& from = fitting.layers.front();
  const Id was = from.id;
  forEachParam(from, [&](const ParamSpec&, Param& param) {
    for (std::size_t i = 0; i < motionCount(param); ++i)
      if (Motion& m = motionOf(param, i); m.follows.layer == was) m.follows.layer = id;
  });
  std::vector<RecipeStep> recipe(layer->recipe.begin(), instead ? layer->recipe.begin() + 1 : layer->recipe.end());
  if (recipe.size() + from.recipe.size() - 1 > kMaxSteps) return fail("a recipe has at most " + std::to_string(kMaxSteps) + " steps");
  recipe.insert(recipe.end(), from.recipe.begin() + 1, from.recipe.end());
  layer->recipe = std::move(recipe);
  const auto take = [](const ParamSpec& spec, Param& to, const Param& given) {
    if (!reallyMoves(spec, given)) return;
    if (const auto moved = withMotionsFromText(spec, to, motionsToText(spec, given))) to = *moved;
  };
  take(opacitySpec(), layer->opacity, from.opacity);
  for (std::size_t i = 0; i < std::min(layer->place.size(), from.place.size()); ++i) take(placeSpecs()[i], layer->place[i], from.place[i]);
  return Ids{id};
}

std::string lookToText(const Look& look) {
  Json json = sceneToJson(look.scene);
  Json about = {{"name", look.name}};
  if (!look.help.empty()) about["help"] = look.help;
  if (!look.section.empty()) about["section"] = look.section;
  if (!look.picture.empty()) about["picture"] = base64Text(look.picture);
  json[kKey] = std::move(about);
  return json.dump(1, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<Look> lookFromText(std::string_view text) {
  auto json = parseJson(text);
  if (!json) return tl::unexpected(json.error());
  if (!json->is_object() || !json->contains(kKey) || !(*json)[kKey].is_object()) return fail("holds no look");
  const Json about = (*json)[kKey];
  json->erase(kKey);
  Look look;
  for (const auto& [key, most, into] : {std::tuple{"name", kMaxNameBytes, &look.name}, std::tuple{"help", kMostHelpBytes, &look.help},
                                        std::tuple{"section", kMaxNameBytes, &look.section}}) {
    auto read = words(about, key, most);
    if (!read) return tl::unexpected(read.error());
    *into = std::move(*read);
  }
  if (look.name.empty()) return fail("has no name", kKey);
  auto picture = words(about, "picture", kMostLookPicture * 4 / 3 + 4);
  if (!picture) return tl::unexpected(picture.error());
  if (!picture->empty()) {
    look.picture = base64Bytes(*picture);
    if (look.picture.empty()) return fail("is no base64", "look.picture");
  }
  auto scene = sceneFromJson(*json);
  if (!scene) return tl::unexpected(scene.error());
  if (scene->layers.size() != 1 || !scene->layers.front().layers.empty()) return fail("is not a look: it must have one layer", "layers");
  look.scene = std::move(*scene);
  forgetOthers(look.scene.layers.front());
  return look;
}

}  // namespace oa::edit
